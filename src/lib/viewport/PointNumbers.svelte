<script lang="ts">
	import { untrack } from 'svelte';
	import type { PointNumbers } from './point-numbers.svelte';
	import type { ViewScene } from './scene';

	interface Props {
		numbers: PointNumbers;
		scene: ViewScene;
		/** Count up as the picture moves, and as another is shown. */
		moves: number;
		evaluations: number;
		shown: string;
	}
	let { numbers, scene, moves, evaluations, shown }: Props = $props();

	$effect(() => {
		void [numbers.on, evaluations, shown];
		untrack(() => void numbers.refresh(scene));
	});
	$effect(() => {
		void moves;
		untrack(() => numbers.place(scene));
	});
</script>

<div class="pointer-events-none absolute inset-0 overflow-hidden" role="group" aria-label="Numbers of points">
	{#each numbers.labels as { index, x, y }, i (i)}
		<span
			class="absolute -translate-x-1/2 -translate-y-full rounded-sm bg-sheet/80 px-0.5 font-mono text-[10px] leading-3 text-ink"
			style="left: {x.toFixed(1)}px; top: {(y - 3).toFixed(1)}px">{index}</span
		>
	{/each}
</div>
