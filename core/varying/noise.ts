/** Patterns of noise. The noise itself is in ../wasm/assembly/noise.ts. */
import { mix } from '../math/index.ts';

const kept = new Map<number, Uint8Array>();

/**
 * The pattern of a seed, a 32-bit word: a permutation of 0 … 255, twice over. It is made with our own mixing, so that a
 * seed is a pattern everywhere.
 */
export function patternOf(seed: number): Uint8Array {
	seed >>>= 0;
	let order = kept.get(seed);
	if (!order) {
		order = new Uint8Array(512);
		for (let i = 0; i < 256; i++) order[i] = i;
		for (let i = 255; i > 0; i--) {
			const j = (mix(mix(seed, 0x6e01), i) >>> 0) % (i + 1);
			const swap = order[i];
			order[i] = order[j];
			order[j] = swap;
		}
		order.copyWithin(256, 0, 256);
		if (kept.size > 64) kept.clear();
		kept.set(seed, order);
	}
	return order;
}
