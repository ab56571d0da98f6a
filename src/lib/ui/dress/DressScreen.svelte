<script lang="ts">
	import { onDestroy } from 'svelte';
	import { toast } from 'svelte-sonner';
	import Dices from '@lucide/svelte/icons/dices';
	import Download from '@lucide/svelte/icons/download';
	import LayoutGrid from '@lucide/svelte/icons/layout-grid';
	import LibraryBig from '@lucide/svelte/icons/library-big';
	import Moon from '@lucide/svelte/icons/moon';
	import Plus from '@lucide/svelte/icons/plus';
	import Redo2 from '@lucide/svelte/icons/redo-2';
	import Sun from '@lucide/svelte/icons/sun';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import Undo2 from '@lucide/svelte/icons/undo-2';
	import Workflow from '@lucide/svelte/icons/workflow';
	import { warmSheet } from '$lib/editor/sheet.svelte';
	import { SpecimenClient } from '$lib/worker/specimens';
	import type { Dress } from '$lib/editor/dress.svelte';
	import Clock from '@lucide/svelte/icons/clock-3';
	import DialKey from '$lib/ui/dials/DialKey.svelte';
	import DialList from '$lib/ui/dials/DialList.svelte';
	import Timeline from '$lib/ui/drawer/Timeline.svelte';
	import KeptGrid from '$lib/ui/dials/KeptGrid.svelte';
	import PresetGrid from '$lib/ui/dials/PresetGrid.svelte';
	import ExportDialogs from '$lib/ui/dialogs/ExportDialogs.svelte';
	import LettingGo from '$lib/ui/LettingGo.svelte';
	import { takeDrops, usable } from '$lib/ui/file-drops';
	import { selectAll } from '$lib/ui/fields/select-all';
	import { theme } from '$lib/ui/theme.svelte';
	import Views from '$lib/ui/view/Views.svelte';
	import SpecimenSheet from './SpecimenSheet.svelte';
	import SlotRow from './SlotRow.svelte';

	let { dress }: { dress: Dress } = $props();

	/** Milliseconds after the first picture. */
	const WARMS_AFTER = 1500;

	const { editor } = $derived(dress);
	let sheeting = $state(false);
	/** Draws specimen sheets: made ready once the View's first picture stands. */
	const specimens = new SpecimenClient();
	onDestroy(() => specimens.close());
	$effect(() => {
		if (!editor?.pictured) return;
		const of = editor;
		const timer = setTimeout(() => void warmSheet(of, specimens), WARMS_AFTER);
		return () => clearTimeout(timer);
	});
	const SAVED = { saved: 'Saved', saving: 'Saving …', failed: 'Not saved', reading: 'Read only' } as const;
	const another = () => editor?.setSeed(crypto.getRandomValues(new Uint32Array(1))[0] % 10_000);

	$effect(() => takeDrops(async (files) => (await usable(files)).forEach((file) => dress.drop(file))));
	async function takeOver() {
		const trouble = await editor?.takeOver();
		if (trouble) toast.error(trouble);
	}
	function key(event: KeyboardEvent) {
		if (!editor || (event.target as HTMLElement).closest('input, textarea, [role=textbox]')) return;
		if (event.key === 'Escape' && editor.selected.size) return editor.select([]);
		const { playing } = editor;
		const plays = { ' ': playing.toggle, Home: playing.toStart, End: playing.toEnd }[event.key];
		if (plays && editor.drawer && !(event.target as HTMLElement).closest('button, [role=combobox]')) {
			event.preventDefault();
			return plays();
		}
		if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return;
		event.preventDefault();
		if (event.shiftKey) editor.redo();
		else editor.undo();
	}
</script>

<svelte:window onkeydown={key} />
{#if editor}<LettingGo {editor} />{/if}

<div
	class="flex h-screen flex-col"
	data-evaluations={editor?.evaluation.count ?? 0}
	data-working={editor?.evaluation.working ?? true}
	data-hash={editor?.evaluation.hash}
>
	<header class="flex items-center gap-1.5 border-b border-line bg-sheet px-2 py-1.5">
		<a class="icon-button" href="/" aria-label="Back to the Library" title="Library"
			><LibraryBig size={18} /></a
		>
		<h1 class="max-w-64 truncate font-head text-[15px] font-semibold" title={dress.base.name}>
			{dress.base.name}
		</h1>
		{#if editor}
			<span class="ml-2 text-xs text-quiet" role="status" data-testid="saved" title={editor.saving.problem}
				>{SAVED[editor.saving.state]}</span
			>
			<span class="flex-1"></span>
			<button
				class="icon-button"
				disabled={!editor.history.undoLabel}
				aria-label="Undo{editor.history.undoLabel ? `: ${editor.history.undoLabel}` : ''}"
				title="Undo {editor.history.undoLabel ?? ''} (Ctrl+Z)"
				onclick={() => editor.undo()}><Undo2 size={17} /></button
			>
			<button
				class="icon-button"
				disabled={!editor.history.redoLabel}
				aria-label="Redo{editor.history.redoLabel ? `: ${editor.history.redoLabel}` : ''}"
				title="Redo {editor.history.redoLabel ?? ''} (Ctrl+Shift+Z)"
				onclick={() => editor.redo()}><Redo2 size={17} /></button
			>
			<label class="ml-2 flex items-center gap-1.5 text-xs text-quiet"
				>Seed
				<input
					{@attach selectAll}
					class="field w-20 text-right font-mono text-xs"
					type="number"
					min="0"
					max="4294967295"
					aria-label="Seed"
					value={editor.document.seed}
					onchange={(event) => editor.setSeed(Number(event.currentTarget.value))}
				/>
			</label>
			<button class="button text-xs" onclick={another}><Dices size={14} /> New seed</button>
		{/if}
		<button
			class="icon-button"
			aria-label={theme.current === 'dusk' ? 'Use the Paper theme' : 'Use the Dusk theme'}
			onclick={() => theme.toggle()}
			>{#if theme.current === 'dusk'}<Sun size={17} />{:else}<Moon size={17} />{/if}</button
		>
		<a class="button" href="/build/{dress.generator}" title="Open the graph of this generator"
			><Workflow size={15} /> Build</a
		>
		<button
			class="button button-main"
			disabled={!editor}
			onclick={() => editor && (editor.exporting = 'result')}><Download size={15} /> Export</button
		>
	</header>
	<main class="grid min-h-0 flex-1 grid-cols-[168px_1fr_300px]">
		<nav class="min-h-0 overflow-y-auto border-r border-line bg-sheet p-2 text-sm" aria-label="Placements">
			<h2 class="mb-1.5 text-[13px]">Placements</h2>
			<ul class="space-y-0.5">
				{#each dress.list as one (one.id)}
					<li
						class="flex items-center gap-0.5 rounded {one.id === dress.id ? 'bg-ground font-semibold' : ''}"
					>
						{#if one.id === dress.id}
							<input
								{@attach selectAll}
								class="min-w-0 flex-1 truncate rounded bg-transparent px-1.5 py-0.5"
								aria-label="Name of the placement"
								value={one.name}
								onchange={(event) => dress.rename(event.currentTarget.value)}
								onkeydown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
							/>
						{:else}
							<button
								class="min-w-0 flex-1 truncate px-1.5 py-0.5 text-left"
								title={one.name}
								onclick={() => dress.choose(one.id)}>{one.name}</button
							>
						{/if}
						<button
							class="icon-button h-5 w-5 shrink-0"
							aria-label="Delete {one.name}"
							title="Delete"
							onclick={() => dress.remove(one.id)}><Trash2 size={12} /></button
						>
					</li>
				{/each}
			</ul>
			<button class="button mt-2 text-xs" onclick={dress.add}><Plus size={13} /> Add one</button>
			<p class="mt-3 text-xs text-quiet">
				What is done here is kept with the placement. The generator stays as it is; when it is improved, the
				placement follows.
			</p>
		</nav>
		<div class="flex min-h-0 min-w-0 flex-col">
			<div class="relative min-h-0 min-w-0 flex-1">
				{#if editor}{#key editor}<Views {editor} dressed covered={sheeting} />{/key}
				{:else}<p class="p-6 text-quiet">Opening …</p>{/if}
				{#if editor && sheeting}{#key editor}<SpecimenSheet
							{editor}
							client={specimens}
							onclose={() => (sheeting = false)}
						/>{/key}{/if}
			</div>
			{#if editor}
				{@const isOpen = editor.drawer === 'timeline'}
				<section
					class="flex shrink-0 flex-col border-t border-line bg-sheet {isOpen ? 'max-h-72 min-h-40' : ''}"
					aria-label="Time"
				>
					<button
						class="flex items-center gap-1 px-3 py-1 text-xs {isOpen ? 'font-semibold' : 'text-quiet'}"
						aria-expanded={isOpen}
						onclick={() => editor && (editor.drawer = isOpen ? null : 'timeline')}
						><Clock size={13} /> Timeline</button
					>
					{#if isOpen}{#key editor}<Timeline {editor} dressed />{/key}{/if}
				</section>
			{/if}
		</div>
		<aside class="min-h-0 overflow-y-auto border-l border-line bg-sheet p-3 text-sm" aria-label="Set up">
			{#if editor}
				{#if !editor.saving.writes}
					<p class="mb-2 rounded border border-ochre p-2 text-xs" role="alert">
						This placement is open in another tab, which saves it. Here you can look.
						<button class="button mt-1" onclick={takeOver}>Set up here instead</button>
					</p>
				{:else if editor.saving.state === 'failed'}
					<p class="mb-2 rounded border border-plum p-2 text-xs text-plum" role="alert">
						{editor.saving.problem}
					</p>
				{/if}
				<button
					class="button mb-3 w-full justify-center"
					aria-expanded={sheeting}
					onclick={() => (sheeting = !sheeting)}><LayoutGrid size={15} /> Specimen sheet</button
				>
				<h2 class="mb-1.5 text-base">Presets</h2>
				<PresetGrid {editor} />
				{#if editor.document.slots.length}
					<h2 class="mt-3 mb-1 border-t border-line pt-2 text-base">Slots</h2>
					{#each editor.document.slots as slot (slot.key)}<SlotRow {dress} {editor} {slot} />{/each}
				{/if}
				<h2 class="mt-3 mb-1 border-t border-line pt-2 text-base">Dials</h2>
				{#if editor.document.dials.length}
					{@const of = editor}
					<DialList document={editor.playing.now} onturn={editor.dials.turn}>
						{#snippet more(dial)}{#if of.drawer}<DialKey editor={of} {dial} />{/if}{/snippet}
					</DialList>
				{:else}
					<p class="text-xs text-quiet">
						Its maker has made no dials yet: in Build, any setting becomes one from its menu.
					</p>
				{/if}
				<h2 class="mt-3 mb-1.5 border-t border-line pt-2 text-base">Kept variations</h2>
				<KeptGrid {editor} />
			{/if}
		</aside>
	</main>
</div>
{#if editor}<ExportDialogs {editor} />{/if}
