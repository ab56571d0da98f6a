/** The many pictures together have as much light as the one that stands alone. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { Lamps } from './lamps.ts';
import { FEW_SAMPLES, SAMPLES, USUAL_LIGHT } from './light.ts';
import { LightUniforms } from './surface.ts';

/** Irradiance on a face without anything around it. */
function onFace(uniforms: LightUniforms, normal: readonly [number, number, number]): number[] {
	const { way, direct, sky, ground } = uniforms;
	const facing = Math.max(0, way.value.x * normal[0] + way.value.y * normal[1] + way.value.z * normal[2]);
	const up = 0.5 + 0.5 * normal[1];
	return (['x', 'y', 'z'] as const).map(
		(k) => direct.value[k] * facing + sky.value[k] * up + ground.value[k] * (1 - up)
	);
}
const normals = fc
	.tuple(
		fc.double({ min: -1, max: 1, noNaN: true }),
		fc.double({ min: -0.3, max: 1, noNaN: true }),
		fc.double({ min: -1, max: 1, noNaN: true })
	)
	.filter(([x, y, z]) => Math.hypot(x, y, z) > 0.1)
	.map(([x, y, z]) => {
		const length = Math.hypot(x, y, z);
		return [x / length, y / length, z / length] as const;
	});

test('the mean of the gathered pictures lights a free face as the plain picture does', () => {
	fc.assert(
		fc.property(
			normals,
			fc.integer({ min: 15, max: 85 }),
			fc.integer({ min: 0, max: 360 }),
			fc.constantFrom(SAMPLES, FEW_SAMPLES),
			(normal, height, direction, samples) => {
				const uniforms = new LightUniforms();
				const lamps = new Lamps(uniforms);
				lamps.wanted = { ...USUAL_LIGHT, height, direction };
				lamps.plainly();
				const plain = onFace(uniforms, normal);
				const sum = [0, 0, 0];
				for (let i = 0; i < samples; i++) {
					lamps.sample(i, samples);
					onFace(uniforms, normal).forEach((x, k) => (sum[k] += x / samples));
				}
				// π is white: within three hundredths of it.
				for (let k = 0; k < 3; k++) assert.ok(Math.abs(sum[k] - plain[k]) < 0.1, `${sum[k]} for ${plain[k]}`);
			}
		)
	);
});

test('without a shadow the sun casts none, but corners stay dark; highlights are the sun’s alone', () => {
	const uniforms = new LightUniforms();
	const lamps = new Lamps(uniforms);
	lamps.wanted = { ...USUAL_LIGHT, shadow: false };
	lamps.plainly();
	assert.equal(uniforms.shadowOn.value, 0);
	const kinds = Array.from({ length: SAMPLES }, (_, i) => {
		lamps.sample(i, SAMPLES);
		return `${uniforms.glint.value} ${uniforms.shadowOn.value}`;
	});
	assert.deepEqual(new Set(kinds), new Set(['1 0', '0 1']));
});
