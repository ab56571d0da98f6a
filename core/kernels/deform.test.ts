/** How maps of space turn what stands in it, against the angles that they are made of, near the origin and far off. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import '../testing/index.ts';
import { cos, quaternion, sin } from '../math/index.ts';
import { bendMap, twistMap } from './deform-maps.ts';
import { mapOrientations, stepIn } from './deform.ts';

/** Places that are the same numbers wherever they are moved to, as far as 8 km off: whole multiples of 2⁻¹⁰. */
const UNIT = 1 / 1024;
const heights = fc.array(fc.integer({ min: 0, max: 40 }), { minLength: 1, maxLength: 8 });
const offset = fc.tuple(...[0, 1, 2].map(() => fc.constantFrom(0, -3, 512, -5000, 8000)));
const scale = fc.constantFrom(1, 64, 4096);

/** How far apart two rotations are, in radians. */
function between(a: readonly number[], b: readonly number[]): number {
	const same = Math.abs(a.reduce((sum, x, k) => sum + x * b[k], 0));
	const off = Math.sqrt(a.reduce((sum, x, k) => sum + (Math.abs(x) - Math.abs(b[k])) ** 2, 0));
	return Math.min(2 * off, 2 * Math.acos(Math.min(1, same)) + 1e-9);
}

for (const kind of ['bend', 'twist'] as const)
	test(`${kind} turns things by its own angle at their height, two centimetres or 160 metres large, eight kilometres off`, () => {
		fc.assert(
			fc.property(
				heights,
				offset,
				scale,
				fc.integer({ min: -170, max: 170 }),
				fc.tuple(...[0, 1, 2].map(() => fc.integer({ min: -180, max: 180 }))),
				(ys, [ox, oy, oz], times, angle, [rx, ry, rz]) => {
					const unit = UNIT * times;
					const height = 40 * unit;
					const stretch = {
						axis: 1,
						from: oy,
						to: oy + height,
						centre: [ox + height / 2, oy + height / 2, oz + height / 2] as [number, number, number]
					};
					const map = kind === 'bend' ? bendMap(stretch, angle, 0) : twistMap(stretch, angle);
					// On the axis, where both only turn.
					const p = Float32Array.from(
						ys.flatMap((y) => [stretch.centre[0], oy + y * unit, stretch.centre[2]])
					);
					const q = [0, 0, 0, 1];
					quaternion.fromAngles(q, 0, rx, ry, rz);
					const step = stepIn({
						low: [ox, oy, oz],
						high: [ox + height, oy + height, oz + height]
					});
					const weights = new Float32Array(ys.length).fill(1);
					mapOrientations(
						map,
						p,
						weights,
						ys.flatMap(() => q),
						step,
						(i, turned) => {
							const turn = ((angle * Math.PI) / 180) * ((p[3 * i + 1] - oy) / height);
							// A bend along y leans towards z, and so turns about x.
							const about =
								kind === 'bend' ? [sin(turn / 2), 0, 0, cos(turn / 2)] : [0, sin(turn / 2), 0, cos(turn / 2)];
							const wanted = [0, 0, 0, 1];
							quaternion.multiply(wanted, 0, about[0], about[1], about[2], about[3], q[0], q[1], q[2], q[3]);
							const apart = between([...turned], wanted);
							assert.ok(apart < 2e-4, `${apart} rad at ${String([...p.subarray(3 * i, 3 * i + 3)])}`);
						}
					);
				}
			),
			{ numRuns: 200 }
		);
	});
