/** Settings that follow others by a gesture: the numbers follow, circles are refused with their path, proposals mean something. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { ELEMENT_HELP, FUNCTIONS, FUNCTION_HELP, bindFormula, parseFormula } from '../varying/index.ts';
import { boundsOf } from '../geometry/index.ts';
import { evaluateAll, generator } from '../testing/index.ts';
import type { Row } from '../testing/index.ts';
import type { GeneratorDocument } from './document.ts';
import { withShort } from './build.ts';
import { proposalsAt } from './proposals.ts';
import { leadersFor, mayFollow, referencesOf, withFollowing } from './references.ts';
import { withGraph } from './document.ts';

const HUTS: Row[] = [
	['box', 'wall', { size: [2, 3, 4] }],
	['box', 'shed', {}],
	['transform', 'leant', { rotation: [0, 0, 30] }, { geometry: 'shed.mesh' }]
];
const ids = (document: GeneratorDocument) =>
	new Map(document.graphs.main.nodes.map(({ short, id }) => [short, id]));
const followed = (document: GeneratorDocument, leader: [string, string], follower: [string, string]) => {
	const of = ids(document);
	return withGraph(document, 'main', (graph) =>
		withFollowing(graph, [of.get(leader[0])!, leader[1]], [of.get(follower[0])!, follower[1]])
	);
};
const sizeOf = (document: GeneratorDocument, short: string) => {
	const { low, high } = boundsOf(evaluateAll(document).geometry(short))!;
	return [0, 1, 2].map((k) => high[k] - low[k]);
};

test('a whole vector follows another at once, and goes on following when the other changes or is renamed', () => {
	let document = followed(generator(HUTS), ['wall', 'size'], ['shed', 'size']);
	assert.deepEqual(sizeOf(document, 'shed'), [2, 3, 4]);
	document = withGraph(document, 'main', (graph) => withShort(graph, ids(document).get('wall')!, 'front'));
	document = withGraph(document, 'main', (graph) => ({
		...graph,
		nodes: graph.nodes.map((node) =>
			node.short === 'front' ? { ...node, settings: { ...node.settings, size: [5, 6, 7] } } : node
		)
	}));
	assert.deepEqual(sizeOf(document, 'shed'), [5, 6, 7]);
	assert.deepEqual(
		referencesOf(document.graphs.main).map(({ from, to }) => [from[1], to[1]]),
		[['size', 'size']]
	);
});

test('what cannot follow is refused with a sentence, and nothing changes', () => {
	const document = generator([
		...HUTS,
		['number', 'tall', { value: 2 }],
		['grid', 'floor', {}],
		['displace', 'raised', {}, { geometry: 'floor.mesh', amount: 'tall.value' }]
	]);
	const of = ids(document);
	const { main } = document.graphs;
	const reason = (a: [string, string], b: [string, string]) => {
		const said = mayFollow(main, [of.get(a[0])!, a[1]], [of.get(b[0])!, b[1]]);
		assert.ok(!said.isAllowed);
		assert.equal(withFollowing(main, [of.get(a[0])!, a[1]], [of.get(b[0])!, b[1]]), main);
		return said.reason;
	};
	assert.match(reason(['wall', 'size'], ['wall', 'size']), /cannot follow itself/);
	assert.match(reason(['wall', 'size'], ['raised', 'amount']), /A wire sets “.+”\. Disconnect it first/);
	assert.match(reason(['leant', 'geometry'], ['wall', 'size']), /holds no number/);
});

test('degrees that lead metres are told of', () => {
	const document = generator(HUTS);
	const of = ids(document);
	const said = mayFollow(document.graphs.main, [of.get('leant')!, 'rotation'], [of.get('wall')!, 'size']);
	assert.ok(said.isAllowed);
	assert.match(said.says, /in degrees, and m are wanted/);
});

test('however settings follow one another, no circle comes about; the refusal names the way round', () => {
	const names = ['one', 'two', 'three', 'four', 'five'];
	fc.assert(
		fc.property(fc.array(fc.tuple(fc.nat(4), fc.nat(4)), { maxLength: 30 }), (pairs) => {
			let document = generator(names.map((name): Row => ['number', name, { value: 3 }]));
			for (const [a, b] of pairs) {
				const of = ids(document);
				const said = mayFollow(
					document.graphs.main,
					[of.get(names[a])!, 'value'],
					[of.get(names[b])!, 'value']
				);
				if (!said.isAllowed && a !== b) {
					const path = /circle: (.+)\.$/.exec(said.reason)![1].split(' → ');
					assert.equal(path[0], path.at(-1));
					assert.equal(path[0], `${names[b]}.value`);
					assert.equal(path[1], `${names[a]}.value`);
				}
				document = followed(document, [names[a], 'value'], [names[b], 'value']);
			}
			// Those that are offered are those that may be followed.
			const { main } = document.graphs;
			for (const name of names) {
				const follower = [ids(document).get(name)!, 'value'] as const;
				const offered = leadersFor(main, follower).map(({ place }) => place.join(' '));
				for (const { id } of main.nodes)
					for (const setting of ['value', 'low', 'high'])
						assert.equal(
							offered.includes(`${id} ${setting}`),
							mayFollow(main, [id, setting], follower).isAllowed,
							`${id} ${setting} for ${name}`
						);
			}
			const run = evaluateAll(document);
			for (const name of names) assert.equal(run.error(name), null);
		}),
		{ numRuns: 60 }
	);
});

test('every function and name of the language is told of, and every proposal means something where it is proposed', () => {
	assert.deepEqual([...FUNCTION_HELP.keys()].sort(), FUNCTIONS);
	const document = generator([
		...HUTS,
		['write-attribute', 'marked', { name: 'time' }, { geometry: 'wall.mesh' }],
		['displace', 'raised', {}, { geometry: 'marked.geometry' }]
	]);
	const { main } = document.graphs;
	const node = main.nodes.find(({ short }) => short === 'raised')!;
	const all = proposalsAt(main, node, 'amount', ['time', 'height']);
	// A function is known by its parenthesis.
	const names = all.map(({ name, kind }) => (kind === 'function' ? `${name}(` : name));
	assert.deepEqual(
		names.filter((name, i) => names.indexOf(name) !== i),
		[],
		'no name twice'
	);
	assert.ok(all.some(({ name, kind }) => kind === 'attribute' && name === 'attribute.time'));
	for (const { name, kind, says, call } of all) {
		assert.match(says, /\.$/);
		if (kind === 'word') continue;
		const text = kind === 'function' ? call!.replace(/x, a, b, c, d/, 'x, 0, 1, 0, 1') : name;
		const tried = withGraph(document, 'main', (graph) => ({
			...graph,
			nodes: graph.nodes.map((one) =>
				one.short === 'marked'
					? { ...one, settings: { ...one.settings, value: { formula: text, streams: [] } } }
					: one
			)
		}));
		// Calls are read; the letters in them stand for values.
		parseFormula(text);
		if (kind === 'other node' && !name.startsWith('marked'))
			assert.equal(evaluateAll(tried).error('marked'), null, text);
	}
	for (const name of Object.keys(ELEMENT_HELP))
		assert.ok(
			bindFormula(
				parseFormula(name),
				{ lookUp: () => null, names: () => [], attributes: false, stream: () => [0, 0], noiseSeed: 0 },
				name
			)
		);
});

test('in the body of a repeat its pass is proposed, and what arrives at an Input', () => {
	const { graphs } = generator([
		['input', 'rise', { name: 'rise', carries: 'number', says: 'How far up.' }],
		['input', 'shape', { name: 'shape', carries: 'geometry' }],
		['sphere', 'ball', {}]
	]);
	const node = graphs.main.nodes[2];
	const names = (isRepeated: boolean) =>
		proposalsAt(graphs.main, node, 'radius', [], { isRepeated }).map(({ name }) => name);
	assert.ok(names(true).includes('pass') && names(true).includes('outer.pass'), 'the pass');
	assert.ok(!names(false).includes('pass'), 'outside of repeats there is none');
	assert.ok(names(false).includes('rise.value'), 'a number that arrives');
	assert.ok(!names(false).includes('shape.value'), 'geometry is not a number');
});
