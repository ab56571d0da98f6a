import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import '../testing/index.ts';
import { makeCurves } from '../geometry/index.ts';
import type { Spacing } from './resample-curves.ts';
import { evenStops } from './stops-along.ts';

/** A line on the ground with corners, open or closed, its length in metres. */
const paths = fc
	.record({
		corners: fc.array(fc.tuple(fc.integer({ min: -9, max: 9 }), fc.integer({ min: -9, max: 9 })), {
			minLength: 3,
			maxLength: 7
		}),
		closed: fc.boolean(),
		size: fc.constantFrom(1e-3, 1, 1e4)
	})
	.map(({ corners, closed, size }) => {
		const positions = Float32Array.from(corners.flatMap(([x, z]) => [x * size, 0, z * size]));
		const curves = makeCurves(positions, Uint32Array.of(0, corners.length), Uint8Array.of(closed ? 1 : 0));
		const ends = closed ? [...corners, corners[0]] : corners;
		// Of the places as they are stored.
		const at = (x: number) => Math.fround(x * size);
		const steps = ends
			.slice(1)
			.map(([x, z], i) => Math.hypot(at(x) - at(ends[i][0]), at(z) - at(ends[i][1])));
		return { curves, closed, length: steps.reduce((sum, x) => sum + x, 0) };
	})
	.filter(({ length }) => length > 0);

/** Metres along the curve of each stop. */
const stopsOf = (curves: Parameters<typeof evenStops>[0], spacing: Spacing, middles: boolean) => [
	...evenStops(curves, spacing, middles).along
];

test('by count: as many as asked for, every gap alike, ends and middles where they belong', () => {
	fc.assert(
		fc.property(
			paths,
			fc.integer({ min: 1, max: 40 }),
			fc.boolean(),
			({ curves, closed, length }, count, middles) => {
				const along = stopsOf(curves, { by: 'stops', count, middles }, middles);
				assert.equal(along.length, count);
				const pieces = closed || middles ? count : Math.max(1, count - 1);
				along.forEach((d, k) => {
					const wanted = ((middles ? k + 0.5 : k) * length) / pieces;
					assert.ok(Math.abs(d - wanted) < 1e-5 * length, `${k}: ${d} for ${wanted}`);
				});
			}
		),
		{ numRuns: 300 }
	);
});

test('fitted: every gap alike and as near to what was asked as fits; middles are those of whole pieces', () => {
	fc.assert(
		fc.property(
			paths,
			fc.integer({ min: 2, max: 60 }),
			fc.boolean(),
			({ curves, closed, length }, share, middles) => {
				const wanted = (length * 7) / (5 * share);
				const along = stopsOf(curves, { by: 'fitted', length: wanted }, middles);
				const pieces = Math.max(closed ? 3 : 1, Math.round(length / wanted));
				const step = length / pieces;
				assert.equal(along.length, closed || middles ? pieces : pieces + 1);
				const first = middles ? step / 2 : 0;
				along.forEach((d, k) => assert.ok(Math.abs(d - first - k * step) < 1e-5 * length));
				// The last middle is half a piece from the end, and never on it.
				const rest = length - along.at(-1)!;
				assert.ok(Math.abs(rest - (middles ? step / 2 : closed ? step : 0)) < 1e-5 * length);
			}
		),
		{ numRuns: 300 }
	);
});

test('by spacing: every gap is what was asked; less than one piece is left over at the end', () => {
	fc.assert(
		fc.property(
			paths,
			fc.integer({ min: 1, max: 60 }),
			fc.boolean(),
			({ curves, closed, length }, share, middles) => {
				const step = length / (share + 0.37);
				const along = stopsOf(curves, { by: 'spacing', length: step }, middles);
				assert.equal(along.length, middles ? share : share + 1);
				const first = middles ? step / 2 : 0;
				along.forEach((d, k) => assert.ok(Math.abs(d - first - k * step) < 1e-5 * length));
				assert.ok(length - along.at(-1)! < (middles ? 1.5 : 1) * step + 1e-5 * length);
				if (!closed) return;
				// Round a closed curve one that fits comes back to where it began, once.
				const fits = stopsOf(curves, { by: 'spacing', length: length / share }, middles);
				assert.equal(fits.length, share);
			}
		),
		{ numRuns: 300 }
	);
});
