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
}

export class States {
	readonly #ledger: Ledger;
	readonly #lines = new Map<string, Line>();
	#bytes = 0;
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
		let best: number | null = null;
		for (const at of line.frames.keys()) if (at <= frame && (best === null || at > best)) best = at;
		return best === null ? null : { frame: best, state: line.frames.get(best)! };
	}

	keep(key: string, frame: number, state: Remembered): void {
		let line = this.#lines.get(key);
		if (!line) this.#lines.set(key, (line = { frames: new Map(), stride: 1, last: frame }));
		if (line.frames.has(frame)) return;
		// The one before was kept only to go on from.
		if (line.last !== frame && line.last % line.stride !== 0) this.#drop(line, line.last);
		line.last = frame;
		line.frames.set(frame, state);
		this.#ledger.hold(state, state.bytes);
		this.#bytes += state.bytes;
		const isTooMuch = () => this.#bytes > this.#ledger.limit / SHARE;
		this.trim(isTooMuch, key);
		// Where it takes the whole share by itself, it keeps fewer frames.
		while (line.frames.size > MOST_FRAMES || (isTooMuch() && line.frames.size > 1)) this.#thin(line);
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
		this.#bytes -= state.bytes;
		this.#ledger.letGo(state);
	}

	/** Lets go of what was not asked for longest, as long as it is too much. @param but one that is at work. */
	trim(isTooMuch: () => boolean, but = ''): void {
		for (const [key, line] of this.#lines) {
			if (!isTooMuch()) return;
			if (key === but) continue;
			for (const frame of [...line.frames.keys()]) this.#drop(line, frame);
			this.#lines.delete(key);
		}
	}
}
