/** What the flow is given follows the document, and only what changed is drawn again. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { newNode, withNodeChanged, withoutNodes, withWire } from '../../../../core/engine/index.ts';
import type { Graph } from '../../../../core/engine/index.ts';
import type { Editor } from '../../editor/editor.svelte.ts';
import { firstLook, flowEdges, flowNodes } from './flow-items.ts';

function row(count: number): Graph {
	let graph: Graph = { nodes: [], wires: [], notes: [] };
	for (let i = 0; i < count; i++)
		graph = { ...graph, nodes: [...graph.nodes, newNode(graph, 'transform', [i * 220, (i % 3) * 80])] };
	for (let i = 1; i < count; i++)
		graph = withWire(graph, {
			from: [graph.nodes[i - 1].id, 'geometry'],
			to: [graph.nodes[i].id, 'geometry']
		});
	return { ...graph, notes: [{ id: 't1', at: [-40, 300], text: 'Tide', width: 240 }] };
}
const editing = (...selected: string[]) => ({ selected: new Set(selected) }) as unknown as Editor;

test('one changed node is one new object; all others are the ones that are drawn already', () => {
	const graph = row(40);
	const editor = editing();
	const first = flowNodes(editor, graph, []);
	assert.equal(first.length, 41);
	assert.deepEqual(flowNodes(editor, graph, first), first);
	const moved = withNodeChanged(graph, graph.nodes[7].id, () => ({ at: [5, 6] }));
	const second = flowNodes(editor, moved, first);
	assert.deepEqual(
		second.flatMap((node, i) => (node === first[i] ? [] : [node.id])),
		[graph.nodes[7].id]
	);
	assert.deepEqual(second[7].position, { x: 5, y: 6 });
	const third = flowNodes(editing(graph.nodes[3].id, 't1'), moved, second);
	assert.deepEqual(
		third.filter(({ selected }) => selected).map(({ id }) => id),
		[graph.nodes[3].id, 't1']
	);
	assert.equal(third.filter((node, i) => node !== second[i]).length, 2);
});

test('wires keep their objects, and go with their nodes', () => {
	const graph = row(12);
	const editor = editing();
	const first = flowEdges(editor, graph, []);
	assert.equal(first.length, 11);
	for (const [i, edge] of first.entries())
		assert.deepEqual([edge.source, edge.target], [graph.nodes[i].id, graph.nodes[i + 1].id]);
	const healed = withoutNodes(graph, new Set([graph.nodes[5].id]));
	const second = flowEdges(editor, healed, first);
	assert.equal(second.length, 10);
	assert.equal(second.filter((edge) => !first.includes(edge)).length, 1, 'the healed wire is new');
});

test('at first a graph is seen whole, or its causes at a size that can be read', () => {
	for (const [count, pane] of [
		[1, { width: 500, height: 700 }],
		[3, { width: 900, height: 500 }],
		[60, { width: 500, height: 700 }]
	] as const) {
		const graph = row(count);
		const { x, y, zoom } = firstLook(graph, pane)!;
		assert.ok(zoom >= 0.6 && zoom <= 1.1, `${count} nodes at ${zoom}`);
		const places = [...graph.nodes, ...graph.notes].map(({ at }) => at);
		const left = Math.min(...places.map(([px]) => px * zoom + x)),
			top = Math.min(...places.map(([, py]) => py * zoom + y));
		assert.ok(Math.abs(left - 24) < 1e-9 && Math.abs(top - 60) < 1e-9, 'the first stands in the corner');
		if (count < 60)
			for (const [px, py] of places)
				assert.ok(px * zoom + x + 160 * zoom < pane.width && py * zoom + y < pane.height);
	}
	assert.equal(firstLook({ nodes: [], wires: [], notes: [] }, { width: 500, height: 700 }), null);
});

test('wires are called by their ends; a renamed node gives its wires another name, and no others', () => {
	const graph = row(4);
	const first = flowEdges(editing(), graph, []);
	assert.equal(first[0].ariaLabel, 'Wire from transform, Geometry, to transform2, Geometry');
	const renamed = withNodeChanged(graph, graph.nodes[0].id, () => ({ short: 'quay' }));
	const second = flowEdges(editing(), renamed, first);
	assert.match(second[0].ariaLabel!, /^Wire from quay,/);
	assert.deepEqual(second.slice(1), first.slice(1));
	assert.equal(second[1], first[1]);
});
