/** How columns are placed by an affine map, by role: the only place that does it. */
import { quaternion } from '../math/index.ts';
import { allocateData } from './table.ts';
import { pollAt } from './allocate.ts';
import type { Affine } from './matrix.ts';
import { apply, cofactors, determinant } from './matrix.ts';
import type { Column, ColumnData, Table } from './table.ts';

/** The rotation nearest to a map's y and z axes. */
export function rotationOf(m: ArrayLike<number>): number[] {
	const q = [0, 0, 0, 1];
	quaternion.lookAlong(q, 0, m[3], m[4], m[5], m[6], m[7], m[8]);
	return q;
}

/** Whether a map changes a column: whether its role says where something is, or which way it looks. */
export const isPlaced = ({ role, type }: Column): boolean =>
	(role === 'orientation' && type === 'vec4') ||
	(type === 'vec3' && (role === 'position' || role === 'direction' || role === 'normal'));

/** A column through a map; the same one where the map changes nothing of it. */
function placeColumn(source: Column, m: Affine): Column {
	if (!isPlaced(source)) return source;
	const width = source.type === 'vec4' ? 4 : 3;
	const data = allocateData(source.type, source.data.length / width);
	placeInto(source, m, data, 0);
	return { ...source, data };
}

/** All columns of a table through a map; the same table where none of them says where anything is. */
export function placeTable(table: Table, m: Affine): Table {
	let columns: Map<string, Column> | null = null;
	for (const [name, source] of table.columns) {
		const moved = placeColumn(source, m);
		if (moved !== source) (columns ??= new Map(table.columns)).set(name, moved);
	}
	return columns ? { ...table, columns } : table;
}

/** Writes all rows of a column that is placed through a map to `out`, from the number `at` on. */
export function placeInto({ role, data }: Column, m: Affine, out: ColumnData, at: number): void {
	if (role === 'orientation') return turnInto(data, rotationOf(m), out, at);
	if (role === 'position') {
		for (let i = 0; i < data.length; i += 3) {
			pollAt(i);
			apply(out, at + i, m, data[i], data[i + 1], data[i + 2]);
		}
		return;
	}
	const isNormal = role === 'normal';
	const linear = isNormal
		? Float64Array.of(...cofactors(m), 0, 0, 0)
		: Float64Array.of(...m.subarray(0, 9), 0, 0, 0);
	const sign = isNormal && determinant(m) < 0 ? -1 : 1;
	for (let i = 0; i < data.length; i += 3) {
		pollAt(i);
		const o = at + i;
		apply(out, o, linear, data[i], data[i + 1], data[i + 2]);
		if (!isNormal) continue;
		const size = Math.sqrt(out[o] * out[o] + out[o + 1] * out[o + 1] + out[o + 2] * out[o + 2]);
		if (size > 0) for (let k = 0; k < 3; k++) out[o + k] = (sign * out[o + k]) / size;
	}
}

function turnInto(data: ColumnData, turn: readonly number[], out: ColumnData, at: number): void {
	for (let i = 0; i < data.length; i += 4) {
		pollAt(i);
		quaternion.multiply(
			out,
			at + i,
			turn[0],
			turn[1],
			turn[2],
			turn[3],
			data[i],
			data[i + 1],
			data[i + 2],
			data[i + 3]
		);
	}
}
