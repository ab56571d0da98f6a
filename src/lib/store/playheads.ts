/** Where the playhead of each generator and placement stood last. It is the artist's place, not the document's: no undo step. */
import { z } from 'zod';

const NAME = 'embrell-playheads';
/** Those that were moved last are kept. */
const MOST = 200;
const schema = z.array(z.tuple([z.string().max(100), z.number().int()])).max(MOST);

function read(): [string, number][] {
	try {
		return schema.parse(JSON.parse(localStorage.getItem(NAME) ?? '[]'));
	} catch {
		return [];
	}
}

/** The frame at which the playhead of a document stood last; null where nothing is known. */
export const playheadOf = (id: string): number | null => read().find(([one]) => one === id)?.[1] ?? null;

/** Keeps where the playhead stands. Where nothing can be stored, it begins at the first frame again. */
export function keepPlayhead(id: string, frame: number): void {
	const others = read().filter(([one]) => one !== id);
	try {
		localStorage.setItem(NAME, JSON.stringify([[id, frame], ...others].slice(0, MOST)));
	} catch {
		// A full disk loses no work here.
	}
}
