<script lang="ts">
	import { selectAll } from '$lib/ui/fields/select-all';
	import ChevronDown from '@lucide/svelte/icons/chevron-down';
	import CircleAlert from '@lucide/svelte/icons/circle-alert';
	import Hourglass from '@lucide/svelte/icons/hourglass';
	import PanelRightClose from '@lucide/svelte/icons/panel-right-close';
	import Plus from '@lucide/svelte/icons/plus';
	import SquareDashed from '@lucide/svelte/icons/square-dashed';
	import TriangleAlert from '@lucide/svelte/icons/triangle-alert';
	import X from '@lucide/svelte/icons/x';
	import { toast } from 'svelte-sonner';
	import type { Fix } from '$core/math/index';
	import { bodyNameOf, freeInputName, inputsShown, outputOf, slotTakes, withSlot } from '$core/engine/index';
	import { MOST_ROWS, nodeKinds, rowsIn } from '$core/nodes/index';
	import type { Editor } from '$lib/editor/editor.svelte';
	import SearchList from '../SearchList.svelte';
	import BodyPanel from './BodyPanel.svelte';
	import BodyRow from './BodyRow.svelte';
	import NodeHelp from './NodeHelp.svelte';
	import GeneratorPanel from './GeneratorPanel.svelte';
	import UsePreset from './UsePreset.svelte';
	import SavedSettingsMenu from './SavedSettingsMenu.svelte';
	import { Steady } from '$lib/ui/pointer-held.svelte';
	import SettingRow from './SettingRow.svelte';

	interface Props {
		editor: Editor;
		/** Asks for a node whose output fits an input. */
		onwant?: (node: string, input: string) => void;
		/** Folds the column away. */
		onfold?: () => void;
	}
	let { editor, onwant, onfold }: Props = $props();

	const node = $derived(editor.activeNow);
	const kind = $derived(node ? nodeKinds.get(node.kind)! : null);
	/** What is said of the node stands above its settings: it changes when none of them is pressed. */
	const said = new Steady(() => ({
		node: node?.id,
		report: node ? editor.evaluation.reports.get(node.id) : undefined
	}));
	const report = $derived(said.value.node === node?.id ? said.value.report : undefined);
	/** Whether users may put something of their own in its place. */
	const mayBeSlot = $derived(!!node && !editor.place.isInside && !!slotTakes(editor.document, node));
	const hasBody = $derived(!!node && bodyNameOf(node) !== null);
	const rows = $derived(node ? inputsShown(node).filter(([name]) => !hasBody || name !== 'body') : []);
	const ownNames = $derived(new Set((node?.inputs ?? []).map((one) => one.name)));
	let attributes = $state<string[]>([]);
	let changing = $state(false);
	let kindButton = $state<HTMLElement | null>(null);

	// The names that arrive at the node, for proposals while typing.
	$effect(() => {
		const wire =
			node &&
			editor.graph.wires.find(
				(w) => w.to[0] === node.id && nodeKinds.get(node.kind)?.inputs[w.to[1]]?.kind === 'geometry'
			);
		void editor.evaluation.count;
		if (!wire) attributes = [];
		else
			editor.evaluation.client.attributes(wire.from[0]).then(
				(found) => (attributes = found.map(({ name }) => name)),
				() => {}
			);
	});
	const withArticle = (word: string) => `${/^[aeiou]/.test(word) ? 'an' : 'a'} ${word}`;
	const otherKinds = () =>
		[...nodeKinds.values()]
			.filter(({ id }) => id !== kind?.id)
			.map(({ id, name, family, words }) => ({ id, text: name, hints: [family, ...words] }));

	function renameInput(name: string, field: HTMLInputElement) {
		const wanted = field.value.trim();
		if (!node || wanted === name || editor.renameInput(node.id, name, wanted)) return;
		toast.error(`“${wanted}” cannot be its name: take a word of letters and digits that no other input has.`);
		field.value = name;
	}
</script>

{#snippet mendings(id: string, fixes: readonly Fix[] = [])}
	{#each fixes.filter((fix) => !fix.declare || kind?.ownInputs) as fix, i (i)}
		<button class="button mt-1.5 mr-1 text-xs" onclick={() => editor.mend(id, fix)}>{fix.label}</button>
	{/each}
{/snippet}

<section class="relative flex h-full min-w-0 flex-col bg-sheet" aria-label="Settings">
	{#if onfold}<button
			class="icon-button absolute top-2 right-1 z-10"
			aria-label="Fold the settings away"
			title="Fold the settings away: they open when a node is selected"
			onclick={onfold}><PanelRightClose size={15} /></button
		>{/if}
	{#if node && kind}
		<header class="border-b border-line pt-2 pr-8 pb-2 pl-3">
			<div class="flex items-center gap-1">
				<input
					{@attach selectAll}
					class="min-w-0 flex-1 truncate rounded bg-transparent font-head text-base font-semibold outline-offset-2"
					aria-label="Name of the node"
					value={node.short}
					onchange={(event) => {
						editor.rename(node.id, event.currentTarget.value.trim() || node.short);
						event.currentTarget.value = editor.node(node.id)?.short ?? '';
					}}
					onkeydown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
				/>
				<button
					bind:this={kindButton}
					class="flex shrink-0 items-center gap-0.5 rounded px-1 text-xs text-quiet hover:text-ink"
					aria-label="Change the kind of node"
					aria-haspopup="dialog"
					aria-expanded={changing}
					onclick={() => (changing = !changing)}>{kind.name}<ChevronDown size={13} /></button
				>
				{#if !kind.ownPorts}<SavedSettingsMenu {editor} {node} />{/if}
				<SearchList
					bind:open={changing}
					anchor={kindButton}
					label="Change to"
					items={otherKinds}
					empty=""
					onpick={(id) => editor.changeKind(node.id, id)}
				/>
			</div>
			<NodeHelp {kind} />
		</header>
		<div class="min-h-0 flex-1 overflow-y-auto pb-4">
			{#if report?.error}
				<div
					class="mx-3 mt-2 rounded border p-2 text-xs {report.state === 'error'
						? 'border-plum text-plum'
						: 'border-line text-quiet'}"
					role="status"
				>
					<p class="flex gap-1.5">
						{#if report.state === 'error'}<CircleAlert size={14} class="mt-0.5 shrink-0" />{:else}<Hourglass
								size={14}
								class="mt-0.5 shrink-0"
							/>{/if}<span>{report.error.message}</span>
					</p>
					{@render mendings(node.id, report.error.fixes)}
				</div>
			{/if}
			<UsePreset {editor} {node} />
			{#each report?.warnings ?? [] as warning, i (i)}
				<div class="mx-3 mt-2 rounded border border-ochre p-2 text-xs" role="status">
					<p class="flex gap-1.5">
						<TriangleAlert size={14} class="mt-0.5 shrink-0 text-ochre" /><span>{warning.message}</span>
					</p>
					{@render mendings(node.id, warning.fixes)}
				</div>
			{/each}
			{#if report?.values}
				<dl
					class="mx-3 mt-2 grid grid-cols-[minmax(64px,36%)_1fr] gap-x-2 gap-y-0.5 rounded border border-line p-2 text-xs"
					aria-label="What it comes to"
				>
					{#each report.values as [port, value] (port)}
						<dt class="text-quiet">{outputOf(node, port)?.label ?? port}</dt>
						<dd class="text-right font-mono break-words">{value}</dd>
					{/each}
				</dl>
			{/if}
			{#if hasBody}<BodyRow {editor} {node} />{/if}
			<div class="pt-1.5">
				{#each rows as [name, input] (name)}
					{#if input.group}<h3
							class="mt-2 flex items-center justify-between border-t border-line px-3 pt-2 pb-0.5 text-[13px]"
						>
							{input.group}
							{#if input.row}<button
									class="icon-button h-5 w-5"
									aria-label="Remove: {input.group}"
									title="Remove it"
									onclick={() => editor.removeRow(node.id, input.row!)}><X size={14} /></button
								>{/if}
						</h3>{/if}
					<div class={ownNames.has(name) ? 'flex items-start' : ''}>
						<div class="min-w-0 flex-1">
							<SettingRow
								{editor}
								{node}
								{name}
								{input}
								{attributes}
								{onwant}
								wires={editor.graph.wires.filter((wire) => wire.to[0] === node.id && wire.to[1] === name)}
							/>
						</div>
						{#if ownNames.has(name)}
							<input
								{@attach selectAll}
								class="field mt-1 w-14 text-xs"
								aria-label="Name of input {name}"
								value={name}
								onchange={(event) => renameInput(name, event.currentTarget)}
							/>
							<button
								class="icon-button mt-1"
								aria-label="Remove input {name}"
								onclick={() => editor.removeInput(node.id, name)}><X size={14} /></button
							>
						{/if}
					</div>
				{/each}
				{#if kind.rows && rowsIn(node.settings) < MOST_ROWS}<button
						class="button mx-3 mt-2 text-xs"
						onclick={() => editor.addRow(node.id)}><Plus size={14} /> Add {withArticle(kind.rows.of)}</button
					>{/if}
				{#if kind.ownInputs}<button
						class="button mx-3 mt-2 text-xs"
						onclick={() => editor.declareInput(node.id, freeInputName(node))}
						><Plus size={14} /> Add an input</button
					>{/if}
			</div>
			{#if mayBeSlot}<div class="px-3 pt-3">
					<button
						class="button text-xs"
						title="Users of the generator may put a curve, a mesh or an image of their own in its place"
						onclick={() => editor.change('Make it a slot', (document) => withSlot(document, node.id))}
						><SquareDashed size={13} /> Make it a slot</button
					>
				</div>{/if}
			<datalist id="attribute-names"
				>{#each attributes as name, i (i)}<option value={name}></option>{/each}</datalist
			>
		</div>
	{:else if editor.place.isInside && editor.selected.size === 0}
		<BodyPanel {editor} />
	{:else}
		<GeneratorPanel {editor} />
	{/if}
</section>
