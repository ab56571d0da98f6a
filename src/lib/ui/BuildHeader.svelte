<script lang="ts">
	import { selectAll } from '$lib/ui/fields/select-all';
	import CircleCheck from '@lucide/svelte/icons/circle-check';
	import CloudOff from '@lucide/svelte/icons/cloud-off';
	import Download from '@lucide/svelte/icons/download';
	import HardDriveDownload from '@lucide/svelte/icons/hard-drive-download';
	import Keyboard from '@lucide/svelte/icons/keyboard';
	import LibraryBig from '@lucide/svelte/icons/library-big';
	import LoaderCircle from '@lucide/svelte/icons/loader-circle';
	import Moon from '@lucide/svelte/icons/moon';
	import Redo2 from '@lucide/svelte/icons/redo-2';
	import SlidersHorizontal from '@lucide/svelte/icons/sliders-horizontal';
	import Sun from '@lucide/svelte/icons/sun';
	import Undo2 from '@lucide/svelte/icons/undo-2';
	import { toast } from 'svelte-sonner';
	import type { Editor } from '$lib/editor/editor.svelte';
	import { theme } from './theme.svelte';

	interface Props {
		editor: Editor;
		onkeys: () => void;
		onsave: () => void;
		onexport: () => void;
	}
	let { editor, onkeys, onsave, onexport }: Props = $props();

	const SAVED = {
		saved: ['Saved', CircleCheck],
		saving: ['Saving …', LoaderCircle],
		failed: ['Not saved', CloudOff],
		reading: ['Read only', CloudOff]
	} as const;
	const [savedWord, SavedIcon] = $derived(SAVED[editor.saving.state]);
	const { undoLabel, redoLabel } = $derived(editor.history);
</script>

<header class="flex items-center gap-1.5 border-b border-line bg-sheet px-2 py-1.5">
	<h1 class="sr-only">{editor.document.name}, in Build</h1>
	<a class="icon-button" href="/" aria-label="Back to the Library" title="Library"><LibraryBig size={18} /></a
	>
	<input
		{@attach selectAll}
		class="w-56 truncate rounded bg-transparent px-1.5 font-head text-[15px] font-semibold hover:bg-ground"
		aria-label="Name of the generator"
		value={editor.document.name}
		onchange={(event) => {
			editor.renameGenerator(event.currentTarget.value);
			event.currentTarget.value = editor.document.name;
		}}
		onkeydown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
	/>
	<span
		class="flex items-center gap-1 text-xs {editor.saving.state === 'failed' ? 'text-plum' : 'text-quiet'}"
		role="status"
		data-testid="saved"
		title={editor.saving.problem || 'Kept in this browser as you go'}
	>
		<SavedIcon size={14} />{savedWord}
	</span>
	<span class="flex-1"></span>
	<button
		class="icon-button"
		disabled={!undoLabel}
		aria-label="Undo{undoLabel ? `: ${undoLabel}` : ''}"
		title="Undo {undoLabel ?? ''} (Ctrl+Z)"
		onclick={() => editor.undo()}><Undo2 size={17} /></button
	>
	<button
		class="icon-button"
		disabled={!redoLabel}
		aria-label="Redo{redoLabel ? `: ${redoLabel}` : ''}"
		title="Redo {redoLabel ?? ''} (Ctrl+Shift+Z)"
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
			onchange={(event) => {
				editor.setSeed(Number(event.currentTarget.value));
				event.currentTarget.value = String(editor.document.seed);
			}}
		/>
	</label>
	<button class="icon-button ml-1" aria-label="Keys" title="Keys (?)" onclick={onkeys}
		><Keyboard size={17} /></button
	>
	<button
		class="icon-button"
		aria-label={theme.current === 'dusk' ? 'Use the Paper theme' : 'Use the Dusk theme'}
		onclick={() => theme.toggle()}
		>{#if theme.current === 'dusk'}<Sun size={17} />{:else}<Moon size={17} />{/if}</button
	>
	<a
		class="button"
		href="/dress/{editor.id}"
		title="Use the generator as others will: dials, presets and slots, without the graph"
		><SlidersHorizontal size={15} /> Dress</a
	>
	<button class="button" onclick={onsave} title="Save the generator as a file (Ctrl+S)"
		><HardDriveDownload size={15} /> Save file</button
	>
	<button class="button button-main" onclick={onexport}><Download size={15} /> Export</button>
</header>
{#if !editor.saving.writes}
	<p class="flex items-center gap-3 border-b border-line bg-ochre/15 px-3 py-1.5" role="alert">
		This generator is open in another tab, which saves it. Here you can look, but changes are not taken.
		<button
			class="button"
			onclick={async () => {
				const trouble = await editor.takeOver();
				if (trouble) toast.error(trouble);
			}}>Edit here instead</button
		>
	</p>
{:else if editor.saving.state === 'failed'}
	<p class="flex items-center gap-3 border-b border-line bg-plum/10 px-3 py-1.5 text-plum" role="alert">
		{editor.saving.problem} <button class="button" onclick={onsave}>Save as a file</button>
	</p>
{/if}
