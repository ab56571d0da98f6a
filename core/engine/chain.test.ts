import assert from 'node:assert/strict';
import { test } from 'node:test';
import { evaluateAll, generator } from '../testing/index.ts';
import { chainTo, whyNotTo, withLinkAt } from './index.ts';

const posts = () =>
	generator([
		['box', 'box'],
		['row-of-points', 'row', { count: 8 }],
		['place-copies', 'copies', {}, { points: 'row.points', source: 'box.mesh' }],
		['transform', 'double', { scale: 2 }, { geometry: 'copies.copies' }],
		['transform', 'lift', { move: [0, 1, 0] }, { geometry: 'double.geometry' }],
		['result', 'result', {}, { geometry: 'lift.geometry' }]
	]);

test('a chain is listed from its cause, and its links change places where nothing stands between', () => {
	const document = posts();
	const { main } = document.graphs;
	const end = main.nodes.at(-1)!.id;
	const chain = chainTo(main, end);
	assert.deepEqual(
		chain.map(({ node }) => node.short),
		['row', 'copies', 'double', 'lift', 'result']
	);
	assert.match(whyNotTo(main, chain, 2, 1)!, /Place copies makes another kind of thing/);
	assert.match(whyNotTo(main, chain, 3, 4)!, /Result ends the chain/);
	assert.equal(whyNotTo(main, chain, 3, 2), null);
	const heights = (graph: typeof main) =>
		evaluateAll({ ...document, graphs: { main: graph } })
			.geometry('result')
			.copies!.copies.columns.get('position')!.data[1];
	const swapped = withLinkAt(main, chain, 3, 2);
	assert.deepEqual(
		chainTo(swapped, end).map(({ node }) => node.short),
		['row', 'copies', 'lift', 'double', 'result']
	);
	assert.deepEqual([heights(main), heights(swapped)], [1, 2], 'doubled then lifted, lifted then doubled');
	assert.equal(withLinkAt(main, chain, 2, 1), main, 'what cannot be is not done');
	assert.deepEqual(chainTo(withLinkAt(swapped, chainTo(swapped, end), 2, 3), end), chain, 'and back');
});

test('a link that reads its weight at another cannot go before it', () => {
	const { main } = generator([
		['grid', 'flat'],
		['transform', 'first', {}, { geometry: 'flat.mesh' }],
		['transform', 'second', {}, { geometry: 'first.geometry', weightAt: 'first.geometry' }]
	]).graphs;
	const chain = chainTo(main, main.nodes[2].id);
	assert.match(whyNotTo(main, chain, 2, 1)!, /second takes something from first, so it must come after it/);
	assert.equal(withLinkAt(main, chain, 2, 1), main);
});
