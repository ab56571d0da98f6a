import assert from 'node:assert/strict';
import { test } from 'node:test';
import { inputOf, newNode } from '../../../core/engine/index.ts';
import { offeredKinds } from '../../../core/nodes/index.ts';
import { searchNodes } from './search.ts';

const first = (text: string) => searchNodes(text)[0];

test('names, trade words, slips of the pen and settings all find their node', () => {
	for (const [text, kind] of [
		['grid', 'grid'],
		['scatter', 'sow-points'],
		['instance', 'place-copies'],
		['clone', 'chain-of-copies'],
		['falloff', 'weight-near-object'],
		['resampel', 'resample-curve'],
		['pipe', 'tube'],
		['landscape', 'displace']
	] as const) {
		const found = searchNodes(text)
			.slice(0, 6)
			.map((entry) => entry.kind);
		assert.ok(found.includes(kind), `“${text}” finds ${found}`);
	}
	const hexagonal = first('hexagonal grid');
	assert.equal(hexagonal.kind, 'grid-of-points');
	assert.ok(Number(hexagonal.settings.stagger) > 0);
	assert.deepEqual(searchNodes('xyzzy'), []);
});

test('settings that an entry brings along are settings of its node', () => {
	for (const kind of offeredKinds)
		for (const entry of kind.entries ?? []) {
			assert.equal(first(entry.name).name, entry.name, entry.name);
			for (const name of Object.keys(entry.settings))
				assert.ok(Object.hasOwn(kind.inputs, name), `${kind.id} ${name}`);
		}
});

test('for a wire only what takes or gives what flows in it is listed', () => {
	const taking = searchNodes('', { takes: 'geometry' }).map(({ kind }) => kind);
	assert.ok(taking.includes('transform') && !taking.includes('number') && !taking.includes('grid'));
	const graph = { nodes: [], wires: [], notes: [] };
	const source = inputOf(newNode(graph, 'place-copies', [0, 0]), 'source')!;
	const giving = searchNodes('', { gives: source }).map(({ kind }) => kind);
	assert.ok(giving.includes('grid') && !giving.includes('number'));
	// Without a word every kind is there once.
	const everywhere = offeredKinds.filter(({ inBodies }) => !inBodies);
	assert.equal(searchNodes('').length, everywhere.length);
});

test('ports are found in bodies only, and subgraphs of one’s own by their names and words', () => {
	const names = (text: string, isInBody: boolean) =>
		searchNodes(text, {}, { isInBody }).map(({ kind }) => kind);
	assert.ok(!names('input', false).includes('input'), 'outside of bodies there are no inputs');
	assert.equal(names('input', true)[0], 'input');
	const own = [
		{
			id: 'body b1',
			kind: 'subgraph',
			name: 'Rope rail post',
			family: 'subgraph',
			help: '',
			settings: { body: 'b1' },
			words: 'bollard, mooring',
			takes: ['number' as const],
			gives: ['geometry' as const]
		}
	];
	for (const text of ['rope', 'mooring', 'post rail'])
		assert.equal(searchNodes(text, {}, { own })[0].id, 'body b1', text);
	assert.ok(!searchNodes('rope', { takes: 'geometry' }, { own }).some(({ id }) => id === 'body b1'));
	assert.ok(searchNodes('rope', { takes: 'number' }, { own }).some(({ id }) => id === 'body b1'));
});
