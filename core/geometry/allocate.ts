/** The only maker of column memory. It charges a budget first, so that no setting can take all the memory there is. */
import { NodeError } from '../math/index.ts';

/** Bytes taken and the most that may be. One for each evaluator. */
export class Memory {
	/** Bytes charged since the last `restart`. */
	used = 0;
	peak = 0;
	readonly limit: number;
	readonly shared: boolean;
	readonly poll: () => void;

	/**
	 * @param limit most bytes that may be charged; 2 GB where nothing else is said.
	 * @param shared whether columns lie in shared memory, so that other threads read them without a copy.
	 * @param poll throws when the work should stop.
	 */
	constructor(limit = 2e9, shared = false, poll = () => {}) {
		this.limit = limit;
		this.shared = shared;
		this.poll = poll;
	}

	charge(bytes: number): void {
		this.check(bytes);
		this.used += bytes;
	}

	/** Throws NodeError unless `bytes` more fit, and counts them for the peak. */
	check(bytes: number): void {
		if (!(this.used + bytes <= this.limit))
			throw new NodeError(
				`This needs ${formatBytes(this.used + bytes)} of memory; ${formatBytes(this.limit)} are allowed. Lower the counts, or use fewer elements.`
			);
		if (this.used + bytes > this.peak) this.peak = this.used + bytes;
	}
}

let current = new Memory();

/** Runs `work`, which must be synchronous, with its columns charged to `memory`. */
export function withMemory<Result>(memory: Memory, work: () => Result): Result {
	const before = current;
	current = memory;
	try {
		return work();
	} finally {
		current = before;
	}
}

/** Throws when the current work should stop. Long loops call it every few thousand steps: see `pollAt`. */
export const poll = (): void => current.poll();

/** Throws NodeError unless the current budget has room for memory that is given back after use. */
export const checkScratch = (bytes: number): void => current.check(bytes);

/** Polls at every 4,096th step of a loop. */
export function pollAt(step: number): void {
	if ((step & 4095) === 0) current.poll();
}

interface ArrayKinds {
	float: Float32Array;
	double: Float64Array;
	int: Int32Array;
	index: Uint32Array;
	byte: Uint8Array;
}
const MAKERS = {
	float: Float32Array,
	double: Float64Array,
	int: Int32Array,
	index: Uint32Array,
	byte: Uint8Array
};

/** A zeroed array of `length` numbers, charged to the current budget. Throws NodeError when it does not fit. */
export function allocate<Kind extends keyof ArrayKinds>(kind: Kind, length: number): ArrayKinds[Kind] {
	const Maker = MAKERS[kind];
	const bytes = length * Maker.BYTES_PER_ELEMENT;
	current.charge(bytes);
	current.poll();
	return (
		current.shared ? new Maker(new SharedArrayBuffer(bytes) as never) : new Maker(length)
	) as ArrayKinds[Kind];
}

/** Bytes as people read them. */
export function formatBytes(bytes: number): string {
	if (bytes < 1e3) return `${Math.round(bytes)} bytes`;
	if (bytes < 1e6) return `${Math.round(bytes / 1e3)} kB`;
	if (bytes < 1e9) return `${Math.round(bytes / 1e6)} MB`;
	return bytes < 1e15 ? `${(bytes / 1e9).toFixed(1)} GB` : 'far more than any machine has';
}
