/** Elements of a geometry by their tables: where they are, and what they are called. */
import type { Geometry, Kind, Part, Table } from '../index.ts';
import { PART_NAMES, partKind, tableOf } from '../index.ts';

/** An element: a row of a table of a geometry. */
export interface Element {
	part: Part;
	kind: Kind;
	row: number;
}

/** All tables of one kind of element. */
export const tablesOfKind = (geometry: Geometry, kind: Kind): { part: Part; table: Table }[] =>
	PART_NAMES.flatMap((part) => {
		const table = geometry[part] && partKind(part).tables[kind] ? tableOf(geometry, part, kind) : null;
		return table ? [{ part, table }] : [];
	});

export const idOfRow = ({ ids }: Table, row: number): [number, number] =>
	ids ? [ids[2 * row], ids[2 * row + 1]] : [row, 0];
