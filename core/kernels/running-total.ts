/** Sums up to each element, in order. */
import { pollAt, scratch } from '../geometry/index.ts';

/**
 * @param starts where sums begin anew, and the count at the end; left out, once at the first.
 * @param own whether an element's own value counts in its sum.
 */
export function runningTotals(
	values: ArrayLike<number>,
	own: boolean,
	starts?: ArrayLike<number>
): Float64Array {
	const sums = scratch('double', values.length);
	let sum = 0,
		next = 0;
	for (let i = 0; i < values.length; i++) {
		pollAt(i);
		if (starts && i === starts[next]) {
			sum = 0;
			while (starts[next] === i) next++;
		}
		if (own) sum += values[i];
		sums[i] = sum;
		if (!own) sum += values[i];
	}
	return sums;
}
