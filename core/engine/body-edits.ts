/** What the artist does to bodies and to their uses, as pure functions of a document. */
import { isOf, renamedPart } from './vector-parts.ts';
import type { InputDefinition } from '../nodes/index.ts';
import { renameDotted } from '../varying/index.ts';
import { bodyNameOf, interfaceOf, portOf, takenPorts, withPorts } from './bodies.ts';
import { freeShort, mapFormulas, mapStreams, newNode, spokenOf, withShort, withWire } from './build.ts';
import { inputOf, outputOf } from './connect.ts';
import type { GeneratorDocument, Graph, GraphNode, Setting } from './document.ts';
import { NO_STEP, newStream, withGraph } from './document.ts';
import { GraphIndex, referencesIn } from './graph-index.ts';
import type { Refused } from './make-body.ts';
import { freeBodyId, settingsOfInput } from './make-body.ts';
import { portName } from './port-names.ts';
import { formulaTexts, settingOf } from './settings-graph.ts';

/** A use of a body: the graph in which it stands, and the node. */
export interface UseOf {
	graph: string;
	node: GraphNode;
}

/** All uses of a body. */
export const usesOf = ({ graphs }: GeneratorDocument, body: string): UseOf[] =>
	Object.entries(graphs).flatMap(([graph, { nodes }]) =>
		nodes.filter((node) => bodyNameOf(node) === body).map((node) => ({ graph, node }))
	);

/** A use with a body of its own: what is changed in it changes no other use. */
export function withOwnBody(document: GeneratorDocument, graph: string, id: string): GeneratorDocument {
	const node = document.graphs[graph].nodes.find((one) => one.id === id);
	const body = node && bodyNameOf(node);
	if (!node || !body || !Object.hasOwn(document.graphs, body)) return document;
	const own = freeBodyId(document);
	const copied = { ...document.graphs[body], name: `${document.graphs[body].name || body} 2` };
	const graphs = { ...document.graphs, [own]: copied };
	return withSettingOf({ ...document, graphs }, graph, id, { body: own });
}

const withSettingOf = (
	document: GeneratorDocument,
	graph: string,
	id: string,
	settings: Record<string, Setting>
): GeneratorDocument =>
	withGraph(document, graph, (one) => ({
		...one,
		nodes: one.nodes.map((node) =>
			node.id === id ? { ...node, settings: { ...node.settings, ...settings } } : node
		)
	}));

/** A body renamed. */
export const withBodyName = (document: GeneratorDocument, body: string, name: string): GeneratorDocument =>
	body === 'main' || !Object.hasOwn(document.graphs, body)
		? document
		: withGraph(document, body, (graph) =>
				name.trim() && name.trim() !== graph.name ? { ...graph, name: name.trim().slice(0, 200) } : graph
			);

/** A port of a body renamed, with what stands at it, and what is said of it, at every use. */
export function withPortNamed(
	document: GeneratorDocument,
	body: string,
	id: string,
	typed: string
): GeneratorDocument {
	const graph = document.graphs[body];
	const node = graph.nodes.find((one) => one.id === id);
	if (!node || (node.kind !== 'input' && node.kind !== 'output') || !typed.trim()) return document;
	const isInput = node.kind === 'input';
	const old = portOf(node).name;
	const name = portName(typed, takenPorts(graph, node.kind, id));
	if (name === old) return document;
	const named = withSettingOf(document, body, id, { name });
	const followed =
		node.short === freeNameOf(old, node.short)
			? withGraph(named, body, (one) => withShort(one, id, name))
			: named;
	return withPorts(
		usesOf(followed, body).reduce(
			(changed, { graph: where, node: use }) =>
				withGraph(changed, where, (one) => withPortRenamed(one, use.id, isInput, old, name)),
			followed
		)
	);
}

/** Whether a short name came from a port's: the name itself, or one with a number behind it. */
const freeNameOf = (name: string, short: string): string =>
	short.startsWith(name) && /^\d*$/.test(short.slice(name.length)) ? short : name;

function withPortRenamed(graph: Graph, use: string, isInput: boolean, old: string, name: string): Graph {
	const node = graph.nodes.find(({ id }) => id === use)!;
	if (!isInput)
		return {
			...graph,
			wires: graph.wires.map((wire) =>
				wire.from[0] === use && wire.from[1] === old ? { ...wire, from: [use, name] } : wire
			)
		};
	const [from, to] = [`${node.short}.${old}`, `${node.short}.${name}`];
	const nodes = graph.nodes.map((one) => {
		const settings = mapFormulas(one, (text) => renameDotted(text, from, to));
		if (one.id !== use) return settings === one.settings ? one : { ...one, settings };
		const { [old]: set, ...rest } = settings;
		const links = Object.entries(one.dials ?? {}).map(([at, key]) => [renamedPart(at, old, name), key]);
		return {
			...one,
			settings: set === undefined ? settings : { ...rest, [name]: set },
			...(links.length && { dials: Object.fromEntries(links) })
		};
	});
	return {
		...graph,
		nodes,
		wires: graph.wires.map((wire) =>
			wire.to[0] === use && isOf(wire.to[1], old)
				? { ...wire, to: [use, renamedPart(wire.to[1], old, name)] }
				: wire
		)
	};
}

/** One more input of a body for a wire that is dropped on a use of it, and the wire. */
export function withInputFor(
	document: GeneratorDocument,
	graph: string,
	from: readonly [string, string],
	id: string
): GeneratorDocument {
	const { nodes } = document.graphs[graph];
	const use = nodes.find((node) => node.id === id);
	const output = outputOf(
		nodes.find((node) => node.id === from[0]),
		from[1]
	);
	const body = use && bodyNameOf(use);
	if (!output || !body || !Object.hasOwn(document.graphs, body)) return document;
	const added = withBodyInput(document, body, output.label, { carries: output.kind });
	return withGraph(added.document, graph, (one) =>
		withWire(one, { from: [from[0], from[1]], to: [id, added.name] })
	);
}

/** One more Input in a body, below those that are there. */
function withBodyInput(
	document: GeneratorDocument,
	body: string,
	label: string,
	settings: Record<string, unknown>
): { document: GeneratorDocument; name: string; node: string; short: string } {
	const graph = document.graphs[body];
	const name = portName(label, takenPorts(graph, 'input'));
	const inputs = graph.nodes.filter(({ kind }) => kind === 'input');
	const left = graph.nodes.length ? Math.min(...graph.nodes.map(({ at }) => at[0])) : 0;
	const at: [number, number] = inputs.length
		? [inputs[0].at[0], Math.max(...inputs.map((one) => one.at[1])) + 130]
		: [left - 280, 0];
	const made = newNode(graph, 'input', at, { name, ...settings });
	const node = { ...made, short: freeShort(graph, name) };
	const added = withGraph(document, body, (one) => ({ ...one, nodes: [...one.nodes, node] }));
	return { document: withPorts(added), name, node: node.id, short: node.short };
}

/** A port of a body for the end of a wire that is dropped on the body's edge: an Output for an output, an Input for an input. */
export function withPortAtEdge(
	document: GeneratorDocument,
	body: string,
	end: readonly [string, string],
	isOutput: boolean,
	at: readonly [number, number]
): { document: GeneratorDocument; node: string } | null {
	const graph = document.graphs[body];
	const node = graph?.nodes.find(({ id }) => id === end[0]);
	if (!node || body === 'main') return null;
	const from = isOutput ? outputOf(node, end[1]) : null;
	const to = isOutput ? null : inputOf(node, end[1]);
	if (!from && !to) return null;
	const kind = isOutput ? 'output' : 'input';
	const name = portName((from ?? to)!.label, takenPorts(graph, kind));
	const settings = from ? { name, carries: from.kind } : { name, ...settingsOfInput(to!) };
	const made = { ...newNode(graph, kind, at, settings), short: freeShort(graph, name) };
	const added = { ...graph, nodes: [...graph.nodes, made] };
	const wire = isOutput
		? { from: [end[0], end[1]] as [string, string], to: [made.id, 'value'] as [string, string] }
		: { from: [made.id, 'value'] as [string, string], to: [end[0], end[1]] as [string, string] };
	const graphs = { ...document.graphs, [body]: withWire(added, wire) };
	return { document: withPorts({ ...document, graphs }), node: made.id };
}

/** Kinds of setting that can be brought out of a body. */
const BROUGHT_OUT: ReadonlySet<string> = new Set(['number', 'vector', 'colour', 'yesno', 'value', 'ramp']);

/** Why a setting inside a body cannot become one of its uses; null where it can. */
export function whyNotBroughtOut(graph: Graph, id: string, setting: string): string | null {
	const node = graph.nodes.find((one) => one.id === id);
	const input = node && inputOf(node, setting);
	if (!node || !input) return 'The setting is no longer there.';
	if (!BROUGHT_OUT.has(input.kind)) return `“${input.label}” is chosen by hand; no wire can set it.`;
	const index = GraphIndex.of(graph);
	if (index.wiresInto(id, setting).length) return `A wire sets “${input.label}” already.`;
	const texts = formulaTexts(node, setting);
	const own = texts
		.flatMap((text) => referencesIn(text, node, index, setting))
		.map((to) => `${to.node.short}.${to.setting}`);
	const [port] = spokenOf(
		graph.nodes.filter(({ kind }) => kind === 'input'),
		texts
	);
	const inside = own[0] ?? (port && `${port.short}.value`);
	return inside ? `“${input.label}” follows ${inside}, which stands inside. Bring that out.` : null;
}

/** A setting inside a body becomes one of every use of it, and stands there as it stood inside. */
export function bringOut(
	document: GeneratorDocument,
	body: string,
	id: string,
	setting: string
): { document: GeneratorDocument; name: string } | Refused {
	const graph = document.graphs[body];
	const reason = whyNotBroughtOut(graph, id, setting);
	if (reason) return { reason };
	const node = graph.nodes.find((one) => one.id === id)!;
	const input = inputOf(node, setting)!;
	const own = settingOf(node, setting, input);
	const added = withBodyInput(document, body, input.label, {
		...settingsOfInput(input),
		...startFrom(input, own)
	});
	const wired = withGraph(added.document, body, (one) =>
		withWire(one, { from: [added.node, 'value'], to: [id, setting] })
	);
	const made = usesOf(wired, body).reduce(
		(changed, { graph: where, node: use }, place) =>
			withSettingOf(changed, where, use.id, { [added.name]: drawnAt(own, use.stream, place > 0) }),
		wired
	);
	return { document: made, name: added.name };
}

/** The default of an Input that stands in for a setting, where the setting is plain. */
function startFrom({ kind }: InputDefinition, own: Setting): Record<string, unknown> {
	if (kind === 'number' && typeof own === 'number') return { default: own };
	if (kind === 'yesno' && typeof own === 'boolean') return { defaultYes: own };
	if (Array.isArray(own) && own.every((one) => typeof one === 'number')) return { defaultParts: own };
	return {};
}

/** A setting that stood in a body as it stands at a use: it draws what it drew inside; at further uses, numbers of their own. */
function drawnAt(setting: Setting, step: string, isFurther: boolean): Setting {
	const further = (stream: string): string =>
		isFurther ? newStream() : step === NO_STEP ? stream : `${step}/${stream}`;
	return mapStreams(setting, further);
}

/** The way from the main graph into a body, by the uses on it; the shortest, or null where it is used nowhere. */
export function wayInto(document: GeneratorDocument, body: string): string[] | null {
	const ways = new Map<string, string[]>([['main', []]]);
	for (const [graph, way] of ways) {
		if (graph === body) return way;
		for (const node of document.graphs[graph]?.nodes ?? []) {
			const inner = bodyNameOf(node);
			if (inner && !ways.has(inner)) ways.set(inner, [...way, node.id]);
		}
	}
	return null;
}

/** Names of the ports of a body, for whoever lists its uses. */
export const portsInWords = (graph: Graph): string => {
	const { inputs, outputs } = interfaceOf(graph);
	const named = (ports: readonly { name: string }[]) => ports.map(({ name }) => name).join(', ') || 'nothing';
	return `${named(inputs)} → ${named(outputs)}`;
};
