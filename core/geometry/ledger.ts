/**
 * The ledger of memory: every buffer counts once, by identity, whoever holds it. What is held is results, what was derived
 * from them, evaluated columns and packets; what nobody holds any more is let go of here and now.
 */
import { NodeError } from '../math/index.ts';
import { formatBytes } from './allocate.ts';
import { forget, visitKept } from './kept.ts';
import type { Owner } from './owner.ts';
import { ownerIfAny, withOwner } from './owner.ts';

interface Entry {
	/** How many hold it. */
	holders: number;
	readonly bytes: number;
	/** What it holds itself. */
	readonly parts: readonly object[];
	/** The buffers of what was derived from it, by the object or key that it was derived from. */
	attached: Map<object, object[]> | null;
}

export interface LedgerOptions {
	/** Most bytes that may be held and worked with; 2 GB where nothing else is said. */
	limit?: number;
	/** Whether columns lie in shared memory. */
	shared?: boolean;
	/** Throws when the work should stop. */
	poll?: () => void;
	/** Lets go of what can be made again, where `bytes` more are wanted. */
	relieve?: (bytes: number) => void;
}

export class Ledger implements Owner {
	/** Bytes of all that is held. */
	held = 0;
	/** Bytes that the work at hand has taken; when it is done they are held by somebody, or garbage. */
	working = 0;
	/** The most that was held and worked with at once. */
	peak = 0;
	readonly limit: number;
	readonly shared: boolean;
	readonly poll: () => void;
	readonly #relieve: (bytes: number) => void;
	readonly #entries = new Map<object, Entry>();

	constructor({ limit = 2e9, shared = false, poll = () => {}, relieve = () => {} }: LedgerOptions = {}) {
		this.limit = limit;
		this.shared = shared;
		this.poll = poll;
		this.#relieve = relieve;
	}

	/** Runs work whose memory counts here, until it is done; what should stay must be held before. */
	work<Result>(work: () => Result): Result {
		const before = ownerIfAny() === this ? this.working : 0;
		this.working = before;
		try {
			return withOwner(this, work);
		} finally {
			this.working = before;
		}
	}

	charge(bytes: number): void {
		this.check(bytes);
		this.working += bytes;
	}

	refund(bytes: number): void {
		this.working -= bytes;
	}

	check(bytes: number): void {
		if (!(this.held + this.working + bytes <= this.limit)) this.#relieve(bytes);
		const wanted = this.held + this.working + bytes;
		if (!(wanted <= this.limit))
			throw new OutOfMemory(
				`This needs ${formatBytes(wanted)} of memory; ${formatBytes(this.limit)} are allowed. Lower the counts, or use fewer elements.`
			);
		if (wanted > this.peak) this.peak = wanted;
	}

	/** Holds something once more: a buffer, or an object that holds others. */
	hold(thing: object, bytes = 0, parts: () => readonly object[] = noParts): void {
		const entry = this.#entries.get(thing);
		if (entry) {
			entry.holders++;
			return;
		}
		const own = parts();
		this.#entries.set(thing, { holders: 1, bytes, parts: own, attached: null });
		this.held += bytes;
		if (!isBuffer(thing)) visitKept(thing, (from, value) => this.attach(thing, from, value));
	}

	/** Holds the memory of an array once more. */
	holdArray(array: ArrayBufferView): object {
		this.hold(array.buffer, array.buffer.byteLength);
		return array.buffer;
	}

	/** Ends one holding. What nobody holds any more is let go of, with all that was derived from it. */
	letGo(thing: object): void {
		const queue = [thing];
		for (let one = queue.pop(); one; one = queue.pop()) {
			const entry = this.#entries.get(one);
			if (!entry || --entry.holders > 0) continue;
			this.#entries.delete(one);
			this.held -= entry.bytes;
			for (const part of entry.parts) queue.push(part);
			if (entry.attached) for (const buffers of entry.attached.values()) queue.push(...buffers);
			if (!isBuffer(one)) forget(one, (root, key) => this.#detach(root, key));
		}
	}

	isHeld(thing: object): boolean {
		return this.#entries.has(thing);
	}

	attach(root: object, from: object, value: unknown): void {
		const entry = this.#entries.get(root);
		if (!entry) return;
		const buffers: object[] = [];
		buffersIn(value, 0, buffers);
		if (!buffers.length) return;
		for (const buffer of buffers) this.hold(buffer, (buffer as ArrayBuffer).byteLength);
		entry.attached ??= new Map();
		const known = entry.attached.get(from);
		if (known) known.push(...buffers);
		else entry.attached.set(from, buffers);
	}

	#detach(root: object, key: object): void {
		const attached = this.#entries.get(root)?.attached;
		const buffers = attached?.get(key);
		if (!buffers) return;
		attached!.delete(key);
		for (const buffer of buffers) this.letGo(buffer);
	}
}

/** The budget was too small: another time it may be enough. */
export class OutOfMemory extends NodeError {}

const NO_PARTS: readonly object[] = [];
const noParts = () => NO_PARTS;

const isBuffer = (thing: object): boolean =>
	thing instanceof ArrayBuffer ||
	(typeof SharedArrayBuffer !== 'undefined' && thing instanceof SharedArrayBuffer);

/** How deep the values that are kept hold their arrays. */
const DEEPEST = 4;

/** The buffers of a value that was derived: of arrays, of lists of them, of records and of instances. */
function buffersIn(value: unknown, depth: number, found: object[]): void {
	if (typeof value !== 'object' || value === null || depth > DEEPEST) return;
	if (ArrayBuffer.isView(value)) {
		if (value.byteLength && !found.includes(value.buffer)) found.push(value.buffer);
		return;
	}
	// A geometry that is named in passing holds what is its own.
	if ('materials' in value) return;
	if (Array.isArray(value) && value.length && typeof value[0] !== 'object') return;
	if ('holds' in value && typeof value.holds === 'function') {
		for (const array of value.holds() as unknown[]) buffersIn(array, depth + 1, found);
		return;
	}
	for (const one of Object.values(value)) buffersIn(one, depth + 1, found);
}
