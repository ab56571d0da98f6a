<script lang="ts">
	import { DropdownMenu } from 'bits-ui';
	import ArrowLeftRight from '@lucide/svelte/icons/arrow-left-right';
	import CornerDownRight from '@lucide/svelte/icons/corner-down-right';
	import type { Editor } from '$lib/editor/editor.svelte';

	let { editor }: { editor: Editor } = $props();
	const { leading } = $derived(editor);
	const refused = $derived(leading.now?.following?.isAllowed === false);
</script>

{#if leading.now}
	<p
		class="menu pointer-events-none fixed z-[80] w-max max-w-72 min-w-0 px-2 py-1 text-xs {refused
			? 'text-plum'
			: leading.now.following
				? 'text-teal'
				: 'text-quiet'}"
		style="left: {Math.min(leading.now.x + 14, innerWidth - 300)}px; top: {leading.now.y + 16}px"
		role="status"
	>
		{leading.says}
	</p>
{/if}

{#if leading.choices}
	{@const { x, y, mayFollow, mayTie, follows, ties } = leading.choices}
	<DropdownMenu.Root open onOpenChange={(open) => !open && leading.choose(null)}>
		<DropdownMenu.Trigger
			class="pointer-events-none fixed h-0 w-0"
			style="left: {x}px; top: {y}px"
			aria-label="What the drop shall do"
		/>
		<DropdownMenu.Portal>
			<DropdownMenu.Content class="menu w-72" align="start" aria-label="What the drop shall do">
				<DropdownMenu.Item
					class="menu-item items-start"
					disabled={!mayFollow}
					onSelect={() => leading.choose('follow')}
					><CornerDownRight size={14} class="mt-1 shrink-0" /><span
						>It follows<span class="block text-xs whitespace-normal text-quiet">{follows}</span></span
					></DropdownMenu.Item
				>
				<DropdownMenu.Item
					class="menu-item items-start"
					disabled={!mayTie}
					onSelect={() => leading.choose('tie')}
					><ArrowLeftRight size={14} class="mt-1 shrink-0" /><span
						>Tie both ways<span class="block text-xs whitespace-normal text-quiet">{ties}</span></span
					></DropdownMenu.Item
				>
			</DropdownMenu.Content>
		</DropdownMenu.Portal>
	</DropdownMenu.Root>
{/if}
