<script lang="ts">
	import { DropdownMenu } from 'bits-ui';
	import Plus from '@lucide/svelte/icons/plus';
	import RefreshCw from '@lucide/svelte/icons/refresh-cw';
	import SquareDashed from '@lucide/svelte/icons/square-dashed';
	import SquareCheck from '@lucide/svelte/icons/square-check';
	import Undo2 from '@lucide/svelte/icons/undo-2';
	import type { Editor } from '$lib/editor/editor.svelte';
	import { selectAll } from '$lib/ui/fields/select-all';
	import MoreButton from '$lib/ui/MoreButton.svelte';
	import { Portion } from '$lib/ui/portion.svelte';
	import PictureCard from './PictureCard.svelte';
	import PictureEntries from './PictureEntries.svelte';

	let { editor }: { editor: Editor } = $props();

	const { presets } = $derived(editor);
	const { current, changed } = $derived(presets);
	const portion = new Portion(60);
	let naming = $state(false);

	function save(field: HTMLInputElement) {
		const name = field.value.trim();
		naming = false;
		if (name) void presets.save(name);
	}
</script>

<section aria-label="Presets">
	{#if presets.all.length}
		<ul class="grid grid-cols-[repeat(auto-fill,minmax(96px,1fr))] gap-1.5">
			{#each portion.of(presets.all, (one) => one === current) as preset (preset.id)}
				<PictureCard
					name={preset.name}
					picture={preset.picture}
					says={preset.says}
					current={preset === current}
					under={preset === current && changed.length ? 'changed' : undefined}
					ontake={() => presets.take(preset.id)}
					onrename={(name) => presets.change(preset.id, { name })}
					ondelete={() => presets.remove(preset.id)}
				>
					{#snippet entries()}
						<DropdownMenu.Item class="menu-item" onSelect={() => presets.update(preset.id)}
							><RefreshCw size={14} /> Update to the dials as they are</DropdownMenu.Item
						>
						{#if editor.document.slots.length}
							<DropdownMenu.CheckboxItem
								class="menu-item"
								checked={!!preset.slots}
								onCheckedChange={(isHolding) => presets.hold(preset.id, isHolding)}
								>{#if preset.slots}<SquareCheck size={14} />{:else}<SquareDashed size={14} />{/if} Keep what is
								in slots</DropdownMenu.CheckboxItem
							>
						{/if}
						<PictureEntries {editor} id={preset.id} />
					{/snippet}
				</PictureCard>
			{/each}
		</ul>
		<MoreButton {portion} list={presets.all} what="presets" />
	{/if}
	{#if current && changed.length}
		<p class="mt-1.5 text-xs" role="status">
			Changed since “{current.name}”:
			<span class="text-quiet">{changed.map(({ name }) => name).join(', ')}</span>
		</p>
		<div class="mt-1 flex flex-wrap gap-1">
			<button class="button text-xs" onclick={() => presets.take(current.id)}
				><Undo2 size={13} /> Reset</button
			>
			<button class="button text-xs" onclick={() => presets.update(current.id)}
				><RefreshCw size={13} /> Update</button
			>
		</div>
	{/if}
	{#if naming}
		<!-- svelte-ignore a11y_autofocus -->
		<input
			{@attach selectAll}
			class="field mt-1.5 text-[13px]"
			aria-label="Name of the preset"
			placeholder="Name of the preset, then Enter"
			autofocus
			onkeydown={(event) => {
				if (event.key === 'Enter') save(event.currentTarget);
				if (event.key === 'Escape') naming = false;
			}}
			onblur={() => (naming = false)}
		/>
	{:else if editor.document.dials.length}
		<button class="button mt-1.5 text-xs" onclick={() => (naming = true)}
			><Plus size={13} /> Save as a preset</button
		>
	{:else}
		<p class="text-xs text-quiet">A preset holds the dials: make some first.</p>
	{/if}
</section>
