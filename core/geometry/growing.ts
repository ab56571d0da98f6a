/** An array that grows as it is filled, its memory charged like any other. */
import type { ArrayKinds } from './allocate.ts';
import { allocate, pollAt, scratch, setInPieces } from './allocate.ts';
import { ownerIfAny } from './owner.ts';

const FIRST = 256;

export class Growing<Kind extends keyof ArrayKinds> {
	length = 0;
	readonly #kind: Kind;
	#data: ArrayKinds[Kind];

	constructor(kind: Kind) {
		this.#kind = kind;
		this.#data = scratch(kind, FIRST);
	}

	/** Appends a number. Asks now and then whether to stop. */
	push(x: number): void {
		if (this.length === this.#data.length) this.#grow();
		pollAt(this.length);
		this.#data[this.length++] = x;
	}

	/** Forgets what was appended, and keeps the room. */
	clear(): void {
		this.length = 0;
	}

	at(i: number): number {
		return this.#data[i];
	}

	/** All that was appended, as an array of its own that may become a column. */
	take(): ArrayKinds[Kind] {
		const taken = allocate(this.#kind, this.length);
		setInPieces(taken, this.#data.subarray(0, this.length));
		return taken;
	}

	/** The same where it lies, for as long as nothing more is appended. */
	view(): ArrayKinds[Kind] {
		return this.#data.subarray(0, this.length) as ArrayKinds[Kind];
	}

	#grow(): void {
		const before = this.#data;
		this.#data = scratch(this.#kind, 2 * before.length);
		setInPieces(this.#data, before);
		ownerIfAny()?.refund(before.byteLength);
	}
}
