import type { Snippet } from 'svelte';
import type { SettingRowState } from '../setting-row.svelte';

/** What every field of a setting gets. */
export interface FieldProps {
	row: SettingRowState;
	/** An entry of its menu by which a wire brings the value. */
	wireEntry: Snippet;
}
