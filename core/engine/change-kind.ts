/** A node of another kind in a node's place. */
import { nodeKinds, takesMany } from '../nodes/index.ts';
import type { InputDefinition } from '../nodes/index.ts';
import { renameInFormula } from '../varying/index.ts';
import { mapFormulas, newNode, shortFor } from './build.ts';
import { bodyNameOf } from './bodies.ts';
import { fits, inputOf, inputsOf, outputOf, outputsOf } from './connect.ts';
import type { Graph, GraphNode } from './document.ts';

/** The graph with a node of another kind in a node's place; wires and settings that fit are kept. */
export function withKind(graph: Graph, id: string, kindId: string): Graph {
	const node = graph.nodes.find((one) => one.id === id);
	const kind = nodeKinds.get(kindId);
	if (!node || !kind || node.kind === kindId) return graph;
	const before = nodeKinds.get(node.kind);
	const made = newNode({ ...graph, nodes: graph.nodes.filter((one) => one.id !== id) }, kindId, node.at);
	for (const [name, setting] of Object.entries(node.settings)) {
		const input = kind.inputs[name] as InputDefinition | undefined;
		const old = before?.inputs[name] as InputDefinition | undefined;
		if (!input || input.kind !== old?.kind) continue;
		if (input.kind === 'choice' && !input.options.some((option) => option.id === setting)) continue;
		made.settings[name] = setting;
	}
	// Between kinds that have bodies the body stays, with what is set at its ports.
	const keepsBody = bodyNameOf(node) !== null && bodyNameOf(made) !== null;
	if (keepsBody)
		for (const { name } of node.ports?.inputs ?? [])
			if (Object.hasOwn(node.settings, name)) made.settings[name] = node.settings[name];
	// A name of the artist's own stays; one that came from the kind follows it.
	const ownName = !before || !new RegExp(`^${shortFor(before)}\\d*$`).test(node.short);
	const next: GraphNode = {
		...made,
		...(keepsBody && { ports: node.ports }),
		id,
		stream: node.stream,
		...(node.title !== undefined && { title: node.title }),
		short: ownName ? node.short : made.short
	};
	let out: Graph = { ...graph, nodes: graph.nodes.map((one) => (one.id === id ? next : one)), wires: [] };
	const outputs = Object.entries(outputsOf(next));
	for (const wire of graph.wires) {
		let { from, to } = wire;
		if (to[0] === id) {
			const source = graph.nodes.find((one) => one.id === from[0]);
			const carried = outputOf(source, from[1])?.kind;
			const ports = [to[1], ...inputsOf(next).map(([name]) => name)];
			const port =
				carried &&
				ports.find((name) => {
					const input = inputOf(next, name);
					const free = !out.wires.some((w) => w.to[0] === id && w.to[1] === name);
					return (
						input &&
						fits(carried, input).fits &&
						(free || takesMany(input)) &&
						(name === to[1] || input.kind === 'geometry' || input.kind === 'list')
					);
				});
			if (!port) continue;
			to = [id, port];
		}
		if (from[0] === id) {
			const target = graph.nodes.find((one) => one.id === to[0]);
			const input = target && inputOf(target, to[1]);
			const named = outputs.find(([name]) => name === from[1]);
			const found = input && [named, ...outputs].find((one) => one && fits(one[1].kind, input).fits);
			if (!found) continue;
			from = [id, found[0]];
		}
		out = { ...out, wires: [...out.wires, { from, to }] };
	}
	return renamed(out, node.short, next.short);
}

const renamed = (graph: Graph, from: string, to: string): Graph =>
	from === to
		? graph
		: {
				...graph,
				nodes: graph.nodes.map((node) => ({
					...node,
					settings: mapFormulas(node, (text) => renameInFormula(text, from, to))
				}))
			};
