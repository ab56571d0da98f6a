<script lang="ts">
	import type { ViewScene } from '$lib/viewport/scene';

	interface Props {
		scene: ViewScene;
		/** The side of a grid cell in metres, by which it is seen which way an axis goes. */
		cell: number;
		/** Counts up as the picture moves. */
		moves: number;
	}
	let { scene, cell, moves }: Props = $props();

	/** Pixels from the origin to a name. */
	const LONG = 24;
	const AXES = [
		['x', [1, 0, 0], 'var(--coral)'],
		['y', [0, 1, 0], 'var(--teal)'],
		['z', [0, 0, 1], 'var(--ink)']
	] as const;
	const names = $derived.by(() => {
		void moves;
		return AXES.flatMap(([name, way, colour]) => {
			const [from, to] = [scene.place(0, 0, 0), scene.place(way[0] * cell, way[1] * cell, way[2] * cell)];
			// Seen from its end an axis has no length on the screen.
			const length = from && to ? Math.hypot(to.x - from.x, to.y - from.y) : 0;
			if (!from || !to || length < 6) return [];
			const share = LONG / length;
			return [
				{
					name,
					colour,
					from,
					to: { x: from.x + (to.x - from.x) * share, y: from.y + (to.y - from.y) * share }
				}
			];
		});
	});
</script>

<svg class="pointer-events-none absolute inset-0 h-full w-full text-ink" aria-hidden="true">
	{#each names as { name, colour, from, to } (name)}
		<line x1={from.x} y1={from.y} x2={to.x} y2={to.y} stroke={colour} stroke-width="1.5" opacity="0.8" />
		<text
			x={to.x + (to.x - from.x) * 0.3}
			y={to.y + (to.y - from.y) * 0.3 + 4}
			text-anchor="middle"
			class="axis fill-current font-mono text-[11px]">{name}</text
		>
	{/each}
</svg>

<style>
	/* Legible before whatever lies behind it. */
	.axis {
		paint-order: stroke;
		stroke: var(--sheet);
		stroke-width: 3px;
		stroke-opacity: 0.75;
	}
</style>
