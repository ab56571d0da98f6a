<script lang="ts">
	import FileUp from '@lucide/svelte/icons/file-up';
	import LibraryBig from '@lucide/svelte/icons/library-big';
	import Move from '@lucide/svelte/icons/move';
	import PenLine from '@lucide/svelte/icons/pen-line';
	import Undo2 from '@lucide/svelte/icons/undo-2';
	import type { Slot } from '$core/engine/index';
	import type { ChoiceInput } from '$core/nodes/index';
	import { inputsOf, materialsOver, slotNode } from '$core/engine/index';
	import type { Dress } from '$lib/editor/dress.svelte';
	import type { Editor } from '$lib/editor/editor.svelte';
	import type { SlotOffer } from '$lib/store/slot-offers';
	import { slotOffers } from '$lib/store/slot-offers';
	import Choice from '$lib/ui/fields/Choice.svelte';
	import { usable } from '$lib/ui/file-drops';
	import SearchList from '$lib/ui/SearchList.svelte';

	let { dress, editor, slot }: { dress: Dress; editor: Editor; slot: Slot } = $props();

	const content = $derived(dress.contentOf(slot));
	const node = $derived(slotNode(editor.document, slot.key));
	const isDrawing = $derived(editor.active?.id === slot.node);
	const ACCEPTS = {
		curve: '.svg',
		mesh: '.obj,.mtl,.zip,.glb,.ply,.stl',
		image: '.png,.jpg,.jpeg'
	} as const;
	/** How an imported file is read: its unit, its axis up, its origin. */
	const ways = $derived(
		node && !content.own
			? inputsOf(node).flatMap(([name, input]) =>
					input.kind === 'choice' && ['unit', 'up', 'origin', 'facing'].includes(name)
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
	/** What the library has for it, asked for when the list is opened. */
	let offers = $state.raw<readonly SlotOffer[]>([]);
	let picking = $state(false);
	let pickButton = $state<HTMLElement | null>(null);
	async function openLibrary() {
		offers = await slotOffers(slot.takes, dress.generator);
		picking = true;
	}
	/** Whose material is seen on an imported mesh. */
	const material = $derived.by(() => {
		if (node?.kind !== 'import-mesh') return '';
		const over = materialsOver(editor.document, node.id);
		const last = over.findLast(({ whole }) => whole);
		if (last) return `The generator’s “${last.name}” covers its own materials.`;
		const parts = over.map(({ name }) => `“${name}”`).join(', ');
		return parts
			? `It keeps its own materials, but where the generator’s ${parts} is laid over them.`
			: 'It keeps its own materials.';
	});
</script>

<div
	class="py-1"
	role="group"
	aria-label="Slot {slot.name}"
	ondrop={(event) => {
		const files = [...(event.dataTransfer?.files ?? [])];
		if (!files.length) return;
		event.preventDefault();
		void usable(files).then(([file]) => file && dress.fill(slot, file));
	}}
>
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
		<button
			bind:this={pickButton}
			class="button text-xs"
			aria-label="{slot.name}: from the library"
			title="Files and curves of your other generators"
			onclick={openLibrary}><LibraryBig size={13} /></button
		>
		<SearchList
			bind:open={picking}
			anchor={pickButton}
			label="From the library"
			items={() => offers}
			empty="No other generator of yours has something that fits."
			onpick={(id) => {
				const offer = offers.find((one) => one.id === id);
				if (offer) void dress.pick(slot, offer);
			}}
		/>
		{#if ways.length}
			<button
				class="button text-xs"
				aria-label="{slot.name}: move it in the View"
				aria-pressed={isDrawing}
				title="Move and turn it in the View"
				onclick={() => editor.select(isDrawing ? [] : [slot.node])}><Move size={13} /></button
			>
		{/if}
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
			{#if size}<p class="text-quiet">It is {size} large. {material}</p>{/if}
		</div>
	{/if}
	{#if report?.error}<p class="mt-1 text-xs text-plum" role="alert">{report.error.message}</p>{/if}
</div>
