/** Laying a graph out from cause to effect by a common layered layout that knows ports (elkjs). */
import type { ElkNode } from 'elkjs/lib/elk-api';
import type { Graph } from '../../../core/engine/index.ts';
import { GraphIndex, formulasOf, referencesIn } from '../../../core/engine/index.ts';

/** How large a label is, and how far down its ports stand, as the graph counts. */
export interface LabelSize {
	width: number;
	height: number;
	/** By `in NAME` and `out NAME`. */
	ports: ReadonlyMap<string, number>;
}

/** Where a port stands that a label does not show. */
const UNSEEN = 30;
/** Between a label and the note above it. */
const NOTE_GAP = 8;
/** Wider notes would reach under the next label, so a tidied graph has none. */
export const NOTE_WIDEST = 240;
/** A line of a note, and how many letters it holds for each pixel of its width. */
const NOTE_LINE = 18,
	NOTE_LETTERS = 0.165;

const OPTIONS = {
	'elk.algorithm': 'layered',
	'elk.direction': 'RIGHT',
	'elk.layered.spacing.nodeNodeBetweenLayers': '66',
	'elk.spacing.nodeNode': '34',
	'elk.layered.spacing.edgeNodeBetweenLayers': '24',
	'elk.spacing.edgeNode': '22',
	'elk.spacing.edgeEdge': '10',
	'elk.spacing.componentComponent': '44',
	'elk.layered.thoroughness': '30',
	'elk.layered.nodePlacement.strategy': 'NETWORK_SIMPLEX',
	'elk.layered.crossingMinimization.greedySwitch.type': 'TWO_SIDED',
	'elk.layered.crossingMinimization.greedySwitch.activationThreshold': '0',
	'elk.layered.crossingMinimization.semiInteractive': 'false',
	'elk.randomSeed': '1'
};

/** The notes that go with each node: every note with the label that it is nearest to. */
function notesByNode({ nodes, notes }: Graph, sizeOf: (id: string) => LabelSize): Map<string, typeof notes> {
	const out = new Map<string, typeof notes>();
	for (const note of notes) {
		const far = nodes.map(({ id, at }) => {
			const { width, height } = sizeOf(id);
			const wide = note.width ?? 240;
			const x = Math.max(0, at[0] - (note.at[0] + wide), note.at[0] - (at[0] + width));
			const y = Math.max(0, at[1] - (note.at[1] + noteHeight(note)), note.at[1] - (at[1] + height));
			return { id, far: Math.hypot(x, y) };
		});
		const nearest = far.reduce((best, one) => (one.far < best.far ? one : best), { id: '', far: Infinity });
		if (nearest.id) out.set(nearest.id, [...(out.get(nearest.id) ?? []), note]);
	}
	return out;
}

const noteHeight = ({ text, width = NOTE_WIDEST }: { text: string; width?: number }): number =>
	NOTE_LINE * Math.max(1, Math.ceil(text.length / (Math.min(width, NOTE_WIDEST) * NOTE_LETTERS)));

/** What the layout is asked: labels with their ports, each with its notes above it; wires, and references in formulas. */
export function layoutOf(graph: Graph, sizeOf: (id: string) => LabelSize): ElkNode {
	const notes = notesByNode(graph, sizeOf);
	const index = new GraphIndex(graph);
	const children = graph.nodes.map(({ id }): ElkNode => {
		const { width, height, ports } = sizeOf(id);
		const above = (notes.get(id) ?? []).reduce((sum, note) => sum + noteHeight(note) + NOTE_GAP, 0);
		const port = (name: string, side: 'WEST' | 'EAST') => ({
			id: `${id} ${name}`,
			x: side === 'WEST' ? 0 : width,
			y: above + (ports.get(name) ?? UNSEEN),
			width: 0,
			height: 0,
			layoutOptions: { 'elk.port.side': side }
		});
		const used = new Set(
			graph.wires.flatMap(({ from, to }) => [
				...(from[0] === id ? [`out ${from[1]}`] : []),
				...(to[0] === id ? [`in ${to[1]}`] : [])
			])
		);
		return {
			id,
			width,
			height: height + above,
			ports: [...used].map((name) => port(name, name.startsWith('in ') ? 'WEST' : 'EAST')),
			layoutOptions: { 'elk.portConstraints': 'FIXED_POS' }
		};
	});
	const wires = graph.wires.map(({ from, to }, i) => ({
		id: `wire ${i}`,
		sources: [`${from[0]} out ${from[1]}`],
		targets: [`${to[0]} in ${to[1]}`]
	}));
	// A number that formulas read stands left of them, though no wire says so. What would make a circle is left out.
	const references = graph.nodes.flatMap((node) =>
		Object.values(node.settings)
			.flatMap((setting) => formulasOf(setting))
			.flatMap(({ formula }) => referencesIn(formula, node, index))
			.filter(({ node: other }) => other.id !== node.id && !reaches(graph, node.id, other.id))
			.map(({ node: other }) => `${other.id} > ${node.id}`)
	);
	const edges = [...new Set(references)].map((both, i) => {
		const [from, to] = both.split(' > ');
		return {
			id: `reference ${i}`,
			sources: [from],
			targets: [to],
			layoutOptions: { 'elk.layered.priority.shortness': '0' }
		};
	});
	return { id: 'graph', layoutOptions: OPTIONS, children, edges: [...wires, ...edges] };
}

/** Whether wires lead from one node to another. */
function reaches({ wires }: Graph, from: string, to: string): boolean {
	const seen = new Set([from]);
	const open = [from];
	while (open.length) {
		const id = open.pop()!;
		if (id === to) return true;
		for (const wire of wires)
			if (wire.from[0] === id && !seen.has(wire.to[0])) {
				seen.add(wire.to[0]);
				open.push(wire.to[0]);
			}
	}
	return false;
}

/** The places of nodes and notes in a finished layout. */
export function placesIn(
	layout: ElkNode,
	graph: Graph,
	sizeOf: (id: string) => LabelSize
): Map<string, readonly [number, number]> {
	const notes = notesByNode(graph, sizeOf);
	const places = new Map<string, readonly [number, number]>();
	for (const { id, x = 0, y = 0 } of layout.children ?? []) {
		let top = Math.round(y);
		for (const note of notes.get(id) ?? []) {
			places.set(note.id, [Math.round(x), top]);
			top += noteHeight(note) + NOTE_GAP;
		}
		places.set(id, [Math.round(x), top]);
	}
	return places;
}
