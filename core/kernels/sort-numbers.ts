/** Sorting of many numbers that can be stopped: pieces by the engine's own sort, then merged. */
import { pollAt, scratch } from '../geometry/index.ts';

/** So many are sorted in one go, which takes a few milliseconds. */
const PIECE = 65_536;

/** −0 stands before 0, and what is no number last, as the engine's own sort has it. */
const isBefore = (a: number, b: number): boolean =>
	a < b || (a === b && (a !== 0 || 1 / a <= 1 / b)) || b !== b;

/**
 * Sorts numbers, the least first, in the memory in which they are handed over.
 * @returns the numbers sorted; where there are many, in other memory.
 */
export function sortNumbers(numbers: Float64Array): Float64Array {
	const n = numbers.length;
	for (let i = 0; i < n; i += PIECE) {
		pollAt(0);
		numbers.subarray(i, i + PIECE).sort();
	}
	if (n <= PIECE) return numbers;
	let [from, to] = [numbers, scratch('double', n)];
	for (let width = PIECE; width < n; width *= 2) {
		for (let start = 0; start < n; start += 2 * width) {
			const middle = Math.min(n, start + width),
				end = Math.min(n, start + 2 * width);
			let [a, b] = [start, middle];
			for (let i = start; i < end; i++) {
				pollAt(i);
				to[i] = a < middle && (b >= end || isBefore(from[a], from[b])) ? from[a++] : from[b++];
			}
		}
		[from, to] = [to, from];
	}
	return from;
}
