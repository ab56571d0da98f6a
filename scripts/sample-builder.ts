/** Builds a sample's graph node by node. */
import type { GeneratorDocument, Graph, GraphNode } from '../core/engine/index.ts';
import { newDocument, newNode, withPorts, withWire } from '../core/engine/index.ts';

/** Adds nodes by kind; wires are given as input: [node, port]. */
export class Builder {
	graph: Graph = { nodes: [], wires: [], notes: [] };
	readonly #salt: string;
	readonly #bodies: Record<string, Graph> = {};
	constructor(salt: string) {
		this.#salt = salt;
	}
	/** A body, built by itself; nodes that use it say its id in their settings. */
	body(id: string, name: string, build: (inner: Builder) => void): string {
		const inner = new Builder(`${this.#salt}-${id}`);
		build(inner);
		this.#bodies[id] = { ...inner.graph, name };
		Object.assign(this.#bodies, inner.#bodies);
		return id;
	}
	/** The ports of a node as its body says. */
	#withPorts(node: GraphNode): GraphNode {
		const graphs = { ...this.#bodies, main: { nodes: [node], wires: [], notes: [] } };
		return withPorts({ ...newDocument(''), graphs }).graphs.main.nodes[0];
	}
	add(
		kind: string,
		short: string,
		at: [number, number],
		settings: Record<string, unknown>,
		wires: Record<string, [GraphNode, string] | [GraphNode, string][]> = {},
		more: Partial<GraphNode> = {}
	): GraphNode {
		const made = newNode(this.graph, kind, at, settings);
		const node: GraphNode = this.#withPorts({
			...made,
			// What is set at ports of a body, only the body knows.
			...('body' in settings && { settings: { ...made.settings, ...(settings as GraphNode['settings']) } }),
			short,
			stream: `${this.#salt}-${short}`,
			...more
		});
		this.graph = { ...this.graph, nodes: [...this.graph.nodes, node] };
		for (const [port, from] of Object.entries(wires))
			for (const [source, output] of (Array.isArray(from[0]) ? from : [from]) as [GraphNode, string][])
				this.graph = withWire(this.graph, { from: [source.id, output], to: [node.id, port] });
		return node;
	}
	note(at: [number, number], text: string, width = 260): void {
		this.graph = {
			...this.graph,
			notes: [...this.graph.notes, { id: `t${this.graph.notes.length + 1}`, at, text, width }]
		};
	}
	done(name: string, seed: number, view: Partial<GeneratorDocument['view']> = {}): GeneratorDocument {
		const result = this.graph.nodes.find((node) => node.kind === 'result')!;
		// Columns and rows as near as labels allow.
		const squeeze = ([x, y]: [number, number]): [number, number] => [
			Math.round(x * 0.84),
			Math.round(y * 0.8)
		];
		this.graph = {
			...this.graph,
			nodes: this.graph.nodes.map((node) => ({ ...node, at: squeeze(node.at) })),
			notes: this.graph.notes.map((note) => ({ ...note, at: squeeze(note.at) }))
		};
		return {
			...newDocument(name),
			seed,
			graphs: { ...this.#bodies, main: this.graph },
			view: { shown: [result.id], ghosts: [], background: 'theme', ...view }
		};
	}
}

export const range = (low: number, high: number, stream: string) => ({ low, high, stream });
export const around = (base: number, variation: number, stream: string) => ({ base, variation, stream });
export const formula = (text: string, ...streams: string[]) => ({ formula: text, streams });
