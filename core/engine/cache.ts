/** Results of nodes by their keys, within a number of bytes. */
import type { NodeResult } from './result.ts';

/** The most results that are kept, however small they are. */
const MOST_RESULTS = 4000;

export class ResultCache {
	/** In the order of last use, the oldest first. */
	readonly #results = new Map<string, NodeResult>();
	readonly #limit: number;
	/** Bytes that the results hold. */
	bytes = 0;

	constructor(limit: number) {
		this.#limit = limit;
	}

	/** The result of a key, which is then the one used last; undefined where it is not, or no longer, kept. */
	take(key: string): NodeResult | undefined {
		const held = this.#results.get(key);
		if (!held) return undefined;
		this.#results.delete(key);
		this.#results.set(key, held);
		return held;
	}

	keep(result: NodeResult): void {
		this.#results.set(result.key, result);
		this.bytes += result.bytes;
	}

	/** Lets the least recently used results go until the rest is within the limit; never those in use. */
	evict(inUse: ReadonlySet<string>): void {
		const fits = () => this.bytes <= this.#limit && this.#results.size <= MOST_RESULTS;
		for (const [key, result] of this.#results) {
			if (fits()) return;
			if (inUse.has(key)) continue;
			this.#results.delete(key);
			this.bytes -= result.bytes;
		}
	}
}
