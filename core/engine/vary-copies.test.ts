/** One click from copies that are all the same to copies that each have a shape of their own. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { positionsOf } from '../geometry/index.ts';
import { evaluateAll, generator } from '../testing/index.ts';
import { mended } from './index.ts';

const copied = () =>
	generator([
		['row-of-points', 'row', { count: 200 }],
		['number', 'thick', { value: 0.2 }],
		['box', 'post', { size: [0.2, { low: 1, high: 3, stream: 'tall' }, 0.2] }, {}],
		['transform', 'up', { move: [0, 0.5, 0] }, { geometry: 'post.mesh' }],
		['place-copies', 'posts', { scale: 2 }, { points: 'row.points', source: 'up.geometry' }],
		['result', 'result', {}, { geometry: 'posts.copies' }]
	]);

test('a range that is drawn once is told at the copies, and one click varies each of them', () => {
	const document = copied();
	const id = document.graphs.main.nodes.find(({ short }) => short === 'posts')!.id;
	const result = evaluateAll(document).evaluation.results.get(id)!;
	assert.match(result.warnings[0].message, /Size.* in post is drawn once: all copies show the same source/);
	const [fix] = result.warnings[0].fixes!;
	const after = mended(document, 'main', id, fix);
	const run = evaluateAll(after);
	const { copies, sources } = run.geometry('posts').copies!;
	assert.equal(copies.count, 200);
	// Rounded to 16 heights.
	assert.equal(sources.length, 16);
	const heights = sources.map(({ mesh }) => {
		const y = positionsOf(mesh!).filter((_, i) => i % 3 === 1);
		return Math.max(...y) - Math.min(...y);
	});
	assert.ok(Math.min(...heights) < 1.1 && Math.max(...heights) > 2.9, heights.join());
	assert.equal(copies.columns.get('scale')!.data[0], 2);
	assert.deepEqual(run.warnings('posts'), []);
	assert.equal(run.geometry('result').copies!.copies.count, 200);
	assert.deepEqual(after.graphs.main.nodes.map(({ short }) => short).sort(), [
		'posts',
		'result',
		'row',
		'thick'
	]);
});

test('what something else hangs from stays outside, and comes in by a wire', () => {
	const document = generator([
		['row-of-points', 'row', { count: 10 }],
		['box', 'post', {}],
		['subdivide', 'fine', { levels: { low: 0, high: 2, stream: 'l' } }, { geometry: 'post.mesh' }],
		['place-copies', 'posts', {}, { points: 'row.points', source: 'fine.geometry' }],
		['merge', 'both', {}, { geometry: ['posts.copies', 'post.mesh'] }]
	]);
	const id = document.graphs.main.nodes.find(({ short }) => short === 'posts')!.id;
	const after = mended(document, 'main', id, { label: '', varyCopies: true });
	const run = evaluateAll(after);
	assert.equal(run.error('both'), null);
	assert.ok(run.geometry('posts').copies!.sources.length > 1, 'several shapes');
	assert.ok(after.graphs.main.nodes.some(({ short }) => short === 'post'));
});

test('what draws once and is used elsewhere too goes into the body, and stays where it is', () => {
	const document = generator([
		['row-of-points', 'row', { count: 40 }],
		['box', 'post', { size: [0.2, { low: 1, high: 3, stream: 'tall' }, 0.2] }],
		['transform', 'up', { move: [0, 1, 0] }, { geometry: 'post.mesh' }],
		['place-copies', 'posts', {}, { points: 'row.points', source: 'up.geometry' }],
		['merge', 'both', {}, { geometry: ['posts.copies', 'post.mesh'] }]
	]);
	const id = document.graphs.main.nodes.find(({ short }) => short === 'posts')!.id;
	const run = evaluateAll(mended(document, 'main', id, { label: '', varyCopies: true }));
	assert.ok(run.geometry('posts').copies!.sources.length > 5, 'several shapes');
	assert.equal(run.error('both'), null);
	assert.ok(run.meshOf('post'), 'the post stands where it was');
	assert.ok(run.evaluation.results.size >= 5);
});

test('of several sources nothing is offered: only one could vary', () => {
	const document = generator([
		['row-of-points', 'row', { count: 4 }],
		['box', 'a', { size: [{ low: 1, high: 3, stream: 'w' }, 1, 1] }],
		['box', 'b', {}],
		['place-copies', 'posts', {}, { points: 'row.points', source: ['a.mesh', 'b.mesh'] }]
	]);
	const id = document.graphs.main.nodes[3].id;
	const [warning] = evaluateAll(document).evaluation.results.get(id)!.warnings;
	assert.match(warning.message, /is drawn once/);
	assert.deepEqual(warning.fixes ?? [], []);
	assert.equal(mended(document, 'main', id, { label: '', varyCopies: true }), document);
});
