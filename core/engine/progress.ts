/**
 * How far a node is. Every kernel asks now and then whether to stop; how often it asks tells how far it has come, so that
 * none must count for itself. What a kind asks for each element is learned as it runs; until then it is guessed.
 * Also tried: shares that kernels report by loop. Few do one loop only, and each would have to know what the others cost.
 */

/** Times that a kind not met yet asks for each 4,096 elements: as often as it would in a few dozen loops. */
const GUESS = 24;
const STRIDE = 4096;
/** It never says that it is done before it is. */
const MOST = 0.99;
/** Of what is learned, how much the newest run counts. */
const NEWEST = 0.5;

export class Progress {
	/** For each kind, how often it asks for each element. */
	readonly #rates = new Map<string, number>();
	#kind = '';
	#elements = 0;
	#asked = 0;

	/** A node of a kind begins; `elements` is what comes in or what it expects to make, whichever is more. */
	begin(kind: string, elements: number): void {
		this.#kind = kind;
		this.#elements = Math.max(1, elements);
		this.#asked = 0;
	}

	/** It has asked whether to stop. The share that is done, from 0 to 1; it never falls while one node runs. */
	ask(): number {
		this.#asked++;
		const rate = this.#rates.get(this.#kind);
		if (rate !== undefined) return Math.min(MOST, this.#asked / (rate * this.#elements));
		const part = this.#asked / (1 + (GUESS * this.#elements) / STRIDE);
		// A guess is never reached: it slows down, and says half when as much is done as was guessed.
		return Math.min(MOST, part / (1 + part));
	}

	/** It is done. */
	end(): void {
		const rate = this.#asked / this.#elements;
		const before = this.#rates.get(this.#kind);
		this.#rates.set(this.#kind, before === undefined ? rate : before + (rate - before) * NEWEST);
	}
}
