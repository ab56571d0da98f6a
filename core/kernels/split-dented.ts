/** Faces that are not seen whole from their middles, in triangles: whatever is built around a middle would lie over itself. */
import {
	Growing,
	allocate,
	gatherTable,
	pollAt,
	positionsOf,
	scratch,
	trianglesOf
} from '../geometry/index.ts';
import type { Mesh } from '../geometry/index.ts';

/**
 * @param chosen one byte for each face: only these are split; all where it is null.
 * @returns the same mesh where nothing is dented.
 */
export function splitDented(mesh: Mesh, chosen: Uint8Array | null): Mesh {
	const { faceStarts, pointCount } = mesh.topology;
	const faceCount = faceStarts.length - 1;
	const isDented = scratch('byte', faceCount);
	let dented = 0;
	for (let f = 0; f < faceCount; f++) {
		pollAt(f);
		if ((chosen && !chosen[f]) || isSeenFromMiddle(mesh, f)) continue;
		isDented[f] = 1;
		dented++;
	}
	if (!dented) return mesh;
	const corners = new Growing('index'),
		faces = new Growing('index'),
		starts = new Growing('index');
	starts.push(0);
	const triangles = trianglesOf(mesh);
	for (let f = 0, t = 0; f < faceCount; f++) {
		const first = t;
		while (t < triangles.faces.length && triangles.faces[t] === f) t++;
		const splits = isDented[f] === 1;
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
	const rows = corners.take();
	const cornerPoints = allocate('index', rows.length);
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
	let [mx, my, mz] = [0, 0, 0];
	for (let k = start; k < start + size; k++) {
		const a = 3 * cornerPoints[k];
		mx += p[a] / size;
		my += p[a + 1] / size;
		mz += p[a + 2] / size;
	}
	// Twice: first which way the whole face turns, then whether each side turns so.
	let [nx, ny, nz] = [0, 0, 0];
	for (let round = 0; round < 2; round++)
		for (let k = 0; k < size; k++) {
			const a = 3 * cornerPoints[start + k],
				b = 3 * cornerPoints[k + 1 < size ? start + k + 1 : start];
			const ux = p[a] - mx,
				uy = p[a + 1] - my,
				uz = p[a + 2] - mz,
				vx = p[b] - mx,
				vy = p[b + 1] - my,
				vz = p[b + 2] - mz;
			const x = uy * vz - uz * vy,
				y = uz * vx - ux * vz,
				z = ux * vy - uy * vx;
			if (round === 0) {
				nx += x;
				ny += y;
				nz += z;
			} else if (x * nx + y * ny + z * nz <= -1e-9 * (nx * nx + ny * ny + nz * nz)) return false;
		}
	return true;
}
