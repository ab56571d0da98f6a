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

/** A generator set up by a user; what stands in it is checked when it is opened. */
export interface StoredPlacement {
	id: string;
	/** The generator of which it is. */
	generator: string;
	name: string;
	placement: unknown;
	updated: number;
}

interface Schema extends DBSchema {
	generators: { key: string; value: StoredGenerator };
	assets: { key: string; value: { hash: string; name: string; bytes: Uint8Array } };
	placements: { key: string; value: StoredPlacement };
	settings: { key: string; value: { id: string } };
	shelf: { key: string; value: { id: string; item: unknown; picture: Blob | null; updated: number } };
}

let opened: Promise<IDBPDatabase<Schema>> | null = null;

export const database = () =>
	(opened ??= openDB<Schema>('embrell', 4, {
		upgrade(db, before) {
			if (before < 1) {
				db.createObjectStore('generators', { keyPath: 'id' });
				db.createObjectStore('assets', { keyPath: 'hash' });
			}
			if (before < 2) db.createObjectStore('shelf', { keyPath: 'id' });
			if (before < 3) db.createObjectStore('placements', { keyPath: 'id' });
			if (before < 4) db.createObjectStore('settings', { keyPath: 'id' });
		},
		// A tab with a newer version of the page must not wait for this one.
		blocking(_current, _next, event) {
			(event.target as IDBDatabase).close();
			opened = null;
		}
	}));

export const newId = (): string => crypto.randomUUID().slice(0, 8);

/** The name of the lock that the tab in which a generator is open holds. */
export const lockOf = (id: string): string => `embrell ${id}`;

/** All generators, the newest first; untouched ones are taken away, unless they are open in a tab. */
export async function listGenerators(): Promise<StoredGenerator[]> {
	const db = await database();
	const all = await db.getAll('generators');
	const open = new Set((await navigator.locks?.query())?.held?.map((lock) => lock.name));
	const stale = all.filter(
		(one) => one.untouched && Date.now() - one.updated > 60_000 && !open.has(lockOf(one.id))
	);
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

/** The name of the event that says so when a picture was kept. */
export const PICTURE_SAVED = 'embrell-picture';

/** Keeps a picture for the Library; nothing happens where the generator is not stored. */
export async function savePicture(id: string, picture: Blob): Promise<void> {
	const tx = (await database()).transaction('generators', 'readwrite');
	const before = await tx.store.get(id);
	if (before) await tx.store.put({ ...before, picture });
	await tx.done;
	dispatchEvent(new Event(PICTURE_SAVED));
}

/** Changes a stored generator as it is now, in one transaction. Null where it is not there any more. */
export async function changeGenerator(
	id: string,
	make: (now: StoredGenerator) => StoredGenerator
): Promise<StoredGenerator | null> {
	const tx = (await database()).transaction('generators', 'readwrite', { durability: 'strict' });
	const now = await tx.store.get(id);
	const made = now ? make(now) : null;
	if (made && made !== now) await tx.store.put(made);
	await tx.done;
	return made;
}

/** Takes a generator away, and gives what was there. */
export async function takeGenerator(id: string): Promise<StoredGenerator | null> {
	const tx = (await database()).transaction('generators', 'readwrite', { durability: 'strict' });
	const now = await tx.store.get(id);
	await tx.store.delete(id);
	await tx.done;
	return now ?? null;
}

/** Puts back what was taken away, where nothing else stands there by now. Whether it could. */
export async function restoreGenerator(record: StoredGenerator): Promise<boolean> {
	const tx = (await database()).transaction('generators', 'readwrite', { durability: 'strict' });
	const isFree = !(await tx.store.get(record.id));
	if (isFree) await tx.store.put(record);
	await tx.done;
	return isFree;
}

/** Runs something while no tab may open the generator for writing. False where one has it open already. */
export async function whileClosed(id: string, work: () => Promise<void>): Promise<boolean> {
	if (!navigator.locks) return work().then(() => true);
	return navigator.locks.request(lockOf(id), { ifAvailable: true }, async (lock) => {
		if (lock) await work();
		return !!lock;
	});
}

/**
 * Takes away the files that no generator reads any more, and placements of generators that are gone. Only when the Library opens, and no generator is open in a tab:
 * an undo there may still want one.
 */
export async function dropUnreadAssets(): Promise<void> {
	const held = (await navigator.locks?.query())?.held;
	if (!held || held.some(({ name }) => name?.startsWith(lockOf('')))) return;
	const tx = (await database()).transaction(['generators', 'assets', 'shelf', 'placements'], 'readwrite');
	const generators = await tx.objectStore('generators').getAll();
	// Placements of generators that are gone go with them.
	const there = new Set(generators.map(({ id }) => id));
	const placements = await tx.objectStore('placements').getAll();
	for (const { id, generator } of placements)
		if (!there.has(generator)) await tx.objectStore('placements').delete(id);
	// What lies on the shelf, and what is placed, says nowhere which files it reads: their digests stand in its settings.
	const elsewhere = JSON.stringify([
		await tx.objectStore('shelf').getAll(),
		placements.filter(({ generator }) => there.has(generator))
	]);
	const read = new Set(generators.flatMap(({ document }) => Object.keys(document.assets)));
	const assets = tx.objectStore('assets');
	for (const hash of await assets.getAllKeys())
		if (!read.has(hash) && !elsewhere.includes(hash)) await assets.delete(hash);
	await tx.done;
}

export const saveAsset = async (asset: { hash: string; name: string; bytes: Uint8Array }): Promise<void> =>
	void (await (await database()).put('assets', asset));
export const loadAsset = async (hash: string) => (await database()).get('assets', hash);
