/** What the browser keeps: generators with their pictures, and the files they import. */
import { openDB } from 'idb';
import type { DBSchema, IDBPDatabase } from 'idb';
import type { GeneratorDocument } from '$core/engine/document';

export interface StoredGenerator {
	id: string;
	name: string;
	document: GeneratorDocument;
	/** Milliseconds since 1970. */
	updated: number;
	/** True until the first change: untouched copies of samples are not kept. */
	untouched: boolean;
	picture: Blob | null;
}

interface Schema extends DBSchema {
	generators: { key: string; value: StoredGenerator };
	assets: { key: string; value: { hash: string; name: string; bytes: Uint8Array } };
}

let opened: Promise<IDBPDatabase<Schema>> | null = null;

const database = () =>
	(opened ??= openDB<Schema>('embrell', 1, {
		upgrade(db) {
			db.createObjectStore('generators', { keyPath: 'id' });
			db.createObjectStore('assets', { keyPath: 'hash' });
		}
	}));

export const newId = (): string => crypto.randomUUID().slice(0, 8);

/** All generators, the newest first; untouched ones are taken away. */
export async function listGenerators(): Promise<StoredGenerator[]> {
	const db = await database();
	const all = await db.getAll('generators');
	const stale = all.filter((one) => one.untouched && Date.now() - one.updated > 60_000);
	for (const one of stale) await db.delete('generators', one.id);
	return all.filter((one) => !one.untouched).sort((a, b) => b.updated - a.updated);
}

export const loadGenerator = async (id: string): Promise<StoredGenerator | undefined> =>
	(await database()).get('generators', id);

/** Saves a generator; the picture it had is kept where none is given. */
export async function saveGenerator(
	given: Omit<StoredGenerator, 'picture' | 'updated'> & { picture?: Blob | null }
): Promise<void> {
	const db = await database();
	const tx = db.transaction('generators', 'readwrite', { durability: 'strict' });
	const before = await tx.store.get(given.id);
	await tx.store.put({ ...given, picture: given.picture ?? before?.picture ?? null, updated: Date.now() });
	await tx.done;
}

/** Keeps a picture for the Library; nothing happens where the generator is not stored. */
export async function savePicture(id: string, picture: Blob): Promise<void> {
	const tx = (await database()).transaction('generators', 'readwrite');
	const before = await tx.store.get(id);
	if (before) await tx.store.put({ ...before, picture });
	await tx.done;
}

export const restoreGenerator = async (record: StoredGenerator): Promise<void> =>
	void (await (await database()).put('generators', record));
export const deleteGenerator = async (id: string): Promise<void> =>
	(await database()).delete('generators', id);

export const saveAsset = async (asset: { hash: string; name: string; bytes: Uint8Array }): Promise<void> =>
	void (await (await database()).put('assets', asset));
export const loadAsset = async (hash: string) => (await database()).get('assets', hash);
