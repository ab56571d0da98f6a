/** A graph looked up quickly, and what the formulas in it refer to. */
import type { Tree } from '../varying/index.ts';
import { RESERVED, namesIn, parseFormula } from '../varying/index.ts';
import { inputOf, outputOf } from './connect.ts';
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

/** A name in a formula, cut at its dots. */
interface CutName {
	first: string;
	/** What follows the first dot, up to the next; null where there is none. */
	second: string | null;
}
interface Parsed {
	tree: Tree;
	names: readonly CutName[];
}
const trees = new Map<string, Parsed>();

function parsed(text: string): Parsed {
	let known = trees.get(text);
	if (!known) {
		const tree = parseFormula(text);
		const names = namesIn(tree).map(({ name }): CutName => {
			const [first, second = null] = name.split('.');
			return { first, second };
		});
		known = { tree, names };
		if (trees.size >= MOST_TREES) trees.clear();
		trees.set(text, known);
	}
	return known;
}

/** A formula's tree, kept by its text. Throws FormulaError. */
export const treeOf = (text: string): Tree => parsed(text).tree;

/** What formulas refer to: a setting of a node, or one of its outputs. */
export interface SettingRef {
	node: GraphNode;
	setting: string;
	isOutput?: true;
}

/** Outputs of which a formula can read the number, the vector or the yes or no, where it is one. */
const READABLE: ReadonlySet<string> = new Set(['number', 'whole', 'vector', 'colour', 'yesno', 'value']);

/** Names that the element answers, or the generator, before a setting of the same node does. */
const BEFORE_SETTINGS: ReadonlySet<string> = new Set([...RESERVED, 'seed']);

/** The settings of other nodes, or of the same, and the outputs of others that a formula in the setting `current` refers to. */
export function referencesIn(text: string, node: GraphNode, index: GraphIndex, current = ''): SettingRef[] {
	const found: SettingRef[] = [];
	for (const { first, second } of namesOf(text)) {
		const other = second === null ? undefined : index.byShort.get(first);
		if (other && inputOf(other, second!)) {
			found.push({ node: other, setting: second! });
			continue;
		}
		// What arrives in a body is spoken of by its Input, as a setting is.
		const output = other && other.kind !== 'input' && outputOf(other, second!);
		if (output && READABLE.has(output.kind)) {
			found.push({ node: other, setting: second!, isOutput: true });
			continue;
		}
		const own = inputOf(node, first);
		if (!own || own.kind === 'formula' || own.kind === 'geometry') continue;
		const isDeclared = node.inputs?.some((one) => one.name === first);
		if (isDeclared || !(first === current || BEFORE_SETTINGS.has(first)))
			found.push({ node, setting: first });
	}
	return found;
}

/** The names in a formula; none where it cannot be read. */
function namesOf(text: string): readonly CutName[] {
	try {
		return parsed(text).names;
	} catch {
		return [];
	}
}

/** The parts of a setting that are formulas. */
export function formulasOf(setting: Setting | undefined): FormulaSetting[] {
	if (isFormula(setting)) return [setting];
	return Array.isArray(setting) ? setting.filter(isFormula) : [];
}
