/** Builds a sample's graph node by node. */
import type { GeneratorDocument, Graph, GraphNode } from '../core/index.ts';
import { newDocument, newNode, withWire } from '../core/index.ts';

/** Adds nodes by kind; wires are given as input: [node, port]. */
export class Builder {
	graph: Graph = { nodes: [], wires: [], notes: [] };
	readonly #salt: string;
	constructor(salt: string) {
		this.#salt = salt;
	}
	add(
		kind: string,
		short: string,
		at: [number, number],
		settings: Record<string, unknown>,
		wires: Record<string, [GraphNode, string] | [GraphNode, string][]> = {},
		more: Partial<GraphNode> = {}
	): GraphNode {
		const node: GraphNode = {
			...newNode(this.graph, kind, at, settings),
			short,
			stream: `${this.#salt}-${short}`,
			...more
		};
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
			graphs: { main: this.graph },
			view: { shown: [result.id], ghosts: [], background: 'theme', ...view }
		};
	}
}

export const range = (low: number, high: number, stream: string) => ({ low, high, stream });
export const around = (base: number, variation: number, stream: string) => ({ base, variation, stream });
export const formula = (text: string, ...streams: string[]) => ({ formula: text, streams });
