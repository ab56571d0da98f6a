/** The module that sowing runs in, with its memory: room for one block of points, and for tables. */
import { SOWING } from './binaries.ts';
import { PAGE, instanceOf, makeMemory } from './instance.ts';
import type { Memory } from './instance.ts';

/** See ./assembly/sowing.ts. Numbers other than `n`, `width` and words are addresses. */
interface Sowing {
	name(n: number, ids: number, first: number, second: number, from: number): void;
	choose(n: number, triangles: number, ids: number, slots: number, count: number): void;
	share(n: number, shares: number, ids: number): void;
	locate(
		n: number,
		corners: number,
		fourths: number,
		triangles: number,
		rows: number,
		records: number,
		stride: number
	): void;
	blend(n: number, out: number, width: number, corners: number, shares: number, offset: number): void;
	normalize(n: number, at: number): void;
	standOff(n: number, out: number, normals: number): number;
}

/** Points in a block: what belongs to them stays in the near cache. */
export const SOWING_BLOCK = 2048;
// The compiler's data lies below 8 kB.
const IDS = 8192;
const TRIANGLES = IDS + 8 * SOWING_BLOCK;
const SHARES = TRIANGLES + 4 * SOWING_BLOCK;
const OUT = SHARES + 8 * SOWING_BLOCK;
const OUT_BYTES = 16 * SOWING_BLOCK + 64;
const SECOND_OUT = OUT + OUT_BYTES;
const FOURTHS = SECOND_OUT + OUT_BYTES;
const CORNERS = FOURTHS + 4 * SOWING_BLOCK;
const TABLES = CORNERS + 16 * SOWING_BLOCK;

/** A memory as large as this is given back after use. */
const KEPT_BYTES = 64e6;
interface Kept {
	memory: Memory;
	sowing: Sowing;
	/** What the tables were made from. */
	filledFrom: WeakRef<object>[];
}
let kept: Kept | null = null;

/** Room to sow in: arrays of one block, whose addresses are named, and tables, which are taken one after another. */
export class SowingRoom {
	readonly sowing: Sowing;
	readonly buffer: ArrayBuffer;
	readonly ids = IDS;
	readonly triangles = TRIANGLES;
	readonly shares = SHARES;
	readonly out = OUT;
	readonly secondOut = SECOND_OUT;
	readonly fourths = FOURTHS;
	readonly corners = CORNERS;
	#free = TABLES;
	readonly #used: Kept;
	readonly #from: readonly object[];

	/** Whether the tables stand as they were left, from the same things. */
	readonly isFilled: boolean;

	/**
	 * @param bytes of all tables; one may be 16 bytes longer than was asked for.
	 * @param from what the tables will be made from, in an order that says how.
	 */
	constructor(bytes: number, from: readonly object[]) {
		const wanted = TABLES + bytes;
		let used = kept;
		if (!used) {
			const memory = makeMemory(wanted);
			used = { memory, sowing: instanceOf<Sowing>(SOWING, memory), filledFrom: [] };
		}
		const missing = wanted - used.memory.buffer.byteLength;
		if (missing > 0) used.memory.grow(Math.ceil(missing / PAGE));
		kept = wanted > KEPT_BYTES ? null : used;
		this.isFilled =
			used.filledFrom.length === from.length && from.every((item, i) => used.filledFrom[i].deref() === item);
		if (!this.isFilled) used.filledFrom = [];
		this.#used = used;
		this.#from = from;
		this.sowing = used.sowing;
		this.buffer = used.memory.buffer;
	}

	/** Says that all tables are written, so that the next room from the same things need not do it again. */
	markFilled(): void {
		this.#used.filledFrom = this.#from.map((item) => new WeakRef(item));
	}

	/** Words of a block. */
	words(at: number, length: number): Uint32Array {
		return new Uint32Array(this.buffer, at, length);
	}

	/** Singles of a block. */
	floats(at: number, length: number): Float32Array {
		return new Float32Array(this.buffer, at, length);
	}

	/** The address of a new table of `bytes`. */
	take(bytes: number): number {
		const at = this.#free;
		this.#free += Math.ceil(bytes / 16) * 16;
		if (this.#free > this.buffer.byteLength) throw new Error('More tables than were announced.');
		return at;
	}
}
