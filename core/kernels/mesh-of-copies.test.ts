import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import type { Row } from '../testing/index.ts';
import { evaluateAll, generator } from '../testing/index.ts';

const written = (more: Row[], source: string) =>
	evaluateAll(
		generator([
			['grid', 'flat', { columns: 2, rows: 2, width: 8, depth: 8 }],
			['box', 'hut'],
			...more,
			['place-copies', 'huts', { scale: [1, 2, 1] }, { points: 'flat.mesh', source }],
			[
				'write-attribute',
				'told',
				{ name: 'wet', elements: 'copy', value: { formula: 'index * 3 + 1', streams: [] } },
				{ geometry: 'huts.copies' }
			],
			['copies-to-mesh', 'walls', {}, { copies: 'told.geometry' }]
		])
	).geometry('walls').mesh!.points;

test('points that copies become have what their copy had, and know which it was', () => {
	const points = written([], 'hut.mesh');
	const [wet, copy] = ['wet', 'copy'].map((name) => points.columns.get(name)!.data);
	assert.equal(points.count, 9 * 8);
	assert.deepEqual(
		[...wet],
		Array.from(copy, (c) => 3 * c + 1)
	);
	// Where a copy stood and which source it showed is said by the points themselves.
	for (const name of ['scale', 'source', 'orientation', 'axisX']) assert.ok(!points.columns.has(name), name);
});

test('what the source has itself goes before what its copies have', () => {
	fc.assert(
		fc.property(fc.integer({ min: -50, max: 50 }), (own) => {
			const points = written(
				[['write-attribute', 'dry', { name: 'wet', value: own }, { geometry: 'hut.mesh' }]],
				'dry.geometry'
			);
			assert.ok(points.columns.get('wet')!.data.every((x) => x === own));
		}),
		{ numRuns: 30 }
	);
});
