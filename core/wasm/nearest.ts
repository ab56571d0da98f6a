/** The module that finds nearest places, with a memory for each tree. */
import { NEAREST } from './binaries.ts';
import { instanceOf, makeMemory } from './instance.ts';

/** See ./assembly/nearest.ts. The first three numbers are a place, the others addresses, counts and codes. */
interface Exports {
	nearest(
		x: number,
		y: number,
		z: number,
		nodes: number,
		data: number,
		order: number,
		corners: number,
		root: number,
		last: number,
		stack: number,
		found: number
	): number;
}

// The compiler's data lies below 8 kB.
const FOUND = 8192;
const STACK = FOUND + 64;
/** Entries of the stack: more than any tree of halves is deep. */
const DEEPEST = 128;
const NODES = STACK + 16 * DEEPEST;
/** Bytes of a node. */
const NODE_BYTES = 64;

/** Bytes that a tree takes. */
export const bytesOfTree = (nodes: number, primitives: number, corners: number): number =>
	NODES + NODE_BYTES * nodes + primitives * (12 * corners + 4);

/** The memory of one tree, and the questions that are asked of it. */
export class TreeRoom {
	readonly buffer: ArrayBuffer;
	/** Sixteen singles a node: twelve of boxes, then two words (see `links`). */
	readonly boxes: Float32Array;
	/** The same memory as words: the halves of a node stand at 12 and 13. */
	readonly links: Int32Array;
	/** Numbers of the primitives in the order of the leaves. */
	readonly data: Float32Array;
	/** The number of each primitive in that order. */
	readonly order: Uint32Array;
	/** Distance, u, v, x, y, z of the last answer. */
	readonly found: Float64Array;
	readonly #exports: Exports;
	readonly #corners: number;
	readonly #dataAt: number;
	readonly #orderAt: number;

	constructor(nodes: number, primitives: number, corners: number) {
		const memory = makeMemory(bytesOfTree(nodes, primitives, corners));
		this.#exports = instanceOf<Exports>(NEAREST, memory);
		this.#corners = corners;
		this.#dataAt = NODES + NODE_BYTES * nodes;
		this.#orderAt = this.#dataAt + 12 * corners * primitives;
		const { buffer } = memory;
		this.buffer = buffer;
		this.boxes = new Float32Array(buffer, NODES, 16 * nodes);
		this.links = new Int32Array(buffer, NODES, 16 * nodes);
		this.data = new Float32Array(buffer, this.#dataAt, 3 * corners * primitives);
		this.order = new Uint32Array(buffer, this.#orderAt, primitives);
		this.found = new Float64Array(buffer, FOUND, 6);
	}

	/** The place, in the order of the leaves, of the primitive nearest to x, y, z. `last` is that of the last answer. */
	nearest(x: number, y: number, z: number, root: number, last: number): number {
		return this.#exports.nearest(
			x,
			y,
			z,
			NODES,
			this.#dataAt,
			this.#orderAt,
			this.#corners,
			root,
			last,
			STACK,
			FOUND
		);
	}
}
