/** Places for the nodes of a graph from cause to effect, column by column. */
import type { Graph } from './document.ts';

/** From one column to the next, and between nodes of a column; as the graph counts. */
const COLUMN = 250,
	GAP = 36;

/** @param heightOf how tall a node is. */
export function tidyPlaces(
	graph: Graph,
	heightOf: (id: string) => number
): Map<string, readonly [number, number]> {
	const { nodes, wires } = graph;
	const column = new Map<string, number>();
	const order = [...nodes].sort((a, b) => a.at[0] - b.at[0]);
	// Longest path; as many rounds as there are nodes at most, for graphs are free of circles.
	for (let round = 0, moved = true; moved && round <= nodes.length; round++) {
		moved = false;
		for (const node of order) {
			const place = Math.max(
				0,
				...wires.filter((w) => w.to[0] === node.id).map((w) => (column.get(w.from[0]) ?? 0) + 1)
			);
			if (column.get(node.id) !== place) {
				column.set(node.id, place);
				moved = true;
			}
		}
	}
	// A source stands just before the first node it feeds.
	for (const node of order)
		if (!wires.some((w) => w.to[0] === node.id)) {
			const feeds = wires.filter((w) => w.from[0] === node.id).map((w) => column.get(w.to[0])! - 1);
			if (feeds.length) column.set(node.id, Math.max(0, Math.min(...feeds)));
		}
	const places = new Map<string, readonly [number, number]>();
	const last = Math.max(0, ...column.values());
	for (let c = 0; c <= last; c++) {
		const inColumn = order.filter((node) => column.get(node.id) === c).sort((a, b) => a.at[1] - b.at[1]);
		let y = 0;
		for (const node of inColumn) {
			places.set(node.id, [c * COLUMN, y]);
			y += heightOf(node.id) + GAP;
		}
	}
	return places;
}
