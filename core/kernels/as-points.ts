/** Every point of a geometry as loose points: of meshes with normals, of curves with tangents, each turned to follow. */
import { quaternion } from '../math/index.ts';
import type { Column, Geometry, PartName, Table } from '../geometry/index.ts';
import {
	PART_NAMES,
	allocate,
	column,
	derive,
	geometryOf,
	makePoints,
	pointNormals,
	stackTables,
	withColumns,
	pollAt
} from '../geometry/index.ts';
import { framesOf } from './frames.ts';

/** What each part gives; null where it is not there, or has no points. */
const POINTS: Readonly<Record<PartName, (geometry: Geometry) => Table | null>> = {
	mesh: ({ mesh }) => mesh && turned(mesh.points, pointNormals(mesh), null),
	curves: ({ curves }) => curves && turned(curves.points, null, framesOf(curves).tangents),
	points: ({ points }) => points && points.points,
	copies: () => null
};

/**
 * Loose points for all points of a geometry. Copies are not looked into; where there is nothing else, their own places are
 * the points. Kept with the geometry.
 */
export function asPoints(geometry: Geometry): Geometry {
	return derive(geometry, 'as points', () => {
		const tables = PART_NAMES.flatMap((name) => POINTS[name](geometry) ?? []);
		if (!tables.length)
			tables.push(
				geometry.copies
					? withColumns(geometry.copies.copies, { scale: null, source: null, shown: null })
					: makePoints(new Float32Array(0)).points
			);
		if (tables.length === 1) return geometryOf({ points: { points: tables[0] } });
		return geometryOf({
			points: { points: stackTables(tables.map((table, i) => ({ table, salt: i + 1 }))) }
		});
	});
}

function turned(table: Table, normals: Float32Array | null, tangents: Float32Array | null): Table {
	const orientation = allocate('float', 4 * table.count);
	for (let i = 0; i < table.count; i++) {
		pollAt(i);
		const k = 3 * i;
		if (normals)
			quaternion.lookAlong(orientation, 4 * i, normals[k], normals[k + 1], normals[k + 2], 0, 0, 1);
		else if (tangents)
			quaternion.lookAlong(orientation, 4 * i, 0, 1, 0, tangents[k], tangents[k + 1], tangents[k + 2]);
	}
	const own: Record<string, Column> = table.columns.has('orientation')
		? {}
		: { orientation: column('vec4', 'orientation', orientation) };
	return withColumns(table, {
		...own,
		...(normals && { normal: column('vec3', 'normal', normals) }),
		...(tangents && { tangent: column('vec3', 'direction', tangents) })
	});
}
