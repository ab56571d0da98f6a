<script lang="ts">
	import Locate from '@lucide/svelte/icons/locate';
	import type { Editor } from '$lib/editor/editor.svelte';
	import type { ViewScene } from '$lib/viewport/scene';

	interface Props {
		editor: Editor;
		scene: ViewScene;
		/** Counts up as the picture moves. */
		moves: number;
	}
	/** The markers of the graph that is edited, where they are: a click selects one, and its handles move it. */
	let { editor, scene, moves }: Props = $props();

	const markers = $derived.by(() => {
		void moves;
		return editor.graph.nodes
			.filter(({ kind }) => kind === 'marker')
			.flatMap(({ id, short }) => {
				const place = editor.evaluation.reports.get(id)?.bounds?.low;
				const at = place && scene.place(place[0], place[1], place[2]);
				return at ? [{ id, short, at }] : [];
			});
	});
</script>

{#each markers as { id, short, at } (id)}
	<button
		class="absolute flex -translate-x-2 -translate-y-2 items-center gap-0.5 text-xs text-coral [text-shadow:0_0_3px_var(--sheet)]"
		class:font-semibold={editor.selected.has(id)}
		style:left="{at.x}px"
		style:top="{at.y}px"
		aria-label="Marker {short}"
		aria-pressed={editor.selected.has(id)}
		title="Marker {short}: click, then move it by its handles"
		onclick={() => editor.select([id])}><Locate size={16} />{short}</button
	>
{/each}
