/** What is remembered of elements from one frame to the next: they are told apart by their ids, however many there are. */
import type { Kind, Part, Table } from '../geometry/index.ts';
import { allocate, pollAt } from '../geometry/index.ts';

/** Numbers for each element of one table, `width` of them. */
export interface RememberedTable {
	readonly part: Part;
	readonly kind: Kind;
	readonly count: number;
	readonly ids: Uint32Array | null;
	readonly data: Float64Array;
}

const NEVER = -1;

/**
 * For each row of a table the row that it was when it was remembered; −1 where it is new. Null where all stand as they
 * stood.
 */
export function rowsBefore(before: RememberedTable, { count, ids }: Table): Int32Array | null {
	if (before.count === count && isSame(before.ids, ids)) return null;
	const known = new Map<string, number>();
	for (let i = 0; i < before.count; i++) {
		pollAt(i);
		known.set(idOf(before.ids, i), i);
	}
	const rows = allocate('int', count);
	for (let i = 0; i < count; i++) {
		pollAt(i);
		rows[i] = known.get(idOf(ids, i)) ?? NEVER;
	}
	return rows;
}

const idOf = (ids: Uint32Array | null, row: number): string =>
	ids ? `${ids[2 * row]} ${ids[2 * row + 1]}` : `${row} 0`;

function isSame(a: Uint32Array | null, b: Uint32Array | null): boolean {
	if (a === b) return true;
	if (!a || !b || a.length !== b.length) return false;
	for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
	return true;
}

/** What was remembered, in the order of a table; of what is new, what `begin` writes. */
export function carriedOn(
	before: RememberedTable | undefined,
	table: Table,
	width: number,
	begin: (row: number, out: Float64Array) => void
): Float64Array {
	const out = allocate('double', table.count * width);
	const rows = before ? rowsBefore(before, table) : allocate('int', table.count).fill(NEVER);
	if (!rows) {
		out.set(before!.data);
		return out;
	}
	for (let i = 0; i < table.count; i++) {
		pollAt(i);
		if (rows[i] === NEVER) begin(i, out);
		else for (let k = 0; k < width; k++) out[i * width + k] = before!.data[rows[i] * width + k];
	}
	return out;
}

/** Bytes of what is remembered. */
export const bytesOf = (tables: readonly RememberedTable[]): number =>
	tables.reduce((sum, { data, ids }) => sum + data.byteLength + (ids?.byteLength ?? 0), 0);
