/** Points sown on a mesh as a table, with what they have from the surface. */
import type { Column, Mesh, Table } from '../geometry/index.ts';
import {
	WIDTH,
	allocate,
	column,
	cornerNormals,
	gatherColumn,
	pollAt,
	trianglesOf
} from '../geometry/index.ts';
import type { SowOptions, Sown } from './sow-points.ts';
import { sowPoints } from './sow-points.ts';
import { pointsOfTriangles } from './triangle-records.ts';
import type { Blend } from './triangle-records.ts';

export interface SownTableOptions extends Pick<
	SowOptions,
	'count' | 'from' | 'stream' | 'weights' | 'areas'
> {
	/** Whether points stand straight up, and not off the surface. */
	upright: boolean;
}

/**
 * Sows points: with `normal`, `orientation`, and the surface's own attributes, blended where they blend; those of corners
 * come before those of points with the same name, and these before those of faces.
 */
export function sownTable(mesh: Mesh, { upright, ...options }: SownTableOptions): Table {
	const attributes = attributesOf(mesh);
	const sown = sowPoints(mesh, {
		...options,
		normals: cornerNormals(mesh),
		orientations: !upright,
		blends: attributes.blends,
		faces: ofFaces(mesh).length > 0,
		triangles: attributes.gathers.length > 0
	});
	return { count: sown.positions.length / 3, columns: columnsOf(mesh, sown, attributes), ids: sown.ids };
}

/** An attribute of the surface that blends across triangles. */
interface NamedBlend extends Blend {
	name: string;
	column: Column;
}
/** One that does not: each point takes that of its triangle’s first corner. */
interface NamedGather {
	name: string;
	column: Column;
	rows: Uint32Array;
}

const OWN = new Set(['position', 'normal', 'orientation']);

/** The surface’s own attributes: those of corners come before those of points with the same name. */
function attributesOf(mesh: Mesh): { blends: NamedBlend[]; gathers: NamedGather[] } {
	const blends: NamedBlend[] = [],
		gathers: NamedGather[] = [];
	const taken = new Set(OWN);
	for (const [table, rowsOf] of [
		[mesh.corners, () => trianglesOf(mesh).corners],
		[mesh.points, () => pointsOfTriangles(mesh)]
	] as const) {
		const rows = [...table.columns.keys()].some((name) => !taken.has(name)) ? rowsOf() : new Uint32Array();
		for (const [name, column] of table.columns) {
			if (taken.has(name)) continue;
			taken.add(name);
			const { data } = column;
			if (data instanceof Float32Array && column.role !== 'id')
				blends.push({ name, column, source: data, width: WIDTH[column.type], rows });
			else gathers.push({ name, column, rows });
		}
	}
	return { blends, gathers };
}

/** The attributes that points have from their faces. */
const ofFaces = (mesh: Mesh) => [...mesh.faces.columns].filter(([name]) => name !== 'material');

function columnsOf(
	mesh: Mesh,
	sown: Sown,
	{ blends, gathers }: { blends: readonly NamedBlend[]; gathers: readonly NamedGather[] }
): Map<string, Column> {
	const n = sown.positions.length / 3;
	const columns = new Map<string, Column>();
	columns.set('position', column('vec3', 'position', sown.positions));
	columns.set('normal', column('vec3', 'normal', sown.normals!));
	columns.set('orientation', column('vec4', 'orientation', sown.orientations ?? standing(n)));
	blends.forEach(({ name, column }, i) => columns.set(name, { ...column, data: sown.blended[i] }));
	for (const { name, column, rows } of gathers)
		columns.set(
			name,
			gatherColumn(
				column,
				sown.triangles!.map((t) => rows[3 * t])
			)
		);
	for (const [name, source] of ofFaces(mesh))
		if (!columns.has(name)) columns.set(name, gatherColumn(source, sown.faces!));
	return columns;
}

/** Orientations that turn nothing. */
function standing(count: number): Float32Array {
	const all = allocate('float', 4 * count);
	for (let i = 3; i < all.length; i += 4) {
		pollAt(i);
		all[i] = 1;
	}
	return all;
}
