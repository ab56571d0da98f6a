<script lang="ts">
	import FileUp from '@lucide/svelte/icons/file-up';
	import PenLine from '@lucide/svelte/icons/pen-line';
	import Undo2 from '@lucide/svelte/icons/undo-2';
	import type { ChoiceInput, Slot } from '$core/index';
	import { inputsOf, nodeKinds, slotNode } from '$core/index';
	import type { Dress } from '$lib/editor/dress.svelte';
	import type { Editor } from '$lib/editor/editor.svelte';
	import Choice from '$lib/ui/fields/Choice.svelte';

	let { dress, editor, slot }: { dress: Dress; editor: Editor; slot: Slot } = $props();

	const content = $derived(dress.contentOf(slot));
	const node = $derived(slotNode(editor.document, slot.key));
	const isDrawing = $derived(editor.active?.id === slot.node);
	const ACCEPTS = {
		curve: '.svg',
		mesh: '.obj,.glb,.ply,.stl',
		image: '.png,.jpg,.jpeg'
	} as const;
	/** How an imported file is read: its unit, its axis up, its origin. */
	const ways = $derived(
		node && !content.own
			? inputsOf(node).flatMap(([name, input]) =>
					input.kind === 'choice' && ['unit', 'up', 'origin'].includes(name)
						? [{ name, input: input as ChoiceInput }]
						: []
				)
			: []
	);
	const report = $derived(editor.evaluation.reports.get(slot.node));
	const size = $derived(
		report?.bounds &&
			`${[0, 1, 2].map((k) => (report.bounds!.high[k] - report.bounds!.low[k]).toFixed(2)).join(' × ')} m`
	);
	let files: HTMLInputElement;
</script>

<div class="py-1">
	<p class="text-[13px]">{slot.name} <span class="text-xs text-quiet">{content.words}</span></p>
	{#if slot.help}<p class="text-xs text-quiet">{slot.help}</p>{/if}
	<div class="mt-1 flex flex-wrap gap-1">
		{#if slot.takes === 'curve'}
			<button
				class="button text-xs"
				aria-pressed={isDrawing}
				onclick={() => (isDrawing ? editor.select([]) : dress.draw(slot))}
				><PenLine size={13} /> {isDrawing ? 'Done' : 'Draw'}</button
			>
		{/if}
		<button class="button text-xs" aria-label="{slot.name}: a file" onclick={() => files.click()}
			><FileUp size={13} /> File …</button
		>
		{#if !content.own}
			<button
				class="button text-xs"
				aria-label="{slot.name}: the generator’s own"
				title="The generator’s own again"
				onclick={() => dress.empty(slot)}><Undo2 size={13} /></button
			>
		{/if}
	</div>
	<input
		bind:this={files}
		type="file"
		accept={ACCEPTS[slot.takes]}
		class="hidden"
		aria-label="File for {slot.name}"
		onchange={(event) => {
			const [file] = event.currentTarget.files ?? [];
			if (file) void dress.fill(slot, file);
			event.currentTarget.value = '';
		}}
	/>
	{#if ways.length}
		<div class="mt-1 space-y-1 text-xs">
			{#each ways as { name, input } (name)}
				<span class="flex items-center justify-between gap-2"
					><span class="text-quiet">{input.label}</span><Choice
						class="w-36 text-xs"
						label="{slot.name}, {input.label}"
						value={String(node!.settings[name] ?? input.default)}
						options={input.options}
						onchange={(value) => editor.set(slot.node, name, value)}
					/></span
				>
			{/each}
			{#if size}<p class="text-quiet">
					It is {size} large{nodeKinds.get(node!.kind)?.id === 'import-mesh'
						? ', and keeps its own materials'
						: ''}.
				</p>{/if}
		</div>
	{/if}
	{#if report?.error}<p class="mt-1 text-xs text-plum" role="alert">{report.error.message}</p>{/if}
</div>
