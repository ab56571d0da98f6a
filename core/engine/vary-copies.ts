/** Copies of one source that should differ: what makes the source becomes the body of a node that varies each copy. */
import type { Fix } from '../math/index.ts';
import { placingInputs } from '../nodes/index.ts';
import { bringOut } from './body-edits.ts';
import { bodyNameOf, withPorts } from './bodies.ts';
import { copyNodes, pasteNodes } from './clip.ts';
import type { GeneratorDocument, Graph, GraphNode, Wire } from './document.ts';
import { GraphIndex } from './graph-index.ts';
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

/** The wire by which a node that places copies gets its only source; null where it has several, or none. */
function onlySource(graph: Graph, id: string): Wire | null {
	const wires = graph.wires.filter(({ to }) => to[0] === id && to[1] === 'source');
	return wires.length === 1 ? wires[0] : null;
}

/** All nodes from which one hangs by wires, itself included. */
function above(index: GraphIndex, id: string): Set<string> {
	const found = new Set([id]);
	for (const at of found) for (const { from } of index.wiresIntoNode(at)) found.add(from[0]);
	return found;
}

/** The document with *Vary each copy* in place of a node that places copies of one source; null where that cannot be. */
function varyingCopies(document: GeneratorDocument, graphId: string, id: string): Made | null {
	const start = document.graphs[graphId];
	const placing = start.nodes.find((node) => node.id === id);
	const source = onlySource(start, id);
	if (placing?.kind !== 'place-copies' || !source) return null;
	// What is drawn once, and all on the way from there to the source, goes into the body.
	const index = GraphIndex.of(start);
	const makers = above(index, source.from[0]);
	const drawn = new Set([...makers].filter((one) => drawnOnce(index.byId.get(one)!, index).length));
	const wanted = new Set([...makers].filter((one) => [...above(index, one)].some((up) => drawn.has(up))));
	const { graph, ids } = withOwnMakers(start, wanted, id);
	const made = makeBody(
		{ ...document, graphs: { ...document.graphs, [graphId]: graph } },
		graphId,
		ids,
		'vary-each-copy',
		placing.short
	);
	if ('reason' in made) return null;
	const use = made.document.graphs[graphId].nodes.find((node) => node.id === made.node)!;
	const body = bodyNameOf(use)!;
	let varied = made.document;
	for (const node of graph.nodes)
		if (ids.has(node.id))
			for (const name of drawnOnce(node, GraphIndex.of(graph))) {
				const out = bringOut(varied, body, node.id, name);
				if ('document' in out) varied = out.document;
			}
	return {
		document: withPorts(withGraph(varied, graphId, (one) => inPlaceOf(one, placing, made.node))),
		node: made.node
	};
}

/** The graph in which some nodes make a node's source and nothing else: those that make more are doubled. */
function withOwnMakers(
	graph: Graph,
	ids: ReadonlySet<string>,
	placing: string
): { graph: Graph; ids: ReadonlySet<string> } {
	const isElsewhere = ({ from, to }: Wire) =>
		ids.has(from[0]) && !ids.has(to[0]) && !(to[0] === placing && to[1] === 'source');
	if (!graph.wires.some(isElsewhere)) return { graph, ids };
	const clip = copyNodes(graph, ids);
	const pasted = pasteNodes(graph, clip, [0, 60]);
	const twin = new Map(clip.nodes.map((node, i) => [node.id, pasted.ids[i]]));
	const wires = pasted.graph.wires.map(({ from, to }): Wire => ({
		from: to[0] === placing && to[1] === 'source' ? [twin.get(from[0]) ?? from[0], from[1]] : from,
		to
	}));
	return { graph: { ...pasted.graph, wires }, ids: new Set(pasted.ids) };
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
