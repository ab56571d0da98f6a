/** Where new nodes go: onto wires, into chains, and where no label lies. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { evaluateAll, generator } from '../testing/index.ts';
import {
	aboutAsTall,
	downToFree,
	inOrderOfFlow,
	withBends,
	withNodeAfter,
	withPlaceFor,
	withRoomBelow
} from './adding.ts';
import { newNode, withWire } from './build.ts';
import { withBrought } from './brought.ts';
import { copyNodes, pasteNodes } from './clip.ts';
import type { Graph, GraphNode } from './document.ts';
import { withGraph } from './document.ts';
import { openDocument, writeDocument } from './document-text.ts';
import { withNodeOnWire, wireId } from './edits.ts';

const at = (graph: Graph, short: string): GraphNode => graph.nodes.find((node) => node.short === short)!;
const added = (graph: Graph, kind: string): [Graph, string] => {
	const node = newNode(graph, kind, [0, 0]);
	return [{ ...graph, nodes: [...graph.nodes, node] }, node.id];
};
const ways = (graph: Graph): string[] =>
	graph.wires
		.map(
			({ from, to }) =>
				`${graph.nodes.find(({ id }) => id === from[0])!.short} > ${graph.nodes.find(({ id }) => id === to[0])!.short}`
		)
		.sort();

const ground = generator([
	['grid', 'mud', {}],
	['transform', 'raised', {}, { geometry: 'mud.mesh' }],
	['sow-points', 'sown', {}, { surface: 'mud.mesh' }],
	['result', 'result', {}, { geometry: 'raised.geometry' }]
]).graphs.main;

test('what passes geometry on goes into all wires of the selected node; what makes another thing of it before Result', () => {
	const mud = [at(ground, 'mud').id, 'mesh'] as const;
	const [withWave, wave] = added(ground, 'displace');
	assert.deepEqual(ways(withNodeAfter(withWave, wave, mud)), [
		'displace > raised',
		'displace > sown',
		'mud > displace',
		'raised > result'
	]);
	const raised = [at(ground, 'raised').id, 'geometry'] as const;
	const [withHull, hull] = added(ground, 'hull');
	assert.deepEqual(ways(withNodeAfter(withHull, hull, raised)), [
		'hull > result',
		'mud > raised',
		'mud > sown',
		'raised > hull'
	]);
	// Of a node that feeds no Result it takes nothing away.
	assert.deepEqual(ways(withNodeAfter(withHull, hull, mud)), [
		'mud > hull',
		'mud > raised',
		'mud > sown',
		'raised > result'
	]);
});

test('points that are sown on what is shown join it in Result, which takes many', () => {
	const raised = [at(ground, 'raised').id, 'geometry'] as const;
	const [withSown, sown] = added(ground, 'sow-points');
	const after = withNodeAfter(withSown, sown, raised);
	assert.deepEqual(
		ways(after).filter((way) => way.endsWith('> result')),
		['raised > result', 'sowPoints > result']
	);
	const document = withGraph(generator([['grid', 'x', {}]]), 'main', () => after);
	const made = evaluateAll(document).geometry('result');
	assert.ok(made.mesh!.faces.count > 0 && made.points!.points.count > 0);
});

test('a Result of several gives what Merge gives of them, and of one that one itself', () => {
	const of = (kind: string) =>
		evaluateAll(
			generator([
				['box', 'a', {}],
				['sphere', 'b', {}],
				[kind, 'end', {}, { geometry: ['a.mesh', 'b.mesh'] }],
				['result', 'one', {}, { geometry: 'a.mesh' }]
			])
		);
	const [merged, result] = [of('merge'), of('result')];
	assert.deepEqual(result.geometry('end').mesh!.faces.count, merged.geometry('end').mesh!.faces.count);
	assert.deepEqual(
		[...result.geometry('end').mesh!.faces.ids!],
		[...merged.geometry('end').mesh!.faces.ids!]
	);
	assert.equal(result.geometry('one').mesh, result.geometry('a').mesh);
});

test('a node is put onto any wire that it fits on both sides, and what flowed there flows on through it', () => {
	const graph = generator([
		['number', 'tide', { value: 2 }],
		['box', 'plank', {}],
		['transform', 'put', { move: [1, 0, 0] }, { geometry: 'plank.mesh' }],
		['merge', 'all', {}, { geometry: ['plank.mesh', 'put.geometry'] }]
	]).graphs.main;
	const wired = withWire(graph, {
		from: [at(graph, 'tide').id, 'value'],
		to: [at(graph, 'put').id, 'strength']
	});
	const [withRemap, remap] = added(wired, 'remap');
	const values = withNodeOnWire(withRemap, remap, wired.wires.at(-1)!);
	assert.ok(ways(values).includes('tide > remap') && ways(values).includes('remap > put'));
	assert.equal(values.wires.length, wired.wires.length + 1);
	// Among several wires of one input it takes the place of the one that it is put into.
	const first = wired.wires.find(({ to }) => to[0] === at(graph, 'all').id)!;
	const [withTurn, turn] = added(wired, 'twist');
	const into = withNodeOnWire(withTurn, turn, first).wires.filter(({ to }) => to[0] === at(graph, 'all').id);
	assert.deepEqual(
		into.map(({ from }) => from[0]),
		[turn, at(graph, 'put').id]
	);
	// A wire that is there no more, and a node that does not fit: nothing.
	assert.equal(withNodeOnWire(withTurn, turn, { from: ['x', 'y'], to: ['z', 'w'] }), withTurn);
	const [withCamera, camera] = added(wired, 'camera');
	assert.equal(withNodeOnWire(withCamera, camera, first), withCamera);
});

const lane = fc.array(fc.tuple(fc.integer({ min: -400, max: 400 }), fc.integer({ min: -600, max: 600 })), {
	minLength: 1,
	maxLength: 14
});
const boxes = (places: readonly (readonly [number, number])[]): Graph => {
	let graph: Graph = { nodes: [], wires: [], notes: [] };
	for (const place of places)
		graph = { ...graph, nodes: [...graph.nodes, newNode(graph, 'box', [place[0], place[1]])] };
	return graph;
};
const isOver = (a: GraphNode, b: GraphNode, heightOf = aboutAsTall) =>
	Math.abs(a.at[0] - b.at[0]) < 188 && a.at[1] < b.at[1] + heightOf(b) && b.at[1] < a.at[1] + heightOf(a);

test('new nodes lie on no others, alone or as a set that keeps its shape, and move no more than they must', () => {
	fc.assert(
		fc.property(lane, lane, (there, come) => {
			const graph = boxes(there);
			const wanted = boxes(come).nodes;
			const down = downToFree(graph, wanted, aboutAsTall);
			assert.ok(down >= 0);
			const placed = wanted.map((node): GraphNode => ({ ...node, at: [node.at[0], node.at[1] + down] }));
			for (const one of placed)
				for (const other of graph.nodes) assert.ok(!isOver(one, other), `${one.at} lies on ${other.at}`);
			if (down)
				assert.ok(
					wanted.some((one) =>
						graph.nodes.some(
							(other) =>
								isOver(one, other, (node) => aboutAsTall(node) + 24) ||
								Math.abs(one.at[0] - other.at[0]) < 210
						)
					)
				);
		}),
		{ numRuns: 200 }
	);
	const graph = boxes([[0, 0]]);
	assert.equal(downToFree(graph, boxes([[0, 400]]).nodes, aboutAsTall), 0);
});

test('what lies in the lane below a label that grew moves down, in its order, and nothing else moves', () => {
	fc.assert(
		fc.property(lane, fc.integer({ min: 60, max: 500 }), (places, height) => {
			const graph = boxes(places);
			const [grown] = graph.nodes;
			const tall = (node: GraphNode) => (node.id === grown.id ? height : aboutAsTall(node));
			const after = withRoomBelow(graph, grown.id, tall);
			for (const [i, node] of after.nodes.entries()) {
				assert.equal(node.at[0], graph.nodes[i].at[0]);
				assert.ok(node.at[1] >= graph.nodes[i].at[1]);
				if (graph.nodes[i].at[1] <= grown.at[1]) assert.deepEqual(node.at, graph.nodes[i].at);
				else assert.ok(!isOver(node, after.nodes[0], tall), 'the grown one covers it');
			}
		}),
		{ numRuns: 200 }
	);
});

test('in the order of flow each node comes after those it hangs from, whatever the graph', () => {
	fc.assert(
		fc.property(lane, fc.array(fc.tuple(fc.nat(13), fc.nat(13)), { maxLength: 20 }), (places, links) => {
			const { nodes } = boxes(places);
			const wires = links
				.filter(([a, b]) => a < b && b < nodes.length)
				.map(([a, b]) => ({
					from: [nodes[a].id, 'mesh'] as [string, string],
					to: [nodes[b].id, 'geometry'] as [string, string]
				}));
			const order = inOrderOfFlow({ nodes, wires });
			assert.equal(new Set(order).size, nodes.length);
			const place = new Map(order.map(({ id }, i) => [id, i]));
			for (const { from, to } of wires) assert.ok(place.get(from[0])! < place.get(to[0])!);
		}),
		{ numRuns: 200 }
	);
});

test('bends stay with their wire in files and when it is pasted, and change nothing that is made', () => {
	const document = generator([
		['box', 'plank', {}],
		['transform', 'put', { move: [1, 0, 0] }, { geometry: 'plank.mesh' }]
	]);
	const [wire] = document.graphs.main.wires;
	const bent = withGraph(document, 'main', (graph) =>
		withBends(graph, wire, [
			[10, 20],
			[30, 40]
		])
	);
	const read = openDocument(writeDocument(bent)).document.graphs.main;
	assert.deepEqual(read.wires[0].bends, [
		[10, 20],
		[30, 40]
	]);
	assert.equal(wireId(read.wires[0]), wireId(wire));
	const clip = copyNodes(read, new Set(read.nodes.map(({ id }) => id)));
	const pasted = pasteNodes(read, clip, [100, 5]).graph.wires.at(-1)!;
	assert.deepEqual(pasted.bends, [
		[110, 25],
		[130, 45]
	]);
	assert.equal(withBends(read, read.wires[0], []).wires[0].bends, undefined);
	assert.equal(
		evaluateAll(bent).evaluation.results.get(at(read, 'put').id)!.key,
		evaluateAll(document).evaluation.results.get(at(read, 'put').id)!.key
	);
});

test('what comes into a chain gets a column of its own, and nothing is covered; what only hangs from one goes below', () => {
	fc.assert(
		fc.property(fc.integer({ min: 1, max: 8 }), fc.nat(7), fc.boolean(), (length, after, passes) => {
			let graph = generator([['grid', 'mud', {}]]).graphs.main;
			for (let i = 0; i < length; i++) {
				const node = newNode(graph, 'transform', [250 * (i + 1), 0]);
				const last = graph.nodes.at(-1)!;
				graph = withWire(
					{ ...graph, nodes: [...graph.nodes, node] },
					{ from: [last.id, i ? 'geometry' : 'mesh'], to: [node.id, 'geometry'] }
				);
			}
			const chosen = graph.nodes[Math.min(after, length)];
			const node = newNode(graph, passes ? 'twist' : 'sow-points', [chosen.at[0] + 250, chosen.at[1]]);
			const port = chosen.kind === 'grid' ? 'mesh' : 'geometry';
			const wired = withNodeAfter({ ...graph, nodes: [...graph.nodes, node] }, node.id, [chosen.id, port]);
			const placed = withPlaceFor(wired, node.id, aboutAsTall);
			for (const one of placed.nodes)
				for (const other of placed.nodes) assert.ok(one === other || !isOver(one, other));
			const own = placed.nodes.at(-1)!;
			const isLast = Math.min(after, length) === length;
			if (passes || isLast) assert.equal(own.at[1], chosen.at[1]);
			for (const { from, to } of placed.wires) {
				const [a, b] = [from[0], to[0]].map((id) => placed.nodes.find((one) => one.id === id)!);
				assert.ok(a.at[0] < b.at[0], 'from cause to effect');
			}
		}),
		{ numRuns: 100 }
	);
});

test('a tube on branches takes their radius, a ribbon on strands their width; what was set stays', () => {
	const graph = generator([
		['grid', 'mud', {}],
		['sow-points', 'sown', { by: 'count', count: 3 }, { surface: 'mud.mesh' }],
		['grow-branches', 'plant', {}, { from: 'sown.points' }],
		['transform', 'put', { move: [1, 0, 0] }, { geometry: 'plant.branches' }],
		['tube', 'bark', {}, { curve: 'put.geometry' }],
		['tube', 'set', { radius: 0.25 }, { curve: 'put.geometry' }],
		['line', 'way', {}],
		['tube', 'plain', {}, { curve: 'way.curve' }]
	]).graphs.main;
	const fed = (short: string, from: string) =>
		at(withBrought(graph, at(graph, from).id, at(graph, short).id), short).settings.radius;
	assert.deepEqual(fed('bark', 'put'), { formula: 'attribute.radius', streams: [] });
	assert.equal(fed('set', 'put'), 0.25);
	assert.equal(fed('plain', 'way'), 0.1);
	const taken = withBrought(graph, at(graph, 'put').id, at(graph, 'bark').id);
	const document = withGraph(generator([['grid', 'x', {}]]), 'main', () => taken);
	assert.equal(evaluateAll(document).error('bark'), null);
});
