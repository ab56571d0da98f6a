<script lang="ts">
	import type { ScalarSetting } from '$core/engine/index';
	import type { NumberInput, ValueInput } from '$core/nodes/index';
	import ScalarField from '../ScalarField.svelte';
	import type { FieldProps } from './props';

	let { row, entries }: FieldProps = $props();
	const input = $derived(row.input as NumberInput | ValueInput);
	const number = $derived(input.kind === 'number' ? input : null);
</script>

<ScalarField
	setting={row.setting as ScalarSetting}
	label={input.label}
	original={row.original as ScalarSetting}
	unit={row.unit}
	place={row.place}
	min={number?.min}
	max={number?.max}
	step={number?.step}
	whole={number?.whole}
	pinned={row.isPinned}
	onpin={row.pin}
	{entries}
	onchange={row.drag}
/>
