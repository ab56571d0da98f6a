<script lang="ts">
	import type { SearchEntry, Wanted } from '$lib/editor/search';
	import { nearestNodes, searchNodes } from '$lib/editor/search';
	import type { Editor } from '$lib/editor/editor.svelte';
	import { onShelf, ownSubgraphs } from '$lib/editor/own-subgraphs';
	import type { Shelved } from '$lib/store/shelf';
	import { listShelf } from '$lib/store/shelf';

	interface Props {
		x: number;
		y: number;
		wanted?: Wanted;
		editor: Editor;
		onpick: (entry: SearchEntry) => void;
		onclose: () => void;
	}
	let { x, y, wanted = {}, editor, onpick, onclose }: Props = $props();
	let text = $state('');
	let at = $state(0);
	let field = $state<HTMLInputElement>();
	let listing = $state<HTMLUListElement>();
	let shelf = $state.raw<readonly Shelved[]>([]);
	listShelf().then(
		(all) => (shelf = all),
		() => {}
	);
	const own = $derived([...ownSubgraphs(editor.document, editor.place.graphs), ...onShelf(shelf)]);
	const exact = $derived(searchNodes(text, wanted, { isInBody: editor.place.isInside, own }));
	/** Where nothing has these words, what is written most like them. */
	const found = $derived(
		exact.length || !text.trim() ? exact : nearestNodes(text, wanted, { isInBody: editor.place.isInside })
	);

	$effect(() => field?.focus());
	$effect(() => {
		void text;
		at = 0;
	});
	$effect(() => listing?.children[at]?.scrollIntoView({ block: 'nearest' }));

	/** Shows a picture for as long as it is there. */
	const shows = (picture: Blob) => (image: HTMLImageElement) => {
		image.src = URL.createObjectURL(picture);
		return () => URL.revokeObjectURL(image.src);
	};

	function key(event: KeyboardEvent) {
		event.stopPropagation();
		if (event.key === 'ArrowDown') at = Math.min(found.length - 1, at + 1);
		else if (event.key === 'ArrowUp') at = Math.max(0, at - 1);
		else if (event.key === 'Enter' && found[at]) onpick(found[at]);
		else if (event.key === 'Escape') onclose();
		else return;
		event.preventDefault();
	}
</script>

<div class="fixed inset-0 z-40" role="presentation" onpointerdown={onclose}></div>
<div
	class="menu fixed z-50 w-72 p-0"
	style="left: {Math.max(8, Math.min(x, innerWidth - 300))}px; top: {Math.max(
		8,
		Math.min(y, innerHeight - 380)
	)}px"
	role="dialog"
	aria-label="Add a node"
>
	<div class="border-b border-line p-2">
		<input
			bind:this={field}
			class="field"
			placeholder="Find a node or what it does"
			aria-label="Find a node"
			role="combobox"
			aria-expanded="true"
			aria-controls="node-search-list"
			aria-activedescendant="node-search-{at}"
			bind:value={text}
			onkeydown={key}
		/>
		{#if wanted.takes || wanted.gives}<p class="mt-1 text-xs text-quiet">Only what fits the wire.</p>{/if}
	</div>
	{#if text.trim() && !exact.length && found.length}<p class="px-3 pt-2 text-xs text-quiet" role="status">
			Nothing is called “{text.trim()}”. The nearest:
		</p>{/if}
	<ul
		bind:this={listing}
		id="node-search-list"
		class="max-h-72 overflow-y-auto p-1"
		role="listbox"
		aria-label="Nodes"
	>
		{#each found as entry, i (entry.id)}
			<!-- svelte-ignore a11y_click_events_have_key_events -->
			<li
				id="node-search-{i}"
				role="option"
				aria-selected={i === at}
				class="menu-item flex-col items-stretch gap-0 {i === at ? 'bg-line/50' : ''}"
				onclick={() => onpick(entry)}
				onpointermove={() => (at = i)}
			>
				<span class="flex justify-between gap-2"
					><span class="min-w-0 truncate">{entry.name}</span><span
						class="shrink-0 text-xs text-quiet capitalize">{entry.family}</span
					></span
				>
				{#if i === at}
					{#if entry.picture}<img
							class="my-1 h-24 w-full rounded object-contain"
							alt=""
							{@attach shows(entry.picture)}
						/>{/if}
					<span class="line-clamp-2 text-xs text-quiet">{entry.help}</span>
				{/if}
			</li>
		{:else}
			<li class="p-3 text-sm text-quiet">Nothing fits “{text}”. Try another word.</li>
		{/each}
	</ul>
</div>
