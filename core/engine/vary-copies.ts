/** Copies of one source that should differ: what makes the source becomes the body of a node that varies each copy. */
import type { Fix } from '../math/index.ts';
import { placingInputs } from '../nodes/index.ts';
import { bringOut } from './body-edits.ts';
import { bodyNameOf, withPorts } from './bodies.ts';
import type { GeneratorDocument, Graph, GraphNode } from './document.ts';
import { withGraph } from './document.ts';
import { withMended } from './edits.ts';
import type { Made } from './make-body.ts';
import { makeBody } from './make-body.ts';
import { drawnOnce } from './resolve.ts';

/** What a message proposes, done in a document. The same document where it cannot be. */
export function mended(document: GeneratorDocument, graph: string, id: string, fix: Fix): GeneratorDocument {
	if (!fix.varyCopies) return withGraph(document, graph, (one) => withMended(one, id, fix));
	return varyingCopies(document, graph, id)?.document ?? document;
}

/** The nodes that make a source and nothing else: all from which it hangs, but those from which something else hangs too. */
function makersOf(graph: Graph, id: string): Set<string> {
	const makers = new Set<string>();
	const queue = graph.wires.filter(({ to }) => to[0] === id && to[1] === 'source').map(({ from }) => from[0]);
	for (const at of queue) {
		if (makers.has(at)) continue;
		makers.add(at);
		for (const { from, to } of graph.wires) if (to[0] === at) queue.push(from[0]);
	}
	for (let changed = true; changed;) {
		changed = false;
		for (const { from, to } of graph.wires) {
			const isOwn = makers.has(to[0]) || (to[0] === id && to[1] === 'source');
			if (makers.has(from[0]) && !isOwn) changed = makers.delete(from[0]) || changed;
		}
	}
	return makers;
}

/** The document with *Vary each copy* in place of a node that places copies of one source; null where that cannot be. */
function varyingCopies(document: GeneratorDocument, graphId: string, id: string): Made | null {
	const graph = document.graphs[graphId];
	const placing = graph.nodes.find((node) => node.id === id);
	const makers = makersOf(graph, id);
	if (placing?.kind !== 'place-copies' || !makers.size) return null;
	const once = graph.nodes
		.filter((node) => makers.has(node.id))
		.map((node) => ({ node, names: drawnOnce(node, graph) }));
	const made = makeBody(document, graphId, makers, 'vary-each-copy', placing.short);
	if ('reason' in made) return null;
	const use = made.document.graphs[graphId].nodes.find((node) => node.id === made.node)!;
	const body = bodyNameOf(use)!;
	let varied = made.document;
	for (const { node, names } of once)
		for (const name of names) {
			const out = bringOut(varied, body, node.id, name);
			if ('document' in out) varied = out.document;
		}
	return {
		document: withPorts(withGraph(varied, graphId, (one) => inPlaceOf(one, placing, made.node))),
		node: made.node
	};
}

/** The graph with one node in place of another that places copies: its points, how they stand, and who reads them. */
function inPlaceOf(graph: Graph, placing: GraphNode, id: string): Graph {
	const settings = Object.fromEntries(
		Object.keys(placingInputs).flatMap((name) =>
			Object.hasOwn(placing.settings, name) ? [[name, placing.settings[name]]] : []
		)
	);
	const nodes = graph.nodes
		.filter((node) => node.id !== placing.id)
		.map((node) =>
			node.id === id
				? {
						...node,
						short: placing.short,
						at: placing.at,
						settings: { ...node.settings, ...settings, rounding: 'steps' }
					}
				: node
		);
	const isPlacing = (name: string) => name === 'points' || Object.hasOwn(placingInputs, name);
	const wires = graph.wires.flatMap(({ from, to }) => {
		if (to[0] === placing.id) return isPlacing(to[1]) ? [{ from, to: [id, to[1]] as [string, string] }] : [];
		return [{ from: from[0] === placing.id ? ([id, 'copies'] as [string, string]) : from, to }];
	});
	return { ...graph, nodes, wires };
}
