/** The shelf of subgraphs in this browser. */
import type { ShelfItem } from '$core/engine/index';
import { readShelfItem } from '$core/engine/index';
import { database } from './database';

export interface Shelved {
	item: ShelfItem;
	picture: Blob | null;
	/** Milliseconds since 1970. */
	updated: number;
}

/** All that lies on the shelf and can be read, the newest first. */
export async function listShelf(): Promise<Shelved[]> {
	const all = await (await database()).getAll('shelf');
	const read = all.flatMap(({ item, picture, updated }): Shelved[] => {
		try {
			return [{ item: readShelfItem(item), picture, updated }];
		} catch {
			// One of a newer version stays there for that version.
			return [];
		}
	});
	return read.sort((a, b) => b.updated - a.updated);
}

/** One of them; undefined where it is not there. Throws a sentence where it cannot be read. */
export async function loadShelved(id: string): Promise<ShelfItem | undefined> {
	const found = await (await database()).get('shelf', id);
	return found && readShelfItem(found.item);
}

/** Puts a body on the shelf, in place of the one of the same id. */
export async function shelve(item: ShelfItem, picture: Blob | null): Promise<void> {
	const tx = (await database()).transaction('shelf', 'readwrite', { durability: 'strict' });
	const before = await tx.store.get(item.id);
	await tx.store.put({ id: item.id, item, picture: picture ?? before?.picture ?? null, updated: Date.now() });
	await tx.done;
}

export async function unshelve(id: string): Promise<void> {
	await (await database()).delete('shelf', id);
}
