/** Jobs: a generator evaluated with some of its settings overridden, while the document stays as it is. */
import assert from 'node:assert/strict';
import { readFileSync } from 'node:fs';
import { test } from 'node:test';
import { Evaluator, isGeometry, resultNode, writeDocument } from '../engine/index.ts';
import { digestOf } from '../geometry/index.ts';
import { NodeError } from '../math/index.ts';
import { generator } from '../testing/index.ts';
import { openFile, runJob } from './index.ts';

const bytesOf = (text: string) => new TextEncoder().encode(text);

test('a job gives what the application gives, and leaves the document as it was', () => {
	const file = openFile(new Uint8Array(readFileSync('samples/boardwalk.embrell.json')), 'boardwalk');
	const before = writeDocument(file.document);
	const { hash, nodes } = runJob(file);
	const { id } = resultNode(file.document)!;
	const result = new Evaluator().evaluate(file.document, [id]).results.get(id)!;
	assert.equal(hash, digestOf([...result.outputs.values()].find(isGeometry)!));
	assert.ok(nodes.length > 5 && nodes.every(({ state }) => state === 'fresh'));
	const length = file.document.graphs.main.nodes.find(({ short }) => short === 'walkLength')!;
	const longer = runJob(file, { overrides: [{ node: length.id, setting: 'value', value: 24 }] });
	assert.notEqual(longer.hash, hash);
	assert.ok(longer.objects > 0);
	assert.notEqual(runJob(file, { seed: 99 }).hash, hash);
	assert.equal(writeDocument(file.document), before);
	assert.equal(runJob(file).hash, hash);
});

test('a generator that ends in a ramp, or in numbers, has no result to write, and says so', () => {
	for (const [rows, state] of [
		[[['ramp', 'soft']], 'fresh'],
		[[['number', 'five', { value: 5 }]], 'fresh'],
		[[['transform', 'moved']], 'waiting']
	] as [Parameters<typeof generator>[0], string][]) {
		const file = openFile(bytesOf(writeDocument(generator(rows))), 'test');
		const { hash, write, nodes } = runJob(file);
		assert.deepEqual([hash, write, nodes[0].state], [null, null, state]);
	}
});

test('an override of an input of the artist’s own counts too', () => {
	const document = generator([
		['formula', 'wide', { formula: 'x * 2' }],
		['grid', 'grid', {}, { width: 'wide.value' }]
	]);
	const file = openFile(bytesOf(writeDocument(document)), 'test');
	const width = (value: number) => {
		const node = document.graphs.main.nodes.find(({ short }) => short === 'wide')!.id;
		const { nodes } = runJob(file, { overrides: [{ node, setting: 'x', value }] });
		const { bounds } = nodes.find(({ node: short }) => short === 'grid')!;
		return bounds!.high[0] - bounds!.low[0];
	};
	assert.deepEqual([width(3), width(8)], [6, 16]);
});

test('an empty generator is refused with what to do', () => {
	const file = openFile(bytesOf(writeDocument(generator([]))), 'test');
	assert.throws(
		() => runJob(file),
		(error) => error instanceof NodeError && /add a node/.test(error.message)
	);
});

test('a job tells areas, lengths, and the volumes of what is closed', () => {
	const document = generator([
		['box', 'hut', { size: [2, 3, 4] }],
		['grid', 'flat', { width: 5, depth: 2 }],
		['line', 'rope', { from: [0, 0, 0], to: [3, 4, 0] }],
		['merge', 'all', {}, { geometry: ['hut.mesh', 'flat.mesh', 'rope.curve'] }]
	]);
	const { nodes } = runJob({ document, assets: new Map(), leftOut: [] });
	const of = (short: string) => nodes.find(({ node }) => node === short)!;
	const sizes = (short: string) => [of(short).area, of(short).volume, of(short).length];
	assert.deepEqual(sizes('hut'), [52, 24, null]);
	assert.deepEqual(sizes('flat'), [10, null, null]);
	assert.deepEqual(sizes('rope'), [null, null, 5]);
	assert.deepEqual(sizes('all'), [62, null, 5]);
});
