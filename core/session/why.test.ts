/** Why an element is as it is: the way back names the nodes that it passed through, and the same element in each of them. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { Evaluator, isGeometry } from '../engine/index.ts';
import { floats, idOfRow, tableOf } from '../geometry/index.ts';
import type { Geometry, Kind } from '../geometry/index.ts';
import { generator } from '../testing/index.ts';
import type { Row } from '../testing/index.ts';
import { whyIsIt } from './why.ts';

const SHORE: Row[] = [
	['grid', 'flat', { width: 8, depth: 8, columns: 12, rows: 12 }],
	['displace', 'tide', { amount: { formula: 'sin(position.x)', streams: [] } }, { geometry: 'flat.mesh' }],
	['sow-points', 'sown', { by: 'count', count: 60 }, { surface: 'tide.geometry' }],
	[
		'write-attribute',
		'tall',
		{ name: 'height', value: { low: 1, high: 2, stream: 'h' } },
		{ geometry: 'sown.points' }
	],
	['keep-in-rhythm', 'thinned', { keep: 2, skip: 1 }, { geometry: 'tall.geometry' }],
	['box', 'post', { size: [0.1, 1, 0.1] }],
	['place-copies', 'posts', {}, { points: 'thinned.geometry', source: 'post.mesh' }],
	['copies-to-mesh', 'real', {}, { copies: 'posts.copies' }],
	['merge', 'all', {}, { geometry: ['flat.mesh', 'real.mesh'] }]
];

function open(rows: readonly Row[]) {
	const document = generator(rows);
	const { main } = document.graphs;
	const { results } = new Evaluator().evaluate(
		document,
		main.nodes.map(({ id }) => id)
	);
	for (const { error, id } of results.values())
		assert.equal(error, null, `${main.nodes.find((node) => node.id === id)!.short}: ${error?.message}`);
	const idOf = (short: string) => main.nodes.find((node) => node.short === short)!.id;
	const shortOf = (id: string) => main.nodes.find((node) => node.id === id)!.short;
	return {
		geometry: (short: string) => [...results.get(idOf(short))!.outputs.values()].find(isGeometry) as Geometry,
		why(short: string, at: readonly number[], kind: Kind | null) {
			const why = whyIsIt({ node: idOf(short), at, kind }, main, results);
			return { ...why, steps: why.steps.map((step) => ({ ...step, node: shortOf(step.node) })) };
		}
	};
}
const { geometry, why } = open(SHORE);
const placesOf = (of: Geometry, kind: 'copy' | 'point', part: 'copies' | 'points' | 'mesh') =>
	floats(tableOf(of, part, kind)!, 'position');

test('a copy is followed to its point, through what thinned and named it, to the face on which it was sown', () => {
	const places = placesOf(geometry('posts'), 'copy', 'copies');
	fc.assert(
		fc.property(fc.nat(places.length / 3 - 1), (row) => {
			const told = why('posts', places.subarray(3 * row, 3 * row + 3) as never, 'copy');
			assert.equal(told.row, row);
			assert.deepEqual(
				told.steps.map(({ node, how }) => `${node} ${how}`),
				['posts shown', 'thinned stands on', 'tall through', 'sown through', 'tide stands on', 'flat through']
			);
			const copy = tableOf(geometry('posts'), 'copies', 'copy')!;
			const sown = tableOf(geometry('sown'), 'points', 'point')!;
			assert.deepEqual(idOfRow(sown, told.steps[3].row), idOfRow(copy, row));
			const height = told.attributes.find(({ name }) => name === 'height')!.values[0];
			assert.equal(
				height,
				tableOf(geometry('tall'), 'points', 'point')!.columns.get('height')!.data[told.steps[2].row]
			);
		})
	);
});

test('a face of what was written out leads to its copy, also when it was merged with others', () => {
	const p = placesOf(geometry('real'), 'point', 'mesh');
	for (const row of [0, 17, 100]) {
		const at = [...p.subarray(3 * row, 3 * row + 3)];
		const told = why('all', at, 'point');
		assert.deepEqual(
			told.steps.slice(0, 4).map(({ node, how }) => `${node} ${how}`),
			['all shown', 'real through', 'posts written out from', 'thinned stands on']
		);
		assert.equal(
			told.steps[2].row,
			tableOf(geometry('real'), 'mesh', 'point')!.columns.get('copy')!.data[told.steps[1].row]
		);
	}
});

test('a face is the one that lies there, and is followed to the grid that made it', () => {
	const told = why('tide', [-3.6, 0, 1.2], 'face');
	assert.deepEqual(
		told.steps.map(({ node }) => node),
		['tide', 'flat']
	);
	assert.equal(told.steps[0].row, told.steps[1].row);
	assert.ok(Math.abs(told.at[0] + 3.6) < 0.5 && Math.abs(told.at[2] - 1.2) < 0.5);
	assert.deepEqual(told.kinds, ['face', 'point']);
});

test('what a source and a place have in common by number is not confused', () => {
	const { why } = open([
		['row-of-points', 'row', { count: 8 }],
		['box', 'post', { size: [0.1, 1, 0.1] }],
		['place-copies', 'posts', {}, { points: 'row.points', source: 'post.mesh' }]
	]);
	const { steps } = why('posts', [0, 0, 0], 'copy');
	assert.deepEqual(
		steps.map(({ node }) => node),
		['posts', 'row']
	);
});

test('where there is nothing, it says so', () => {
	const { why } = open([
		['row-of-points', 'row', { count: 8 }],
		['keep-in-rhythm', 'gone', { keep: 0, skip: 1 }, { geometry: 'row.points' }]
	]);
	assert.throws(() => why('gone', [0, 0, 0], null), /There is no element here\./);
});
