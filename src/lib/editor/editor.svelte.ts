/** The open generator and what can be done to it. Markup only calls what stands here. */
import type {
	Clip,
	GeneratorDocument,
	Graph,
	GraphNode,
	HeightOf,
	Setting,
	StreamReader,
	Wire
} from '$core/engine/index';
import type { Asset } from '$core/geometry/index';
import type { Fix } from '$core/math/index';
import {
	copyNodes,
	draftsWith,
	fitsInGraph,
	hasDrafts,
	inputOf,
	inputsOf,
	mended,
	newNode,
	newStream,
	pasteInto,
	readAssets,
	resultNode,
	settingOf,
	settled,
	withGraph,
	withInserted,
	aboutAsTall,
	downToFree,
	withBends,
	withBrought,
	withNodeAfter,
	withNodeOnWire,
	withRoomBelow,
	wireId,
	withKind,
	withNode,
	withNodeChanged,
	withNodeWired,
	withOwnInput,
	withOwnInputRenamed,
	withOwnStream,
	withPlaceFor,
	withPorts,
	withRow,
	withSetting,
	withShort,
	withStartingBody,
	withValue,
	withRestOfMarker,
	withWire,
	withoutNodes,
	withoutOrphans,
	withoutOwnInput,
	withoutRow,
	withoutWires
} from '$core/engine/index';
import { nodeKinds } from '$core/nodes/index';
import { toast } from 'svelte-sonner';
import { loadAsset, saveAsset } from '$lib/store/database';
import type { FileRead } from '$lib/worker/reading';
import { readFile } from '$lib/worker/reading';
import { below } from './below';
import { Dials } from './dials.svelte';
import { Evaluation } from './evaluation.svelte';
import { LeadingDrag } from './following.svelte';
import type { Adding, Hand, ViewPort } from './hand';
import { History } from './history.svelte';
import { Place } from './place.svelte';
import { Playing } from './playing.svelte';
import { Presets } from './presets.svelte';
import { Saving } from './saving.svelte';
import { NOTE_WIDEST } from './tidy';
import { whileReading } from './while-reading';

export class Editor implements Hand {
	readonly id: string;
	readonly history: History<GeneratorDocument>;
	readonly saving: Saving;
	readonly evaluation = new Evaluation();
	/** Aborted when it is closed: no file is read any further. */
	readonly #left = new AbortController();
	/** A setting's label that is being dragged onto another's. */
	readonly leading = new LeadingDrag(this);

	selected = $state.raw<ReadonlySet<string>>(new Set());
	/** Whether the View has shown a first picture. */
	pictured = $state(false);
	/** The wire under the pointer. */
	pointed = $state<string | null>(null);
	/** What the drawer shows. */
	drawer = $state<'data' | 'ramps' | 'order' | 'timeline' | null>(null);
	/** Where the View was clicked while the table is open. */
	picked = $state.raw<readonly number[] | null>(null);
	/** A row that the table shall bring into sight: of a node, in one of its tables. */
	wantedRow = $state.raw<{ node: string; table: string; row: number } | null>(null);
	/** A place that the View marks: a row of the table that is looked at. */
	marked = $state.raw<{ at: readonly number[]; name: string } | null>(null);
	/** The ramp that the drawer edits: node and setting. */
	rampOpen = $state<string | null>(null);
	/** Whether the graph shows which settings follow which. */
	showsReferences = $state(false);
	/** What is edited: the main graph, or a body, and what the View shows then. */
	readonly place = new Place(this);
	/** The View, while there is one. */
	port: ViewPort | null = null;
	/** The setting that is being dragged, so that draft values stand in for others. */
	#dragged: readonly [string, string] | null = null;
	/** The *Camera* through which the View looks; null where it is free. */
	camera = $state<string | null>(null);
	/** Which export is open. */
	exporting = $state<'result' | 'frames' | null>(null);
	/** What is handed to the generator's users. */
	readonly dials = new Dials(this);
	readonly presets = new Presets(this);
	/** The frame that is looked at. */
	readonly playing: Playing;
	/** What is looked at beside the generator: how it would be, and how it becomes that. */
	compared = $state.raw<{ name: string; document: GeneratorDocument; take: () => void } | null>(null);
	/** A note that was just added and waits for its text. */
	newNote: string | null = null;

	constructor(id: string, document: GeneratorDocument, saving: Saving) {
		this.id = id;
		this.history = new History(document);
		this.saving = saving;
		this.playing = new Playing(this);
		saving.onRename = (name) => this.renameGenerator(name);
		saving.files = () => this.evaluation.client.assets();
		saving.onNews = () => void this.#follow();
		this.evaluation.watch(id);
	}

	/** Becomes the tab that writes, with what the other one wrote last. Gives a sentence where it cannot. */
	async takeOver(): Promise<string | null> {
		const trouble = await this.saving.takeOver();
		if (trouble || !this.saving.writes) return trouble;
		await this.#reload();
		return null;
	}

	/** Takes the state that is kept, as it came from elsewhere. */
	async #reload(): Promise<void> {
		const document = await this.saving.load();
		if (!document || this.#left.signal.aborted) return;
		this.history.restart(document);
		this.place.settle();
		await this.open();
	}

	/** Becomes what another tab has stored; what comes while that is read is read after it. */
	#following: 'no' | 'reading' | 'again' = 'no';
	async #follow(): Promise<void> {
		if (this.#following !== 'no') return void (this.#following = 'again');
		do {
			this.#following = 'reading';
			// A store that cannot be read now is read at the next news.
			if (!this.saving.writes) await this.#reload().catch(() => {});
		} while ((this.#following as string) === 'again');
		this.#following = 'no';
	}

	get document(): GeneratorDocument {
		return this.history.current;
	}
	/** Which of the document’s graphs is edited. */
	get graphId(): string {
		return this.place.graphId;
	}
	get graph(): Graph {
		return this.document.graphs[this.graphId];
	}
	/** The graph that the View shows. */
	get viewGraph(): Graph {
		return this.place.isViewed ? this.graph : this.document.graphs.main;
	}
	/** A node of the graph that the View shows. */
	viewNode(id: string): GraphNode | null {
		return this.viewGraph.nodes.find((node) => node.id === id) ?? null;
	}
	/** The one selected node, where it is one. */
	get active(): GraphNode | null {
		if (this.selected.size !== 1) return null;
		const [id] = this.selected;
		return this.graph.nodes.find((node) => node.id === id) ?? null;
	}
	/** The same as it is at the frame that is looked at. */
	get activeNow(): GraphNode | null {
		const { active } = this;
		const { graphs } = this.playing.now;
		return active && (graphs[this.graphId].nodes.find(({ id }) => id === active.id) ?? null);
	}
	/** What the View shows: the nodes chosen by their eyes, or else the result. */
	get shown(): string[] {
		const chosen = this.#view.shown.filter((id) => this.viewNode(id));
		if (chosen.length) return chosen;
		const result = this.place.isInView ? this.place.result : resultNode(this.document);
		return result ? [result.id] : [];
	}
	/** The output whose numbers colour what is shown. */
	get heat(): readonly [string, string] | null {
		const { heat } = this.#view;
		return heat && (heat[0] === '' || this.viewNode(heat[0])) ? heat : null;
	}
	/** What the View shows of its graph: kept in the document for the main graph, for a body only while it is edited. */
	get #view(): Pick<GeneratorDocument['view'], 'shown' | 'ghosts' | 'heat'> {
		return this.place.isInView ? this.place.view : this.document.view;
	}
	#look(label: string, change: Partial<Pick<GeneratorDocument['view'], 'shown' | 'ghosts' | 'heat'>>): void {
		if (this.place.isInView) {
			this.place.view = { ...this.place.view, ...change };
			this.evaluate();
		} else this.change(label, (document) => ({ ...document, view: { ...document.view, ...change } }));
	}
	/** Colours what is shown by an output, or stops doing so. */
	toggleHeat(node: string, port: string): void {
		const same = this.heat?.[0] === node && this.heat[1] === port;
		this.#look(same ? 'Hide the heat map' : 'Show as a heat map', { heat: same ? undefined : [node, port] });
	}
	/** Colours what is shown by a formula of its elements, such as the name of an attribute; by nothing where it is empty. */
	colourBy(formula: string): void {
		this.#look(formula ? `Colour by ${formula}` : 'Hide the heat map', {
			heat: formula ? ['', formula] : undefined
		});
	}
	get ghosts(): string[] {
		return this.#view.ghosts.filter((id) => this.viewNode(id) && !this.shown.includes(id));
	}
	/** The digest of the generator's result, where that is what the View shows. */
	get resultHash(): string | null {
		const { shown } = this;
		const isResult = shown.length === 1 && shown[0] === resultNode(this.document)?.id;
		return isResult && !this.place.isInView ? this.evaluation.hash : null;
	}
	node(id: string): GraphNode | null {
		return this.graph.nodes.find((node) => node.id === id) ?? null;
	}

	/** Loads what the document refers to, and evaluates for the first time. */
	async open(): Promise<void> {
		for (const hash of readAssets(this.document)) {
			const asset = await loadAsset(hash);
			if (asset) this.evaluation.client.addAsset(asset);
		}
		this.evaluate();
	}

	evaluate(): void {
		const { shown, ghosts, heat } = this;
		const { way: into, isInView: inside } = this.place;
		const dragged = this.#dragged && hasDrafts(this.document) ? this.#dragged : null;
		this.evaluation.evaluate(this.document, {
			shown,
			ghosts,
			heat,
			into,
			inside,
			dragged,
			frame: this.playing.frame,
			camera: this.camera
		});
	}

	/** Evaluates again, where that was paused. */
	resume(): void {
		this.evaluation.resume();
		this.evaluate();
	}

	/** Every change goes through here: one undo step, saved, evaluated. Refused while another tab writes. */
	change(
		label: string,
		make: (document: GeneratorDocument) => GeneratorDocument,
		gesture: string | null = null
	): boolean {
		if (!this.saving.writes) return false;
		const made = make(this.document);
		if (made === this.document) return false;
		// What goes in and out of bodies shows at their uses; bodies that nobody uses any more go; dials and ties settle.
		const whole =
			made.graphs === this.document.graphs ? made : withoutOrphans(withPorts(made), this.document.graphs);
		const after = settled(whole, this.document);
		this.history.change(label, after, gesture);
		this.#changed();
		return true;
	}

	changeGraph(label: string, make: (graph: Graph) => Graph, gesture: string | null = null): boolean {
		return this.change(label, (document) => withGraph(document, this.graphId, make), gesture);
	}

	#changed(): void {
		this.place.settle();
		const present = new Set(this.graph.nodes.map((node) => node.id));
		if ([...this.selected].some((id) => !present.has(id)))
			this.selected = new Set([...this.selected].filter((id) => present.has(id)));
		this.saving.note(this.document);
		this.evaluate();
	}

	undo(): void {
		if (!this.saving.writes) return;
		this.#dragged = null;
		this.history.undo();
		this.#changed();
	}
	redo(): void {
		if (!this.saving.writes) return;
		this.#dragged = null;
		this.history.redo();
		this.#changed();
	}

	/** Selects a node of what the View shows; goes to its graph first, where another one is edited. */
	selectViewed(id: string): void {
		if (!this.place.isViewed) this.place.leaveTo(0);
		this.select([id]);
	}

	select(ids: Iterable<string>): void {
		this.selected = new Set(ids);
	}

	/** Looks through a *Camera*, or freely again. */
	lookThrough(camera: string | null): void {
		if (camera === this.camera) return;
		this.camera = camera;
		// What another one saw is not what this one sees.
		this.evaluation.seen = null;
		if (camera !== null) this.evaluate();
	}
	/** A *Camera* that sees as the View does now; the View looks through it from then on. */
	keepView(): void {
		const seen = this.port?.seen ?? null;
		if (!seen) return;
		const { position: place, target, half, angle } = seen;
		const lens = half === null ? { lens: 'lens', angle } : { lens: 'straight', height: 2 * half };

		this.lookThrough(this.addNode('camera', below(this.graph), { place, target, ...lens }));
	}

	/** How tall labels are drawn, by the ids of nodes; written where they are drawn. */
	readonly heights = new Map<string, number>();
	heightOf: HeightOf = (node) => this.heights.get(node.id) ?? aboutAsTall(node);
	#atFreePlace(node: GraphNode): GraphNode {
		return { ...node, at: [node.at[0], node.at[1] + downToFree(this.graph, [node], this.heightOf)] };
	}

	/** Adds a node and selects it; see `withNode`. */
	addNode(
		kind: string,
		at: readonly [number, number],
		settings: Record<string, unknown> = {},
		{ from = null, to = null, isInChain = false, onto = null, bring = (document) => document }: Adding = {}
	): string | null {
		const node = newNode(this.graph, kind, at, settings);
		const done = this.change(`Add ${nodeKinds.get(kind)!.name}`, (document) => {
			// A node that has a body gets one first, so that its ports are there to be wired.
			const alone = withGraph(bring(document), this.graphId, (graph) => withNode(graph, node, null, null));
			const bodied = withPorts(withStartingBody(alone, this.graphId, node.id));
			return withGraph(bodied, this.graphId, (graph) => {
				const wired = onto
					? withNodeOnWire(graph, node.id, onto)
					: from && isInChain
						? withNodeAfter(graph, node.id, from)
						: withNodeWired(graph, node.id, from, to);
				const fed = wired.wires
					.filter(({ to: [id] }) => id === node.id)
					.reduce((made, wire) => withBrought(made, wire.from[0], node.id), wired);
				return withPlaceFor(fed, node.id, this.heightOf);
			});
		});
		if (!done) return null;
		this.select([node.id]);
		return node.id;
	}

	/** Wires two ports; answers why not where they do not fit. */
	connect(from: readonly [string, string], to: readonly [string, string]): string | null {
		const fit = fitsInGraph(this.graph, from, to);
		if (!fit.fits) return fit.reason;
		this.#wire('Connect', this.graph, { from: [from[0], from[1]], to: [to[0], to[1]] });
		return null;
	}
	/** Wires two ports that fit in a graph as it was, and tells what had to go for that. */
	#wire(label: string, before: Graph, wire: Wire): void {
		const { from, to } = wire;
		this.changeGraph(label, () =>
			withBrought(withRestOfMarker(withWire(before, wire), from, to), from[0], to[0])
		);
		this.#tellReplaced(before, from, to);
	}
	/** A wire that had to go for another one is told of. */
	#tellReplaced(before: Graph, from: readonly [string, string], to: readonly [string, string]): void {
		const now = new Set(this.graph.wires.map(wireId));
		const gone = before.wires.filter((wire) => !now.has(wireId(wire)) && wire.from[0] !== from[0]);
		const target = this.node(to[0]);
		const input = target && inputOf(target, to[1]);
		const shorts = gone.flatMap((wire) => this.node(wire.from[0])?.short ?? []);
		if (!shorts.length || !input) return;
		toast(
			`“${input.label}” of ${target.short} takes one wire: ${this.node(from[0])?.short} came in the place of ${shorts.join(', ')}.`
		);
	}
	/** A number through a ramp over a value, in one step: what it was is what the ramp goes up to. */
	rampOver(id: string, name: string): void {
		const node = this.node(id);
		const input = node && inputOf(node, name);
		if (!node || !input) return;
		const now = settingOf(node, name, input);
		const along = inputsOf(node).some(([, one]) => one.kind === 'geometry' && one.needs === 'curves');
		this.addNode(
			'remap',
			[node.at[0] - 250, node.at[1] + 60],
			{
				between: 'ramp',
				value: { formula: along ? 'u' : 'position.y', streams: [] },
				toHigh: typeof now === 'number' ? now : 1
			},
			{ to: [id, name] }
		);
	}
	/** Takes an end of a wire to another port; answers why not where it does not fit. */
	rewire(wire: Wire, from: readonly [string, string], to: readonly [string, string]): string | null {
		if (wireId({ from: [...from], to: [...to] }) === wireId(wire)) return null;
		const without = withoutWires(this.graph, [wire]);
		const fit = fitsInGraph(without, from, to);
		if (!fit.fits) return fit.reason;
		const bends = wire.bends && { bends: wire.bends };
		this.#wire('Rewire', without, { from: [from[0], from[1]], to: [to[0], to[1]], ...bends });
		return null;
	}
	/** Leads a wire through other places of the ground. */
	bend(wire: Wire, bends: readonly (readonly [number, number])[], gesture: string | null = null): void {
		this.changeGraph('Bend a wire', (graph) => withBends(graph, wire, bends), gesture);
	}
	/** Moves the lane below a node that is drawn taller than it was. It belongs to what made the node grow: one undo takes both back. */
	makeRoom(id: string): void {
		if (!this.saving.writes) return;
		const roomy = withRoomBelow(this.graph, id, this.heightOf);
		if (roomy === this.graph) return;
		const isMoved = this.history.amend((document) => withGraph(document, this.graphId, () => roomy));
		if (isMoved) this.saving.note(this.document);
	}

	disconnect(wires: readonly Wire[]): void {
		this.changeGraph('Disconnect', (graph) => withoutWires(graph, wires));
	}

	/** Puts a node into a wire, where it fits on both sides. */
	insertInto(node: string, wire: Wire): boolean {
		const kind = nodeKinds.get(this.node(node)?.kind ?? '');
		return this.changeGraph(`Insert ${kind?.name}`, (graph) => withInserted(graph, node, wire));
	}

	set(node: string, name: string, setting: Setting, gesture: string | null = null): void {
		const one = this.node(node);
		// The name of a port is known outside too.
		if (name === 'name' && typeof setting === 'string' && (one?.kind === 'input' || one?.kind === 'output'))
			return this.place.namePort(node, setting);
		const input = one && inputOf(one, name);
		this.#dragged = gesture ? [node, name] : null;
		this.changeGraph(
			`Change ${input?.label ?? name}`,
			(graph) =>
				withValue(
					graph,
					node,
					...(one ? this.playing.asSet(one, name, setting) : ([name, setting] as const))
				),
			gesture && `${gesture} ${node} ${name}`
		);
	}

	/** Changes something while it is dragged: a gesture, with draft values until it ends. */
	drag(label: string, make: (document: GeneratorDocument) => GeneratorDocument, gesture: string): void {
		this.#dragged = ['', ''];
		this.change(label, make, gesture);
	}

	endGesture(): void {
		this.history.endGesture();
		if (!this.#dragged) return;
		this.#dragged = null;
		if (hasDrafts(this.document)) this.evaluate();
	}

	update(node: string, label: string, change: Partial<GraphNode>): void {
		this.changeGraph(label, (graph) => withNodeChanged(graph, node, () => change));
	}

	moveNodes(places: ReadonlyMap<string, readonly [number, number]>, gesture: string | null = null): void {
		const moved = <Placed extends { id: string; at: [number, number] }>(all: readonly Placed[]): Placed[] =>
			all.map((one) => (places.has(one.id) ? { ...one, at: [...places.get(one.id)!] } : one));
		this.changeGraph(
			'Move',
			(graph) => ({ ...graph, nodes: moved(graph.nodes), notes: moved(graph.notes) }),
			gesture
		);
	}

	/** Takes over a new layout. */
	tidy(places: ReadonlyMap<string, readonly [number, number]>): void {
		const placed = <Placed extends { id: string; at: [number, number] }>(one: Placed): Placed =>
			places.has(one.id) ? { ...one, at: [...places.get(one.id)!] } : one;
		this.changeGraph('Arrange', (graph) => ({
			...graph,
			nodes: graph.nodes.map(placed),
			notes: graph.notes.map((note) => ({
				...placed(note),
				width: Math.min(note.width ?? NOTE_WIDEST, NOTE_WIDEST)
			}))
		}));
	}

	deleteSelected(): void {
		if (!this.selected.size) return;
		const ids = this.selected;
		this.changeGraph(ids.size === 1 ? 'Delete' : `Delete ${ids.size}`, (graph) => ({
			...withoutNodes(graph, ids),
			notes: graph.notes.filter((note) => !ids.has(note.id))
		}));
	}

	bypassSelected(): void {
		const nodes = this.graph.nodes.filter((node) => this.selected.has(node.id));
		if (!nodes.length) return;
		const bypassed = !nodes.every((node) => node.bypassed);
		this.changeGraph(bypassed ? 'Bypass' : 'Enable', (graph) => ({
			...graph,
			nodes: graph.nodes.map((node) => (this.selected.has(node.id) ? { ...node, bypassed } : node))
		}));
	}

	rename(node: string, short: string): void {
		this.changeGraph('Rename', (graph) => withShort(graph, node, short));
	}

	changeKind(node: string, kind: string): void {
		this.changeGraph(`Change to ${nodeKinds.get(kind)!.name}`, (graph) => withKind(graph, node, kind));
	}

	addNote(at: readonly [number, number]): void {
		const id = `t${newStream().slice(0, 8)}`;
		this.newNote = id;
		this.changeGraph('Add note', (graph) => ({
			...graph,
			notes: [...graph.notes, { id, at: [at[0], at[1]], text: 'A note', width: 240 }]
		}));
	}

	editNote(id: string, text: string): void {
		this.changeGraph('Edit note', (graph) => ({
			...graph,
			notes: text.trim()
				? graph.notes.map((note) => (note.id === id ? { ...note, text } : note))
				: graph.notes.filter((note) => note.id !== id)
		}));
	}

	/** The selected nodes as text. */
	copy(): string | null {
		return this.selected.size
			? JSON.stringify(copyNodes(this.graph, this.selected, this.document.graphs))
			: null;
	}

	/** Pastes nodes, and the files that they read; the clip was checked when it was read. */
	async paste(clip: Clip, offset: readonly [number, number]): Promise<void> {
		const foreign = assetsRead([
			...clip.nodes,
			...Object.values(clip.bodies ?? {}).flatMap(({ nodes }) => nodes)
		]).filter((hash) => !Object.hasOwn(this.document.assets, hash));
		const assets: Record<string, { name: string; bytes: number }> = {};
		for (const hash of foreign) {
			// Files of other generators in this browser. One from elsewhere is missing, and its node says so.
			const asset = await loadAsset(hash);
			if (!asset) continue;
			this.evaluation.client.addAsset(asset);
			assets[hash] = { name: asset.name, bytes: asset.bytes.length };
		}
		const wanted = clip.nodes.map((node) => ({
			...node,
			at: [node.at[0] + offset[0], node.at[1] + offset[1]]
		}));
		const down = downToFree(this.graph, wanted as GraphNode[], this.heightOf);
		const free = [offset[0], offset[1] + down] as const;
		let made: string[] = [];
		this.change(`Paste ${clip.nodes.length}`, (document) => {
			const pasted = pasteInto(document, this.graphId, clip, free);
			made = pasted.ids;
			const known = Object.keys(assets).length ? { ...document.assets, ...assets } : document.assets;
			return { ...pasted.document, assets: known };
		});
		if (made.length) this.select(made);
	}

	duplicate(): void {
		if (this.selected.size)
			void this.paste(copyNodes(this.graph, this.selected, this.document.graphs), [40, 60]);
	}

	/** Shows what is selected in the View, or hides it; several beside one another. */
	toggleSelectedShown(): void {
		for (const id of this.selected) this.toggleShown(id, this.selected.size > 1);
	}
	/** Shows a node in the View, or hides it. With `add`, beside what is shown. */
	toggleShown(id: string, add = false): void {
		const { shown } = this;
		const has = shown.includes(id);
		const next = add
			? has
				? shown.filter((one) => one !== id)
				: [...shown, id]
			: has && shown.length === 1
				? []
				: [id];
		this.#look('Show', { shown: next, ghosts: this.#view.ghosts.filter((one) => !next.includes(one)) });
	}

	toggleGhost(id: string): void {
		const { ghosts } = this.#view;
		const has = ghosts.includes(id);
		this.#look('Ghost', { ghosts: has ? ghosts.filter((one) => one !== id) : [...ghosts, id] });
	}

	setSeed(seed: number): void {
		const whole = Math.max(0, Math.min(4294967295, Math.round(seed || 0)));
		this.change('Change the seed', (document) =>
			document.seed === whole ? document : { ...document, seed: whole }
		);
	}
	/** An empty name leaves the one there is. */
	renameGenerator(wanted: string): void {
		const name = wanted.trim().slice(0, 200);
		this.change('Rename the generator', (document) =>
			!name || document.name === name ? document : { ...document, name }
		);
	}

	/** Changes what belongs to the View; a gesture, such as a drag of the sun, is one step until it ends. */
	setView(change: Partial<GeneratorDocument['view']>, gesture: string | null = null): void {
		this.change(
			'Change the view',
			(document) => ({ ...document, view: { ...document.view, ...change } }),
			gesture
		);
	}

	/** Does what a message proposes. */
	mend(node: string, fix: Fix): void {
		this.change(fix.label, (document) => mended(document, this.graphId, node, fix));
	}

	/** Gives a random range a stream of its own again. */
	ownStream(reader: StreamReader): void {
		this.changeGraph('Give a stream of its own', (graph) => withOwnStream(graph, reader));
	}

	/** One more row of settings, on a node that has rows. */
	addRow(node: string): void {
		const of = nodeKinds.get(this.node(node)?.kind ?? '')?.rows?.of;
		this.changeGraph(`Add ${of ?? 'row'}`, (graph) => withRow(graph, node));
	}
	removeRow(node: string, row: number): void {
		const of = nodeKinds.get(this.node(node)?.kind ?? '')?.rows?.of;
		this.changeGraph(`Remove ${of ?? 'row'}`, (graph) => withoutRow(graph, node, row));
	}

	/** Sets what stands in for a setting while something is dragged; null for nothing. */
	setDraft(node: string, name: string, value: number | null, gesture: string | null = null): void {
		this.changeGraph(
			value === null ? 'No draft value' : 'Draft value',
			(graph) => withNodeChanged(graph, node, (one) => ({ drafts: draftsWith(one, name, value) })),
			gesture && `${gesture} draft ${node} ${name}`
		);
	}

	/** Adds an input of the artist's own to a node that has such, starting at 1. */
	declareInput(node: string, name: string): void {
		this.changeGraph(`Add input ${name}`, (graph) => withOwnInput(graph, node, name));
	}
	renameInput(node: string, old: string, wanted: string): boolean {
		return this.changeGraph('Rename input', (graph) => withOwnInputRenamed(graph, node, old, wanted));
	}
	removeInput(node: string, name: string): void {
		this.changeGraph('Remove input', (graph) => withoutOwnInput(graph, node, name));
	}

	/** Reads a file into a setting. Throws an error with what is wrong, and changes nothing then. */
	async importFile(
		node: string | null,
		setting: string,
		file: File,
		at: readonly [number, number] = [0, 0]
	): Promise<{ node: string; unit: string }> {
		// Read once beforehand, so that a broken file changes nothing.
		const wanted = (node && this.node(node)?.kind) || null;
		const { node: kind, settings, hash, bytes, name } = await this.read(file, wanted);
		const asset: Asset = { hash, name, bytes };
		this.evaluation.client.addAsset(asset);
		await this.#keepFile(asset);
		const made = node ? null : this.#atFreePlace(newNode(this.graph, kind, at, settings));
		const id = node ?? made!.id;
		this.change(`Import ${name}`, (document) => {
			const assets = {
				...document.assets,
				[hash]: { name: name.slice(0, 200), bytes: bytes.length }
			};
			return withGraph({ ...document, assets }, this.graphId, (graph) =>
				Object.entries({ ...settings, [setting]: hash }).reduce(
					(changed, [of, value]) => withSetting(changed, id, of, value),
					made ? { ...graph, nodes: [...graph.nodes, made] } : graph
				)
			);
		});
		this.select([id]);
		return { node: id, unit: settings.unit ?? 'm' };
	}

	/** Stores a file; where that cannot be, it stays with the page, and goes with the next change that is stored. */
	async #keepFile(asset: Asset): Promise<void> {
		await saveAsset(asset).catch(() => this.saving.filesWait());
	}

	/** What a file is, read away from the page; ended where the generator is left. */
	read = (file: File, wanted: string | null): Promise<FileRead> =>
		whileReading(file, (signal) => readFile(file, wanted, signal), this.#left.signal);

	async close(): Promise<void> {
		this.#left.abort();
		this.playing.stop();
		this.playing.keepNow();
		this.evaluation.close();
		await this.saving.close();
	}
}

/** The files that nodes read, by their digests. */
function assetsRead(nodes: readonly GraphNode[]): string[] {
	const all = nodes.flatMap((node) =>
		inputsOf(node).flatMap(([name, input]) => (input.kind === 'asset' ? [node.settings[name]] : []))
	);
	return all.filter((hash): hash is string => typeof hash === 'string' && hash !== '');
}
