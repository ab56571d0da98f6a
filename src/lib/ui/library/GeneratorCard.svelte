<script lang="ts">
	import { goto } from '$app/navigation';
	import { DropdownMenu } from 'bits-ui';
	import { plural } from '$core/math/errors';
	import Copy from '@lucide/svelte/icons/copy';
	import Download from '@lucide/svelte/icons/download';
	import EllipsisVertical from '@lucide/svelte/icons/ellipsis-vertical';
	import Pencil from '@lucide/svelte/icons/pencil';
	import SlidersHorizontal from '@lucide/svelte/icons/sliders-horizontal';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import type { StoredGenerator } from '$lib/store/database';
	import type { Library } from './library.svelte';

	let { library, one }: { library: Library; one: StoredGenerator } = $props();

	let isRenaming = $state(false);
	const DATE = { day: 'numeric', month: 'short', year: 'numeric' } as const;

	/** Shows a picture for as long as the card has it, and then lets go of it. */
	function showing(picture: Blob) {
		return (image: HTMLImageElement) => {
			const url = URL.createObjectURL(picture);
			image.src = url;
			return () => URL.revokeObjectURL(url);
		};
	}
	function rename(name: string) {
		isRenaming = false;
		library.rename(one, name);
	}
</script>

<li class="specimen">
	<a href="/build/{one.id}" aria-label="Open {one.name}">
		<span class="picture"
			>{#if one.picture}<img {@attach showing(one.picture)} alt="" />{/if}</span
		>
	</a>
	<div class="flex items-center gap-1 px-3 py-2">
		<div class="min-w-0 flex-1">
			{#if isRenaming}
				<!-- svelte-ignore a11y_autofocus -->
				<input
					class="field"
					aria-label="New name"
					value={one.name}
					autofocus
					onblur={(event) => rename(event.currentTarget.value)}
					onkeydown={(event) => {
						if (event.key === 'Enter') event.currentTarget.blur();
						if (event.key === 'Escape') isRenaming = false;
					}}
				/>
			{:else}
				<a class="block truncate font-head font-semibold" href="/build/{one.id}" title={one.name}
					>{one.name}</a
				>
			{/if}
			<p class="text-xs text-quiet">
				{plural(one.document.graphs.main.nodes.length, 'node')} · {new Date(one.updated).toLocaleDateString(
					'en-GB',
					DATE
				)}
			</p>
		</div>
		<DropdownMenu.Root>
			<DropdownMenu.Trigger class="icon-button" aria-label="What to do with {one.name}"
				><EllipsisVertical size={16} /></DropdownMenu.Trigger
			>
			<DropdownMenu.Portal>
				<DropdownMenu.Content class="menu" align="end">
					<DropdownMenu.Item class="menu-item" onSelect={() => setTimeout(() => (isRenaming = true))}
						><Pencil size={14} /> Rename</DropdownMenu.Item
					>
					<DropdownMenu.Item class="menu-item" onSelect={() => goto(`/dress/${one.id}`)}
						><SlidersHorizontal size={14} /> Use in Dress</DropdownMenu.Item
					>
					<DropdownMenu.Item class="menu-item" onSelect={() => library.duplicate(one)}
						><Copy size={14} /> Duplicate</DropdownMenu.Item
					>
					<DropdownMenu.Item class="menu-item" onSelect={() => library.saveAsFile(one)}
						><Download size={14} /> Save as a file</DropdownMenu.Item
					>
					<DropdownMenu.Item class="menu-item text-plum" onSelect={() => library.remove(one)}
						><Trash2 size={14} /> Delete</DropdownMenu.Item
					>
				</DropdownMenu.Content>
			</DropdownMenu.Portal>
		</DropdownMenu.Root>
	</div>
</li>
