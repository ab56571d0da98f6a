/** What the Data drawer is told: windows of rows in an order, of those that meet a condition; counted as by hand. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { Evaluator } from '../engine/index.ts';
import { Ledger } from '../geometry/index.ts';
import { dice, generator } from '../testing/index.ts';
import type { Row } from '../testing/index.ts';
import type { TableAsk } from './messages.ts';
import type { Series } from './series.ts';
import { correlationOf, sortRows, statisticsOf } from './series.ts';
import { TableReader } from './table-reader.ts';
import { tablesOfResult } from './tables.ts';

/** Tables of the last of some rows, or of one by name, and what reads them. */
function open(rows: readonly Row[], short = rows.at(-1)![1]) {
	const document = generator(rows);
	const { main } = document.graphs;
	const evaluator = new Evaluator();
	const { results } = evaluator.evaluate(
		document,
		main.nodes.map(({ id }) => id)
	);
	const { id } = main.nodes.find((node) => node.short === short)!;
	const tables = tablesOfResult(results.get(id)!, main, results);
	const reader = new TableReader(evaluator.ledger);
	const about = (more: Partial<TableAsk> = {}): TableAsk => ({
		node: id,
		table: null,
		sort: null,
		filter: '',
		from: 0,
		count: 100,
		...more
	});
	return {
		tables,
		reader,
		about,
		window: (more: Partial<TableAsk> = {}) => reader.window(tables, about(more)),
		evaluator
	};
}
const series = (data: Series['data'], words?: readonly string[]): Series => ({
	key: 'x',
	name: 'x',
	part: '',
	type: 'float',
	data,
	width: 1,
	offset: 0,
	words
});
const rowsOf = (count: number) => Uint32Array.from({ length: count }, (_, i) => i);
const HUT: Row[] = [
	['box', 'hut', { size: [2, 2, 2] }],
	[
		'write-attribute',
		'marked',
		{ name: 'mark', value: { formula: 'index * 10', streams: [] } },
		{ geometry: 'hut.mesh' }
	]
];

test('any numbers are sorted as by comparing, up and down, equal ones as they stood, and what is none last', () => {
	const number = fc.oneof(
		fc.double(),
		fc.integer({ min: -3, max: 3 }),
		fc.constantFrom(NaN, 0, -0, Infinity, -Infinity)
	);
	fc.assert(
		fc.property(
			fc.array(number, { maxLength: 200 }),
			fc.constantFrom('single', 'double', 'whole', 'words'),
			fc.boolean(),
			(numbers, kind, descending) => {
				const data =
					kind === 'single'
						? Float32Array.from(numbers)
						: kind === 'double'
							? Float64Array.from(numbers)
							: Int32Array.from(numbers, (x) => (kind === 'words' ? Math.abs(x | 0) % 3 : x));
				const words = kind === 'words' ? ['tide', 'ebb', 'flood'] : undefined;
				const one = series(data, words);
				const key = (row: number) => (words ? words[data[row]] : data[row]);
				const broken = (row: number) => Number.isNaN(data[row]);
				const wanted = [...rowsOf(numbers.length)].sort((a, b) => {
					if (broken(a) || broken(b)) return Number(broken(a)) - Number(broken(b)) || a - b;
					const way = key(a) < key(b) ? -1 : key(a) > key(b) ? 1 : 0;
					return (descending ? -way : way) || a - b;
				});
				assert.deepEqual([...sortRows(rowsOf(numbers.length), one, descending)], wanted);
			}
		),
		{ numRuns: 300 }
	);
});

test('statistics and correlation are those of the textbook', () => {
	fc.assert(
		fc.property(
			fc.array(fc.tuple(fc.integer({ min: -100, max: 100 }), fc.integer({ min: -100, max: 100 })), {
				minLength: 2,
				maxLength: 80
			}),
			fc.constantFrom(0, 1e6),
			(pairs, far) => {
				const [x, y] = [0, 1].map((k) => Float64Array.from(pairs, (pair) => pair[k] + far));
				const rows = rowsOf(pairs.length);
				const mean = (data: Float64Array) => data.reduce((sum, one) => sum + one, 0) / data.length;
				const about = (a: Float64Array, b: Float64Array) =>
					a.reduce((sum, one, i) => sum + (one - mean(a)) * (b[i] - mean(b)), 0) / a.length;
				const facts = statisticsOf(series(x), rows);
				assert.ok(Math.abs(facts.mean - mean(x)) < 1e-6);
				assert.ok(Math.abs(facts.deviation - Math.sqrt(about(x, x))) < 1e-6);
				assert.deepEqual([facts.least, facts.greatest], [Math.min(...x), Math.max(...x)]);
				assert.equal(
					facts.bars.reduce((sum, bar) => sum + bar, 0),
					pairs.length
				);
				const both = Math.sqrt(about(x, x) * about(y, y));
				assert.ok(
					Math.abs(correlationOf(series(x), series(y), rows).r - (both ? about(x, y) / both : 0)) < 1e-6
				);
			}
		)
	);
	const roll = dice(4);
	const many = Float32Array.from({ length: 100_000 }, () => roll());
	const others = Float32Array.from(many, () => roll());
	assert.ok(Math.abs(correlationOf(series(many), series(others), rowsOf(100_000)).r) < 0.01);
	assert.ok(correlationOf(series(many), series(many), rowsOf(100_000)).r > 0.999999);
	assert.deepEqual(statisticsOf(series(Float32Array.of(NaN, NaN)), rowsOf(2)), {
		count: 2,
		broken: 2,
		least: 0,
		greatest: 0,
		mean: 0,
		deviation: 0,
		bars: Array<number>(40).fill(0)
	});
});

test('a mesh has tables of its points, faces and corners, with the parts of positions and its attributes', () => {
	const { tables, window } = open(HUT);
	assert.deepEqual(
		tables.map(({ label, count }) => `${label} ${count}`),
		['Faces 6', 'Points of the mesh 8', 'Corners 24']
	);
	const points = window({ table: tables[1].key });
	assert.deepEqual(
		points.columns.map(({ key }) => key),
		['position.x', 'position.y', 'position.z', 'mark']
	);
	assert.deepEqual([...points.cells[3]], [0, 10, 20, 30, 40, 50, 60, 70]);
	const two = window({ table: tables[1].key, from: 6, count: 2 });
	assert.deepEqual(
		[[...two.rows], [...two.cells[3]]],
		[
			[6, 7],
			[60, 70]
		]
	);
});

test('rows are sorted and filtered together, told in windows, and found again by their number', () => {
	const { tables, window, reader, about } = open(HUT);
	const table = tables[1].key;
	const down = window({
		table,
		sort: { column: 'mark', descending: true },
		filter: 'mark > 15 and index != 5'
	});
	assert.deepEqual([...down.rows], [7, 6, 4, 3, 2]);
	assert.equal(down.matching, 5);
	const asked = about({
		table,
		sort: { column: 'mark', descending: true },
		filter: 'mark > 15 and index != 5'
	});
	assert.equal(reader.placeOf(tables[1], asked, 4), 2);
	assert.equal(reader.placeOf(tables[1], asked, 5), -1);
	assert.throws(() => window({ table, filter: 'mrk > 3' }), /There is no “mrk” here. Did you mean “mark”/);
	assert.throws(() => window({ table, filter: 'mark >' }), /./);
	assert.equal(window({ table, filter: 'mark > 1000' }).matching, 0);
});

test('lists, words and values on the elements that read them have tables too', () => {
	const words = open([['list-from-text', 'names', { text: 'ebb, flood, ebb' }]]);
	assert.deepEqual(words.window().cells, [['ebb', 'flood', 'ebb']]);
	const numbers = open([['list-from-text', 'numbers', { text: '5, 1, 4' }]]);
	assert.deepEqual(
		[...numbers.window({ filter: 'value > 2', sort: { column: 'value', descending: false } }).rows],
		[2, 0]
	);
	const read: Row[] = [
		['random-number', 'chance', { low: 0, high: 1 }],
		['row-of-points', 'row', { count: 12 }],
		['write-attribute', 'marked', { name: 'mark' }, { geometry: 'row.points', value: 'chance.value' }]
	];
	const { window, tables } = open(read, 'chance');
	assert.deepEqual([tables[0].label, tables[0].count], ['Value on points', 12]);
	const marks = open(read).window().cells.at(-1)!;
	assert.deepEqual([...window().cells[0]], [...marks], 'the same numbers as on the points');
});

test('written as comma-separated values every number comes back, and text with commas and quotes too', () => {
	const { tables, reader, about } = open(HUT);
	const lines = new TextDecoder()
		.decode(reader.written(tables[1], about({ table: tables[1].key })))
		.trim()
		.split('\r\n');
	assert.equal(lines[0], 'index,position.x,position.y,position.z,mark');
	assert.equal(lines.length, 9);
	lines.slice(1).forEach((line, i) => assert.equal(line.split(',')[4], String(10 * i)));
	const odd = open([['list-from-text', 'names', { text: 'a "b"\nc', type: 'text' }]]);
	assert.match(
		new TextDecoder().decode(odd.reader.written(odd.tables[0], odd.about())),
		/0,"a ""b"""\r\n1,c/
	);
});

test('one order is kept in the ledger, whatever was asked', () => {
	const { reader, tables, about, evaluator } = open(HUT);
	const before = evaluator.ledger.held;
	for (let i = 0; i < 50; i++) reader.window(tables, about({ filter: `index > ${i % 7}` }));
	assert.ok(evaluator.ledger.held - before <= 8 * 4);
	reader.close();
	assert.equal(evaluator.ledger.held, before);
	assert.ok(new Ledger().held === 0);
});

test('a condition that reads another kind of element is met anew when only that has changed', () => {
	const rows = (mark: string): Row[] => [
		['grid', 'flat', { columns: 2, rows: 1 }],
		[
			'write-attribute',
			'it',
			{ name: 'mark', elements: 'face', value: { formula: mark, streams: [] } },
			{ geometry: 'flat.mesh' }
		]
	];
	const [one, other] = [open(rows('index')), open(rows('1 - index'))];
	const points = one.tables.find(({ label }) => label === 'Points of the mesh')!;
	const same = other.tables.find(({ label }) => label === 'Points of the mesh')!;
	const ask = one.about({ table: points.key, filter: 'mark > 0.9' });
	const first = [...one.reader.window([points], ask).rows];
	assert.notDeepEqual([...one.reader.window([same], ask).rows], first);
	assert.equal(first.length, 2);
});
