/** Elements of a geometry by where they are. */
import type { Geometry, Kind, Part, Table } from '../index.ts';
import { PART_NAMES, partKind, pollAt, tableOf } from '../index.ts';

/** An element: a row of a table of a geometry. */
export interface Element {
	part: Part;
	kind: Kind;
	row: number;
}

/** Tables whose elements stand somewhere: points, and copies. */
export const placedIn = (geometry: Geometry): { part: Part; kind: Kind; table: Table }[] =>
	PART_NAMES.flatMap((part) => {
		if (!geometry[part]) return [];
		const kind = partKind(part).placed;
		const table = tableOf(geometry, part, kind);
		return table?.columns.has('position') ? [{ part, kind, table }] : [];
	});

/** The place nearest to another by its number, and the square of how far it is; −1 where there is none. */
export function nearestPlace(
	places: ArrayLike<number>,
	[x, y, z]: readonly number[]
): { row: number; square: number } {
	let row = -1,
		square = Infinity;
	for (let i = 0, o = 0; o < places.length; i++, o += 3) {
		pollAt(i);
		const dx = places[o] - x,
			dy = places[o + 1] - y,
			dz = places[o + 2] - z;
		const own = dx * dx + dy * dy + dz * dz;
		if (own < square) {
			row = i;
			square = own;
		}
	}
	return { row, square };
}
