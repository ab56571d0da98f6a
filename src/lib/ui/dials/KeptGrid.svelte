<script lang="ts">
	import { DropdownMenu } from 'bits-ui';
	import Columns2 from '@lucide/svelte/icons/columns-2';
	import Pin from '@lucide/svelte/icons/pin';
	import type { Kept } from '$core/engine/index';
	import { standsAs } from '$core/engine/index';
	import type { Editor } from '$lib/editor/editor.svelte';
	import MoreButton from '$lib/ui/MoreButton.svelte';
	import { Portion } from '$lib/ui/portion.svelte';
	import PictureCard from './PictureCard.svelte';
	import PictureEntries from './PictureEntries.svelte';

	let { editor }: { editor: Editor } = $props();

	const { presets } = $derived(editor);
	const portion = new Portion(60);
	/** Those of the preset that stands, and those of none, first. */
	const list = $derived(
		[...presets.kept].sort(
			(a, b) => Number(b.preset === presets.current?.id) - Number(a.preset === presets.current?.id)
		)
	);
	/** What stands as it was kept, and came to something else than then: the generator has been changed since. */
	const hasChanged = (kept: Kept) =>
		!!kept.hash &&
		!!editor.resultHash &&
		!editor.evaluation.working &&
		standsAs(editor.document, kept) &&
		kept.hash !== editor.resultHash;
	const presetName = (id: string | undefined) => presets.all.find((one) => one.id === id)?.name;
</script>

<section aria-label="Kept variations">
	{#if list.length}
		<ul class="grid grid-cols-[repeat(auto-fill,minmax(96px,1fr))] gap-1.5">
			{#each portion.of(list) as kept (kept.id)}
				<PictureCard
					name={kept.name}
					picture={kept.picture}
					says="Seed {kept.seed}{presetName(kept.preset) ? `, of “${presetName(kept.preset)}”` : ''}"
					current={standsAs(editor.document, kept)}
					under={hasChanged(kept) ? 'not as it was' : undefined}
					ontake={() => presets.takeKept(kept.id)}
					onrename={(name) => presets.renameKept(kept.id, name)}
					ondelete={() => presets.removeKept(kept.id)}
				>
					{#snippet entries()}
						<DropdownMenu.Item class="menu-item" onSelect={() => presets.compare(kept)}
							><Columns2 size={14} /> Compare side by side</DropdownMenu.Item
						>
						<PictureEntries {editor} id={kept.id} />
					{/snippet}
				</PictureCard>
			{/each}
		</ul>
		<MoreButton {portion} {list} what="variations" />
	{/if}
	<button class="button mt-1.5 text-xs" onclick={() => presets.keep(`Seed ${editor.document.seed}`)}
		><Pin size={13} /> Keep this variation</button
	>
</section>
