/** Time: the frames of a generator, and which of them is looked at. */
import { formatCount } from '../math/index.ts';
import type { Moment } from '../nodes/index.ts';
import type { Frames, GeneratorDocument } from './document.ts';
import { MOST, framesSchema } from './document.ts';

/** What a generator has of which nothing is said. */
const USUAL_FRAMES: Frames = { rate: 24, first: 1, last: 120 };
/** So many frames a generator may have. */
const MOST_FRAMES = 100_000;

export const framesOf = ({ frames }: Pick<GeneratorDocument, 'frames'>): Frames => frames ?? USUAL_FRAMES;

/** A moment as nodes and formulas hear it; between two frames too, where something is followed from one to the next. */
export function momentAt(document: Pick<GeneratorDocument, 'frames'>, frame: number): Moment {
	const { rate, first, last } = framesOf(document);
	return { frame, time: (frame - first) / rate, frames: last - first + 1, step: 1 / rate };
}

/** Why frames cannot be so, as a sentence; null where they can. */
export function whyNoFrames({ rate, first, last }: Frames): string | null {
	if (!(rate >= 0.01 && rate <= 1000))
		return `There are between 0.01 and 1,000 frames a second; ${rate} cannot be. 24, 25, 30 and 60 are usual.`;
	if (!Number.isInteger(first) || !Number.isInteger(last))
		return 'Frames are counted in whole numbers: give a first and a last one.';
	if (last < first)
		return `The last frame, ${last}, lies before the first, ${first}. Give them the other way round.`;
	if (last - first >= MOST_FRAMES)
		return `That would be ${formatCount(last - first + 1)} frames; ${formatCount(MOST_FRAMES)} fit.`;
	return framesSchema.safeParse({ rate, first, last }).success
		? null
		: 'Frames lie between −1,000,000 and 1,000,000.';
}

/** The name of a frame; nothing where it has none. */
export const nameOfFrame = (
	{ namedFrames = [] }: Pick<GeneratorDocument, 'namedFrames'>,
	at: number
): string => namedFrames.find((one) => one.at === at)?.name ?? '';

/** The document with a frame named, or named no more where there is no name. */
export function withFrameNamed(document: GeneratorDocument, at: number, name: string): GeneratorDocument {
	const { namedFrames = [], ...rest } = document;
	const others = namedFrames.filter((one) => one.at !== at);
	const named = name.trim() ? [...others, { at, name: name.trim() }] : others;
	if (named.length > MOST.namedFrames || name.trim() === nameOfFrame(document, at)) return document;
	return named.length ? { ...rest, namedFrames: named.sort((a, b) => a.at - b.at) } : rest;
}

/** The document with other frames. The same where they cannot be so. */
export const withFrames = (document: GeneratorDocument, frames: Frames): GeneratorDocument =>
	whyNoFrames(frames) ? document : { ...document, frames };
