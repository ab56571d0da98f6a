/** Bodies evaluated again and again: repeats, repeats in repeats, and a shape for each copy. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { countsOf, digestOf, floats, positionsOf, tableOf } from '../geometry/index.ts';
import type { Geometry } from '../geometry/index.ts';
import { geometryOf, valueOf, withBodies } from '../testing/index.ts';
import type { Row } from '../testing/index.ts';
import { constantNumber } from '../varying/index.ts';
import { Evaluator, isList, isVarying } from './index.ts';
import type { GeneratorDocument } from './index.ts';
import { runs } from '../testing/runs.ts';

const plain = (formula: string) => ({ formula, streams: [] });
/** Moves what is carried by a metre in each pass. */
const STEP: readonly Row[] = [
	['input', 'into', { name: 'it', carries: 'geometry', role: 'carried' }],
	['transform', 'moved', { move: [1, 0, 0] }, { geometry: 'into.value' }],
	['output', 'end', { name: 'it', carries: 'geometry' }, { value: 'moved.geometry' }]
];
const repeated = (
	passes: number,
	body: readonly Row[],
	more: Record<string, unknown> = {}
): GeneratorDocument =>
	withBodies(
		[
			['box', 'box', { size: [1, 1, 1] }],
			['repeat', 'again', { body: 'body', passes, ...more }, { it: 'box.mesh' }]
		],
		{ body }
	);
const leastX = (geometry: Geometry): number => {
	const p = positionsOf(geometry.mesh!);
	return Math.min(...Array.from({ length: p.length / 3 }, (_, i) => p[3 * i]));
};
const numbersOf = (document: GeneratorDocument, node: string, port: string): number[] => {
	const { value, result } = valueOf(document, node, port);
	assert.ok(isList(value), result.error?.message);
	return [...value.data];
};

test('what is carried goes through so many passes; with none it goes straight through', () => {
	for (const passes of [0, 1, 4, 100]) {
		const moved = geometryOf(repeated(passes, STEP), 'again', 'it');
		assert.ok(Math.abs(leastX(moved) - (passes - 0.5)) < 1e-4, `${passes}`);
	}
});

test('progress in 4 passes is a quarter, a half, three quarters, one; pass counts from 0', () => {
	const told: Row[] = [
		['number', 'p', { value: plain('progress') }],
		['number', 'i', { value: plain('pass + 10 * passes') }],
		['pass-values', 'values', {}],
		['output', 'a', { name: 'p', carries: 'number', role: 'gathered' }, { value: 'p.value' }],
		['output', 'b', { name: 'i', carries: 'number', role: 'gathered' }, { value: 'i.value' }],
		['output', 'c', { name: 'wired', carries: 'number', role: 'gathered' }, { value: 'values.progress' }]
	];
	const document = withBodies([['repeat', 'again', { body: 'told', passes: 4 }]], { told });
	assert.deepEqual(numbersOf(document, 'again', 'p'), [0.25, 0.5, 0.75, 1]);
	assert.deepEqual(numbersOf(document, 'again', 'i'), [40, 41, 42, 43]);
	assert.deepEqual(numbersOf(document, 'again', 'wired'), [0.25, 0.5, 0.75, 1]);
});

/** A repeat in a repeat: boxes whose faces know both passes, by attributes that the inside writes and by what is gathered. */
const nested = (outer: number, inner: number): GeneratorDocument =>
	withBodies([['repeat', 'courses', { body: 'course', passes: outer }]], {
		course: [
			['repeat', 'shingles', { body: 'shingle', passes: inner }],
			['output', 'end', { name: 'all', carries: 'geometry', role: 'gathered' }, { value: 'shingles.one' }]
		],
		shingle: [
			['box', 'box', { size: [1, 1, 1] }],
			[
				'write-attribute',
				'written',
				{ name: 'own', elements: 'face', value: plain('outer.progress * 100 + progress') },
				{ geometry: 'box.mesh' }
			],
			['pass-values', 'further', { outer: 1 }],
			['output', 'end', { name: 'one', carries: 'geometry', role: 'gathered' }, { value: 'written.geometry' }]
		]
	});

test('in repeats in one another every pair of passes is met once, in formulas and on what is gathered', () => {
	const all = geometryOf(nested(3, 4), 'courses', 'all');
	const faces = all.mesh!.faces;
	assert.equal(faces.count, 12 * 6);
	const own = floats(faces, 'own');
	const pass = faces.columns.get('pass')!.data,
		outer = faces.columns.get('outerPass')!.data;
	const pairs = new Set<string>();
	for (let f = 0; f < faces.count; f++) {
		pairs.add(`${outer[f]} ${pass[f]}`);
		assert.ok(Math.abs(own[f] - (((outer[f] + 1) / 3) * 100 + (pass[f] + 1) / 4)) < 1e-5);
	}
	assert.equal(pairs.size, 12);
});

test('random numbers differ from pass to pass, unless they are told to be the same; more passes keep the earlier', () => {
	const any: Row[] = [
		['number', 'any', { value: { low: 0, high: 1, stream: 'any' } }],
		['row-of-points', 'row', { count: 1 }],
		['transform', 'moved', { move: [{ low: 0, high: 1, stream: 'wind' }, 0, 0] }, { geometry: 'row.points' }],
		['output', 'end', { name: 'all', carries: 'geometry', role: 'gathered' }, { value: 'moved.geometry' }]
	];
	const places = (passes: number, same: boolean) =>
		[
			...positionsOf(
				geometryOf(withBodies([['repeat', 'again', { body: 'any', passes, same }]], { any }), 'again', 'all')
					.points!
			)
		].filter((_, i) => i % 3 === 0);
	const [five, eight] = [places(5, false), places(8, false)];
	assert.equal(new Set(eight).size, 8);
	assert.deepEqual(eight.slice(0, 5), five);
	assert.equal(new Set(places(5, true)).size, 1);
});

test('an output ends the repeat where it says yes', () => {
	const document = repeated(50, [
		...STEP,
		['number', 'i', { value: plain('pass') }],
		['compare', 'enough', { operation: 'atLeast', b: 6 }, { a: 'i.value' }],
		['output', 'stop', { name: 'enough', carries: 'yesno', role: 'ends' }, { value: 'enough.value' }]
	]);
	assert.ok(Math.abs(leastX(geometryOf(document, 'again', 'it')) - 6.5) < 1e-4);
});

test('of several values each pass takes one, and there are as many passes as values', () => {
	const body: Row[] = [
		['input', 'x', { name: 'x', carries: 'number', role: 'counted' }],
		['formula', 'twice', { formula: 'x * 2' }, { x: 'x.value' }],
		['output', 'end', { name: 'all', carries: 'number', role: 'gathered' }, { value: 'twice.value' }]
	];
	const document = withBodies(
		[
			['count-up', 'list', { start: 3, step: 4, count: 5 }],
			['repeat', 'each', { body: 'body', until: 'counted' }, { x: 'list.list' }],
			['repeat', 'seven', { body: 'body', passes: 7 }, { x: 'list.list' }]
		],
		{ body }
	);
	assert.deepEqual(numbersOf(document, 'each', 'all'), [6, 14, 22, 30, 38]);
	assert.deepEqual(numbersOf(document, 'seven', 'all'), [6, 14, 22, 30, 38, 6, 14]);
});

test('points are taken one by one, with what they know', () => {
	const body: Row[] = [
		['input', 'p', { name: 'p', carries: 'geometry', role: 'counted' }],
		['transform', 'up', { move: [0, plain('pass'), 0] }, { geometry: 'p.value' }],
		['output', 'end', { name: 'all', carries: 'geometry', role: 'gathered' }, { value: 'up.geometry' }]
	];
	const document = withBodies(
		[
			['row-of-points', 'row', { count: 6 }],
			['repeat', 'each', { body: 'body', until: 'counted' }, { p: 'row.points' }]
		],
		{ body }
	);
	const all = geometryOf(document, 'each', 'all').points!;
	assert.equal(all.points.count, 6);
	const p = positionsOf(all);
	for (let i = 0; i < 6; i++) assert.equal(p[3 * i + 1], i);
});

test('what doubles from pass to pass is foreseen, with how many passes fit; what fits goes through', () => {
	const doubling: Row[] = [
		['input', 'into', { name: 'it', carries: 'geometry', role: 'carried' }],
		['transform', 'moved', { move: [1, 0, 0] }, { geometry: 'into.value' }],
		['merge', 'both', {}, { geometry: ['into.value', 'moved.geometry'] }],
		['output', 'end', { name: 'it', carries: 'geometry' }, { value: 'both.geometry' }]
	];
	assert.equal(countsOf(geometryOf(repeated(8, doubling), 'again', 'it')).faces, 6 * 256);
	const { result, ran } = valueOf(repeated(40, doubling), 'again', 'it');
	assert.match(
		result.error!.message,
		/After 40 passes there would be about .* elements; 16,000,000 fit, which is 20 passes/
	);
	assert.ok(ran.length < 20, `${ran.length} ran`);
	assert.equal(result.error!.fixes?.[0].label, 'Set 20 passes');
});

test('what grows by a number is not taken for what multiplies', () => {
	const growing: Row[] = [
		['input', 'into', { name: 'it', carries: 'geometry', role: 'carried' }],
		['box', 'more', {}],
		['merge', 'both', {}, { geometry: ['into.value', 'more.mesh'] }],
		['output', 'end', { name: 'it', carries: 'geometry' }, { value: 'both.geometry' }]
	];
	assert.equal(countsOf(geometryOf(repeated(200, growing), 'again', 'it')).faces, 6 * 201);
});

test('too many passes are refused at once; what goes wrong in one is named, and the others stand', () => {
	assert.match(
		valueOf(repeated(1e9, STEP), 'again', 'it').result.error!.message,
		/1,000,000,000 passes are too many/
	);
	const breaking: Row[] = [
		['box', 'box', {}],
		['grid', 'grid', { columns: plain('choose(pass == 2, 1000000000, 2)'), rows: 2 }],
		['output', 'end', { name: 'all', carries: 'geometry', role: 'gathered' }, { value: 'grid.mesh' }]
	];
	const { result } = valueOf(
		withBodies([['repeat', 'again', { body: 'breaking', passes: 5 }]], { breaking }),
		'again',
		'all'
	);
	assert.equal(result.state, 'fresh');
	assert.match(result.warnings[0].message, /Pass 2 failed; the others stand\. grid inside: This would make/);
	assert.equal(
		new Set(
			result.outputs.get('all') &&
				(result.outputs.get('all') as Geometry).mesh!.faces.columns.get('pass')!.data
		).size,
		4
	);
});

test('what is carried in as geometry and out as a number is refused with its name', () => {
	const document = repeated(3, [
		['input', 'into', { name: 'it', carries: 'geometry', role: 'carried' }],
		['number', 'one', { value: 1 }],
		['output', 'end', { name: 'it', carries: 'number' }, { value: 'one.value' }]
	]);
	assert.match(
		valueOf(document, 'again', 'it').result.error!.message,
		/“it” goes into a pass as geometry and comes out as numbers/
	);
});

test('a repeat without outputs, or without a body, is quiet or says so', () => {
	assert.equal(valueOf(repeated(3, []), 'again', 'it').result.error, null);
	assert.match(
		valueOf(withBodies([['repeat', 'again', {}]], {}), 'again', 'it').result.error!.message,
		/no body yet/
	);
});

test('a pass is looked into: all of its nodes, as they were in it', () => {
	const document = repeated(6, [...STEP, ['number', 'aside', { value: plain('pass * 10') }]]);
	const evaluator = new Evaluator();
	for (const place of [4, 0, 99]) {
		const run = evaluator.begin(document, { into: [{ node: 'again', place }] });
		run.pull(['again']);
		const { scope, place: at, places } = run.inside()!;
		const { results } = scope;
		assert.deepEqual([at, places], [Math.min(place, 5), 6]);
		const aside = results.get('aside')!.outputs.get('value');
		assert.ok(isVarying(aside));
		assert.equal(constantNumber(aside), 10 * at);
		assert.ok(
			Math.abs(leastX(results.get('moved')!.outputs.get('geometry') as Geometry) - (at + 0.5)) < 1e-4
		);
	}
	const deep = evaluator.begin(nested(3, 4), {
		into: [
			{ node: 'courses', place: 2 },
			{ node: 'shingles', place: 1 }
		]
	});
	deep.pull(['courses']);
	const further = deep.inside()!.scope.results.get('further')!.outputs.get('progress');
	assert.ok(isVarying(further));
	assert.equal(constantNumber(further), 1);
});

/** Copies on a row, each a box as high as its own value says. */
const floatLine = (count: number, more: Record<string, unknown> = {}, rope = 0): GeneratorDocument =>
	withBodies(
		[
			['row-of-points', 'row', { count, spacing: 1 }],
			[
				'vary-each-copy',
				'floats',
				{
					body: 'float',
					height: plain(`fract(index / ${count} + ${rope})`),
					rounding: 'steps',
					steps: 16,
					...more
				},
				{ points: 'row.points' }
			]
		],
		{
			float: [
				['input', 'height', { name: 'height', carries: 'number', limited: true, minimum: 0, maximum: 1 }],
				['box', 'box', { size: [1, plain('height.value + 1'), 1] }],
				['output', 'end', { name: 'shape', carries: 'geometry' }, { value: 'box.mesh' }]
			]
		}
	);

test('10,000 copies rounded to 16 steps make 16 shapes, each the one that its value says', () => {
	const made = geometryOf(floatLine(10_000), 'floats', 'copies').copies!;
	assert.equal(made.copies.count, 10_000);
	assert.equal(made.sources.length, 16);
	const which = made.copies.columns.get('source')!.data;
	for (const i of [0, 313, 5000, 9999]) {
		const p = positionsOf(made.sources[which[i]].mesh!);
		const high = Math.max(...p.filter((_, k) => k % 3 === 1)) - Math.min(...p.filter((_, k) => k % 3 === 1));
		assert.ok(Math.abs(high - 1 - Math.round((i / 10_000) * 15) / 15) < 1e-6, `${i}`);
	}
});

test('values that stay keep their shapes: only those that changed are made again', () => {
	const evaluator = new Evaluator();
	const ran = (document: GeneratorDocument) =>
		evaluator.evaluate(document, ['floats']).ran.filter((id) => id.endsWith(' box')).length;
	assert.equal(ran(floatLine(1000, { rounding: 'none' })), 1000);
	assert.equal(ran(floatLine(1000, { rounding: 'none' }, 0)), 0);
	// A step further: all but one value were there before.
	assert.ok(ran(floatLine(1000, { rounding: 'none', height: plain('(index + 1) / 1000') })) <= 2);
	assert.equal(ran(floatLine(1000, { rounding: 'steps', roundingSteps: 4 })), 2);
});

test('each copy has its own random numbers where it says so, and a range differs from copy to copy', () => {
	const made = geometryOf(
		floatLine(500, { rounding: 'none', height: { low: 0, high: 1, stream: 'swell' } }),
		'floats',
		'copies'
	).copies!;
	assert.equal(made.sources.length, 500);
});

test('without rounding, so many shapes as do not fit are refused', () => {
	assert.match(
		valueOf(floatLine(30_000, { rounding: 'none' }), 'floats', 'copies').result.error!.message,
		/more than 20,000 different shapes/
	);
});

test('a repeat gives what the same nodes one after another give', () => {
	fc.assert(
		fc.property(fc.integer({ min: 1, max: 6 }), fc.integer({ min: 1, max: 5 }), (passes, by) => {
			const body = STEP.map((row): Row =>
				row[0] === 'transform' ? [row[0], row[1], { move: [by, 0.5, 0] }, row[3]] : row
			);
			const chain: Row[] = [['box', 'box', { size: [1, 1, 1] }]];
			for (let i = 0; i < passes; i++)
				chain.push([
					'transform',
					`t${i}`,
					{ move: [by, 0.5, 0] },
					{ geometry: i ? `t${i - 1}.geometry` : 'box.mesh' }
				]);
			assert.equal(
				digestOf(geometryOf(repeated(passes, body), 'again', 'it')),
				digestOf(geometryOf(withBodies(chain, {}), `t${passes - 1}`, 'geometry'))
			);
		}),
		{ numRuns: 30 }
	);
});

test('gathered points keep ids of their own, more passes or fewer', () => {
	const body: Row[] = [
		['row-of-points', 'row', { count: 3 }],
		['output', 'end', { name: 'all', carries: 'geometry', role: 'gathered' }, { value: 'row.points' }]
	];
	const ids = (passes: number) => {
		const all = geometryOf(
			withBodies([['repeat', 'again', { body: 'body', passes }]], { body }),
			'again',
			'all'
		);
		return [...tableOf(all, 'points', 'point')!.ids!];
	};
	assert.deepEqual(ids(9).slice(0, 2 * 3 * 4), ids(4));
});

test('an output of a repeat to which nothing is wired leaves the others standing', () => {
	const document = repeated(3, [
		...STEP,
		['output', 'loose', { name: 'loose', carries: 'geometry', role: 'gathered' }]
	]);
	assert.ok(Math.abs(leastX(geometryOf(document, 'again', 'it')) - 2.5) < 1e-4);
});

test('what is told by wire counts as what is set: the same in all passes, a repeat further out', () => {
	const any: Row[] = [
		['row-of-points', 'row', { count: 1 }],
		['transform', 'moved', { move: [{ low: 0, high: 1, stream: 'wind' }, 0, 0] }, { geometry: 'row.points' }],
		['output', 'end', { name: 'all', carries: 'geometry', role: 'gathered' }, { value: 'moved.geometry' }]
	];
	const document = withBodies(
		[
			['yes-or-no', 'yes', { value: true }],
			['repeat', 'again', { body: 'any', passes: 5 }, { same: 'yes.value' }]
		],
		{ any }
	);
	const x = [...positionsOf(geometryOf(document, 'again', 'all').points!)].filter((_, i) => i % 3 === 0);
	assert.equal(new Set(x).size, 1);
});

test('many thousand passes of next to nothing end, and the ledger holds no more than it did', () => {
	const passes = runs(20_000, 4_000);
	const counting: Row[] = [
		['input', 'n', { name: 'n', carries: 'number', role: 'carried' }],
		['formula', 'more', { formula: 'x + 1' }, { x: 'n.value' }],
		['output', 'end', { name: 'n', carries: 'number' }, { value: 'more.value' }]
	];
	const evaluator = new Evaluator();
	const { result, value } = valueOf(
		withBodies([['repeat', 'again', { body: 'counting', passes }]], { counting }),
		'again',
		'n',
		evaluator
	);
	assert.ok(isVarying(value), result.error?.message);
	assert.equal(constantNumber(value), passes);
	assert.ok(evaluator.ledger.held < 1e6, `${evaluator.ledger.held} bytes`);
});
