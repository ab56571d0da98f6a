/** Laws that hold for all sizes, from a millimetre to 10 km: closed stays closed, parts tile the whole, opposites undo each other. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { areaOf, boundsOf, curveCount, edgesOf, lengthOf, positionsOf, volumeOf } from '../geometry/index.ts';
import type { Geometry, Mesh } from '../geometry/index.ts';
import { PI } from '../math/index.ts';
import { evaluateAll, generator } from '../testing/index.ts';
import type { Row } from '../testing/index.ts';

const size = fc.constantFrom(1e-3, 0.02, 0.7, 1, 13, 900, 1e4);
const count = (min: number, max: number) => fc.integer({ min, max });
const made = (rows: readonly Row[], short: string): Geometry => evaluateAll(generator(rows)).geometry(short);
const within = (a: number, b: number, share: number, what = '') =>
	assert.ok(Math.abs(a - b) <= share * Math.max(Math.abs(a), Math.abs(b)), `${what}: ${a} against ${b}`);

/** Every edge has two faces, one each way, and the surface is that of a body with so many handles. */
function assertClosed(mesh: Mesh, handles: number, what: string): void {
	const { faceStarts, cornerPoints, pointCount } = mesh.topology;
	const ways = new Set<string>();
	for (let f = 0; f + 1 < faceStarts.length; f++)
		for (let c = faceStarts[f]; c < faceStarts[f + 1]; c++) {
			const next = c + 1 < faceStarts[f + 1] ? c + 1 : faceStarts[f];
			const way = `${cornerPoints[c]} ${cornerPoints[next]}`;
			assert.ok(!ways.has(way), `${what}: an edge is passed twice the same way`);
			ways.add(way);
		}
	const { uses } = edgesOf(mesh.topology);
	assert.ok(
		uses.every((faces) => faces === 2),
		`${what}: an edge has not two faces`
	);
	assert.equal(pointCount - uses.length + faceStarts.length - 1, 2 - 2 * handles, `${what}: Euler's number`);
	assert.ok(volumeOf(mesh) > 0, `${what}: faces look outward`);
}

test('a box is closed, and has the volume and the area of its sides, however it is cut', () => {
	fc.assert(
		fc.property(size, fc.tuple(count(1, 5), count(1, 5), count(1, 5)), (s, [x, y, z]) => {
			const box = made([['box', 'it', { size: [s, 2 * s, 3 * s], cellsX: x, cellsY: y, cellsZ: z }]], 'it');
			assertClosed(box.mesh!, 0, 'box');
			within(volumeOf(box.mesh!), 6 * s * s * s, 1e-5, 'volume');
			within(areaOf(box), 22 * s * s, 1e-5, 'area');
		})
	);
});

test('spheres, cylinders and tori are closed, and come near the volumes of their formulas from inside', () => {
	fc.assert(
		fc.property(size, count(16, 48), (s, segments) => {
			const sphere = made([['sphere', 'it', { radius: s, segments, rows: segments }]], 'it');
			assertClosed(sphere.mesh!, 0, 'sphere');
			within(volumeOf(sphere.mesh!), (4 / 3) * PI * s * s * s, 0.06, 'sphere');
			assert.ok(volumeOf(sphere.mesh!) <= (4 / 3) * PI * s * s * s * 1.0001);
			const cylinder = made([['cylinder', 'it', { radius: s, topRadius: s, height: 2 * s, segments }]], 'it');
			assertClosed(cylinder.mesh!, 0, 'cylinder');
			within(volumeOf(cylinder.mesh!), 2 * PI * s * s * s, 0.06, 'cylinder');
			const torus = made(
				[['torus', 'it', { radius: 3 * s, thickness: s, segments, sectionSegments: segments }]],
				'it'
			);
			assertClosed(torus.mesh!, 1, 'torus');
		}),
		{ numRuns: 40 }
	);
});

test('a tube along an open curve is closed by its caps, along a closed one it is a ring', () => {
	fc.assert(
		fc.property(size, count(3, 9), count(6, 24), (s, segments, points) => {
			const open = made(
				[
					['line', 'line', { from: [0, 0, 0], to: [s, s, 0] }],
					['resample-curve', 'fine', { by: 'count', count: points }, { curve: 'line.curve' }],
					['tube', 'it', { radius: 0.01 * s, segments }, { curve: 'fine.curve' }]
				],
				'it'
			);
			assertClosed(open.mesh!, 0, 'open');
			const ring = made(
				[
					['circle', 'round', { radius: s, points }],
					['tube', 'it', { radius: 0.01 * s, segments }, { curve: 'round.curve' }]
				],
				'it'
			);
			assertClosed(ring.mesh!, 1, 'ring');
		}),
		{ numRuns: 40 }
	);
});

test('subdividing keeps what is closed closed, and flat faces their area', () => {
	fc.assert(
		fc.property(size, count(1, 2), fc.boolean(), (s, levels, smooth) => {
			const it = made(
				[
					['box', 'box', { size: [s, s, s], cellsX: 2, cellsY: 1, cellsZ: 1 }],
					['subdivide', 'it', { levels, method: smooth ? 'smooth' : 'flat' }, { geometry: 'box.mesh' }]
				],
				'it'
			);
			assertClosed(it.mesh!, 0, 'subdivided');
			if (!smooth) within(areaOf(it), 6 * s * s, 1e-5, 'area');
			else assert.ok(volumeOf(it.mesh!) < s * s * s * 1.0001, 'smoothing rounds off');
		}),
		{ numRuns: 30 }
	);
});

test('parts of a curve tile it: their lengths add up, and the ends meet', () => {
	fc.assert(
		fc.property(size, fc.double({ min: 0.05, max: 0.95, noNaN: true }), count(2, 40), (s, cut, points) => {
			const rows: Row[] = [
				['helix', 'spring', { radius: s, endRadius: 2 * s, height: s, turns: 2, points }],
				['part-of-curve', 'one', { by: 'share', from: 0, to: cut }, { curve: 'spring.curve' }],
				['part-of-curve', 'two', { by: 'share', from: cut, to: 1 }, { curve: 'spring.curve' }]
			];
			if (points < 3) rows[0] = ['line', 'spring', { to: [s, 0, 0] }];
			const { geometry } = evaluateAll(generator(rows));
			const [whole, one, two] = ['spring', 'one', 'two'].map(geometry);
			within(lengthOf(one) + lengthOf(two), lengthOf(whole), 1e-5, 'lengths');
			const [p, q] = [positionsOf(one.curves!), positionsOf(two.curves!)];
			for (let k = 0; k < 3; k++)
				assert.ok(Math.abs(p[p.length - 3 + k] - q[k]) <= 1e-5 * 3 * s, 'the cut is one place');
		}),
		{ numRuns: 60 }
	);
});

test('resampling keeps both ends, and never makes a curve longer', () => {
	fc.assert(
		fc.property(size, count(2, 60), (s, points) => {
			const { geometry } = evaluateAll(
				generator([
					['helix', 'spring', { radius: s, height: 3 * s, turns: 3 }],
					['resample-curve', 'it', { by: 'count', count: points }, { curve: 'spring.curve' }]
				])
			);
			const [before, after] = [geometry('spring'), geometry('it')];
			const [p, q] = [positionsOf(before.curves!), positionsOf(after.curves!)];
			assert.equal(q.length / 3, points);
			for (let k = 0; k < 3; k++) {
				assert.ok(Math.abs(p[k] - q[k]) <= 1e-5 * s);
				assert.ok(Math.abs(p[p.length - 3 + k] - q[q.length - 3 + k]) <= 1e-5 * 3 * s);
			}
			assert.ok(lengthOf(after) <= lengthOf(before) * (1 + 1e-6));
		}),
		{ numRuns: 60 }
	);
});

test('a curve turned round twice is the same to the bit', () => {
	const { geometry } = evaluateAll(
		generator([
			['helix', 'spring', { turns: 3 }],
			['reverse-curve', 'once', {}, { curve: 'spring.curve' }],
			['reverse-curve', 'twice', {}, { curve: 'once.curve' }]
		])
	);
	const [before, once, twice] = ['spring', 'once', 'twice'].map((short) => [
		...positionsOf(geometry(short).curves!)
	]);
	assert.deepEqual(twice, before);
	assert.deepEqual(once.slice(0, 3), before.slice(-3));
});

test('what is deleted and what stays tile the whole', () => {
	fc.assert(
		fc.property(size, fc.double({ min: 0, max: 1, noNaN: true }), count(0, 1e6), (s, share, seed) => {
			const where = { formula: `random(0, 1) < ${share.toFixed(4)}`, streams: ['a'] };
			const { geometry } = evaluateAll(
				generator(
					[
						['grid', 'grid', { width: s, depth: s, columns: 9, rows: 7 }],
						['delete-where', 'less', { weight: where }, { geometry: 'grid.mesh' }],
						['delete-where', 'rest', { weight: where, invert: true }, { geometry: 'grid.mesh' }]
					],
					seed
				)
			);
			const [less, rest, whole] = ['less', 'rest', 'grid'].map(geometry);
			assert.equal(less.mesh!.faces.count + rest.mesh!.faces.count, whole.mesh!.faces.count);
			assert.ok(Math.abs(areaOf(less) + areaOf(rest) - areaOf(whole)) <= 1e-5 * areaOf(whole));
		}),
		{ numRuns: 60 }
	);
});

test('copies that are written out have the areas of their scales, and stand where they stood', () => {
	fc.assert(
		fc.property(size, count(1, 12), (s, copies) => {
			const { geometry } = evaluateAll(
				generator([
					['row-of-points', 'row', { count: copies, by: 'spacing', spacing: 3 * s }],
					['box', 'box', { size: [s, s, s] }],
					[
						'place-copies',
						'placed',
						{ scale: [2, 2, 2], rotation: [0, 30, 0] },
						{ points: 'row.points', source: 'box.mesh' }
					],
					['copies-to-mesh', 'out', {}, { copies: 'placed.copies' }]
				])
			);
			within(areaOf(geometry('out')), copies * 24 * s * s, 1e-4, 'area');
			const [before, after] = ['placed', 'out'].map((short) => boundsOf(geometry(short))!);
			for (let k = 0; k < 3; k++) {
				// The box around a turned box holds it: by as much as it is turned.
				assert.ok(before.low[k] <= after.low[k] + 1e-4 * s && before.high[k] >= after.high[k] - 1e-4 * s);
			}
		}),
		{ numRuns: 40 }
	);
});

test('merging keeps every element, and a curve beside a mesh stays a curve', () => {
	fc.assert(
		fc.property(count(1, 5), count(1, 5), (a, b) => {
			const { geometry } = evaluateAll(
				generator([
					['grid', 'one', { columns: a, rows: b }],
					['grid', 'two', { columns: b, rows: a + 1 }],
					['circle', 'round', { points: a + 3 }],
					['merge', 'all', {}, { geometry: ['one.mesh', 'two.mesh', 'round.curve'] }]
				])
			);
			const { mesh, curves } = geometry('all');
			assert.equal(mesh!.faces.count, a * b + b * (a + 1));
			assert.equal(curveCount(curves!), 1);
			within(areaOf(geometry('all')), 200, 1e-5);
		})
	);
});
