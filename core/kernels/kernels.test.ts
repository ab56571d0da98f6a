import assert from 'node:assert/strict';
import { test } from 'node:test';
import { volumeOf, edgesOf, makeCurves, makeMesh, trianglesOf } from '../geometry/index.ts';
import { framesOf } from './frames.ts';
import { makeGrid } from './grid.ts';
import { keepApart, sowPoints } from './sow-points.ts';
import { makeTube } from './tube.ts';

test('sowing is fair where triangles differ in area by a factor of a thousand', () => {
	// A strip of 20 triangles whose areas grow from 1 to 1,000.
	const areas = Array.from({ length: 20 }, (_, i) => 1000 ** (i / 19));
	const positions: number[] = [],
		corners: number[] = [];
	areas.forEach((area, i) => {
		positions.push(0, i, 0, 2 * area, i, 0, 0, i, 1);
		corners.push(3 * i, 3 * i + 1, 3 * i + 2);
	});
	const mesh = makeMesh(
		Float32Array.from(positions),
		Uint32Array.from({ length: 21 }, (_, i) => 3 * i),
		Uint32Array.from(corners)
	);
	const count = 400_000;
	const sown = sowPoints(mesh, { count, stream: [5, 6], weights: null });
	const total = areas.reduce((a, b) => a + b);
	const counts = new Float64Array(20);
	for (const face of sown.faces) counts[face]++;
	const chiSquare = areas.reduce(
		(sum, area, i) => sum + (counts[i] - (count * area) / total) ** 2 / ((count * area) / total),
		0
	);
	assert.ok(chiSquare < 48, `chi-square ${chiSquare} with 19 degrees of freedom`);
	// Within the largest triangle: a quarter of its area lies beyond half of its long side.
	let beyond = 0,
		inside = 0;
	sown.faces.forEach((face, i) => {
		if (face !== 19) return;
		inside++;
		if (sown.positions[3 * i] > 1000) beyond++;
	});
	assert.ok(
		Math.abs(beyond / inside - 0.25) < 0.01,
		`${beyond / inside} of the points lie beyond the middle`
	);
});

test('a weight of zero keeps a face empty', () => {
	const mesh = makeGrid(10, 10, 10, 10);
	const weights = Float32Array.from({ length: 100 }, (_, i) => (i % 2 ? 1 : 0));
	const { faces } = sowPoints(mesh, { count: 10_000, stream: [1, 2], weights });
	assert.ok(faces.every((face) => face % 2 === 1));
});

test('points kept apart are apart, and as many as fit a greedy choice', () => {
	const { positions } = sowPoints(makeGrid(10, 10, 1, 1), { count: 5000, stream: [3, 4], weights: null });
	const kept = keepApart(positions, 0.3);
	for (let a = 0; a < kept.length; a++)
		for (let b = 0; b < a; b++) {
			const [i, j] = [3 * kept[a], 3 * kept[b]];
			assert.ok(Math.hypot(positions[i] - positions[j], positions[i + 2] - positions[j + 2]) >= 0.3);
		}
	// Whatever was left out lies too near to an earlier one.
	const chosen = new Set(kept);
	for (let i = 0; i < 5000; i += 7) {
		if (chosen.has(i)) continue;
		assert.ok(
			kept.some(
				(k) =>
					k < i &&
					Math.hypot(positions[3 * i] - positions[3 * k], positions[3 * i + 2] - positions[3 * k + 2]) < 0.3
			)
		);
	}
});

test('frames on a closed flat curve close without a seam and stay at right angles', () => {
	const n = 64;
	const positions = Float32Array.from(
		{ length: 3 * n },
		(_, i) =>
			[Math.cos((((i / 3) | 0) / n) * 2 * Math.PI), 0, Math.sin((((i / 3) | 0) / n) * 2 * Math.PI)][i % 3]
	);
	const { tangents, normals } = framesOf(makeCurves(positions, Uint32Array.of(0, n), Uint8Array.of(1)));
	for (let i = 0; i < n; i++) {
		const dot = [0, 1, 2].reduce((sum, k) => sum + tangents[3 * i + k] * normals[3 * i + k], 0);
		assert.ok(Math.abs(dot) < 1e-5);
		assert.ok(normals[3 * i + 1] > 0.9999, `the normal at ${i} spins away`);
	}
});

test('a tube is closed, faces outward, and has the volume of its cylinder', () => {
	const curve = makeCurves(
		Float32Array.of(0, 0, 0, 0, 1, 0, 0, 3, 0),
		Uint32Array.of(0, 3),
		Uint8Array.of(0)
	);
	const mesh = makeTube(curve, [0.5, 0.5, 0.5], 256, true);
	assert.ok(
		edgesOf(mesh.topology).uses.every((uses) => uses === 2),
		'an edge is open'
	);
	assert.ok(Math.abs(volumeOf(mesh) - Math.PI * 0.25 * 3) < 1e-3);
});

test('a dented polygon is cut into triangles of its own area', () => {
	// An L of area 3.
	const flat = [0, 0, 2, 0, 2, 1, 1, 1, 1, 2, 0, 2];
	const positions = Float32Array.from(
		{ length: 18 },
		(_, i) => [flat[2 * Math.floor(i / 3)], 0, -flat[2 * Math.floor(i / 3) + 1]][i % 3]
	);
	const mesh = makeMesh(positions, Uint32Array.of(0, 6), Uint32Array.of(0, 1, 2, 3, 4, 5));
	const { corners } = trianglesOf(mesh);
	assert.equal(corners.length, 12);
	let area = 0;
	for (let t = 0; t < 12; t += 3) {
		const [a, b, c] = [0, 1, 2].map((k) => 3 * corners[t + k]);
		area +=
			((positions[b] - positions[a]) * -(positions[c + 2] - positions[a + 2]) -
				(positions[c] - positions[a]) * -(positions[b + 2] - positions[a + 2])) /
			2;
	}
	assert.ok(Math.abs(area - 3) < 1e-6, `area ${area}`);
});
