/** Making a body of some nodes of a graph: they become one node, and what they give and take its ports. */
import type { InputDefinition } from '../nodes/index.ts';
import { renameDotted, renameName } from '../varying/index.ts';
import { bodyNameOf, portOf, withPorts } from './bodies.ts';
import { numbered } from './free-names.ts';
import { freeShort, mapFormulas, newNode, spokenOf, textsOf } from './build.ts';
import { inputOf, outputOf, outputsOf } from './connect.ts';
import type { FormulaSetting, GeneratorDocument, Graph, GraphNode, Setting, Wire } from './document.ts';
import { MOST_BODIES, NO_STEP } from './document.ts';
import type { SettingRef } from './graph-index.ts';
import { GraphIndex, referencesIn } from './graph-index.ts';
import { portName } from './port-names.ts';
import { formulaNames, formulaTexts, settingOf } from './settings-graph.ts';

export interface Made {
	document: GeneratorDocument;
	/** The node that they have become. */
	node: string;
}
/** Why something cannot be done, in a sentence. */
export interface Refused {
	reason: string;
}

/** An id that no body has. */
export function freeBodyId({ graphs }: Pick<GeneratorDocument, 'graphs'>): string {
	return numbered('b', (id) => Object.hasOwn(graphs, id), 1);
}

/** An empty body for a new node of a kind that has one: it hands through what it gets. */
function startingBody(kind: string, name: string): Graph {
	let graph: Graph = { name, nodes: [], wires: [], notes: [] };
	const add = (of: string, at: [number, number], settings: Record<string, unknown>): GraphNode => {
		const node = newNode(graph, of, at, settings);
		graph = { ...graph, nodes: [...graph.nodes, node] };
		return node;
	};
	const isRepeat = kind === 'repeat';
	const out = { name: kind === 'vary-each-copy' ? 'shape' : 'geometry', carries: 'geometry' };
	if (kind === 'vary-each-copy') {
		add('input', [0, 0], { name: 'amount', carries: 'number', default: 1 });
		add('output', [560, 0], out);
		return graph;
	}
	const from = add('input', [0, 0], {
		name: 'geometry',
		carries: 'geometry',
		role: isRepeat ? 'carried' : 'same'
	});
	const to = add('output', [560, 0], out);
	return { ...graph, wires: [{ from: [from.id, 'value'], to: [to.id, 'value'] }] };
}

/** The document with a body for a node that has none yet, or whose body is not there. */
export function withStartingBody(document: GeneratorDocument, graph: string, id: string): GeneratorDocument {
	const node = document.graphs[graph].nodes.find((one) => one.id === id);
	const body = node ? bodyNameOf(node) : null;
	if (!node || body === null || (body && Object.hasOwn(document.graphs, body))) return document;
	const own = freeBodyId(document);
	const named = { ...node, settings: { ...node.settings, body: own } };
	return withPorts({
		...document,
		graphs: {
			...document.graphs,
			[graph]: replaced(document.graphs[graph], named),
			[own]: startingBody(node.kind, node.short)
		}
	});
}

const replaced = (graph: Graph, node: GraphNode): Graph => ({
	...graph,
	nodes: graph.nodes.map((one) => (one.id === node.id ? node : one))
});

/** Why some nodes cannot become a body; null where they can. */
function whyNoBody(graph: Graph, ids: ReadonlySet<string>): string | null {
	const nodes = graph.nodes.filter(({ id }) => ids.has(id));
	if (!nodes.length) return 'Select the nodes that it shall be made of.';
	const port = nodes.find(({ kind }) => kind === 'input' || kind === 'output' || kind === 'result');
	if (port) return `${port.short} belongs to this graph and stays in it. Leave it out of the selection.`;
	// What hangs from them outside, each with the first on the way there: none of it may lead back in.
	const first = new Map<string, string>();
	for (const { from, to } of graph.wires) if (ids.has(from[0]) && !ids.has(to[0])) first.set(to[0], to[0]);
	const next = new Map<string, string[]>();
	for (const { from, to } of graph.wires)
		if (next.has(from[0])) next.get(from[0])!.push(to[0]);
		else next.set(from[0], [to[0]]);
	for (const [id, through] of first)
		for (const to of next.get(id) ?? []) {
			if (ids.has(to)) {
				const between = graph.nodes.find((node) => node.id === through)!;
				return `${between.short} stands between the selected nodes: what they give goes through it and comes back. Select it too.`;
			}
			if (!first.has(to)) first.set(to, through);
		}
	return null;
}

/** Some nodes of a graph become one node with a body, of the kind that is asked for. */
export function makeBody(
	document: GeneratorDocument,
	graphId: string,
	ids: ReadonlySet<string>,
	kind: 'subgraph' | 'repeat' | 'vary-each-copy',
	name = ''
): Made | Refused {
	const reason = whyNoBody(document.graphs[graphId], ids);
	if (reason) return { reason };
	if (Object.keys(document.graphs).length > MOST_BODIES)
		return { reason: `A generator holds no more than ${MOST_BODIES} subgraphs.` };
	const maker = new BodyMaker(document, graphId, ids, kind, name);
	const trouble = maker.bringOutWhatIsReferred();
	return trouble ? { reason: trouble } : maker.made();
}

/** A place where something goes through the edge of the body. */
interface Edge {
	/** The name of the port. */
	name: string;
	/** The Input or Output node inside. */
	node: GraphNode;
}

class BodyMaker {
	readonly #document: GeneratorDocument;
	readonly #graphId: string;
	readonly #before: Graph;
	readonly #index: GraphIndex;
	readonly #ids: ReadonlySet<string>;
	readonly #id: string;
	#inside: Graph;
	#outside: Graph;
	#use: GraphNode;
	/** The Input nodes of the graph itself, where that is a body. */
	readonly #ports: readonly GraphNode[];
	/** Inputs by what they come from: an output outside, a setting outside, or a setting inside that is brought out. */
	readonly #inputs = new Map<string, Edge>();
	readonly #outputs = new Map<string, Edge>();

	constructor(
		document: GeneratorDocument,
		graphId: string,
		ids: ReadonlySet<string>,
		kind: string,
		name: string
	) {
		this.#document = document;
		this.#graphId = graphId;
		this.#ids = new Set(document.graphs[graphId].nodes.map(({ id }) => id).filter((id) => ids.has(id)));
		this.#id = freeBodyId(document);
		const graph = (this.#before = document.graphs[graphId]);
		this.#index = GraphIndex.of(graph);
		this.#ports = graph.nodes.filter((node) => node.kind === 'input');
		const nodes = graph.nodes.filter(({ id }) => ids.has(id));
		const rest = graph.nodes.filter(({ id }) => !ids.has(id));
		const notes = (wanted: boolean) => graph.notes.filter(({ id }) => ids.has(id) === wanted);
		this.#inside = { name: '', nodes, wires: [], notes: notes(true) };
		this.#outside = { ...graph, nodes: rest, wires: [], notes: notes(false) };
		const middle = (k: 0 | 1) => nodes.reduce((sum, { at }) => sum + at[k], 0) / nodes.length;
		this.#use = {
			...newNode(this.#outside, kind, [Math.round(middle(0)), Math.round(middle(1))], { body: this.#id }),
			// What was drawn at random stays as it was.
			stream: NO_STEP
		};
		if (name) this.#use = { ...this.#use, short: freeShort(this.#outside, name) };
		this.#inside.name = name || this.#use.short;
	}

	#nodeInside(
		kind: string,
		at: [number, number],
		settings: Record<string, unknown>,
		short: string
	): GraphNode {
		const made = newNode(
			{ ...this.#inside, nodes: [...this.#inside.nodes, ...this.#outside.nodes] },
			kind,
			at,
			settings
		);
		const node = { ...made, short: freeShort(this.#inside, short) };
		this.#inside = { ...this.#inside, nodes: [...this.#inside.nodes, node] };
		return node;
	}

	/** The Input node through which something comes in; made where it is not there yet. */
	#inputFor(key: string, wanted: string, settings: Record<string, unknown>): Edge {
		let edge = this.#inputs.get(key);
		if (!edge) {
			const name = nameBeside(this.#inputs, wanted);
			const left = Math.min(...[...this.#ids].map((id) => this.#index.byId.get(id)!.at[0]));
			const top = Math.min(...[...this.#ids].map((id) => this.#index.byId.get(id)!.at[1]));
			const at: [number, number] = [left - 280, top + 120 * this.#inputs.size];
			edge = { name, node: this.#nodeInside('input', at, { name, ...settings }, name) };
			this.#inputs.set(key, edge);
		}
		return edge;
	}

	#outputFor([id, port]: readonly [string, string]): Edge {
		const key = `${id} ${port}`;
		let edge = this.#outputs.get(key);
		if (!edge) {
			const node = this.#index.byId.get(id)!;
			const output = outputOf(node, port)!;
			const name = nameBeside(this.#outputs, output.label);
			const right = Math.max(...[...this.#ids].map((one) => this.#index.byId.get(one)!.at[0]));
			const at: [number, number] = [right + 300, node.at[1]];
			const settings = { name, carries: output.kind };
			edge = { name, node: this.#nodeInside('output', at, settings, name) };
			this.#outputs.set(key, edge);
			this.#inside = {
				...this.#inside,
				wires: [...this.#inside.wires, { from: [id, port], to: [edge.node.id, 'value'] }]
			};
		}
		return edge;
	}

	/**
	 * Formulas on both sides of the edge that speak of settings on the other. Outside settings come in by inputs; inside
	 * settings that are spoken of outside become settings of the use. A sentence where that cannot be.
	 */
	bringOutWhatIsReferred(): string | null {
		const all = [...this.#before.nodes];
		const broughtOut = new Set<string>();
		const queue: { node: GraphNode; setting: string }[] = [];
		const want = (node: GraphNode, setting: string) => {
			const key = `${node.id} ${setting}`;
			if (!broughtOut.has(key)) queue.push({ node, setting });
			broughtOut.add(key);
		};
		for (const node of all)
			if (!this.#ids.has(node.id))
				for (const to of this.#referredBy(node)) {
					if (!this.#ids.has(to.node.id)) continue;
					if (to.isOutput)
						return `A formula of ${node.short}, outside, reads ${to.node.short}.${to.setting}. Wire that output into it in place of the formula first.`;
					want(to.node, to.setting);
				}
			else
				for (const to of this.#referredBy(node))
					if (to.isOutput && !this.#ids.has(to.node.id))
						return `A formula of ${node.short} reads ${to.node.short}.${to.setting}, which stands outside. Select ${to.node.short} too, or wire that output in.`;
		for (const { node, setting } of queue) {
			if (this.#index.wiresInto(node.id, setting).length)
				return `A formula outside follows ${node.short}.${setting}, which a wire sets. Let it follow what the wire comes from.`;
			for (const to of this.#referredBy(node, setting))
				if (this.#ids.has(to.node.id)) want(to.node, to.setting);
		}
		for (const { node, setting } of queue) {
			const { kind, label } = inputOf(node, setting)!;
			if (!PORTED.has(kind))
				return `A formula outside follows “${label}” of ${node.short}, which cannot be brought out.`;
			this.#bringOut(node, setting);
		}
		for (const { node, setting } of queue) this.#setOnUse(node, setting);
		this.#letIn();
		return null;
	}

	#referredBy(node: GraphNode, only?: string): SettingRef[] {
		const names = only === undefined ? formulaNames(node) : [only];
		return names.flatMap((name) =>
			formulaTexts(node, name).flatMap((text) => referencesIn(text, node, this.#index, name))
		);
	}

	/** A setting of a node inside becomes one of the use; a wire from its Input sets it from then on. */
	#bringOut(node: GraphNode, setting: string): void {
		const input = inputOf(node, setting)!;
		const edge = this.#inputFor(
			`own ${node.id} ${setting}`,
			`${node.short} ${input.label}`,
			settingsOfInput(input)
		);
		this.#inside = {
			...this.#inside,
			wires: [...this.#inside.wires, { from: [edge.node.id, 'value'], to: [node.id, setting] }]
		};
	}

	/** What was set inside stands at the use; its formulas speak of settings of the use in place of those that were brought out too. */
	#setOnUse(node: GraphNode, setting: string): void {
		const { name } = this.#inputs.get(`own ${node.id} ${setting}`)!;
		const own = settingOf(node, setting, inputOf(node, setting)!);
		let settings: GraphNode['settings'] = { [name]: own };
		for (const to of this.#referredBy(node, setting)) {
			const edge = this.#inputs.get(`own ${to.node.id} ${to.setting}`);
			if (!edge) continue;
			settings = mapFormulas({ ...this.#use, settings }, (text) => {
				const dotted = renameDotted(text, `${to.node.short}.${to.setting}`, edge.name);
				return to.node === node ? renameName(dotted, to.setting, edge.name) : dotted;
			});
		}
		this.#use = { ...this.#use, settings: { ...this.#use.settings, ...settings } };
	}

	/** Formulas inside speak of an Input in place of a setting outside. */
	#letIn(): void {
		const nodes = this.#inside.nodes.map((node) => {
			if (!this.#ids.has(node.id)) return node;
			let settings = node.settings;
			for (const { node: other, setting } of this.#referredBy(node)) {
				if (this.#ids.has(other.id)) continue;
				const input = inputOf(other, setting)!;
				const dotted = `${other.short}.${setting}`;
				const edge = this.#inputFor(`of ${dotted}`, `${other.short} ${input.label}`, settingsOfInput(input));
				this.#use = {
					...this.#use,
					settings: { ...this.#use.settings, [edge.name]: following(dotted, input.kind) }
				};
				settings = mapFormulas({ ...node, settings }, (text) =>
					renameDotted(text, dotted, `${edge.node.short}.value`)
				);
			}
			// Inputs of the body in which they stand are spoken of by their values.
			for (const input of spokenOf(this.#ports, textsOf(node))) {
				const dotted = `${input.short}.value`;
				const { carries, unit = '' } = portOf(input);
				const edge = this.#inputFor(`of ${dotted}`, portOf(input).name, { carries, unit });
				this.#use = {
					...this.#use,
					settings: { ...this.#use.settings, [edge.name]: following(dotted, carries) }
				};
				settings = mapFormulas({ ...node, settings }, (text) =>
					renameDotted(text, dotted, `${edge.node.short}.value`)
				);
			}
			return settings === node.settings ? node : { ...node, settings };
		});
		const made = this.#inside.nodes.slice(nodes.length);
		this.#inside = { ...this.#inside, nodes: [...nodes, ...made] };
	}

	made(): Made {
		const use = this.#use.id;
		const outside: Wire[] = [];
		const inside: Wire[] = [];
		for (const wire of this.#before.wires) {
			const from = this.#ids.has(wire.from[0]),
				to = this.#ids.has(wire.to[0]);
			if (from && to) inside.push(wire);
			else if (to) {
				const source = this.#index.byId.get(wire.from[0]);
				const output = outputOf(source, wire.from[1]);
				const input = inputOf(this.#index.byId.get(wire.to[0])!, wire.to[1]);
				if (!output || !input) continue;
				const key = wire.from.join(' ');
				const isNew = !this.#inputs.has(key);
				const edge = this.#inputFor(key, input.label, { carries: output.kind });
				if (isNew) outside.push({ from: wire.from, to: [use, edge.name] });
				inside.push({ from: [edge.node.id, 'value'], to: wire.to });
			} else if (from) outside.push({ from: [use, this.#outputFor(wire.from).name], to: wire.to });
			else outside.push(wire);
		}
		// What nothing hangs from would be lost to sight.
		const used = new Set(this.#before.wires.map(({ from }) => from[0]));
		for (const id of this.#ids) {
			const [first] = Object.keys(outputsOf(this.#index.byId.get(id)!));
			if (!used.has(id) && first) this.#outputFor([id, first]);
		}
		this.#inside = { ...this.#inside, wires: [...inside, ...this.#inside.wires] };
		const wires = this.#use.kind === 'repeat' ? this.#carried(outside) : outside;
		const graphs = {
			...this.#document.graphs,
			[this.#graphId]: {
				...this.#outside,
				nodes: [...this.#outside.nodes.map((node) => this.#followingUse(node)), this.#use],
				wires
			},
			[this.#id]: this.#inside
		};
		return { document: withPorts({ ...this.#document, graphs }), node: use };
	}

	/** Formulas outside speak of the use in place of a node inside. */
	#followingUse(node: GraphNode): GraphNode {
		let settings = node.settings;
		for (const { node: other, setting } of this.#referredBy(node)) {
			if (!this.#ids.has(other.id)) continue;
			const edge = this.#inputs.get(`own ${other.id} ${setting}`)!;
			settings = mapFormulas({ ...node, settings }, (text) =>
				renameDotted(text, `${other.short}.${setting}`, `${this.#use.short}.${edge.name}`)
			);
		}
		return settings === node.settings ? node : { ...node, settings };
	}

	/** In a repeat the first geometry that comes in is carried: what goes out first goes in again, both by one name. */
	#carried(outside: readonly Wire[]): Wire[] {
		const first = (kind: string) =>
			this.#inside.nodes.find((node) => node.kind === kind && node.settings.carries === 'geometry');
		const [into, out] = [first('input'), first('output')];
		if (!into || !out) return [...outside];
		const others = [...this.#inputs.values(), ...this.#outputs.values()].filter(
			({ node }) => node.id !== into.id && node.id !== out.id
		);
		const name = portName('geometry', new Set(others.map((edge) => edge.name)));
		const before = [String(into.settings.name), String(out.settings.name)];
		this.#inside = {
			...this.#inside,
			nodes: this.#inside.nodes.map((node) =>
				node === into || node === out
					? { ...node, settings: { ...node.settings, name, ...(node === into && { role: 'carried' }) } }
					: node
			)
		};
		const use = this.#use.id;
		return outside.map(({ from, to }): Wire => ({
			from: from[0] === use && from[1] === before[1] ? [use, name] : from,
			to: to[0] === use && to[1] === before[0] ? [use, name] : to
		}));
	}
}

/** A name for one more port on a side. */
const nameBeside = (edges: ReadonlyMap<string, Edge>, wanted: string): string =>
	portName(wanted, new Set([...edges.values()].map(({ name }) => name)));

/** Kinds of setting that can be brought out through a port. */
const PORTED: ReadonlySet<string> = new Set(['number', 'vector', 'colour', 'yesno', 'value']);

/** What an Input that stands in for a setting says of itself. */
export function settingsOfInput(input: InputDefinition): Record<string, unknown> {
	const carries = input.kind;
	const limits =
		input.kind === 'number' && input.min !== undefined && input.max !== undefined
			? { limited: true, minimum: input.min, maximum: input.max }
			: {};
	const start =
		input.kind === 'number'
			? { default: input.default }
			: input.kind === 'vector' || input.kind === 'colour'
				? { defaultParts: [...input.default] }
				: input.kind === 'yesno'
					? { defaultYes: input.default }
					: {};
	return {
		carries: input.kind === 'number' && input.whole ? 'whole' : carries,
		unit: 'unit' in input ? (input.unit ?? '') : '',
		says: input.help.slice(0, 500),
		...start,
		...limits
	};
}

/** A setting that follows another, by its dotted name; of vectors part by part. */
function following(dotted: string, carries: string): Setting {
	const formula = (text: string): FormulaSetting => ({ formula: text, streams: [] });
	if (carries !== 'vector' && carries !== 'colour') return formula(dotted);
	return [formula(`${dotted}.x`), formula(`${dotted}.y`), formula(`${dotted}.z`)];
}
