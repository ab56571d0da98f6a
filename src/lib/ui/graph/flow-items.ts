/** The document's nodes, notes and wires as the flow shows them. */
import type { Edge, Node } from '@xyflow/svelte';
import type { Graph, GraphNode, Wire } from '$core/engine/index';
import { inOrderOfFlow, inputOf, outputOf, wireId } from '$core/engine/index';
import type { Editor } from '$lib/editor/editor.svelte';

/** What the flow shows, following the document. What did not change keeps its object, so that it is not drawn again. */
export function flowNodes(editor: Editor, graph: Graph, before: readonly Node[]): Node[] {
	const { notes } = graph;
	// Tab goes through them as they stand here.
	const nodes = inOrderOfFlow(graph);
	const old = new Map(before.map((node) => [node.id, node]));
	const item = (type: 'label' | 'note', one: { id: string; at: [number, number] }): Node => {
		const was = old.get(one.id);
		const selected = editor.selected.has(one.id);
		if (was && was.data.item === one && was.selected === selected) return was;
		return {
			...was,
			id: one.id,
			type,
			position: { x: one.at[0], y: one.at[1] },
			data: { item: one, editor },
			selected,
			...(type === 'label' && { zIndex: 1 })
		};
	};
	return [...nodes.map((one) => item('label', one)), ...notes.map((one) => item('note', one))];
}

export function flowEdges(editor: Editor, { nodes, wires }: Graph, before: readonly Edge[]): Edge[] {
	const old = new Map(before.map((edge) => [edge.id, edge]));
	const byId = new Map(nodes.map((node) => [node.id, node]));
	return wires.map((wire) => {
		const was = old.get(wireId(wire));
		const ends = { source: byId.get(wire.from[0]), target: byId.get(wire.to[0]) };
		const isSame = was?.data?.wire === wire;
		if (was && isSame && was.data!.source === ends.source && was.data!.target === ends.target) return was;
		const ariaLabel = nameOfWire(wire, ends);
		// A setting that is dragged makes another node of the same name: nothing of the wire is drawn anew.
		if (was && isSame && was.ariaLabel === ariaLabel) {
			Object.assign(was.data!, ends);
			return was;
		}
		return {
			...was,
			id: wireId(wire),
			type: 'knot',
			source: wire.from[0],
			sourceHandle: wire.from[1],
			target: wire.to[0],
			targetHandle: wire.to[1],
			ariaLabel,
			data: { wire, editor, ...ends }
		};
	});
}

/** What a wire is called: from an output to an input. */
function nameOfWire(
	{ from, to }: Wire,
	{ source, target }: { source?: GraphNode; target?: GraphNode }
): string {
	const input = target && inputOf(target, to[1]);
	return `Wire from ${source?.short}, ${outputOf(source, from[1])?.label ?? from[1]}, to ${target?.short}, ${input?.label ?? to[1]}`;
}

/**
 * Where the graph is looked at when it is opened: all of it, unless that would be too small to read; then the left end,
 * where causes stand. Reckoned from the document, because labels have no size yet.
 */
export function firstLook(
	{ nodes, notes }: Graph,
	pane: { width: number; height: number }
): { x: number; y: number; zoom: number } | null {
	const places = [...nodes, ...notes].map(({ at }) => at);
	if (!places.length) return null;
	const left = Math.min(...places.map(([x]) => x)),
		top = Math.min(...places.map(([, y]) => y));
	const wide = Math.max(...places.map(([x]) => x)) - left + 230,
		high = Math.max(...places.map(([, y]) => y)) - top + 160;
	const tall = (pane.height - 110) / high;
	const whole = Math.min(1.1, (pane.width - 48) / wide, tall);
	const zoom = whole < 0.6 ? Math.max(0.62, Math.min(0.75, tall)) : whole;
	return { x: 24 - left * zoom, y: 60 - top * zoom, zoom };
}

/** The id of the wire, if any, that runs through a rectangle of the screen. */
export function wireThrough(pane: HTMLElement, box: DOMRect): string | undefined {
	const runsThrough = (edge: SVGPathElement): boolean => {
		const curve = edge.querySelector<SVGPathElement>('path');
		const matrix = curve?.getScreenCTM();
		if (!curve || !matrix) return false;
		const length = curve.getTotalLength();
		return Array.from({ length: 23 }, (_, k) =>
			curve.getPointAtLength((length * (k + 1)) / 24).matrixTransform(matrix)
		).some((p) => p.x > box.left && p.x < box.right && p.y > box.top && p.y < box.bottom);
	};
	return [...pane.querySelectorAll<SVGPathElement>('.svelte-flow__edge')].find(runsThrough)?.dataset.id;
}
