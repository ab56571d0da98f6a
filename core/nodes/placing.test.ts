/** Where copies, points and shapes stand: places, turns and sizes by the numbers. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { boundsOf, countsOf, floats, matrix, positionsOf, Places } from '../geometry/index.ts';
import type { Geometry } from '../geometry/index.ts';
import { quaternion } from '../math/index.ts';
import { evaluateAll, generator } from '../testing/index.ts';
import type { Row } from '../testing/index.ts';

const run = (...rows: Row[]) => evaluateAll(generator(rows));
const near = (a: ArrayLike<number>, b: ArrayLike<number>, what: string, within = 1e-5) => {
	assert.equal(a.length, b.length, what);
	for (let i = 0; i < b.length; i++)
		assert.ok(Math.abs(a[i] - b[i]) <= within, `${what}: ${Array.from(a)}, not ${Array.from(b)}`);
};
/** Where a place in the source stands on copy number `i`. */
function placeOn({ copies }: Geometry, i: number, place: readonly [number, number, number]): number[] {
	const out = [0, 0, 0];
	matrix.apply(out, 0, new Places(copies!.copies).affine(i), place[0], place[1], place[2]);
	return out;
}
const rounded = (values: ArrayLike<number>) => Array.from(values, (x) => Math.round(x * 1e4) / 1e4 + 0);

const AXES = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] } as const;
const axisOf = (name: string) => {
	const axis = AXES[name.at(-1) as 'x'];
	return axis.map((x) => (name.startsWith('-') ? -x : x) + 0) as [number, number, number];
};

test('whichever axes of a source are up and forward, they end along the point’s up and forward', () => {
	const names = ['x', 'y', 'z', '-x', '-y', '-z'];
	for (const up of names)
		for (const forward of names) {
			if (up.at(-1) === forward.at(-1)) continue;
			const made = run(
				['row-of-points', 'row', { count: 1 }],
				['box', 'box'],
				['place-copies', 'copies', { up, forward }, { points: 'row.points', source: 'box.mesh' }]
			).geometry('copies');
			near(placeOn(made, 0, axisOf(up)), [0, 1, 0], `${up} up`);
			near(placeOn(made, 0, axisOf(forward)), [0, 0, 1], `${forward} forward`);
		}
});

test('a copy is scaled, turned about its own axes, and moved along them, on a point that leans', () => {
	// Points on a circle face outward: their z is the way out, their y is up.
	const made = run(
		['ring-of-points', 'ring', { count: 4, radius: 2 }],
		['box', 'box'],
		[
			'place-copies',
			'copies',
			{ scale: [2, 3, 4], rotation: [0, 90, 0], offset: [0, 1, 0.5] },
			{ points: 'ring.points', source: 'box.mesh' }
		]
	).geometry('copies');
	const ring = run(['ring-of-points', 'ring', { count: 4, radius: 2 }]).geometry('ring');
	const p = positionsOf(ring.points!);
	for (let i = 0; i < 4; i++) {
		const out = [p[3 * i] / 2, 0, p[3 * i + 2] / 2];
		const middle = placeOn(made, i, [0, 0, 0]);
		// Turned by a quarter, its own z looks where the point’s x does: across the way out.
		near(middle, [p[3 * i] + 0.5 * out[2], 1, p[3 * i + 2] - 0.5 * out[0]], 'moved along its own axes');
		near(
			placeOn(made, i, [0, 1, 0]).map((x, k) => x - middle[k]),
			[0, 3, 0],
			'three times as tall'
		);
		// A quarter turn about y takes the source's x to where its −z was.
		near(
			placeOn(made, i, [1, 0, 0]).map((x, k) => x - middle[k]),
			out.map((x) => -2 * x),
			'its x looks inward'
		);
	}
});

test('copies that do not follow their points stand straight', () => {
	const made = run(
		['ring-of-points', 'ring', { count: 6 }],
		['box', 'box'],
		['place-copies', 'copies', { follow: false }, { points: 'ring.points', source: 'box.mesh' }]
	).geometry('copies');
	for (let i = 0; i < 6; i++) {
		const middle = placeOn(made, i, [0, 0, 0]);
		near(
			placeOn(made, i, [1, 0, 0]).map((x, k) => x - middle[k]),
			[1, 0, 0],
			`copy ${i}`
		);
	}
});

test('each copy of a chain stands on the last: a square is walked, a shell shrinks, a lean goes on leaning', () => {
	const square = run(
		['box', 'box'],
		['chain-of-copies', 'chain', { count: 5, move: [1, 0, 0], rotation: [0, 90, 0] }, { source: 'box.mesh' }]
	).geometry('chain');
	const places = [0, 1, 2, 3, 4].map((i) => placeOn(square, i, [0, 0, 0]));
	near(places.flat(), [0, 0, 0, 1, 0, 0, 1, 0, -1, 0, 0, -1, 0, 0, 0], 'a square');
	const shell = run(
		['box', 'box'],
		[
			'chain-of-copies',
			'chain',
			{ count: 20, move: [0, 1, 0], scale: [0.5, 0.5, 0.5] },
			{ source: 'box.mesh' }
		]
	).geometry('chain');
	// One metre, then half, then a quarter …
	near(placeOn(shell, 19, [0, 0, 0]), [0, 2 - 2 ** -18, 0], 'steps that halve');
	near([floats(shell.copies!.copies, 'scale')[57]], [2 ** -19], 'sizes that halve', 1e-9);
	const sheared = run(
		['box', 'box'],
		[
			'chain-of-copies',
			'chain',
			{ count: 3, move: [0, 0, 0], rotation: [0, 0, 45], scale: [1, 2, 1] },
			{ source: 'box.mesh' }
		]
	).geometry('chain');
	// Scaled, turned, and both again: as the product of the maps says.
	const q = [0, 0, 0, 1];
	quaternion.fromAngles(q, 0, 0, 0, 45);
	const step = matrix.compose([0, 0, 0], q, [1, 2, 1]);
	const wanted = [0, 0, 0];
	matrix.apply(wanted, 0, matrix.product(step, step), 1, 1, 1);
	near(placeOn(sheared, 2, [1, 1, 1]), wanted, 'sheared');
});

test('rows have their spacing or their length, from an end or from the middle, in any direction', () => {
	const xs = (settings: Record<string, unknown>) =>
		rounded(positionsOf(run(['row-of-points', 'row', settings]).geometry('row').points!));
	assert.deepEqual(xs({ count: 3, spacing: 2 }), [0, 0, 0, 2, 0, 0, 4, 0, 0]);
	assert.deepEqual(xs({ count: 3, spacing: 2, centred: true }), [-2, 0, 0, 0, 0, 0, 2, 0, 0]);
	assert.deepEqual(
		xs({ count: 3, by: 'length', length: 3, direction: [0, 5, 0] }),
		[0, 0, 0, 0, 1.5, 0, 0, 3, 0]
	);
	assert.deepEqual(xs({ count: 1, by: 'length', length: 3 }), [0, 0, 0]);
	assert.deepEqual(xs({ count: 0 }), []);
});

test('grids of points: by total size, from a corner, along one axis to three, each knowing its row', () => {
	const made = run([
		'grid-of-points',
		'grid',
		{ countX: 3, countY: 2, countZ: 2, by: 'size', size: [4, 1, 2], centred: false }
	]).geometry('grid');
	assert.equal(countsOf(made).points, 12);
	assert.deepEqual(rounded(boundsOf(made)!.low), [0, 0, 0]);
	assert.deepEqual(rounded(boundsOf(made)!.high), [4, 1, 2]);
	const p = positionsOf(made.points!);
	const columns = made.points!.points.columns;
	const names = [...columns.keys()].filter((name) => /x|column/i.test(name));
	assert.ok(names.length, `${[...columns.keys()]}`);
	const alongX = columns.get(names[0])!.data;
	for (let i = 0; i < 12; i++) assert.equal(p[3 * i], 2 * alongX[i]);
	const centred = run(['grid-of-points', 'grid', { countX: 4, countZ: 2, spacing: [1, 1, 3] }]).geometry(
		'grid'
	);
	assert.deepEqual(rounded(boundsOf(centred)!.low), [-1.5, 0, -1.5]);
});

test('rings face outward, inward or along, and part of a turn has both its ends', () => {
	const facing = (way: string) => {
		const made = run(['ring-of-points', 'ring', { count: 8, radius: 3, facing: way }]).geometry('ring');
		const p = positionsOf(made.points!),
			q = floats(made.points!.points, 'orientation');
		return Array.from({ length: 8 }, (_, i) => {
			const ahead = [0, 0, 0];
			quaternion.rotate(ahead, 0, q[4 * i], q[4 * i + 1], q[4 * i + 2], q[4 * i + 3], 0, 0, 1);
			return (p[3 * i] * ahead[0] + p[3 * i + 2] * ahead[2]) / 3;
		});
	};
	near(facing('outward'), new Array(8).fill(1), 'outward');
	near(facing('inward'), new Array(8).fill(-1), 'inward');
	near(facing('along'), new Array(8).fill(0), 'along');
	const half = run(['ring-of-points', 'ring', { count: 3, radius: 1, sweep: 180 }]).geometry('ring');
	const ends = positionsOf(half.points!);
	near([ends[0] + ends[6], ends[2] + ends[8]], [0, 0], 'the ends lie across from one another');
});

test('transform: scaled, then turned, then moved, about a pivot', () => {
	const rows = (settings: Record<string, unknown>): Row[] => [
		['row-of-points', 'row', { count: 2 }],
		['transform', 'moved', settings, { geometry: 'row.points' }]
	];
	const at = (settings: Record<string, unknown>) =>
		rounded(positionsOf(run(...rows(settings)).geometry('moved').points!));
	assert.deepEqual(at({ move: [1, 2, 3] }), [1, 2, 3, 2, 2, 3]);
	assert.deepEqual(at({ rotation: [0, 90, 0] }), [0, 0, 0, 0, 0, -1]);
	assert.deepEqual(at({ scale: [3, 1, 1], rotation: [0, 0, 90], move: [0, 1, 0] }), [0, 1, 0, 0, 4, 0]);
	assert.deepEqual(at({ rotation: [0, 0, 180], pivot: [1, 0, 0] }), [2, 0, 0, 1, 0, 0]);
	assert.deepEqual(
		at({ move: [0, 4, 0], weight: { formula: 'index', streams: [] }, strength: 0.5 }),
		[0, 0, 0, 1, 2, 0]
	);
});

/** Copies that lean, and are not of one size. */
const leaning: Row[] = [
	['row-of-points', 'row', { count: 7 }],
	['box', 'hut'],
	[
		'place-copies',
		'huts',
		{
			rotation: [{ formula: 'index * 11', streams: [] }, { formula: 'index * 23', streams: [] }, 5],
			scale: { formula: '1 + index / 5', streams: [] }
		},
		{ points: 'row.points', source: 'hut.mesh' }
	]
];
const own = (settings: Record<string, unknown>) => {
	const { geometry } = run(...leaning, [
		'transform',
		'moved',
		{ about: 'own', ...settings },
		{ geometry: 'huts.copies' }
	]);
	return { before: geometry('huts'), after: geometry('moved') };
};

test('copies are turned and scaled where they stand: as if the source had been moved before it was placed', () => {
	const settings = { move: [0.5, -1, 2], rotation: [10, 50, -30], scale: [2, 0.5, 1.5] };
	const { before, after } = own({ ...settings, onCopies: 'multiply' });
	const q = [0, 0, 0, 1];
	quaternion.fromAngles(q, 0, 10, 50, -30);
	for (let i = 0; i < 7; i++) {
		const { position, orientation } = Object.fromEntries(
			['position', 'orientation'].map((name) => [name, floats(before.copies!.copies, name)])
		);
		const home = matrix.compose(position, orientation, [1, 1, 1], undefined, 3 * i, 4 * i, 0);
		const size = floats(before.copies!.copies, 'scale').subarray(3 * i, 3 * i + 3);
		const step = matrix.compose(
			settings.move,
			q,
			settings.scale.map((x, k) => x * size[k])
		);
		near(new Places(after.copies!.copies).affine(i), matrix.product(home, step), `copy ${i}`);
	}
});

test('what copies have is replaced, or added to, by as much as the weight says', () => {
	const sizesOf = ({ copies }: Geometry) => [...floats(copies!.copies, 'scale')];
	const { before, after } = own({ scale: [3, 3, 3], rotation: [0, 90, 0], onCopies: 'replace' });
	near(sizesOf(after), Array<number>(21).fill(3), 'all of one size');
	const q = [0, 0, 0, 1];
	quaternion.fromAngles(q, 0, 0, 90, 0);
	for (let i = 0; i < 7; i++) {
		const turned = floats(after.copies!.copies, 'orientation').subarray(4 * i, 4 * i + 4);
		const alike = Math.abs(q.reduce((sum, x, k) => sum + x * turned[k], 0));
		assert.ok(Math.abs(alike - 1) < 1e-6, 'all turned one way');
	}
	const half = own({ scale: [3, 3, 3], onCopies: 'replace', strength: 0.5 });
	near(
		sizesOf(half.after),
		sizesOf(before).map((x) => (x + 3) / 2),
		'half the way'
	);
	const added = own({ scale: [3, 1, 0.5], onCopies: 'add' });
	near(
		sizesOf(added.after),
		sizesOf(before).map((x, i) => x + [2, 0, -0.5][i % 3]),
		'added to'
	);
	const none = own({ scale: [3, 3, 3], move: [9, 9, 9], onCopies: 'multiply', strength: 0 });
	near(sizesOf(none.after), sizesOf(before), 'no strength, no change');
});

test('half a transform of points is half of its move and rotation, and copies turn with their places', () => {
	const { geometry } = run(...leaning, [
		'transform',
		'moved',
		{ move: [0, 4, 0], rotation: [0, 90, 0], strength: 0.5 },
		{ geometry: 'huts.copies' }
	]);
	const [before, after] = [geometry('huts'), geometry('moved')];
	const q = [0, 0, 0, 1];
	quaternion.fromAngles(q, 0, 0, 45, 0);
	const map = matrix.compose([0, 2, 0], q, [1, 1, 1]);
	for (let i = 0; i < 7; i++)
		near(
			new Places(after.copies!.copies).affine(i),
			matrix.product(map, new Places(before.copies!.copies).affine(i)),
			`copy ${i}`
		);
});

test('displace: along normals, a direction, or a vector each', () => {
	const at = (settings: Record<string, unknown>) =>
		run(
			['grid', 'flat', { width: 2, depth: 2, columns: 1, rows: 1 }],
			['displace', 'moved', settings, { geometry: 'flat.mesh' }]
		).geometry('moved');
	const heights = (geometry: Geometry) => rounded(positionsOf(geometry.mesh!)).filter((_, i) => i % 3 === 1);
	assert.deepEqual(heights(at({ amount: 2 })), [2, 2, 2, 2]);
	assert.deepEqual(heights(at({ along: 'direction', direction: [0, -3, 0], amount: 2 })), [-2, -2, -2, -2]);
	assert.deepEqual(
		heights(at({ along: 'vector', vector: { formula: 'vec(0, index, 0)', streams: [] } })),
		[0, 1, 2, 3]
	);
});

test('attributes are set on every kind of element, and read back by formulas', () => {
	const rows: Row[] = [
		['box', 'box'],
		['circle', 'ring', { points: 5 }],
		['row-of-points', 'row', { count: 3 }],
		['place-copies', 'copies', {}, { points: 'row.points', source: 'box.mesh' }],
		['merge', 'all', {}, { geometry: ['box.mesh', 'ring.curve', 'copies.copies'] }]
	];
	for (const [on, count, tables] of [
		['edge', 12, (g: Geometry) => g.mesh!.edges!],
		['face', 6, (g: Geometry) => g.mesh!.faces],
		['corner', 24, (g: Geometry) => g.mesh!.corners],
		['curve', 1, (g: Geometry) => g.curves!.curves],
		['copy', 3, (g: Geometry) => g.copies!.copies],
		['whole', 1, (g: Geometry) => g.whole]
	] as const) {
		const made = run(
			...rows,
			[
				'write-attribute',
				'set',
				{ elements: on, name: 'wear', value: { formula: 'index * 2 + count', streams: [] } },
				{ geometry: 'all.geometry' }
			],
			[
				'write-attribute',
				'twice',
				{ elements: on, name: 'double', value: { formula: 'wear * 2', streams: [] } },
				{ geometry: 'set.geometry' }
			]
		).geometry('twice');
		const table = tables(made);
		assert.equal(table.count, count, on);
		const [wear, double] = ['wear', 'double'].map((name) => Array.from(table.columns.get(name)!.data));
		assert.deepEqual(
			wear,
			Array.from({ length: count }, (_, i) => 2 * i + count),
			on
		);
		assert.deepEqual(
			double,
			wear.map((x) => 2 * x),
			on
		);
	}
});

test('an imported mesh has its size in metres from any unit, and its up axis up', async () => {
	const { Evaluator } = await import('../engine/index.ts');
	const bytes = new TextEncoder().encode('v 0 0 0\nv 2 0 0\nv 2 4 0\nv 0 0 8\nf 1 2 3\nf 1 3 4\n');
	for (const [unit, metres] of [
		['m', 1],
		['cm', 0.01],
		['mm', 0.001],
		['in', 0.0254],
		['ft', 0.3048]
	] as const)
		for (const up of ['y', 'z', 'x'] as const) {
			const document = generator([['import-mesh', 'hut', { file: 'a'.repeat(32), unit, up }]]);
			const evaluator = new Evaluator({ asset: () => ({ hash: 'a'.repeat(32), name: 'hut.obj', bytes }) });
			const [{ id }] = document.graphs.main.nodes;
			const { error, bounds } = evaluator.evaluate(document, [id]).results.get(id)!;
			assert.equal(error, null);
			const sizes = [0, 1, 2].map((k) => (bounds!.high[k] - bounds!.low[k]) / metres);
			// What was up in the file is y here.
			near([sizes[1]], [{ x: 2, y: 4, z: 8 }[up]], `${unit}, ${up} up`, 1e-4);
			near(
				[...sizes].sort((a, b) => a - b),
				[2, 4, 8],
				`${unit}, ${up} up`,
				1e-4
			);
		}
});
