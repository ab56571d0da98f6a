<script lang="ts">
	import { Command } from 'bits-ui';
	import Plus from '@lucide/svelte/icons/plus';
	import { outputOf, sourcesFor } from '$core/engine/index';
	import { nodeKinds } from '$core/nodes/index';
	import { toast } from 'svelte-sonner';
	import type { Editor } from '$lib/editor/editor.svelte';
	import SearchList from '../SearchList.svelte';

	interface Props {
		editor: Editor;
		/** The node and the input that a wire is wanted for. */
		node: string;
		name: string;
		anchor: HTMLElement | null;
		open: boolean;
		/** Asks for a new node whose output fits. */
		onwant?: (node: string, name: string) => void;
	}
	let { editor, node, name, anchor, open = $bindable(), onwant }: Props = $props();

	const sources = () =>
		sourcesFor(editor.graph, [node, name]).map(({ node: one, port }) => {
			return {
				id: `${one.id} ${port}`,
				text: `${one.short}, ${outputOf(one, port)?.label ?? port}`,
				hints: [nodeKinds.get(one.kind)!.name]
			};
		});
	function connect(from: string) {
		const [id, port] = from.split(' ');
		const reason = editor.connect([id, port], [node, name]);
		if (reason) toast.error(reason);
	}
</script>

<SearchList
	bind:open
	{anchor}
	label="From which node"
	items={sources}
	empty="Nothing in the graph fits here."
	onpick={connect}
>
	{#snippet more(close)}
		{#if onwant}<Command.Item
				class="menu-item text-[13px] data-[selected]:bg-line/50"
				value="A new node …"
				forceMount
				onSelect={() => {
					close();
					onwant(node, name);
				}}><Plus size={14} /> A new node …</Command.Item
			>{/if}
	{/snippet}
</SearchList>
