<script lang="ts">
	import Choice from '$lib/ui/fields/Choice.svelte';
	import { selectAll } from '$lib/ui/fields/select-all';
	import Link2 from '@lucide/svelte/icons/link-2';
	import PenLine from '@lucide/svelte/icons/pen-line';
	import Plus from '@lucide/svelte/icons/plus';
	import Scissors from '@lucide/svelte/icons/scissors';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import type { DrawPlane, PathEdit } from './path-edit.svelte';

	let { edit }: { edit: PathEdit } = $props();
	const PLANES: readonly { id: DrawPlane; label: string }[] = [
		{ id: 'ground', label: 'the ground' },
		{ id: 'surface', label: 'the surface' },
		{ id: 'upright', label: 'a plane facing you' }
	];
</script>

<div
	class="absolute top-12 left-2 flex max-w-[calc(100%-1rem)] flex-wrap items-center gap-2 rounded border border-line bg-sheet px-2 py-1 text-xs"
>
	<button
		class="button"
		aria-pressed={edit.isDrawing}
		class:text-coral={edit.isDrawing}
		onclick={() => (edit.isDrawing = !edit.isDrawing)}
		><PenLine size={14} /> {edit.isDrawing ? 'Done' : 'Draw'}</button
	>
	<span class="flex items-center gap-1"
		>on <Choice
			class="w-36 py-0 text-xs"
			label="Draw on"
			value={edit.plane}
			options={PLANES}
			onchange={(next) => (edit.plane = next as DrawPlane)}
		/></span
	>
	<label class="flex items-center gap-1"
		>snap <input
			{@attach selectAll}
			class="field w-14 py-0 text-right font-mono text-xs"
			type="number"
			min="0"
			step="0.05"
			aria-label="Snap, metres"
			bind:value={edit.snap}
		/> m</label
	>
	{#if edit.chosen !== null && edit.points[edit.chosen]}
		<button class="button" onclick={() => edit.insertAfter(edit.chosen!)}><Plus size={14} /> Insert</button>
		{#if edit.joint >= 0}<button class="button" onclick={() => edit.join()}><Link2 size={14} /> Join</button>
		{:else}<button
				class="button"
				disabled={!edit.isSplittable}
				title={edit.isSplittable ? 'Two curves that meet here' : 'Ends of open curves cannot be split'}
				onclick={() => edit.split()}><Scissors size={14} /> Split</button
			>{/if}
		<button class="button" onclick={() => edit.remove(edit.chosen!)}><Trash2 size={14} /> Delete</button>
	{/if}
	<span class="text-quiet"
		>{edit.isDrawing
			? 'Click to add points.'
			: edit.chosen === null
				? 'Drag points, with Shift all of them. A chosen point can be split or deleted.'
				: ''}</span
	>
</div>
