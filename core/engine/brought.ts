/** Settings that take what is brought to them: the tube on a plant takes the radius of its branches. */
import { nodeKinds } from '../nodes/index.ts';
import { passesOn } from './chain.ts';
import { inputOf } from './connect.ts';
import type { Graph, GraphNode } from './document.ts';
import { withNodeChanged } from './edits.ts';
import { inputKind } from './inputs/index.ts';

/** The attributes that come with what a node hands on. */
function broughtBy(graph: Graph, id: string): ReadonlySet<string> {
	const byId = new Map(graph.nodes.map((node) => [node.id, node]));
	const found = new Set<string>();
	const reached = new Set([id]);
	for (const at of reached) {
		const node = byId.get(at);
		if (!node) continue;
		for (const name of nodeKinds.get(node.kind)?.brings ?? []) found.add(name);
		if (!passesOn(node) && node.kind !== 'merge') continue;
		for (const { from, to } of graph.wires) if (to[0] === at) reached.add(from[0]);
	}
	return found;
}

const isUntouched = (node: GraphNode, name: string): boolean => {
	const input = inputOf(node, name);
	const start = input && inputKind(input).start(input);
	return !Object.hasOwn(node.settings, name) || node.settings[name] === start;
};

/** The graph in which what was just wired from a node takes what that brings, where nobody has set it yet. */
export function withBrought(graph: Graph, from: string, to: string): Graph {
	const node = graph.nodes.find(({ id }) => id === to);
	const begins = node && nodeKinds.get(node.kind)?.begins;
	if (!node || !begins) return graph;
	const brought = broughtBy(graph, from);
	const taken = Object.entries(begins).filter(
		([name, attribute]) =>
			brought.has(attribute) &&
			isUntouched(node, name) &&
			!graph.wires.some((wire) => wire.to[0] === to && wire.to[1] === name)
	);
	if (!taken.length) return graph;
	const settings = Object.fromEntries(
		// The setting's own name would mean itself.
		taken.map(([name, attribute]) => [name, { formula: `attribute.${attribute}`, streams: [] }])
	);
	return withNodeChanged(graph, to, () => ({ settings: { ...node.settings, ...settings } }));
}
