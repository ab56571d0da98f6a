/** What nodes remember, at frames from which they can go on: so many bytes of it, held in the ledger. */
import type { Ledger } from '../geometry/index.ts';
import type { Remembered } from '../nodes/index.ts';

/** A share of the ledger's limit that may be remembered. */
const SHARE = 8;
/** Of one node so many frames are kept; when there are more, every other one goes. */
const MOST_FRAMES = 48;

interface Line {
	/** What was remembered, by frame, in their order. */
	readonly frames: Map<number, Remembered>;
	/** Only frames that this divides are kept, beside the last. */
	stride: number;
	last: number;
	bytes: number;
	/** The evaluation in which it was last asked for. */
	used: number;
}

/** Evaluations after which nobody plays with what a node remembered; until then it keeps where it can go on. */
const KEEPS = 4;

export class States {
	readonly #ledger: Ledger;
	readonly #lines = new Map<string, Line>();
	#bytes = 0;
	#round = 0;
	/** How often a fold went on from what it remembered, and how often it began anew; for whoever measures. */
	resumed = 0;
	begun = 0;

	constructor(ledger: Ledger) {
		this.#ledger = ledger;
	}

	/** What was remembered at a frame, or at the nearest one before it. */
	latest(key: string, frame: number): { frame: number; state: Remembered } | null {
		const line = this.#lines.get(key);
		if (!line) return null;
		// What is asked for was used last.
		this.#lines.delete(key);
		this.#lines.set(key, line);
		line.used = this.#round;
		let best: number | null = null;
		for (const at of line.frames.keys()) if (at <= frame && (best === null || at > best)) best = at;
		return best === null ? null : { frame: best, state: line.frames.get(best)! };
	}

	keep(key: string, frame: number, state: Remembered): void {
		let line = this.#lines.get(key);
		if (!line)
			this.#lines.set(key, (line = { frames: new Map(), stride: 1, last: frame, bytes: 0, used: 0 }));
		line.used = this.#round;
		if (line.frames.has(frame)) return;
		// The one before was kept only to go on from.
		if (line.last !== frame && line.last % line.stride !== 0) this.#drop(line, line.last);
		line.last = frame;
		line.frames.set(frame, state);
		this.#ledger.hold(state, state.bytes);
		line.bytes += state.bytes;
		this.#bytes += state.bytes;
		while (line.frames.size > MOST_FRAMES) this.#thin(line);
		this.#makeRoom(() => this.#bytes > this.#ledger.limit / SHARE);
	}

	/** An evaluation is done. */
	endRound(): void {
		this.#round++;
	}

	/**
	 * Lets go of what nobody plays with any more, then of every other frame of those that hold the most. What nodes at work
	 * go on from stays: one that lost it would begin anew, and drive out another by that, at every frame.
	 */
	#makeRoom(isTooMuch: () => boolean): void {
		for (const [key, line] of this.#lines) {
			if (!isTooMuch()) return;
			if (line.used < this.#round - KEEPS) this.#forget(key, line);
		}
		while (isTooMuch()) {
			let most: Line | null = null;
			for (const line of this.#lines.values())
				if (line.frames.size > 1 && (!most || line.bytes > most.bytes)) most = line;
			if (!most) return;
			this.#thin(most);
		}
	}

	/** Every other frame goes, but the last. */
	#thin(line: Line): void {
		line.stride *= 2;
		for (const at of line.frames.keys()) if (at % line.stride !== 0 && at !== line.last) this.#drop(line, at);
		// Of two that are left, both of which it divides, the last stays.
		if (line.frames.size === 2)
			for (const at of line.frames.keys()) if (at !== line.last) this.#drop(line, at);
	}

	#drop(line: Line, frame: number): void {
		const state = line.frames.get(frame);
		if (!state) return;
		line.frames.delete(frame);
		line.bytes -= state.bytes;
		this.#bytes -= state.bytes;
		this.#ledger.letGo(state);
	}

	#forget(key: string, line: Line): void {
		for (const frame of [...line.frames.keys()]) this.#drop(line, frame);
		this.#lines.delete(key);
	}

	/** Lets go of what can be made again, in the end of all of it, as long as it is too much. */
	trim(isTooMuch: () => boolean): void {
		this.#makeRoom(isTooMuch);
		for (const [key, line] of this.#lines) {
			if (!isTooMuch()) return;
			this.#forget(key, line);
		}
	}
}
