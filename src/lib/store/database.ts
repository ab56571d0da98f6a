/** What the browser keeps: generators with their pictures, and the files they import. */
import { openDB } from 'idb';
import type { DBSchema, IDBPDatabase } from 'idb';
import type { Asset } from '$core/geometry/asset';
import type { GeneratorDocument } from '$core/engine/document';
import { heldDocument, heldFile, isStored } from './unstored';
import { hasNotes } from './last-notes';

export interface StoredGenerator {
	id: string;
	name: string;
	document: GeneratorDocument;
	/** Milliseconds since 1970. */
	updated: number;
	/** True until the first change: untouched copies of samples are not kept. */
	untouched: boolean;
	picture: Blob | null;
	/** Another one for each state that is written; older ones have none. */
	revision?: string;
	/** When it was deleted, where it was: it can be had back for a while. Milliseconds since 1970. */
	deleted?: number;
}

/** A generator set up by a user; what stands in it is checked when it is opened. */
export interface StoredPlacement {
	id: string;
	/** The generator of which it is. */
	generator: string;
	name: string;
	placement: unknown;
	updated: number;
	revision?: string;
	deleted?: number;
}

export interface Schema extends DBSchema {
	generators: { key: string; value: StoredGenerator };
	assets: { key: string; value: Asset };
	placements: { key: string; value: StoredPlacement };
	settings: { key: string; value: { id: string } };
	shelf: { key: string; value: { id: string; item: unknown; picture: Blob | null; updated: number } };
}

let opened: Promise<IDBPDatabase<Schema>> | null = null;

/** The store, with all in it that pages before this one left as notes. */
export async function database(): Promise<IDBPDatabase<Schema>> {
	opened ??= openStore();
	const asked = opened;
	const db = await asked.catch((error: unknown) => {
		// The next one tries again.
		if (opened === asked) opened = null;
		throw error;
	});
	// Checking them brings a library that the Library does not wait for.
	if (hasNotes()) await (await import('./take-up')).takeUpNotes(db);
	return db;
}

const openStore = (): Promise<IDBPDatabase<Schema>> =>
	openDB<Schema>('embrell', 4, {
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
		},
		// The browser closed it, as when the artist clears what pages keep: whoever writes next opens it anew.
		terminated() {
			opened = null;
		}
	});

/** What of a placement is written. */
export const contentOfPlacement = (
	stored: Pick<StoredPlacement, 'generator' | 'name' | 'placement'> | undefined
): Pick<StoredPlacement, 'generator' | 'name' | 'placement'> | null =>
	stored ? { generator: stored.generator, name: stored.name, placement: stored.placement } : null;

/** What a placement is called among what tabs have open. */
export const lockNameOf = (placement: string): string => `placement-${placement}`;
export const placementOfLock = (id: string): string | null => /^placement-(.+)$/.exec(id)?.[1] ?? null;

export const newId = (): string => crypto.randomUUID().slice(0, 8);

/** The name of the lock that the tab in which a generator is open holds. */
export const lockOf = (id: string): string => `embrell ${id}`;

/** The name of the lock that all tabs share in which a generator is used, as in Dress. */
const useOf = (id: string): string => `embrell use ${id}`;

/** Says that a generator is in use, so that no tab takes it away. Gives what ends that. */
export function use(id: string): () => void {
	let release: () => void = () => {};
	const used = new Promise<void>((ended) => (release = ended));
	navigator.locks?.request(useOf(id), { mode: 'shared' }, () => used).catch(() => {});
	return release;
}

/** Days after which an untouched copy of a sample goes: a tab that the browser put to sleep may still come back to it. */
const UNTOUCHED_FOR = 7 * 86_400_000;
/** How long what was deleted can be had back. */
const DELETED_FOR = 3_600_000;

/** All generators that are kept, the newest first. */
export async function listGenerators(): Promise<StoredGenerator[]> {
	const all = await (await database()).getAll('generators');
	return all.filter((one) => !one.untouched && !one.deleted).sort((a, b) => b.updated - a.updated);
}

export async function loadGenerator(id: string): Promise<StoredGenerator | undefined> {
	const held = heldDocument(id);
	if (held)
		return { id, name: held.name, document: held, updated: Date.now(), untouched: true, picture: null };
	const stored = await (await database()).get('generators', id);
	return stored?.deleted ? undefined : stored;
}

/** Saves a generator; the picture it had is kept where none is given. Gives whether it was there before. */
export async function saveGenerator(
	given: Omit<StoredGenerator, 'picture' | 'updated' | 'deleted'> & { picture?: Blob | null }
): Promise<boolean> {
	const db = await database();
	const tx = db.transaction('generators', 'readwrite', { durability: 'strict' });
	const before = await tx.store.get(given.id);
	const picture = given.picture ?? before?.picture ?? null;
	await tx.store.put({ revision: newId(), ...given, picture, updated: Date.now() });
	await tx.done;
	isStored(given.id);
	return !!before;
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
	if (made && made !== now) await tx.store.put({ ...made, revision: newId() });
	await tx.done;
	return made;
}

/** Takes a generator away, and gives what was there. With its files and placements it can be had back for a while. */
export async function takeGenerator(id: string): Promise<StoredGenerator | null> {
	const now = await loadGenerator(id);
	return now ? changeGenerator(id, (one) => ({ ...one, deleted: Date.now() })) : null;
}

/** Has back what was taken away. Whether it could. */
export async function restoreGenerator(id: string): Promise<boolean> {
	return !!(await changeGenerator(id, ({ deleted: _deleted, ...one }) => one));
}

/** Runs something while no tab may open the generator for writing. False where one has it open already. */
export const whileClosed = (id: string, work: () => Promise<void>): Promise<boolean> =>
	whileFree(lockOf(id), work);

/** Runs something while no tab may open the generator for writing, nor use it. False where one does already. */
export async function whileUnused(id: string, work: () => Promise<void>): Promise<boolean> {
	let isUnused = false;
	await whileClosed(id, async () => void (isUnused = await whileFree(useOf(id), work)));
	return isUnused;
}

async function whileFree(name: string, work: () => Promise<void>): Promise<boolean> {
	if (!navigator.locks) return work().then(() => true);
	return navigator.locks.request(name, { ifAvailable: true }, async (lock) => {
		if (lock) await work();
		return !!lock;
	});
}

/**
 * Takes away what nobody needs any more: copies of samples that were never touched, what was deleted a while ago, placements of
 * generators that are gone, and files that no generator reads. Only when the Library opens, and no generator is open in a tab: an
 * undo there may still want one.
 */
export async function sweep(now = Date.now()): Promise<void> {
	const held = (await navigator.locks?.query())?.held;
	if (!held || held.some(({ name }) => name?.startsWith(lockOf('')))) return;
	const tx = (await database()).transaction(['generators', 'assets', 'shelf', 'placements'], 'readwrite');
	const [generators, placements] = [tx.objectStore('generators'), tx.objectStore('placements')];
	const isOver = ({ deleted }: { deleted?: number }): boolean =>
		deleted !== undefined && now - deleted > DELETED_FOR;
	const kept: StoredGenerator[] = [];
	for (const one of await generators.getAll())
		if (isOver(one) || (one.untouched && now - one.updated > UNTOUCHED_FOR)) await generators.delete(one.id);
		else kept.push(one);
	// Placements of generators that are gone go with them.
	const there = new Set(kept.map(({ id }) => id));
	const placed: StoredPlacement[] = [];
	for (const one of await placements.getAll())
		if (isOver(one) || !there.has(one.generator)) await placements.delete(one.id);
		else placed.push(one);
	// What lies on the shelf, and what is placed, says nowhere which files it reads: their digests stand in its settings.
	const elsewhere = JSON.stringify([await tx.objectStore('shelf').getAll(), placed]);
	const read = new Set(kept.flatMap(({ document }) => Object.keys(document.assets)));
	const assets = tx.objectStore('assets');
	for (const hash of await assets.getAllKeys())
		if (!read.has(hash) && !elsewhere.includes(hash)) await assets.delete(hash);
	await tx.done;
}

export const saveAsset = async (asset: Asset): Promise<void> =>
	void (await (await database()).put('assets', asset));
export const loadAsset = async (hash: string): Promise<Asset | undefined> =>
	heldFile(hash) ?? (await (await database()).get('assets', hash));
