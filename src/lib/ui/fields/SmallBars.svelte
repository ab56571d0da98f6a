<script lang="ts">
	/** How many lie in each of equal parts, as small bars. `label` names it where nothing beside it does. */
	let {
		bars,
		label,
		title,
		class: tall = 'h-3'
	}: { bars: readonly number[]; label?: string; title?: string; class?: string } = $props();
	const highest = $derived(Math.max(1, ...bars));
</script>

<svg
	viewBox="0 0 {bars.length} 10"
	preserveAspectRatio="none"
	class="block w-full border-b border-line {tall}"
	role={label ? 'img' : undefined}
	aria-label={label}
	aria-hidden={label ? undefined : true}
>
	{#if title}<title>{title}</title>{/if}
	{#each bars as bar, i (i)}
		<rect
			x={i + 0.08}
			width="0.84"
			y={10 - (10 * bar) / highest}
			height={(10 * bar) / highest}
			fill="var(--teal)"
		/>
	{/each}
</svg>
