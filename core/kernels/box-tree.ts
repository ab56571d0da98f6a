/**
 * The nearest of many triangles, segments or points, and what a ray meets, by a tree of boxes in flat arrays. Boxes are
 * halved at the median of their longest side. Of equally near ones the first by number is taken, so that the order of
 * questions never matters.
 */
import { charge, pollAt, scratch, setInPieces } from '../geometry/index.ts';
import { TreeRoom, bytesOfTree } from '../wasm/nearest.ts';
import { selectMiddle, widestAxis } from './halves.ts';
import { rayTriangle } from './primitives.ts';
import type { Nearest } from './primitives.ts';

/** Primitives a leaf may hold. */
const LEAF = 6;

export class BoxTree {
	/** Corners of one primitive: 3 for triangles, 2 for segments, 1 for points. */
	readonly corners: 1 | 2 | 3;
	/** The tree lies where its questions are answered. */
	readonly #room: TreeRoom;
	/** The first node, or the only leaf. */
	readonly #root: number;
	#last = 0;
	readonly found: Nearest = { distance: Infinity, primitive: -1, x: 0, y: 0, z: 0, u: 0, v: 0 };

	constructor(data: Float32Array, corners: 1 | 2 | 3) {
		this.corners = corners;
		const stride = 3 * corners;
		const count = data.length / stride;
		const order = scratch('index', count);
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
		const boxes = boxesOf(data, stride, order, centres);
		const inner = boxes.innerCount;
		charge(bytesOfTree(inner, count, corners));
		const room = new TreeRoom(inner, count, corners);
		this.#room = room;
		this.#root = boxes.count ? fillNodes(room, boxes) : 0;
		setInPieces(room.order, order);
		for (let i = 0; i < count; i++) {
			pollAt(i);
			for (let k = 0; k < stride; k++) room.data[i * stride + k] = data[order[i] * stride + k];
		}
	}

	get count(): number {
		return this.#room.order.length;
	}

	/** The memory that it holds, for the ledger. */
	holds(): ArrayBufferView[] {
		return [this.#room.data];
	}

	/** Finds the nearest place; the answer stands in `found` until the next question. */
	nearest(x: number, y: number, z: number): Nearest {
		const { found } = this;
		const room = this.#room;
		if (!room.order.length) {
			found.primitive = -1;
			found.distance = Infinity;
			return found;
		}
		// The last answer's primitive bounds the search from the start: near questions have near answers.
		const place = (this.#last = room.nearest(x, y, z, this.#root, this.#last));
		const told = room.found;
		found.distance = told[0];
		found.primitive = room.order[place];
		found.u = told[1];
		found.v = told[2];
		found.x = told[3];
		found.y = told[4];
		found.z = told[5];
		return found;
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
		const ray = { x, y, z, dx, dy, dz };
		return this.#passed(
			ray,
			least,
			() => most,
			(o) => {
				const t = rayTriangle(this.#room.data, o, x, y, z, dx, dy, dz);
				return t > least && t < most;
			}
		);
	}

	/** How far along a ray, in lengths of its direction, the first triangle is met; Infinity where none is. */
	along(x: number, y: number, z: number, dx: number, dy: number, dz: number): number {
		let best = Infinity;
		this.#passed(
			{ x, y, z, dx, dy, dz },
			0,
			() => best,
			(o) => {
				const t = rayTriangle(this.#room.data, o, x, y, z, dx, dy, dz);
				if (t >= 0 && t < best) best = t;
				return false;
			}
		);
		return best;
	}

	/**
	 * Visits the triangles in all boxes that a ray passes between two distances, until `visit` says that it is enough.
	 * @param visit gets the first number of the triangle. @returns whether it was enough.
	 */
	#passed(ray: Ray, least: number, most: () => number, visit: (o: number) => boolean): boolean {
		const { boxes, links, order } = this.#room;
		if (!order.length) return false;
		const stack = [this.#root];
		while (stack.length) {
			const code = stack.pop()!;
			if (code >= 0) {
				for (let side = 1; side >= 0; side--)
					if (isPassed(boxes, 16 * code + side, ray, least, most())) stack.push(links[16 * code + 12 + side]);
				continue;
			}
			const leaf = ~code;
			for (let place = leaf >> 3, end = place + (leaf & 7); place < end; place++)
				if (visit(9 * place)) return true;
		}
		return false;
	}
}

interface Ray {
	x: number;
	y: number;
	z: number;
	dx: number;
	dy: number;
	dz: number;
}

/** Whether a ray passes one of the two boxes of a node between two distances. Where it runs along a side it does. */
function isPassed(boxes: Float32Array, o: number, ray: Ray, least: number, most: number): boolean {
	let near = least,
		end = most;
	for (let axis = 0; axis < 3; axis++) {
		const from = axis === 0 ? ray.x : axis === 1 ? ray.y : ray.z,
			way = axis === 0 ? ray.dx : axis === 1 ? ray.dy : ray.dz;
		const low = boxes[o + 4 * axis],
			high = boxes[o + 4 * axis + 2];
		if (way === 0) {
			if (from < low || from > high) return false;
			continue;
		}
		const a = (low - from) / way,
			b = (high - from) / way;
		near = Math.max(near, Math.min(a, b));
		end = Math.min(end, Math.max(a, b));
	}
	return near <= end;
}

/** Boxes as they are built: the first half of each follows it, the second is linked. */
interface Boxes {
	count: number;
	innerCount: number;
	/** Lowest and highest x, y, z: six numbers a box. */
	bounds: Float32Array;
	/** For a leaf its first primitive; for others the box of the second half. */
	links: Uint32Array;
	/** Primitives of a leaf; 0 for others. */
	counts: Uint32Array;
}

/** Halves all primitives again and again, and gives the box of each half. `order` is put in the order of the leaves. */
function boxesOf(data: Float32Array, stride: number, order: Uint32Array, centres: Float32Array): Boxes {
	const count = order.length;
	const most = Math.max(1, 2 * Math.ceil(count / (LEAF / 2)) + 1);
	const boxes: Boxes = {
		count: 0,
		innerCount: 0,
		bounds: scratch('float', 6 * most),
		links: scratch('index', most),
		counts: scratch('index', most)
	};
	// Ranges that still need a box; `parent` is the box whose second half this is, or -1.
	const open: number[] = count ? [0, count, -1] : [];
	while (open.length) {
		const parent = open.pop()!,
			end = open.pop()!,
			start = open.pop()!;
		const box = boxes.count++;
		pollAt(box);
		if (parent >= 0) boxes.links[parent] = box;
		if (end - start <= LEAF) {
			measure(boxes.bounds, 6 * box, data, order, start, end, stride);
			boxes.links[box] = start;
			boxes.counts[box] = end - start;
			continue;
		}
		boxes.innerCount++;
		const middle = split(centres, order, start, end);
		open.push(middle, end, box, start, middle, -1);
	}
	// The others hold their two halves, which stand behind them.
	for (let box = boxes.count - 1; box >= 0; box--) {
		pollAt(box);
		if (boxes.counts[box] === 0) unite(boxes, box);
	}
	return boxes;
}

function measure(
	bounds: Float32Array,
	o: number,
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
	for (let i = start; i < end; i++)
		for (let p = order[i] * stride, last = p + stride; p < last; p += 3) {
			const x = data[p],
				y = data[p + 1],
				z = data[p + 2];
			if (x < ax) ax = x;
			if (x > bx) bx = x;
			if (y < ay) ay = y;
			if (y > by) by = y;
			if (z < az) az = z;
			if (z > bz) bz = z;
		}
	bounds[o] = ax;
	bounds[o + 1] = ay;
	bounds[o + 2] = az;
	bounds[o + 3] = bx;
	bounds[o + 4] = by;
	bounds[o + 5] = bz;
}

function unite({ bounds, links }: Boxes, box: number): void {
	const a = 6 * (box + 1),
		b = 6 * links[box],
		o = 6 * box;
	for (let k = 0; k < 3; k++) {
		bounds[o + k] = bounds[a + k] < bounds[b + k] ? bounds[a + k] : bounds[b + k];
		bounds[o + 3 + k] = bounds[a + 3 + k] > bounds[b + 3 + k] ? bounds[a + 3 + k] : bounds[b + 3 + k];
	}
}

/** Writes the boxes as nodes, each with the boxes of its halves. Gives the code of the first one. */
function fillNodes(room: TreeRoom, { count, bounds, links, counts }: Boxes): number {
	const nodeOf = scratch('int', count);
	for (let box = 0, node = 0; box < count; box++) {
		pollAt(box);
		if (counts[box] === 0) nodeOf[box] = node++;
	}
	const codeOf = (box: number): number =>
		counts[box] === 0 ? nodeOf[box] : ~((links[box] << 3) | counts[box]);
	for (let box = 0; box < count; box++) {
		pollAt(box);
		if (counts[box] !== 0) continue;
		const o = 16 * nodeOf[box];
		for (let side = 0; side < 2; side++) {
			const half = side ? links[box] : box + 1;
			for (let axis = 0; axis < 3; axis++) {
				room.boxes[o + 4 * axis + side] = bounds[6 * half + axis];
				room.boxes[o + 4 * axis + 2 + side] = bounds[6 * half + 3 + axis];
			}
			room.links[o + 12 + side] = codeOf(half);
		}
	}
	return codeOf(0);
}

/** Orders a range so that its lower half along the longest side comes first. Gives the first of the upper half. */
function split(centres: Float32Array, order: Uint32Array, start: number, end: number): number {
	const middle = (start + end) >> 1;
	const { axis, width } = widestAxis(centres, order, start, end - 1);
	if (width > 0) selectMiddle(centres, order, start, end - 1, middle, axis);
	return middle;
}
