<script lang="ts">
	import { selectAll } from '$lib/ui/fields/select-all';
	import Choice from '$lib/ui/fields/Choice.svelte';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import * as varying from '$core/varying/index';
	import { fromHex, toHex } from '../settings/colours';
	import type { RampEdit } from './ramp-edit.svelte';
	import { tidy } from './ramp-edit.svelte';

	let { edit }: { edit: RampEdit } = $props();
	const EASINGS = [
		{ id: 'linear', label: 'linear' },
		{ id: 'smooth', label: 'smooth' },
		{ id: 'held', label: 'held' },
		{ id: 'bezier', label: 'Bézier' }
	];
</script>

<table class="text-xs">
	<thead class="text-left text-quiet"
		><tr
			><th class="pr-2 font-normal">At</th><th class="pr-2 font-normal"
				>{edit.colours ? 'Colour' : 'Value'}</th
			><th class="pr-2 font-normal">To the next</th><th></th></tr
		></thead
	>
	<tbody>
		{#each edit.stops as stop, i (i)}
			<tr class={edit.chosen === i ? 'bg-ground' : ''}>
				<td class="pr-2"
					><input
						{@attach selectAll}
						class="field w-20 text-right font-mono text-xs"
						type="number"
						min="0"
						max="1"
						step="0.01"
						aria-label="Stop {i + 1}: at"
						value={tidy(stop.at)}
						onfocus={() => (edit.chosen = i)}
						onchange={(event) => edit.moveTo(i, Number(event.currentTarget.value) || 0)}
					/></td
				>
				<td class="pr-2">
					{#if edit.colours}<input
							type="color"
							class="h-6 w-16"
							aria-label="Stop {i + 1}: colour"
							value={toHex([...(stop.colour ?? [0, 0, 0])])}
							onchange={(event) => edit.change(i, { colour: fromHex(event.currentTarget.value) })}
						/>
					{:else}<input
							{@attach selectAll}
							class="field w-20 text-right font-mono text-xs"
							type="number"
							step="0.01"
							aria-label="Stop {i + 1}: value"
							value={tidy(stop.value)}
							onfocus={() => (edit.chosen = i)}
							onchange={(event) => edit.change(i, { value: Number(event.currentTarget.value) || 0 })}
						/>{/if}
				</td>
				<td class="pr-2">
					<Choice
						class="w-20 text-xs"
						label="Stop {i + 1}: easing"
						value={stop.easing}
						options={EASINGS}
						onchange={(easing) => edit.change(i, { easing: easing as varying.Easing })}
					/>
					{#if stop.easing === 'bezier'}
						{#each [0, 1, 2, 3] as k (k)}<input
								{@attach selectAll}
								class="field w-12 text-right font-mono text-[10px]"
								type="number"
								step="0.05"
								aria-label="Stop {i + 1}: handle {['x1', 'y1', 'x2', 'y2'][k]}"
								value={(stop.handles ?? varying.SOFT_HANDLES)[k]}
								onchange={(event) => edit.setHandle(i, k, Number(event.currentTarget.value) || 0)}
							/>{/each}
					{/if}
				</td>
				<td
					><button
						class="icon-button h-6 w-6"
						aria-label="Remove stop {i + 1}"
						disabled={edit.stops.length < 2}
						onclick={() => edit.remove(i)}><Trash2 size={13} /></button
					></td
				>
			</tr>
		{/each}
	</tbody>
</table>
