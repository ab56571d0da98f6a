/** A document as it is at a frame: what has keys holds plain values, and what hangs from that follows. */
import type { Dial, GeneratorDocument, Graph } from './document.ts';
import { isKeys, withEveryGraph } from './document.ts';
import { keyedNames, nodeAt, settingAt } from './keys.ts';
import { withTiesAt } from './settle.ts';

const keyedOf = new WeakMap<Graph, boolean>();
const lastOf = new WeakMap<Graph, Graph>();
const dialsOf = new WeakMap<GeneratorDocument['dials'], { held: string; dials: Dial[] }>();

function isKeyed(graph: Graph): boolean {
	let known = keyedOf.get(graph);
	if (known === undefined) {
		known = graph.nodes.some((node) => keyedNames(node).length > 0);
		keyedOf.set(graph, known);
	}
	return known;
}

function graphAt(graph: Graph, frame: number): Graph {
	if (!isKeyed(graph)) return graph;
	const nodes = graph.nodes.map((node) => nodeAt(node, frame));
	const last = lastOf.get(graph);
	if (last && nodes.every((node, i) => node === last.nodes[i])) return last;
	const made = { ...graph, nodes };
	lastOf.set(graph, made);
	return made;
}

/** Dials as they are at a frame. The same list as long as all that they hold is the same. */
function dialsAt(dials: Dial[], frame: number): Dial[] {
	if (!dials.some(({ value }) => isKeys(value))) return dials;
	const made = dials.map((dial) =>
		isKeys(dial.value) ? { ...dial, value: settingAt(dial.value, frame) } : dial
	);
	const held = JSON.stringify(made.map(({ value }) => value));
	const last = dialsOf.get(dials);
	if (last?.held === held) return last.dials;
	dialsOf.set(dials, { held, dials: made });
	return made;
}

const madeOf = new WeakMap<GeneratorDocument, { frame: number; made: GeneratorDocument }>();

/**
 * A document as it is at a frame: keyed settings and dials hold plain values, and other ends of ties follow those. The same
 * document where nothing has keys.
 */
export function documentAt(document: GeneratorDocument, frame: number): GeneratorDocument {
	const known = madeOf.get(document);
	if (known?.frame === frame) return known.made;
	const graphs = withEveryGraph(document, (graph) => graphAt(graph, frame));
	const dials = dialsAt(document.dials, frame);
	const at = dials === document.dials ? graphs : { ...graphs, dials };
	const made = at === document ? document : withTiesAt(at, document);
	madeOf.set(document, { frame, made });
	return made;
}
