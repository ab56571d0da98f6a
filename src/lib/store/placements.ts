/** Placements as the browser keeps them: generators that were set up by a user. */
import type { GeneratorDocument } from '$core/engine/document';
import { changeGenerator, database, newId, saveGenerator } from './database';
import type { StoredPlacement } from './database';

/** Those of a generator, the oldest first. */
export async function placementsOf(generator: string): Promise<StoredPlacement[]> {
	const all = await (await database()).getAll('placements');
	return all
		.filter((one) => one.generator === generator && !one.deleted)
		.sort((a, b) => a.id.localeCompare(b.id));
}

/** One of them as it is now. */
export async function loadPlacement(id: string): Promise<StoredPlacement | undefined> {
	const stored = await (await database()).get('placements', id);
	return stored?.deleted ? undefined : stored;
}

/**
 * Saves a placement. A copy of a sample of which there is a placement is kept; a generator that is gone, as when the artist
 * cleared what pages keep, is put back as `base` has it. Gives whether it was there.
 */
export async function savePlacement(
	given: Omit<StoredPlacement, 'updated' | 'deleted'>,
	base: GeneratorDocument
): Promise<boolean> {
	const { generator: id } = given;
	const there = await changeGenerator(id, (now) =>
		now.untouched || now.deleted ? { ...now, untouched: false, deleted: undefined } : now
	);
	if (!there) await saveGenerator({ id, name: base.name, document: base, untouched: false });
	const tx = (await database()).transaction('placements', 'readwrite', { durability: 'strict' });
	await tx.store.put({ revision: newId(), ...given, updated: Date.now() });
	await tx.done;
	return !!there;
}

/** Takes a placement away, and gives what was there; it can be had back for a while. */
export const takePlacement = (id: string): Promise<StoredPlacement | null> =>
	changePlacement(id, (now) => ({ ...now, deleted: Date.now() }));

/** Has back what was taken away. */
export const restorePlacement = (id: string): Promise<StoredPlacement | null> =>
	changePlacement(id, ({ deleted: _deleted, ...now }) => now);

async function changePlacement(
	id: string,
	make: (now: StoredPlacement) => StoredPlacement
): Promise<StoredPlacement | null> {
	const tx = (await database()).transaction('placements', 'readwrite', { durability: 'strict' });
	const now = await tx.store.get(id);
	const made = now ? { ...make(now), revision: newId() } : null;
	if (made) await tx.store.put(made);
	await tx.done;
	return made;
}
