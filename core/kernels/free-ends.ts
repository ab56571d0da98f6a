/**
 * The nearest of places that are still free, by a tree of halves (Bentley 1975, “Multidimensional binary search trees”)
 * in flat arrays: a place that is taken is counted off in every half that holds it, and halves without free ones are passed
 * over. Of equally near ones the first by number is found.
 */
import { allocate, pollAt, scratch } from '../geometry/index.ts';
import { selectMiddle, widestAxis } from './halves.ts';

export class FreeEnds {
	/** 3 numbers a place. */
	readonly #places: Float32Array;
	/** The places in the order of the tree: the middle of a range splits it. */
	readonly #order: Uint32Array;
	/** Where each place stands in that order. */
	readonly #standsAt: Uint32Array;
	/** The axis along which the range around each middle is split. */
	readonly #axes: Uint8Array;
	/** Free places in the range of which each is the middle. */
	readonly #free: Uint32Array;
	readonly #stack: number[] = [];

	constructor(places: Float32Array) {
		const count = places.length / 3;
		this.#places = places;
		this.#order = allocate('index', count);
		this.#standsAt = scratch('index', count);
		this.#axes = scratch('byte', count);
		this.#free = scratch('index', count);
		for (let i = 0; i < count; i++) this.#order[i] = i;
		const open = count ? [0, count - 1] : [];
		for (let built = 0; open.length; built++) {
			pollAt(built);
			const high = open.pop()!,
				low = open.pop()!;
			const middle = (low + high) >> 1;
			const { axis } = widestAxis(places, this.#order, low, high);
			selectMiddle(places, this.#order, low, high, middle, axis);
			this.#axes[middle] = axis;
			this.#free[middle] = high - low + 1;
			if (low < middle) open.push(low, middle - 1);
			if (middle < high) open.push(middle + 1, high);
		}
		for (let i = 0; i < count; i++) this.#standsAt[this.#order[i]] = i;
	}

	/** Takes a place out. It must be free. */
	take(place: number): void {
		const at = this.#standsAt[place];
		for (let low = 0, high = this.#order.length - 1; ;) {
			const middle = (low + high) >> 1;
			this.#free[middle]--;
			if (at === middle) return;
			if (at < middle) high = middle - 1;
			else low = middle + 1;
		}
	}

	isFree(place: number): boolean {
		return this.#ownFree(this.#standsAt[place]);
	}

	/** The nearest free place within `most` of x, y, z, or −1. */
	nearest(x: number, y: number, z: number, most: number): number {
		const stack = this.#stack;
		const query = [x, y, z];
		let best = -1,
			nearest = Infinity;
		stack.length = 0;
		if (this.#order.length) stack.push(0, this.#order.length - 1, 0);
		while (stack.length) {
			const bound = stack.pop()!,
				high = stack.pop()!,
				low = stack.pop()!;
			const middle = (low + high) >> 1;
			if (bound > Math.min(nearest, most) || this.#free[middle] === 0) continue;
			const place = this.#order[middle];
			const o = 3 * place;
			if (this.#ownFree(middle)) {
				const dx = this.#places[o] - x,
					dy = this.#places[o + 1] - y,
					dz = this.#places[o + 2] - z;
				const d = Math.sqrt(dx * dx + dy * dy + dz * dz);
				if (d <= most && (d < nearest || (d === nearest && place < best))) {
					nearest = d;
					best = place;
				}
			}
			const axis = this.#axes[middle];
			const away = query[axis] - this.#places[o + axis];
			const far = Math.abs(away);
			// The half on the other side is looked at later, and only where it may still hold a nearer one.
			if (away < 0) {
				if (middle < high) stack.push(middle + 1, high, far);
				if (low < middle) stack.push(low, middle - 1, 0);
			} else {
				if (low < middle) stack.push(low, middle - 1, far);
				if (middle < high) stack.push(middle + 1, high, 0);
			}
		}
		return best;
	}

	/** Whether the middle of a range is free itself: the range holds one more than its halves. */
	#ownFree(at: number): boolean {
		let low = 0,
			high = this.#order.length - 1;
		for (;;) {
			const middle = (low + high) >> 1;
			if (at === middle) break;
			if (at < middle) high = middle - 1;
			else low = middle + 1;
		}
		const left = low < at ? this.#free[(low + at - 1) >> 1] : 0;
		const right = at < high ? this.#free[(at + 1 + high) >> 1] : 0;
		return this.#free[at] > left + right;
	}
}
