<script lang="ts">
	import { untrack } from 'svelte';
	import type { ViewMarks } from './marks.svelte';
	import type { ViewScene } from '$lib/viewport/scene';

	interface Props {
		marks: ViewMarks;
		scene: ViewScene;
		/** Count up as the picture moves, and as another is shown. */
		moves: number;
		evaluations: number;
	}
	let { marks, scene, moves, evaluations }: Props = $props();

	$effect(() => {
		void [marks.numbers, marks.on, marks.group, marks.nodes.join(' '), evaluations];
		untrack(() => marks.refresh(scene));
	});
	$effect(() => {
		void moves;
		untrack(() => marks.place(scene));
	});
</script>

<div class="pointer-events-none absolute inset-0 overflow-hidden" role="group" aria-label="Numbers of points">
	{#each marks.labels as { index, x, y }, i (i)}
		<span
			class="absolute -translate-x-1/2 -translate-y-full rounded-sm bg-sheet/80 px-0.5 font-mono text-ink"
			style="left: {x.toFixed(1)}px; top: {(y - 3).toFixed(
				1
			)}px; font-size: {marks.pixels}px; line-height: 1.2">{index}</span
		>
	{/each}
</div>
