<script lang="ts">
	import { Popover } from 'bits-ui';
	import Waypoints from '@lucide/svelte/icons/waypoints';
	import Tick from '$lib/ui/fields/Tick.svelte';
	import type { ViewMarks } from './marks.svelte';
	import { NUMBER_SIZES, SWITCHES } from './marks.svelte';

	let { marks }: { marks: ViewMarks } = $props();
</script>

<Popover.Root>
	<Popover.Trigger
		class="button {marks.any ? 'text-coral' : ''}"
		aria-label="Marks on elements"
		title="Numbers, order, directions and groups of elements"><Waypoints size={15} /></Popover.Trigger
	>
	<Popover.Portal>
		<Popover.Content
			class="menu w-60 p-2 text-[13px]"
			align="start"
			role="dialog"
			aria-label="Marks on elements"
		>
			<p class="mb-1 text-xs text-quiet">Of the selected node, or of what is shown.</p>
			<div class="flex items-center gap-2 py-0.5">
				<Tick label="Numbers" checked={marks.numbers} onchange={(on) => (marks.numbers = on)} />
				<span class="flex-1" title="The nearest 300">Numbers</span>
				<select
					class="field h-6 w-24 py-0 text-xs"
					aria-label="Size of numbers"
					bind:value={marks.numberSize}
				>
					{#each NUMBER_SIZES as { id, name } (id)}<option value={id}>{name}</option>{/each}
				</select>
			</div>
			{#each SWITCHES as { id, name, says } (id)}
				<div class="flex items-center gap-2 py-0.5" title={says}>
					<Tick label={name} checked={marks.on.has(id)} onchange={() => marks.toggle(id)} />
					<span class="flex-1">{name}</span>
					{#if id === 'orientations' && marks.on.has(id)}<span class="font-mono text-xs"
							><b class="text-coral">x</b> <b class="text-teal">y</b> <b class="text-ink">z</b></span
						>{/if}
				</div>
			{/each}
			<label class="mt-1 block border-t border-line pt-2"
				>Group: elements for which this holds
				<input
					class="field mt-1 font-mono text-xs"
					aria-label="Group"
					aria-invalid={!!marks.trouble}
					placeholder="height > 1 and index % 2 == 0"
					value={marks.group}
					onchange={(event) => (marks.group = event.currentTarget.value)}
				/></label
			>
			{#if marks.group.trim()}<p
					class="mt-1 text-xs {marks.trouble ? 'text-plum' : 'text-quiet'}"
					role="status"
				>
					{marks.trouble || `${marks.found.toLocaleString('en')} in it`}
				</p>{/if}
		</Popover.Content>
	</Popover.Portal>
</Popover.Root>
