/** Places of copies in an order of which every beginning is spread evenly over all: so a View in haste draws the first few. */
import { idsOf } from '../geometry/index.ts';
import { mix } from '../math/index.ts';
import type { Geometry, Placed } from '../geometry/index.ts';

/** Copies are dealt into so many heaps at most by their ids; a heap keeps their order. */
const MOST_HEAPS = 1024;
/** A few are dealt into as many heaps as they are, or some more. */
const heapsFor = (count: number): number => Math.min(MOST_HEAPS, 1 << (32 - Math.clz32(count - 1)));

/**
 * The same places in another order, by the ids of the copies: so the same copies are drawn first however many there are.
 * @param make makes the numbers for the matrices, 16 a place.
 */
export function evenly(geometry: Geometry, placed: Placed, make: (length: number) => Float32Array): Placed {
	const { matrices, origins, count } = placed;
	if (!matrices || !origins || count < 2 || !geometry.copies) return placed;
	const heaps = heapsFor(count);
	const ids = idsOf(geometry.copies.copies);
	const heapOf = new Uint16Array(count);
	const starts = new Uint32Array(heaps + 1);
	for (let i = 0, nth = 0; i < count; i++) {
		// Copies within copies: the places of one outer copy follow one another.
		nth = i > 0 && origins[i] === origins[i - 1] ? nth + 1 : 0;
		const heap = mix(mix(mix(nth, ids[2 * origins[i]]), ids[2 * origins[i] + 1]), 7) & (heaps - 1);
		heapOf[i] = heap;
		starts[heap + 1]++;
	}
	for (let heap = 0; heap < heaps; heap++) starts[heap + 1] += starts[heap];
	const out = make(16 * count);
	const levels = placed.levels.map(({ of, which }) => ({
		of,
		which: which && new Uint32Array(count),
		rows: new Uint32Array(count)
	}));
	for (let i = 0; i < count; i++) {
		const at = starts[heapOf[i]]++;
		for (let k = 0; k < levels.length; k++) {
			const { which, rows } = placed.levels[k];
			levels[k].rows[at] = rows[i];
			if (which) levels[k].which![at] = which[i];
		}
		const [a, b] = [16 * at, 16 * i];
		for (let k = 0; k < 16; k++) out[a + k] = matrices[b + k];
	}
	return { ...placed, matrices: out, origins: levels[0].rows, levels };
}
