<script lang="ts">
	import type { Snippet } from 'svelte';
	import { DropdownMenu } from 'bits-ui';
	import EllipsisVertical from '@lucide/svelte/icons/ellipsis-vertical';
	import Pencil from '@lucide/svelte/icons/pencil';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import AssetPicture from './AssetPicture.svelte';

	interface Props {
		name: string;
		picture?: string;
		says?: string;
		/** Whether it is the one that stands now. */
		current?: boolean;
		/** What stands under its name. */
		under?: string;
		ontake: () => void;
		onrename: (name: string) => void;
		ondelete: () => void;
		/** The other entries of its menu. */
		entries?: Snippet;
	}
	let { name, picture, says, current = false, under, ontake, onrename, ondelete, entries }: Props = $props();

	let isRenaming = $state(false);
</script>

<li class="min-w-0 rounded border bg-sheet {current ? 'border-coral' : 'border-line'}">
	<button
		class="block w-full rounded-t bg-ground"
		aria-label="Use {name}"
		aria-pressed={current}
		title={says || name}
		onclick={ontake}
		><span class="block aspect-[3/2]"
			>{#if picture}<AssetPicture hash={picture} />{/if}</span
		></button
	>
	<div class="flex items-center gap-0.5 px-1.5 py-0.5">
		{#if isRenaming}
			<!-- svelte-ignore a11y_autofocus -->
			<input
				class="field text-xs"
				aria-label="New name"
				value={name}
				autofocus
				onblur={(event) => {
					isRenaming = false;
					const wanted = event.currentTarget.value.trim();
					if (wanted && wanted !== name) onrename(wanted);
				}}
				onkeydown={(event) => {
					if (event.key === 'Enter') event.currentTarget.blur();
					if (event.key === 'Escape') isRenaming = false;
				}}
			/>
		{:else}
			<span class="min-w-0 flex-1 line-clamp-2 break-words text-xs" title={name}
				>{name}{#if under}<span class="ml-1 text-quiet">{under}</span>{/if}</span
			>
		{/if}
		<DropdownMenu.Root>
			<DropdownMenu.Trigger class="icon-button h-5 w-4 shrink-0" aria-label="What to do with {name}"
				><EllipsisVertical size={13} /></DropdownMenu.Trigger
			>
			<DropdownMenu.Portal>
				<DropdownMenu.Content class="menu" align="end">
					<DropdownMenu.Item class="menu-item" onSelect={() => setTimeout(() => (isRenaming = true))}
						><Pencil size={14} /> Rename</DropdownMenu.Item
					>
					{@render entries?.()}
					<DropdownMenu.Item class="menu-item text-plum" onSelect={ondelete}
						><Trash2 size={14} /> Delete</DropdownMenu.Item
					>
				</DropdownMenu.Content>
			</DropdownMenu.Portal>
		</DropdownMenu.Root>
	</div>
</li>
