/**
 * Writes the newest state of something: one write at a time, in order, so that no older state ever lands on a newer one.
 * A write that fails is tried again with whatever is newest then.
 */
export interface WriteQueueOptions<State> {
	write: (state: State) => Promise<void>;
	/** Hears of each change of `hasUnwritten`, and of trouble. */
	changed?: () => void;
	/** States that follow one another faster are written together. */
	waits?: number;
	/** Milliseconds after which a failed write is tried again. */
	triesAgain?: number;
}

export class WriteQueue<State> {
	/** Why the last write failed; null where it did not. */
	trouble: Error | null = null;
	readonly #write: (state: State) => Promise<void>;
	readonly #changed: () => void;
	readonly #waits: number;
	readonly #triesAgain: number;
	/** The newest state that is not written, boxed: a state may be anything. */
	#newest: { state: State } | null = null;
	/** The write that is under way. */
	#writing: Promise<void> | null = null;
	#timer: ReturnType<typeof setTimeout> | undefined;
	#last = -Infinity;

	constructor({ write, changed = () => {}, waits = 250, triesAgain = 5000 }: WriteQueueOptions<State>) {
		this.#write = write;
		this.#changed = changed;
		this.#waits = waits;
		this.#triesAgain = triesAgain;
	}

	/** Whether something noted is not written yet. */
	get hasUnwritten(): boolean {
		return this.#newest !== null || this.#writing !== null;
	}

	/** Notes a state to be written: at once, or together with those that follow quickly, as in a drag. */
	note(state: State): void {
		this.#newest = { state };
		this.#changed();
		const since = performance.now() - this.#last;
		if (since > this.#waits) void this.flush();
		else this.#later(this.#waits - since);
	}

	/** Writes what is noted. Resolves when all of it is written, or a write has failed. */
	async flush(): Promise<void> {
		clearTimeout(this.#timer);
		while (this.#newest || this.#writing) {
			this.#writing ??= this.#writeNewest();
			await this.#writing;
			if (this.trouble) return;
		}
	}

	/** Writes no more by itself. */
	close(): void {
		clearTimeout(this.#timer);
	}

	#later(milliseconds: number): void {
		clearTimeout(this.#timer);
		this.#timer = setTimeout(() => void this.flush(), milliseconds);
	}

	async #writeNewest(): Promise<void> {
		const taken = this.#newest!;
		this.#newest = null;
		this.#last = performance.now();
		try {
			await this.#write(taken.state);
			this.trouble = null;
		} catch (error) {
			// What was noted meanwhile is newer, and is what will be written.
			this.#newest ??= taken;
			this.trouble = error as Error;
			this.#later(this.#triesAgain);
		} finally {
			this.#writing = null;
			this.#changed();
		}
	}
}
