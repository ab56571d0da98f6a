/** Laws of lists and of thinning, and what attributes become when they are carried. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import type { Geometry } from '../geometry/index.ts';
import { positionsOf } from '../geometry/index.ts';
import { constantNumber } from '../varying/index.ts';
import { evaluateAll, generator } from '../testing/index.ts';
import type { Row } from '../testing/index.ts';
import type { List } from './list.ts';

/** Evaluates rows and gives the outputs of the last. */
function outputs(rows: readonly Row[]): {
	list: (port?: string) => (number | string)[];
	geometry: (port?: string) => Geometry;
	number: (port: string) => number;
	error: string | null;
	warnings: string[];
} {
	const document = generator(rows);
	const run = evaluateAll(document);
	const short = rows.at(-1)![1];
	const id = document.graphs.main.nodes.find((node) => node.short === short)!.id;
	const made = run.evaluation.results.get(id)!.outputs;
	return {
		list(port = 'list') {
			const { data, width, words, type } = made.get(port) as List;
			assert.equal(width, 1);
			return Array.from(data, (x) => (type === 'text' ? words![x] : x));
		},
		geometry: (port = 'geometry') => made.get(port) as Geometry,
		number: (port) => constantNumber(made.get(port) as never),
		error: run.error(short),
		warnings: run.warnings(short)
	};
}
const listed = (numbers: readonly number[]): Row => [
	'list-from-text',
	'numbers',
	{ text: numbers.join('\n'), type: 'number' }
];
const numbers = fc.array(fc.integer({ min: -50, max: 50 }), { maxLength: 30 });
const LIST = { list: 'numbers.list' };
const sum = (list: readonly (number | string)[]) => list.reduce<number>((total, x) => total + Number(x), 0);

test('lists come from text as numbers, yes and no, or words, and what is neither is named', () => {
	const read = (text: string, type = 'auto') => outputs([['list-from-text', 'it', { text, type }]]);
	assert.deepEqual(read('3, 1\n4,, -1e2\n').list(), [3, 1, 4, -100]);
	assert.deepEqual(read('yes, No\ntrue').list(), [1, 0, 1]);
	assert.deepEqual(read('float, net, float').list(), ['float', 'net', 'float']);
	assert.deepEqual(read('').list(), []);
	assert.match(read('1, two, 3', 'number').error!, /Value 2, “two”, is not a number/);
	assert.deepEqual(read('1, 2', 'text').list(), ['1', '2']);
	assert.deepEqual(read(`${'ebb, '.repeat(200_000)}flood`).list().length, 200_001);
});

test('any order has the same values: reversed twice and turned all the way they are as before, sorted they rise', () => {
	fc.assert(
		fc.property(numbers, fc.integer({ min: -40, max: 40 }), fc.nat(1000), (given, places, seed) => {
			const reordered = (settings: Record<string, unknown>) =>
				outputs([listed(given), ['reorder-list', 'it', settings, LIST]]).list();
			const rising = [...given].sort((a, b) => a - b);
			assert.deepEqual(reordered({ method: 'reversed' }), [...given].reverse());
			const turned = reordered({ method: 'turned', places });
			const n = given.length;
			turned.forEach((x, i) => assert.equal(x, given[(((i - places) % n) + n) % n]));
			assert.deepEqual(reordered({ method: 'sorted' }), rising);
			assert.deepEqual(reordered({ method: 'sorted', descending: true }), [...rising].reverse());
			const shuffled = reordered({ method: 'shuffled', seed });
			assert.deepEqual(
				[...shuffled].map(Number).sort((a, b) => a - b),
				rising
			);
			assert.deepEqual(shuffled, reordered({ method: 'shuffled', seed }));
		}),
		{ numRuns: 60 }
	);
});

test('a shuffle brings every value to every place equally often', () => {
	const places = Array.from({ length: 5 }, () => Array<number>(5).fill(0));
	for (let seed = 0; seed < 2000; seed++)
		outputs([listed([0, 1, 2, 3, 4]), ['reorder-list', 'it', { method: 'shuffled', seed }, LIST]])
			.list()
			.forEach((x, i) => places[i][Number(x)]++);
	// Chi-square with 16 degrees of freedom: beyond 39 once in a thousand.
	const chi = places.flat().reduce((total, count) => total + (count - 400) ** 2 / 400, 0);
	assert.ok(chi < 39, `${chi}`);
});

test('parts and rests tile a list, repeats are as long as they say, and statistics are those of the numbers', () => {
	fc.assert(
		fc.property(
			numbers,
			fc.integer({ min: -40, max: 40 }),
			fc.nat(40),
			fc.nat(4),
			(given, start, count, times) => {
				const part = outputs([listed(given), ['part-of-list', 'it', { start, count }, LIST]]);
				const from = Math.max(0, start < 0 ? given.length + start : start);
				assert.deepEqual(part.list(), given.slice(from, from + count));
				assert.equal(part.list().length + part.list('rest').length, given.length);
				assert.equal(sum(part.list()) + sum(part.list('rest')), sum(given));
				const repeated = (settings: Record<string, unknown>) =>
					outputs([listed(given), ['repeat-list', 'it', settings, LIST]]).list();
				assert.deepEqual(
					repeated({ method: 'whole', times }),
					Array.from({ length: times }, () => given).flat()
				);
				assert.deepEqual(
					repeated({ method: 'each', times }),
					given.flatMap((x) => Array<number>(times).fill(x))
				);
				if (given.length) assert.equal(repeated({ method: 'count', count }).length, count);
				const unique = outputs([listed(given), ['unique-values', 'it', {}, LIST]]);
				assert.deepEqual(unique.list(), [...new Set(given)]);
				assert.equal(sum(unique.list('times')), given.length);
				assert.deepEqual(
					unique.list('place').map((place) => unique.list()[Number(place)]),
					given
				);
				const facts = outputs([listed(given), ['statistics', 'it', {}, LIST]]);
				const sorted = [...given].sort((a, b) => a - b);
				assert.equal(facts.number('count'), given.length);
				assert.equal(facts.number('sum'), sum(given));
				assert.equal(facts.number('least'), sorted[0] ?? 0);
				assert.equal(facts.number('greatest'), sorted.at(-1) ?? 0);
				const middle =
					(sorted[Math.floor((given.length - 1) / 2)] ?? 0) + (sorted[Math.floor(given.length / 2)] ?? 0);
				assert.equal(facts.number('median'), middle / 2);
			}
		),
		{ numRuns: 60 }
	);
	assert.deepEqual(
		outputs([listed([1, 2, 3]), ['repeat-list', 'it', { method: 'back', times: 2 }, LIST]]).list(),
		[1, 2, 3, 2, 1, 2, 3, 2, 1]
	);
});

test('lists are combined end to end and in turn; of words and numbers that is refused', () => {
	const two: Row[] = [listed([1, 2, 3]), ['list-from-text', 'others', { text: '10, 20' }]];
	const wires = { lists: ['numbers.list', 'others.list'] };
	assert.deepEqual(outputs([...two, ['combine-lists', 'it', {}, wires]]).list(), [1, 2, 3, 10, 20]);
	const woven = outputs([...two, ['combine-lists', 'it', { method: 'turn' }, wires]]);
	assert.deepEqual(woven.list(), [1, 10, 2, 20, 3]);
	assert.match(woven.warnings[0], /3 values, 2 values/);
	const words: Row = ['list-from-text', 'others', { text: 'ebb, flood' }];
	assert.match(
		outputs([two[0], words, ['combine-lists', 'it', {}, wires]]).error!,
		/A list of words cannot follow one of numbers/
	);
});

test('what is kept in a rhythm or where a condition holds, and what is not, tile the whole, with old numbers right', () => {
	fc.assert(
		fc.property(
			fc.nat(60),
			fc.nat(4),
			fc.nat(4),
			fc.integer({ min: -9, max: 9 }),
			fc.integer({ min: 1, max: 7 }),
			(count, keep, skip, shift, modulus) => {
				const row: Row = ['row-of-points', 'row', { count, spacing: 1 }];
				const wires = { geometry: 'row.points' };
				const numbersIn = (geometry: Geometry) =>
					Array.from(geometry.points!.points.columns.get('oldIndex')!.data);
				const all = outputs([row]).geometry('points');
				const at = (geometry: Geometry) => [...positionsOf(geometry.points!)];
				const isAt = (kept: Geometry) => {
					const old = numbersIn(kept);
					assert.deepEqual(
						at(kept),
						old.flatMap((i) => at(all).slice(3 * i, 3 * i + 3))
					);
					return old;
				};
				const round = keep + skip;
				const rhythm = outputs([row, ['keep-in-rhythm', 'it', { keep, skip, shift }, wires]]);
				assert.deepEqual(
					isAt(rhythm.geometry()),
					Array.from({ length: count }, (_, i) => i).filter(
						(i) => round && (((i - shift) % round) + round) % round < keep
					)
				);
				assert.deepEqual(rhythm.warnings, []);
				const condition = { formula: `index % ${modulus} < 2 and position.x > 3`, streams: [] };
				const two = outputs([row, ['sort-into-two', 'it', { condition }, wires]]);
				const met = isAt(two.geometry('met')),
					others = isAt(two.geometry('others'));
				assert.deepEqual(
					[...met, ...others].sort((a, b) => a - b),
					Array.from({ length: count }, (_, i) => i)
				);
				for (const i of met) assert.ok(i % modulus < 2 && at(all)[3 * i] > 3);
				assert.deepEqual(isAt(outputs([row, ['keep-where', 'it', { condition }, wires]]).geometry()), met);
				assert.deepEqual(
					isAt(outputs([row, ['keep-where', 'it', { condition, invert: true }, wires]]).geometry()),
					others
				);
			}
		),
		{ numRuns: 60 }
	);
});

test('rhythms of several runs and of a list of yes and no; conditions on lists know their value', () => {
	const ten = listed([0, 1, 2, 3, 4, 5, 6, 7, 8, 9]);
	const rhythm = (settings: Record<string, unknown>, more: Row[] = [], wires = {}) =>
		outputs([ten, ...more, ['keep-in-rhythm', 'it', settings, { ...LIST, ...wires }]]);
	assert.deepEqual(rhythm({ method: 'runs', runs: '3, 2, 1, 1' }).list(), [0, 1, 2, 5, 7, 8, 9]);
	const yes: Row = ['list-from-text', 'yes', { text: 'yes, no, no' }];
	assert.deepEqual(rhythm({ method: 'list' }, [yes], { pattern: 'yes.list' }).list(), [0, 3, 6, 9]);
	assert.match(rhythm({ method: 'runs', runs: '3, x' }).error!, /“x” in “Runs” is not a whole number/);
	assert.deepEqual(rhythm({ keep: 0, skip: 3 }).list(), []);
	const where = (formula: string) =>
		outputs([ten, ['keep-where', 'it', { condition: { formula, streams: [] } }, LIST]]).list();
	assert.deepEqual(where('value > 3 and value % 2 == 0'), [4, 6, 8]);
	assert.deepEqual(where('index > 7'), [8, 9]);
});

test('carried from points to faces and back: means keep what is even, sums count, least and greatest hold all', () => {
	const ground: Row = ['grid', 'ground', { columns: 3, rows: 2, width: 3, depth: 2 }];
	const written: Row = [
		'write-attribute',
		'height',
		{ name: 'height', value: { formula: 'index', streams: [] } },
		{ geometry: 'ground.mesh' }
	];
	const moved = (method: string, to = 'face') => {
		const { mesh, whole } = outputs([
			ground,
			written,
			['move-attribute', 'it', { name: 'height', to, method }, { geometry: 'height.geometry' }]
		]).geometry();
		assert.ok(!mesh!.points.columns.has('height'));
		return Array.from((to === 'face' ? mesh!.faces : whole).columns.get('height')!.data);
	};
	const faces = [0, 1, 2, 3, 4, 5].map((f) => {
		const corner = (f % 3) + 4 * Math.floor(f / 3);
		return [corner, corner + 1, corner + 4, corner + 5];
	});
	const sorted = (list: number[][], pick: (four: number[]) => number) => list.map(pick).sort((a, b) => a - b);
	for (const [method, pick] of [
		['mean', (four: number[]) => sum(four) / 4],
		['sum', (four: number[]) => sum(four)],
		['least', (four: number[]) => Math.min(...four)],
		['greatest', (four: number[]) => Math.max(...four)]
	] as const)
		assert.deepEqual(
			moved(method).sort((a, b) => a - b),
			sorted(faces, pick)
		);
	assert.deepEqual(moved('sum', 'whole'), [66]);
	assert.deepEqual(moved('greatest', 'whole'), [11]);
});

test('a held value stays what it was when its geometry moves; a list of an attribute has every value', () => {
	const rows: Row[] = [
		['row-of-points', 'row', { count: 5, spacing: 1 }],
		[
			'hold-value',
			'held',
			{ value: { formula: 'position.x * 2', streams: [] }, name: 'before' },
			{ geometry: 'row.points' }
		],
		['transform', 'moved', { move: [100, 0, 0] }, { geometry: 'held.geometry' }]
	];
	const read = (name: string) =>
		outputs([...rows, ['read-attribute', 'it', { name }, { geometry: 'moved.geometry' }]]);
	assert.deepEqual(
		read('before').list().map(Number),
		Array.from({ length: 5 }, (_, i) => 2 * (positionsOf(outputs(rows).geometry().points!)[3 * i] - 100))
	);
	assert.match(read('befor').error!, /There is no attribute “befor” here. Did you mean “before”\?/);
});

test('running totals end in the sum, and begin anew on each curve', () => {
	fc.assert(
		fc.property(numbers, fc.boolean(), (given, own) => {
			const totals = outputs([listed(given), ['running-total', 'it', { own }, LIST]]).list();
			totals.forEach((x, i) => assert.equal(x, sum(given.slice(0, own ? i + 1 : i))));
		})
	);
	const curves = outputs([
		['grid', 'ground', { columns: 1, rows: 1 }],
		['edges-to-curves', 'sides', {}, { mesh: 'ground.mesh' }],
		['running-total', 'it', {}, { geometry: 'sides.curve' }]
	]).geometry().curves!;
	const totals = curves.points.columns.get('total')!.data;
	for (let c = 0; c + 1 < curves.starts.length; c++) assert.equal(totals[curves.starts[c]], 1);
});

test('attributes are renamed and removed, and what is not there is said', () => {
	const written: Row[] = [
		['row-of-points', 'row', { count: 3 }],
		['write-attribute', 'a', { name: 'size', value: 2 }, { geometry: 'row.points' }]
	];
	const renamed = outputs([
		...written,
		['rename-attribute', 'it', { name: 'size', newName: 'girth' }, { geometry: 'a.geometry' }]
	]).geometry();
	assert.deepEqual([...renamed.points!.points.columns.keys()].includes('girth'), true);
	const gone = outputs([
		...written,
		['remove-attribute', 'it', { names: 'size, sise' }, { geometry: 'a.geometry' }]
	]);
	assert.ok(!gone.geometry().points!.points.columns.has('size'));
	assert.match(gone.warnings[0], /no attribute “sise”/);
	const kept = outputs([
		...written,
		['remove-attribute', 'it', { names: 'size', method: 'others' }, { geometry: 'a.geometry' }]
	]).geometry();
	assert.deepEqual(
		[...kept.points!.points.columns.keys()].sort(),
		['orientation', 'position', 'size'].filter((name) => kept.points!.points.columns.has(name))
	);
	assert.match(
		outputs([...written, ['remove-attribute', 'it', { names: 'position' }, { geometry: 'a.geometry' }]])
			.error!,
		/“position” says where things are/
	);
});

test('what has nothing to work on says so to whoever waits for it', () => {
	const rows: Row[] = [
		listed([1, 2]),
		['keep-where', 'kept', {}, LIST],
		['transform', 'it', {}, { geometry: 'kept.geometry' }]
	];
	assert.match(outputs(rows).error!, /“kept” gives nothing at “Geometry”/);
	assert.match(outputs([['keep-where', 'it', {}]]).error!, /Connect geometry or a list/);
});
