/** Levels of detail: a generator at another level, and with the draft values that stand in while something is dragged. */
import type { InputDefinition, NumberInput } from '../nodes/index.ts';
import { inputOf } from './connect.ts';
import type { GeneratorDocument, Graph, GraphNode, Setting } from './document.ts';
import { withEveryGraph, withEveryNode, withNodes } from './document.ts';

/** The levels of detail that there are: all of it, less, least. */
export const DETAILS = [0, 1, 2] as const;
export type Detail = (typeof DETAILS)[number];

/** Whether a setting may have a draft value: one that counts. */
export const mayDraft = (input: InputDefinition): boolean => input.kind === 'number' && input.whole === true;

const everyNode = ({ graphs }: GeneratorDocument): GraphNode[] =>
	Object.values(graphs).flatMap(({ nodes }) => nodes);

/** Whether anything in it asks for the level of detail. */
export const asksForDetail = (document: GeneratorDocument): boolean =>
	everyNode(document).some(({ kind }) => kind === 'level-of-detail');

/** Whether anything in it has a draft value. */
export const hasDrafts = (document: GeneratorDocument): boolean =>
	everyNode(document).some(({ drafts }) => drafts && Object.keys(drafts).length > 0);

/** The generator as it is at a level of detail, whatever its nodes are set to. */
export const atDetail = (document: GeneratorDocument, detail: Detail): GeneratorDocument =>
	withEveryNode(document, (node) =>
		node.kind === 'level-of-detail' ? { ...node, settings: { ...node.settings, level: detail } } : node
	);

const drafts = new WeakMap<GraphNode, GraphNode>();
const draftGraphs = new WeakMap<Graph, Graph>();

/**
 * The generator with its draft values, but for that of the setting (node and name) that is dragged itself. Equal nodes and
 * graphs give equal ones, so that only what is drafted is evaluated anew.
 */
export function withDrafts(
	document: GeneratorDocument,
	dragged: readonly [string, string] | null = null
): GeneratorDocument {
	const make = (node: GraphNode): GraphNode => {
		if (!node.drafts) return node;
		return node.id === dragged?.[0]
			? drafted(node, dragged[1])
			: remembered(drafts, node, (one) => drafted(one));
	};
	return withEveryGraph(document, (graph) =>
		graph.nodes.some(({ id }) => id === dragged?.[0])
			? withNodes(graph, make)
			: remembered(draftGraphs, graph, () => withNodes(graph, make))
	);
}

function drafted(node: GraphNode, but = ''): GraphNode {
	const settings: Record<string, Setting> = { ...node.settings };
	for (const [name, value] of Object.entries(node.drafts!)) {
		const input = inputOf(node, name);
		if (name !== but && input && mayDraft(input)) settings[name] = within(input as NumberInput, value);
	}
	return { ...node, settings };
}

/** The nearest that the setting takes. */
const within = ({ min = -Infinity, max = Infinity }: NumberInput, value: number): number =>
	Math.max(min, Math.min(max, Math.round(value)));

/** A node's draft values with one for a setting, or with none. */
export function draftsWith(node: GraphNode, name: string, value: number | null): GraphNode['drafts'] {
	const { [name]: _before, ...others } = node.drafts ?? {};
	void _before;
	const all = value === null ? others : { ...others, [name]: value };
	return Object.keys(all).length ? all : undefined;
}

function remembered<Key extends object>(known: WeakMap<Key, Key>, key: Key, make: (key: Key) => Key): Key {
	const found = known.get(key) ?? make(key);
	known.set(key, found);
	return found;
}
