<script lang="ts">
	import Split from '@lucide/svelte/icons/split';
	import type { RandomRange } from '$core/engine/document';
	import type { FormulaLook, LookAsk } from '$core/session/messages';
	import { Newest } from '$lib/editor/newest';
	import { cutPart, readersOfStream, wholeOf } from '$core/engine/index';
	import type { FormulaPlace } from './formula-field.svelte';
	import SmallBars from '$lib/ui/fields/SmallBars.svelte';
	import { showNumber } from './quantity';

	interface Props {
		range: RandomRange;
		place: FormulaPlace;
		unit: string;
	}
	let { range, place, unit }: Props = $props();
	/** Which part of a vector it is. */
	const part = $derived(cutPart(place.input)?.part ?? null);

	/** A drag rests for this long before the picture is drawn anew. */
	const WAITS = 150;
	let look = $state.raw<FormulaLook | null>(null);
	const asking = new Newest<LookAsk>(async (about) => {
		look = await place.editor.evaluation.client.look(about);
	});
	$effect(() => {
		void place.editor.evaluation.count;
		const about = { node: place.node, input: place.input, setting: $state.snapshot(range), text: '' };
		const timer = setTimeout(() => asking.ask(about), WAITS);
		return () => clearTimeout(timer);
	});
	const bars = $derived(look?.bars ?? []);
	const readers = $derived(readersOfStream(place.editor.graph, range.stream));
	const others = $derived(
		readers.filter(
			(one) => one.node !== place.node || one.setting !== wholeOf(place.input) || one.part !== part
		)
	);
</script>

{#if look && !look.trouble && bars.length}
	<SmallBars
		class="mt-0.5 h-4"
		{bars}
		label="{look.of}: from {showNumber(look.ranges[0][0])} to {showNumber(look.ranges[0][1])}{unit}"
		title="{look.of}, from {others.length ? 'a shared stream' : 'a stream of its own'}: {range.stream.slice(
			0,
			12
		)}"
	/>
{/if}
{#if others.length}
	<p class="mt-0.5 text-[11px] text-quiet">
		The same numbers drive {#each others.slice(0, 4) as one, i (i)}{i ? ', ' : ''}<button
				class="underline decoration-line underline-offset-2 hover:text-ink"
				onclick={() => place.editor.select([one.node])}
				>{place.editor.node(one.node)?.short}, {one.label}</button
			>{/each}{others.length > 4 ? ' …' : ''}.
		<button
			class="button mt-0.5 px-1.5 py-0 text-[11px]"
			onclick={() =>
				place.editor.ownStream({ node: place.node, setting: wholeOf(place.input), part, label: '' })}
			><Split size={11} /> A stream of its own</button
		>
	</p>
{/if}
