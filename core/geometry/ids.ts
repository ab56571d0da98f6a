/** Ids of elements that are made of others: each follows from its origin, so that it stays when there are more of them. */
import { mix } from '../math/index.ts';
import { allocate, pollAt, scratch } from './allocate.ts';
import type { Table } from './table.ts';

const lowOf = ({ ids }: Table, row: number): number => (ids ? ids[2 * row] : row);
const highOf = ({ ids }: Table, row: number): number => (ids ? ids[2 * row + 1] : 0);

/** The two words of a row's id. */
export const idOfRow = (table: Table, row: number): [number, number] => [
	lowOf(table, row),
	highOf(table, row)
];

/** Writes the id of the `nth` element that is made of a row. */
export function writeDerived(out: Uint32Array, o: number, of: Table, row: number, nth: number): void {
	const low = lowOf(of, row),
		high = highOf(of, row);
	out[2 * o] = mix(mix(mix(0x2f6b1d, low), high), nth);
	out[2 * o + 1] = mix(mix(mix(0x71c3a9, high), low), nth);
}

/**
 * Ids for rows of a table in a new order. A row that stands there once keeps its id; one that stands there several times is
 * several new elements, each with an id that follows from it: were one of them to keep it, doing the same again would give
 * the same ids once more.
 */
export function idsOfRows(table: Table, rows: ArrayLike<number>): Uint32Array {
	const ids = allocate('index', 2 * rows.length);
	const uses = scratch('index', table.count);
	for (let i = 0; i < rows.length; i++) {
		pollAt(i);
		uses[rows[i]]++;
	}
	const nth = scratch('index', table.count);
	for (let i = 0; i < rows.length; i++) {
		pollAt(i);
		const row = rows[i];
		if (uses[row] > 1) writeDerived(ids, i, table, row, nth[row]++);
		else {
			ids[2 * i] = lowOf(table, row);
			ids[2 * i + 1] = highOf(table, row);
		}
	}
	return ids;
}
