import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import '../testing/index.ts';
import type { Mesh } from '../geometry/index.ts';
import { edgesOf, faceAreas, makeMesh, positionsOf, volumeOf } from '../geometry/index.ts';
import { makeBox } from './box.ts';
import { Cutter, cutAtValue } from './cut-at-value.ts';
import { makeGrid } from './grid.ts';

const values = (count: number) =>
	fc.array(fc.integer({ min: -8, max: 8 }), { minLength: count, maxLength: count });
const height = fc.integer({ min: -20, max: 20 }).map((x) => x / 10);

/** The areas of the pieces of each face, with the cut where it is and not where single precision puts it. */
function areasOfPieces(mesh: Mesh, of: readonly number[], threshold: number): Float64Array {
	const { points, starts, cornerPoints, faces } = new Cutter(mesh, of, threshold).cut();
	const p = positionsOf(mesh);
	const [a, b, t] = [points.a.view(), points.b.view(), points.t.view()];
	const place = (i: number) =>
		[0, 1, 2].map((k) => p[3 * a[i] + k] + (p[3 * b[i] + k] - p[3 * a[i] + k]) * t[i]);
	const sums = new Float64Array(mesh.faces.count);
	const areas = faceAreas(mesh);
	const pieces = new Uint32Array(mesh.faces.count);
	for (const f of faces) pieces[f]++;
	for (let f = 0; f < faces.length; f++) {
		// A face that is not cut may be bent; what it is cut into is flat.
		if (pieces[faces[f]] === 1) {
			sums[faces[f]] = areas[faces[f]];
			continue;
		}
		const ring = Array.from(cornerPoints.subarray(starts[f], starts[f + 1]), place);
		const n = [0, 0, 0];
		for (let k = 1; k + 1 < ring.length; k++) {
			const [u, v] = [ring[k], ring[k + 1]].map((q) => q.map((x, i) => x - ring[0][i]));
			for (let i = 0; i < 3; i++) {
				const [j, l] = [(i + 1) % 3, (i + 2) % 3];
				n[i] += u[j] * v[l] - u[l] * v[j];
			}
		}
		sums[faces[f]] += Math.sqrt(n[0] ** 2 + n[1] ** 2 + n[2] ** 2) / 2;
	}
	return sums;
}

test('pieces tile every face of a landscape of quads, whatever crosses it', () => {
	fc.assert(
		fc.property(values(16), fc.array(height, { minLength: 16, maxLength: 16 }), (of, heights) => {
			const mesh = makeGrid(3, 3, 3, 3);
			const p = positionsOf(mesh);
			heights.forEach((y, i) => (p[3 * i + 1] = y));
			const areas = faceAreas(mesh);
			areasOfPieces(mesh, of, 0.5).forEach((area, f) =>
				assert.ok(Math.abs(area / areas[f] - 1) < 1e-9, `face ${f}: ${area} of ${areas[f]}`)
			);
			areasOfPieces(mesh, of, of[5]).forEach((area, f) => assert.ok(Math.abs(area / areas[f] - 1) < 1e-9));
		}),
		{ numRuns: 300 }
	);
});

test('pieces tile a face with dents and places on straight sides', () => {
	const star: [number, number][] = [
		[0, 0],
		[2, 0],
		[4, 0],
		[4, 4],
		[3, 4],
		[3, 1],
		[2, 1],
		[1, 1],
		[1, 4],
		[0, 4],
		[0, 2]
	];
	const mesh = makeMesh(
		Float32Array.from(star.flatMap(([x, y]) => [x, y, 0])),
		Uint32Array.of(0, star.length),
		Uint32Array.from(star.keys())
	);
	fc.assert(
		fc.property(values(star.length), (of) => {
			const [area] = areasOfPieces(mesh, of, 0.5);
			assert.ok(Math.abs(area - 10) < 1e-9, `${area}`);
		}),
		{ numRuns: 300 }
	);
});

test('what is closed stays closed and keeps its volume, and every piece lies on one side', () => {
	fc.assert(
		fc.property(
			fc.integer({ min: 1, max: 3 }),
			fc.infiniteStream(fc.integer({ min: -8, max: 8 })),
			(n, stream) => {
				const mesh = makeBox({ size: [2, 3, 1], cells: [n, n, n], edge: 0, segments: 1 });
				const of = Float32Array.from({ length: mesh.points.count }, () => stream.next().value as number);
				const cut = cutAtValue(mesh, of, 0);
				assert.ok(edgesOf(cut.topology).uses.every((uses) => uses === 2));
				assert.ok(Math.abs(volumeOf(cut) - 6) < 1e-5);
				const sides = cut.faces.columns.get('side')!.data;
				const signs = (point: number) => (point < of.length ? Math.sign(of[point]) : 0);
				for (let f = 0; f < sides.length; f++) {
					const { faceStarts, cornerPoints } = cut.topology;
					for (const point of cornerPoints.subarray(faceStarts[f], faceStarts[f + 1]))
						assert.ok(signs(point) === 0 || signs(point) > 0 === !!sides[f]);
				}
			}
		),
		{ numRuns: 200 }
	);
});
