/** Where a repeat leads, told from its first passes. */
import type { Geometry } from '../../geometry/index.ts';
import { countsOf } from '../../geometry/index.ts';

/** The elements of a geometry that count: those that make it large. */
export function elementsIn(geometry: Geometry): number {
	const { points, faces, copies } = countsOf(geometry);
	return points + faces + copies;
}

/** How far a repeat is. */
export interface SoFar {
	/** Passes that are done, and that are wanted. */
	done: number;
	passes: number;
	/** Elements that are gathered so far. */
	kept: number;
	/** Elements that fit. */
	most: number;
}

/**
 * How many passes fit, and how many elements there would be in the end.
 * @param sizes elements that go round: before the last two passes, between them, and after them.
 * What grows by a factor goes on so; what grows by a number does, too. It is told from the second pass on.
 */
export function passesThatFit(
	sizes: readonly number[],
	{ done, passes, kept, most }: SoFar
): { fit: number; inTheEnd: number } {
	const now = sizes[sizes.length - 1] + kept;
	if (now > most) return { fit: Math.max(0, done - 1), inTheEnd: now };
	if (sizes.length < 3) return { fit: passes, inTheEnd: now };
	const [before, between, last] = sizes;
	const step = last - between;
	const growth = between > before ? step / (between - before) : 1;
	// What is gathered grows with what goes round.
	const share = last > 0 ? kept / done / last : 0;
	let size = last,
		gain = step * Math.max(0, growth),
		gathered = kept,
		fit = done;
	for (let pass = done; pass < passes && Number.isFinite(size); pass++) {
		size = Math.max(0, size + gain);
		gain *= Math.max(1, growth);
		gathered += share > 0 ? share * size : kept / done;
		if (size + gathered <= most) fit = pass + 1;
	}
	return { fit, inTheEnd: size + gathered };
}
