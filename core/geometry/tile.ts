/** Tables, and what hangs together by them, once for each of many places. */
import { mix } from '../math/index.ts';
import { allocate, pollAt, scratch } from './allocate.ts';
import { affineAt, identity } from './matrix.ts';
import { isPlaced, placeInto } from './place.ts';
import type { Column, Table } from './table.ts';
import { WIDTH, allocateData, column, gatherColumn, idsOf } from './table.ts';

/** A name with its column, and the row of it for each place. */
export type NamedRows = readonly [name: string, column: Column, rows: Uint32Array];

/** Where a part is written out: 12 numbers for each place, and what the copies have that stand there. */
export interface Tiling {
	readonly matrices: Float32Array;
	readonly count: number;
	/** For each place its outermost copy. */
	readonly origins: Uint32Array;
	readonly attributes: readonly NamedRows[];
}

/**
 * A table once for each place, its vectors moved by role.
 * @param withCopy whether rows know their copy, and have what it has beside its place, but for what they have themselves.
 */
export function tile(
	table: Table,
	{ matrices, count, origins, attributes }: Tiling,
	withCopy: boolean
): Table {
	const rows = table.count;
	const m = identity();
	const columns = new Map<string, Column>();
	for (const [name, source] of table.columns) {
		const width = WIDTH[source.type];
		const data = allocateData(source.type, rows * count);
		const isMoved = isPlaced(source);
		for (let i = 0; i < count; i++) {
			pollAt(i);
			const base = i * rows * width;
			if (isMoved) placeInto(source, affineAt(matrices, i, m), data, base);
			else data.set(source.data, base);
		}
		columns.set(name, { ...source, data });
	}
	if (withCopy) {
		const copy = allocate('int', rows * count);
		for (let i = 0; i < count; i++) {
			pollAt(i);
			copy.fill(origins[i], i * rows, (i + 1) * rows);
		}
		columns.set('copy', column('int', 'id', copy));
		const at = scratch('index', rows * count);
		for (const [name, source, of] of attributes) {
			if (table.columns.has(name)) continue;
			for (let i = 0; i < count; i++) {
				pollAt(i);
				at.fill(of[i], i * rows, (i + 1) * rows);
			}
			columns.set(name, gatherColumn(source, at));
		}
	}
	const own = idsOf(table);
	const ids = allocate('index', 2 * rows * count);
	for (let i = 0; i < count; i++) {
		pollAt(i);
		for (let k = 0; k < rows; k++) {
			const o = 2 * (i * rows + k);
			ids[o] = mix(mix(origins[i], own[2 * k]), own[2 * k + 1]);
			ids[o + 1] = mix(mix(i + 0x51ed27, own[2 * k + 1]), own[2 * k]);
		}
	}
	return { count: rows * count, columns, ids };
}

/** Groups once for each place. @param starts the first of each, and one more: how many there are. */
export function tileStarts(starts: Uint32Array, count: number): Uint32Array {
	const pieces = starts.length - 1,
		span = starts[pieces];
	const out = allocate('index', pieces * count + 1);
	for (let i = 0; i < count; i++) {
		pollAt(i);
		for (let k = 1; k <= pieces; k++) out[i * pieces + k] = i * span + starts[k];
	}
	return out;
}
