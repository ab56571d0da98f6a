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
	import { isFormula } from '$core/engine/document';
	import type { FormulaPlace } from './formula-field.svelte';
	import FormulaField from './FormulaField.svelte';
	import NumberField from './NumberField.svelte';
	import RangeField from './RangeField.svelte';
	import { formulaFrom, inMode, modeOf } from './scalar-modes';

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
		/** Where a formula would stand. */
		place: FormulaPlace;
		pinned?: boolean;
		onpin?: () => void;
		onchange: (setting: ScalarSetting, done: boolean) => void;
		/** Entries of the menu for what stands here, by the name of the setting or of the part. */
		entries?: Snippet<[string]>;
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
		place,
		pinned = false,
		onpin,
		entries,
		onchange
	}: Props = $props();
	/** The unit after a number: only the degree sign stands close. */
	const spaced = $derived(unit && unit !== '°' ? ` ${unit}` : unit);
	const mode = $derived(modeOf(setting));

	const modes = [
		{ id: 'plain', name: 'Plain value', icon: Hash },
		{ id: 'ends', name: 'Random: low to high', icon: Dices },
		{ id: 'around', name: 'Random: base ± variation', icon: Dices },
		{ id: 'formula', name: 'Formula', icon: Sigma }
	] as const;
</script>

<div class="flex min-w-0 items-start gap-1">
	{#if mark}<span class="w-3 pt-1 text-xs text-quiet" aria-hidden="true">{mark}</span>{/if}
	{#if typeof setting === 'number'}
		<NumberField value={setting} {label} {unit} {min} {max} {step} {whole} {onchange} />
	{:else if isFormula(setting)}
		<FormulaField
			value={setting.formula}
			label="{label}, formula"
			{place}
			settingOf={(text) => ({ ...setting, formula: text })}
			onchange={(text) => onchange(formulaFrom(text, setting), true)}
		/>
	{:else}
		<RangeField range={setting} {label} unit={spaced} {step} {whole} {place} {onchange} />
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
				{#each modes as { id, name, icon: Icon } (id)}
					<DropdownMenu.Item
						class="menu-item"
						onSelect={() =>
							onchange(inMode(id, setting, whole, typeof original === 'number' ? original : 0), true)}
						><Icon size={14} /> <span class:font-semibold={mode === id}>{name}</span></DropdownMenu.Item
					>
				{/each}
				{@render entries?.(place.input)}
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
