/** Graphs as bodies: what goes in and out of them, and what can be told of them without evaluating. */
import { Hasher } from '../math/index.ts';
import type { WireKind } from '../nodes/index.ts';
import { nodeKinds } from '../nodes/index.ts';
import type { GeneratorDocument, Graph, GraphNode, Port } from './document.ts';
import { isRange } from './document.ts';
import { formulasOf } from './graph-index.ts';

export interface BodyInterface {
	inputs: readonly Port[];
	/** Each with the node of the body that it comes from. */
	outputs: readonly (Port & { node: string })[];
}

const interfaces = new WeakMap<Graph, BodyInterface>();

const portOf = ({ settings }: GraphNode): Port => ({
	name: String(settings.name ?? ''),
	carries: String(settings.carries ?? 'geometry') as WireKind,
	...(typeof settings.default === 'number' && { default: settings.default })
});

/** What goes in and out of a body, from its Input and Output nodes, in their order. Of equal names the first counts. */
export function interfaceOf(graph: Graph): BodyInterface {
	let known = interfaces.get(graph);
	if (!known) {
		const first = <P extends Port>(ports: P[]) =>
			ports.filter(({ name }, i) => name && ports.findIndex((one) => one.name === name) === i);
		known = {
			inputs: first(graph.nodes.filter(({ kind }) => kind === 'input').map(portOf)),
			outputs: first(
				graph.nodes
					.filter(({ kind }) => kind === 'output')
					.map((node) => ({ ...portOf(node), node: node.id }))
			)
		};
		interfaces.set(graph, known);
	}
	return known;
}

/** The document with the ports of all uses of subgraphs as their bodies say. The same object where they are so. */
export function withPorts(document: GeneratorDocument): GeneratorDocument {
	let changed = false;
	const graphs = Object.fromEntries(
		Object.entries(document.graphs).map(([id, graph]) => {
			let own = false;
			const nodes = graph.nodes.map((node) => {
				if (node.kind !== 'subgraph') return node;
				const body = String(node.settings.body ?? '');
				const { inputs, outputs } = Object.hasOwn(document.graphs, body)
					? interfaceOf(document.graphs[body])
					: { inputs: [], outputs: [] };
				const ports = {
					inputs: [...inputs],
					outputs: outputs.map(({ name, carries }) => ({ name, carries }))
				};
				if (JSON.stringify(ports) === JSON.stringify(node.ports)) return node;
				own = changed = true;
				return { ...node, ports };
			});
			return [id, own ? { ...graph, nodes } : graph];
		})
	);
	return changed ? { ...document, graphs: graphs as GeneratorDocument['graphs'] } : document;
}

export interface BodyFacts {
	/** A hash of all that stands in the body, bodies within it too. */
	digest: string;
	/** Whether something inside draws random numbers, so that two uses of it differ. */
	draws: boolean;
}

const factsKnown = new WeakMap<GeneratorDocument['graphs'], Map<string, BodyFacts>>();
const NOTHING: BodyFacts = { digest: '', draws: false };

/** What can be told of a body; found once for each state of the document's graphs. */
export function bodyFacts({ graphs }: GeneratorDocument, id: string): BodyFacts {
	let known = factsKnown.get(graphs);
	if (!known) factsKnown.set(graphs, (known = new Map()));
	// Bodies within it come first; one that contains itself is refused where it is evaluated.
	const stack = [id];
	while (stack.length) {
		const at = stack[stack.length - 1];
		const graph = Object.hasOwn(graphs, at) ? graphs[at] : undefined;
		if (known.has(at) || !graph) {
			stack.pop();
			continue;
		}
		const inner = bodiesIn(graph);
		const missing = inner.find(
			(one) => !known.has(one) && Object.hasOwn(graphs, one) && !stack.includes(one)
		);
		if (missing !== undefined) {
			stack.push(missing);
			continue;
		}
		const own = ownFacts(graph);
		const facts = inner.map((one) => known.get(one) ?? NOTHING);
		known.set(at, {
			digest: facts.reduce((hasher, { digest }) => hasher.text(digest), new Hasher().text(own.digest)).key(),
			draws: own.draws || facts.some(({ draws }) => draws)
		});
		stack.pop();
	}
	return known.get(id) ?? NOTHING;
}

/** The bodies that a graph uses. */
const bodiesIn = (graph: Graph): string[] => [
	...new Set(
		graph.nodes.filter(({ kind }) => kind === 'subgraph').map(({ settings }) => String(settings.body ?? ''))
	)
];

const ownKnown = new WeakMap<Graph, BodyFacts>();

function ownFacts(graph: Graph): BodyFacts {
	let facts = ownKnown.get(graph);
	if (!facts) {
		const hasher = new Hasher();
		for (const { id, kind, short, settings, inputs, bypassed, stream } of graph.nodes)
			hasher.text(
				JSON.stringify([id, kind, nodeKinds.get(kind)?.version, short, settings, inputs, bypassed, stream])
			);
		hasher.text(JSON.stringify(graph.wires));
		facts = { digest: hasher.key(), draws: graph.nodes.some(drawsItself) };
		ownKnown.set(graph, facts);
	}
	return facts;
}

const drawsItself = ({ kind, settings }: GraphNode): boolean =>
	!!nodeKinds.get(kind)?.seeded ||
	Object.values(settings).some(
		(setting) =>
			isRange(setting) ||
			(Array.isArray(setting) && setting.some(isRange)) ||
			(typeof setting === 'string' && setting.includes('random')) ||
			formulasOf(setting).some(({ formula }) => formula.includes('random'))
	);
