/** Nodes become a subgraph and come out of it again, and nothing that they make changes. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { digestOf } from '../geometry/index.ts';
import { start } from '../testing/random-edits.ts';
import { generator, geometryOf, withBodies } from '../testing/index.ts';
import { SAMPLES, sample } from '../testing/samples.ts';
import { Evaluator, dissolve, isGeometry, isList, makeBody, newNode } from './index.ts';
import type { GeneratorDocument, Value } from './index.ts';

const plain = (formula: string) => ({ formula, streams: [] });
const told = (value: Value): string =>
	isGeometry(value) ? digestOf(value) : isList(value) ? [...value.data].join() : value.kind;

/** What each node makes, by its short name. */
function madeBy(document: GeneratorDocument, evaluator: Evaluator): Map<string, string> {
	const { nodes } = document.graphs.main;
	const { results } = evaluator.evaluate(
		document,
		nodes.map(({ id }) => id)
	);
	return new Map(
		nodes.map(({ id, short }) => {
			const { outputs, error } = results.get(id)!;
			return [
				short,
				[...outputs].map(([name, value]) => `${name} ${told(value)}`).join() + (error?.message ?? '')
			];
		})
	);
}

/** Checks that what stands outside makes the same, and what comes out again too. */
function check(document: GeneratorDocument, ids: ReadonlySet<string>, evaluator: Evaluator): boolean {
	const made = makeBody(document, 'main', ids, 'subgraph');
	if ('reason' in made) return false;
	const before = madeBy(document, evaluator);
	const inner = new Set(document.graphs.main.nodes.filter(({ id }) => ids.has(id)).map(({ short }) => short));
	for (const [short, digest] of madeBy(made.document, evaluator))
		if (before.has(short))
			assert.equal(digest, before.get(short), `${short} outside of ${[...inner].join()}`);
	const back = dissolve(made.document, 'main', made.node);
	if ('reason' in back) return true;
	const after = madeBy(back.document, evaluator);
	assert.equal(Object.keys(back.document.graphs).length, Object.keys(document.graphs).length);
	for (const [short, digest] of before) assert.equal(after.get(short), digest, `${short}, taken apart again`);
	return true;
}

test('any nodes of a generator become a subgraph and come out again with all that they make', () => {
	const document = start();
	const { nodes } = document.graphs.main;
	const evaluator = new Evaluator();
	let made = 0;
	fc.assert(
		fc.property(
			fc.subarray(
				nodes.map(({ id }) => id),
				{ minLength: 1 }
			),
			(ids) => {
				if (check(document, new Set(ids), evaluator)) made++;
			}
		),
		{ numRuns: 60 }
	);
	assert.ok(made > 10, `${made} were made`);
});

test('so do runs of nodes of the samples', () => {
	let made = 0;
	for (const file of SAMPLES) {
		const { document, by } = sample(file);
		const { nodes } = document.graphs.main;
		if (nodes.length > 25) continue;
		for (const share of [0.3, 0.6]) {
			const from = Math.floor(nodes.length * share) - 2;
			if (check(document, new Set(nodes.slice(from, from + 4).map(({ id }) => id)), by)) made++;
		}
	}
	assert.ok(made > 5, `${made} were made`);
});

test('a formula follows what it followed, in and out through the edge', () => {
	const document = generator([
		['number', 'tall', { value: 3 }],
		['box', 'post', { size: [plain('tall.value * 0.1'), plain('tall.value'), 0.2] }],
		['grid', 'deck', { width: plain('post.size.x * 10'), depth: 2 }],
		['transform', 'moved', { move: [0, plain('post.size.y'), 0] }, { geometry: 'deck.mesh' }]
	]);
	const id = (short: string) => document.graphs.main.nodes.find((node) => node.short === short)!.id;
	const evaluator = new Evaluator();
	assert.ok(check(document, new Set([id('post')]), evaluator));
	assert.ok(check(document, new Set([id('post'), id('deck')]), evaluator));
	assert.ok(check(document, new Set([id('tall'), id('deck')]), evaluator));
	const made = makeBody(document, 'main', new Set([id('post')]), 'subgraph');
	assert.ok('document' in made);
	const use = made.document.graphs.main.nodes.find((node) => node.id === made.node)!;
	assert.deepEqual(
		use.ports!.inputs.map(({ name }) => name),
		['postSize', 'tallValue']
	);
});

test('what goes out and comes back in is refused, with what stands between', () => {
	const document = generator([
		['box', 'post', {}],
		['transform', 'between', {}, { geometry: 'post.mesh' }],
		['merge', 'both', {}, { geometry: ['post.mesh', 'between.geometry'] }]
	]);
	const ids = document.graphs.main.nodes.filter(({ short }) => short !== 'between').map(({ id }) => id);
	const made = makeBody(document, 'main', new Set(ids), 'subgraph');
	assert.ok('reason' in made);
	assert.match(made.reason, /between stands between the selected nodes/);
	assert.ok('reason' in makeBody(document, 'main', new Set(), 'subgraph'));
});

test('a repeat made of nodes carries the geometry that goes through them', () => {
	const document = generator([
		['box', 'post', {}],
		['transform', 'up', { move: [0, 2, 0] }, { geometry: 'post.mesh' }],
		['transform', 'turned', { rotation: [0, 30, 0] }, { geometry: 'up.geometry' }],
		['result', 'result', {}, { geometry: 'turned.geometry' }]
	]);
	const ids = new Set(document.graphs.main.nodes.slice(1, 3).map(({ id }) => id));
	const made = makeBody(document, 'main', ids, 'repeat');
	assert.ok('document' in made);
	const thrice = (passes: number) => {
		const graphs = {
			...made.document.graphs,
			main: {
				...made.document.graphs.main,
				nodes: made.document.graphs.main.nodes.map((node) =>
					node.id === made.node ? { ...node, settings: { ...node.settings, passes } } : node
				)
			}
		};
		const result = document.graphs.main.nodes[3].id;
		const { results } = new Evaluator().evaluate({ ...made.document, graphs }, [result]);
		return results.get(result)!.bounds!.low[1];
	};
	assert.ok(Math.abs(thrice(3) - (6 - 0.5)) < 1e-5);
	assert.ok(Math.abs(thrice(1) - (2 - 0.5)) < 1e-5);
});

test('within a body what its inputs say goes on into a subgraph made there', () => {
	const before = withBodies([['subgraph', 'use', { body: 'post', height: 3, way: [0, 2, 0] }]], {
		post: [
			['input', 'height', { name: 'height', carries: 'number' }],
			['input', 'way', { name: 'way', carries: 'vector' }],
			['box', 'shaft', { size: [1, plain('height.value'), 1] }],
			[
				'transform',
				'moved',
				{ move: [plain('way.value.x'), plain('way.value.y'), 0] },
				{ geometry: 'shaft.mesh' }
			],
			['output', 'end', { name: 'out', carries: 'geometry' }, { value: 'moved.geometry' }]
		]
	});
	const made = makeBody(before, 'post', new Set(['shaft', 'moved']), 'subgraph');
	assert.ok('document' in made, 'it is made');
	assert.equal(digestOf(geometryOf(made.document, 'use')), digestOf(geometryOf(before, 'use')));
	const inner = made.document.graphs.post.nodes.find(({ id }) => id === made.node)!;
	assert.deepEqual(inner.ports!.inputs.map(({ name }) => name).sort(), ['height', 'way']);
});

test('notes go in with the nodes, and come out again', () => {
	const document = start();
	const { main } = document.graphs;
	const noted = {
		...document,
		graphs: {
			main: {
				...main,
				notes: [
					{ id: 't1', at: [0, 0] as [number, number], text: 'Reeds' },
					{ id: 't2', at: [9, 9] as [number, number], text: 'Flat' }
				]
			}
		}
	};
	const made = makeBody(noted, 'main', new Set([main.nodes[1].id, 't1']), 'subgraph');
	assert.ok('document' in made, 'it is made');
	const texts = (graph: string, of = made.document) => of.graphs[graph].notes.map(({ text }) => text);
	assert.deepEqual([texts('main'), texts('b1')], [['Flat'], ['Reeds']]);
	const back = dissolve(made.document, 'main', made.node);
	assert.ok('document' in back, 'it is taken apart');
	assert.deepEqual(texts('main', back.document).sort(), ['Flat', 'Reeds']);
});

test('a large graph is told at once whether nodes can become a subgraph', () => {
	// One walk along the wires; one for each pair of them would take minutes. Two thousand in a ladder, every other one selected: each rung goes out and comes back.
	const nodes = Array.from({ length: 2000 }, (_, i) => ({
		...newNode({ nodes: [], wires: [], notes: [] }, 'merge', [0, 0]),
		id: `n${i}`,
		short: `m${i}`
	}));
	const wires = nodes.flatMap((_, i) =>
		[1, 2, 5, 9]
			.filter((d) => i >= d)
			.map((d) => ({
				from: [`n${i - d}`, 'geometry'] as [string, string],
				to: [`n${i}`, 'geometry'] as [string, string]
			}))
	);
	const document = { ...start(), graphs: { main: { nodes, wires, notes: [] } } };
	const made = makeBody(
		document,
		'main',
		new Set(nodes.filter((_, i) => i % 2).map(({ id }) => id)),
		'subgraph'
	);
	assert.ok('reason' in made && /stands between/.test(made.reason), 'it is refused');
});
