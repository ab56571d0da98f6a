<script lang="ts">
	import type { Measuring } from './measuring.svelte';

	let { measuring }: { measuring: Measuring } = $props();
</script>

{#if measuring.on && measuring.ends.length < 2}<p
		class="menu pointer-events-none absolute top-12 left-2 px-2 py-1 text-xs"
	>
		Click {measuring.ends.length ? 'the second' : 'the first'} place on a surface. Escape ends.
	</p>{/if}
{#if measuring.label}<span
		class="menu pointer-events-none absolute min-w-0 -translate-x-1/2 px-1.5 py-0.5 font-mono text-xs"
		style="left: {measuring.label.x}px; top: {measuring.label.y}px"
		data-testid="distance">{measuring.label.text}</span
	>{/if}
