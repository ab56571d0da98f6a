<script lang="ts">
	import { Popover } from 'bits-ui';
	import Bookmark from '@lucide/svelte/icons/bookmark';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import { toast } from 'svelte-sonner';
	import type { GraphNode, SavedSettings } from '$core/engine/index';
	import { settingsToSave, withSavedSettings } from '$core/engine/index';
	import type { Editor } from '$lib/editor/editor.svelte';
	import { newId } from '$lib/store/database';
	import { deleteSettings, saveSettings, savedSettingsOf } from '$lib/store/saved-settings';
	import { selectAll } from '$lib/ui/fields/select-all';

	let { editor, node }: { editor: Editor; node: GraphNode } = $props();

	let open = $state(false);
	let list = $state.raw<readonly SavedSettings[]>([]);
	const told = (error: Error) => toast.error(error.message);

	async function refresh() {
		list = await savedSettingsOf(node.kind).catch((error: Error) => (told(error), []));
	}
	function use(saved: SavedSettings) {
		open = false;
		editor.changeGraph(`Settings “${saved.name}”`, (graph) => withSavedSettings(graph, node.id, saved));
	}
	async function save(field: HTMLInputElement) {
		const name = field.value.trim();
		if (!name) return;
		field.value = '';
		const settings = $state.snapshot(settingsToSave(node)) as SavedSettings['settings'];
		await saveSettings({ id: newId(), kind: node.kind, name, settings }).catch(told);
		await refresh();
	}
	async function remove({ id }: SavedSettings) {
		await deleteSettings(id).catch(told);
		await refresh();
	}
</script>

<Popover.Root bind:open onOpenChange={(now) => now && void refresh()}>
	<Popover.Trigger
		class="icon-button h-6 w-6 shrink-0"
		aria-label="Saved settings"
		title="Saved settings of this kind of node"><Bookmark size={14} /></Popover.Trigger
	>
	<Popover.Portal>
		<Popover.Content class="menu w-60 p-2 text-[13px]" align="end" aria-label="Saved settings">
			{#if list.length}
				<ul class="mb-2">
					{#each list as saved (saved.id)}
						<li class="flex items-center">
							<button class="menu-item min-w-0 flex-1 truncate text-left" onclick={() => use(saved)}
								>{saved.name}</button
							>
							<button
								class="icon-button h-6 w-6"
								aria-label="Delete the settings {saved.name}"
								title="Delete"
								onclick={() => remove(saved)}><Trash2 size={13} /></button
							>
						</li>
					{/each}
				</ul>
			{:else}<p class="mb-2 text-xs text-quiet">
					None yet. They can be used on every node of this kind, in all generators.
				</p>{/if}
			<input
				{@attach selectAll}
				class="field text-[13px]"
				aria-label="Name for these settings"
				placeholder="Save these as …, then Enter"
				onkeydown={(event) => event.key === 'Enter' && save(event.currentTarget)}
			/>
		</Popover.Content>
	</Popover.Portal>
</Popover.Root>
