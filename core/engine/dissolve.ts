/** Taking a subgraph apart: the nodes of its body stand again where the use of it stood. */
import { renameDotted } from '../varying/index.ts';
import { bodyNameOf, portOf, withPorts } from './bodies.ts';
import { freeShort, mapFormulas, newNode, spokenOf, textsOf, withShorts, withStreams } from './build.ts';
import { inputOf } from './connect.ts';
import type { GeneratorDocument, Graph, GraphNode, Note, Setting, Wire } from './document.ts';
import { NO_STEP, newStream } from './document.ts';
import type { Refused } from './make-body.ts';
import { withoutOrphans } from './orphans.ts';
import { settingOf } from './settings-graph.ts';
import { cutPart, partName, wiresIntoParts } from './vector-parts.ts';

/** The document with the nodes of a subgraph in place of one use of it, and their ids. */
export function dissolve(
	document: GeneratorDocument,
	graphId: string,
	id: string
): { document: GeneratorDocument; nodes: string[] } | Refused {
	const graph = document.graphs[graphId];
	const use = graph.nodes.find((node) => node.id === id);
	const bodyId = use ? bodyNameOf(use) : null;
	if (!use || use.kind !== 'subgraph' || !bodyId || !Object.hasOwn(document.graphs, bodyId))
		return { reason: 'Only a subgraph can be taken apart: what is evaluated many times has no one place.' };
	const taker = new Taker(graph, use, document.graphs[bodyId]);
	const reason = taker.whyNot();
	if (reason) return { reason };
	const made = taker.made();
	const graphs = { ...document.graphs, [graphId]: made.graph };
	return { document: withoutOrphans(withPorts({ ...document, graphs }), document.graphs), nodes: made.nodes };
}

class Taker {
	readonly #graph: Graph;
	readonly #use: GraphNode;
	readonly #body: Graph;
	/** The ids and short names that the inner nodes have outside. */
	readonly #ids = new Map<string, string>();
	readonly #shorts = new Map<string, string>();
	readonly #inputs: ReadonlyMap<string, GraphNode>;

	constructor(graph: Graph, use: GraphNode, body: Graph) {
		this.#graph = graph;
		this.#use = use;
		this.#body = body;
		this.#inputs = new Map(body.nodes.filter(({ kind }) => kind === 'input').map((node) => [node.id, node]));
	}

	/** Inner formulas speak of inputs; what is wired to those must then have a name outside. */
	whyNot(): string | null {
		for (const input of this.#spokenOf()) {
			const { name, carries } = portOf(input);
			if (carries === 'number' || carries === 'whole' || carries === 'value' || carries === 'yesno') continue;
			return `Formulas inside speak of “${name}”, which has no name outside. Give those settings plain values, or wire them, first.`;
		}
		for (const { from, to } of this.#body.wires) {
			const input = this.#inputs.get(from[0]);
			if (!input || !this.#partWiresInto(portOf(input).name).length) continue;
			const target = this.#body.nodes.find(({ id }) => id === to[0]);
			if (target && inputOf(target, to[1])?.kind === 'vector') continue;
			return `One part of “${portOf(input).name}” is wired, and inside it goes where there are no parts. Wire it as a whole first.`;
		}
		return null;
	}

	/** The inputs of the body of which a formula inside speaks. */
	#spokenOf(): GraphNode[] {
		return spokenOf([...this.#inputs.values()], this.#body.nodes.flatMap(textsOf));
	}

	#wireInto(name: string): Wire | undefined {
		return this.#graph.wires.findLast(({ to }) => to[0] === this.#use.id && to[1] === name);
	}

	/** The wires into parts of a port of the use. */
	#partWiresInto(name: string): readonly Wire[] {
		return wiresIntoParts(this.#graph.wires, name).filter(({ to }) => to[0] === this.#use.id);
	}

	/** What is set at a port of the use, or what stands there where nothing is. */
	#settingAt(input: GraphNode): Setting | null {
		const { name } = portOf(input);
		const of = inputOf(this.#use, name);
		return of ? settingOf(this.#use, name, of) : null;
	}

	made(): { graph: Graph; nodes: string[] } {
		const inner = this.#body.nodes.filter(({ kind }) => kind !== 'input' && kind !== 'output');
		let graph: Graph = { ...this.#graph, nodes: this.#graph.nodes.filter((node) => node !== this.#use) };
		const middle = (k: 0 | 1) => inner.reduce((sum, { at }) => sum + at[k], 0) / (inner.length || 1);
		const shift = [this.#use.at[0] - middle(0), this.#use.at[1] - middle(1)];
		const add = (node: GraphNode, wanted: string): GraphNode => {
			const { id } = newNode(graph, node.kind, node.at);
			const made = { ...node, id, short: freeShort(graph, wanted) };
			graph = { ...graph, nodes: [...graph.nodes, made] };
			return made;
		};
		// A number that formulas speak of is a Number node from now on.
		for (const input of this.#spokenOf()) {
			const setting = this.#settingAt(input);
			const at: [number, number] = [Math.round(input.at[0] + shift[0]), Math.round(input.at[1] + shift[1])];
			const made = add(newNode(graph, 'number', at, { value: setting ?? 0 }), input.short);
			this.#ids.set(input.id, made.id);
			this.#shorts.set(input.short, made.short);
		}
		for (const node of inner) {
			const at: [number, number] = [Math.round(node.at[0] + shift[0]), Math.round(node.at[1] + shift[1])];
			const made = add({ ...node, at }, node.short);
			this.#ids.set(node.id, made.id);
			this.#shorts.set(node.short, made.short);
		}
		const own = new Set(this.#ids.values());
		const set = this.#settingsFromPorts();
		const nodes = graph.nodes.map((node) => {
			if (!own.has(node.id)) return node;
			const renamed = { ...node, settings: withShorts(node, this.#shorts) };
			const drawn =
				node.kind === 'number' && !inner.some(({ id }) => this.#ids.get(id) === node.id)
					? renamed
					: this.#drawing(renamed);
			return { ...drawn, settings: { ...drawn.settings, ...set.get(node.id) } };
		});
		const taken = new Set(graph.notes.map(({ id }) => id));
		const notes = this.#body.notes.map((note): Note => {
			let id = note.id;
			while (taken.has(id)) id = `t${newStream().slice(0, 8)}`;
			taken.add(id);
			return { ...note, id, at: [Math.round(note.at[0] + shift[0]), Math.round(note.at[1] + shift[1])] };
		});
		return {
			graph: {
				...graph,
				nodes: nodes.map((node) => this.#following(node, own)),
				notes: [...graph.notes, ...notes],
				wires: this.#wires()
			},
			nodes: [...own]
		};
	}

	/** A node whose random streams are one step further down, as they were inside. */
	#drawing(node: GraphNode): GraphNode {
		const step = this.#use.settings.same === true ? NO_STEP : this.#use.stream;
		if (step === NO_STEP) return node;
		const further = (stream: string): string => (stream === NO_STEP ? step : `${step}/${stream}`);
		return { ...node, settings: withStreams(node.settings, further), stream: further(node.stream) };
	}

	/** What stood at ports of the use stands at the settings that they were wired to, by node. */
	#settingsFromPorts(): Map<string, Record<string, Setting>> {
		const set = new Map<string, Record<string, Setting>>();
		for (const { from, to } of this.#body.wires) {
			const input = this.#inputs.get(from[0]);
			const node = this.#ids.get(to[0]);
			if (!input || !node || this.#wireInto(portOf(input).name)) continue;
			const target = inputOf(
				this.#body.nodes.find(({ id }) => id === to[0])!,
				to[1]
			);
			const setting = this.#settingAt(input);
			if (!target || setting === null) continue;
			const isVector = target.kind === 'vector' || target.kind === 'colour';
			const fitted = isVector && !Array.isArray(setting) ? ([setting, setting, setting] as Setting) : setting;
			set.set(node, { ...set.get(node), [to[1]]: fitted });
		}
		return set;
	}

	/** Where the wires of the use came from and went to, those of its nodes do now. */
	#wires(): Wire[] {
		const use = this.#use.id;
		/** What comes out of an output of a node of the body, outside: null where nothing does. */
		const outside = ([id, port]: Wire['from']): Wire['from'] | null => {
			const input = this.#inputs.get(id);
			if (input) {
				const wire = this.#wireInto(portOf(input).name);
				if (wire) return wire.from;
				const otherwise = this.#body.wires.findLast(({ to }) => to[0] === id && to[1] === 'otherwise');
				return otherwise ? outside(otherwise.from) : null;
			}
			const own = this.#ids.get(id);
			return own ? [own, port] : null;
		};
		const leaving = new Map<string, Wire['from']>();
		for (const node of this.#body.nodes) {
			if (node.kind !== 'output') continue;
			const wire = this.#body.wires.findLast(({ to }) => to[0] === node.id);
			const from = wire && outside(wire.from);
			if (from) leaving.set(portOf(node).name, from);
		}
		const kept = this.#graph.wires.flatMap((wire): Wire[] => {
			if (wire.to[0] === use) return [];
			if (wire.from[0] !== use) return [wire];
			const from = leaving.get(wire.from[1]);
			return from ? [{ from, to: wire.to }] : [];
		});
		const inner = this.#body.wires.flatMap(({ from, to }): Wire[] => {
			const target = this.#ids.get(to[0]);
			const input = this.#inputs.get(from[0]);
			const parts = input ? this.#partWiresInto(portOf(input).name) : [];
			if (parts.length && target)
				return parts.map((wire) => ({
					from: wire.from,
					to: [target, partName(to[1], cutPart(wire.to[1])!.part)]
				}));
			const source = outside(from);
			return source && target ? [{ from: source, to: [target, to[1]] }] : [];
		});
		const named = this.#spokenOf().flatMap((input): Wire[] => {
			const wire = this.#wireInto(portOf(input).name);
			return wire ? [{ from: wire.from, to: [this.#ids.get(input.id)!, 'value'] }] : [];
		});
		return [...kept, ...named, ...inner];
	}

	/** Formulas outside that spoke of a setting of the use speak of the one that it was wired to. */
	#following(node: GraphNode, own: ReadonlySet<string>): GraphNode {
		if (own.has(node.id)) return node;
		let settings = node.settings;
		for (const input of this.#inputs.values()) {
			const { name } = portOf(input);
			const wire = this.#body.wires.find(({ from }) => from[0] === input.id);
			const target = wire && this.#body.nodes.find(({ id }) => id === wire.to[0]);
			const to =
				this.#shorts.get(input.short) !== undefined
					? `${this.#shorts.get(input.short)}.value`
					: target && this.#shorts.has(target.short)
						? `${this.#shorts.get(target.short)}.${wire.to[1]}`
						: null;
			if (!to) continue;
			const dotted = `${this.#use.short}.${name}`;
			settings = mapFormulas({ ...node, settings }, (text) => renameDotted(text, dotted, to));
		}
		return settings === node.settings ? node : { ...node, settings };
	}
}
