/** Ranges of places halved along their longest side, for trees of halves. Three singles a place. */
import { pollAt } from '../geometry/index.ts';

/** The axis along which the places of a range, both ends included, lie farthest apart, and how far. */
export function widestAxis(
	places: Float32Array,
	order: Uint32Array,
	low: number,
	high: number
): { axis: number; width: number } {
	let axis = 0,
		width = -1;
	for (let k = 0; k < 3; k++) {
		let least = Infinity,
			most = -Infinity;
		for (let i = low; i <= high; i++) {
			pollAt(i);
			const c = places[3 * order[i] + k];
			if (c < least) least = c;
			if (c > most) most = c;
		}
		if (most - least > width) {
			width = most - least;
			axis = k;
		}
	}
	return { axis, width };
}

/** Orders a range so that the one at `middle` stands where it would if all were sorted along an axis (quickselect). */
export function selectMiddle(
	places: Float32Array,
	order: Uint32Array,
	low: number,
	high: number,
	middle: number,
	axis: number
): void {
	while (low < high) {
		const pivot = places[3 * order[(low + high) >> 1] + axis];
		let i = low,
			j = high;
		while (i <= j) {
			while (places[3 * order[i] + axis] < pivot) i++;
			while (places[3 * order[j] + axis] > pivot) j--;
			if (i <= j) {
				pollAt(i);
				const swap = order[i];
				order[i++] = order[j];
				order[j--] = swap;
			}
		}
		if (middle <= j) high = j;
		else if (middle >= i) low = i;
		else return;
	}
}
