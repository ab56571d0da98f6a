import type { Snippet } from 'svelte';
import type { SettingRowState } from '../setting-row.svelte';

/** What every field of a setting gets. */
export interface FieldProps {
	row: SettingRowState;
	/** Entries of its menu for a setting, or a part of one, by name. */
	entries: Snippet<[string]>;
}
