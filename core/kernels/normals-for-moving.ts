/** Normals for what moves along them. */
import { quaternion } from '../math/index.ts';
import type { Geometry, Part, Table } from '../geometry/index.ts';
import { allocate, pointNormals, pollAt } from '../geometry/index.ts';

/** The normals along which the points of a part go; upward where it has none. */
export function normalsForMoving(
	geometry: Geometry,
	part: Part,
	table: Table,
	warn: (message: string) => void
): Float32Array {
	if (part === 'mesh') return pointNormals(geometry.mesh!);
	const own = table.columns.get('normal');
	if (own?.type === 'vec3') return own.data as Float32Array;
	const normals = allocate('float', 3 * table.count);
	const turns = table.columns.get('orientation')?.data;
	if (!turns) {
		warn(`${part === 'curves' ? 'Curves' : 'These points'} have no normals; they were moved upward.`);
		for (let i = 0; i < table.count; i++) {
			pollAt(i);
			normals[3 * i + 1] = 1;
		}
	} else
		for (let i = 0; i < table.count; i++) {
			pollAt(i);
			quaternion.rotate(
				normals,
				3 * i,
				turns[4 * i],
				turns[4 * i + 1],
				turns[4 * i + 2],
				turns[4 * i + 3],
				0,
				1,
				0
			);
		}
	return normals;
}
