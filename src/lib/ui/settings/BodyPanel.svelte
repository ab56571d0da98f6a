<script lang="ts">
	import BookMarked from '@lucide/svelte/icons/book-marked';
	import { toast } from 'svelte-sonner';
	import { interfaceOf, labelOfPort, portOf, usesOf } from '$core/engine/index';
	import type { Editor } from '$lib/editor/editor.svelte';
	import { selectAll } from '$lib/ui/fields/select-all';

	/** The body that is edited: its name, what goes in and out, where it is used, and its place on the shelf. */
	let { editor }: { editor: Editor } = $props();

	const id = $derived(editor.place.graphId);
	const graph = $derived(editor.graph);
	const ports = $derived(interfaceOf(graph));
	const inputs = $derived(graph.nodes.filter(({ kind }) => kind === 'input'));
	const uses = $derived(usesOf(editor.document, id));
	let words = $state('');

	async function shelve() {
		try {
			await editor.place.putOnShelf(words);
			toast.success(`“${graph.name}” is on your shelf: the node search finds it in every generator.`);
		} catch (error) {
			toast.error((error as Error).message);
		}
	}
</script>

{#snippet ports_(label: string, nodes: readonly { id: string; name: string; carries: string }[])}
	<h3 class="mt-4 mb-1 text-[13px]">{label}</h3>
	<ul class="space-y-0.5">
		{#each nodes as one (one.id)}
			<li>
				<button
					class="flex w-full justify-between gap-2 rounded px-1 text-left hover:bg-line/50"
					onclick={() => editor.select([one.id])}
					><span class="min-w-0 truncate">{labelOfPort(one.name)}</span><span
						class="shrink-0 text-xs text-quiet">{one.carries}</span
					></button
				>
			</li>
		{:else}<li class="text-xs text-quiet">
				None yet. Drop the end of a wire on the edge of the graph.
			</li>{/each}
	</ul>
{/snippet}

<div class="min-h-0 flex-1 overflow-y-auto p-4 text-sm">
	<h2 class="mb-2 text-base">The subgraph</h2>
	<label class="flex items-center justify-between gap-2"
		>Name
		<input
			{@attach selectAll}
			class="field w-40 text-xs"
			value={graph.name ?? ''}
			aria-label="Name of the subgraph"
			onchange={(event) => editor.place.nameBody(id, event.currentTarget.value)}
		/></label
	>
	<p class="mt-1 text-xs text-quiet">
		Used {uses.length === 1 ? 'once' : `${uses.length} times`}; a change here changes {uses.length === 1
			? 'it'
			: 'all of them'}.
	</p>
	{@render ports_(
		'Inputs',
		inputs.map((node) => ({ id: node.id, ...portOf(node) }))
	)}
	{@render ports_(
		'Outputs',
		ports.outputs.map((port) => ({ ...port, id: port.node }))
	)}
	<h3 class="mt-4 mb-1 text-[13px]">Your shelf</h3>
	<p class="mb-1 text-xs text-quiet">What is on it can be used in every generator.</p>
	<div class="flex flex-wrap items-center gap-1">
		<input
			class="field min-w-0 flex-1 text-xs"
			bind:value={words}
			placeholder="Words that find it"
			aria-label="Words that find it"
		/>
		<button class="button text-xs" onclick={shelve}
			><BookMarked size={14} /> {graph.shelf ? 'Put the new one on the shelf' : 'Put on the shelf'}</button
		>
		{#if graph.shelf}<button class="button text-xs" onclick={() => editor.place.takeFromShelf()}
				>Remove from the shelf</button
			>{/if}
	</div>
</div>
