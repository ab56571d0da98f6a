<script lang="ts">
	import { DropdownMenu } from 'bits-ui';
	import Camera from '@lucide/svelte/icons/camera';
	import ImageUp from '@lucide/svelte/icons/image-up';
	import Plus from '@lucide/svelte/icons/plus';
	import RefreshCw from '@lucide/svelte/icons/refresh-cw';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import Undo2 from '@lucide/svelte/icons/undo-2';
	import type { Editor } from '$lib/editor/editor.svelte';
	import { selectAll } from '$lib/ui/fields/select-all';
	import PictureCard from './PictureCard.svelte';

	let { editor }: { editor: Editor } = $props();

	const { presets } = $derived(editor);
	const { current, changed } = $derived(presets);
	let naming = $state(false);
	let fileFor = '';
	let files: HTMLInputElement;

	function save(field: HTMLInputElement) {
		const name = field.value.trim();
		naming = false;
		if (name) void presets.save(name);
	}
</script>

<section aria-label="Presets">
	{#if presets.all.length}
		<ul class="grid grid-cols-[repeat(auto-fill,minmax(96px,1fr))] gap-1.5">
			{#each presets.all as preset (preset.id)}
				<PictureCard
					name={preset.name}
					picture={preset.picture}
					says={preset.says}
					current={preset === current}
					under={preset === current && changed.length ? 'changed' : undefined}
					ontake={() => presets.take(preset.id)}
					onrename={(name) => presets.change(preset.id, { name })}
				>
					{#snippet entries()}
						<DropdownMenu.Item class="menu-item" onSelect={() => presets.update(preset.id)}
							><RefreshCw size={14} /> Update to the dials as they are</DropdownMenu.Item
						>
						<DropdownMenu.Item class="menu-item" onSelect={() => presets.picture(preset.id, null)}
							><Camera size={14} /> The View’s picture</DropdownMenu.Item
						>
						<DropdownMenu.Item
							class="menu-item"
							onSelect={() => {
								fileFor = preset.id;
								files.click();
							}}><ImageUp size={14} /> A picture of one’s own …</DropdownMenu.Item
						>
						<DropdownMenu.Item class="menu-item text-plum" onSelect={() => presets.remove(preset.id)}
							><Trash2 size={14} /> Delete</DropdownMenu.Item
						>
					{/snippet}
				</PictureCard>
			{/each}
		</ul>
	{/if}
	<input
		bind:this={files}
		type="file"
		accept="image/png,image/jpeg,image/webp"
		class="hidden"
		aria-label="A picture for the preset"
		onchange={(event) => {
			const [file] = event.currentTarget.files ?? [];
			if (file) void presets.picture(fileFor, file);
			event.currentTarget.value = '';
		}}
	/>
	{#if current && changed.length}
		<p class="mt-1.5 text-xs" role="status">
			Changed since “{current.name}”:
			<span class="text-quiet">{changed.map(({ name }) => name).join(', ')}</span>
		</p>
		<div class="mt-1 flex flex-wrap gap-1">
			<button class="button text-xs" onclick={() => presets.take(current.id)}
				><Undo2 size={13} /> Revert</button
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
