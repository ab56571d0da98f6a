/** Nodes as text on the clipboard, and back. */
import { takesMany } from '../nodes/index.ts';
import { z } from 'zod';
import { bodiesIn, bodyNameOf, portOf, takenPorts, usedFrom, withPorts } from './bodies.ts';
import { numbered } from './free-names.ts';
import { freeShort, withShorts, withStreams } from './build.ts';
import { freeBodyId } from './make-body.ts';
import { portName } from './port-names.ts';
import { fits, inputOf, outputOf } from './connect.ts';
import type { GeneratorDocument, Graph, GraphNode, Wire } from './document.ts';
import { VERSION, newDocument, newStream } from './document.ts';
import { checkText, openRaw } from './document-text.ts';

/** Some nodes with the wires and notes among them, as text for the clipboard. */
export interface Clip {
	format: 'embrell-nodes';
	/** Of the document they come from. */
	version: number;
	nodes: GraphNode[];
	wires: Wire[];
	/** Wires that come from nodes outside: kept when pasted where those still are. */
	outer: Wire[];
	/** The bodies that the nodes use, by id, and those within them. */
	bodies?: Record<string, Graph>;
}

export function copyNodes(
	graph: Graph,
	ids: ReadonlySet<string>,
	graphs: Readonly<Record<string, Graph>> = {}
): Clip {
	const nodes = graph.nodes.filter((node) => ids.has(node.id));
	const used = usedFrom(graphs, bodiesIn({ ...graph, nodes }));
	return {
		...(used.length && { bodies: Object.fromEntries(used.map((id) => [id, graphs[id]])) }),
		format: 'embrell-nodes',
		version: VERSION,
		nodes,
		wires: graph.wires.filter((wire) => ids.has(wire.from[0]) && ids.has(wire.to[0])),
		outer: graph.wires.filter((wire) => !ids.has(wire.from[0]) && ids.has(wire.to[0]))
	};
}

/** The document with copied nodes in one of its graphs, and the bodies that they use; bodies that are there already are shared. */
export function pasteInto(
	document: GeneratorDocument,
	graphId: string,
	clip: Clip,
	offset: readonly [number, number]
): { document: GeneratorDocument; ids: string[] } {
	const { graphs, names } = withBodies(document, clip.bodies ?? {});
	const taken = {
		input: takenPorts(graphs[graphId], 'input'),
		output: takenPorts(graphs[graphId], 'output')
	};
	const nodes = clip.nodes.map((node) => withPortOfItsOwn(withBodyNamed(node, names), taken));
	const { graph, ids } = pasteNodes(graphs[graphId], { ...clip, nodes }, offset);
	return { document: withPorts({ ...document, graphs: { ...graphs, [graphId]: graph } }), ids };
}

/** An Input or Output whose name is taken on its side gets another one: of two alike only the first would count. */
function withPortOfItsOwn(node: GraphNode, taken: Record<'input' | 'output', Set<string>>): GraphNode {
	if (node.kind !== 'input' && node.kind !== 'output') return node;
	const { name: before } = portOf(node);
	const name = taken[node.kind].has(before) ? portName(before, taken[node.kind]) : before;
	taken[node.kind].add(name);
	return { ...node, settings: { ...node.settings, name } };
}

/** The document's graphs with more bodies, and the ids that those have here. */
export function withBodies(
	document: GeneratorDocument,
	bodies: Readonly<Record<string, Graph>>
): { graphs: GeneratorDocument['graphs']; names: ReadonlyMap<string, string> } {
	const names = new Map<string, string>();
	let graphs = document.graphs;
	for (const [id, graph] of Object.entries(bodies)) {
		const isThere = Object.hasOwn(graphs, id) && JSON.stringify(graphs[id]) === JSON.stringify(graph);
		const own = isThere ? id : freeBodyId({ graphs });
		names.set(id, own);
		graphs = { ...graphs, [own]: graph };
	}
	for (const [id, own] of names)
		if (own !== id || !Object.hasOwn(document.graphs, own))
			graphs = {
				...graphs,
				[own]: { ...graphs[own], nodes: graphs[own].nodes.map((node) => withBodyNamed(node, names)) }
			};
	return { graphs, names };
}

function withBodyNamed(node: GraphNode, names: ReadonlyMap<string, string>): GraphNode {
	const body = bodyNameOf(node);
	const own = body ? names.get(body) : undefined;
	return own && own !== body ? { ...node, settings: { ...node.settings, body: own } } : node;
}

/**
 * The graph with copied nodes in it. They get ids, names and random streams of their own; streams and references that
 * were shared inside the set stay shared inside it; references to nodes outside stay as they are.
 */
export function pasteNodes(
	graph: Graph,
	clip: Clip,
	offset: readonly [number, number]
): { graph: Graph; ids: string[] } {
	const ids = new Map<string, string>();
	const shorts = new Map<string, string>();
	const streams = new Map<string, string>();
	const fresh = (stream: string): string => {
		if (!streams.has(stream)) streams.set(stream, newStream());
		return streams.get(stream)!;
	};
	let out = graph;
	for (const node of clip.nodes) {
		const taken = new Set(out.nodes.map((one) => one.id));
		const id = numbered('n', (one) => taken.has(one), out.nodes.length + 1);
		ids.set(node.id, id);
		const short = freeShort(out, node.short);
		shorts.set(node.short, short);
		out = {
			...out,
			nodes: [
				...out.nodes,
				{
					...node,
					id,
					short,
					at: [node.at[0] + offset[0], node.at[1] + offset[1]],
					stream: fresh(node.stream)
				}
			]
		};
	}
	const pasted = new Set(ids.values());
	const nodes = out.nodes.map((node) => {
		if (!pasted.has(node.id)) return node;
		return { ...node, settings: withStreams(withShorts(node, shorts), fresh) };
	});
	const byId = new Map([...graph.nodes, ...nodes].map((node) => [node.id, node]));
	const inner = clip.wires.map((wire): Wire => ({
		from: [ids.get(wire.from[0])!, wire.from[1]],
		to: [ids.get(wire.to[0])!, wire.to[1]],
		...(wire.bends && { bends: wire.bends.map(([x, y]) => [x + offset[0], y + offset[1]]) })
	}));
	const takenBy = new Set(inner.map(({ to }) => to.join(' ')));
	// Outside may lie another graph than the one that was copied from: a wire stays where what it comes from still fits.
	const outer = clip.outer.flatMap(({ from, to: [old, name] }): Wire[] => {
		const to: [string, string] = [ids.get(old)!, name];
		const output = outputOf(byId.get(from[0]), from[1]);
		const input = inputOf(byId.get(to[0])!, name);
		const many = !!input && takesMany(input);
		if (pasted.has(from[0]) || !output || !input || !fits(output.kind, input).fits) return [];
		if (!many && takenBy.has(to.join(' '))) return [];
		takenBy.add(to.join(' '));
		return [{ from, to }];
	});
	const wires = [...graph.wires, ...inner, ...outer];
	return { graph: { ...out, nodes, wires }, ids: [...ids.values()] };
}

/** What a text of ours says of itself. */
const MARK = 'embrell-nodes';

const clipShape = z.object({
	format: z.literal(MARK),
	version: z.number().int().min(1).default(1),
	nodes: z.array(z.unknown()).max(2000),
	wires: z.array(z.unknown()).max(10_000),
	outer: z.array(z.unknown()).max(10_000).default([]),
	bodies: z.record(z.string(), z.unknown()).optional()
});
const end = z.tuple([z.string(), z.string()]);
const wireShape = z.object({ from: end, to: end });

/**
 * Nodes from the clipboard: a stranger's text, checked like a file. Null where the text is none of ours; `leftOut` says
 * what could not be read. Throws NodeError where it is ours and too much.
 */
export function readClip(text: string): { clip: Clip; leftOut: readonly string[] } | null {
	if (!text.includes(MARK)) return null;
	checkText(text, 'The clipboard');
	let json: unknown;
	try {
		json = JSON.parse(text);
	} catch {
		return null;
	}
	const raw = clipShape.safeParse(json);
	if (!raw.success) return null;
	const { document, leftOut } = openRaw({
		...newDocument(),
		version: raw.data.version,
		graphs: { ...raw.data.bodies, main: { nodes: raw.data.nodes, wires: raw.data.wires, notes: [] } }
	});
	const {
		main: { nodes, wires },
		...bodies
	} = document.graphs;
	const ids = new Set(nodes.map((node) => node.id));
	const outer = raw.data.outer
		.map((one) => wireShape.safeParse(one).data)
		.filter((one): one is Wire => !!one && ids.has(one.to[0]));
	const used = Object.keys(bodies).length ? { bodies } : {};
	return { clip: { format: 'embrell-nodes', version: VERSION, nodes, wires, outer, ...used }, leftOut };
}
