/** Counts of a geometry in words, the same everywhere: “4,388 copies”, “1 face”. */
import { plural } from '../math/errors.ts';
import type { Counts } from '../geometry/index.ts';

const WORDS = {
	copies: ['copy', 'copies'],
	faces: ['face', 'faces'],
	curves: ['curve', 'curves'],
	points: ['point', 'points']
} as const;
export type Counted = keyof typeof WORDS;

/** Those of which there are any, in the order asked for. */
export const countsInWords = (
	counts: Pick<Counts, Counted>,
	order: readonly Counted[] = ['copies', 'faces', 'curves', 'points']
): string[] =>
	order.flatMap((what) => {
		const n = counts[what];
		return n ? [plural(n, WORDS[what][0], WORDS[what][1])] : [];
	});
