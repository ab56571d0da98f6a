<script lang="ts">
	import Tick from '$lib/ui/fields/Tick.svelte';
	import type { Setting } from '$core/engine/index';
	import { isFormula } from '$core/engine/index';
	import type { FormulaPlace } from './formula-field.svelte';
	import FormulaField from './FormulaField.svelte';

	interface Props {
		setting: Setting;
		label: string;
		original: boolean;
		/** Whether it may differ from element to element, by a formula. */
		varies: boolean;
		place: FormulaPlace;
		onchange: (setting: Setting) => void;
	}
	let { setting, label, original, varies, place, onchange }: Props = $props();
</script>

{#if isFormula(setting)}
	<FormulaField
		value={setting.formula}
		label="{label}, formula"
		{place}
		settingOf={(text) => ({ formula: text, streams: [] })}
		onchange={(text) => onchange({ formula: text, streams: [] })}
	/>
	<button class="text-xs text-quiet underline" onclick={() => onchange(original)}>plain yes or no</button>
{:else}
	<label class="inline-flex items-center gap-2 py-0.5">
		<Tick {label} checked={setting === true} {onchange} />
		<span class="text-xs text-quiet">{setting === true ? 'yes' : 'no'}</span>
	</label>
	{#if varies}<button
			class="ml-2 text-xs text-quiet underline"
			onclick={() => onchange({ formula: 'position.y > 0', streams: [] })}>by formula</button
		>{/if}
{/if}
