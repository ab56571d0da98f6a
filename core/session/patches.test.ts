import assert from 'node:assert/strict';
import { test } from 'node:test';
import { newDocument, newNode, withSetting, withWire, withoutNodes } from '../engine/index.ts';
import type { GeneratorDocument, Graph } from '../engine/index.ts';
import { dice, generator, pick } from '../testing/index.ts';
import { patchBetween, patched } from './patches.ts';

const EDITS: ((graph: Graph, roll: () => number) => Graph)[] = [
	(graph, roll) => ({
		...graph,
		nodes: [...graph.nodes, newNode(graph, pick(roll, ['grid', 'box', 'merge']), [0, 0])]
	}),
	(graph, roll) => withoutNodes(graph, new Set([pick(roll, graph.nodes).id])),
	(graph, roll) => withSetting(graph, pick(roll, graph.nodes).id, 'width', roll()),
	(graph, roll) =>
		withWire(graph, {
			from: [pick(roll, graph.nodes).id, 'mesh'],
			to: [pick(roll, graph.nodes).id, 'geometry']
		}),
	(graph) => ({ ...graph, nodes: [...graph.nodes].reverse() }),
	(graph) => ({ ...graph, wires: graph.wires.slice(1) })
];

test('the copy is what the page has, after any edits, some of them skipped', () => {
	const roll = dice(5);
	let page: GeneratorDocument = generator([
		['grid', 'a', {}],
		['box', 'b', {}],
		['merge', 'all', {}, { geometry: ['a.mesh', 'b.mesh'] }]
	]);
	let sent: GeneratorDocument | null = null;
	let copy: GeneratorDocument | null = null;
	for (let step = 0; step < 400; step++) {
		const main: Graph =
			page.graphs.main.nodes.length > 2
				? pick(roll, EDITS)(page.graphs.main, roll)
				: EDITS[0](page.graphs.main, roll);
		page = { ...page, graphs: { main } };
		if (roll() < 0.2) page = { ...page, seed: Math.floor(roll() * 100) };
		if (roll() < 0.1)
			page = { ...page, assets: { ...page.assets, ['a'.repeat(32)]: { name: 'x', bytes: step } } };
		// While the worker is busy, only the newest state is sent.
		if (roll() < 0.4) continue;
		copy = patched(copy, structuredClone(patchBetween(sent, page)));
		sent = page;
		const { graphs, seed, assets } = copy;
		assert.deepEqual(
			{ nodes: graphs.main.nodes, wires: graphs.main.wires, seed, assets },
			{ nodes: page.graphs.main.nodes, wires: page.graphs.main.wires, seed: page.seed, assets: page.assets }
		);
	}
});

test('one changed setting sends one node, and leaves the others the same objects', () => {
	const before = generator([...Array(50)].map((_, i) => ['grid', `g${i}`, {}] as const));
	const [, second] = before.graphs.main.nodes;
	const after = { ...before, graphs: { main: withSetting(before.graphs.main, second.id, 'width', 7) } };
	const patch = patchBetween(before, after);
	assert.deepEqual(Object.keys(patch), ['nodes']);
	assert.equal(patch.nodes!.length, 1);
	const copy = patched(before, patch);
	assert.equal(copy.graphs.main.nodes[0], before.graphs.main.nodes[0]);
	assert.equal(copy.graphs.main.nodes[1].settings.width, 7);
	// Nothing that is evaluated has changed: the graph itself is the same object.
	const renamed = patched(before, patchBetween(before, { ...before, name: 'Other' }));
	assert.equal(renamed.graphs.main, before.graphs.main);
	assert.throws(() => patched(null, {}), /whole document/);
	assert.deepEqual(patched(null, patchBetween(null, newDocument('New'))).name, 'New');
});
