/** What lists, formulas, attributes and cells do with what they cannot use: a sentence, or a quiet empty result; never a fault, never a NaN. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { statisticsOf, correlationOf } from '../session/series.ts';
import type { Series } from '../session/series.ts';
import { TableReader } from '../session/table-reader.ts';
import { tablesOfResult } from '../session/tables.ts';
import { Evaluator, isGeometry } from '../engine/index.ts';
import { Ledger, column, geometryOf, makeTable } from '../geometry/index.ts';
import { readPly } from '../formats/ply.ts';
import { evaluateAll, generator, tablesOf } from '../testing/index.ts';
import type { Row } from '../testing/index.ts';

const formula = (text: string) => ({ formula: text, streams: [] });
const POINTS: Row = ['row-of-points', 'row', { count: 5 }];
const SAME: Row = ['points-from-values', 'same', { count: 6, x: 1, y: 1, z: 1 }];
const LINE: Row = ['points-from-values', 'line', { count: 6, x: formula('index') }];
const NONE: Row = ['points-from-values', 'none', { count: 0 }];

/** What is said of the last node: an error, warnings, or nothing; what came of it is sound. */
function said(...rows: Row[]): { error: string | null; warnings: string[]; counts: unknown } {
	const run = evaluateAll(generator(rows));
	const last = rows.at(-1)![1];
	const results = [...run.evaluation.results.values()];
	const result = results.at(-1)!;
	for (const value of result.outputs.values())
		if (isGeometry(value))
			for (const [path, table] of tablesOf(value))
				for (const [name, { data }] of table.columns)
					assert.ok(
						data.every((x: number) => Number.isFinite(x)),
						`${last}: ${path} ${name}`
					);
	for (const sentence of [run.error(last), ...run.warnings(last)])
		if (sentence !== null) {
			assert.match(sentence, /^.{8,600}[.?]$/su);
			assert.doesNotMatch(sentence, /fault of ours|undefined|NaN/);
		}
	return { error: run.error(last), warnings: run.warnings(last), counts: result.counts };
}

test('formulas too long, too deep or of too many steps are refused in a sentence', () => {
	for (const text of [
		`0${' + 1'.repeat(2500)}`,
		`${'('.repeat(1000)}1${')'.repeat(1000)}`,
		`${'abs('.repeat(1000)}1${')'.repeat(1000)}`,
		`${'-'.repeat(1000)}1`,
		`1${'^1'.repeat(1000)}`
	]) {
		const { error } = said(['number', 'n', { value: formula(text) }]);
		assert.match(error!, /characters|nested/, text.slice(0, 20));
	}
	// As long as it may be, it works.
	assert.equal(said(['number', 'n', { value: formula(`0${' + 1'.repeat(990)}`) }]).error, null);
});

test('names that clash, are kept, or are none', () => {
	const write = (name: string) =>
		said(POINTS, ['write-attribute', 'w', { name, value: 2 }, { geometry: 'row.points' }]).error;
	for (const name of ['index', 'count', 'id'])
		assert.match(write(name)!, /is always there and cannot be set/);
	for (const name of ['', 'a b', '2nd', 'x.y', '__proto__ ']) assert.ok(write(name), name);
	for (const name of ['time', 'pass', 'constructor', '__proto__', 'toString'])
		assert.equal(write(name), null, name);
});

test('an attribute by the name of something else is reached by its full name; a name that is kept says what to write', () => {
	const chain: Row[] = [
		POINTS,
		['write-attribute', 'v', { name: 'bay', value: 3 }, { geometry: 'row.points' }],
		['write-attribute', 'w', { name: 'time', value: 3 }, { geometry: 'v.geometry' }]
	];
	const read = (text: string): Row => [
		'write-attribute',
		'r',
		{ name: 'got', value: formula(text) },
		{ geometry: 'w.geometry' }
	];
	assert.match(said(...chain, read('bay * 2')).error!, /write attribute\.bay/);
	for (const text of ['attribute.bay * 2', 'attribute.time * 2', 'time * 2'])
		assert.equal(said(...chain, read(text)).error, null);
});

test('attributes of the wrong kind or size', () => {
	const chain: Row[] = [
		POINTS,
		['write-attribute', 'w', { name: 'wind', value: formula('vec(1, 2, 3)') }, { geometry: 'row.points' }]
	];
	const use = (text: string): Row => [
		'write-attribute',
		'r',
		{ type: 'float', name: 'b', value: formula(text) },
		{ geometry: 'w.geometry' }
	];
	assert.match(said(...chain, use('wind')).error!, /single number is wanted here, but a vector/);
	assert.match(said(...chain, use('max(cross(2, 3), 1)')).error!, /works on vectors/);
	assert.match(
		said(...chain, [
			'move-attribute',
			'm',
			{ name: 'wind', from: 'face', to: 'point' },
			{ geometry: 'w.geometry' }
		]).error!,
		/“wind” is on points, not on faces/
	);
	const texts: Row[] = [
		POINTS,
		['list-from-text', 'words', { text: 'reed, rush' }],
		['write-attribute', 'w', { name: 'kind' }, { geometry: 'row.points', value: 'words.list' }]
	];
	assert.ok(said(...texts, use('kind + 1')));
	assert.match(
		said(
			['list-from-text', 'words', { text: 'reed, rush' }],
			['even-steps', 's', {}],
			['formula', 'f', { formula: 'x' }, { x: 'words.list' }]
		).error!,
		/takes numbers; a list of words came/
	);
});

test('points that are none, all the same or on one line, and more neighbours than there are points', () => {
	for (const [points, port] of [
		[SAME, 'same.points'],
		[LINE, 'line.points'],
		[NONE, 'none.points']
	] as const)
		for (const [kind, settings] of [
			['voronoi-cells', {}],
			['delaunay-triangles', {}],
			['nearest-neighbours', { count: 50 }],
			['hull', {}]
		] as const)
			assert.ok(said(points, [kind, 'made', settings, { points: port }]), `${kind} of ${port}`);
	const { counts } = said(LINE, ['nearest-neighbours', 'made', { count: 50 }, { points: 'line.points' }]) as {
		counts: { curves: number };
	};
	assert.equal(counts.curves, 15, 'every pair once');
});

test('empty lists', () => {
	const empty: Row[] = [
		['even-steps', 'some', {}],
		['part-of-list', 'empty', { count: 0, to: 0 }, { list: 'some.list' }]
	];
	for (const [kind, wire] of [
		['reorder-list', 'list'],
		['repeat-list', 'list'],
		['unique-values', 'list'],
		['statistics', 'list'],
		['combine-lists', 'lists'],
		['keep-in-rhythm', 'list'],
		['sort-into-two', 'list'],
		['running-total', 'list'],
		['points-from-values', 'list']
	] as const)
		assert.ok(
			said(['list-from-text', 'empty', { text: '' }], [kind, 'made', {}, { [wire]: 'empty.list' }]),
			kind
		);
	assert.ok(empty.length);
});

const series = (data: Float64Array | Float32Array): Series => ({
	key: 'x',
	name: 'x',
	part: '',
	type: 'float',
	data,
	width: 1,
	offset: 0
});

test('a column of only NaN, and a table of no rows, are told of', () => {
	const none = series(Float32Array.of(NaN, NaN, NaN));
	const rows = Uint32Array.of(0, 1, 2);
	const told = statisticsOf(none, rows);
	assert.deepEqual([told.count, told.broken, told.mean, told.deviation], [3, 3, 0, 0]);
	assert.deepEqual([correlationOf(none, none, rows).r, correlationOf(none, none, rows).count], [0, 0]);
	assert.deepEqual(statisticsOf(none, new Uint32Array(0)).count, 0);
	const document = generator([NONE]);
	const { results } = new Evaluator().evaluate(document, [document.graphs.main.nodes[0].id]);
	const [result] = results.values();
	const tables = tablesOfResult(result, document.graphs.main, results);
	const window = new TableReader(new Ledger()).window(tables, {
		node: result.id,
		table: null,
		sort: { column: 'position.x', descending: true },
		filter: 'position.x > 0',
		from: 0,
		count: 10
	});
	assert.deepEqual([window.matching, window.rows.length], [0, 0]);
});

test('a text of a million characters in a cell is cut for the eye, and whole in the file', () => {
	const long = 'oyster '.repeat(150_000);
	const points = makeTable(1, {
		position: column('vec3', 'position', Float32Array.of(0, 0, 0)),
		tale: { ...column('text', 'plain', Int32Array.of(0)), words: [long] }
	});
	const result = { id: 'n1', outputs: new Map([['points', geometryOf({ points: { points } })]]) } as never;
	const graph = { nodes: [], wires: [], notes: [] };
	const tables = tablesOfResult(result, graph, new Map());
	const reader = new TableReader(new Ledger());
	const ask = { node: 'n1', table: null, sort: null, filter: '', from: 0, count: 10 };
	const window = reader.window(tables, ask);
	const tale = window.cells[window.columns.findIndex(({ name }) => name === 'tale')] as string[];
	assert.ok(tale[0].length <= 200);
	assert.ok(new TextDecoder().decode(reader.written(tables[0], ask)).includes(long.trimEnd()));
});

test('an imported file whose attribute is called time brings it in, and formulas reach it', () => {
	const text = [
		'ply',
		'format ascii 1.0',
		'element vertex 3',
		...['x', 'y', 'z', 'time'].map((name) => `property float ${name}`),
		'element face 1',
		'property list uchar int vertex_indices',
		'end_header',
		'0 0 0 1',
		'1 0 0 2',
		'0 1 0 3',
		'3 0 1 2',
		''
	].join('\n');
	const bytes = new TextEncoder().encode(text);
	assert.ok(readPly(bytes, 'tide.ply'));
	const document = generator([
		['import-mesh', 'tide', { file: 'tide' }],
		[
			'write-attribute',
			'r',
			{ name: 'got', value: formula('attribute.time * 10') },
			{ geometry: 'tide.mesh' }
		]
	]);
	const run = evaluateAll(document, { asset: () => ({ hash: 'tide', name: 'tide.ply', bytes }) });
	assert.equal(run.error('r') ?? run.error('tide'), null);
	assert.deepEqual([...run.meshOf('r')!.points.columns.get('got')!.data], [10, 20, 30]);
});
