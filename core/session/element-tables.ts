/** Elements of a geometry by where they are. */
import type { Kind, Part } from '../geometry/index.ts';
import { pollAt } from '../geometry/index.ts';

/** An element: a row of a table of a geometry. */
export interface Element {
	part: Part;
	kind: Kind;
	row: number;
}

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
