/** What the Library does to a stored generator, also while another tab has it open for writing. */
import type { StoredGenerator } from './database';
import {
	changeGenerator,
	loadGenerator,
	newId,
	restoreGenerator,
	saveGenerator,
	takeGenerator,
	whileClosed,
	whileUnused
} from './database';
import { askTab } from './tabs';

/** Renames a generator. Gives a sentence where it could not be done. */
export async function renameStored(id: string, wanted: string): Promise<string | null> {
	const name = wanted.trim().slice(0, 200);
	if (!name) return null;
	const isDone = await whileClosed(id, async () => {
		await changeGenerator(id, (now) => ({
			...now,
			name,
			document: { ...now.document, name },
			untouched: false,
			updated: Date.now()
		}));
	});
	// The tab that has it open renames it, as one of its own changes; it would write its name over ours.
	return isDone ? null : askTab(id, { want: 'rename', name });
}

/** A copy of a generator as it is now, what another tab has just done included. */
export async function duplicateStored(id: string): Promise<string | null> {
	const isClosed = await whileClosed(id, async () => {});
	const trouble = isClosed ? null : await askTab(id, { want: 'flush' });
	if (trouble) return trouble;
	const now = await loadGenerator(id);
	if (!now) return 'It is not there any more.';
	const name = `${now.name} copy`.slice(0, 200);
	const copy = { ...now, id: newId(), name, document: { ...now.document, name }, untouched: false };
	await saveGenerator(copy);
	return null;
}

/** Takes a generator away. Gives what was there, for an undo, or a sentence where it could not be done. */
export async function deleteStored(id: string): Promise<StoredGenerator | string | null> {
	let taken: StoredGenerator | null = null;
	const isDone = await whileUnused(id, async () => {
		taken = await takeGenerator(id);
	});
	return isDone ? taken : 'It is open in another tab. Close it there first.';
}

/** Has back what was taken away. Gives a sentence where it is gone for good. */
export const undeleteStored = async ({ id }: StoredGenerator): Promise<string | null> =>
	(await restoreGenerator(id)) ? null : 'It is gone for good by now.';
