/** A geometry moved by an affine map: each column by its role. */
import { allocate, copyOf, pollAt, scratch } from './allocate.ts';
import type { Geometry, Instances } from './geometry.ts';
import type { Affine } from './matrix.ts';
import { determinant, identity, product } from './matrix.ts';
import { placeColumn } from './place.ts';
import { PLACE_COLUMNS, Places, PlacesMade } from './places.ts';
import type { Column, Table } from './table.ts';
import { withColumns } from './table.ts';

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

/** Copies moved, their other columns by role. */
function transformCopies({ copies, sources }: Instances, m: Affine): Instances {
	const places = new Places(copies),
		made = new PlacesMade(copies.count);
	const own = identity(),
		whole = identity();
	for (let i = 0; i < copies.count; i++) {
		pollAt(i);
		made.set(i, product(m, places.affine(i, own), whole));
	}
	const others = new Map(copies.columns);
	for (const name of PLACE_COLUMNS) others.delete(name);
	return {
		copies: withColumns(transformTable({ ...copies, columns: others }, m), made.columns()),
		sources
	};
}
