/** The chain of geometry that leads to a node, and changes of its order. */
import { nodeKinds } from '../nodes/index.ts';
import type { Graph, GraphNode, Wire } from './document.ts';
import { throughPorts } from './build.ts';
import { pathBetween } from './connect.ts';

export interface Link {
	node: GraphNode;
	/** Why it cannot change places with its neighbours; null where it can. */
	fixed: string | null;
}

/** Kinds that change what they get but give the same nature of thing, beside all deformations and attributes. */
const KEEPS = new Set([
	'hide-where',
	'delete-where',
	'smooth-normals',
	'material',
	'reverse-curve',
	'resample-curve',
	'latch',
	'damped-follow',
	'follow-marker'
]);

function whyFixed(node: GraphNode): string | null {
	const kind = nodeKinds.get(node.kind)!;
	if (!throughPorts(node)) return `${kind.name} begins the chain: nothing can come before it.`;
	if (kind.family === 'deform' || kind.family === 'attributes' || KEEPS.has(kind.id)) return null;
	return kind.id === 'result'
		? 'Result ends the chain.'
		: `${kind.name} makes another kind of thing of what it gets, so nothing can pass it.`;
}

/** Whether a node hands on what it gets as the same kind of thing, so that it can stand anywhere in a chain. */
export const passesOn = (node: GraphNode): boolean => whyFixed(node) === null;

/** From the first cause to the node itself, along the main geometry input of each. */
export function chainTo(graph: Graph, id: string): Link[] {
	const byId = new Map(graph.nodes.map((node) => [node.id, node]));
	const chain: Link[] = [];
	const seen = new Set<string>();
	for (let node = byId.get(id); node && !seen.has(node.id);) {
		seen.add(node.id);
		chain.unshift({ node, fixed: whyFixed(node) });
		const ports = throughPorts(node);
		const wires: Wire[] = ports
			? graph.wires.filter((w) => w.to[0] === node!.id && w.to[1] === ports.input)
			: [];
		if (wires.length > 1) chain[0].fixed = 'Several wires come together here, so nothing can pass it.';
		node = wires.length ? byId.get(wires[0].from[0]) : undefined;
	}
	return chain;
}

/** Why a link of a chain cannot go to another place; null where it can. */
export function whyNotTo(graph: Graph, chain: readonly Link[], from: number, to: number): string | null {
	if (chain[from].fixed) return chain[from].fixed;
	for (let i = Math.min(from, to); i <= Math.max(from, to); i++)
		if (chain[i].fixed) return `${chain[i].node.short} stands between. ${chain[i].fixed}`;
	const { moved, order } = rewired(graph, chain, from, to);
	// A value read at a link, or measured there, may not come back to one that now stands before it.
	for (let i = 1; i < order.length; i++)
		if (pathBetween(moved, order[i].id, order[i - 1].id))
			return `${order[i - 1].short} takes something from ${order[i].short}, so it must come after it.`;
	return null;
}

/** The graph with one link of a chain moved to another place. Wires that lead off to the side stay where they are. */
export function withLinkAt(graph: Graph, chain: readonly Link[], from: number, to: number): Graph {
	return from === to || whyNotTo(graph, chain, from, to) ? graph : rewired(graph, chain, from, to).moved;
}

function rewired(
	graph: Graph,
	chain: readonly Link[],
	from: number,
	to: number
): { moved: Graph; order: GraphNode[] } {
	const low = Math.min(from, to),
		high = Math.max(from, to);
	const run = chain.slice(low, high + 1).map(({ node }) => node);
	const order = [...run];
	order.splice(to - low, 0, ...order.splice(from - low, 1));
	const ports = (node: GraphNode) => throughPorts(node)!;
	const into = (node: GraphNode) =>
		graph.wires.find((w) => w.to[0] === node.id && w.to[1] === ports(node).input)!;
	const enters = into(run[0]).from;
	const last = run[run.length - 1];
	const inner = new Set(run.map(into));
	const end = order[order.length - 1];
	const wires = graph.wires.flatMap((wire): Wire[] => {
		if (inner.has(wire)) return [];
		// What hung from the end of the run hangs from its new end; weights read at the old end stay there.
		const leaves = wire.from[0] === last.id && wire.from[1] === ports(last).output;
		const isChain = leaves && wire.to[1] !== 'weightAt';
		return isChain ? [{ from: [end.id, ports(end).output], to: wire.to }] : [wire];
	});
	order.forEach((node, i) =>
		wires.push({
			from: i === 0 ? enters : [order[i - 1].id, ports(order[i - 1]).output],
			to: [node.id, ports(node).input]
		})
	);
	return { moved: { ...graph, wires }, order };
}
