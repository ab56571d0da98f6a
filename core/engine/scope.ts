/** A graph at work: the main one, or a body for one of its uses. */
import type { GraphNode, GeneratorDocument, Graph } from './document.ts';
import { GraphIndex } from './graph-index.ts';
import type { NodeResult } from './result.ts';
import { nodeKinds } from '../nodes/index.ts';
import { Incomplete, Waiting } from './inputs/index.ts';
import { SettingsGraph } from './settings-graph.ts';
import type { Value } from './values.ts';

/** What arrives in a body by one of its inputs, with the key of what made it. */
export interface Arrival {
	readonly value: Value;
	readonly key: string;
}

export interface ScopeOptions {
	document: GeneratorDocument;
	graph: Graph;
	seed: number;
	/** Names the uses, passes and groups on the way down; it goes into every random stream. */
	path: string;
	arrivals: ReadonlyMap<string, Arrival>;
	/** The bodies on the way down, the outermost first. */
	bodies: readonly string[];
}

export class Scope {
	readonly document: GeneratorDocument;
	readonly index: GraphIndex;
	readonly seed: number;
	readonly path: string;
	readonly arrivals: ReadonlyMap<string, Arrival>;
	readonly bodies: readonly string[];
	readonly results = new Map<string, NodeResult>();
	readonly settings: SettingsGraph;
	/** Nodes that are being evaluated or wait for others. */
	readonly open = new Set<string>();

	constructor({ document, graph, seed, path, arrivals, bodies }: ScopeOptions) {
		this.document = document;
		this.index = GraphIndex.of(graph);
		this.seed = seed;
		this.path = path;
		this.arrivals = arrivals;
		this.bodies = bodies;
		this.settings = new SettingsGraph({
			index: this.index,
			seed,
			path,
			output: (node, port) => this.output(node, port),
			isDone: (node) => this.results.has(node)
		});
	}

	/** What a node has emitted. Throws Waiting where nothing came of it, Incomplete where it gives nothing there. */
	output(node: string, port: string): Value {
		const result = this.results.get(node);
		const made = result?.outputs.get(port);
		if (made !== undefined) return made;
		const own = this.node(node);
		if (!own || result?.state !== 'fresh') throw new Waiting(node);
		const label = nodeKinds.get(own.kind)?.outputs[port]?.label ?? port;
		throw new Incomplete(
			`“${own.short}” gives nothing at “${label}”, as nothing is connected to it that it could make it of.`
		);
	}

	node(id: string): GraphNode | undefined {
		return this.index.byId.get(id);
	}
}
