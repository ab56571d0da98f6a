<script lang="ts">
	import X from '@lucide/svelte/icons/x';
	import { HEAT_SCALE } from '$core/session/heat';
	import type { HeatFacts } from '$core/session/messages';

	let { facts, name, onhide }: { facts: HeatFacts; name: string; onhide: () => void } = $props();
	const scale = HEAT_SCALE.map((colour) => `rgb(${colour.join(' ')})`).join(', ');
	const [low, high] = $derived(facts.ends ?? [0, 1]);
	const number = (x: number) => String(Math.round(x * 1000) / 1000);
</script>

<div
	class="absolute right-2 bottom-9 w-52 rounded border border-line bg-sheet px-2 py-1.5 text-xs"
	role="group"
	aria-label="Heat map"
>
	<p class="flex items-center gap-1">
		<span class="min-w-0 flex-1 truncate font-semibold">{name}</span>
		<button class="icon-button h-5 w-5" aria-label="Hide the heat map" onclick={onhide}
			><X size={13} /></button
		>
	</p>
	{#if facts.trouble}<p class="text-plum">{facts.trouble}</p>
	{:else if facts.parts}
		{#each facts.parts as [least, greatest], k (k)}
			<p class="flex items-center gap-2 font-mono text-[11px]">
				<span class="h-2.5 w-2.5 rounded-sm" style="background: {['#e02020', '#20b020', '#2040e0'][k]}"
				></span>
				<span class="flex-1 font-sans">{['red', 'green', 'blue'][k]}</span>
				{number(least)} to {number(greatest)}
			</p>
		{/each}
		<p class="text-[11px] text-quiet">on {facts.count.toLocaleString('en')} {facts.of}</p>
	{:else}
		<div class="my-1 h-2.5 rounded-sm" style="background: linear-gradient(to right, {scale})"></div>
		<p class="flex justify-between font-mono text-[10px] text-quiet">
			<span>{number(low)}</span><span>{number((low + high) / 2)}</span><span>{number(high)}</span>
		</p>
		<p class="mt-0.5 font-mono text-[11px]" data-testid="heat">
			{number(facts.low)} to {number(facts.high)}, mean {number(facts.mean)}
		</p>
		<p class="text-[11px] text-quiet">on {facts.count.toLocaleString('en')} {facts.of}</p>
	{/if}
</div>
