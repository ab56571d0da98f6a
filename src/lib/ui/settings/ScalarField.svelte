<script lang="ts">
	import type { Snippet } from 'svelte';
	import { DropdownMenu } from 'bits-ui';
	import Dices from '@lucide/svelte/icons/dices';
	import EllipsisVertical from '@lucide/svelte/icons/ellipsis-vertical';
	import Hash from '@lucide/svelte/icons/hash';
	import RotateCcw from '@lucide/svelte/icons/rotate-ccw';
	import Sigma from '@lucide/svelte/icons/sigma';
	import SquareDashed from '@lucide/svelte/icons/square-dashed';
	import type { ScalarSetting } from '$core/engine/document';
	import { endsOf, isFormula, isRange, newStream } from '$core/engine/document';
	import { countRandoms, parseFormula } from '$core/varying/index';
	import FormulaField from './FormulaField.svelte';
	import NumberField from './NumberField.svelte';
	import { showNumber } from './quantity';

	interface Props {
		setting: ScalarSetting;
		label: string;
		original: ScalarSetting;
		unit?: string;
		min?: number;
		max?: number;
		step?: number;
		whole?: boolean;
		/** A letter before the field, for parts of vectors. */
		mark?: string;
		known?: readonly string[];
		pinned?: boolean;
		onpin?: () => void;
		onchange: (setting: ScalarSetting, done: boolean) => void;
		/** An entry of the menu by which a wire brings the value. */
		wireEntry?: Snippet;
	}
	let {
		setting,
		label,
		original,
		unit = '',
		min,
		max,
		step,
		whole = false,
		mark,
		known = [],
		pinned = false,
		onpin,
		wireEntry,
		onchange
	}: Props = $props();
	/** The unit after a number: only the degree sign stands close. */
	const spaced = $derived(unit && unit !== '°' ? ` ${unit}` : unit);

	/** The number nearest to what stands there, for a change of mode. */
	const middle = $derived(
		typeof setting === 'number'
			? setting
			: isRange(setting)
				? (endsOf(setting)[0] + endsOf(setting)[1]) / 2
				: typeof original === 'number'
					? original
					: 0
	);
	const spread = $derived(
		whole ? Math.max(1, Math.round(Math.abs(middle) / 4)) : Number((Math.abs(middle) * 0.1 || 0.1).toFixed(4))
	);
	const stream = () => (isRange(setting) ? setting.stream : newStream());
	const tidy = (x: number) => Number(x.toFixed(6));

	function formulaFrom(text: string): ScalarSetting {
		const before = isFormula(setting) ? setting.streams : [];
		let wanted: number;
		try {
			wanted = countRandoms(parseFormula(text));
		} catch {
			wanted = before.length;
		}
		return { formula: text, streams: Array.from({ length: wanted }, (_, i) => before[i] ?? newStream()) };
	}
	const modes = [
		{
			id: 'plain',
			label: 'Plain value',
			icon: Hash,
			pick: () => onchange(whole ? Math.round(middle) : tidy(middle), true)
		},
		{
			id: 'ends',
			label: 'Random: low to high',
			icon: Dices,
			pick: () => {
				const [low, high] = isRange(setting) ? endsOf(setting) : [middle - spread, middle + spread];
				onchange({ low: tidy(low), high: tidy(high), stream: stream() }, true);
			}
		},
		{
			id: 'around',
			label: 'Random: base ± variation',
			icon: Dices,
			pick: () => {
				const variation = isRange(setting) ? (endsOf(setting)[1] - endsOf(setting)[0]) / 2 : spread;
				onchange({ base: tidy(middle), variation: tidy(variation), stream: stream() }, true);
			}
		},
		{
			id: 'formula',
			label: 'Formula',
			icon: Sigma,
			pick: () =>
				onchange(
					isFormula(setting)
						? setting
						: formulaFrom(isRange(setting) ? `random(${endsOf(setting).join(', ')})` : String(middle)),
					true
				)
		}
	];
	const mode = $derived(
		typeof setting === 'number'
			? 'plain'
			: isFormula(setting)
				? 'formula'
				: 'low' in setting
					? 'ends'
					: 'around'
	);
</script>

<div class="flex min-w-0 items-start gap-1">
	{#if mark}<span class="w-3 pt-1 text-xs text-quiet" aria-hidden="true">{mark}</span>{/if}
	{#if typeof setting === 'number'}
		<NumberField value={setting} {label} {unit} {min} {max} {step} {whole} {onchange} />
	{:else if isFormula(setting)}
		<FormulaField
			value={setting.formula}
			label="{label}, formula"
			{known}
			onchange={(text) => onchange(formulaFrom(text), true)}
		/>
	{:else if 'low' in setting}
		{@const range = setting}
		<div class="min-w-0 flex-1">
			<div class="flex items-center gap-1">
				<NumberField
					value={range.low}
					label="{label}, low"
					{step}
					{whole}
					onchange={(low, done) => onchange({ ...range, low }, done)}
				/>
				<span class="text-xs text-quiet">to</span>
				<NumberField
					value={range.high}
					label="{label}, high"
					{step}
					{whole}
					onchange={(high, done) => onchange({ ...range, high }, done)}
				/>
			</div>
			<p class="pt-0.5 text-right font-mono text-[11px] text-quiet">
				{showNumber((range.low + range.high) / 2)} ± {showNumber(
					Math.abs(range.high - range.low) / 2
				)}{spaced}
			</p>
		</div>
	{:else}
		{@const range = setting}
		<div class="min-w-0 flex-1">
			<div class="flex items-center gap-1">
				<NumberField
					value={range.base}
					label="{label}, base"
					{step}
					{whole}
					onchange={(base, done) => onchange({ ...range, base }, done)}
				/>
				<span class="text-xs text-quiet">±</span>
				<NumberField
					value={range.variation}
					label="{label}, variation"
					{step}
					{whole}
					min={0}
					onchange={(variation, done) => onchange({ ...range, variation }, done)}
				/>
			</div>
			<p class="pt-0.5 text-right font-mono text-[11px] text-quiet">
				{showNumber(range.base - range.variation)} to {showNumber(range.base + range.variation)}{spaced}
			</p>
		</div>
	{/if}
	<DropdownMenu.Root>
		<DropdownMenu.Trigger class="icon-button h-6 w-5 shrink-0" aria-label="{label}: how it is set">
			{#if mode === 'plain'}<EllipsisVertical size={14} />{:else if mode === 'formula'}<Sigma
					size={14}
					class="text-coral"
				/>{:else}<Dices size={14} class="text-coral" />{/if}
		</DropdownMenu.Trigger>
		<DropdownMenu.Portal>
			<DropdownMenu.Content class="menu" align="end">
				{#each modes as { id, label: name, icon: Icon, pick } (id)}
					<DropdownMenu.Item class="menu-item" onSelect={pick}
						><Icon size={14} /> <span class:font-semibold={mode === id}>{name}</span></DropdownMenu.Item
					>
				{/each}
				{@render wireEntry?.()}
				<DropdownMenu.Separator class="my-1 border-t border-line" />
				<DropdownMenu.Item class="menu-item" onSelect={() => onchange(original, true)}
					><RotateCcw size={14} /> Reset</DropdownMenu.Item
				>
				{#if onpin}<DropdownMenu.Item class="menu-item" onSelect={onpin}
						><SquareDashed size={14} /> {pinned ? 'Hide on the node' : 'Show on the node'}</DropdownMenu.Item
					>{/if}
			</DropdownMenu.Content>
		</DropdownMenu.Portal>
	</DropdownMenu.Root>
</div>
