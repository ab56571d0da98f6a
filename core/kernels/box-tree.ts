/**
 * The nearest of many triangles, segments or points, and what a ray meets, by a tree of boxes in flat arrays. Boxes are
 * halved at the median of their longest side. Of equally near ones the first by number is taken, so that the order of
 * questions never matters.
 */
import { allocate, pollAt, scratch } from '../geometry/index.ts';
import { rayTriangle, toPoint, toSegment, toTriangle } from './primitives.ts';
import type { Nearest } from './primitives.ts';

/** Primitives a leaf may hold. */
const LEAF = 6;

export class BoxTree {
	/** Corners of one primitive: 3 for triangles, 2 for segments, 1 for points. */
	readonly corners: 1 | 2 | 3;
	/** Numbers of each primitive, `3 × corners`, in the order of the leaves. */
	readonly #data: Float64Array;
	/** The number of each primitive in that order. */
	readonly #order: Uint32Array;
	/** Six numbers a box: lowest and highest x, y, z. */
	readonly #boxes: Float64Array;
	/** For a leaf its first primitive; for others the box of the second half. The first half follows its parent. */
	readonly #links: Uint32Array;
	/** Primitives of a leaf; 0 for others. */
	readonly #counts: Uint32Array;
	readonly #stack = new Int32Array(128);
	readonly #far = new Float64Array(128);
	#last = 0;
	readonly found: Nearest = { distance: Infinity, primitive: -1, x: 0, y: 0, z: 0, u: 0, v: 0 };

	constructor(data: Float32Array, corners: 1 | 2 | 3) {
		this.corners = corners;
		const stride = 3 * corners;
		const count = data.length / stride;
		const order = allocate('index', count);
		const centres = scratch('float', 3 * count);
		for (let i = 0; i < count; i++) {
			pollAt(i);
			order[i] = i;
			for (let k = 0; k < 3; k++) {
				let sum = 0;
				for (let c = 0; c < corners; c++) sum += data[i * stride + 3 * c + k];
				centres[3 * i + k] = sum;
			}
		}
		const most = Math.max(1, 2 * Math.ceil(count / (LEAF / 2)) + 1);
		this.#boxes = allocate('double', 6 * most);
		this.#links = allocate('index', most);
		this.#counts = allocate('index', most);
		let boxes = 0;
		// Ranges that still need a box; `parent` is the box whose second half this is, or -1.
		const open: number[] = count ? [0, count, -1] : [];
		while (open.length) {
			const parent = open.pop()!,
				end = open.pop()!,
				start = open.pop()!;
			const box = boxes++;
			pollAt(box);
			if (parent >= 0) this.#links[parent] = box;
			if (end - start <= LEAF) {
				this.#measure(box, data, order, start, end, stride);
				this.#links[box] = start;
				this.#counts[box] = end - start;
				continue;
			}
			const middle = split(centres, order, start, end);
			open.push(middle, end, box, start, middle, -1);
		}
		// The others hold their two halves, which stand behind them.
		for (let box = boxes - 1; box >= 0; box--) if (this.#counts[box] === 0) this.#unite(box);
		this.#order = order;
		this.#data = allocate('double', data.length);
		for (let i = 0; i < count; i++) {
			pollAt(i);
			for (let k = 0; k < stride; k++) this.#data[i * stride + k] = data[order[i] * stride + k];
		}
	}

	get count(): number {
		return this.#order.length;
	}

	/** The memory that it holds, for the ledger. */
	holds(): ArrayBufferView[] {
		return [this.#data, this.#order, this.#boxes, this.#links, this.#counts];
	}

	#measure(
		box: number,
		data: Float32Array,
		order: Uint32Array,
		start: number,
		end: number,
		stride: number
	): void {
		let ax = Infinity,
			ay = Infinity,
			az = Infinity,
			bx = -Infinity,
			by = -Infinity,
			bz = -Infinity;
		for (let i = start; i < end; i++) {
			pollAt(i);
			for (let o = order[i] * stride, last = o + stride; o < last; o += 3) {
				const x = data[o],
					y = data[o + 1],
					z = data[o + 2];
				if (x < ax) ax = x;
				if (x > bx) bx = x;
				if (y < ay) ay = y;
				if (y > by) by = y;
				if (z < az) az = z;
				if (z > bz) bz = z;
			}
		}
		this.#boxes.set([ax, ay, az, bx, by, bz], 6 * box);
	}

	#unite(box: number): void {
		const boxes = this.#boxes;
		const a = 6 * (box + 1),
			b = 6 * this.#links[box],
			o = 6 * box;
		for (let k = 0; k < 3; k++) {
			boxes[o + k] = boxes[a + k] < boxes[b + k] ? boxes[a + k] : boxes[b + k];
			boxes[o + 3 + k] = boxes[a + 3 + k] > boxes[b + 3 + k] ? boxes[a + 3 + k] : boxes[b + 3 + k];
		}
	}

	/** Finds the nearest place; the answer stands in `found` until the next question. */
	nearest(x: number, y: number, z: number): Nearest {
		const { found } = this;
		found.primitive = -1;
		found.distance = Infinity;
		if (!this.#order.length) return found;
		// The last answer's primitive bounds the search from the start: near questions have near answers.
		let best = this.#try(this.#last, x, y, z);
		let bestPlace = this.#last;
		const boxes = this.#boxes,
			links = this.#links,
			counts = this.#counts,
			stack = this.#stack,
			far = this.#far;
		let top = 0;
		stack[0] = 0;
		far[0] = toBox(boxes, 0, x, y, z);
		while (top >= 0) {
			let box = stack[top];
			if (far[top--] > best) continue;
			while (counts[box] === 0) {
				const a = box + 1,
					b = links[box];
				const da = toBox(boxes, 6 * a, x, y, z),
					db = toBox(boxes, 6 * b, x, y, z);
				const nearFirst = da <= db;
				const next = nearFirst ? a : b;
				const farther = nearFirst ? db : da;
				if (farther <= best) {
					stack[++top] = nearFirst ? b : a;
					far[top] = farther;
				}
				if ((nearFirst ? da : db) > best) {
					box = -1;
					break;
				}
				box = next;
			}
			if (box < 0) continue;
			for (let place = links[box], end = place + counts[box]; place < end; place++) {
				pollAt(place);
				const d = this.#try(place, x, y, z);
				if (d < best || (d === best && this.#order[place] < this.#order[bestPlace])) {
					best = d;
					bestPlace = place;
				}
			}
		}
		this.#last = bestPlace;
		this.#try(bestPlace, x, y, z);
		found.distance = Math.sqrt(best);
		found.primitive = this.#order[bestPlace];
		return found;
	}

	/** The squared distance to one primitive, its nearest place written to `found`. */
	#try(place: number, x: number, y: number, z: number): number {
		const o = place * 3 * this.corners;
		if (this.corners === 3) return toTriangle(this.found, this.#data, o, x, y, z);
		if (this.corners === 2) return toSegment(this.found, this.#data, o, x, y, z);
		return toPoint(this.found, this.#data, o, x, y, z);
	}

	/** Whether a ray meets a triangle farther than `least` and nearer than `most`, in lengths of its direction. */
	meets(
		x: number,
		y: number,
		z: number,
		dx: number,
		dy: number,
		dz: number,
		least: number,
		most: number
	): boolean {
		if (!this.#order.length) return false;
		const boxes = this.#boxes,
			stack = this.#stack;
		const ix = 1 / dx,
			iy = 1 / dy,
			iz = 1 / dz;
		let top = 0;
		stack[0] = 0;
		while (top >= 0) {
			const box = stack[top--];
			const o = 6 * box;
			let near = least,
				end = most;
			const x0 = (boxes[o] - x) * ix,
				x1 = (boxes[o + 3] - x) * ix;
			if (x0 === x0 && x1 === x1) {
				near = Math.max(near, Math.min(x0, x1));
				end = Math.min(end, Math.max(x0, x1));
			}
			const y0 = (boxes[o + 1] - y) * iy,
				y1 = (boxes[o + 4] - y) * iy;
			if (y0 === y0 && y1 === y1) {
				near = Math.max(near, Math.min(y0, y1));
				end = Math.min(end, Math.max(y0, y1));
			}
			const z0 = (boxes[o + 2] - z) * iz,
				z1 = (boxes[o + 5] - z) * iz;
			if (z0 === z0 && z1 === z1) {
				near = Math.max(near, Math.min(z0, z1));
				end = Math.min(end, Math.max(z0, z1));
			}
			if (near > end) continue;
			const count = this.#counts[box];
			if (count === 0) {
				stack[++top] = box + 1;
				stack[++top] = this.#links[box];
				continue;
			}
			for (let place = this.#links[box]; place < this.#links[box] + count; place++) {
				pollAt(place);
				const t = rayTriangle(this.#data, 9 * place, x, y, z, dx, dy, dz);
				if (t > least && t < most) return true;
			}
		}
		return false;
	}

	/** How far along a ray, in lengths of its direction, the first triangle is met; Infinity where none is. */
	along(x: number, y: number, z: number, dx: number, dy: number, dz: number): number {
		if (!this.#order.length) return Infinity;
		// All boxes that the ray passes, nearest triangle kept: rays are few beside questions of distance.
		let best = Infinity;
		const stack = [0];
		while (stack.length) {
			const box = stack.pop()!;
			const o = 6 * box;
			let near = 0,
				end = best;
			for (let k = 0; k < 3; k++) {
				const from = k === 0 ? x : k === 1 ? y : z,
					way = k === 0 ? dx : k === 1 ? dy : dz;
				if (way === 0) {
					if (from < this.#boxes[o + k] || from > this.#boxes[o + 3 + k]) end = -1;
					continue;
				}
				const a = (this.#boxes[o + k] - from) / way,
					b = (this.#boxes[o + 3 + k] - from) / way;
				near = Math.max(near, Math.min(a, b));
				end = Math.min(end, Math.max(a, b));
			}
			if (near > end) continue;
			const count = this.#counts[box];
			if (count === 0) stack.push(box + 1, this.#links[box]);
			else
				for (let place = this.#links[box]; place < this.#links[box] + count; place++) {
					pollAt(place);
					const t = rayTriangle(this.#data, 9 * place, x, y, z, dx, dy, dz);
					if (t >= 0 && t < best) best = t;
				}
		}
		return best;
	}
}

/** The squared distance to a box; 0 inside. */
function toBox(boxes: Float64Array, o: number, x: number, y: number, z: number): number {
	const dx = x < boxes[o] ? boxes[o] - x : x > boxes[o + 3] ? x - boxes[o + 3] : 0;
	const dy = y < boxes[o + 1] ? boxes[o + 1] - y : y > boxes[o + 4] ? y - boxes[o + 4] : 0;
	const dz = z < boxes[o + 2] ? boxes[o + 2] - z : z > boxes[o + 5] ? z - boxes[o + 5] : 0;
	return dx * dx + dy * dy + dz * dz;
}

/** Orders a range so that its lower half along the longest side comes first (quickselect). Gives the first of the upper. */
function split(centres: Float32Array, order: Uint32Array, start: number, end: number): number {
	let axis = 0,
		widest = -1;
	for (let k = 0; k < 3; k++) {
		let low = Infinity,
			high = -Infinity;
		for (let i = start; i < end; i++) {
			pollAt(i);
			pollAt(i);
			const c = centres[3 * order[i] + k];
			if (c < low) low = c;
			if (c > high) high = c;
		}
		if (high - low > widest) {
			widest = high - low;
			axis = k;
		}
	}
	const middle = (start + end) >> 1;
	if (!(widest > 0)) return middle;
	let low = start,
		high = end - 1;
	while (low < high) {
		const pivot = centres[3 * order[(low + high) >> 1] + axis];
		let i = low,
			j = high;
		while (i <= j) {
			while (centres[3 * order[i] + axis] < pivot) i++;
			while (centres[3 * order[j] + axis] > pivot) j--;
			if (i <= j) {
				pollAt(i);
				const swap = order[i];
				order[i++] = order[j];
				order[j--] = swap;
			}
		}
		if (middle <= j) high = j;
		else if (middle >= i) low = i;
		else break;
	}
	return middle;
}
