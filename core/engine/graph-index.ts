/** A graph looked up quickly, and what the formulas in it refer to. */
import type { Tree } from '../varying/index.ts';
import { RESERVED, namesIn, parseFormula } from '../varying/index.ts';
import { inputOf } from './connect.ts';
import type { FormulaSetting, Graph, GraphNode, Setting, Wire } from './document.ts';
import { isFormula } from './document.ts';

const NO_WIRES: readonly Wire[] = [];
const known = new WeakMap<Graph, GraphIndex>();

/** Made once for each state of a graph. */
export class GraphIndex {
	readonly graph: Graph;
	readonly byId = new Map<string, GraphNode>();
	readonly byShort = new Map<string, GraphNode>();
	/** Wires into each node. */
	readonly intoNode = new Map<string, Wire[]>();

	constructor(graph: Graph) {
		this.graph = graph;
		for (const node of graph.nodes) {
			this.byId.set(node.id, node);
			this.byShort.set(node.short, node);
		}
		for (const wire of graph.wires) push(this.intoNode, wire.to[0], wire);
	}

	/** The index of a graph, which never changes. */
	static of(graph: Graph): GraphIndex {
		let index = known.get(graph);
		if (!index) known.set(graph, (index = new GraphIndex(graph)));
		return index;
	}

	wiresIntoNode(node: string): readonly Wire[] {
		return this.intoNode.get(node) ?? NO_WIRES;
	}

	wiresInto(node: string, port: string): readonly Wire[] {
		const all = this.intoNode.get(node);
		if (!all) return NO_WIRES;
		// Most nodes have one wire, and are asked for every input at every run.
		if (all.length === 1) return all[0].to[1] === port ? all : NO_WIRES;
		return all.filter((wire) => wire.to[1] === port);
	}
}

function push<K, V>(map: Map<K, V[]>, key: K, value: V): void {
	const list = map.get(key);
	if (list) list.push(value);
	else map.set(key, [value]);
}

/** So many formulas are kept parsed. */
const MOST_TREES = 10_000;
const trees = new Map<string, Tree>();

/** A formula's tree, kept by its text. Throws FormulaError. */
export function treeOf(text: string): Tree {
	let tree = trees.get(text);
	if (!tree) {
		tree = parseFormula(text);
		if (trees.size >= MOST_TREES) trees.clear();
		trees.set(text, tree);
	}
	return tree;
}

/** A setting of a node: what formulas refer to. */
export interface SettingRef {
	node: GraphNode;
	setting: string;
}

/** Names that the element answers, or the generator, before a setting of the same node does. */
const BEFORE_SETTINGS: ReadonlySet<string> = new Set([...RESERVED, 'seed']);

/** The settings of other nodes, or of the same, that a formula in the setting `current` refers to. */
export function referencesIn(text: string, node: GraphNode, index: GraphIndex, current = ''): SettingRef[] {
	let tree: Tree;
	try {
		tree = treeOf(text);
	} catch {
		return [];
	}
	return namesIn(tree).flatMap(({ name }) => {
		const dot = name.indexOf('.');
		const first = dot < 0 ? name : name.slice(0, dot);
		if (dot >= 0) {
			const [second] = name.slice(dot + 1).split('.');
			const other = index.byShort.get(first);
			if (other && inputOf(other, second)) return [{ node: other, setting: second }];
		}
		const own = inputOf(node, first);
		const isDeclared = node.inputs?.some((one) => one.name === first);
		if (!isDeclared && (first === current || BEFORE_SETTINGS.has(first))) return [];
		return own && own.kind !== 'formula' && own.kind !== 'geometry' ? [{ node, setting: first }] : [];
	});
}

/** The parts of a setting that are formulas. */
export function formulasOf(setting: Setting | undefined): FormulaSetting[] {
	if (isFormula(setting)) return [setting];
	return Array.isArray(setting) ? setting.filter(isFormula) : [];
}
