/** How nodes are added and wired in the graph: by the search, and by what is done with the end of a wire. */
import type { OnConnectEnd } from '@xyflow/svelte';
import { toast } from 'svelte-sonner';
import type { Wire } from '$core/engine/index';
import { fitsInGraph, inputOf, outputOf, outputsOf, withoutWires } from '$core/engine/index';
import type { Editor } from '$lib/editor/editor.svelte';
import type { SearchEntry, Wanted } from '$lib/editor/search';
import { wireEnd } from '$lib/editor/wire-end';

type Port = readonly [node: string, port: string];

/** The search, where it stands on the screen, and what is wired to what is picked. */
interface Search {
	x: number;
	y: number;
	wanted: Wanted;
	from?: Port;
	to?: Port;
	/** Whether it goes into the chain that leaves `from`. */
	isInChain?: boolean;
	/** The wire that it is put into. */
	onto?: Wire;
	/** Where the new node goes, on the graph's ground. */
	at: [number, number];
}

/** What wiring needs of the graph that is shown. */
export interface Ground {
	pane(): HTMLElement;
	/** The place on the graph's ground under a place of the screen. */
	place(x: number, y: number): [number, number];
	/** Shows the first node in the middle. */
	fitFirst(): void;
	centre(x: number, y: number): void;
}

interface Connection {
	source: string | null;
	target: string | null;
	sourceHandle?: string | null;
	targetHandle?: string | null;
}

export class Wiring {
	search = $state.raw<Search | null>(null);
	/** It is asked which input of a node a wire shall go to. */
	choosing = $state.raw<{ x: number; y: number; from: Port; node: string } | null>(null);
	/** Why the wire that is being dragged does not fit. */
	refusal = $state.raw<{ x: number; y: number; text: string } | null>(null);
	/** The wire whose end is being taken to another port. */
	taken: Wire | null = null;
	pointer = { x: 0, y: 0 };
	readonly #editor: () => Editor;
	readonly #ground: Ground;

	constructor(editor: () => Editor, ground: Ground) {
		this.#editor = editor;
		this.#ground = ground;
	}

	/** Where the search opens: at the pointer, or where it can be seen. */
	#placeOfSearch(): { x: number; y: number } {
		const { pointer } = this;
		const rect = this.#ground.pane().getBoundingClientRect();
		const inside =
			pointer.x > rect.left && pointer.x < rect.right && pointer.y > rect.top && pointer.y < rect.bottom;
		return inside ? { ...pointer } : { x: rect.left + rect.width / 2 - 140, y: rect.top + 80 };
	}

	/** A search for what goes into the chain after the selected node, onto the chosen wire, or where the pointer is. */
	openSearch(chosen: Wire | null = null): void {
		const { x, y } = this.#placeOfSearch();
		const editor = this.#editor();
		const { active } = editor;
		if (!active) return chosen ? this.openSearchOnWire(chosen) : this.openSearchAt(x, y);
		if (active.kind === 'result') {
			const into = editor.graph.wires.filter(({ to }) => to[0] === active.id);
			const source = into.length === 1 ? editor.node(into[0].from[0]) : null;
			const at: [number, number] = source
				? [source.at[0] + 250, source.at[1]]
				: [active.at[0] - 250, active.at[1]];
			this.search = {
				...{ x, y, wanted: {}, at },
				...(source ? { onto: into[0] } : { to: [active.id, 'geometry'] as const })
			};
			return;
		}
		const [output] = Object.keys(outputsOf(active));
		const from = output === undefined ? undefined : ([active.id, output] as const);
		this.search = { x, y, wanted: {}, from, isInChain: true, at: [active.at[0] + 250, active.at[1]] };
	}

	/** A search at a place of the ground: what is picked is wired to nothing. */
	openSearchAt(x: number, y: number): void {
		this.search = { x, y, wanted: {}, at: this.#ground.place(x, y) };
	}

	/** A search for what can be put into a wire. */
	openSearchOnWire(wire: Wire): void {
		const { graph } = this.#editor();
		const node = (id: string) => graph.nodes.find((one) => one.id === id);
		const [source, target] = [node(wire.from[0]), node(wire.to[0])];
		const output = outputOf(source, wire.from[1]);
		const input = target && inputOf(target, wire.to[1]);
		if (!source || !target || !output || !input) return;
		this.search = {
			...this.#placeOfSearch(),
			wanted: { takes: output.kind, gives: input },
			onto: wire,
			at: [source.at[0] + 250, source.at[1]]
		};
	}

	openSearchFor(id: string, name: string): void {
		const target = this.#editor().node(id);
		const input = target && inputOf(target, name);
		if (!target || !input) return;
		const rect = this.#ground.pane().getBoundingClientRect();
		this.search = {
			x: rect.right - 300,
			y: rect.top + 80,
			wanted: { gives: input },
			to: [id, name],
			at: [target.at[0] - 250, target.at[1] + 60]
		};
	}

	pick(entry: SearchEntry): void {
		if (!this.search) return;
		const editor = this.#editor();
		const { at, from, to, isInChain, onto } = this.search;
		const isFirst = !editor.graph.nodes.length;
		if (entry.shelved) editor.place.addShelved(entry.shelved, at, { from, to, isInChain, onto });
		else editor.addNode(entry.kind, at, entry.settings, { from, to, isInChain, onto });
		this.search = null;
		requestAnimationFrame(() => (isFirst ? this.#ground.fitFirst() : this.#bringIntoSight()));
		this.#ground.pane().focus();
	}

	/** Moves the graph so that a new node can be seen, and what it was added to with it. */
	#bringIntoSight(): void {
		const { active } = this.#editor();
		if (!active) return;
		const pane = this.#ground.pane();
		const rect = pane.querySelector(`[data-node-id="${CSS.escape(active.id)}"]`)?.getBoundingClientRect();
		const around = pane.getBoundingClientRect();
		const inside =
			rect &&
			rect.left > around.left &&
			rect.right < around.right &&
			rect.top > around.top + 40 &&
			rect.bottom < around.bottom;
		if (!inside) this.#ground.centre(active.at[0] - 30, active.at[1] + 60);
	}

	isValid({ source, sourceHandle, target, targetHandle }: Connection): boolean {
		const { graph } = this.#editor();
		const fit = fitsInGraph(
			this.taken ? withoutWires(graph, [this.taken]) : graph,
			[source ?? '', sourceHandle ?? ''],
			[target ?? '', targetHandle ?? '']
		);
		this.refusal = fit.fits ? null : { ...this.pointer, text: fit.reason };
		return fit.fits;
	}

	/** The end of a wire was let go of somewhere. */
	end: OnConnectEnd = (event, state) => {
		this.refusal = null;
		const { clientX: x, clientY: y } = 'changedTouches' in event ? event.changedTouches[0] : event;
		const from = state.fromHandle;
		if (!from || state.isValid || this.taken) return;
		const under = document.elementFromPoint(x, y);
		const over = under?.closest<HTMLElement>('[data-node-id]')?.dataset.nodeId;
		const port: [string, string] = [from.nodeId, from.id ?? ''];
		const isSource = from.type === 'source';
		if (under?.closest('[data-body-edge]')) {
			const [px, py] = this.#ground.place(x, y);
			return this.#editor().place.addPortAtEdge(port, isSource, [px + (isSource ? 20 : -220), py - 20]);
		}
		const end = wireEnd(this.#editor().graph, port, isSource, over, state.toHandle?.id ?? null);
		if (end?.does === 'refuse') toast.error(end.reason);
		else if (end?.does === 'connect') this.connect(port, end.to);
		else if (end?.does === 'choose') this.choosing = { x, y, from: port, node: end.node };
		else if (end?.does === 'search') {
			const [px, py] = this.#ground.place(x, y - 20);
			this.search = isSource
				? { x, y, wanted: end.wanted, from: port, at: [px, py] }
				: { x, y, wanted: end.wanted, to: port, at: [px - 190, py] };
		}
	};

	connect(from: Port, to: Port): void {
		const reason = this.#editor().connect(from, to);
		if (reason) toast.error(reason);
	}

	/** The end of a wire that was taken was let go of: over a node it goes to what takes it there, over bare ground it is cut. */
	letGo: OnConnectEnd = (event, state) => {
		const wire = this.taken;
		this.taken = this.refusal = null;
		const { fromHandle: from } = state;
		if (!wire || !from || state.isValid) return;
		const { clientX: x, clientY: y } = 'changedTouches' in event ? event.changedTouches[0] : event;
		const over = document.elementFromPoint(x, y)?.closest<HTMLElement>('[data-node-id]')?.dataset.nodeId;
		const editor = this.#editor();
		if (!over) return editor.disconnect([wire]);
		if (from.type !== 'source') return void toast('Let go of it on an output.');
		const rest = withoutWires(editor.graph, [wire]);
		const end = wireEnd(rest, [from.nodeId, from.id ?? ''], true, over, state.toHandle?.id ?? null);
		if (end?.does === 'refuse') toast.error(end.reason);
		else if (end?.does === 'choose') toast('Several inputs of it take this: let go of it on one of them.');
		else if (end?.does === 'connect') {
			const reason = editor.rewire(wire, wire.from, end.to);
			if (reason) toast.error(reason);
		}
	};

	/** The end of a wire that was taken off its port came to another one. */
	rewire(wire: Wire, { source, sourceHandle, target, targetHandle }: Connection): void {
		const reason = this.#editor().rewire(
			wire,
			[source ?? '', sourceHandle ?? ''],
			[target ?? '', targetHandle ?? '']
		);
		if (reason) toast.error(reason);
	}
}
