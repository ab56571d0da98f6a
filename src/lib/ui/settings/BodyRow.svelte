<script lang="ts">
	import LogIn from '@lucide/svelte/icons/log-in';
	import Split from '@lucide/svelte/icons/split';
	import Ungroup from '@lucide/svelte/icons/ungroup';
	import ChevronDown from '@lucide/svelte/icons/chevron-down';
	import type { GraphNode } from '$core/engine/index';
	import { bodyNameOf, portsInWords, usesOf } from '$core/engine/index';
	import type { Editor } from '$lib/editor/editor.svelte';
	import SearchList from '../SearchList.svelte';
	import ShelfNews from './ShelfNews.svelte';

	/** The body of a node: what it is called, how often it is used, and the way into it. */
	let { editor, node }: { editor: Editor; node: GraphNode } = $props();

	const id = $derived(bodyNameOf(node) ?? '');
	const body = $derived(Object.hasOwn(editor.document.graphs, id) ? editor.document.graphs[id] : null);
	const uses = $derived(usesOf(editor.document, id).length);
	let choosing = $state(false);
	let chooser = $state<HTMLElement | null>(null);
	const bodies = () =>
		Object.entries(editor.document.graphs)
			.filter(([key]) => key !== 'main' && key !== id)
			.map(([key, graph]) => ({ id: key, text: graph.name || key, hints: [portsInWords(graph)] }));
	const words = (n: number) => (n === 1 ? 'used here only' : `used ${n} times`);
</script>

<div class="mx-3 mt-1.5 rounded border border-line p-2" role="group" aria-label="Body">
	<p class="flex items-baseline justify-between gap-2 text-[13px]">
		<strong class="min-w-0 truncate font-semibold" title={body?.name}
			>{body ? body.name || id : 'No body'}</strong
		>
		{#if body}<span class="shrink-0 text-xs text-quiet">{words(uses)}</span>{/if}
	</p>
	<div class="mt-1.5 flex flex-wrap gap-1">
		{#if body}<button
				class="button text-xs"
				onclick={() => editor.place.enter(node.id)}
				title="Go into it (Enter)"><LogIn size={14} /> Go into it</button
			>{/if}
		{#if uses > 1}<button
				class="button text-xs"
				onclick={() => editor.place.makeOwn(node.id)}
				title="A copy of the body for this use alone"><Split size={14} /> Make its own</button
			>{/if}
		{#if body && node.kind === 'subgraph'}<button
				class="button text-xs"
				onclick={() => editor.place.takeApart()}
				title="Its nodes stand here again"><Ungroup size={14} /> Take apart</button
			>{/if}
		{#if Object.keys(editor.document.graphs).length > 2 || !body}<button
				bind:this={chooser}
				class="button text-xs"
				aria-haspopup="dialog"
				aria-expanded={choosing}
				onclick={() => (choosing = !choosing)}>Another body <ChevronDown size={13} /></button
			>{/if}
	</div>
	{#if body?.shelf}<ShelfNews {editor} body={id} />{/if}
</div>
<SearchList
	bind:open={choosing}
	anchor={chooser}
	label="Which body"
	items={bodies}
	empty="There is no other one yet."
	onpick={(key) => editor.set(node.id, 'body', key)}
/>
