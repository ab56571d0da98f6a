/** What tests share: graphs from short lists, and geometry of a node. */
import { Evaluator, newDocument, newNode, withWire } from './engine/index.ts';
import type { EvaluatorOptions, Evaluation, GeneratorDocument, GraphNode } from './engine/index.ts';
import type { Geometry } from './geometry/index.ts';

/** `[kind, short name, settings, wires]`; a wire is `input: 'short.output'`, or several of them. */
export type Row = readonly [string, string, Record<string, unknown>?, Record<string, string | string[]>?];

/** A generator from rows, in which each node may refer to those before it. */
export function generator(rows: readonly Row[], seed = 1): GeneratorDocument {
	let graph: GeneratorDocument['graphs']['main'] = { nodes: [], wires: [], notes: [] };
	const ids = new Map<string, string>();
	for (const [kind, short, settings = {}, wires = {}] of rows) {
		const node: GraphNode = { ...newNode(graph, kind, [0, 0], settings), short, stream: `stream-${short}` };
		ids.set(short, node.id);
		graph = { ...graph, nodes: [...graph.nodes, node] };
		for (const [input, sources] of Object.entries(wires))
			for (const source of [sources].flat()) {
				const [from, output] = source.split('.');
				graph = withWire(graph, { from: [ids.get(from)!, output], to: [node.id, input] });
			}
	}
	return { ...newDocument('Test'), seed, graphs: { main: graph } };
}

export interface Run {
	evaluation: Evaluation;
	/** The geometry of a node; fails with its error where it has none. */
	geometry: (short: string) => Geometry;
	error: (short: string) => string | null;
	warnings: (short: string) => string[];
}

/** Evaluates all nodes of a generator. */
export function evaluateAll(
	document: GeneratorDocument,
	options: EvaluatorOptions = {},
	evaluator = new Evaluator(options)
): Run {
	const { nodes } = document.graphs.main;
	const evaluation = evaluator.evaluate(
		document,
		nodes.map((node) => node.id)
	);
	const resultOf = (short: string) => evaluation.results.get(nodes.find((node) => node.short === short)!.id)!;
	return {
		evaluation,
		geometry(short) {
			const result = resultOf(short);
			const found = [...result.outputs.values()].find((value) => 'materials' in value);
			if (!found) throw new Error(`${short}: ${result.error?.message ?? 'no geometry'}`);
			return found as Geometry;
		},
		error: (short) => resultOf(short).error?.message ?? null,
		warnings: (short) => resultOf(short).warnings.map((warning) => warning.message)
	};
}
