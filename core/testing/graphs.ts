/** What tests share: graphs from short lists, and geometry of a node. */
import { Evaluator, inputOf, newDocument, newNode, withWire } from '../engine/index.ts';
import type { EvaluatorOptions, Evaluation, GeneratorDocument, GraphNode } from '../engine/index.ts';
import type { Geometry, Mesh, Table } from '../geometry/index.ts';

/** `[kind, short name, settings, wires]`; a wire is `input: 'short.output'`, or several of them. */
export type Row = readonly [string, string, Record<string, unknown>?, Record<string, string | string[]>?];

/** A generator from rows, in which each node may refer to those before it. */
export function generator(rows: readonly Row[], seed = 1): GeneratorDocument {
	let graph: GeneratorDocument['graphs']['main'] = { nodes: [], wires: [], notes: [] };
	const ids = new Map<string, string>();
	for (const [kind, short, settings = {}, wires = {}] of rows) {
		const node: GraphNode = { ...newNode(graph, kind, [0, 0], settings), short, stream: `stream-${short}` };
		ids.set(short, node.id);
		for (const name of Object.keys(settings))
			if (!inputOf(node, name) && kind !== 'formula') throw new Error(`${kind} has no setting “${name}”.`);
		graph = { ...graph, nodes: [...graph.nodes, node] };
		for (const [input, sources] of Object.entries(wires))
			for (const source of [sources].flat()) {
				const [from, output] = source.split('.');
				if (!inputOf(node, input)) throw new Error(`${short} has no input “${input}”.`);
				graph = withWire(graph, { from: [ids.get(from)!, output], to: [node.id, input] });
			}
	}
	return { ...newDocument('Test'), seed, graphs: { main: graph } };
}

export interface Run {
	evaluation: Evaluation;
	/** The geometry of a node; fails with its error where it has none. */
	geometry: (short: string) => Geometry;
	/** The mesh of a node, if it gives one. */
	meshOf: (short: string) => Mesh | null;
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
		meshOf: (short) =>
			[...resultOf(short).outputs.values()].find((value): value is Geometry => 'materials' in value)?.mesh ??
			null,
		error: (short) => resultOf(short).error?.message ?? null,
		warnings: (short) => resultOf(short).warnings.map((warning) => warning.message)
	};
}

/** Every table of a geometry and of what its copies are made of, each with words for where it is. */
export function tablesOf({ mesh, curves, points, copies, whole }: Geometry, path = ''): [string, Table][] {
	const own: [string, Table | null | undefined][] = [
		['points of the mesh', mesh?.points],
		['faces', mesh?.faces],
		['corners', mesh?.corners],
		['edges', mesh?.edges],
		['points of curves', curves?.points],
		['curves', curves?.curves],
		['points', points?.points],
		['copies', copies?.copies],
		['whole', whole]
	];
	return [
		...own
			.filter((one): one is [string, Table] => !!one[1])
			.map(([name, table]): [string, Table] => [path + name, table]),
		...(copies?.sources ?? []).flatMap((source, i) => tablesOf(source, `${path}source ${i}, `))
	];
}

/** Numbers from 0 up to 1 in a fixed order, so that a failure comes again. */
export function dice(seed: number): () => number {
	let state = seed >>> 0;
	return () => {
		state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
		return state / 4294967296;
	};
}

/** One of several by dice. */
export const pick = <T>(roll: () => number, from: readonly T[]): T => from[Math.floor(roll() * from.length)];
