/** A graph at work: the main one, or a body for one of its uses. */
import type { GraphNode, GeneratorDocument, Graph } from './document.ts';
import { outputOf } from './connect.ts';
import { portOf, startOf } from './bodies.ts';
import { GraphIndex } from './graph-index.ts';
import type { NodeResult } from './result.ts';
import { Incomplete, Waiting } from './inputs/index.ts';
import { documentAt } from './at-frame.ts';
import { SettingsGraph } from './settings-graph.ts';
import { momentAt } from './time.ts';
import type { Value } from './values.ts';

/** What arrives in a body by one of its inputs, with the key of what made it. */
export interface Arrival {
	readonly value: Value;
	readonly key: string;
}

/** Which time round it is in a repeat, from 0, and how many there will be. */
export interface Pass {
	readonly pass: number;
	readonly passes: number;
}

/** Where a body is used: by a node of a scope, and as the how-manieth of that use, from 0. */
interface Use {
	readonly outer: Scope;
	readonly node: string;
	readonly place: number;
	/** How many there will be of the same use. */
	readonly places: number;
}

export interface ScopeOptions {
	/** As it is at the frame. */
	document: GeneratorDocument;
	/** With its keys. */
	raw: GeneratorDocument;
	frame: number;
	/** Whether another frame is looked at, and this one only for what came before it. */
	isAside?: boolean;
	graph: Graph;
	seed: number;
	/** The steps of uses, passes and groups on the way down that random streams know of. */
	path: string;
	/** Null for the main graph. */
	use?: Use | null;
	pass?: Pass | null;
	arrivals: ReadonlyMap<string, Arrival>;
	/** The bodies on the way down, the outermost first. */
	bodies: readonly string[];
}

export class Scope {
	readonly document: GeneratorDocument;
	readonly raw: GeneratorDocument;
	readonly frame: number;
	readonly isAside: boolean;
	readonly index: GraphIndex;
	readonly seed: number;
	readonly path: string;
	readonly use: Use | null;
	readonly pass: Pass | null;
	/** Names the scope among all of an evaluation: the uses on the way down, each with its place. Empty for the main graph. */
	readonly name: string;
	readonly arrivals: ReadonlyMap<string, Arrival>;
	readonly bodies: readonly string[];
	readonly results = new Map<string, NodeResult>();
	readonly settings: SettingsGraph;
	/** Nodes that are being evaluated or wait for others. */
	readonly open = new Set<string>();
	/** Keys of results in the cache that are kept for this scope. */
	readonly pinned = new Map<string, string>();

	constructor(options: ScopeOptions) {
		const { document, raw, frame, graph, seed, path, use = null, pass = null, arrivals, bodies } = options;
		this.document = document;
		this.raw = raw;
		this.frame = frame;
		this.isAside = options.isAside ?? use?.outer.isAside ?? false;
		this.index = GraphIndex.of(graph);
		this.seed = seed;
		this.path = path;
		this.use = use;
		this.pass = pass;
		this.name = use ? `${use.outer.name}/${use.node}#${use.place}` : this.isAside ? `@${frame}` : '';
		this.arrivals = arrivals;
		this.bodies = bodies;
		this.settings = new SettingsGraph({
			index: this.index,
			seed,
			path,
			output: (node, port) => this.output(node, port),
			isDone: (node) => this.results.has(node),
			pass: (outer) => this.passFurtherOut(outer),
			moment: () => momentAt(raw, frame),
			dial: (key) => document.dials.find((one) => one.key === key) ?? null,
			dials: () => document.dials.map(({ key }) => key),
			arrival: (node) => this.arrivals.get(portOf(node).name)?.value ?? startOf(node)
		});
	}

	/** A scope like this one with another state of its graph, of which nothing is evaluated yet. */
	beside(document: GeneratorDocument, graph: Graph): Scope {
		return new Scope({ ...this, document, graph });
	}

	/** Whether it is the main graph at the frame that is looked at. */
	get isMain(): boolean {
		return !this.use && !this.isAside;
	}
	/** How many scopes there are of the same use. */
	get places(): number {
		return this.use?.places ?? 1;
	}
	get outer(): Scope | null {
		return this.use?.outer ?? null;
	}
	/** The scope of the pass in which this one lies: itself, or the nearest further out. */
	get passScope(): Scope | null {
		return this.pass ? this : (this.outer?.passScope ?? null);
	}
	/** The pass at hand, or that of the repeat so many further out; null where there is none. */
	passFurtherOut(outer: number): Pass | null {
		let at = this.passScope;
		for (let n = 0; n < outer && at; n++) at = at.outer?.passScope ?? null;
		return at?.pass ?? null;
	}

	/** What a node has emitted. Throws Waiting where nothing came of it, Incomplete where it gives nothing there. */
	output(node: string, port: string): Value {
		const result = this.results.get(node);
		const made = result?.outputs.get(port);
		if (made !== undefined) return made;
		const own = this.node(node);
		if (!own || result?.state !== 'fresh') throw new Waiting(node);
		const label = outputOf(own, port)?.label ?? port;
		throw new Incomplete(
			`“${own.short}” gives nothing at “${label}”, as nothing is connected to it that it could make it of.`
		);
	}

	node(id: string): GraphNode | undefined {
		return this.index.byId.get(id);
	}
}

/** The scope of the main graph at a frame. */
export function mainScope(raw: GeneratorDocument, seed: number, frame: number, isAside = false): Scope {
	const document = documentAt(raw, frame);
	const { main: graph } = document.graphs;
	return new Scope({ document, raw, frame, isAside, graph, seed, path: '', arrivals: new Map(), bodies: [] });
}
