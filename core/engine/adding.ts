/** Where a new node goes in a graph: which wires it is put into, and the place on the ground at which its label covers none. */
import type { Graph, GraphNode, Wire } from './document.ts';
import { nodeKinds } from '../nodes/index.ts';
import { throughPorts, withWire } from './build.ts';
import { passesOn } from './chain.ts';
import { inputsShown, outputOf, outputsOf } from './connect.ts';
import { firstFitting, withNodeOnWire, wireId } from './edits.ts';

type Port = readonly [string, string];

const nodeIn = (graph: Graph, id: string): GraphNode | undefined => graph.nodes.find((one) => one.id === id);

/**
 * A node added where another is selected: it goes into the chain. What passes geometry on goes into all wires that leave the
 * selected one; what makes another thing of it goes into the wire to *Result*; points join it there.
 * @param from the output of the selected node
 */
export function withNodeAfter(graph: Graph, id: string, from: Port): Graph {
	const node = nodeIn(graph, id);
	const source = nodeIn(graph, from[0]);
	const kind = source && outputOf(source, from[1])?.kind;
	const input = node && kind && firstFitting(node, kind);
	if (!node || !input) return graph;
	const linked = () => withWire(graph, { from: [from[0], from[1]], to: [id, input] });
	const ports = throughPorts(node);
	if (kind !== 'geometry' || !ports || ports.input !== input) return linked();
	const out = graph.wires.filter((wire) => wire.from[0] === from[0] && wire.from[1] === from[1]);
	const intoResult = out.filter(({ to }) => nodeIn(graph, to[0])?.kind === 'result');
	if (passesOn(node)) return out.reduce((made, wire) => withNodeOnWire(made, id, wire), linked());
	if (nodeKinds.get(node.kind)!.family === 'points')
		return intoResult.reduce((made, { to }) => withWire(made, { from: [id, ports.output], to }), linked());
	return intoResult.reduce((made, wire) => withNodeOnWire(made, id, wire), linked());
}

/** How wide labels are on the ground, and how far they stand apart at least. */
const LABEL_WIDE = 188;
const GAP = 22;

/** How tall a label is drawn: as it was measured, or about what it will be. */
export type HeightOf = (node: GraphNode) => number;
export function aboutAsTall(node: GraphNode): number {
	const rows = inputsShown(node).filter(([, { kind }]) => kind === 'geometry' || kind === 'list').length;
	return 62 + 21 * (rows + Math.min(MANY_OUTPUTS, Object.keys(outputsOf(node)).length));
}
/** Labels fold their outputs from so many on. */
const MANY_OUTPUTS = 6;

/**
 * How far new labels must move down from where they are wanted to cover none: 0 where they lie free.
 * @param wanted labels as they would stand
 */
export function downToFree(
	{ nodes }: Pick<Graph, 'nodes'>,
	wanted: readonly GraphNode[],
	heightOf: HeightOf
): number {
	// Only labels of the same and of the neighbouring lanes can be in the way.
	const laneOf = ({ at }: GraphNode): number => Math.floor(at[0] / (LABEL_WIDE + GAP));
	const lanes = new Map<number, GraphNode[]>();
	for (const node of nodes) {
		const lane = lanes.get(laneOf(node));
		if (lane) lane.push(node);
		else lanes.set(laneOf(node), [node]);
	}
	/** Ways down that would lay one of them on another, as from and to. */
	const taken: [number, number][] = [];
	for (const node of wanted)
		for (const lane of [-1, 0, 1])
			for (const other of lanes.get(laneOf(node) + lane) ?? []) {
				if (Math.abs(other.at[0] - node.at[0]) >= LABEL_WIDE + GAP) continue;
				const to = other.at[1] + heightOf(other) + GAP - node.at[1];
				if (to > 0) taken.push([other.at[1] - GAP - heightOf(node) - node.at[1], to]);
			}
	let down = 0;
	for (const [from, to] of taken.sort((a, b) => a[0] - b[0])) {
		if (from >= down) break;
		down = Math.max(down, to);
	}
	return Math.ceil(down);
}

/**
 * A graph in which a new node lies on no other. One that stands in a chain gets a column of its own: what stands there and to
 * the right moves aside. Any other goes down to where it is free.
 */
export function withPlaceFor(graph: Graph, id: string, heightOf: HeightOf): Graph {
	const node = nodeIn(graph, id);
	const others = graph.nodes.filter((one) => one.id !== id);
	const down = node ? downToFree({ nodes: others }, [node], heightOf) : 0;
	if (!node || !down) return graph;
	const place = <Placed extends { id: string; at: [number, number] }>(
		one: Placed,
		at: [number, number]
	): Placed => ({ ...one, at });
	if (!graph.wires.some(({ from }) => from[0] === id))
		return {
			...graph,
			nodes: graph.nodes.map((one) => (one.id === id ? place(one, [one.at[0], one.at[1] + down]) : one))
		};
	const from = node.at[0] - LABEL_WIDE / 2;
	const first = Math.min(...others.filter(({ at }) => at[0] >= from).map(({ at }) => at[0]));
	const by = node.at[0] + COLUMN - first;
	const aside = <Placed extends { id: string; at: [number, number] }>(one: Placed): Placed =>
		one.id !== id && one.at[0] >= from ? place(one, [Math.round(one.at[0] + by), one.at[1]]) : one;
	const moved = { ...graph, nodes: graph.nodes.map(aside), notes: graph.notes.map(aside) };
	// What reaches into the column from the left stays where it is.
	const left = downToFree({ nodes: moved.nodes.filter((one) => one.id !== id) }, [node], heightOf);
	return {
		...moved,
		nodes: moved.nodes.map((one) => (one.id === id ? place(one, [one.at[0], one.at[1] + left]) : one))
	};
}
/** From one column of labels to the next. */
const COLUMN = 250;

/** The lane below a label that has grown moves down by as much as it would be covered; the same graph where none is. */
export function withRoomBelow(graph: Graph, id: string, heightOf: HeightOf): Graph {
	const grown = nodeIn(graph, id);
	if (!grown) return graph;
	const inLane = ({ at }: GraphNode, of: GraphNode) => Math.abs(at[0] - of.at[0]) < LABEL_WIDE;
	const moved = new Map<string, number>();
	const queue = [{ node: grown, y: grown.at[1] }];
	for (let at = 0; at < queue.length && at < graph.nodes.length; at++) {
		const { node: above, y } = queue[at];
		for (const below of graph.nodes) {
			if (below.id === above.id || !inLane(below, above) || below.at[1] < above.at[1]) continue;
			const now = moved.get(below.id) ?? below.at[1];
			const wanted = y + heightOf(above) + GAP / 2;
			if (below.at[1] === above.at[1] || now >= wanted) continue;
			moved.set(below.id, Math.round(wanted));
			queue.push({ node: below, y: Math.round(wanted) });
		}
	}
	if (!moved.size) return graph;
	return {
		...graph,
		nodes: graph.nodes.map((node) =>
			moved.has(node.id) ? { ...node, at: [node.at[0], moved.get(node.id)!] } : node
		)
	};
}

/** Nodes in the order of flow: each after those it hangs from, otherwise from left to right and top to bottom. */
export function inOrderOfFlow({ nodes, wires }: Pick<Graph, 'nodes' | 'wires'>): GraphNode[] {
	const waits = new Map(nodes.map(({ id }) => [id, 0]));
	const next = new Map<string, string[]>();
	for (const { from, to } of wires) {
		if (!waits.has(from[0]) || !waits.has(to[0])) continue;
		waits.set(to[0], waits.get(to[0])! + 1);
		const list = next.get(from[0]);
		if (list) list.push(to[0]);
		else next.set(from[0], [to[0]]);
	}
	/** For each the longest way to it; what lies on a circle has none, and comes last. */
	const depth = new Map<string, number>();
	const queue = nodes.filter(({ id }) => !waits.get(id)).map(({ id }) => id);
	for (const id of queue) depth.set(id, 0);
	for (const id of queue)
		for (const to of next.get(id) ?? []) {
			depth.set(to, Math.max(depth.get(to) ?? 0, depth.get(id)! + 1));
			waits.set(to, waits.get(to)! - 1);
			if (!waits.get(to)) queue.push(to);
		}
	const placeOf = ({ id }: GraphNode): number => (waits.get(id) ? Infinity : depth.get(id)!);
	const compare = (a: number, b: number): number => (a < b ? -1 : a > b ? 1 : 0);
	return [...nodes].sort((a, b) => compare(placeOf(a), placeOf(b)) || a.at[0] - b.at[0] || a.at[1] - b.at[1]);
}

/** A wire led through other places. */
export function withBends(graph: Graph, wire: Wire, bends: readonly (readonly [number, number])[]): Graph {
	const at = wireId(wire);
	return {
		...graph,
		wires: graph.wires.map((one) => {
			if (wireId(one) !== at) return one;
			const { bends: _old, ...plain } = one;
			return bends.length ? { ...plain, bends: bends.map(([x, y]) => [x, y] as [number, number]) } : plain;
		})
	};
}
