<script lang="ts">
	import type { ShelfItem } from '$core/engine/index';
	import { differences } from '$core/engine/index';
	import type { Editor } from '$lib/editor/editor.svelte';
	import { loadShelved } from '$lib/store/shelf';

	/** A newer version of a body lies on the shelf: what would change is said, and nothing changes by itself. */
	let { editor, body }: { editor: Editor; body: string } = $props();

	const graph = $derived(editor.document.graphs[body]);
	let newer = $state.raw<ShelfItem | null>(null);
	let isTold = $state(false);
	$effect(() => {
		const { shelf } = graph;
		newer = null;
		if (shelf)
			loadShelved(shelf.id).then(
				(found) => {
					if (found && found.version > shelf.version) newer = found;
				},
				() => {}
			);
	});
</script>

{#if newer}
	<div class="mt-2 border-t border-line pt-1.5 text-xs" role="status">
		<p>A newer version lies on your shelf.</p>
		{#if isTold}
			<ul class="mt-1 list-disc pl-4 text-quiet">
				{#each differences(graph, newer) as one, i (i)}<li>{one}</li>{/each}
			</ul>
			<button class="button mt-1 text-xs" onclick={() => newer && editor.place.takeNewer(body, newer)}
				>Use the newer one</button
			>
		{:else}<button class="button mt-1 text-xs" onclick={() => (isTold = true)}>What would change?</button
			>{/if}
	</div>
{/if}
