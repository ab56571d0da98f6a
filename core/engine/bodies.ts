/** Graphs as bodies: what goes in and out of them, and what can be told of them without evaluating. */
import { Hasher } from '../math/index.ts';
import { nodeKinds } from '../nodes/index.ts';
import type { Varying } from '../varying/index.ts';
import { constant, constantYesNo, vector } from '../varying/index.ts';
import type { GeneratorDocument, Graph, GraphNode, Port, Setting, Wire } from './document.ts';
import { isRange } from './document.ts';
import { formulasOf } from './graph-index.ts';
import { dialsSpokenOf, formulaTexts } from './settings-graph.ts';
import { isOf, wholeOf } from './vector-parts.ts';

export interface BodyInterface {
	inputs: readonly Port[];
	/** Each with the node of the body that it comes from. */
	outputs: readonly (Port & { node: string })[];
}

const interfaces = new WeakMap<Graph, BodyInterface>();

const number = (setting: Setting | undefined): number | undefined =>
	typeof setting === 'number' ? setting : undefined;
const word = (setting: Setting | undefined): string => (typeof setting === 'string' ? setting : '');

/** What an Input or Output node of a body says of itself. */
export function portOf({ kind, settings }: GraphNode): Port {
	const carries = (word(settings.carries) || 'geometry') as Port['carries'];
	const role = word(settings.role) as Port['role'];
	const name = Object.hasOwn(settings, 'name') ? word(settings.name) : 'geometry';
	const port: Port = { name, carries, ...(role && { role }) };
	if (kind !== 'input') return port;
	const start = carries === 'vector' || carries === 'colour' ? settings.defaultParts : settings.default;
	if (carries === 'yesno') port.default = settings.defaultYes === true ? 1 : 0;
	else if (typeof start === 'number') port.default = start;
	else if (Array.isArray(start) && start.every((one) => typeof one === 'number'))
		port.default = start as [number, number, number];
	if (carries === 'number' || carries === 'whole' || carries === 'vector') {
		if (word(settings.unit)) port.unit = word(settings.unit);
	}
	if (carries === 'number' || carries === 'whole') {
		if (settings.limited === true) {
			port.min = number(settings.minimum);
			port.max = number(settings.maximum);
		}
	}
	if (word(settings.says)) port.help = word(settings.says);
	return port;
}

/** The value of a body's input at which nothing arrives; null for what has none, such as geometry. */
export function startOf(node: GraphNode): Varying | null {
	const { carries, default: start = 0 } = portOf(node);
	const [x, y, z] = Array.isArray(start) ? start : [start, start, start];
	switch (carries) {
		case 'geometry':
		case 'list':
		case 'ramp':
			return null;
		case 'vector':
		case 'colour':
			return vector(x, y, z);
		case 'yesno':
			return constantYesNo(x !== 0);
		default:
			return constant(x);
	}
}

/** Names of the ports on one side of a body, but for that of one node. */
export const takenPorts = ({ nodes }: Graph, side: 'input' | 'output', but = ''): Set<string> =>
	new Set(nodes.filter(({ kind, id }) => kind === side && id !== but).map((node) => portOf(node).name));

/** The id of the body that a node has; null where its kind has none. */
export function bodyNameOf({ kind, settings }: GraphNode): string | null {
	const of = nodeKinds.get(kind);
	return of?.body && Object.hasOwn(of.inputs, 'body') ? word(settings.body) : null;
}

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

/**
 * The document with the ports of all uses of bodies as those say. Wires at ports that are no longer there go. The same
 * object where all of it is so.
 */
export function withPorts(document: GeneratorDocument): GeneratorDocument {
	let changed = false;
	const graphs = Object.fromEntries(
		Object.entries(document.graphs).map(([id, graph]) => {
			// Most graphs have no such node.
			if (!bodiesIn(graph).length) return [id, graph];
			const uses = new Map<string, NonNullable<GraphNode['ports']>>();
			const nodes = graph.nodes.map((node) => {
				const ports = portsBy(document, node);
				if (!ports || JSON.stringify(ports) === JSON.stringify(node.ports)) return node;
				uses.set(node.id, ports);
				return { ...node, ports };
			});
			if (!uses.size) return [id, graph];
			changed = true;
			return [id, { ...graph, nodes, wires: graph.wires.filter((wire) => isThere(wire, graph, uses)) }];
		})
	);
	return changed ? { ...document, graphs: graphs as GeneratorDocument['graphs'] } : document;
}

/** The ports of a node as its body says; null where it has none. */
function portsBy({ graphs }: GeneratorDocument, node: GraphNode): GraphNode['ports'] | null {
	const body = bodyNameOf(node);
	if (body === null) return null;
	const { inputs, outputs } = Object.hasOwn(graphs, body) ? interfaceOf(graphs[body]) : NO_PORTS;
	// What varies for each copy makes shapes; they leave by the node's own output.
	const leaves = Object.keys(nodeKinds.get(node.kind)!.outputs).length ? [] : outputs;
	return {
		inputs: [...inputs],
		outputs: leaves
			.filter(({ role }) => role !== 'ends')
			.map(({ name, carries, role }) => ({ name, carries: gathered(carries, role) }))
	};
}
const NO_PORTS: BodyInterface = { inputs: [], outputs: [] };

/** Whether a wire still has its ends, at nodes whose ports changed. */
function isThere(
	{ from, to }: Wire,
	{ nodes }: Graph,
	uses: ReadonlyMap<string, NonNullable<GraphNode['ports']>>
): boolean {
	const own = (id: string) => nodeKinds.get(nodes.find((node) => node.id === id)?.kind ?? '');
	const out = uses.get(from[0]),
		into = uses.get(to[0]);
	const leaves =
		!out ||
		Object.hasOwn(own(from[0])?.outputs ?? {}, from[1]) ||
		out.outputs.some(({ name }) => name === from[1]);
	return (
		leaves &&
		(!into ||
			Object.hasOwn(own(to[0])?.inputs ?? {}, wholeOf(to[1])) ||
			into.inputs.some(({ name, carries }) => name === to[1] || (carries === 'vector' && isOf(to[1], name))))
	);
}

/** What an output of a repeat carries: values that are gathered are a list. */
const gathered = (carries: Port['carries'], role: Port['role']): Port['carries'] =>
	role === 'gathered' && carries !== 'geometry' ? 'list' : carries;

export interface BodyFacts {
	/** A hash of all that stands in the body, bodies within it too. */
	digest: string;
	/** Whether something inside draws random numbers, so that two uses of it differ. */
	draws: boolean;
	/** Whether something inside asks which pass it is, or which one further out. */
	readsPass: boolean;
	/** Whether something inside asks which frame it is, or remembers. */
	readsTime: boolean;
	/** The keys of the dials of which formulas inside speak. */
	dials: readonly string[];
}

const factsKnown = new WeakMap<GeneratorDocument['graphs'], Map<string, BodyFacts>>();
const NOTHING: BodyFacts = { digest: '', draws: false, readsPass: false, readsTime: false, dials: [] };

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
			draws: own.draws || facts.some(({ draws }) => draws),
			readsPass: own.readsPass || facts.some(({ readsPass }) => readsPass),
			readsTime: own.readsTime || facts.some(({ readsTime }) => readsTime),
			dials: [...new Set([own, ...facts].flatMap(({ dials }) => dials))].sort()
		});
		stack.pop();
	}
	return known.get(id) ?? NOTHING;
}

const usesKnown = new WeakMap<Graph, readonly string[]>();

/** The bodies that a graph uses; found once for each state of it. */
export function bodiesIn(graph: Graph): readonly string[] {
	let known = usesKnown.get(graph);
	if (!known) {
		const bodies = new Set<string>();
		for (const node of graph.nodes) {
			const body = bodyNameOf(node);
			if (body !== null) bodies.add(body);
		}
		usesKnown.set(graph, (known = [...bodies]));
	}
	return known;
}

/** Graphs and all that they use, however deep, those asked for first. */
export function usedFrom(graphs: Readonly<Record<string, Graph>>, ids: Iterable<string>): string[] {
	const used = new Set(ids);
	for (const id of used)
		if (Object.hasOwn(graphs, id)) for (const inner of bodiesIn(graphs[id])) used.add(inner);
	return [...used].filter((id) => Object.hasOwn(graphs, id));
}

const textsKnown = new WeakMap<GraphNode, string>();

/** All of a node that its result depends on, but what is wired to it. A node never changes, so this is found once. */
export function textOfNode(node: GraphNode): string {
	let text = textsKnown.get(node);
	if (text === undefined) {
		const { id, kind, short, settings, inputs, bypassed, stream } = node;
		const version = nodeKinds.get(kind)?.version;
		text = JSON.stringify([id, kind, version, short, settings, inputs, bypassed, stream]);
		textsKnown.set(node, text);
	}
	return text;
}

const ownKnown = new WeakMap<Graph, BodyFacts>();

function ownFacts(graph: Graph): BodyFacts {
	let facts = ownKnown.get(graph);
	if (!facts) {
		const hasher = new Hasher();
		for (const node of graph.nodes) hasher.text(textOfNode(node));
		hasher.text(JSON.stringify(graph.wires));
		facts = {
			digest: hasher.key(),
			draws: graph.nodes.some(drawsItself),
			readsPass: graph.nodes.some(readsPassItself),
			readsTime: graph.nodes.some((node) => readsTimeItself(node, graph)),
			dials: graph.nodes.flatMap((node) => dialsSpokenOf(node).map(([, key]) => key))
		};
		ownKnown.set(graph, facts);
	}
	return facts;
}

/** Names by which formulas ask for passes. */
const PASS_NAMES = /\b(pass|passes|progress|outer)\b/;

/** Names by which formulas ask for the frame; `attribute.time` is none. */
const TIME_NAMES = /(?<![.\w])(time|frame|frames)\b/;

/** The wires by which settings may come: of a graph, or those that end at the node. */
interface WiresOf {
	wires: readonly Wire[];
}

/** The setting that lets a node move by itself, of those that its kind names; null where all of them are as usual. */
export function movedBy(node: GraphNode, { wires }: WiresOf): string | null {
	const kind = nodeKinds.get(node.kind);
	if (typeof kind?.timed !== 'object') return null;
	const isUsual = (name: string) => {
		const input = kind.inputs[name];
		return 'default' in input && (node.settings[name] ?? input.default) === input.default;
	};
	const isWired = (name: string) => wires.some(({ to }) => to[0] === node.id && isOf(to[1], name));
	return kind.timed.find((name) => !isUsual(name) || isWired(name)) ?? null;
}

/** Whether a node hears by its kind which frame it is. */
export const hearsTime = (node: GraphNode, graph: WiresOf): boolean =>
	nodeKinds.get(node.kind)?.timed === true || movedBy(node, graph) !== null;

/** Whether a node of a graph hears which frame it is: by its kind, or by a formula. */
export function readsTimeItself(node: GraphNode, graph: WiresOf): boolean {
	const kind = nodeKinds.get(node.kind);
	return (
		!!(kind?.fold ?? kind?.looksBack) ||
		hearsTime(node, graph) ||
		Object.keys(node.settings).some((name) => formulaTexts(node, name).some((text) => TIME_NAMES.test(text)))
	);
}

const readsPassItself = (node: GraphNode): boolean =>
	node.kind === 'pass-values' ||
	Object.keys(node.settings).some((name) => formulaTexts(node, name).some((text) => PASS_NAMES.test(text)));

const drawsItself = ({ kind, settings }: GraphNode): boolean =>
	!!nodeKinds.get(kind)?.seeded ||
	Object.values(settings).some(
		(setting) =>
			isRange(setting) ||
			(Array.isArray(setting) && setting.some(isRange)) ||
			(typeof setting === 'string' && setting.includes('random')) ||
			formulasOf(setting).some(({ formula }) => formula.includes('random'))
	);
