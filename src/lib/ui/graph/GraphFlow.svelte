<script lang="ts">
	import { SvelteFlow, useSvelteFlow, useViewport } from '@xyflow/svelte';
	import type { Edge, Node, OnConnectEnd } from '@xyflow/svelte';
	import '@xyflow/svelte/dist/style.css';
	import LayoutGrid from '@lucide/svelte/icons/layout-grid';
	import Maximize from '@lucide/svelte/icons/maximize';
	import Plus from '@lucide/svelte/icons/plus';
	import StickyNote from '@lucide/svelte/icons/sticky-note';
	import { setContext, untrack } from 'svelte';
	import { toast } from 'svelte-sonner';
	import type { Graph, Wire } from '$core/index';
	import { fitsInGraph, inputOf, nodeKinds, readClip, wireId } from '$core/index';
	import type { Editor } from '$lib/editor/editor.svelte';
	import type { SearchEntry, Wanted } from '$lib/editor/search';
	import type { LabelSize } from '$lib/editor/tidy';
	import { tidied } from '$lib/editor/tidy-in-worker';
	import { wireEnd } from '$lib/editor/wire-end';
	import ChooseInput from './ChooseInput.svelte';
	import { firstLook, flowEdges, flowNodes, freePlace, wireThrough } from './flow-items';
	import { LABEL_WIDTH } from './label';
	import MarginNote from './MarginNote.svelte';
	import type { Box } from './route';
	import { LABELS } from './route';
	import NodeLabel from './NodeLabel.svelte';
	import NodeSearch from './NodeSearch.svelte';
	import WireChip from './WireChip.svelte';
	import WireKnot from './WireKnot.svelte';

	let { editor, onfile }: { editor: Editor; onfile: (file: File, at: [number, number]) => void } = $props();

	const flow = useSvelteFlow();
	const viewport = useViewport();
	/** Below this scale labels show their names only, large. */
	const FAR = 0.5;
	/** A graph waits at most so many milliseconds for the first picture. */
	const HOLDS = 1500;
	/** In larger graphs wires run straight: each would be looked at anew with every step of a drag. */
	const MOST_LABELS = 250;
	/** Milliseconds in which labels go to their places when the graph is tidied up. */
	const WANDERS = 320;
	const nodeTypes = { label: NodeLabel, note: MarginNote } as never;
	const edgeTypes = { knot: WireKnot } as never;
	let nodes = $state.raw<Node[]>([]);
	let edges = $state.raw<Edge[]>([]);
	let pane = $state<HTMLElement>();
	let search = $state.raw<{
		x: number;
		y: number;
		wanted: Wanted;
		from?: readonly [string, string];
		to?: readonly [string, string];
		at: [number, number];
	} | null>(null);
	let choosing = $state.raw<{ x: number; y: number; from: readonly [string, string]; node: string } | null>(
		null
	);
	let refusal = $state.raw<{ x: number; y: number; text: string } | null>(null);
	let pointer = { x: 0, y: 0 };
	let fitted = false;

	/** Painting a large graph takes as long as the picture, which comes first; but not for long. */
	let held = $state(untrack(() => editor.graph.nodes.length > 6 && !editor.pictured));
	$effect(() => {
		if (editor.pictured) held = false;
		const timer = setTimeout(() => (held = false), HOLDS);
		return () => clearTimeout(timer);
	});
	const NOTHING: Graph = { nodes: [], wires: [], notes: [] };
	// The document is the truth; what the flow shows follows it.
	$effect(() => {
		nodes = flowNodes(
			editor,
			held ? NOTHING : editor.graph,
			untrack(() => nodes)
		);
	});
	$effect(() => {
		edges = flowEdges(
			editor,
			held ? NOTHING : editor.graph,
			untrack(() => edges)
		);
	});

	/** Labels that wires go around, for all wires at once. */
	const boxes = $derived(
		nodes.length > MOST_LABELS
			? []
			: nodes.flatMap(({ id, type, position, measured }): Box[] =>
					type === 'label' && measured?.height
						? [{ id, ...position, width: LABEL_WIDTH, height: measured.height }]
						: []
				)
	);
	setContext(LABELS, () => boxes);

	/** Takes over what the flow has selected, after the artist's click or drag. */
	function adopt() {
		requestAnimationFrame(() => editor.select(nodes.filter((node) => node.selected).map((node) => node.id)));
	}

	/** Takes over what keys did to a focused node in the flow: Enter and Space select it, arrows move what is selected. */
	function keyOnNode(event: KeyboardEvent) {
		if (!(event.target as HTMLElement).classList.contains('svelte-flow__node')) return;
		if (event.key === 'Enter' || event.key === ' ') adopt();
		else if (event.key.startsWith('Arrow'))
			requestAnimationFrame(() => {
				const moved = nodes.filter((node) => node.selected);
				editor.moveNodes(
					new Map(moved.map(({ id, position: { x, y } }) => [id, [Math.round(x), Math.round(y)]])),
					'nudge'
				);
			});
	}

	const place = (x: number, y: number): [number, number] => {
		const { x: px, y: py } = flow.screenToFlowPosition({ x, y });
		return [Math.round(px), Math.round(py)];
	};

	/** Opens the search: at the pointer, or right of the selected node, which is then wired to what is added. */
	export function openSearch() {
		const rect = pane!.getBoundingClientRect();
		const inside =
			pointer.x > rect.left && pointer.x < rect.right && pointer.y > rect.top && pointer.y < rect.bottom;
		const x = inside ? pointer.x : rect.left + rect.width / 2 - 140,
			y = inside ? pointer.y : rect.top + 80;
		const { active } = editor;
		const outputs = active ? Object.keys(nodeKinds.get(active.kind)!.outputs) : [];
		const from =
			active && active.kind !== 'result' && outputs.length ? ([active.id, outputs[0]] as const) : undefined;
		search = { x, y, wanted: {}, from, at: active ? [active.at[0] + 250, active.at[1]] : place(x, y) };
	}

	/** Opens the search for what fits an input of a node. */
	export function openSearchFor(id: string, name: string) {
		const target = editor.node(id);
		const input = target && inputOf(target, name);
		if (!target || !input) return;
		const rect = pane!.getBoundingClientRect();
		search = {
			x: rect.right - 300,
			y: rect.top + 80,
			wanted: { gives: input },
			to: [id, name],
			at: [target.at[0] - 250, target.at[1] + 60]
		};
	}

	function pick(entry: SearchEntry) {
		if (!search) return;
		const { from, to, at } = search;
		const first = !editor.graph.nodes.length;
		editor.addNode(entry.kind, freePlace(editor.graph, at), entry.settings, from ?? null, to ?? null);
		search = null;
		requestAnimationFrame(() =>
			first ? flow.fitView({ maxZoom: 1, duration: 200, padding: 0.4 }) : bringIntoSight()
		);
		pane?.focus();
	}

	/** Moves the graph so that a new node can be seen, and what it was added to with it. */
	function bringIntoSight() {
		const { active } = editor;
		const rect =
			active && pane?.querySelector(`[data-node-id="${CSS.escape(active.id)}"]`)?.getBoundingClientRect();
		const around = pane?.getBoundingClientRect();
		if (!active || !around) return;
		const inside =
			rect &&
			rect.left > around.left &&
			rect.right < around.right &&
			rect.top > around.top + 40 &&
			rect.bottom < around.bottom;
		if (!inside)
			flow.setCenter(active.at[0] - 30, active.at[1] + 60, { zoom: flow.getZoom(), duration: 200 });
	}

	const valid = (connection: {
		source: string | null;
		target: string | null;
		sourceHandle?: string | null;
		targetHandle?: string | null;
	}) => {
		const fit = fitsInGraph(
			editor.graph,
			[connection.source ?? '', connection.sourceHandle ?? ''],
			[connection.target ?? '', connection.targetHandle ?? '']
		);
		refusal = fit.fits ? null : { ...pointer, text: fit.reason };
		return fit.fits;
	};

	const connectEnd: OnConnectEnd = (event, state) => {
		refusal = null;
		const { clientX: x, clientY: y } = 'changedTouches' in event ? event.changedTouches[0] : event;
		const from = state.fromHandle;
		if (!from || state.isValid) return;
		const over = document.elementFromPoint(x, y)?.closest<HTMLElement>('[data-node-id]')?.dataset.nodeId;
		const port: [string, string] = [from.nodeId, from.id ?? ''];
		const end = wireEnd(editor.graph, port, from.type === 'source', over, state.toHandle?.id ?? null);
		if (end?.does === 'refuse') toast.error(end.reason);
		else if (end?.does === 'connect') connect(port, end.to);
		else if (end?.does === 'choose') choosing = { x, y, from: port, node: end.node };
		else if (end?.does === 'search') {
			const [px, py] = place(x, y - 20);
			search =
				from.type === 'source'
					? { x, y, wanted: end.wanted, from: port, at: [px, py] }
					: { x, y, wanted: end.wanted, to: port, at: [px - 190, py] };
		}
	};
	function connect(from: readonly [string, string], to: readonly [string, string]) {
		const reason = editor.connect(from, to);
		if (reason) toast.error(reason);
	}

	/** A single node dropped on a wire is put into it. */
	function dragStop({ targetNode, nodes: moved }: { targetNode: Node | null; nodes: Node[] }) {
		editor.moveNodes(
			new Map(moved.map((node) => [node.id, [Math.round(node.position.x), Math.round(node.position.y)]]))
		);
		if (!targetNode || moved.length !== 1) return;
		const element = pane
			?.querySelector(`[data-node-id="${CSS.escape(targetNode.id)}"]`)
			?.getBoundingClientRect();
		if (!element) return;
		const id = wireThrough(pane!, element);
		const wire = editor.graph.wires.find((one) => wireId(one) === id);
		if (wire) editor.insertInto(targetNode.id, wire);
	}

	/** Deletes the selected nodes, or else the selected wires. */
	export function deleteSelected() {
		if (editor.selected.size) editor.deleteSelected();
		else {
			const chosen = edges.filter((edge) => edge.selected).map((edge) => (edge.data as { wire: Wire }).wire);
			if (chosen.length) editor.disconnect(chosen);
		}
	}
	async function firstFit() {
		const look = pane && firstLook(editor.graph, { width: pane.clientWidth, height: pane.clientHeight });
		if (look) await flow.setViewport(look);
	}
	export const fit = (ids?: Iterable<string>) =>
		flow.fitView({
			padding: 0.15,
			maxZoom: 1.1,
			duration: 200,
			...(ids && { nodes: [...ids].map((id) => ({ id })) })
		});
	/** How large a label is on the graph's ground, and where its ports stand. */
	function sizeOf(id: string): LabelSize {
		const label = pane?.querySelector<HTMLElement>(`[data-node-id="${CSS.escape(id)}"]`);
		const ports = new Map<string, number>();
		for (const port of label?.querySelectorAll<HTMLElement>('.svelte-flow__handle') ?? []) {
			const row = port.parentElement!;
			const side = port.classList.contains('source') ? 'out' : 'in';
			ports.set(`${side} ${port.dataset.handleid}`, row.offsetTop + row.offsetHeight / 2);
		}
		return { width: LABEL_WIDTH, height: label?.offsetHeight ?? 120, ports };
	}
	/** Lays the graph out from cause to effect: labels wander to their places, and it is one step of undo. */
	export async function tidy() {
		const { graph } = editor;
		try {
			const places = await tidied(graph, sizeOf);
			// Whoever changed the graph meanwhile wants it as it is now.
			if (editor.graph !== graph) return;
			await wander(places);
			editor.tidy(places);
			requestAnimationFrame(() => fit());
		} catch (error) {
			toast.error((error as Error).message);
		}
	}
	function wander(places: ReadonlyMap<string, readonly [number, number]>): Promise<void> {
		if (matchMedia('(prefers-reduced-motion: reduce)').matches) return Promise.resolve();
		const from = nodes;
		const began = performance.now();
		return new Promise((done) => {
			const step = () => {
				const t = Math.min(1, (performance.now() - began) / WANDERS);
				const share = t * t * (3 - 2 * t);
				nodes = from.map((node) => {
					const to = places.get(node.id);
					if (!to) return node;
					const { x, y } = node.position;
					return { ...node, position: { x: x + (to[0] - x) * share, y: y + (to[1] - y) * share } };
				});
				if (t < 1 && pane?.isConnected) requestAnimationFrame(step);
				else done();
			};
			step();
		});
	}

	const isTyping = () => !!document.activeElement?.closest('input, textarea, select, [contenteditable]');
	function copy(event: ClipboardEvent) {
		const text = !isTyping() && editor.copy();
		if (!text) return;
		event.preventDefault();
		event.clipboardData?.setData('text/plain', text);
		if (event.type === 'cut') editor.deleteSelected();
	}
	function paste(event: ClipboardEvent) {
		if (isTyping()) return;
		const read = readClip(event.clipboardData?.getData('text/plain') ?? '');
		if (!read) return;
		event.preventDefault();
		if (read.leftOut.length) toast.warning(read.leftOut.join(' '));
		if (read.clip.nodes.length) void editor.paste(read.clip, [50, 60]);
	}
	function drop(event: DragEvent) {
		const file = event.dataTransfer?.files[0];
		if (!file) return;
		event.preventDefault();
		onfile(file, place(event.clientX, event.clientY));
	}
	function addNote() {
		const rect = pane!.getBoundingClientRect();
		editor.addNote(place(rect.left + 60, rect.top + 80));
	}
</script>

<svelte:window onpointermove={(event) => (pointer = { x: event.clientX, y: event.clientY })} />
<svelte:document oncopy={copy} oncut={copy} onpaste={paste} />

<!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
<section
	bind:this={pane}
	class="@container relative h-full bg-ground outline-none"
	class:far={viewport.current.zoom < FAR}
	aria-label="Graph"
	tabindex="0"
	onkeydown={keyOnNode}
	ondragover={(event) => event.preventDefault()}
	ondrop={drop}
>
	<SvelteFlow
		bind:nodes
		bind:edges
		{nodeTypes}
		{edgeTypes}
		isValidConnection={valid}
		minZoom={0.1}
		maxZoom={2}
		deleteKey={[]}
		selectionKey="Shift"
		multiSelectionKey={['Control', 'Meta', 'Shift']}
		connectionRadius={16}
		zoomOnDoubleClick={false}
		onlyRenderVisibleElements={editor.graph.nodes.length > 150}
		proOptions={{ hideAttribution: true }}
		onbeforeconnect={(connection) => {
			connect(
				[connection.source, connection.sourceHandle ?? ''],
				[connection.target, connection.targetHandle ?? '']
			);
			return false as never;
		}}
		onconnectend={connectEnd}
		onnodedragstop={dragStop}
		onselectiondragstop={(_event, moved) => dragStop({ targetNode: null, nodes: moved })}
		onnodeclick={adopt}
		onnodedragstart={adopt}
		onedgeclick={adopt}
		onedgepointerenter={({ edge }) => (editor.pointed = edge.id)}
		onedgepointerleave={() => (editor.pointed = null)}
		onpaneclick={adopt}
		onselectionend={adopt}
		oninit={() => {
			if (!fitted) requestAnimationFrame(firstFit);
			fitted = true;
		}}
	/>
	<div class="absolute top-2 left-2 z-10 flex gap-1">
		<button class="button" onclick={openSearch} title="Search a node to add (/)"
			><Plus size={15} /> Add node</button
		>
		<button class="button" onclick={addNote} aria-label="Add a note" title="Add a note"
			><StickyNote size={15} /> <span class="wide">Note</span></button
		>
		<button class="button" onclick={tidy} aria-label="Tidy up" title="Tidy up"
			><LayoutGrid size={15} /> <span class="wide">Tidy up</span></button
		>
		<button class="button" onclick={() => fit()} aria-label="Fit the graph" title="Fit (Shift+F)"
			><Maximize size={15} /> <span class="wide">Fit</span></button
		>
	</div>
	{#if !editor.graph.nodes.length}
		<div
			class="pointer-events-none absolute inset-0 flex items-center justify-center p-6 text-center text-quiet"
		>
			<p>
				Nothing here yet. Press <kbd class="rounded border border-line bg-sheet px-1 font-mono text-ink"
					>/</kbd
				>
				or “Add node” to begin,<br />say with a Grid, and end with a Result. Mesh files may be dropped here.
			</p>
		</div>
	{/if}
	{#if refusal}<div
			class="menu pointer-events-none fixed z-50 max-w-72 px-2 py-1 text-xs text-plum"
			style="left: {refusal.x + 14}px; top: {refusal.y + 14}px"
			role="status"
		>
			{refusal.text}
		</div>{/if}
</section>
<WireChip {editor} chosen={edges.find((edge) => edge.selected)?.id ?? null} />
{#if search}<NodeSearch
		x={search.x}
		y={search.y}
		wanted={search.wanted}
		onpick={pick}
		onclose={() => (search = null)}
	/>{/if}
{#if choosing}<ChooseInput {editor} {...choosing} onclose={() => (choosing = null)} />{/if}

<style>
	/* Words on buttons where there is room. */
	@container (max-width: 420px) {
		.wide {
			display: none;
		}
	}
	section :global(.svelte-flow) {
		--xy-background-color: var(--ground);
		--xy-connectionline-stroke: var(--coral);
		--xy-selection-background-color: color-mix(in srgb, var(--coral) 8%, transparent);
		--xy-selection-border: 1px dashed var(--coral);
		background: var(--ground);
	}
</style>
