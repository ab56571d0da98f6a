/**
 * The nearest of many points, in doubles: a tree of halves in flat arrays. The middle of a range is the point that stands
 * at its middle; those before it lie on one side of it, those after it on the other. Of equally near ones the first by number
 * counts, so that the order of questions never matters.
 */
import { Growing, pollAt, scratch } from '../geometry/index.ts';

export class PointTree {
	readonly #p: Float64Array;
	readonly #width: 2 | 3;
	readonly #order: Uint32Array;
	/** For the middle of each range, the axis along which it is halved. */
	readonly #axis: Uint8Array;
	/** Ranges that wait while one is gone through: of 2³² points no more than 128. */
	readonly #low = new Uint32Array(128);
	readonly #high = new Uint32Array(128);
	readonly #apart = new Float64Array(128);

	/** @param places two or three numbers a point. */
	constructor(places: Float64Array, width: 2 | 3) {
		const count = places.length / width;
		this.#p = places;
		this.#width = width;
		this.#order = scratch('index', count);
		this.#axis = scratch('byte', count);
		for (let i = 0; i < count; i++) {
			pollAt(i);
			this.#order[i] = i;
		}
		this.#halve();
	}

	#halve(): void {
		const stack = [0, this.#order.length - 1];
		while (stack.length) {
			const high = stack.pop()!,
				low = stack.pop()!;
			if (low >= high) continue;
			const middle = (low + high) >> 1;
			const axis = this.#widest(low, high);
			this.#axis[middle] = axis;
			this.#select(low, high, middle, axis);
			stack.push(low, middle - 1, middle + 1, high);
		}
	}

	#widest(low: number, high: number): number {
		let best = 0,
			widest = -1;
		for (let k = 0; k < this.#width; k++) {
			let least = Infinity,
				most = -Infinity;
			for (let i = low; i <= high; i++) {
				pollAt(i);
				const x = this.#p[this.#width * this.#order[i] + k];
				if (x < least) least = x;
				if (x > most) most = x;
			}
			if (most - least > widest) [best, widest] = [k, most - least];
		}
		return best;
	}

	/** Orders a range so that its middle stands where it would if all were sorted along an axis. */
	#select(low: number, high: number, middle: number, axis: number): void {
		const order = this.#order;
		const at = (i: number) => this.#p[this.#width * order[i] + axis];
		while (low < high) {
			const pivot = at((low + high) >> 1);
			let i = low,
				j = high;
			while (i <= j) {
				while (at(i) < pivot) i++;
				while (at(j) > pivot) j--;
				if (i > j) break;
				pollAt(i);
				[order[i], order[j]] = [order[j], order[i]];
				i++;
				j--;
			}
			if (middle <= j) high = j;
			else if (middle >= i) low = i;
			else return;
		}
	}

	/** The point nearest to a place; −1 where there is none. `skip` is left out of it. */
	nearest(x: number, y: number, z = 0, skip = -1): number {
		let best = -1,
			least = Infinity;
		this.#visit(x, y, z, (i, square) => {
			if (i !== skip && (square < least || (square === least && i < best))) [best, least] = [i, square];
			return least;
		});
		return best;
	}

	/** The `k` points nearest to a place, the nearest first. */
	kNearest(x: number, y: number, z: number, k: number, skip = -1): number[] {
		const found: { i: number; square: number }[] = [];
		if (k <= 0) return [];
		this.#visit(x, y, z, (i, square) => {
			if (i !== skip) {
				let at = found.length;
				while (
					at > 0 &&
					(found[at - 1].square > square || (found[at - 1].square === square && found[at - 1].i > i))
				)
					at--;
				if (at < k) found.splice(at, 0, { i, square });
				if (found.length > k) found.pop();
			}
			return found.length < k ? Infinity : found[k - 1].square;
		});
		return found.map(({ i }) => i);
	}

	/** Appends all points no further from a place than a distance, in no particular order. */
	within(x: number, y: number, z: number, distance: number, out: Growing<'index'>): void {
		const most = distance * distance;
		this.#visit(x, y, z, (i, square) => {
			if (square <= most) out.push(i);
			return most;
		});
	}

	/** Visits points near a place; `visit` says the square of the distance beyond which none is of interest. */
	#visit(x: number, y: number, z: number, visit: (i: number, square: number) => number): void {
		const [p, order, width] = [this.#p, this.#order, this.#width];
		const [lows, highs, aparts] = [this.#low, this.#high, this.#apart];
		let top = 0,
			limit = Infinity;
		if (order.length) {
			[lows[0], highs[0], aparts[0]] = [0, order.length, 0];
			top = 1;
		}
		while (top > 0) {
			top--;
			let low = lows[top],
				high = highs[top];
			if (aparts[top] > limit) continue;
			// Ranges without their end, so that none is below 0.
			while (low < high) {
				const middle = (low + high - 1) >> 1;
				const i = order[middle];
				const o = width * i;
				const dx = p[o] - x,
					dy = p[o + 1] - y,
					dz = width === 3 ? p[o + 2] - z : 0;
				limit = visit(i, dx * dx + dy * dy + dz * dz);
				const axis = this.#axis[middle];
				const off = axis === 0 ? dx : axis === 1 ? dy : dz;
				// The side on which the place lies first; the other one waits.
				const isLow = off > 0;
				[lows[top], highs[top], aparts[top]] = isLow
					? [middle + 1, high, off * off]
					: [low, middle, off * off];
				top++;
				if (isLow) high = middle;
				else low = middle + 1;
			}
		}
	}
}
