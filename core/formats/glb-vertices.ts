/** Vertices for a format that knows only them: corners that agree in all that is written share one. */
import type { Column, Mesh } from '../geometry/index.ts';
import { WIDTH, cornerNormals, trianglesOf, pollAt } from '../geometry/index.ts';

/** The triangles of one material, over vertices of their own. */
export interface VertexGroup {
	/** The number of the material; -1 where the mesh has none. */
	material: number;
	/** For each vertex a corner that it stands for, that corner's point, and its face. */
	corners: Uint32Array;
	points: Uint32Array;
	faces: Uint32Array;
	/** Three vertices a triangle. */
	indices: Uint32Array;
}

/**
 * One group for each material. Corners that share point, normal, UV and the columns given share a vertex; hidden faces
 * are left out.
 * @param materials how many materials there are.
 */
export function vertexGroups(
	mesh: Mesh,
	materials: number,
	onCorners: ReadonlyMap<string, Column>,
	onFaces: ReadonlyMap<string, Column>
): VertexGroup[] {
	const { corners, faces } = trianglesOf(mesh);
	const materialOf = mesh.faces.columns.get('material')?.data;
	const shown = mesh.faces.columns.get('shown')?.data;
	const triangles = new Map<number, number[]>();
	for (let t = 0; t < faces.length; t++) {
		pollAt(t);
		if (shown && !shown[faces[t]]) continue;
		const m = materialOf ? materialOf[faces[t]] : materials ? 0 : -1;
		const group = triangles.get(m);
		if (group) group.push(t);
		else triangles.set(m, [t]);
	}
	const normals = cornerNormals(mesh);
	const uv = mesh.corners.columns.get('uv')?.data as Float32Array | undefined;
	const faceOf = faceOfCorner(mesh);
	const { cornerPoints } = mesh.topology;
	const alike = (a: number, b: number): boolean =>
		same(a, b, normals, uv) &&
		equalRows(onCorners, a, b) &&
		(onFaces.size === 0 || equalRows(onFaces, faceOf[a], faceOf[b]));
	return [...triangles]
		.sort((a, b) => a[0] - b[0])
		.map(([material, own]) => {
			const vertices: number[] = [];
			const indices = new Uint32Array(own.length * 3);
			const firstOf = new Map<number, number[]>();
			own.forEach((t, i) => {
				for (let k = 0; k < 3; k++) {
					const c = corners[3 * t + k];
					const point = cornerPoints[c];
					let list = firstOf.get(point);
					if (!list) firstOf.set(point, (list = []));
					let vertex = list.find((v) => alike(vertices[v], c));
					if (vertex === undefined) {
						vertex = vertices.push(c) - 1;
						list.push(vertex);
					}
					indices[3 * i + k] = vertex;
				}
			});
			return {
				material,
				indices,
				corners: Uint32Array.from(vertices),
				points: Uint32Array.from(vertices, (c) => cornerPoints[c]),
				faces: Uint32Array.from(vertices, (c) => faceOf[c])
			};
		});
}

function faceOfCorner({ topology: { faceStarts, cornerPoints } }: Mesh): Uint32Array {
	const out = new Uint32Array(cornerPoints.length);
	for (let f = 0; f + 1 < faceStarts.length; f++) {
		pollAt(f);
		out.fill(f, faceStarts[f], faceStarts[f + 1]);
	}
	return out;
}

function equalRows(columns: ReadonlyMap<string, Column>, a: number, b: number): boolean {
	for (const { type, data } of columns.values())
		for (let k = 0, width = WIDTH[type]; k < width; k++)
			if (data[a * width + k] !== data[b * width + k]) return false;
	return true;
}

function same(a: number, b: number, normals: Float32Array, uv: Float32Array | undefined): boolean {
	for (let k = 0; k < 3; k++) if (Math.abs(normals[3 * a + k] - normals[3 * b + k]) > 1e-6) return false;
	return !uv || (uv[2 * a] === uv[2 * b] && uv[2 * a + 1] === uv[2 * b + 1]);
}
