<script lang="ts">
	import { Pane, PaneGroup, PaneResizer } from 'paneforge';
	import CircleCheck from '@lucide/svelte/icons/circle-check';
	import CloudOff from '@lucide/svelte/icons/cloud-off';
	import Download from '@lucide/svelte/icons/download';
	import HardDriveDownload from '@lucide/svelte/icons/hard-drive-download';
	import Keyboard from '@lucide/svelte/icons/keyboard';
	import LibraryBig from '@lucide/svelte/icons/library-big';
	import LoaderCircle from '@lucide/svelte/icons/loader-circle';
	import Moon from '@lucide/svelte/icons/moon';
	import Redo2 from '@lucide/svelte/icons/redo-2';
	import Sun from '@lucide/svelte/icons/sun';
	import Undo2 from '@lucide/svelte/icons/undo-2';
	import { tick } from 'svelte';
	import { toast } from 'svelte-sonner';
	import type { Editor } from '$lib/editor/editor.svelte';
	import { downloadGenerator } from '$lib/store/files';
	import ViewPane from '$lib/viewport/ViewPane.svelte';
	import CommandDialog from './dialogs/CommandDialog.svelte';
	import ExportDialog from './dialogs/ExportDialog.svelte';
	import KeysDialog from './dialogs/KeysDialog.svelte';
	import Drawer from './drawer/Drawer.svelte';
	import GraphPane from './graph/GraphPane.svelte';
	import SettingsPanel from './settings/SettingsPanel.svelte';
	import { theme } from './theme.svelte';

	let { editor }: { editor: Editor } = $props();

	let full = $state<0 | 1 | 2 | 3>(0);
	let exporting = $state(false);
	let listing = $state(false);
	let commanding = $state(false);
	let graph = $state<ReturnType<typeof GraphPane>>();
	let view = $state<ReturnType<typeof ViewPane>>();
	const flow = () => graph?.commands();

	async function openFile(file: File, at: [number, number]) {
		try {
			const { unit } = await editor.importFile(null, 'file', file, at);
			if (unit !== 'm')
				toast(
					`${file.name} is large: it was likely made in ${unit === 'cm' ? 'centimetres' : 'millimetres'}, and is read so. Change “Unit” if not.`,
					{ duration: 10_000 }
				);
		} catch (error) {
			toast.error((error as Error).message, { duration: 15_000 });
		}
	}
	const inView = () => !!document.activeElement?.closest('[aria-label="View"]');
	/** A pane fills the screen and takes the keys; again, and all are there. */
	async function fill(pane: 1 | 2 | 3) {
		full = full === pane ? 0 : pane;
		await tick();
		const name = ['Graph', 'Settings', 'View'][pane - 1];
		document.querySelector<HTMLElement>(`section[aria-label="${name}"]`)?.focus();
	}
	const toggleShown = () => {
		for (const id of editor.selected) editor.toggleShown(id, editor.selected.size > 1);
	};
	const fitAll = () => (inView() ? view?.fitAll() : flow()?.fit());
	const fitSelection = () =>
		inView() ? view?.fitSelection() : flow()?.fit(editor.selected.size ? editor.selected : undefined);
	const saveFile = () =>
		downloadGenerator(editor.document).catch((error: Error) => toast.error(error.message));

	const commands = [
		{ name: 'Add a node', keys: '/', run: () => flow()?.openSearch() },
		{ name: 'Undo', keys: 'Ctrl+Z', run: () => editor.undo() },
		{ name: 'Redo', keys: 'Ctrl+Shift+Z', run: () => editor.redo() },
		{ name: 'Duplicate', keys: 'Ctrl+D', run: () => editor.duplicate() },
		{ name: 'Delete', keys: 'Delete', run: () => flow()?.deleteSelected() },
		{
			name: 'Select all nodes',
			keys: 'Ctrl+A',
			run: () => editor.select(editor.graph.nodes.map((node) => node.id))
		},
		{ name: 'Show or hide in the View', keys: 'H', run: toggleShown },
		{ name: 'Bypass', keys: 'Shift+H', run: () => editor.bypassSelected() },
		{ name: 'Tidy up the graph', run: () => flow()?.tidy() },
		{ name: 'Fit all', keys: 'Shift+F', run: fitAll },
		{ name: 'Fit selection', keys: 'F', run: fitSelection },
		{ name: 'Look from the top', keys: 'Alt+T', run: () => view?.look('top') },
		{ name: 'Look from the front', keys: 'Alt+N', run: () => view?.look('front') },
		{ name: 'Look from the east', keys: 'Alt+E', run: () => view?.look('east') },
		{ name: 'Perspective', keys: 'Alt+P', run: () => view?.look('perspective') },
		{ name: 'Graph fills the screen, or returns', keys: '1', run: () => fill(1) },
		{ name: 'Settings fill the screen, or return', keys: '2', run: () => fill(2) },
		{ name: 'View fills the screen, or returns', keys: '3', run: () => fill(3) },
		{ name: 'Ramps', run: () => (editor.drawer = 'ramps') },
		{ name: 'Order of the chain', run: () => (editor.drawer = 'order') },
		{ name: 'Export', run: () => (exporting = true) },
		{ name: 'Save as a file', keys: 'Ctrl+S', run: saveFile },
		{ name: 'List the keys', keys: '?', run: () => (listing = true) },
		{ name: 'Change the theme', run: () => theme.toggle() },
		{ name: 'Stop', run: () => editor.evaluation.stop() }
	];

	function key(event: KeyboardEvent) {
		const control = event.ctrlKey || event.metaKey;
		if (control && event.key.toLowerCase() === 's') {
			event.preventDefault();
			return void saveFile();
		}
		if (control && event.key.toLowerCase() === 'k') {
			event.preventDefault();
			return void (commanding = true);
		}
		if (
			(event.target as HTMLElement).closest(
				'input:not([type=checkbox]), textarea, select, [role=dialog], [role=menu]'
			)
		)
			return;
		const act = (run: () => void) => {
			event.preventDefault();
			run();
		};
		if (control)
			switch (event.key.toLowerCase()) {
				case 'z':
					return act(() => (event.shiftKey ? editor.redo() : editor.undo()));
				case 'y':
					return act(() => editor.redo());
				case 'd':
					return act(() => editor.duplicate());
				case 'a':
					return act(() => editor.select(editor.graph.nodes.map((node) => node.id)));
				default:
					return;
			}
		if (event.altKey) {
			const way = { t: 'top', n: 'front', e: 'east', p: 'perspective' }[event.key.toLowerCase()] as
				'top' | undefined;
			if (way) act(() => view?.look(way));
			return;
		}
		if (inView() && view?.key(event)) return event.preventDefault();
		switch (event.key) {
			case '/':
				return act(() => flow()?.openSearch());
			case '?':
				return act(() => (listing = true));
			case '1':
			case '2':
			case '3': {
				const wanted = Number(event.key) as 1 | 2 | 3;
				return act(() => fill(wanted));
			}
			case 'Delete':
			case 'Backspace':
				return act(() => flow()?.deleteSelected());
			case 'f':
				return act(fitSelection);
			case 'F':
				return act(fitAll);
			case 'h':
				return act(toggleShown);
			case 'H':
				return act(() => editor.bypassSelected());
			case 'm':
				return act(() => view?.setHandleMode('translate'));
			case 'r':
				return act(() => view?.setHandleMode('rotate'));
			case 's':
				return act(() => view?.setHandleMode('scale'));
			case 'Escape':
				return editor.select([]);
		}
	}
	/** One that fills the screen lies over the others, which stay as they are: cameras, shadings and places in the graph. */
	const placeOf = (pane: 1 | 2 | 3) =>
		full === 0 ? 'h-full' : full === pane ? 'absolute inset-0 z-10 bg-sheet' : 'invisible h-full';
	const savedWord = $derived(
		{ saved: 'Saved', saving: 'Saving …', failed: 'Not saved', reading: 'Only looking' }[editor.saving.state]
	);
</script>

<svelte:window
	onkeydown={key}
	onpagehide={() => editor.saving.flush()}
	onblur={() => editor.saving.flush()}
/>

<div
	class="flex h-screen flex-col"
	data-evaluations={editor.evaluation.count}
	data-working={editor.evaluation.working}
	data-hash={editor.evaluation.hash}
	data-ran={editor.evaluation.ran.length}
>
	<header class="flex items-center gap-1.5 border-b border-line bg-sheet px-2 py-1.5">
		<a class="icon-button" href="/" aria-label="Back to the Library" title="Library"
			><LibraryBig size={18} /></a
		>
		<input
			class="w-56 truncate rounded bg-transparent px-1.5 font-head text-[15px] font-semibold hover:bg-ground"
			aria-label="Name of the generator"
			value={editor.document.name}
			onchange={(event) =>
				editor.change('Rename the generator', (document) => ({
					...document,
					name: event.currentTarget.value.trim().slice(0, 200) || document.name
				}))}
			onkeydown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
		/>
		<span
			class="flex items-center gap-1 text-xs {editor.saving.state === 'failed' ? 'text-plum' : 'text-quiet'}"
			role="status"
			data-testid="saved"
			title={editor.saving.problem || 'Kept in this browser as you go'}
		>
			{#if editor.saving.state === 'saved'}<CircleCheck
					size={14}
				/>{:else if editor.saving.state === 'saving'}<LoaderCircle size={14} />{:else}<CloudOff
					size={14}
				/>{/if}{savedWord}
		</span>
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
				class="field w-20 text-right font-mono text-xs"
				type="number"
				min="0"
				max="4294967295"
				aria-label="Seed"
				value={editor.document.seed}
				onchange={(event) => {
					const seed = Math.max(0, Math.min(4294967295, Math.round(Number(event.currentTarget.value) || 0)));
					editor.change('Change the seed', (document) => ({ ...document, seed }));
				}}
			/>
		</label>
		<button class="icon-button ml-1" aria-label="Keys" title="Keys (?)" onclick={() => (listing = true)}
			><Keyboard size={17} /></button
		>
		<button
			class="icon-button"
			aria-label={theme.current === 'dusk' ? 'Use the Paper theme' : 'Use the Dusk theme'}
			onclick={() => theme.toggle()}
			>{#if theme.current === 'dusk'}<Sun size={17} />{:else}<Moon size={17} />{/if}</button
		>
		<button class="button" onclick={saveFile} title="Save the generator as a file (Ctrl+S)"
			><HardDriveDownload size={15} /> Save file</button
		>
		<button class="button button-main" onclick={() => (exporting = true)}
			><Download size={15} /> Export</button
		>
	</header>
	{#if !editor.saving.writes}
		<p class="flex items-center gap-3 border-b border-line bg-ochre/15 px-3 py-1.5" role="alert">
			This generator is open in another tab, which saves it. Here you can look, but changes are not taken.
			<button class="button" onclick={() => editor.saving.claim(true).then(() => location.reload())}
				>Edit here instead</button
			>
		</p>
	{:else if editor.saving.state === 'failed'}
		<p class="flex items-center gap-3 border-b border-line bg-plum/10 px-3 py-1.5 text-plum" role="alert">
			{editor.saving.problem} <button class="button" onclick={saveFile}>Save as a file</button>
		</p>
	{/if}
	<main class="relative min-h-0 flex-1">
		<PaneGroup direction="horizontal" autoSaveId="embrell-build">
			<Pane defaultSize={41} minSize={15}
				><div class={placeOf(1)}><GraphPane bind:this={graph} {editor} onfile={openFile} /></div></Pane
			>
			<PaneResizer
				class="w-[5px] border-x border-line bg-sheet hover:bg-line"
				aria-label="Width of the graph"
			/>
			<Pane defaultSize={22} minSize={12}
				><div class={placeOf(2)}>
					<SettingsPanel {editor} onwant={(node, input) => flow()?.openSearchFor(node, input)} />
				</div></Pane
			>
			<PaneResizer
				class="w-[5px] border-x border-line bg-sheet hover:bg-line"
				aria-label="Width of the settings"
			/>
			<Pane defaultSize={37} minSize={15}
				><div class={placeOf(3)}><ViewPane bind:this={view} {editor} /></div></Pane
			>
		</PaneGroup>
	</main>
	<Drawer {editor} />
</div>
{#if exporting}<ExportDialog {editor} onclose={() => (exporting = false)} />{/if}
{#if listing}<KeysDialog onclose={() => (listing = false)} />{/if}
{#if commanding}<CommandDialog {commands} onclose={() => (commanding = false)} />{/if}
