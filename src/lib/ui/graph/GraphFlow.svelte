<script lang="ts">
	import { SvelteFlow, useSvelteFlow, useViewport } from '@xyflow/svelte';
	import type { Edge, Node } from '@xyflow/svelte';
	import '@xyflow/svelte/dist/style.css';
	import { setContext, untrack } from 'svelte';
	import { toast } from 'svelte-sonner';
	import type { Graph, Wire } from '$core/engine/index';
	import { wireId } from '$core/engine/index';
	import type { Editor } from '$lib/editor/editor.svelte';
	import { tidied } from '$lib/editor/tidy-in-worker';
	import BodyEdges from './BodyEdges.svelte';
	import BodyPath from './BodyPath.svelte';
	import ChooseInput from './ChooseInput.svelte';
	import { copyNodes, pasteNodes } from './clipboard';
	import EmptyGraph from './EmptyGraph.svelte';
	import { firstLook, flowEdges, flowNodes, wireThrough } from './flow-items';
	import type { GraphMenuAt } from './GraphMenu.svelte';
	import GraphMenu from './GraphMenu.svelte';
	import GraphBar from './GraphBar.svelte';
	import { LABEL_WIDTH } from './label';
	import MarginNote from './MarginNote.svelte';
	import type { Box } from './route';
	import { LABELS, withBendAt } from './route';
	import NodeLabel from './NodeLabel.svelte';
	import NodeSearch from './NodeSearch.svelte';
	import { sizeOfLabel, wander } from './tidy-up';
	import ReferenceLines from './ReferenceLines.svelte';
	import WireChip from './WireChip.svelte';
	import WireKnot from './WireKnot.svelte';
	import { Wiring } from './wiring.svelte';

	interface Props {
		editor: Editor;
		/** Files were dropped on it, and where each of them shall stand. */
		onfiles: (files: readonly File[], at: (nth: number) => [number, number]) => void;
	}
	let { editor, onfiles }: Props = $props();

	const flow = useSvelteFlow();
	const viewport = useViewport();
	/** Below this scale labels show their names only, large. */
	const FAR = 0.5;
	/** Ports are drawn no smaller than at this scale: they stay reachable. */
	const SMALLEST_PORT = 0.75;
	/** A graph waits at most so many milliseconds for the first picture. */
	const HOLDS = 1500;
	/** In larger graphs wires run straight: each would be looked at anew with every step of a drag. */
	const MOST_LABELS = 250;
	const nodeTypes = { label: NodeLabel, note: MarginNote } as never;
	const edgeTypes = { knot: WireKnot } as never;
	let nodes = $state.raw<Node[]>([]);
	let edges = $state.raw<Edge[]>([]);
	let pane = $state<HTMLElement>();
	const editorOf = () => editor;
	const wiring = new Wiring(editorOf, {
		pane: () => pane!,
		place: (x, y) => place(x, y),
		fitFirst: () => flow.fitView({ maxZoom: 1, duration: 200, padding: 0.4 }),
		centre: (x, y) => flow.setCenter(x, y, { zoom: flow.getZoom(), duration: 200 })
	});
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

	// Another graph is looked at from its beginning.
	let looked = untrack(() => editor.graphId);
	$effect(() => {
		if (editor.graphId === looked) return;
		looked = editor.graphId;
		untrack(() => requestAnimationFrame(firstFit));
		pane?.focus();
	});

	const allBoxes = $derived(
		nodes.flatMap(({ id, type, position, measured }): Box[] =>
			type === 'label' && measured?.height
				? [{ id, ...position, width: LABEL_WIDTH, height: measured.height }]
				: []
		)
	);
	/** Labels that wires go around, for all wires at once. */
	const boxes = $derived(nodes.length > MOST_LABELS ? [] : allBoxes);
	setContext(LABELS, () => boxes);

	/** Takes over what the flow has selected, after the artist's click or drag. */
	function adopt() {
		requestAnimationFrame(() => editor.select(nodes.filter((node) => node.selected).map((node) => node.id)));
	}

	/** Takes over what keys did to a focused node in the flow: Enter and Space select it, arrows move what is selected. */
	function keyOnNode(event: KeyboardEvent) {
		const focused = event.target as HTMLElement;
		if (!focused.classList.contains('svelte-flow__node')) return;
		// Enter selects what has the focus first; only of what is selected it goes into the body.
		if (event.key === 'Enter' && focused.dataset.id !== editor.active?.id) event.stopPropagation();
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
	export const openSearch = () => wiring.openSearch(chosenWire());
	/** Opens the search for what fits an input of a node. */
	export const openSearchFor = (id: string, name: string) => wiring.openSearchFor(id, name);

	const wireOf = (id: string | undefined): Wire | null =>
		editor.graph.wires.find((wire) => wireId(wire) === id) ?? null;
	/** A wire that is selected. */
	const chosenWire = (): Wire | null => wireOf(edges.find((edge) => edge.selected)?.id);

	/** What lies under a place of the screen: a wire's id, or bare ground. */
	const wireUnder = (target: EventTarget | null): Wire | null => {
		const element = target as HTMLElement;
		const edge = element.closest<SVGElement>('.svelte-flow__edge');
		return wireOf(edge?.dataset.id ?? element.closest<HTMLElement>('[data-knot]')?.dataset.knot);
	};
	const isGround = (target: EventTarget | null) => !!(target as HTMLElement).closest('.svelte-flow__pane');

	/** A double click on bare ground adds a node there; on a wire it bends it. */
	function doubleClick(event: MouseEvent) {
		const { clientX: x, clientY: y, target } = event;
		const wire = wireUnder(target);
		if (wire) bend(wire, x, y);
		else if (isGround(target)) wiring.openSearchAt(x, y);
	}
	function bend(wire: Wire, x: number, y: number) {
		const [px, py] = place(x, y);
		const [from, to] = endsOnGround(wire);
		editor.bend(wire, withBendAt(from, to, wire.bends ?? [], { x: px, y: py }));
	}
	/** The ports of a wire on the graph's ground. */
	function endsOnGround({ from, to }: Wire): { x: number; y: number }[] {
		return [from, to].map(([node, port]) => {
			const box = pane!
				.querySelector(`[data-nodeid="${CSS.escape(node)}"][data-handleid="${CSS.escape(port)}"]`)
				?.getBoundingClientRect();
			const [x, y] = box
				? place(box.x + box.width / 2, box.y + box.height / 2)
				: (editor.node(node)?.at ?? [0, 0]);
			return { x, y };
		});
	}

	let menu = $state.raw<GraphMenuAt | null>(null);
	/** A right click opens the menu of what lies there. */
	function openMenu(event: MouseEvent) {
		const { clientX: x, clientY: y, target } = event;
		const wire = wireUnder(target);
		const id = (target as HTMLElement).closest<HTMLElement>('.svelte-flow__node')?.dataset.id;
		if (!wire && !id && !isGround(target)) return;
		event.preventDefault();
		if (id && !editor.selected.has(id)) editor.select([id]);
		menu = wire ? { x, y, on: 'wire', wire } : id ? { x, y, on: 'node', id } : { x, y, on: 'ground' };
	}

	/** A label that came or grew taller pushes down what lies in its lane below. */
	let settledGraph = '';
	$effect(() => {
		const measured = nodes.flatMap(({ id, type, measured: size }) =>
			type === 'label' && size?.height ? [[id, size.height] as const] : []
		);
		untrack(() => {
			const isNew = settledGraph !== editor.graphId;
			if (isNew) editor.heights.clear();
			const grown = measured.filter(([id, height]) => {
				const before = editor.heights.get(id);
				editor.heights.set(id, height);
				return !isNew && height > (before ?? 0) + 2;
			});
			if (measured.length) settledGraph = editor.graphId;
			// What was drawn late, as in a large graph that is looked at elsewhere, did not grow.
			for (const [id] of grown) if (editor.selected.has(id)) editor.makeRoom(id);
		});
	});

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
	/** Lays the graph out from cause to effect: labels wander to their places, and it is one step of undo. */
	export async function tidy() {
		const { graph } = editor;
		try {
			const places = await tidied(graph, (id) => sizeOfLabel(pane!, id));
			// Whoever changed the graph meanwhile wants it as it is now.
			if (editor.graph !== graph) return;
			await wander(
				nodes,
				places,
				(next) => (nodes = next),
				() => !pane?.isConnected
			);
			editor.tidy(places);
			requestAnimationFrame(() => fit());
		} catch (error) {
			toast.error((error as Error).message);
		}
	}
	function drop(event: DragEvent) {
		const files = [...(event.dataTransfer?.files ?? [])];
		if (!files.length) return;
		event.preventDefault();
		const [x, y] = [event.clientX, event.clientY];
		onfiles(files, (nth) => place(x, y + 90 * nth));
	}
	function addNote() {
		const rect = pane!.getBoundingClientRect();
		editor.addNote(place(rect.left + 60, rect.top + 80));
	}
</script>

<svelte:window onpointermove={(event) => (wiring.pointer = { x: event.clientX, y: event.clientY })} />
<svelte:document
	oncopy={(event) => copyNodes(editor, event)}
	oncut={(event) => copyNodes(editor, event)}
	onpaste={(event) => pasteNodes(editor, event)}
/>

<!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
<section
	bind:this={pane}
	class="@container flex h-full flex-col bg-ground outline-none"
	class:far={viewport.current.zoom < FAR}
	style:--port={Math.min(4, Math.max(1, SMALLEST_PORT / viewport.current.zoom))}
	aria-label="Graph"
	tabindex="0"
	onkeydown={keyOnNode}
	ondblclick={doubleClick}
	oncontextmenu={openMenu}
	ondragover={(event) => event.preventDefault()}
	ondrop={drop}
>
	{#if editor.place.isInside}<BodyPath {editor} />{/if}
	<div class="relative min-h-0 flex-1">
		<SvelteFlow
			bind:nodes
			bind:edges
			{nodeTypes}
			{edgeTypes}
			isValidConnection={(connection) => wiring.isValid(connection)}
			minZoom={0.1}
			maxZoom={2}
			deleteKey={[]}
			selectionKey="Shift"
			multiSelectionKey={['Control', 'Meta', 'Shift']}
			connectionRadius={16 / Math.min(1, viewport.current.zoom)}
			zoomOnDoubleClick={false}
			onlyRenderVisibleElements={editor.graph.nodes.length > 150}
			proOptions={{ hideAttribution: true }}
			onbeforeconnect={(connection) => {
				wiring.connect(
					[connection.source, connection.sourceHandle ?? ''],
					[connection.target, connection.targetHandle ?? '']
				);
				return false as never;
			}}
			onreconnectstart={(_event, edge) => (wiring.taken = wireOf(edge.id))}
			onbeforereconnect={(connection, edge) => {
				const wire = wireOf(edge.id);
				if (wire) wiring.rewire(wire, connection);
				return false;
			}}
			onreconnectend={(event, _edge, _type, state) => wiring.letGo(event, state)}
			onconnectend={(event, state) => wiring.end(event, state)}
			onnodedragstop={dragStop}
			onselectiondragstop={(_event, moved) => dragStop({ targetNode: null, nodes: moved })}
			onnodeclick={({ node, event }) => {
				// One of several is meant by itself.
				if (event.ctrlKey || event.metaKey || event.shiftKey) adopt();
				else editor.select([node.id]);
			}}
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
		>
			{#if editor.showsReferences}<ReferenceLines {editor} boxes={allBoxes} />{/if}
		</SvelteFlow>
		<GraphBar
			onadd={openSearch}
			onnote={addNote}
			ontidy={tidy}
			onfit={() => fit()}
			references={editor.showsReferences}
			onreferences={() => (editor.showsReferences = !editor.showsReferences)}
		/>
		{#if editor.place.isInside}<BodyEdges />{/if}
		{#if !editor.graph.nodes.length}
			<EmptyGraph />
		{/if}
	</div>
	{#if wiring.refusal}<div
			class="menu pointer-events-none fixed z-50 max-w-72 px-2 py-1 text-xs text-plum"
			style="left: {wiring.refusal.x + 14}px; top: {wiring.refusal.y + 14}px"
			role="status"
		>
			{wiring.refusal.text}
		</div>{/if}
</section>
<WireChip {editor} chosen={edges.find((edge) => edge.selected)?.id ?? null} />
{#if wiring.search}
	{@const { x, y, wanted } = wiring.search}
	<NodeSearch
		{x}
		{y}
		{wanted}
		{editor}
		onpick={(entry) => wiring.pick(entry)}
		onclose={() => (wiring.search = null)}
	/>
{/if}
{#if menu}<GraphMenu
		{editor}
		at={menu}
		onadd={() => menu && wiring.openSearchAt(menu.x, menu.y)}
		oninsert={(wire) => wiring.openSearchOnWire(wire)}
		onbend={(wire) => menu && bend(wire, menu.x, menu.y)}
		onnote={addNote}
		ontidy={tidy}
		onfit={() => fit()}
		onclose={() => (menu = null)}
	/>{/if}
{#if wiring.choosing}<ChooseInput
		{editor}
		{...wiring.choosing}
		onclose={() => (wiring.choosing = null)}
	/>{/if}

<style>
	section :global(.svelte-flow) {
		--xy-background-color: var(--ground);
		--xy-connectionline-stroke: var(--coral);
		--xy-selection-background-color: color-mix(in srgb, var(--coral) 8%, transparent);
		--xy-selection-border: 1px dashed var(--coral);
		background: var(--ground);
	}
</style>
