/** How faces turn across edges. */
import { derive, edgesOf, faceNormals, filled, pollAt, shapeOf } from '../geometry/index.ts';
import type { Mesh } from '../geometry/index.ts';

/** The cosine between the two faces of each edge; 1 where there are not two. */
export function cosinesOf(mesh: Mesh): Float32Array {
	return derive(shapeOf(mesh), 'cosines of edges', () => {
		const { ofCorner, uses } = edgesOf(mesh.topology);
		const normals = faceNormals(mesh);
		const { faceStarts } = mesh.topology;
		const first = filled('int', uses.length, -1);
		const out = filled('float', uses.length, 1);
		for (let f = 0; f + 1 < faceStarts.length; f++) {
			pollAt(f);
			for (let c = faceStarts[f]; c < faceStarts[f + 1]; c++) {
				const e = ofCorner[c];
				const g = first[e];
				if (g < 0) first[e] = f;
				else
					out[e] =
						normals[3 * f] * normals[3 * g] +
						normals[3 * f + 1] * normals[3 * g + 1] +
						normals[3 * f + 2] * normals[3 * g + 2];
			}
		}
		return out;
	});
}
