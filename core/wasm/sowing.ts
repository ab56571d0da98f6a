/** The module that sowing runs in, with its memory: room for one block of points, and for tables. */
import { SOWING } from './binaries.ts';
import { PAGE, instanceOf, makeMemory } from './instance.ts';
import type { Memory } from './instance.ts';

/** See ./assembly/sowing.ts. Numbers other than `n`, `width` and words are addresses. */
interface Sowing {
	name(n: number, ids: number, first: number, second: number, from: number): void;
	draw(n: number, slots: number, first: number, from: number, count: number): void;
	sort(n: number, pairs: number, slots: number, starts: number, values: number, shift: number): void;
	settle(
		n: number,
		pairs: number,
		seconds: number,
		thirds: number,
		slots: number,
		first: number,
		second: number,
		from: number
	): void;
	tell(n: number, triangles: number, pairs: number): void;
	blend(
		n: number,
		out: number,
		fourths: number,
		width: number,
		pairs: number,
		seconds: number,
		thirds: number,
		rows: number,
		records: number,
		stride: number
	): void;
	normalize(n: number, at: number): void;
	standOff(n: number, out: number, normals: number): number;
}

/** Points in a block: enough that, sorted, they meet each part of large tables several times. */
export const SOWING_BLOCK = 16384;
/** Most groups that the points of a block are sorted into, and the bits that tell them apart. */
export const SORTED_BITS = 11;
export const SORTED = 1 << SORTED_BITS;
// The compiler's data lies below 8 kB.
const STARTS = 8192;
const PAIRS = STARTS + 4 * SORTED;
const SECONDS = PAIRS + 8 * SOWING_BLOCK;
const THIRDS = SECONDS + 4 * SOWING_BLOCK;
const SPARE = THIRDS + 4 * SOWING_BLOCK;
const TABLES = SPARE + 16 * SOWING_BLOCK + 64;

/** A memory as large as this is given back after use. */
const KEPT_BYTES = 64e6;
interface Kept {
	memory: Memory;
	sowing: Sowing;
	/** What rows and records were made from, and what slots were. */
	filledFrom: WeakRef<object>[];
	slotsFrom: WeakRef<object> | null;
}
let kept: Kept | null = null;

/** Room to sow in: arrays of one block, whose addresses are named, and tables, which are taken one after another. */
export class SowingRoom {
	readonly sowing: Sowing;
	readonly buffer: ArrayBuffer;
	readonly starts = STARTS;
	readonly pairs = PAIRS;
	readonly seconds = SECONDS;
	readonly thirds = THIRDS;
	/** Up to four words for each point. */
	readonly spare = SPARE;
	#free = TABLES;
	readonly #used: Kept;
	readonly #from: readonly object[];
	readonly #slotsFrom: object;

	/** Whether rows and records stand as they were left, from the same things; and slots, too. */
	readonly hasRecords: boolean;
	readonly hasSlots: boolean;

	/**
	 * @param bytes of all tables; one may be 64 bytes longer than was asked for.
	 * @param from what rows and records, which must be taken first, will be made from, in an order that says how.
	 * @param slotsFrom what slots will be made from: another weight leaves the records as they are.
	 */
	constructor(bytes: number, from: readonly object[], slotsFrom: object) {
		const wanted = TABLES + bytes;
		let used = kept;
		if (!used) {
			const memory = makeMemory(wanted);
			used = { memory, sowing: instanceOf<Sowing>(SOWING, memory), filledFrom: [], slotsFrom: null };
		}
		const missing = wanted - used.memory.buffer.byteLength;
		if (missing > 0) used.memory.grow(Math.ceil(missing / PAGE));
		kept = wanted > KEPT_BYTES ? null : used;
		this.hasRecords =
			used.filledFrom.length === from.length && from.every((item, i) => used.filledFrom[i].deref() === item);
		this.hasSlots = this.hasRecords && used.slotsFrom?.deref() === slotsFrom;
		if (!this.hasRecords) used.filledFrom = [];
		if (!this.hasSlots) used.slotsFrom = null;
		this.#used = used;
		this.#from = from;
		this.#slotsFrom = slotsFrom;
		this.sowing = used.sowing;
		this.buffer = used.memory.buffer;
	}

	/** Says that all tables are written, so that the next room from the same things need not do it again. */
	markFilled(): void {
		if (!this.hasRecords) this.#used.filledFrom = this.#from.map((item) => new WeakRef(item));
		if (!this.hasSlots) this.#used.slotsFrom = new WeakRef(this.#slotsFrom);
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
		this.#free += Math.ceil(bytes / 64) * 64;
		if (this.#free > this.buffer.byteLength) throw new Error('More tables than were announced.');
		return at;
	}
}
