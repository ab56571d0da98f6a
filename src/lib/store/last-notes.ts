/**
 * What a page could not write any more when the browser let go of it. A database only writes while the page lives; a short text
 * is kept at once. So the difference to what is stored is left as a note, and taken up by the next page that reads.
 */
import { z } from 'zod';
import type { Difference } from './difference';
import { differenceOf } from './difference';

const PREFIX = 'embrell-note ';

const difference: z.ZodType<Difference> = z.lazy(() =>
	z.union([
		z.strictObject({ now: z.unknown() }),
		z.strictObject({ of: z.array(z.tuple([z.string(), difference])), gone: z.array(z.string()) }),
		z.strictObject({
			from: z.int().nonnegative(),
			drop: z.int().nonnegative(),
			put: z.array(z.unknown()),
			of: z.array(z.tuple([z.int().nonnegative(), difference]))
		})
	])
);
const noteSchema = z.strictObject({
	/** From which revisions of what is stored it leads on, and how: the last that was written, and one that may have been. */
	from: z.array(z.strictObject({ revision: z.string(), difference: difference.nullable() })).max(2)
});
export type LastNote = z.infer<typeof noteSchema>;

/** A state that is stored, or may be: its revision, and what it holds as plain data. */
export interface Written {
	revision: string;
	content: unknown;
}

/** Leaves a note that leads from each of these states to the newest one. False where there is no room. */
export function leaveNote(id: string, from: readonly Written[], newest: unknown): boolean {
	const note: LastNote = {
		from: from.map(({ revision, content }) => ({ revision, difference: differenceOf(content, newest) }))
	};
	try {
		localStorage.setItem(PREFIX + id, JSON.stringify(note));
		return true;
	} catch {
		return false;
	}
}

/** What has been written since needs no note. */
export function dropNote(id: string): void {
	try {
		localStorage.removeItem(PREFIX + id);
	} catch {
		// Where there is no room for notes there is none.
	}
}

/** Whether there is any; asked before each reading. */
export function hasNotes(): boolean {
	try {
		for (let i = 0; i < localStorage.length; i++) if (localStorage.key(i)!.startsWith(PREFIX)) return true;
	} catch {
		// None can be read.
	}
	return false;
}

/** All of them, by what they are of. One that cannot be read is dropped. */
export function notes(): Map<string, LastNote> {
	const found = new Map<string, LastNote>();
	for (const key of Object.keys(localStorage)) {
		if (!key.startsWith(PREFIX)) continue;
		try {
			found.set(key.slice(PREFIX.length), noteSchema.parse(JSON.parse(localStorage.getItem(key)!)));
		} catch {
			localStorage.removeItem(key);
		}
	}
	return found;
}
