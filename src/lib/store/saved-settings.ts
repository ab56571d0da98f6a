/** Settings of nodes, kept in this browser under names. What is read is checked. */
import type { SavedSettings } from '$core/engine/index';
import { savedSettingsSchema } from '$core/engine/index';
import { database } from './database';

/** Those of a kind of node, by their names. */
export async function savedSettingsOf(kind: string): Promise<SavedSettings[]> {
	const all = await (await database()).getAll('settings');
	return all
		.flatMap((row) => {
			const read = savedSettingsSchema.safeParse(row);
			return read.success && read.data.kind === kind ? [read.data] : [];
		})
		.sort((a, b) => a.name.localeCompare(b.name));
}

export async function saveSettings(saved: SavedSettings): Promise<void> {
	const tx = (await database()).transaction('settings', 'readwrite', { durability: 'strict' });
	await tx.store.put(saved);
	await tx.done;
}

export const deleteSettings = async (id: string): Promise<void> => (await database()).delete('settings', id);
