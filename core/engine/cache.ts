/** Results of nodes by their keys. What they hold is counted in the ledger, and let go of with them. */
import type { Ledger } from '../geometry/index.ts';
import { holdValue } from './holding.ts';
import type { NodeResult } from './result.ts';

/** The most results that are kept, however small they are. */
const MOST_RESULTS = 4000;

interface Entry {
	readonly result: NodeResult;
	/** What is held of it in the ledger. */
	readonly holds: readonly object[];
	/** How many need it now, so that it must stay. */
	pins: number;
}

export class ResultCache {
	/** In the order of last use, the oldest first. */
	readonly #entries = new Map<string, Entry>();
	readonly #ledger: Ledger;

	readonly #dropped: (key: string) => void;

	/** @param dropped hears of each result that had to make room. */
	constructor(ledger: Ledger, dropped: (key: string) => void = () => {}) {
		this.#ledger = ledger;
		this.#dropped = dropped;
	}

	/** The result of a key, which is then the one used last; undefined where it is not, or no longer, kept. */
	take(key: string): NodeResult | undefined {
		const entry = this.#entries.get(key);
		if (!entry) return undefined;
		this.#entries.delete(key);
		this.#entries.set(key, entry);
		return entry.result;
	}

	keep(result: NodeResult): void {
		// Whoever needs the one before needs this one in its place.
		const pins = this.#entries.get(result.key)?.pins ?? 0;
		const holds = [...result.outputs.values()].flatMap((value) => holdValue(this.#ledger, value));
		this.#drop(result.key);
		this.#entries.set(result.key, { result, holds, pins });
	}

	/** Keeps a result for as long as somebody needs it. */
	pin(key: string): void {
		const entry = this.#entries.get(key);
		if (entry) entry.pins++;
	}

	unpin(key: string): void {
		const entry = this.#entries.get(key);
		if (entry && entry.pins > 0) entry.pins--;
	}

	/** Lets the least recently used results go for as long as `isTooMuch` says so; never those that are needed. */
	trim(isTooMuch: () => boolean): void {
		if (this.#entries.size <= MOST_RESULTS && !isTooMuch()) return;
		for (const [key, { pins }] of this.#entries) {
			if (this.#entries.size <= MOST_RESULTS && !isTooMuch()) return;
			if (pins > 0) continue;
			this.#drop(key);
			this.#dropped(key);
		}
	}

	#drop(key: string): void {
		const entry = this.#entries.get(key);
		if (!entry) return;
		this.#entries.delete(key);
		for (const thing of entry.holds) this.#ledger.letGo(thing);
	}
}
