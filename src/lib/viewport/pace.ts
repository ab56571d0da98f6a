/** What a picture costs, learnt from those that were drawn, and how much may be drawn at once. Knows no three. */

/** What is to be drawn. */
export interface Load {
	triangles: number;
	/** Pixels of the picture. */
	pixels: number;
}

/** While something moves, one picture may take this many milliseconds. */
export const MOVING = 60;
/** No piece of work takes longer than this, so that the page answers in between. */
export const PIECE = 30;

/** Milliseconds for a triangle and a pixel that were never measured: a processor's, to be on the safe side. */
const FIRST = { triangle: 0.0006, pixel: 0.00004 };
/** Beside its triangles and pixels each piece takes this long. */
const EACH = 1;

export class Pace {
	/** How much slower than the first guess the machine is. */
	#slowness: number;

	constructor(slowness = 1) {
		this.#slowness = slowness;
	}

	/** Milliseconds that a load will take. */
	expect({ triangles, pixels }: Load): number {
		return EACH + this.#slowness * (triangles * FIRST.triangle + pixels * FIRST.pixel);
	}

	/** Takes a measurement over. One odd one changes little: another program may have been busy. */
	learn(load: Load, milliseconds: number): void {
		const guess = load.triangles * FIRST.triangle + load.pixels * FIRST.pixel;
		// What is over in no time says nothing of the triangles.
		if (guess * this.#slowness < 0.5 && milliseconds < 4) return;
		const measured = Math.max(0.2, milliseconds - EACH) / Math.max(guess, 0.01);
		const bounded = Math.min(4 * this.#slowness, Math.max(this.#slowness / 4, measured));
		this.#slowness = Math.max(0.002, Math.min(200, 0.7 * this.#slowness + 0.3 * bounded));
	}

	/** Triangles that fit into some milliseconds beside the pixels; at least a thousand, so that work goes on. */
	trianglesIn(milliseconds: number, pixels: number): number {
		const left = milliseconds - this.expect({ triangles: 0, pixels });
		return Math.max(1000, left / (FIRST.triangle * this.#slowness));
	}

	/**
	 * The share of the copies that is drawn while something moves, as “one in n”.
	 * @param fixed triangles that are drawn in any case.
	 * @param copied triangles of all copies.
	 */
	oneIn(fixed: number, copied: number, pixels: number): number {
		if (copied <= 0) return 1;
		const room = this.trianglesIn(MOVING, pixels) - fixed;
		let n = 1;
		while (n < 1024 && copied / n > room) n *= 2;
		return n;
	}
}

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
