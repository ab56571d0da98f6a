<script lang="ts">
	import { Checkbox } from 'bits-ui';
	import Check from '@lucide/svelte/icons/check';

	interface Props {
		checked: boolean;
		/** Its name, where no label stands around it. */
		label?: string;
		class?: string;
		disabled?: boolean;
		onchange: (checked: boolean) => void;
	}
	let { checked, label, class: more = '', disabled = false, onchange }: Props = $props();
</script>

<Checkbox.Root
	{checked}
	{disabled}
	aria-label={label}
	onCheckedChange={(next) => onchange(next)}
	class="nodrag inline-flex h-4 w-4 shrink-0 items-center justify-center rounded-[3px] border border-quiet bg-sheet text-sheet data-[state=checked]:border-teal data-[state=checked]:bg-teal {more}"
>
	{#snippet children({ checked: on })}{#if on}<Check size={12} strokeWidth={3} />{/if}{/snippet}
</Checkbox.Root>
