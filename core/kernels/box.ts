/** A box with cells on its sides and edges that may be chamfered or rounded. */
import { pollAt } from '../geometry/index.ts';
import { PI, sin } from '../math/index.ts';
import type { Mesh } from '../geometry/index.ts';
import { MeshBuilder } from './mesh-builder.ts';

export interface BoxOptions {
	/** Outer sizes in metres. */
	size: readonly [number, number, number];
	/** Cells along each axis, at least 1. */
	cells: readonly [number, number, number];
	/** Radius of the edges in metres, at most half of the smallest size. */
	edge: number;
	/** Pieces round an edge: 1 is a chamfer. */
	segments: number;
}

/**
 * The box around the origin. Each point is named by its cell lines within the inner box (whose corners are the centres of
 * the rounding) and by its direction from there, so that sides, edges and corners share their points.
 */
export function makeBox({ size, cells, edge, segments }: BoxOptions): Mesh {
	const radius = Math.max(0, Math.min(edge, size[0] / 2, size[1] / 2, size[2] / 2));
	const n = radius > 0 ? segments : 0;
	const builder = new MeshBuilder();
	/** `at` are cell lines, `turn` counts of steps towards each axis with sum n. */
	const point = (at: readonly number[], turn: readonly number[]): number => {
		const key =
			((((at[0] * (cells[1] + 1) + at[1]) * (cells[2] + 1) + at[2]) * (n + 1) + turn[0]) * (n + 1) +
				turn[1]) *
				(n + 1) +
			turn[2];
		return builder.keyed(key, () => {
			const d = turn.map((steps) => (n ? sin((steps / n) * (PI / 2)) : 0));
			const length = Math.sqrt(d[0] * d[0] + d[1] * d[1] + d[2] * d[2]) || 1;
			return [0, 1, 2].map((k) => {
				const half = size[k] / 2 - radius;
				const side = at[k] === 0 ? -1 : 1;
				return -half + (2 * half * at[k]) / cells[k] + (side * radius * d[k]) / length;
			}) as [number, number, number];
		});
	};
	const add = (points: number[], uvs: [number, number][], flip: boolean) =>
		flip ? builder.face([...points].reverse(), [...uvs].reverse()) : builder.face(points, uvs);
	const full = (axis: number) => [0, 1, 2].map((k) => (k === axis ? n : 0));
	const place = (axis: number, a: number, other: number, b: number, third: number, c: number) => {
		const at = [0, 0, 0];
		at[axis] = a;
		at[other] = b;
		at[third] = c;
		return at;
	};
	for (let axis = 0; axis < 3; axis++) {
		const u = (axis + 1) % 3,
			v = (axis + 2) % 3;
		for (const end of [0, cells[axis]])
			for (let i = 0; i < cells[u]; i++) {
				pollAt(i);
				for (let j = 0; j < cells[v]; j++) {
					const ring = [
						[i, j],
						[i + 1, j],
						[i + 1, j + 1],
						[i, j + 1]
					];
					add(
						ring.map(([a, b]) => point(place(axis, end, u, a, v, b), full(axis))),
						ring.map(([a, b]) => [a / cells[u], b / cells[v]]),
						end === 0
					);
				}
			}
		// The four edges that run along this axis, each turning from u to v.
		for (const a of [0, cells[u]])
			for (const b of [0, cells[v]])
				for (let k = 0; k < cells[axis]; k++) {
					pollAt(k);
					for (let s = 0; s < n; s++) {
						const turn = (steps: number) => [0, 1, 2].map((x) => (x === u ? n - steps : x === v ? steps : 0));
						const ring = [
							[k, s],
							[k, s + 1],
							[k + 1, s + 1],
							[k + 1, s]
						];
						add(
							ring.map(([line, steps]) => point(place(axis, line, u, a, v, b), turn(steps))),
							ring.map(([line, steps]) => [line / cells[axis], steps / n]),
							(a === 0) !== (b === 0)
						);
					}
				}
	}
	for (const x of [0, cells[0]])
		for (const y of [0, cells[1]])
			for (const z of [0, cells[2]]) {
				const flip = [x, y, z].filter((end) => end === 0).length % 2 === 1;
				const corner = (i: number, j: number) => point([x, y, z], [i, j, n - i - j]);
				for (let i = 0; i < n; i++) {
					pollAt(i);
					for (let j = 0; i + j < n; j++) {
						const up = [corner(i, j), corner(i + 1, j), corner(i, j + 1)];
						add(
							up,
							[
								[i / n, j / n],
								[(i + 1) / n, j / n],
								[i / n, (j + 1) / n]
							],
							flip
						);
						if (i + j + 2 > n) continue;
						const down = [corner(i + 1, j), corner(i + 1, j + 1), corner(i, j + 1)];
						add(
							down,
							[
								[(i + 1) / n, j / n],
								[(i + 1) / n, (j + 1) / n],
								[i / n, (j + 1) / n]
							],
							flip
						);
					}
				}
			}
	return builder.mesh();
}
