<script lang="ts">
	import type { RandomRange } from '$core/engine/document';
	import type { FormulaPlace } from './formula-field.svelte';
	import RangePicture from './RangePicture.svelte';
	import NumberField from './NumberField.svelte';
	import { showNumber } from './quantity';

	interface Props {
		range: RandomRange;
		label: string;
		/** As it stands after a number. */
		unit: string;
		step?: number;
		whole: boolean;
		place: FormulaPlace;
		onchange: (range: RandomRange, done: boolean) => void;
	}
	let { range, label, unit, step, whole, place, onchange }: Props = $props();

	/** Both numbers, what stands between them, and the same said the other way. */
	const shown = $derived(
		'low' in range
			? {
					first: { name: 'low', value: range.low, put: (low: number) => ({ ...range, low }) },
					second: { name: 'high', value: range.high, put: (high: number) => ({ ...range, high }) },
					between: 'to',
					least: undefined,
					also: `${showNumber((range.low + range.high) / 2)} ± ${showNumber(Math.abs(range.high - range.low) / 2)}`
				}
			: {
					first: { name: 'base', value: range.base, put: (base: number) => ({ ...range, base }) },
					second: {
						name: 'variation',
						value: range.variation,
						put: (variation: number) => ({ ...range, variation })
					},
					between: '±',
					least: 0,
					also: `${showNumber(range.base - range.variation)} to ${showNumber(range.base + range.variation)}`
				}
	);
</script>

<div class="min-w-0 flex-1">
	<div class="flex items-center gap-1">
		<NumberField
			value={shown.first.value}
			label="{label}, {shown.first.name}"
			{step}
			{whole}
			onchange={(value, done) => onchange(shown.first.put(value), done)}
		/>
		<span class="text-xs text-quiet">{shown.between}</span>
		<NumberField
			value={shown.second.value}
			label="{label}, {shown.second.name}"
			{step}
			{whole}
			min={shown.least}
			onchange={(value, done) => onchange(shown.second.put(value), done)}
		/>
	</div>
	<p class="pt-0.5 text-right font-mono text-[11px] whitespace-nowrap text-quiet">{shown.also}{unit}</p>
	<RangePicture {range} {place} {unit} />
</div>
