import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import '../testing/index.ts';
import { edgesOf, faceAreas, floats, positionsOf } from '../geometry/index.ts';
import type { Mesh } from '../geometry/index.ts';
import { quaternion } from '../math/index.ts';
import { makeBox } from './box.ts';
import { makeGrid } from './grid.ts';
import type { FromMesh } from './points-of-mesh.ts';
import { pointsOfMesh } from './points-of-mesh.ts';

const heights = fc.array(fc.integer({ min: -20, max: 20 }), { minLength: 20, maxLength: 20 });
const size = fc.constantFrom(1e-3, 1, 1e4);
/** A landscape of quads, from a millimetre to ten kilometres. */
const landscapes = fc.tuple(heights, size).map(([rows, scale]): Mesh => {
	const mesh = makeGrid(4 * scale, 3 * scale, 4, 3);
	const p = positionsOf(mesh);
	rows.forEach((y, i) => (p[3 * i + 1] = (y / 20) * scale));
	return mesh;
});
const WAYS: readonly FromMesh[] = ['points', 'edges', 'faces'];
const countOf = (mesh: Mesh, from: FromMesh) =>
	from === 'points'
		? mesh.points.count
		: from === 'edges'
			? edgesOf(mesh.topology).uses.length
			: mesh.faces.count;

test('one for each element, with a frame whose up is the normal', () => {
	fc.assert(
		fc.property(landscapes, fc.constantFrom(...WAYS), (mesh, from) => {
			const points = pointsOfMesh(mesh, from);
			assert.equal(points.count, countOf(mesh, from));
			const [normal, tangent, q] = ['normal', 'tangent', 'orientation'].map((name) => floats(points, name));
			const up = [0, 0, 0];
			for (let i = 0; i < points.count; i++) {
				const n = normal.subarray(3 * i, 3 * i + 3),
					t = tangent.subarray(3 * i, 3 * i + 3);
				assert.ok(Math.abs(Math.hypot(...n) - 1) < 1e-5 && Math.abs(Math.hypot(...t) - 1) < 1e-5);
				quaternion.rotate(up, 0, q[4 * i], q[4 * i + 1], q[4 * i + 2], q[4 * i + 3], 0, 1, 0);
				for (let k = 0; k < 3; k++) assert.ok(Math.abs(up[k] - n[k]) < 1e-5);
			}
		})
	);
});

test('edge middles lie between their ends, lengths and areas are those of the mesh', () => {
	fc.assert(
		fc.property(landscapes, (mesh) => {
			const p = positionsOf(mesh);
			const edges = pointsOfMesh(mesh, 'edges');
			const ends = edgesOf(mesh.topology).points;
			const [places, lengths] = ['position', 'length'].map((name) => floats(edges, name));
			for (let e = 0; e < edges.count; e++) {
				const [a, b] = [0, 1].map((k) => p.subarray(3 * ends[2 * e + k], 3 * ends[2 * e + k] + 3));
				const length = Math.hypot(b[0] - a[0], b[1] - a[1], b[2] - a[2]);
				assert.ok(Math.abs(lengths[e] - length) < 1e-6 * length);
				for (let k = 0; k < 3; k++)
					assert.ok(Math.abs(places[3 * e + k] - (a[k] + b[k]) / 2) < 1e-6 * (length + Math.abs(a[k])));
			}
			const faces = pointsOfMesh(mesh, 'faces');
			const areas = faceAreas(mesh);
			const [area, side] = ['area', 'size'].map((name) => floats(faces, name));
			areas.forEach((wanted, f) => {
				assert.ok(Math.abs(area[f] / wanted - 1) < 1e-6);
				assert.ok(Math.abs(side[f] ** 2 / wanted - 1) < 1e-6);
			});
		})
	);
});

test('of a box points look away from its middle, and attributes come along', () => {
	const box = makeBox({ size: [2, 2, 2], cells: [1, 1, 1], edge: 0, segments: 1 });
	for (const from of WAYS) {
		const points = pointsOfMesh(box, from);
		const [p, n] = ['position', 'normal'].map((name) => floats(points, name));
		for (let i = 0; i < p.length; i += 3)
			assert.ok(p[i] * n[i] + p[i + 1] * n[i + 1] + p[i + 2] * n[i + 2] > 0.9);
		assert.ok(!points.columns.has('material'));
	}
});
