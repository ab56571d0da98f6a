/** What is kept between evaluations never shows: after any edits the result is that of a fresh evaluation. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { digestOf } from '../geometry/index.ts';
import type { Geometry } from '../geometry/index.ts';
import type { InputDefinition } from '../nodes/index.ts';
import { nodeKinds } from '../nodes/index.ts';
import { dice, generator, pick } from '../testing.ts';
import {
	Evaluator,
	copyNodes,
	fitsInGraph,
	inputsOf,
	openDocument,
	pasteNodes,
	sourcesFor,
	withKind,
	withSetting,
	withShort,
	withWire,
	withoutNodes,
	writeDocument
} from './index.ts';
import type { Evaluation, GeneratorDocument, Graph, GraphNode, Setting } from './index.ts';

/** A small flat with reeds, in which settings hang from one another in every way there is. */
const start = (): GeneratorDocument =>
	generator([
		['number', 'reach', { value: 3 }],
		['grid', 'flat', { width: 4, columns: 6, rows: 5 }, {}],
		['noise-value', 'relief', { size: 2 }],
		['displace', 'tide', {}, { geometry: 'flat.mesh', amount: 'relief.value' }],
		['weight-by-height', 'high', { from: -1, to: 1 }],
		[
			'sow-points',
			'sowing',
			{ by: 'count', count: { formula: 'reach.value * 6 + flat.columns', streams: [] } },
			{ surface: 'tide.geometry', weight: 'high.weight' }
		],
		['line', 'stalk', {}],
		['resample-curve', 'even', { by: 'count', count: 5 }, { curve: 'stalk.curve' }],
		['tube', 'reed', { radius: { formula: '0.05 * (1 - u)', streams: [] } }, { curve: 'even.curve' }],
		[
			'place-copies',
			'reeds',
			{
				rotation: [0, { low: 0, high: 360, stream: 'turn' }, 0],
				scale: { base: 1, variation: 0.2, stream: 's' }
			},
			{ points: 'sowing.points', source: 'reed.mesh' }
		],
		['even-steps', 'steps', { count: 4 }],
		['points-from-values', 'posts', {}, { x: 'steps.list' }],
		['measure', 'size', {}, { geometry: 'tide.geometry' }],
		['box', 'hut', { size: [1, { formula: 'reach.value / 2', streams: [] }, 1] }],
		['transform', 'moved', {}, { geometry: 'hut.mesh' }],
		['merge', 'all', {}, { geometry: ['reeds.copies', 'tide.geometry', 'moved.geometry', 'posts.points'] }],
		['result', 'result', {}, { geometry: 'all.geometry' }]
	]);

const numbersOf = (node: GraphNode) =>
	(inputsOf(node) as [string, InputDefinition][]).filter(([, input]) => input.kind === 'number');

function scalar(graph: Graph, roll: () => number): Setting {
	const other = pick(roll, graph.nodes);
	const [name] = pick(roll, [...numbersOf(other), ['value'] as never]);
	return pick<Setting>(roll, [
		Math.round(roll() * 12),
		roll() * 3,
		{ low: 0, high: 1 + roll(), stream: pick(roll, ['turn', 'own', 'wind']) },
		{ base: 1, variation: roll(), stream: 'b' },
		{ formula: `${other.short}.${name} + 1`, streams: [] },
		{ formula: 'index / 4 + position.y', streams: [] },
		{ formula: 'random(0, 2)', streams: ['f'] }
	]);
}

const edits: Record<string, (graph: Graph, roll: () => number) => Graph> = {
	set(graph, roll) {
		const node = pick(roll, graph.nodes);
		const numbers = numbersOf(node);
		return numbers.length ? withSetting(graph, node.id, pick(roll, numbers)[0], scalar(graph, roll)) : graph;
	},
	choose(graph, roll) {
		const node = pick(roll, graph.nodes);
		const choices = inputsOf(node).filter(([, input]) => input.kind === 'choice');
		if (!choices.length) return graph;
		const [name, input] = pick(roll, choices);
		return input.kind === 'choice' ? withSetting(graph, node.id, name, pick(roll, input.options).id) : graph;
	},
	wire(graph, roll) {
		const from = pick(roll, graph.nodes),
			to = pick(roll, graph.nodes);
		const outputs = Object.keys(nodeKinds.get(from.kind)!.outputs);
		const inputs = inputsOf(to);
		if (!outputs.length || !inputs.length) return graph;
		const ends = [
			[from.id, pick(roll, outputs)],
			[to.id, pick(roll, inputs)[0]]
		] as [[string, string], [string, string]];
		return fitsInGraph(graph, ...ends).fits ? withWire(graph, { from: ends[0], to: ends[1] }) : graph;
	},
	unwire: (graph, roll) => ({
		...graph,
		wires: graph.wires.filter(() => roll() > 1 / (graph.wires.length + 1))
	}),
	bypass: (graph, roll) => {
		const chosen = pick(roll, graph.nodes);
		return {
			...graph,
			nodes: graph.nodes.map((node) => (node === chosen ? { ...node, bypassed: !node.bypassed } : node))
		};
	},
	rename: (graph, roll) => withShort(graph, pick(roll, graph.nodes).id, pick(roll, ['reach', 'new', 'tall'])),
	remove: (graph, roll) =>
		graph.nodes.length > 10 ? withoutNodes(graph, new Set([pick(roll, graph.nodes).id])) : graph,
	paste(graph, roll) {
		if (graph.nodes.length > 24) return graph;
		const ids = new Set([pick(roll, graph.nodes).id, pick(roll, graph.nodes).id]);
		return pasteNodes(graph, copyNodes(graph, ids), [10, 10]).graph;
	},
	kind(graph, roll) {
		const node = pick(roll, graph.nodes);
		return withKind(
			graph,
			node.id,
			pick(roll, ['sphere', 'circle', 'transform', 'displace', 'ring-of-points'])
		);
	}
};

/** All that an artist sees of an evaluation. */
const seen = ({ results }: Evaluation) =>
	[...results.values()]
		.map(({ id, state, error, warnings, outputs }) => [
			id,
			state,
			error?.message,
			warnings.map(({ message }) => message),
			[...outputs].map(([port, value]) => [
				port,
				'materials' in value
					? digestOf(value as Geometry)
					: 'hash' in value
						? value.hash
						: JSON.stringify(value)
			])
		])
		.sort((a, b) => (String(a[0]) < String(b[0]) ? -1 : 1));

for (const turn of [1, 2, 3])
	test(`after any edits, undone or not, what is kept gives what a fresh evaluation gives (turn ${turn})`, () => {
		const roll = dice(1000 * turn);
		const kept = new Evaluator({ memory: 200e6 });
		const past: GeneratorDocument[] = [start()];
		let fresh = 0,
			spared = 0;
		for (let step = 0; step < 200; step++) {
			const before = past.at(-1)!;
			let document: GeneratorDocument;
			if (roll() < 0.15) document = pick(roll, past);
			else if (roll() < 0.06) document = { ...before, seed: Math.floor(roll() * 4) };
			else if (roll() < 0.04) document = openDocument(writeDocument(before)).document;
			else {
				const [name, edit] = pick(roll, Object.entries(edits));
				// Setting a number is what is done most.
				const main = (roll() < 0.4 ? edits.set : edit)(before.graphs.main, roll);
				document = { ...before, graphs: { main } };
				assert.ok(main.nodes.length, name);
			}
			past.push(document);
			const ids = document.graphs.main.nodes.map(({ id }) => id);
			// Most often only the last node is looked at, as while working.
			const targets = roll() < 0.7 ? ids.slice(-1) : ids;
			const own = kept.evaluate(document, targets);
			const wanted = new Evaluator({ memory: 200e6 }).evaluate(document, targets);
			assert.deepEqual(seen(own), seen(wanted), `step ${step}`);
			fresh += wanted.ran.length;
			spared += wanted.ran.length - own.ran.length;
		}
		assert.ok(spared > fresh / 4, `${spared} of ${fresh} runs were spared`);
	});

test('a generator that is written and read again gives the same, whatever was done to it', () => {
	const roll = dice(77);
	let { main } = start().graphs;
	for (let step = 0; step < 150; step++) {
		main = pick(roll, Object.values(edits))(main, roll);
		const document = { ...start(), graphs: { main } };
		const { document: read, leftOut } = openDocument(writeDocument(document));
		assert.deepEqual(leftOut, [], `step ${step}`);
		if (step % 10) continue;
		const targets = main.nodes.map(({ id }) => id);
		assert.deepEqual(
			seen(new Evaluator().evaluate(read, targets)),
			seen(new Evaluator().evaluate(document, targets))
		);
	}
});

test('the outputs that an input is offered are those that fit one by one, in graphs of every shape', () => {
	const roll = dice(41);
	let { main } = start().graphs;
	let offered = 0;
	for (let step = 0; step < 60; step++) {
		main = pick(roll, Object.values(edits))(main, roll);
		const target = pick(roll, main.nodes);
		for (const [name] of inputsOf(target)) {
			const wanted = main.nodes.flatMap(({ id, kind }) =>
				Object.keys(nodeKinds.get(kind)!.outputs)
					.filter(
						(port) =>
							fitsInGraph(main, [id, port], [target.id, name]).fits &&
							!main.wires.some(({ from, to }) => `${from} ${to}` === `${id},${port} ${target.id},${name}`)
					)
					.map((port) => `${id} ${port}`)
			);
			const found = sourcesFor(main, [target.id, name]).map(({ node, port }) => `${node.id} ${port}`);
			assert.deepEqual(found, wanted, `step ${step}, ${target.short}.${name}`);
			offered += found.length;
		}
	}
	assert.ok(offered > 300, `${offered} offered`);
});
