/** Which nodes move, and why: known from the document, before anything is evaluated. */
import { nodeKinds } from '../nodes/index.ts';
import { bodyFacts, bodyNameOf, readsTimeItself } from './bodies.ts';
import type { GeneratorDocument, GraphNode } from './document.ts';
import { inputOf } from './connect.ts';
import { GraphIndex } from './graph-index.ts';
import { keyedNames } from './keys.ts';
import { formulaNames, formulaTexts } from './settings-graph.ts';

/** Why a node moves by itself; null where it does not. */
function ownReason(document: GeneratorDocument, node: GraphNode): string | null {
	const [keyed] = keyedNames(node);
	if (keyed !== undefined) return `“${inputOf(node, keyed)?.label ?? keyed}” has keys.`;
	const kind = nodeKinds.get(node.kind);
	if (kind?.fold) return 'It remembers what was before.';
	if (kind?.looksBack) return 'It looks at earlier frames.';
	if (readsTimeItself(node))
		return kind?.timed ? 'It tells the time.' : 'One of its formulas speaks of time or frame.';
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
		const why = ownReason(document, node);
		if (why) reasons.set(node.id, why);
	}
	const index = GraphIndex.of(graph);
	const spoken = new Map(
		graph.nodes.map((node) => [node.id, formulaNames(node).flatMap((name) => formulaTexts(node, name))])
	);
	for (const [id] of reasons) {
		const { short } = index.byId.get(id)!;
		for (const { from, to } of graph.wires)
			if (from[0] === id && !reasons.has(to[0])) reasons.set(to[0], `What comes from ${short} moves.`);
		for (const [other, texts] of spoken)
			if (!reasons.has(other) && texts.some((text) => text.includes(`${short}.`)))
				reasons.set(other, `A formula speaks of ${short}, which moves.`);
	}
	return reasons;
}
