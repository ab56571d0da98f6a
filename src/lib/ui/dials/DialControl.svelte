<script lang="ts">
	import type * as varying from '$core/varying/index';
	import type { Dial, Setting } from '$core/engine/index';
	import { endsOfRange, isMaterial, isRamp, isRange } from '$core/engine/index';
	import Choice from '$lib/ui/fields/Choice.svelte';
	import Tick from '$lib/ui/fields/Tick.svelte';
	import { selectAll } from '$lib/ui/fields/select-all';
	import NumberField from '$lib/ui/settings/NumberField.svelte';
	import RampPicture from '$lib/ui/settings/RampPicture.svelte';
	import { showNumber } from '$lib/ui/settings/quantity';
	import { fromHex, toHex } from '$lib/ui/settings/colours';

	interface Props {
		dial: Dial;
		/** `done` is false while it is dragged. */
		onturn: (value: Setting, done: boolean) => void;
		/** Opens the ramp where one can be edited. */
		onramp?: () => void;
	}
	let { dial, onturn, onramp }: Props = $props();

	const { value, name } = $derived(dial);
	const isWhole = $derived(dial.kind === 'whole');
	const ends = $derived(isRange(value) ? endsOfRange(value) : null);
	const low = $derived(dial.low ?? dial.min);
	const high = $derived(dial.high ?? dial.max);
	const hasSlider = $derived(low !== undefined && high !== undefined && high > low);
	const step = $derived(dial.step ?? (isWhole ? 1 : hasSlider ? (high! - low!) / 200 : 0.01));
	const within = (x: number): number => Math.max(low!, Math.min(high!, x));

	/** A random range with one of its ends moved; the other gives way. */
	function withEnds(first: number, second: number): Setting {
		if (!isRange(value)) return value;
		const [a, b] = [Math.min(first, second), Math.max(first, second)];
		return 'low' in value
			? { low: a, high: b, stream: value.stream }
			: { base: (a + b) / 2, variation: (b - a) / 2, stream: value.stream };
	}
	const PARTS = [
		['roughness', 'Roughness'],
		['metallic', 'Metallic']
	] as const;
	/** The material with a part of it changed. */
	const made = (change: object): Setting =>
		isMaterial(value) ? { material: { ...value.material, ...change } } : value;
	const tidy = (x: number): number => (isWhole ? Math.round(x) : Number(x.toFixed(6)));
</script>

{#snippet slider(label: string, at: number, put: (value: number, done: boolean) => void)}
	<input
		type="range"
		class="slider h-5 w-full"
		aria-label={label}
		aria-valuetext="{showNumber(at)} {dial.unit ?? ''}"
		min={low}
		max={high}
		{step}
		value={at}
		style="--share: {((within(at) - low!) / (high! - low!)) * 100}%"
		oninput={(event) => put(tidy(event.currentTarget.valueAsNumber), false)}
		onchange={(event) => put(tidy(event.currentTarget.valueAsNumber), true)}
	/>
{/snippet}

{#if ends}
	{#if hasSlider}
		{@render slider(`${name}, from`, ends[0], (next, done) =>
			onturn(withEnds(next, Math.max(next, ends[1])), done)
		)}
		{@render slider(`${name}, to`, ends[1], (next, done) =>
			onturn(withEnds(Math.min(next, ends[0]), next), done)
		)}
	{/if}
	<div class="flex items-center gap-1">
		<NumberField
			label="{name}, from, as a number"
			value={ends[0]}
			unit={dial.unit}
			min={dial.min}
			max={dial.max}
			{step}
			whole={isWhole}
			onchange={(next, done) => onturn(withEnds(next, Math.max(next, ends[1])), done)}
		/>
		<span class="text-xs text-quiet">to</span>
		<NumberField
			label="{name}, to, as a number"
			value={ends[1]}
			unit={dial.unit}
			min={dial.min}
			max={dial.max}
			{step}
			whole={isWhole}
			onchange={(next, done) => onturn(withEnds(Math.min(next, ends[0]), next), done)}
		/>
	</div>
{:else if typeof value === 'number'}
	<div class="flex items-center gap-2">
		{#if hasSlider}<div class="min-w-0 flex-1">
				{@render slider(name, value, onturn)}
			</div>{/if}
		<span class={hasSlider ? 'w-24 shrink-0' : 'w-full'}
			><NumberField
				label="{name}, as a number"
				{value}
				unit={dial.unit}
				min={dial.min}
				max={dial.max}
				{step}
				whole={isWhole}
				onchange={onturn}
			/></span
		>
	</div>
{:else if typeof value === 'boolean'}
	<label class="inline-flex items-center gap-2 py-0.5">
		<Tick label={name} checked={value} onchange={(next) => onturn(next, true)} />
		<span class="text-xs text-quiet">{value ? 'yes' : 'no'}</span>
	</label>
{:else if dial.kind === 'choice'}
	<Choice
		label={name}
		value={String(value)}
		options={dial.options ?? []}
		onchange={(next) => onturn(next, true)}
	/>
{:else if dial.kind === 'text'}
	<input
		{@attach selectAll}
		class="field text-[13px]"
		aria-label={name}
		value={String(value)}
		onchange={(event) => onturn(event.currentTarget.value, true)}
	/>
{:else if dial.kind === 'colour' && Array.isArray(value)}
	<input
		type="color"
		class="h-7 w-full cursor-pointer rounded border border-line bg-sheet p-0.5"
		aria-label={name}
		value={toHex(value as number[])}
		oninput={(event) => onturn(fromHex(event.currentTarget.value), false)}
		onchange={(event) => onturn(fromHex(event.currentTarget.value), true)}
	/>
{:else if Array.isArray(value)}
	<div class="flex gap-1">
		{#each ['x', 'y', 'z'] as axis, k (axis)}
			<NumberField
				label="{name} {axis}"
				value={value[k] as number}
				unit={dial.unit}
				{step}
				onchange={(next, done) => onturn(value.map((part, i) => (i === k ? next : part)) as Setting, done)}
			/>
		{/each}
	</div>
{:else if isMaterial(value)}
	{@const { material } = value}
	<div class="flex items-center gap-1.5">
		<input
			type="color"
			class="h-7 w-10 shrink-0 cursor-pointer rounded border border-line bg-sheet p-0.5"
			aria-label="{name}, colour"
			value={toHex(material.colour)}
			oninput={(event) => onturn(made({ colour: fromHex(event.currentTarget.value) }), false)}
			onchange={(event) => onturn(made({ colour: fromHex(event.currentTarget.value) }), true)}
		/>
		{#each PARTS as [part, label] (part)}
			<span class="min-w-0 flex-1 text-xs text-quiet" title={label}
				>{label}
				<NumberField
					label="{name}, {label.toLowerCase()}"
					value={material[part]}
					min={0}
					max={1}
					step={0.01}
					onchange={(next, done) => onturn(made({ [part]: next }), done)}
				/></span
			>
		{/each}
	</div>
{:else if isRamp(value)}
	<button
		class="flex w-full items-center gap-2 rounded border border-line bg-ground px-1.5 py-1 text-xs"
		aria-label="{name}: edit the ramp"
		disabled={!onramp}
		onclick={onramp}
		><RampPicture
			ramp={value as varying.Ramp}
			colours={value.stops.some(({ colour }) => colour !== undefined)}
		/>
		{#if onramp}Edit{/if}</button
	>
{/if}

<style>
	.slider {
		appearance: none;
		background: linear-gradient(to right, var(--color-teal) var(--share), var(--color-line) var(--share))
			center / 100% 4px no-repeat;
		cursor: ew-resize;
	}
	.slider::-webkit-slider-thumb {
		appearance: none;
		width: 10px;
		height: 16px;
		border: 1px solid var(--color-teal);
		border-radius: 3px;
		background: var(--color-sheet);
	}
	.slider::-moz-range-thumb {
		width: 10px;
		height: 16px;
		border: 1px solid var(--color-teal);
		border-radius: 3px;
		background: var(--color-sheet);
	}
</style>
