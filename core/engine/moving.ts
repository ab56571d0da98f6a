/** Which nodes move, and why: known from the document, before anything is evaluated. */
import { nodeKinds } from '../nodes/index.ts';
import { bodyFacts, bodyNameOf, movedBy, readsTimeItself } from './bodies.ts';
import type { GeneratorDocument, Graph, GraphNode } from './document.ts';
import { inputOf } from './connect.ts';
import { GraphIndex } from './graph-index.ts';
import { keyedNames } from './keys.ts';
import { referencesOf } from './references.ts';

/** Why a node moves by itself; null where it does not. */
function ownReason(document: GeneratorDocument, graph: Graph, node: GraphNode): string | null {
	const [keyed] = keyedNames(node);
	if (keyed !== undefined) return `“${inputOf(node, keyed)?.label ?? keyed}” has keys.`;
	const kind = nodeKinds.get(node.kind);
	if (kind?.fold) return 'It remembers what was before.';
	if (kind?.looksBack) return 'It looks at earlier frames.';
	const mover = movedBy(node, graph);
	if (mover !== null) return `“${inputOf(node, mover)?.label ?? mover}” moves it.`;
	if (readsTimeItself(node, graph))
		return kind?.timed === true ? 'It tells the time.' : 'One of its formulas speaks of time or frame.';
	const body = bodyNameOf(node);
	if (body !== null && Object.hasOwn(document.graphs, body)) {
		const isKeyed = document.graphs[body].nodes.some((inner) => keyedNames(inner).length);
		if (isKeyed || bodyFacts(document, body).readsTime) return 'Something in its body moves.';
	}
	return null;
}

/** The nodes of a graph that change with the frame, each with a sentence that says why. */
export function whatMoves(document: GeneratorDocument, graphId: string): ReadonlyMap<string, string> {
	const graph = document.graphs[graphId];
	const reasons = new Map<string, string>();
	for (const node of graph.nodes) {
		const why = ownReason(document, graph, node);
		if (why) reasons.set(node.id, why);
	}
	const { byId } = GraphIndex.of(graph);
	const followers = new Map<string, { id: string; why: string }[]>();
	const follows = (from: string, id: string, why: string) => {
		const list = followers.get(from);
		if (list) list.push({ id, why });
		else followers.set(from, [{ id, why }]);
	};
	const shortOf = (id: string): string => byId.get(id)?.short ?? '';
	for (const { from, to } of graph.wires)
		follows(from[0], to[0], `What comes from ${shortOf(from[0])} moves.`);
	for (const { from, to } of referencesOf(graph))
		follows(from[0], to[0], `A formula speaks of ${shortOf(from[0])}, which moves.`);
	for (const [id] of reasons)
		for (const { id: other, why } of followers.get(id) ?? [])
			if (!reasons.has(other)) reasons.set(other, why);
	return reasons;
}
