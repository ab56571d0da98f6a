<script lang="ts">
	import type { TextInput } from '$core/nodes/index';
	import { selectAll } from '$lib/ui/fields/select-all';
	import type { FieldProps } from './props';

	let { row }: FieldProps = $props();
	const input = $derived(row.input as TextInput);
</script>

{#if input.long}
	<textarea
		class="field h-28 resize-y py-1 text-[13px]"
		aria-label={input.label}
		placeholder={input.placeholder}
		value={row.setting as string}
		onchange={(event) => row.put(event.currentTarget.value)}></textarea>
{:else}
	<input
		{@attach selectAll}
		class="field text-[13px]"
		aria-label={input.label}
		placeholder={input.placeholder}
		list={input.attribute ? 'attribute-names' : undefined}
		value={row.setting as string}
		onchange={(event) => row.put(event.currentTarget.value)}
	/>
{/if}
