<script lang="ts">
	import X from '@lucide/svelte/icons/x';
	import type { Key, KeyedRow } from '$core/engine/index';
	import { partsOf, withPart } from './key-curves.svelte';
	import type { Editor } from '$lib/editor/editor.svelte';
	import Choice from '$lib/ui/fields/Choice.svelte';
	import NumberField from '$lib/ui/settings/NumberField.svelte';

	/** The keys of one setting with exact numbers, and how it goes on before and after them. */
	let { editor, row }: { editor: Editor; row: KeyedRow } = $props();

	const { playing } = $derived(editor);
	const setting = $derived(playing.keysAt(row));
	const EASINGS = [
		{ id: 'linear', label: 'Linear' },
		{ id: 'smooth', label: 'Smooth' },
		{ id: 'held', label: 'Held' },
		{ id: 'bezier', label: 'Bézier' }
	];
	const ENDS = [
		{ id: 'hold', label: 'holds' },
		{ id: 'loop', label: 'begins again' },
		{ id: 'on', label: 'goes on' },
		{ id: 'back', label: 'goes back and forth' }
	];
	/** A frame that was typed where another key stands: it is asked which of the two shall stay. */
	let conflict = $state.raw<{ from: number; to: number } | null>(null);
	function move(key: Key, to: number) {
		const isTaken = to !== key.at && setting?.keys.some(({ at }) => at === to);
		conflict = isTaken ? { from: key.at, to } : null;
		if (!isTaken) playing.moveKeys(row, new Set([key.at]), () => to);
	}
	const change = (key: Key, of: Partial<Key>) => playing.changeKey(row, key.at, of);
</script>

<div class="mb-1 flex flex-wrap items-start gap-4 rounded border border-line p-2">
	<table aria-label="Keys of {row.name}">
		<thead class="text-left text-quiet"
			><tr
				><th class="pr-3 font-normal">Frame</th><th class="pr-3 font-normal">Value</th><th
					class="pr-3 font-normal">To the next</th
				><th></th></tr
			></thead
		>
		<tbody>
			{#each setting?.keys ?? [] as key (key.at)}
				{@const parts = partsOf(key.value)}
				<tr>
					<td class="pr-3"
						><span class="inline-block w-20"
							><NumberField
								label="Frame of the key at {key.at}"
								value={key.at}
								whole
								onchange={(at, done) => done && move(key, at)}
							/></span
						></td
					>
					<td class="pr-3">
						{#if parts.length}<span class="flex gap-1"
								>{#each parts as part, k (k)}<span class="w-20"
										><NumberField
											label="Value {k + 1} of the key at {key.at}"
											value={part}
											onchange={(next, done) => done && change(key, { value: withPart(key.value, k, next) })}
										/></span
									>{/each}</span
							>{:else}{typeof key.value === 'boolean'
								? key.value
									? 'yes'
									: 'no'
								: typeof key.value === 'string'
									? key.value
									: 'as it was set'}{/if}
					</td>
					<td class="pr-3"
						><Choice
							class="w-24 text-xs"
							label="From the key at {key.at} to the next"
							value={key.easing}
							options={EASINGS}
							onchange={(easing) => change(key, { easing: easing as Key['easing'] })}
						/></td
					>
					<td
						><button
							class="icon-button h-5 w-5"
							aria-label="Delete the key at {key.at}"
							onclick={() => playing.removeKeys(row, new Set([key.at]))}><X size={12} /></button
						></td
					>
				</tr>
			{/each}
		</tbody>
	</table>
	{#if conflict}
		{@const { from, to } = conflict}
		<div class="rounded border border-ochre p-2" role="alertdialog" aria-label="Frame {to} has a key">
			<p>Frame {to} has a key already.</p>
			<div class="mt-1 flex gap-1">
				<button
					class="button text-xs"
					onclick={() => {
						playing.moveKeys(row, new Set([from]), () => to);
						conflict = null;
					}}>Put the key of frame {from} in its place</button
				>
				<button class="button text-xs" onclick={() => (conflict = null)}>Leave both</button>
			</div>
		</div>
	{/if}
	<div class="space-y-1">
		{#each [['before', 'Before the first it'], ['after', 'After the last it']] as const as [end, label] (end)}
			<span class="flex items-center gap-2 text-quiet"
				>{label}
				<Choice
					class="w-36 text-xs"
					{label}
					value={setting?.[end] ?? 'hold'}
					options={ENDS}
					onchange={(to) => playing.setEnds(row, { [end]: to as 'hold' })}
				/></span
			>
		{/each}
	</div>
</div>
