/** What the result of a node hangs from: while all of it is the same, so is the result. */
import { bodyFacts, bodyNameOf, usedFrom } from './bodies.ts';
import type { GeneratorDocument, GraphNode } from './document.ts';
import { GraphIndex, referencesIn } from './graph-index.ts';
import { whatMoves } from './moving.ts';
import { dialsSpokenOf, formulaNames, formulaTexts } from './settings-graph.ts';

/** The nodes of a graph that a node hangs from, that one included: by wires, and by what formulas speak of. */
function nodesBehind(index: GraphIndex, id: string): GraphNode[] {
	const found = new Set([id]);
	for (const at of found) {
		const node = index.byId.get(at);
		if (!node) continue;
		for (const { from } of index.wiresIntoNode(at)) found.add(from[0]);
		for (const name of formulaNames(node))
			for (const text of formulaTexts(node, name))
				for (const { node: other } of referencesIn(text, node, index, name)) found.add(other.id);
	}
	return [...found].flatMap((one) => index.byId.get(one) ?? []);
}

/**
 * All that the result of a node of the main graph at a frame hangs from, each by itself: nodes and wires, bodies however deep,
 * dials that formulas speak of, the seed, and the frame where it moves. Two lists of the same things mean the same result.
 */
export function hangsFrom(document: GeneratorDocument, id: string, frame: number): unknown[] {
	const { graphs, dials, seed } = document;
	const index = GraphIndex.of(graphs.main);
	const nodes = nodesBehind(index, id);
	const bodies = nodes.flatMap((node) => bodyNameOf(node) ?? []);
	const keys = new Set([
		...nodes.flatMap((node) => dialsSpokenOf(node).map(([, key]) => key)),
		...bodies.flatMap((body) => bodyFacts(document, body).dials)
	]);
	return [
		seed,
		whatMoves(document, 'main').has(id) ? frame : null,
		...nodes,
		...nodes.flatMap((node) => index.wiresIntoNode(node.id)),
		...usedFrom(graphs, bodies).map((body) => graphs[body]),
		...dials.filter(({ key }) => keys.has(key)).map(({ value }) => JSON.stringify(value))
	];
}

/** Whether two lists hold the very same things. */
export const hangsFromSame = (a: readonly unknown[], b: readonly unknown[]): boolean =>
	a.length === b.length && a.every((one, i) => one === b[i]);
