<script lang="ts">
	import { Pane, PaneGroup, PaneResizer } from 'paneforge';
	import { tick } from 'svelte';
	import { toast } from 'svelte-sonner';
	import type { Editor } from '$lib/editor/editor.svelte';
	import { downloadGenerator } from '$lib/store/files';
	import Views from '$lib/ui/view/Views.svelte';
	import BuildHeader from './BuildHeader.svelte';
	import { commandsOf, pressed } from './commands';
	import CommandDialog from './dialogs/CommandDialog.svelte';
	import ExportDialogs from './dialogs/ExportDialogs.svelte';
	import KeysDialog from './dialogs/KeysDialog.svelte';
	import Drawer from './drawer/Drawer.svelte';
	import { takeDrops, usable } from './file-drops';
	import { below } from '$lib/editor/below';
	import GraphPane from './graph/GraphPane.svelte';
	import LettingGo from './LettingGo.svelte';
	import LeadingNews from './settings/LeadingNews.svelte';
	import PanelRightOpen from '@lucide/svelte/icons/panel-right-open';
	import SettingsPanel from './settings/SettingsPanel.svelte';
	import { SettingsFold } from './settings/settings-fold.svelte';
	import { theme } from './theme.svelte';

	let { editor }: { editor: Editor } = $props();

	let full = $state<0 | 1 | 2 | 3>(0);
	const folding = new SettingsFold(() => editor.selected);
	let listing = $state(false);
	let commanding = $state(false);
	let graph = $state<ReturnType<typeof GraphPane>>();
	let views = $state<ReturnType<typeof Views>>();
	const view = $derived(views?.view());
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
	/** Dropped elsewhere than on the graph: one below another, under what is there. */
	async function openFiles(files: readonly File[]) {
		for (const file of await usable(files)) await openFile(file, below(editor.graph));
	}
	/** Dropped on the graph: the first where it was dropped, the others below. */
	async function openFilesAt(files: readonly File[], at: (nth: number) => [number, number]) {
		(await usable(files)).forEach((file, i) => void openFile(file, at(i)));
	}
	$effect(() => takeDrops(openFiles));
	const inView = () => !!document.activeElement?.closest('[aria-label="View"]');
	/** A pane fills the screen and takes the keys; again, and all are there. */
	async function fill(pane: 1 | 2 | 3) {
		full = full === pane ? 0 : pane;
		await tick();
		const name = ['Graph', 'Settings', 'View'][pane - 1];
		document.querySelector<HTMLElement>(`section[aria-label="${name}"]`)?.focus();
	}
	const saveFile = () =>
		downloadGenerator(editor.document).catch((error: Error) => toast.error(error.message));

	const commands = $derived(
		commandsOf({
			editor,
			inView,
			flow,
			view: () => view,
			fill,
			saveFile,
			exportResult: () => (editor.exporting = 'result'),
			exportFrames: () => (editor.exporting = 'frames'),
			listKeys: () => (listing = true),
			findCommand: () => (commanding = true),
			changeTheme: () => theme.toggle()
		})
	);
	/** Those that mean the same while typing as elsewhere. */
	const ALWAYS = ['Ctrl+S', 'Ctrl+K'];
	const TYPING =
		'input, textarea, [role=textbox], [role=dialog], [role=menu], [role=listbox], [role=combobox]';

	function key(event: KeyboardEvent) {
		const keys = pressed(event);
		if (!ALWAYS.includes(keys)) {
			if ((event.target as HTMLElement).closest(TYPING)) return;
			if (!event.ctrlKey && !event.metaKey && !event.altKey && inView() && view?.key(event))
				return event.preventDefault();
		}
		// Enter and Space on a button press it.
		if (/(Enter|Space)$/.test(keys) && (event.target as HTMLElement).closest('button, a, select, summary'))
			return;
		const wanted = commands.find((one) => one.keys.includes(keys));
		if (!wanted) return;
		event.preventDefault();
		wanted.run();
	}
	/** One that fills the screen lies over the others, which stay as they are: cameras, shadings and places in the graph. */
	const placeOf = (pane: 1 | 2 | 3) =>
		full === 0 ? 'h-full' : full === pane ? 'absolute inset-0 z-10 bg-sheet' : 'invisible h-full';
</script>

<svelte:window onkeydown={key} />
<LettingGo {editor} />

<div
	class="flex h-screen flex-col"
	data-evaluations={editor.evaluation.count}
	data-working={editor.evaluation.working}
	data-hash={editor.evaluation.hash}
	data-ran={editor.evaluation.ran}
>
	<BuildHeader
		{editor}
		onkeys={() => (listing = true)}
		onsave={saveFile}
		onexport={() => (editor.exporting = 'result')}
	/>
	<main class="relative min-h-0 flex-1">
		<PaneGroup direction="horizontal" autoSaveId="embrell-build" bind:this={folding.panes}>
			<Pane defaultSize={33} minSize={15}
				><div class={placeOf(1)}><GraphPane bind:this={graph} {editor} onfiles={openFilesAt} /></div></Pane
			>
			<PaneResizer
				class="w-[5px] border-x border-line bg-sheet hover:bg-line"
				aria-label="Width of the graph"
			/>
			<Pane
				defaultSize={20}
				minSize={12}
				collapsible
				collapsedSize={folding.strip}
				onCollapse={() => (folding.isStrip = true)}
				onExpand={() => (folding.isStrip = false)}
				><div class={placeOf(2)}>
					{#if folding.isStrip && full !== 2}
						<button
							class="flex h-full w-full flex-col items-center gap-2 bg-sheet py-3 text-quiet hover:text-ink"
							aria-label="Open the settings"
							title="Open the settings"
							onclick={() => folding.keepOpen()}
							><PanelRightOpen size={15} /><span class="text-xs [writing-mode:vertical-rl]">Settings</span
							></button
						>
					{:else}
						<SettingsPanel
							{editor}
							onwant={(node, input) => flow()?.openSearchFor(node, input)}
							onfold={() => folding.fold()}
						/>
					{/if}
				</div></Pane
			>
			<PaneResizer
				class="w-[5px] border-x border-line bg-sheet hover:bg-line"
				aria-label="Width of the settings"
			/>
			<Pane defaultSize={47} minSize={15}
				><div class={placeOf(3)}><Views bind:this={views} {editor} /></div></Pane
			>
		</PaneGroup>
	</main>
	<Drawer {editor} />
</div>
<LeadingNews {editor} />
<ExportDialogs {editor} />
{#if listing}<KeysDialog {commands} onclose={() => (listing = false)} />{/if}
{#if commanding}<CommandDialog {commands} onclose={() => (commanding = false)} />{/if}
