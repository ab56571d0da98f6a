/** Faces that are not seen whole from their middles, in triangles: whatever is built around a middle would lie over itself. */
import { Growing, gatherTable, pollAt, positionsOf, trianglesOf } from '../geometry/index.ts';
import type { Mesh } from '../geometry/index.ts';

/**
 * @param chosen one byte for each face: only these are split; all where it is null.
 * @returns the same mesh where nothing is dented.
 */
export function splitDented(mesh: Mesh, chosen: Uint8Array | null): Mesh {
	const { faceStarts, pointCount } = mesh.topology;
	const faceCount = faceStarts.length - 1;
	let dented = 0;
	const isDented = (f: number) => (!chosen || chosen[f] === 1) && !isSeenFromMiddle(mesh, f);
	const corners = new Growing('index'),
		faces = new Growing('index'),
		starts = new Growing('index');
	starts.push(0);
	const triangles = trianglesOf(mesh);
	for (let f = 0, t = 0; f < faceCount; f++) {
		pollAt(f);
		const first = t;
		while (t < triangles.faces.length && triangles.faces[t] === f) t++;
		const splits = isDented(f);
		if (splits) dented++;
		for (let c = splits ? 3 * first : faceStarts[f]; c < (splits ? 3 * t : faceStarts[f + 1]); c++) {
			corners.push(splits ? triangles.corners[c] : c);
			if (!splits || c % 3 !== 2) continue;
			starts.push(corners.length);
			faces.push(f);
		}
		if (splits) continue;
		starts.push(corners.length);
		faces.push(f);
	}
	if (!dented) return mesh;
	const rows = corners.take();
	const cornerPoints = corners.take();
	for (let c = 0; c < rows.length; c++) {
		pollAt(c);
		cornerPoints[c] = mesh.topology.cornerPoints[rows[c]];
	}
	return {
		topology: { pointCount, faceStarts: starts.take(), cornerPoints },
		points: mesh.points,
		corners: gatherTable(mesh.corners, rows),
		faces: gatherTable(mesh.faces, faces.take()),
		// Edges are numbered by first use, and there are new ones.
		edges: null
	};
}

/** Whether every side of a face turns the same way as the face, seen from the mean of its points. */
function isSeenFromMiddle(mesh: Mesh, f: number): boolean {
	const { faceStarts, cornerPoints } = mesh.topology;
	const start = faceStarts[f],
		size = faceStarts[f + 1] - start;
	if (size < 4) return true;
	const p = positionsOf(mesh);
	const middle = [0, 0, 0];
	for (let k = 0; k < size; k++)
		for (let i = 0; i < 3; i++) middle[i] += p[3 * cornerPoints[start + k] + i] / size;
	const turns: number[][] = [];
	const n = [0, 0, 0];
	for (let k = 0; k < size; k++) {
		const a = 3 * cornerPoints[start + k],
			b = 3 * cornerPoints[start + ((k + 1) % size)];
		const [ux, uy, uz] = [p[a] - middle[0], p[a + 1] - middle[1], p[a + 2] - middle[2]];
		const [vx, vy, vz] = [p[b] - middle[0], p[b + 1] - middle[1], p[b + 2] - middle[2]];
		const turn = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
		turns.push(turn);
		for (let i = 0; i < 3; i++) n[i] += turn[i];
	}
	const square = n[0] * n[0] + n[1] * n[1] + n[2] * n[2];
	return turns.every((turn) => turn[0] * n[0] + turn[1] * n[1] + turn[2] * n[2] > -1e-9 * square);
}
