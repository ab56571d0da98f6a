/** What a picture costs, learnt from those that were drawn, and how much may be drawn at once. Knows no three. */

/** What is to be drawn. */
export interface Load {
	triangles: number;
	/** Pixels of the picture. */
	pixels: number;
}

/** While something moves, one picture may take this many milliseconds. */
export const MOVING = 60;
/** … of which copies have this long, also where the rest takes all of it. */
const LEAST = 35;
/** Copies of fewer triangles are always drawn: what makes such a picture slow is something else. */
export const FEW = 60_000;
/** No piece of work takes longer than this, so that the page answers in between. */
export const PIECE = 30;

/** Milliseconds for a triangle and a pixel that were never measured: a processor's, to be on the safe side. */
const FIRST = { triangle: 0.0006, pixel: 0.00004 };
/** Work that is guessed to take less than this says how long any work takes, more says how long triangles take. */
const SMALL = 6;
/** Other programs, and the page itself, only ever make a measurement longer: a shorter one is believed sooner. */
const BELIEF = { shorter: 0.5, longer: 0.12 };

export class Pace {
	/** How much slower than the first guess triangles and pixels are. */
	#slowness: number;
	/** Milliseconds that any piece of work takes beside them. */
	#each = 2;

	constructor(slowness = 1) {
		this.#slowness = slowness;
	}

	/** Milliseconds that a load will take. */
	expect(load: Load): number {
		return this.#each + this.#slowness * guess(load);
	}

	/** Takes a measurement over. One odd one changes little: another program may have been busy. */
	learn(load: Load, milliseconds: number): void {
		const own = guess(load);
		if (own * this.#slowness < SMALL)
			this.#each = between(0.5, 12, towards(this.#each, milliseconds - own * this.#slowness));
		else {
			const measured = Math.max(0.2, milliseconds - this.#each) / own;
			const bounded = between(this.#slowness / 4, this.#slowness * 4, measured);
			this.#slowness = between(0.002, 60, towards(this.#slowness, bounded));
		}
	}

	/** Triangles that are drawn in some milliseconds beside so many pixels; at least a thousand, so that work goes on. */
	trianglesIn(milliseconds: number, pixels: number): number {
		const left = milliseconds / this.#slowness - guess({ triangles: 0, pixels });
		return Math.max(1000, left / FIRST.triangle);
	}

	/**
	 * The share of the copies that is drawn while something moves, as “one in n”.
	 * @param fixed triangles that are drawn in any case.
	 * @param copied triangles of all copies.
	 */
	oneIn(fixed: number, copied: number, pixels: number): number {
		if (copied <= FEW) return 1;
		// However long the rest takes, some copies are drawn: without any there would be nothing to look at.
		const room = Math.max(this.trianglesIn(MOVING - this.#each, pixels) - fixed, this.trianglesIn(LEAST, 0));
		let n = 1;
		while (n < 1024 && copied / n > room) n *= 2;
		return n;
	}
}

/** So many copies of a shape are always drawn: fewer would not show how they lie. */
export const FLOOR = 64;

/** How many of the copies of a shape are drawn, where one in `oneIn` is. */
export const drawnOf = (copies: number, oneIn: number): number =>
	Math.min(copies, Math.max(FLOOR, Math.ceil(copies / oneIn)));

/** Cuts a row of pieces of work into runs whose sums stay below a limit; a piece larger than it stands alone. */
export function runsOf<Piece>(
	pieces: readonly Piece[],
	size: (piece: Piece) => number,
	limit: number
): Piece[][] {
	const runs: Piece[][] = [];
	let room = -1;
	for (const piece of pieces) {
		const needs = size(piece);
		if (needs > room) {
			runs.push([]);
			room = limit;
		}
		runs.at(-1)!.push(piece);
		room -= needs;
	}
	return runs;
}

const guess = ({ triangles, pixels }: Load): number => triangles * FIRST.triangle + pixels * FIRST.pixel;
const between = (low: number, high: number, x: number): number => Math.max(low, Math.min(high, x));
const towards = (old: number, measured: number): number =>
	old + (measured - old) * (measured < old ? BELIEF.shorter : BELIEF.longer);
