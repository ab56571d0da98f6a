/** A geometry moved by an affine map: each column by its role. */
import { allocate, copyOf, pollAt, scratch } from './allocate.ts';
import type { Geometry, Instances } from './geometry.ts';
import type { Affine } from './matrix.ts';
import { affineOfCopy, decompose, determinant, identity, product } from './matrix.ts';
import { placeColumn, rotationOf } from './place.ts';
import type { Column, Table } from './table.ts';
import { column, withColumns } from './table.ts';

/** Moves every part. Faces are turned round when the map mirrors, so that they stay outward. */
export function transformGeometry(geometry: Geometry, m: Affine): Geometry {
	const mirrored = determinant(m) < 0;
	const mesh = geometry.mesh && {
		...geometry.mesh,
		points: transformTable(geometry.mesh.points, m),
		faces: transformTable(geometry.mesh.faces, m),
		corners: transformTable(geometry.mesh.corners, m),
		edges: geometry.mesh.edges && transformTable(geometry.mesh.edges, m)
	};
	return {
		...geometry,
		mesh: mesh && mirrored ? turnFaces(mesh) : mesh,
		curves: geometry.curves && { ...geometry.curves, points: transformTable(geometry.curves.points, m) },
		points: geometry.points && { points: transformTable(geometry.points.points, m) },
		copies: geometry.copies && transformCopies(geometry.copies, m)
	};
}

/** All columns of a table by their roles; the same table where none of them says where anything is. */
function transformTable(table: Table, m: Affine): Table {
	let columns: Map<string, Column> | null = null;
	for (const [name, source] of table.columns) {
		const moved = placeColumn(source, m);
		if (moved !== source) (columns ??= new Map(table.columns)).set(name, moved);
	}
	return columns ? { ...table, columns } : table;
}

/** The mesh with every face the other way round; corner attributes go with their corners. */
function turnFaces(mesh: NonNullable<Geometry['mesh']>): NonNullable<Geometry['mesh']> {
	const { faceStarts, cornerPoints } = mesh.topology;
	const order = scratch('index', cornerPoints.length);
	for (let f = 0; f + 1 < faceStarts.length; f++) {
		pollAt(f);
		for (let c = faceStarts[f]; c < faceStarts[f + 1]; c++)
			order[c] = faceStarts[f] + faceStarts[f + 1] - 1 - c;
	}
	const turned = allocate('index', cornerPoints.length);
	for (let c = 0; c < order.length; c++) {
		pollAt(c);
		turned[c] = cornerPoints[order[c]];
	}
	const columns = new Map<string, Column>();
	for (const [name, source] of mesh.corners.columns) {
		const width = source.data.length / Math.max(1, mesh.corners.count);
		const data = copyOf(source.data);
		for (let c = 0; c < order.length; c++) {
			pollAt(c);
			for (let k = 0; k < width; k++) data[c * width + k] = source.data[order[c] * width + k];
		}
		columns.set(name, { ...source, data });
	}
	return {
		...mesh,
		topology: { ...mesh.topology, cornerPoints: turned },
		corners: { ...mesh.corners, columns, ids: null },
		// Edges are numbered by first use, which turning changes.
		edges: null
	};
}

/** Copies moved; where the result shears, the full linear parts are kept. */
function transformCopies(instances: Instances, m: Affine): Instances {
	const count = instances.copies.count;
	const position = allocate('float', 3 * count);
	const orientation = allocate('float', 4 * count);
	const scale = allocate('float', 3 * count);
	let linear: Float32Array | null = null;
	const own = identity(),
		whole = identity();
	for (let i = 0; i < count; i++) {
		pollAt(i);
		product(m, affineOfCopy(instances, i, own), whole);
		for (let k = 0; k < 3; k++) position[3 * i + k] = whole[9 + k];
		const parts = linear ? null : decompose(whole);
		if (parts) {
			orientation.set(parts.q, 4 * i);
			scale.set(parts.scale, 3 * i);
		} else if (!linear) {
			linear = allocate('float', 9 * count);
			i = -1;
			continue;
		}
		if (linear) {
			linear.set(whole.subarray(0, 9), 9 * i);
			orientation.set(rotationOf(whole), 4 * i);
			for (let k = 0; k < 3; k++) {
				const c = 3 * k;
				scale[3 * i + k] = Math.sqrt(
					whole[c] * whole[c] + whole[c + 1] * whole[c + 1] + whole[c + 2] * whole[c + 2]
				);
			}
		}
	}
	const others = new Map(instances.copies.columns);
	for (const own of ['position', 'orientation', 'scale']) others.delete(own);
	const moved = transformTable({ ...instances.copies, columns: others }, m);
	const copies = withColumns(moved, {
		position: column('vec3', 'position', position),
		orientation: column('vec4', 'orientation', orientation),
		scale: column('vec3', 'plain', scale)
	});
	return { ...instances, copies, linear };
}
