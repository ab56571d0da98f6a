import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import * as THREE from 'three';
import { nearestLabels } from './nearest-labels.ts';

const camera = new THREE.PerspectiveCamera(40, 1.5, 0.1, 100);
camera.position.set(3, 4, 9);
camera.lookAt(0, 0, 0);
camera.updateMatrixWorld();
const matrix = new THREE.Matrix4().multiplyMatrices(
	camera.projectionMatrix,
	camera.matrixWorldInverse
).elements;
const size = { width: 600, height: 400 };

test('of any places the nearest in the picture are labelled, where the camera sees them', () => {
	const place = fc.tuple(...[0, 1, 2].map(() => fc.integer({ min: -60, max: 60 }).map((n) => n / 8)));
	fc.assert(
		fc.property(fc.array(place, { maxLength: 200 }), fc.integer({ min: 1, max: 40 }), (places, most) => {
			const seen = places
				.map((at, index) => ({
					index,
					p: new THREE.Vector3(...(at as [number, number, number])).project(camera),
					far: at
				}))
				.filter(({ p }) => Math.max(Math.abs(p.x), Math.abs(p.y), Math.abs(p.z)) <= 1)
				.filter(
					({ far }) =>
						new THREE.Vector3(...(far as [number, number, number])).applyMatrix4(camera.matrixWorldInverse)
							.z < 0
				);
			const labels = nearestLabels(Float32Array.from(places.flat()), matrix, { ...size, most });
			assert.equal(labels.length, Math.min(most, seen.length));
			const depth = new Map(seen.map(({ index, p }) => [index, p]));
			const last = Math.max(...labels.map(({ index }) => depth.get(index)!.z), -Infinity);
			for (const { index, x, y } of labels) {
				const p = depth.get(index)!;
				assert.ok(Math.abs(x - ((p.x + 1) / 2) * 600) < 0.01 && Math.abs(y - ((1 - p.y) / 2) * 400) < 0.01);
			}
			const labelled = new Set(labels.map(({ index }) => index));
			for (const { index, p } of seen) if (!labelled.has(index)) assert.ok(p.z >= last - 1e-6);
		})
	);
});
