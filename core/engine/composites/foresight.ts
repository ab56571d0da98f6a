/** Where a repeat leads, told from its first passes. */
import type { Geometry } from '../../geometry/index.ts';
import { countsOf } from '../../geometry/index.ts';

/** The elements of a geometry that count: those that make it large. */
export function elementsIn(geometry: Geometry): number {
	const { points, faces, copies } = countsOf(geometry);
	return points + faces + copies;
}

/**
 * How many passes fit.
 * @param sizes elements that go round: before the first pass and after each.
 * @param kept elements that are gathered, in the mean of the passes so far.
 * @param passes how many are wanted.
 * @param most elements that fit.
 * What grows by a factor goes on so; what grows by a number does, too. It is told from the second pass on.
 */
export function passesThatFit(
	sizes: readonly number[],
	kept: number,
	passes: number,
	most: number
): { fit: number; inTheEnd: number } {
	const done = sizes.length - 1;
	const now = sizes[done] + kept * done;
	if (now > most) return { fit: Math.max(0, done - 1), inTheEnd: now };
	if (done < 2) return { fit: passes, inTheEnd: now };
	const [before, between, last] = sizes.slice(-3);
	const step = last - between;
	const growth = between > before ? step / (between - before) : 1;
	let size = last,
		gain = step * Math.max(0, growth),
		fit = done;
	let gathered = kept * done;
	const share = last > 0 ? kept / last : 0;
	for (let pass = done; pass < passes; pass++) {
		size = Math.max(0, size + gain);
		gain *= Math.max(1, growth);
		// What is gathered grows with what goes round.
		gathered += share > 0 ? share * size : kept;
		if (size + gathered <= most) fit = pass + 1;
		else if (!Number.isFinite(size) || pass > done + 2000) return { fit, inTheEnd: size + gathered };
	}
	return { fit: size + gathered <= most ? passes : fit, inTheEnd: size + gathered };
}
