/** Placements as the browser keeps them: generators that were set up by a user. */
import { changeGenerator, database } from './database';
import type { StoredPlacement } from './database';

/** Those of a generator, the oldest first. */
export async function placementsOf(generator: string): Promise<StoredPlacement[]> {
	const all = await (await database()).getAll('placements');
	return all.filter((one) => one.generator === generator).sort((a, b) => a.id.localeCompare(b.id));
}

/** Saves a placement. A copy of a sample of which there is a placement is kept. */
export async function savePlacement(given: Omit<StoredPlacement, 'updated'>): Promise<void> {
	await changeGenerator(given.generator, (now) => (now.untouched ? { ...now, untouched: false } : now));
	const tx = (await database()).transaction('placements', 'readwrite', { durability: 'strict' });
	await tx.store.put({ ...given, updated: Date.now() });
	await tx.done;
}

/** Takes a placement away, and gives what was there. */
export async function takePlacement(id: string): Promise<StoredPlacement | null> {
	const tx = (await database()).transaction('placements', 'readwrite', { durability: 'strict' });
	const now = await tx.store.get(id);
	await tx.store.delete(id);
	await tx.done;
	return now ?? null;
}
