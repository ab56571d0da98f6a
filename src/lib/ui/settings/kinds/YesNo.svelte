<script lang="ts">
	import type { YesNoInput } from '$core/nodes/index';
	import YesNoField from '../YesNoField.svelte';
	import type { FieldProps } from './props';

	let { row }: FieldProps = $props();
	const input = $derived(row.input as YesNoInput);
</script>

<YesNoField
	setting={row.setting}
	label={input.label}
	original={input.default}
	varies={!!input.varies}
	place={row.place}
	onchange={row.put}
/>
