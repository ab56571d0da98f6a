/** Takes up what pages left when the browser let go of them; loaded only where there is something. */
import type { IDBPDatabase } from 'idb';
import { z } from 'zod';
import type { GeneratorDocument } from '$core/engine/document';
import type { Schema, StoredGenerator, StoredPlacement } from './database';
import { contentOfPlacement, newId, placementOfLock } from './database';
import type { Difference } from './difference';
import { changedBy } from './difference';
import type { LastNote } from './last-notes';
import { dropNote, notes } from './last-notes';

// Zod’s fast path calls `Function`, which the page’s policy forbids.
z.config({ jitless: true });

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

/** A note as it was written; one that cannot be read leads nowhere. */
function read(text: string): LastNote {
	try {
		return noteSchema.parse(JSON.parse(text));
	} catch {
		return { from: [] };
	}
}

const placementContent = z.object({ generator: z.string(), name: z.string(), placement: z.unknown() });

/** Brings what is stored to where the pages that left notes were. A note on another state than the stored one is too old. */
export async function takeUpNotes(db: IDBPDatabase<Schema>): Promise<void> {
	const tx = db.transaction(['generators', 'placements'], 'readwrite', { durability: 'strict' });
	const [generators, placements] = [tx.objectStore('generators'), tx.objectStore('placements')];
	const taken: string[] = [];
	for (const [id, text] of notes()) {
		const { from } = read(text);
		taken.push(id);
		const placement = placementOfLock(id);
		const stored = await (placement === null ? generators.get(id) : placements.get(placement));
		const fitting = from.find(({ revision }) => revision === (stored?.revision ?? ''));
		if (!fitting?.difference || stored?.deleted) continue;
		try {
			if (placement === null) {
				if (!stored) continue;
				const before = stored as StoredGenerator;
				const document = changedBy(before.document, fitting.difference) as GeneratorDocument;
				const now = { ...before, name: String(document.name), document, untouched: false };
				await generators.put({ ...now, updated: Date.now(), revision: newId() });
			} else {
				const made = changedBy(contentOfPlacement(stored as StoredPlacement), fitting.difference);
				const content = placementContent.parse(made);
				const generator = await generators.get(content.generator);
				if (!generator || generator.deleted) continue;
				if (generator.untouched) await generators.put({ ...generator, untouched: false });
				await placements.put({ ...content, id: placement, updated: Date.now(), revision: newId() });
			}
		} catch (error) {
			console.error(error);
		}
	}
	await tx.done;
	for (const id of taken) dropNote(id);
}
