import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import '../testing/index.ts';
import type { Mesh } from '../geometry/index.ts';
import { areaOf, edgesOf, geometryOf, makeMesh } from '../geometry/index.ts';
import { splitDented } from './split-dented.ts';
import { closeUp, subdivideWhere } from './subdivide.ts';

/** A face on the ground, seen from the origin at growing angles, with dents where a radius is small. */
const faces = fc
	.record({
		radii: fc.array(fc.integer({ min: 1, max: 30 }), { minLength: 4, maxLength: 12 }),
		size: fc.constantFrom(1e-3, 1, 1e4)
	})
	.map(({ radii, size }): Mesh => {
		const n = radii.length;
		const places = radii.flatMap((r, i) => {
			const angle = (-2 * Math.PI * i) / n;
			return [size * r * Math.cos(angle), 0, size * r * Math.sin(angle)];
		});
		return makeMesh(
			Float32Array.from(places),
			Uint32Array.of(0, n),
			Uint32Array.from({ length: n }, (_, i) => i)
		);
	});

const subdivided = (mesh: Mesh): Mesh =>
	closeUp(subdivideWhere({ mesh, wanting: new Uint8Array(mesh.faces.count) }, null, false));

test('a face with dents keeps its area, and its border, when it is cut flat', () => {
	fc.assert(
		fc.property(faces, (mesh) => {
			const area = areaOf(geometryOf({ mesh }));
			const split = splitDented(mesh, null);
			assert.ok(Math.abs(areaOf(geometryOf({ mesh: split })) / area - 1) < 1e-6);
			const fine = subdivided(split);
			assert.ok(Math.abs(areaOf(geometryOf({ mesh: fine })) / area - 1) < 1e-5);
			const border = edgesOf(fine.topology).uses.filter((uses) => uses === 1).length;
			assert.equal(border, 2 * mesh.points.count);
			assert.equal(splitDented(split, null), split, 'once is enough');
		}),
		{ numRuns: 300 }
	);
});

test('faces that are not chosen stay whole', () => {
	fc.assert(
		fc.property(faces, (mesh) => {
			assert.equal(splitDented(mesh, Uint8Array.of(0)), mesh);
		})
	);
});
