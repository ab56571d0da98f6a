import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import '../testing/index.ts';
import { edgesOf, makeCurves, volumeOf } from '../geometry/index.ts';
import { makeTube } from './tube.ts';
import { framesOf } from './frames.ts';
import { sweep } from './sweep.ts';
import { cos, sin, TAU } from '../math/index.ts';

const SIDES = 64;
/** The area of a regular polygon in a circle of radius 1. */
const CIRCLE = (SIDES / 2) * Math.sin((2 * Math.PI) / SIDES);

/** A path of straight pieces in space, none of which turns back sharply. */
const paths = fc
	.record({
		turns: fc.array(fc.integer({ min: -80, max: 80 }), { minLength: 1, maxLength: 4 }),
		rise: fc.integer({ min: -5, max: 5 }),
		size: fc.constantFrom(1e-3, 1, 1e4)
	})
	.map(({ turns, rise, size }) => {
		const places = [[0, 0, 0]];
		let angle = 0;
		for (const turn of [0, ...turns]) {
			angle += (turn * Math.PI) / 180;
			const [x, y, z] = places.at(-1)!;
			places.push([x + 10 * Math.cos(angle), y + rise, z + 10 * Math.sin(angle)]);
		}
		return { places: places.map((place) => place.map((x) => x * size)), size };
	});

const curveOf = (places: readonly number[][]) =>
	makeCurves(Float32Array.from(places.flat()), Uint32Array.of(0, places.length), Uint8Array.of(0));

test('a tube is nowhere thinner than its radius: it has the volume of its length times its section', () => {
	fc.assert(
		fc.property(paths, ({ places, size }) => {
			const curves = curveOf(places);
			const radius = 0.3 * size;
			const mesh = makeTube(curves, new Float32Array(places.length).fill(radius), SIDES, true);
			assert.ok(edgesOf(mesh.topology).uses.every((uses) => uses === 2));
			const length = places
				.slice(1)
				.reduce((sum, p, i) => sum + Math.hypot(...p.map((x, k) => x - places[i][k])), 0);
			const wanted = CIRCLE * radius * radius * length;
			// A cut across a bend is a plane, as the mitre of two straight pieces is: it takes as much as it gives.
			assert.ok(Math.abs(volumeOf(mesh) / wanted - 1) < 2e-3, `${volumeOf(mesh)} of ${wanted}`);
		}),
		{ numRuns: 200 }
	);
});

test('it is a circle swept', () => {
	fc.assert(
		fc.property(paths, ({ places, size }) => {
			const curves = curveOf(places);
			const n = places.length;
			const circle = Float64Array.from({ length: 2 * SIDES }, (_, i) =>
				(i % 2 ? sin : cos)((TAU * (i >> 1)) / SIDES)
			);
			const swept = sweep(curves, framesOf(curves), {
				sections: [{ points: circle, closed: true }],
				blend: new Float32Array(n),
				scale: new Float32Array(n).fill(0.2 * size),
				turn: new Float32Array(n),
				offset: null,
				caps: true,
				mitre: 4
			});
			const tube = makeTube(curves, new Float32Array(n).fill(0.2 * size), SIDES, true);
			assert.ok(Math.abs(volumeOf(tube) / volumeOf(swept) - 1) < 3e-3);
		}),
		{ numRuns: 100 }
	);
});

test('a texture that repeats twice as often has UVs twice as large, on the curves that say so', () => {
	fc.assert(
		fc.property(paths, ({ places, size }) => {
			const n = places.length;
			const two = makeCurves(
				Float32Array.from([...places.flat(), ...places.flat()]),
				Uint32Array.of(0, n, 2 * n),
				Uint8Array.of(0, 0)
			);
			const uvOf = (repeat: number[] | null) =>
				makeTube(two, new Float32Array(2 * n).fill(0.2 * size), 8, true, repeat).corners.columns.get('uv')!
					.data;
			const [once, more] = [uvOf(null), uvOf([1, 2])];
			const half = once.length / 2;
			assert.deepEqual(more.subarray(0, half), once.subarray(0, half));
			for (let i = half; i < once.length; i++) assert.equal(more[i], 2 * once[i]);
		}),
		{ numRuns: 50 }
	);
});
