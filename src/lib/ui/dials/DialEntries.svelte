<script lang="ts">
	import { DropdownMenu } from 'bits-ui';
	import SlidersHorizontal from '@lucide/svelte/icons/sliders-horizontal';
	import { whyNoDial, whyNoMaterialDial } from '$core/engine/index';
	import type { Editor } from '$lib/editor/editor.svelte';

	interface Props {
		editor: Editor;
		node: string;
		name: string;
	}
	let { editor, node, name }: Props = $props();

	const { dials } = $derived(editor);
	const own = $derived(dials.ofSetting(node, name));
	const why = $derived(own ? null : whyNoDial(editor.document, dials.at(node, name)));
	const mayBeMaterial = $derived(!own && !whyNoMaterialDial(editor.document, dials.at(node, name)));
	const others = $derived(dials.fitting(node, name).filter(({ key }) => key !== own?.key));
</script>

{#if own}
	<DropdownMenu.Item class="menu-item" onSelect={() => dials.unlink(node, name)}
		><SlidersHorizontal size={14} /> Drive by “{own.name}” no more</DropdownMenu.Item
	>
{:else if !why}
	<DropdownMenu.Item class="menu-item" onSelect={() => dials.make(node, name)}
		><SlidersHorizontal size={14} /> Make it a dial</DropdownMenu.Item
	>
{/if}
{#if mayBeMaterial}
	<DropdownMenu.Item class="menu-item" onSelect={() => dials.makeMaterial(node, name)}
		><SlidersHorizontal size={14} /> Make the whole material a dial</DropdownMenu.Item
	>
{/if}
{#if others.length && !why}
	<DropdownMenu.Sub>
		<DropdownMenu.SubTrigger class="menu-item"
			><SlidersHorizontal size={14} /> Drive by a dial</DropdownMenu.SubTrigger
		>
		<DropdownMenu.SubContent class="menu max-h-72 overflow-y-auto">
			{#each others as dial (dial.key)}
				<DropdownMenu.Item class="menu-item" onSelect={() => dials.link(node, name, dial.key)}
					>{dial.name}</DropdownMenu.Item
				>
			{/each}
		</DropdownMenu.SubContent>
	</DropdownMenu.Sub>
{/if}
