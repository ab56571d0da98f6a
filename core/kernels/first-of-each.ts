/** Which rows of numbers are equal, found by a table of hashes that grows as it fills. */
import { filled, pollAt, scratch } from '../geometry/index.ts';
import { mix } from '../math/index.ts';

const bits = new DataView(new ArrayBuffer(8));

/**
 * @param data rows of `width` numbers, one after another. 0 and −0 are equal, and so are all that are no numbers.
 * @returns `firsts`, the row at which each value comes first, in this order; `places`, for each row the place of its value there;
 * and `times`, how often each comes.
 */
export function firstOfEach(
	data: ArrayLike<number>,
	width: number
): { firsts: Uint32Array; places: Float64Array; times: Float64Array } {
	const n = data.length / width;
	const firsts = scratch('index', n);
	let count = 0;
	const places = scratch('double', n);
	const hashes = scratch('int', n);
	let slots = filled('int', 1024, -1);

	const hashOf = (row: number): number => {
		let hash = width;
		for (let k = 0; k < width; k++) {
			const x = data[row * width + k];
			bits.setFloat64(0, x === x ? x + 0 : NaN);
			hash = mix(mix(hash, bits.getUint32(0)), bits.getUint32(4));
		}
		return hash | 0;
	};
	const isEqual = (a: number, b: number): boolean => {
		for (let k = 0; k < width; k++) {
			const [x, y] = [data[a * width + k], data[b * width + k]];
			if (x !== y && (x === x || y === y)) return false;
		}
		return true;
	};
	/** The slot of a row's value, or the free one in which it belongs. */
	const slotOf = (row: number, hash: number): number => {
		const mask = slots.length - 1;
		for (let slot = hash & mask; ; slot = (slot + 1) & mask) {
			const place = slots[slot];
			if (place < 0) return slot;
			const first = firsts[place];
			if (hashes[first] === hash && isEqual(first, row)) return slot;
		}
	};
	const grow = (): void => {
		slots = filled('int', 4 * slots.length, -1);
		const mask = slots.length - 1;
		for (let place = 0; place < count; place++) {
			pollAt(place);
			let slot = hashes[firsts[place]] & mask;
			while (slots[slot] >= 0) slot = (slot + 1) & mask;
			slots[slot] = place;
		}
	};

	for (let row = 0; row < n; row++) {
		pollAt(row);
		if (2 * count >= slots.length) grow();
		hashes[row] = hashOf(row);
		const slot = slotOf(row, hashes[row]);
		if (slots[slot] < 0) {
			slots[slot] = count;
			firsts[count++] = row;
		}
		places[row] = slots[slot];
	}
	const times = scratch('double', count);
	for (let row = 0; row < n; row++) {
		pollAt(row);
		times[places[row]]++;
	}
	return { firsts: firsts.subarray(0, count), places, times };
}
