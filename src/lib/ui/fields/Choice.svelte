<script lang="ts">
	import { Select } from 'bits-ui';
	import Check from '@lucide/svelte/icons/check';
	import ChevronsUpDown from '@lucide/svelte/icons/chevrons-up-down';
	import type { Option } from './choice';
	import { stepped } from './choice';

	interface Props {
		value: string;
		options: readonly Option[];
		label: string;
		/** Classes of the closed field, beside its own. */
		class?: string;
		disabled?: boolean;
		onchange: (value: string) => void;
	}
	let { value, options, label, class: more = 'w-full text-xs', disabled = false, onchange }: Props = $props();

	const current = $derived(options.find((option) => option.id === value)?.label ?? value);

	/** Arrows step through the options while it is closed, so that each is seen at once; Enter and Space open it. */
	function key(event: KeyboardEvent) {
		const next = event.altKey ? null : stepped(options, value, event.key);
		if (next === null) return;
		event.preventDefault();
		event.stopPropagation();
		if (next !== value) onchange(next);
	}
</script>

<Select.Root
	type="single"
	{value}
	{disabled}
	onValueChange={(next) => next && next !== value && onchange(next)}
>
	<Select.Trigger
		class="field nodrag inline-flex items-center justify-between gap-1 text-left {more}"
		aria-label={label}
		title={current}
		onkeydown={key}
	>
		<span class="truncate">{current}</span><ChevronsUpDown size={12} class="shrink-0 text-quiet" />
	</Select.Trigger>
	<Select.Portal>
		<Select.Content class="menu z-[70] max-h-80 overflow-y-auto" sideOffset={3} align="start">
			<Select.Viewport>
				{#each options as option (option.id)}
					<Select.Item class="menu-item text-[13px]" value={option.id} label={option.label}>
						{#snippet children({ selected })}
							<span class="w-3.5"
								>{#if selected}<Check size={13} />{/if}</span
							>{option.label}
						{/snippet}
					</Select.Item>
				{/each}
			</Select.Viewport>
		</Select.Content>
	</Select.Portal>
</Select.Root>
