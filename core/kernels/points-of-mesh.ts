/** A point for each point, edge or face of a mesh, with its frame. */
import { quaternion } from '../math/index.ts';
import type { Column, Mesh, Table } from '../geometry/index.ts';
import {
	allocate,
	column,
	edgesOf,
	faceAreas,
	faceNormals,
	makeTable,
	pointNormals,
	pollAt,
	positionsOf,
	scratch
} from '../geometry/index.ts';

export type FromMesh = 'points' | 'edges' | 'faces';

/** Places and normals, three numbers each, and the way along which each lies. */
interface Places {
	position: Float32Array;
	normal: Float32Array;
	/** Not of length 1 yet. */
	along: Float64Array;
	/** What the elements know beside their frame. */
	columns: Record<string, Column>;
}

/** Points with normal, tangent and orientation, and the attributes of what they come from; their ids are those of it. */
export function pointsOfMesh(mesh: Mesh, from: FromMesh): Table {
	const table = from === 'points' ? mesh.points : from === 'faces' ? mesh.faces : mesh.edges;
	const { position, normal, along, columns } = PLACES[from](mesh);
	const count = position.length / 3;
	const orientation = allocate('float', 4 * count),
		tangent = allocate('float', 3 * count);
	for (let i = 0, o = 0; i < count; i++, o += 3) {
		pollAt(i);
		const [x, y, z] = [along[o], along[o + 1], along[o + 2]];
		quaternion.lookAlong(orientation, 4 * i, normal[o], normal[o + 1], normal[o + 2], x, y, z);
		const long = Math.sqrt(x * x + y * y + z * z) || 1;
		for (let k = 0; k < 3; k++) tangent[o + k] = along[o + k] / long;
	}
	const own = [...(table?.columns ?? [])].filter(([name]) => name !== 'material');
	return makeTable(
		count,
		{
			...Object.fromEntries(own),
			position: column('vec3', 'position', position),
			normal: column('vec3', 'normal', normal),
			tangent: column('vec3', 'direction', tangent),
			orientation: column('vec4', 'orientation', orientation),
			...columns
		},
		table?.ids ?? null
	);
}

const PLACES: Record<FromMesh, (mesh: Mesh) => Places> = {
	points(mesh) {
		const along = scratch('double', 3 * mesh.points.count);
		for (let i = 2; i < along.length; i += 3) {
			pollAt(i);
			along[i] = 1;
		}
		return { position: positionsOf(mesh), normal: pointNormals(mesh), along, columns: {} };
	},

	edges(mesh) {
		const p = positionsOf(mesh),
			normals = pointNormals(mesh);
		const { points: ends, uses } = edgesOf(mesh.topology);
		const count = uses.length;
		const position = allocate('float', 3 * count),
			normal = allocate('float', 3 * count),
			along = scratch('double', 3 * count);
		const length = allocate('float', count);
		for (let e = 0, o = 0; e < count; e++, o += 3) {
			pollAt(e);
			const a = 3 * ends[2 * e],
				b = 3 * ends[2 * e + 1];
			let across = 0,
				size = 0;
			for (let k = 0; k < 3; k++) {
				const step = p[b + k] - p[a + k],
					sum = normals[a + k] + normals[b + k];
				position[o + k] = (p[a + k] + p[b + k]) / 2;
				along[o + k] = step;
				across += sum * sum;
				size += step * step;
			}
			const long = Math.sqrt(across) || 1;
			for (let k = 0; k < 3; k++) normal[o + k] = (normals[a + k] + normals[b + k]) / long;
			length[e] = Math.sqrt(size);
		}
		return { position, normal, along, columns: { length: column('float', 'plain', length) } };
	},

	faces(mesh) {
		const p = positionsOf(mesh);
		const { faceStarts, cornerPoints } = mesh.topology;
		const areas = faceAreas(mesh);
		const count = mesh.faces.count;
		const position = allocate('float', 3 * count),
			along = scratch('double', 3 * count);
		const size = allocate('float', count),
			area = allocate('float', count);
		for (let f = 0, o = 0; f < count; f++, o += 3) {
			pollAt(f);
			const start = faceStarts[f],
				corners = faceStarts[f + 1] - start;
			for (let c = start; c < start + corners; c++)
				for (let k = 0; k < 3; k++) position[o + k] += p[3 * cornerPoints[c] + k] / corners;
			const a = 3 * cornerPoints[start],
				b = 3 * cornerPoints[start + 1];
			for (let k = 0; k < 3; k++) along[o + k] = p[b + k] - p[a + k];
			area[f] = areas[f];
			size[f] = Math.sqrt(areas[f]);
		}
		return {
			position,
			normal: faceNormals(mesh),
			along,
			columns: { size: column('float', 'plain', size), area: column('float', 'plain', area) }
		};
	}
};
