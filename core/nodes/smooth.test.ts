/** Smooth and flat shading: normals by the angle that faces say, the same in the View and in files. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { cornerNormals, faceNormals } from '../geometry/index.ts';
import type { Mesh } from '../geometry/index.ts';
import { readGlb, writeGlb } from '../formats/index.ts';
import { evaluateAll, generator } from '../testing/index.ts';

/** How many different normals meet at each point. */
function normalsAt(mesh: Mesh): number[] {
	const normals = cornerNormals(mesh);
	const at = Array.from({ length: mesh.points.count }, () => new Set<string>());
	mesh.topology.cornerPoints.forEach((point, c) =>
		at[point].add([0, 1, 2].map((k) => normals[3 * c + k].toFixed(4)).join())
	);
	return at.map((set) => set.size);
}
const round = (sides: number) =>
	evaluateAll(
		generator([
			['line', 'way', { from: [0, 0, 0], to: [4, 0, 0], points: 3 }],
			['tube', 'hose', { segments: sides, radius: 0.2 }, { curve: 'way.curve' }]
		])
	).geometry('hose').mesh!;

test('a tube of any number of sides is smooth around, and sharp at its caps', () => {
	for (const sides of [3, 4, 6, 8, 9, 16, 40]) {
		const mesh = round(sides);
		const counts = normalsAt(mesh);
		counts.forEach((count, p) => {
			const isEnd = p < sides || p >= 2 * sides;
			assert.equal(count, isEnd ? 2 : 1, `point ${p} of ${sides} sides`);
		});
		// Normals point away from the middle line.
		const normals = cornerNormals(mesh);
		const p = mesh.points.columns.get('position')!.data;
		mesh.topology.cornerPoints.slice(0, 4 * sides).forEach((point, c) => {
			const out = (p[3 * point + 1] * normals[3 * c + 1] + p[3 * point + 2] * normals[3 * c + 2]) / 0.2;
			assert.ok(out > 0.999, `${out} at corner ${c}`);
		});
	}
});

test('a bend that turns more than the sides do stays sharp', () => {
	const mesh = evaluateAll(
		generator([
			[
				'draw-curve',
				'way',
				{
					path: { path: [{ at: [0, 0, 0] }, { at: [2, 0, 0] }, { at: [2, 0, 2] }] },
					type: 'straight',
					segments: 1
				}
			],
			['tube', 'pipe', { segments: 8, radius: 0.1, caps: false }, { curve: 'way.curve' }]
		])
	).geometry('pipe').mesh!;
	const counts = normalsAt(mesh);
	assert.ok(
		counts.slice(8, 16).some((count) => count > 1),
		counts.join()
	);
});

test('Smooth normals makes flat and smooth, by face, and files have it', () => {
	const made = (angle: unknown) =>
		evaluateAll(
			generator([
				['sphere', 'ball', { segments: 8, rows: 6 }],
				['smooth-normals', 'shaded', { angle }, { geometry: 'ball.mesh' }]
			])
		).geometry('shaded');
	const flat = made(0);
	const [corners, faces] = [cornerNormals(flat.mesh!), faceNormals(flat.mesh!)];
	const { faceStarts } = flat.mesh!.topology;
	for (let f = 0; f + 1 < faceStarts.length; f++)
		for (let c = faceStarts[f]; c < faceStarts[f + 1]; c++)
			for (let k = 0; k < 3; k++) assert.ok(Math.abs(corners[3 * c + k] - faces[3 * f + k]) < 1e-6);
	assert.ok(normalsAt(made(180).mesh!).every((count) => count === 1));
	// The smaller angle of two faces counts: around one flat face all edges are sharp.
	const one = made({ formula: 'min(180, 180 * abs(index - 20))', streams: [] }).mesh!;
	const sharp = normalsAt(one).filter((count) => count > 1).length;
	assert.equal(sharp, 4);
	for (const geometry of [flat, made(180)]) {
		const read = readGlb(writeGlb(geometry), 'ball.glb').geometry.mesh!;
		const wanted = Math.max(...normalsAt(geometry.mesh!));
		const written = read.corners.columns.get('normal');
		assert.ok(written, 'normals are written');
		const at = new Map<string, Set<string>>();
		const p = read.points.columns.get('position')!.data;
		read.topology.cornerPoints.forEach((point, c) => {
			const place = [0, 1, 2].map((k) => p[3 * point + k].toFixed(4)).join();
			if (!at.has(place)) at.set(place, new Set());
			at.get(place)!.add([0, 1, 2].map((k) => written.data[3 * c + k].toFixed(3)).join());
		});
		assert.equal(Math.max(...[...at.values()].map((set) => set.size)), wanted);
	}
});
