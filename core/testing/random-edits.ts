/** A generator, edits of graphs at random, and what must hold after them, for tests of laws. */
import assert from 'node:assert/strict';
import type { Fix } from '../math/index.ts';
import type { InputDefinition } from '../nodes/index.ts';
import { nodeKinds, rowsIn } from '../nodes/index.ts';
import { generator, pick } from './index.ts';
import {
	copyNodes,
	fits,
	fitsInGraph,
	inputOf,
	inputsOf,
	newNode,
	pasteNodes,
	pathBetween,
	wireId,
	withInserted,
	withKind,
	withMended,
	withNode,
	withOwnInput,
	withOwnInputRenamed,
	withRow,
	withSetting,
	withShort,
	withValue,
	withWire,
	withoutNodes,
	withoutOwnInput,
	withoutRow
} from '../engine/index.ts';
import type { GeneratorDocument, Graph, GraphNode, Setting } from '../engine/index.ts';

/** A small flat with reeds, in which settings hang from one another in every way there is. */
export const start = (): GeneratorDocument =>
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
		['material', 'planks', { rows: 2 }, { geometry: 'hut.mesh' }],
		['transform', 'moved', {}, { geometry: 'planks.geometry' }],
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

/** What may be done to a graph, each at random. */
export const edits: Record<string, (graph: Graph, roll: () => number) => Graph> = {
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
	},
	add(graph, roll) {
		if (graph.nodes.length > 24) return graph;
		const kind = pick(roll, [...nodeKinds.keys()]);
		const near = pick(roll, graph.nodes);
		const outputs = Object.keys(nodeKinds.get(near.kind)!.outputs);
		const inputs = inputsOf(near);
		const from = roll() < 0.5 && outputs.length ? ([near.id, pick(roll, outputs)] as const) : null;
		const to = !from && inputs.length ? ([near.id, pick(roll, inputs)[0]] as const) : null;
		return withNode(graph, newNode(graph, kind, [0, 0]), from, to);
	},
	insert(graph, roll) {
		if (!graph.wires.length || graph.nodes.length > 24) return graph;
		const made = newNode(graph, pick(roll, ['transform', 'material', 'relax', 'box']), [0, 0]);
		return withInserted({ ...graph, nodes: [...graph.nodes, made] }, made.id, pick(roll, graph.wires));
	},
	own(graph, roll) {
		const formulas = graph.nodes.filter(({ kind }) => nodeKinds.get(kind)!.ownInputs);
		if (!formulas.length)
			return withNode(graph, newNode(graph, 'formula', [0, 0], { formula: 'x + 1' }), null, null);
		const { id, inputs = [] } = pick(roll, formulas);
		const name = inputs.length ? pick(roll, inputs).name : 'x';
		return pick(roll, [
			() => withOwnInput(graph, id, pick(roll, ['x', 'y', 'tide', 'formula'])),
			() => withOwnInputRenamed(graph, id, name, pick(roll, ['x', 'y', 'high', 'not a name'])),
			() => withValue(graph, id, name, roll() * 5),
			() => withoutOwnInput(graph, id, name)
		])();
	},
	rows(graph, roll) {
		const rowed = graph.nodes.filter(({ kind }) => nodeKinds.get(kind)!.rows);
		if (!rowed.length) return graph;
		const { id } = pick(roll, rowed);
		return roll() < 0.6 ? withRow(graph, id) : withoutRow(graph, id, Math.floor(roll() * 4));
	},
	mend(graph, roll) {
		const node = pick(roll, graph.nodes);
		const numbers = numbersOf(node);
		if (!numbers.length) return graph;
		const [setting] = pick(roll, numbers);
		return withMended(
			graph,
			node.id,
			pick<Fix>(roll, [
				{ label: 'Set', set: { setting, value: 2 } },
				{ label: 'Rename', rename: { from: 'index', to: 'count' } },
				{ label: 'Rewrite', formula: { from: 'random(0, 2)', to: 'random(1, 2)' } },
				{ label: 'Insert', insert: { node: 'copies-to-mesh', input: 'geometry' } }
			])
		);
	}
};

/** What a graph must be for the rest of the program: fails with what is wrong with it. A stranger's may lack settings, or have circles. */
export function holds(
	{ nodes, wires }: Graph,
	after: string,
	checked: { settings?: boolean; circles?: boolean } = {}
): void {
	const byId = new Map(nodes.map((node) => [node.id, node]));
	assert.equal(byId.size, nodes.length, `${after}: ids are unique`);
	assert.equal(new Set(nodes.map(({ short }) => short)).size, nodes.length, `${after}: names are unique`);
	assert.equal(new Set(wires.map(wireId)).size, wires.length, `${after}: no wire twice`);
	for (const { kind, settings } of nodes)
		for (const [name, input] of Object.entries(
			nodeKinds.get(kind)!.inputs as Record<string, InputDefinition>
		))
			// Settings of rows that are not there are not written.
			if (
				checked.settings !== false &&
				!(input.row && input.row >= rowsIn(settings)) &&
				input.kind !== 'geometry' &&
				input.kind !== 'list'
			)
				assert.ok(Object.hasOwn(settings, name), `${after}: ${kind} has its ${name}`);
	const taken = new Map<string, number>();
	for (const { from, to } of wires) {
		const source = byId.get(from[0]),
			target = byId.get(to[0]);
		const output = source && nodeKinds.get(source.kind)!.outputs[from[1]];
		const input = target && inputOf(target, to[1]);
		assert.ok(output && input, `${after}: ${from} to ${to} has ends`);
		assert.ok(fits(output.kind, input).fits, `${after}: ${from} fits ${to}`);
		if (checked.circles !== false)
			assert.equal(pathBetween({ nodes, wires, notes: [] }, to[0], from[0]), null, `${after}: no circle`);
		const many = input.kind === 'geometry' && input.many;
		taken.set(`${to}`, (taken.get(`${to}`) ?? 0) + 1);
		assert.ok(many || taken.get(`${to}`) === 1, `${after}: ${to} takes one wire`);
	}
}
