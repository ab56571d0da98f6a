/** What the artist does to a graph, as pure functions: each gives the graph after it, or the same graph where it cannot be. */
import { MOST_ROWS, nameInRow, nodeKinds, rowsIn } from '../nodes/index.ts';
import type { Fix } from '../math/index.ts';
import type { AnyNode, OutputDefinition } from '../nodes/index.ts';
import { renameName } from '../varying/index.ts';
import { numbered } from './free-names.ts';
import { mapFormulas, newNode, throughPorts, withSetting, withWire } from './build.ts';
import { inputKind } from './inputs/index.ts';
import { renamedPart, wholeOf } from './vector-parts.ts';
import { fits, inputOf, inputsFitting, inputsOf, outputOf as outputOfNode, outputsOf } from './connect.ts';
import type { Graph, GraphNode, Setting, Wire } from './document.ts';

type Port = readonly [string, string];

export const wireId = (wire: Wire): string => `${wire.from[0]}.${wire.from[1]}>${wire.to[0]}.${wire.to[1]}`;

const nodeIn = (graph: Graph, id: string): GraphNode | undefined => graph.nodes.find((one) => one.id === id);
const kindOf = (node: GraphNode): AnyNode => nodeKinds.get(node.kind)!;
const outputOf = (graph: Graph, [id, port]: Port): OutputDefinition | undefined => {
	const node = nodeIn(graph, id);
	return outputOfNode(node, port) ?? undefined;
};

/** The first input of a node that takes what flows. */
export const firstFitting = (node: GraphNode, kind: OutputDefinition['kind']): string | null =>
	inputsFitting(node, kind)[0]?.[0] ?? null;

/** A node changed by what `change` gives. */
export function withNodeChanged(
	graph: Graph,
	id: string,
	change: (node: GraphNode) => Partial<GraphNode>
): Graph {
	return { ...graph, nodes: graph.nodes.map((one) => (one.id === id ? { ...one, ...change(one) } : one)) };
}

/** A node added; wired from an output by its first input that fits, and to an input by its first output that fits. */
export function withNode(graph: Graph, node: GraphNode, from: Port | null, to: Port | null): Graph {
	return withNodeWired({ ...graph, nodes: [...graph.nodes, node] }, node.id, from, to);
}

/** A node wired from an output by its first input that fits, and to an input by its first output that fits. */
export function withNodeWired(graph: Graph, id: string, from: Port | null, to: Port | null): Graph {
	let next = graph;
	const node = nodeIn(graph, id);
	if (!node) return graph;
	const source = from && outputOf(graph, from);
	const port = source && firstFitting(node, source.kind);
	if (from && port) next = withWire(next, { from: [from[0], from[1]], to: [node.id, port] });
	const target = to && nodeIn(graph, to[0]);
	const input = to && target && inputOf(target, to[1]);
	const output = input && Object.entries(outputsOf(node)).find(([, one]) => fits(one.kind, input).fits);
	if (to && output) next = withWire(next, { from: [node.id, output[0]], to: [to[0], to[1]] });
	return next;
}

/** A node put into a wire: by its way through for geometry, else by its first input and output that fit. */
export function withNodeOnWire(graph: Graph, id: string, wire: Wire): Graph {
	const node = nodeIn(graph, id);
	const from = outputOf(graph, wire.from);
	const target = nodeIn(graph, wire.to[0]);
	const to = target && inputOf(target, wire.to[1]);
	const at = wireId(wire);
	if (!node || !from || !to || !graph.wires.some((one) => wireId(one) === at)) return graph;
	const through = from.kind === 'geometry' ? throughPorts(node) : null;
	const input = through?.input ?? firstFitting(node, from.kind);
	const output =
		through?.output ?? Object.entries(outputsOf(node)).find(([, { kind }]) => fits(kind, to).fits)?.[0];
	if (!input || !output) return graph;
	// In the place of the wire among those of its input, because some count them.
	const wires = graph.wires.map((one) =>
		wireId(one) === at ? { from: [id, output] as [string, string], to: one.to } : one
	);
	return withWire({ ...graph, wires }, { from: wire.from, to: [id, input] });
}

/** The same of a node that is wired to nothing yet. */
export const withInserted = (graph: Graph, id: string, wire: Wire): Graph =>
	graph.wires.some((one) => one.to[0] === id || one.from[0] === id) ? graph : withNodeOnWire(graph, id, wire);

export function withoutWires(graph: Graph, wires: readonly Wire[]): Graph {
	const gone = new Set(wires.map(wireId));
	return { ...graph, wires: graph.wires.filter((wire) => !gone.has(wireId(wire))) };
}

/** A setting changed, or the number of an input of the artist's own. */
export function withValue(graph: Graph, id: string, name: string, setting: Setting): Graph {
	const own = nodeIn(graph, id)?.inputs?.some((one) => one.name === name);
	if (!own || typeof setting !== 'number') return withSetting(graph, id, name, setting);
	return withNodeChanged(graph, id, (node) => ({
		inputs: node.inputs!.map((one) => (one.name === name ? { ...one, value: setting } : one))
	}));
}

/** An input of the artist's own, starting at 1, on a node that has such. */
export function withOwnInput(graph: Graph, id: string, name: string): Graph {
	const node = nodeIn(graph, id);
	if (!node || !kindOf(node).ownInputs || inputsOf(node).some(([known]) => known === name)) return graph;
	return withNodeChanged(graph, id, () => ({ inputs: [...(node.inputs ?? []), { name, value: 1 }] }));
}

/** A name for the next input of the artist's own. */
export function freeInputName(node: GraphNode): string {
	const taken = new Set(inputsOf(node).map(([name]) => name));
	const letter = [...'xyzabcdefg'].find((one) => !taken.has(one));
	return letter ?? numbered('in', (name) => taken.has(name), 1);
}

/** An input of the artist's own renamed, with its wire and the node's formula; the same graph where the name cannot be. */
export function withOwnInputRenamed(graph: Graph, id: string, old: string, wanted: string): Graph {
	const node = nodeIn(graph, id);
	const taken = !node || inputsOf(node).some(([name]) => name === wanted);
	if (taken || !node.inputs?.some((one) => one.name === old)) return graph;
	if (!/^[\p{L}_][\p{L}\p{N}_]*$/u.test(wanted)) return graph;
	const renamed = withNodeChanged(graph, id, () => ({
		inputs: node.inputs!.map((own) => (own.name === old ? { ...own, name: wanted } : own)),
		settings: mapFormulas(node, (text) => renameName(text, old, wanted))
	}));
	return {
		...renamed,
		wires: graph.wires.map((wire) =>
			wire.to[0] === id && wire.to[1] === old ? { ...wire, to: [id, wanted] as [string, string] } : wire
		)
	};
}

export function withoutOwnInput(graph: Graph, id: string, name: string): Graph {
	const without = withNodeChanged(graph, id, (node) => ({
		inputs: node.inputs?.filter((own) => own.name !== name)
	}));
	return { ...without, wires: graph.wires.filter((wire) => !(wire.to[0] === id && wire.to[1] === name)) };
}

/** One more row of settings on a node that has rows; the same graph where it has as many as can be. */
export function withRow(graph: Graph, id: string): Graph {
	const node = nodeIn(graph, id);
	if (!node || !kindOf(node).rows) return graph;
	const rows = rowsIn(node.settings);
	if (rows >= MOST_ROWS) return graph;
	const own = inputsOf(node).filter(([, input]) => input.row === rows);
	const settings = Object.fromEntries(own.map(([name, input]) => [name, inputKind(input).start(input)!]));
	return withNodeChanged(graph, id, () => ({ settings: { ...node.settings, ...settings, rows: rows + 1 } }));
}

/** A node without one of its rows, from 0: those after it move up, with their wires. */
export function withoutRow(graph: Graph, id: string, row: number): Graph {
	const node = nodeIn(graph, id);
	const rows = node && kindOf(node).rows;
	const count = node ? rowsIn(node.settings) : 0;
	if (!rows || count < 2 || row < 0 || row >= count) return graph;
	/** The name that each setting has afterwards; null where it goes. */
	const moved = new Map<string, string | null>();
	for (let r = row; r < count; r++)
		for (const name of rows.inputs) moved.set(nameInRow(name, r), r === row ? null : nameInRow(name, r - 1));
	const settings: GraphNode['settings'] = {};
	for (const [name, setting] of Object.entries(node.settings)) {
		const to = moved.has(name) ? moved.get(name)! : name;
		if (to) settings[to] = setting;
	}
	const changed = withNodeChanged(graph, id, () => ({ settings: { ...settings, rows: count - 1 } }));
	return {
		...changed,
		wires: graph.wires.flatMap((wire) => {
			const name = wholeOf(wire.to[1]);
			if (wire.to[0] !== id || !moved.has(name)) return [wire];
			const to = moved.get(name);
			return to ? [{ from: wire.from, to: [id, renamedPart(wire.to[1], name, to)] as [string, string] }] : [];
		})
	};
}

/** What a message proposes, done. */
export function withMended(graph: Graph, id: string, fix: Fix): Graph {
	const node = nodeIn(graph, id);
	if (!node) return graph;
	if (fix.insert) {
		const { node: kind, input } = fix.insert;
		const wire = graph.wires.findLast((one) => one.to[0] === id && one.to[1] === input);
		if (!wire) return graph;
		const made = newNode(graph, kind, [node.at[0] - 140, node.at[1] + 90]);
		const added = { ...graph, nodes: [...graph.nodes, made] };
		const inserted = withInserted(added, made.id, wire);
		// Where it does not fit into the wire, it must not stay behind alone.
		return inserted === added ? graph : inserted;
	}
	if (fix.set) return withValue(graph, id, fix.set.setting, fix.set.value as Setting);
	if (fix.declare) return withOwnInput(graph, id, fix.declare);
	const { rename, formula } = fix;
	const change = (text: string): string => {
		if (rename) return renameName(text, rename.from, rename.to);
		return formula && text === formula.from ? formula.to : text;
	};
	return withNodeChanged(graph, id, () => ({ settings: mapFormulas(node, change) }));
}
