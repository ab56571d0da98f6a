<script lang="ts">
	import { DropdownMenu } from 'bits-ui';
	import Plus from '@lucide/svelte/icons/plus';
	import Spline from '@lucide/svelte/icons/spline';
	import { nodeKinds, sourcesFor } from '$core/index';
	import { toast } from 'svelte-sonner';
	import type { Editor } from '$lib/editor/editor.svelte';

	interface Props {
		editor: Editor;
		/** The node and the input that a wire is wanted for. */
		node: string;
		name: string;
		/** Asks for a new node whose output fits. */
		onwant?: (node: string, name: string) => void;
	}
	let { editor, node, name, onwant }: Props = $props();

	const sources = $derived(
		sourcesFor(editor.graph, [node, name]).map(({ node: one, port }) => ({
			id: one.id,
			port,
			text: `${one.short}, ${nodeKinds.get(one.kind)!.outputs[port].label}`
		}))
	);
	function connect(id: string, port: string) {
		const reason = editor.connect([id, port], [node, name]);
		if (reason) toast.error(reason);
	}
</script>

<div class="max-h-64 overflow-y-auto">
	{#each sources as { id, port, text } (`${id} ${port}`)}
		<DropdownMenu.Item class="menu-item text-[13px]" onSelect={() => connect(id, port)}
			><Spline size={14} /> <span class="truncate">{text}</span></DropdownMenu.Item
		>
	{:else}
		<p class="px-2 py-1 text-xs text-quiet">Nothing in the graph fits here.</p>
	{/each}
</div>
{#if onwant}
	<DropdownMenu.Separator class="my-1 border-t border-line" />
	<DropdownMenu.Item class="menu-item text-[13px]" onSelect={() => onwant(node, name)}
		><Plus size={14} /> A new node …</DropdownMenu.Item
	>
{/if}
