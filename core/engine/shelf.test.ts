/** The shelf: bodies that go from one generator to another, and come back newer. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { digestOf } from '../geometry/index.ts';
import { geometryOf, withBodies } from '../testing/index.ts';
import type { Row } from '../testing/index.ts';
import {
	VERSION,
	bringOut,
	differences,
	fromShelf,
	openDocument,
	readShelfItem,
	toShelf,
	withGraph,
	withNewer,
	withPorts,
	withSetting,
	writeDocument
} from './index.ts';
import type { GeneratorDocument } from './index.ts';

const PAIR: readonly Row[] = [
	['subgraph', 'one', { body: 'post' }],
	['output', 'end', { name: 'out', carries: 'geometry' }, { value: 'one.out' }]
];
const POST: readonly Row[] = [
	['box', 'post', { size: [1, 2, 1] }],
	['output', 'end', { name: 'out', carries: 'geometry' }, { value: 'post.mesh' }]
];
const made = (): GeneratorDocument =>
	withBodies([['subgraph', 'use', { body: 'pair' }]], { pair: PAIR, post: POST });
const shelved = (document: GeneratorDocument, version = 1) =>
	toShelf(document, 'pair', { id: 'own', version, words: 'two posts' });

test('a body goes to another generator with those that it uses, and makes the same there', () => {
	const { item, document } = shelved(made());
	assert.deepEqual(Object.keys(item.graphs).sort(), ['pair', 'post']);
	assert.deepEqual(document.graphs.pair.shelf, { id: 'own', version: 1 });
	const read = readShelfItem(JSON.parse(JSON.stringify(item)));
	const taken = fromShelf(withBodies([], { pair: [['box', 'other', {}]] }), read);
	assert.notEqual(taken.body, 'pair', 'what stands there already stays');
	const used = withPorts(
		withGraph(taken.document, 'main', (graph) => ({
			...graph,
			nodes: made().graphs.main.nodes.map((node) => ({
				...node,
				settings: { ...node.settings, body: taken.body }
			}))
		}))
	);
	assert.equal(digestOf(geometryOf(used, 'use')), digestOf(geometryOf(made(), 'use')));
	assert.deepEqual(openDocument(writeDocument(used)).leftOut, []);
	// Taken again it is the same body.
	assert.equal(fromShelf(used, read).body, taken.body);
});

test('a newer version says what would change, and changes nothing until it is taken', () => {
	const { document } = shelved(made());
	const wider = withGraph(document, 'post', (graph) => withSetting(graph, 'post', 'size', [3, 2, 1]));
	const out = bringOut(
		withGraph(wider, 'pair', (graph) => ({
			...graph,
			nodes: [
				...graph.nodes,
				{
					...graph.nodes[0],
					id: 'box',
					short: 'box',
					kind: 'box',
					settings: { size: [1, 1, 1] },
					ports: undefined
				}
			]
		})),
		'pair',
		'box',
		'size'
	);
	assert.ok('document' in out, 'the size is brought out');
	const newer = shelved(out.document, 2).item;
	assert.deepEqual(differences(document.graphs.pair, newer).slice(0, 1), ['A new input, “Size”.']);
	assert.match(differences(document.graphs.pair, newer).join(' '), /2 nodes inside are new or changed/);
	const taken = withNewer(document, 'pair', newer);
	assert.equal(taken.graphs.pair.shelf!.version, 2);
	assert.deepEqual(
		taken.graphs.main.nodes[0].ports!.inputs.map(({ name }) => name),
		['size']
	);
	assert.deepEqual(differences(taken.graphs.pair, newer), ['Nothing that shows.']);
});

test('what was put there by a newer version, or is damaged, is told in a sentence', () => {
	const { item } = shelved(made());
	assert.throws(
		() => readShelfItem({ ...item, written: VERSION + 1 }),
		/put on the shelf by a newer Embrell/
	);
	assert.throws(() => readShelfItem({ ...item, graphs: {} }), /is damaged/);
	assert.throws(() => readShelfItem('nothing'), /not ours, or damaged/);
	assert.throws(() => readShelfItem({ ...item, body: '__proto__' }), /not ours, or damaged/);
});
