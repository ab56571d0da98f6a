<script lang="ts">
	import type { ChoiceInput } from '$core/nodes/index';
	import Choice from '$lib/ui/fields/Choice.svelte';
	import type { FieldProps } from './props';

	let { row }: FieldProps = $props();
	const input = $derived(row.input as ChoiceInput);
</script>

<Choice label={input.label} value={String(row.setting)} options={input.options} onchange={row.put} />
