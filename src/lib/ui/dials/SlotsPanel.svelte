<script lang="ts">
	import ArrowRight from '@lucide/svelte/icons/arrow-right';
	import X from '@lucide/svelte/icons/x';
	import { withSlotChanged, withoutSlot } from '$core/engine/index';
	import type { Editor } from '$lib/editor/editor.svelte';
	import { selectAll } from '$lib/ui/fields/select-all';

	let { editor }: { editor: Editor } = $props();

	const { slots } = $derived(editor.document);
	const TAKES = { curve: 'a curve', mesh: 'a mesh', image: 'an image' } as const;
	const shortOf = (id: string) => editor.document.graphs.main.nodes.find((node) => node.id === id)?.short;
</script>

{#if slots.length}
	<section aria-label="Slots">
		<h2 class="mt-4 mb-1 border-t border-line pt-3 text-base">Slots</h2>
		<ul class="space-y-1">
			{#each slots as slot (slot.key)}
				<li class="rounded border border-line p-1.5 text-xs">
					<div class="flex items-center gap-1">
						<input
							{@attach selectAll}
							class="field min-w-0 flex-1 text-[13px]"
							aria-label="Name of the slot"
							value={slot.name}
							onchange={(event) =>
								editor.change('Rename the slot', (document) =>
									withSlotChanged(document, slot.key, { name: event.currentTarget.value.trim() || slot.name })
								)}
						/>
						<button
							class="icon-button h-5 w-5"
							aria-label="{slot.name}: no slot any more"
							title="Remove the slot"
							onclick={() => editor.change('Remove the slot', (document) => withoutSlot(document, slot.key))}
							><X size={13} /></button
						>
					</div>
					<input
						{@attach selectAll}
						class="field mt-1 text-xs"
						aria-label="Help of {slot.name}"
						placeholder="What a user shall put here"
						value={slot.help ?? ''}
						onchange={(event) =>
							editor.change('Help of the slot', (document) =>
								withSlotChanged(document, slot.key, { help: event.currentTarget.value.trim() || undefined })
							)}
					/>
					<button
						class="mt-0.5 flex items-center gap-1 text-quiet hover:underline"
						onclick={() => editor.dials.goTo({ graph: 'main', node: slot.node, setting: '' })}
						><ArrowRight size={12} /> takes {TAKES[slot.takes]} in place of
						<span class="font-mono">{shortOf(slot.node)}</span></button
					>
				</li>
			{/each}
		</ul>
	</section>
{/if}
