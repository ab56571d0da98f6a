import assert from 'node:assert/strict';
import { test } from 'node:test';
import '../testing/index.ts';
import {
	Ledger,
	cornerNormals,
	edgesOf,
	faceAreas,
	lengthsAlong,
	makeCurves,
	makeMesh,
	positionsOf,
	trianglesOf,
	volumeOf
} from '../geometry/index.ts';
import { quaternion } from '../math/index.ts';
import { framesOf } from './frames.ts';
import { makeGrid } from './grid.ts';
import { keepApart } from './keep-apart.ts';
import { sowPoints } from './sow-points.ts';
import { pointsOfTriangles } from './triangle-records.ts';
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
	for (const face of sown.faces!) counts[face]++;
	const chiSquare = areas.reduce(
		(sum, area, i) => sum + (counts[i] - (count * area) / total) ** 2 / ((count * area) / total),
		0
	);
	assert.ok(chiSquare < 48, `chi-square ${chiSquare} with 19 degrees of freedom`);
	// Within the largest triangle: a quarter of its area lies beyond half of its long side.
	let beyond = 0,
		inside = 0;
	sown.faces!.forEach((face, i) => {
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
	assert.ok(faces!.every((face) => face % 2 === 1));
});

test('points lie on their faces, with the normals, rotations and values that belong there, whatever was sown before', () => {
	const mesh = makeGrid(4, 4, 2, 2);
	// Lifted to a slope of one in two, with heights as a value of the points.
	const p = positionsOf(mesh);
	for (let i = 0; i < p.length; i += 3) p[i + 1] = p[i] / 2;
	const heights = Float32Array.from({ length: p.length / 3 }, (_, i) => p[3 * i + 1]);
	const sow = (count: number) =>
		sowPoints(mesh, {
			count,
			stream: [7, 8],
			weights: null,
			normals: cornerNormals(mesh),
			orientations: true,
			blends: [{ source: heights, width: 1, rows: pointsOfTriangles(mesh) }],
			triangles: true
		});
	// More than a block.
	const first = sow(20_001);
	const faces = first.faces!;
	const { positions, normals, orientations, blended, triangles } = first;
	const up = [0, 0, 0];
	for (let i = 0; i < faces.length; i++) {
		const [x, y, z] = positions.subarray(3 * i, 3 * i + 3);
		assert.ok(Math.abs(y - x / 2) < 1e-6, 'on the slope');
		assert.ok(Math.abs(blended[0][i] - y) < 1e-6, 'the value blends as the place does');
		assert.equal(faces[i], trianglesOf(mesh).faces[triangles![i]]);
		const column = Math.min(1, Math.floor((x + 2) / 2)),
			row = Math.min(1, Math.floor((z + 2) / 2));
		assert.ok(faces[i] === row * 2 + column || Math.abs(x) < 1e-6 || Math.abs(z) < 1e-6, 'in its face');
		const [nx, ny] = normals!.subarray(3 * i, 3 * i + 3);
		assert.ok(Math.abs(nx + 1 / Math.sqrt(5)) < 1e-6 && Math.abs(ny - 2 / Math.sqrt(5)) < 1e-6, 'the normal');
		const [a, b, c, d] = orientations!.subarray(4 * i, 4 * i + 4);
		quaternion.rotate(up, 0, a, b, c, d, 0, 1, 0);
		assert.ok(Math.abs(up[0] - nx) < 1e-6 && Math.abs(up[1] - ny) < 1e-6, 'the rotation stands off');
	}
	// Stopped in the middle, after another mesh, and with fewer points: always the same points.
	let polls = 0;
	const stopping = new Ledger({
		poll: () => {
			if (++polls > 3) throw new Error('stop');
		}
	});
	assert.throws(() => stopping.work(() => sow(50_000)), /^Error: stop$/);
	assert.deepEqual(sow(20_001), first);
	sowPoints(makeGrid(1, 1, 30, 30), { count: 10, stream: [1, 1], weights: null });
	assert.deepEqual(sow(2000).positions, positions.slice(0, 6000));
	assert.deepEqual(sow(1).ids, first.ids!.slice(0, 2));
});

test('another weight on the same mesh gives other points, and the first weight the first points again', () => {
	const mesh = makeGrid(8, 8, 20, 20);
	const sow = (heaviest: number) =>
		sowPoints(mesh, {
			count: 3000,
			stream: [1, 2],
			weights: Float32Array.from({ length: 400 }, (_, i) => (i === heaviest ? 1 : 1e-6))
		});
	const first = sow(7);
	assert.ok(first.faces!.filter((face) => face === 7).length > 2990);
	assert.ok(sow(300).faces!.filter((face) => face === 300).length > 2990);
	assert.deepEqual(sow(7), first);
	// Among meshes of another size, and without weights, too.
	sowPoints(makeGrid(1, 1, 50, 50), { count: 10, stream: [1, 1], weights: null });
	sowPoints(mesh, { count: 10, stream: [1, 1], weights: null });
	assert.deepEqual(sow(7), first);
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

test('a mesh with the same positions and other faces has its own triangles, areas and lengths', () => {
	const places = Float32Array.of(0, 0, 0, 2, 0, 0, 2, 0, 2, 0, 0, 2);
	const whole = makeMesh(places, Uint32Array.of(0, 4), Uint32Array.of(0, 3, 2, 1));
	assert.equal(faceAreas(whole)[0], 4);
	const half = {
		...makeMesh(places, Uint32Array.of(0, 3), Uint32Array.of(0, 2, 1)),
		points: whole.points
	};
	assert.equal(faceAreas(half)[0], 2);
	assert.equal(trianglesOf(half).faces.length, 1);
	const open = makeCurves(places, Uint32Array.of(0, 4), Uint8Array.of(0));
	const closed = {
		...makeCurves(places, Uint32Array.of(0, 4), Uint8Array.of(1)),
		points: open.points
	};
	assert.deepEqual([lengthsAlong(open).lengths[0], lengthsAlong(closed).lengths[0]], [6, 8]);
});
