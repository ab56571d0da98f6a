/**
 * What a page could not write any more when the browser let go of it. A database only writes while the page lives; a short text
 * is kept at once. So the difference to what is stored is left as a note, and taken up by the next page that reads.
 */
import type { Difference } from './difference';
import { differenceOf } from './difference';

const PREFIX = 'embrell-note ';

export interface LastNote {
	/** From which revisions of what is stored it leads on, and how: the last that was written, and one that may have been. */
	from: { revision: string; difference: Difference | null }[];
}

/** A state that is stored, or may be: its revision, and what it holds as plain data. */
export interface Written {
	revision: string;
	content: unknown;
}

/** What this page has open and left a note of: it writes that itself, unless it goes. */
const own = new Set<string>();

/** From now on a note of it is taken up like any other. */
export const handOver = (id: string): boolean => own.delete(id);

/** Leaves a note that leads from each of these states to the newest one. False where there is no room. */
export function leaveNote(id: string, from: readonly Written[], newest: unknown): boolean {
	const note: LastNote = {
		from: from.map(({ revision, content }) => ({ revision, difference: differenceOf(content, newest) }))
	};
	try {
		localStorage.setItem(PREFIX + id, JSON.stringify(note));
		own.add(id);
		return true;
	} catch {
		return false;
	}
}

/** What has been written since needs no note. */
export function dropNote(id: string): void {
	own.delete(id);
	try {
		localStorage.removeItem(PREFIX + id);
	} catch {
		// Where there is no room for notes there is none.
	}
}

/** The keys of all notes that other pages left. None where the browser keeps nothing. */
function keysOfNotes(): string[] {
	try {
		const keys = Array.from({ length: localStorage.length }, (_, i) => localStorage.key(i)!);
		return keys.filter((key) => key.startsWith(PREFIX) && !own.has(key.slice(PREFIX.length)));
	} catch {
		return [];
	}
}

/** Whether there is any; asked before each reading. */
export const hasNotes = (): boolean => keysOfNotes().length > 0;

/** All of them as they were written, by what they are of. */
export const notes = (): Map<string, string> =>
	new Map(keysOfNotes().map((key) => [key.slice(PREFIX.length), localStorage.getItem(key)!]));
