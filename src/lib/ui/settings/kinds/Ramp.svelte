<script lang="ts">
	import type * as varying from '$core/varying/index';
	import type { RampInput } from '$core/nodes/index';
	import { isRamp } from '$core/engine/index';
	import RampPicture from '../RampPicture.svelte';
	import type { FieldProps } from './props';

	let { row }: FieldProps = $props();
	const input = $derived(row.input as RampInput);
	const ramp = $derived((isRamp(row.setting) ? row.setting : input.default) as varying.Ramp);

	function edit() {
		row.editor.rampOpen = `${row.node.id} ${row.name}`;
		row.editor.drawer = 'ramps';
	}
</script>

<button
	class="flex w-full items-center gap-2 rounded border border-line bg-ground px-1.5 py-1 text-xs"
	aria-label="{input.label}: edit the ramp"
	onclick={edit}><RampPicture {ramp} colours={input.colours} /> Edit</button
>
