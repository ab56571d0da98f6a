/**
 * Mixing of 32-bit words: the base of ids and of all randomness. Counter-based: the same words give the same result,
 * in any order of evaluation. Words are mixed in one at a time and never xor-ed together first, because
 * `a ^ b` alone makes the streams of neighbouring ids collide.
 */

/**
 * A bijection of 32-bit words in which each input bit flips each output bit about half of the time. The result is
 * signed: an unsigned word above 2^31 would be boxed wherever the engine does not inline this.
 */
export function scramble(x: number): number {
	x ^= x >>> 16;
	x = Math.imul(x, 0x21f0aaad);
	x ^= x >>> 15;
	x = Math.imul(x, 0x735a2d97);
	return x ^ (x >>> 15);
}

/** Mixes one more word into a running state. Order matters. */
export const mix = (state: number, word: number): number =>
	scramble((Math.imul(state, 0x9e3779b1) + Math.imul(word, 0x85ebca6b) + 0x6a09e667) | 0);

/** The state for a text, such as the name of a stream. */
export function mixText(state: number, text: string): number {
	for (let i = 0; i < text.length; i++) state = mix(state, text.charCodeAt(i));
	return mix(state, text.length);
}

/** A word as a number from 0 up to, but never reaching, 1. */
export const toUnit = (word: number): number => (word >>> 0) * 2.3283064365386963e-10;
