/**
 * Values that were worked out on elements, by the expression, the columns it reads and the kind of element; so dragging one
 * setting does not work out the noise on another again.
 */
import { identityOf } from '../geometry/index.ts';
import type { Ledger } from '../geometry/index.ts';
import type { Elements, Varying } from '../varying/index.ts';
import { readsOf } from '../varying/index.ts';

export interface Evaluated {
	readonly data: Float32Array | Uint8Array;
	/** What was said while it was worked out. */
	readonly said: readonly string[];
}

interface Entry extends Evaluated {
	/** The evaluation in which it was last used. */
	used: number;
	readonly buffer: object;
}

/** Evaluations after which an unused column is let go of: an undo or two find what they need. */
const KEEPS = 4;

export class EvaluatedColumns {
	readonly #ledger: Ledger;
	/** In the order of last use, the oldest first. */
	readonly #entries = new Map<string, Entry>();
	#round = 0;

	constructor(ledger: Ledger) {
		this.#ledger = ledger;
	}

	/** The column of a value, worked out at the first call. `shape` says which numbers are wanted: type and width. */
	take(value: Varying, elements: Elements, shape: string, make: () => Evaluated): Evaluated {
		const key = `${shape} ${value.hash} ${elements.count}${readsText(value, elements)}`;
		let entry = this.#entries.get(key);
		if (entry) this.#entries.delete(key);
		else {
			const made = make();
			entry = { ...made, used: 0, buffer: this.#ledger.holdArray(made.data) };
		}
		entry.used = this.#round;
		this.#entries.set(key, entry);
		return entry;
	}

	/** An evaluation is done: what has not been used for some is let go of. */
	endRound(): void {
		this.#round++;
		for (const [key, entry] of this.#entries) {
			if (entry.used > this.#round - KEEPS) return;
			this.#drop(key, entry);
		}
	}

	/** Lets columns go, the oldest first, for as long as `isTooMuch` says so. */
	trim(isTooMuch: () => boolean): void {
		for (const [key, entry] of this.#entries) {
			if (!isTooMuch() || entry.used === this.#round) return;
			this.#drop(key, entry);
		}
	}

	#drop(key: string, entry: Entry): void {
		this.#entries.delete(key);
		this.#ledger.letGo(entry.buffer);
	}
}

/** Names the columns that a value reads here. */
function readsText(value: Varying, elements: Elements): string {
	let text = '';
	for (const { name, from } of readsOf(value)) {
		if (from === 'ids') text += ` i${elements.ids ? identityOf(elements.ids) : 0}`;
		else {
			const column = from === 'attribute' ? elements.attribute(name, () => {}) : elements.builtin(name);
			text += ` ${identityOf(column)}`;
		}
	}
	return text;
}
