import assert from 'node:assert/strict';
import { test } from 'node:test';
import '../testing/index.ts';
import fc from 'fast-check';
import { BoxTree } from './box-tree.ts';

const cloud = (count: number, corners: number, seed: number): Float32Array => {
	let s = seed;
	const next = () => (s = (s * 1103515245 + 12345) % 2147483648) / 2147483648;
	return Float32Array.from({ length: count * corners * 3 }, (_, i) => next() * (i % 3 === 1 ? 0.5 : 4));
};

/** The distance to a triangle by trying many places on it: slow, and plainly right. */
function sampled(d: Float32Array, o: number, p: readonly number[]): number {
	let best = Infinity;
	for (let i = 0; i <= 60; i++)
		for (let j = 0; j <= 60 - i; j++) {
			const [u, v] = [i / 60, j / 60];
			let square = 0;
			for (let k = 0; k < 3; k++) {
				const c = d[o + k] * (1 - u - v) + d[o + 3 + k] * u + d[o + 6 + k] * v;
				square += (c - p[k]) ** 2;
			}
			best = Math.min(best, square);
		}
	return Math.sqrt(best);
}

test('the nearest place on triangles is the nearest, whatever was asked before', () => {
	const data = cloud(40, 3, 7);
	const tree = new BoxTree(data, 3);
	fc.assert(
		fc.property(
			fc.tuple(
				fc.double({ min: -2, max: 6, noNaN: true }),
				fc.double({ min: -2, max: 3, noNaN: true }),
				fc.double({ min: -2, max: 6, noNaN: true })
			),
			(p) => {
				const slow = Math.min(...Array.from({ length: 40 }, (_, t) => sampled(data, 9 * t, p)));
				const { distance, x, y, z, primitive, u, v } = tree.nearest(...p);
				assert.ok(distance <= slow + 1e-9 && distance >= slow - 0.1, `${distance} against ${slow}`);
				assert.ok(Math.abs(Math.hypot(x - p[0], y - p[1], z - p[2]) - distance) < 1e-9);
				// The shares name the same place.
				const again = [0, 1, 2].map(
					(k) =>
						data[9 * primitive + k] * (1 - u - v) +
						data[9 * primitive + 3 + k] * u +
						data[9 * primitive + 6 + k] * v
				);
				assert.ok(Math.hypot(again[0] - x, again[1] - y, again[2] - z) < 1e-6);
				assert.ok(u >= 0 && v >= 0 && u + v <= 1 + 1e-12);
			}
		),
		{ numRuns: 300 }
	);
	const fresh = new BoxTree(data, 3).nearest(1, 2, 3);
	tree.nearest(-5, 0, 9);
	assert.deepEqual({ ...tree.nearest(1, 2, 3) }, { ...fresh });
});

test('segments, points, equal distances, and nothing at all', () => {
	const segments = new BoxTree(Float32Array.of(0, 0, 0, 2, 0, 0, 0, 0, 2, 2, 0, 2), 2);
	const on = segments.nearest(0.5, 1, 0.25);
	assert.deepEqual([on.primitive, on.u, on.x, on.y, on.z], [0, 0.25, 0.5, 0, 0]);
	assert.equal(segments.nearest(1, 0, 1).primitive, 0, 'of two equally near the first');
	assert.equal(new BoxTree(Float32Array.of(1, 1, 1, 4, 4, 4), 1).nearest(3, 3, 3).primitive, 1);
	assert.equal(new BoxTree(new Float32Array(0), 3).nearest(0, 0, 0).primitive, -1);
	assert.equal(
		new BoxTree(new Float32Array(300), 1).nearest(1, 0, 0).distance,
		1,
		'a hundred points at one place'
	);
});

test('rays meet what lies in their way, and nothing beyond', () => {
	const roof = new BoxTree(Float32Array.of(-1, 2, -1, 1, 2, -1, 0, 2, 1), 3);
	assert.equal(roof.along(0, 0, 0, 0, 1, 0), 2);
	assert.equal(roof.along(0, 0, 0, 0, -1, 0), Infinity);
	assert.equal(roof.meets(0, 0, 0, 0, 1, 0, 0, 3), true);
	assert.equal(roof.meets(0, 0, 0, 0, 1, 0, 0, 1.5), false);
	assert.equal(roof.meets(5, 0, 0, 0, 1, 0, 0, Infinity), false);
});
