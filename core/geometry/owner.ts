/** Who pays for memory. Kernels take columns without knowing from whom: the one whose work is being done is found here. */

/** What `allocate` and `derive` ask of whoever owns the memory; see `Ledger`. */
export interface Owner {
	/** Whether columns lie in shared memory, so that other threads read them without a copy. */
	readonly shared: boolean;
	/** Throws when the work should stop. */
	poll(): void;
	/** Counts bytes for the work at hand. Throws NodeError where they do not fit. */
	charge(bytes: number): void;
	/** Takes back a charge for memory that is let go of while the work goes on. */
	refund(bytes: number): void;
	/** Throws NodeError where so many bytes more would not fit. */
	check(bytes: number): void;
	/** Hears that a value was made that is kept as long as `root` is; `from` is `root`, or a key that hangs from it. */
	attach(root: object, from: object, value: unknown): void;
}

let current: Owner | null = null;

/** The owner of memory that is taken now. Throws where there is none: memory without an owner would never be given back. */
export function owner(): Owner {
	if (!current) throw new Error('Memory was asked for without an owner: run this inside `withOwner`.');
	return current;
}

/** The same, or null. */
export const ownerIfAny = (): Owner | null => current;

/** Runs `work`, which must be synchronous, with its memory owned by `own`. */
export function withOwner<Result>(own: Owner, work: () => Result): Result {
	const before = current;
	current = own;
	try {
		return work();
	} finally {
		current = before;
	}
}

/** Makes `own` the owner of all that follows. For programs that do one thing, and for tests. */
export function setOwner(own: Owner | null): void {
	current = own;
}
