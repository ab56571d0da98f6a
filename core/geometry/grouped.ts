/** Rows gathered by what they belong to, in linear time. */
import { copyOf, pollAt, scratch } from './allocate.ts';

/** For each group `g` its members `items[starts[g] … starts[g + 1]]`. */
export interface Grouped {
	starts: Uint32Array;
	items: Uint32Array;
}

/**
 * Gathers rows by group; within a group they keep their order.
 * @param groupOf for each row its group, below `count`.
 * @param itemOf what stands for a row; its own number where left out.
 */
export function grouped(count: number, groupOf: Uint32Array, itemOf?: (row: number) => number): Grouped {
	const starts = scratch('index', count + 1);
	for (let i = 0; i < groupOf.length; i++) {
		pollAt(i);
		starts[groupOf[i] + 1]++;
	}
	for (let g = 0; g < count; g++) {
		pollAt(g);
		starts[g + 1] += starts[g];
	}
	const next = copyOf(starts);
	const items = scratch('index', groupOf.length);
	for (let i = 0; i < groupOf.length; i++) {
		pollAt(i);
		items[next[groupOf[i]]++] = itemOf ? itemOf(i) : i;
	}
	return { starts, items };
}

/** The numbers from 0, as many as asked for. */
export function counting(count: number): Uint32Array {
	const out = scratch('index', count);
	for (let i = 0; i < count; i++) {
		pollAt(i);
		out[i] = i;
	}
	return out;
}
