import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { distanceToEllipsoid } from './ellipsoid.ts';

const half = fc.integer({ min: 1, max: 40 }).map((x) => x / 10);
const coordinate = fc.integer({ min: -60, max: 60 }).map((x) => x / 10);

/** The least distance to places on an ellipsoid: on a lattice of angles, and ever finer ones around the nearest of it. */
function nearestBySearch(given: readonly number[], place: readonly number[]): number {
	// Angles are blind at their poles: each axis is one in turn.
	return Math.min(
		...[0, 1, 2].map((pole) => {
			const order = [(pole + 1) % 3, pole, (pole + 2) % 3];
			return searched(
				order.map((k) => given[k]),
				order.map((k) => place[k])
			);
		})
	);
}

function searched(axes: readonly number[], p: readonly number[]): number {
	const at = (u: number, v: number) => [
		axes[0] * Math.cos(u) * Math.cos(v),
		axes[1] * Math.sin(v),
		axes[2] * Math.sin(u) * Math.cos(v)
	];
	const from = (u: number, v: number) => Math.hypot(...at(u, v).map((x, k) => x - p[k]));
	let best = { u: 0, v: 0, d: Infinity };
	const look = (u: number, v: number) => {
		const d = from(u, v);
		if (d < best.d) best = { u, v, d };
	};
	for (let i = 0; i < 72; i++) for (let j = -18; j <= 18; j++) look((i * Math.PI) / 36, (j * Math.PI) / 36);
	for (let step = Math.PI / 36; step > 1e-7; step /= 1.5) {
		const { u, v } = best;
		for (let i = -3; i <= 3; i++) for (let j = -3; j <= 3; j++) look(u + i * step, v + j * step);
	}
	return best.d;
}

test('it is the least distance to any place on it, negative inside', () => {
	fc.assert(
		fc.property(fc.tuple(half, half, half), fc.tuple(coordinate, coordinate, coordinate), (axes, p) => {
			const inside = axes.reduce((sum, e, k) => sum + (p[k] / e) ** 2, 0) < 1;
			const found = distanceToEllipsoid(axes, p);
			assert.ok(found === 0 || found < 0 === inside);
			const wanted = nearestBySearch(axes, p);
			assert.ok(Math.abs(Math.abs(found) - wanted) < 1e-5, `${found} for ${wanted}`);
		}),
		{ numRuns: 300 }
	);
});

test('of a ball it is the distance to its middle less its radius, in a plane too, at any size', () => {
	fc.assert(
		fc.property(half, coordinate, coordinate, fc.constantFrom(1e-3, 1, 1e4), (r, x, y, size) => {
			const wanted = (Math.hypot(x, y) - r) * size;
			assert.ok(
				Math.abs(distanceToEllipsoid([r * size, r * size], [x * size, y * size]) - wanted) < 1e-9 * size
			);
		})
	);
});

test('a place a hair beside the plane across the shortest axis lies as far away as one in it', () => {
	const hair = fc.integer({ min: 3, max: 300 }).map((n) => 10 ** -n);
	fc.assert(
		fc.property(fc.tuple(half, half, half), coordinate, coordinate, hair, (axes, x, y, off) => {
			const shortest = axes.indexOf(Math.min(...axes));
			const place = [x, y].toSpliced(shortest, 0, 0);
			const beside = place.with(shortest, off);
			const [wanted, found] = [place, beside].map((p) => distanceToEllipsoid(axes, p));
			assert.ok(Math.abs(found - wanted) <= off + 1e-12, `${found} for ${wanted}`);
		}),
		{ numRuns: 500 }
	);
});
