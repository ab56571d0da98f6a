<script lang="ts">
	import { Popover } from 'bits-ui';
	import Eye from '@lucide/svelte/icons/eye';
	import Faint from '@lucide/svelte/icons/blend';
	import Layers from '@lucide/svelte/icons/layers';
	import type { Editor } from '$lib/editor/editor.svelte';

	let { editor }: { editor: Editor } = $props();
</script>

<Popover.Root>
	<Popover.Trigger class="button" aria-label="What is shown"
		><Layers size={15} class="shrink-0" />
		<span class="max-w-[22cqw] truncate"
			>{editor.shown.map((id) => editor.viewNode(id)?.short).join(', ') || 'nothing'}</span
		></Popover.Trigger
	>
	<Popover.Portal>
		<Popover.Content class="menu max-h-96 w-60 overflow-y-auto" align="end">
			<p class="px-2 pb-1 text-xs text-quiet">Shown, and faint behind</p>
			{#each editor.viewGraph.nodes.filter((node) => editor.evaluation.viewed.get(node.id)?.counts) as node (node.id)}
				<div class="flex items-center gap-1 px-2">
					<span class="min-w-0 flex-1 truncate text-[13px]">{node.short}</span>
					<button
						class="icon-button"
						aria-pressed={editor.shown.includes(node.id)}
						aria-label="Show {node.short}"
						onclick={() => editor.toggleShown(node.id, true)}><Eye size={14} /></button
					>
					<button
						class="icon-button"
						aria-pressed={editor.ghosts.includes(node.id)}
						aria-label="Show {node.short} faintly"
						onclick={() => editor.toggleGhost(node.id)}><Faint size={14} /></button
					>
				</div>
			{:else}<p class="p-2 text-xs text-quiet">Nothing has come of the graph yet.</p>{/each}
		</Popover.Content>
	</Popover.Portal>
</Popover.Root>
