/** What tests of bodies share: documents of several graphs from rows, each node named by its short name. */
import { Evaluator, isGeometry, newNode, withPorts } from '../engine/index.ts';
import type { GeneratorDocument, Graph, GraphNode, Wire } from '../engine/index.ts';
import type { Row } from './graphs.ts';
import { generator } from './graphs.ts';

/** A graph from rows in which nodes may be inputs, outputs and subgraphs. */
export function bodyOf(rows: readonly Row[]): Graph {
	let graph: Graph = { nodes: [], wires: [], notes: [] };
	for (const [kind, short, settings = {}, wires = {}] of rows) {
		const made = newNode(graph, kind, [0, 0], settings);
		const node: GraphNode = {
			...made,
			// Ports of a body are settings that only the document knows.
			settings: { ...made.settings, ...(settings as GraphNode['settings']) },
			id: short,
			short,
			stream: `stream-${short}`
		};
		const into = Object.entries(wires).flatMap(([input, sources]) =>
			[sources].flat().map((source): Wire => ({
				from: source.split('.') as [string, string],
				to: [short, input]
			}))
		);
		graph = { ...graph, nodes: [...graph.nodes, node], wires: [...graph.wires, ...into] };
	}
	return graph;
}

/** A generator of a main graph and bodies by id. */
export const withBodies = (
	main: readonly Row[],
	bodies: Record<string, readonly Row[]>,
	seed = 1
): GeneratorDocument =>
	withPorts({
		...generator([], seed),
		graphs: {
			main: bodyOf(main),
			...Object.fromEntries(Object.entries(bodies).map(([id, rows]) => [id, bodyOf(rows)]))
		}
	});

export const valueOf = (
	document: GeneratorDocument,
	node: string,
	port: string,
	evaluator = new Evaluator()
) => {
	const { results, ran } = evaluator.evaluate(document, [node]);
	const result = results.get(node)!;
	return { result, value: result.outputs.get(port), ran };
};
export const geometryOf = (document: GeneratorDocument, node: string, port = 'out') => {
	const { value, result } = valueOf(document, node, port);
	if (!value || !isGeometry(value)) throw new Error(result.error?.message ?? 'no geometry');
	return value;
};
