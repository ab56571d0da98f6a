/** Where elements and random numbers come from: every element has an id of its own, and no two random values are secretly one. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { idsOf, positionsOf } from '../geometry/index.ts';
import type { Table } from '../geometry/index.ts';
import { evaluateAll, generator } from '../testing/index.ts';
import type { Row } from '../testing/index.ts';

const distinct = (table: Table): number => {
	const ids = idsOf(table);
	return new Set(Array.from({ length: table.count }, (_, i) => `${ids[2 * i]} ${ids[2 * i + 1]}`)).size;
};
const formula = (text: string) => ({ formula: text, streams: [] });

function correlation(a: ArrayLike<number>, b: ArrayLike<number>): number {
	const n = a.length;
	let [x, y, xx, yy, xy] = [0, 0, 0, 0, 0];
	for (let i = 0; i < n; i++) {
		x += a[i];
		y += b[i];
		xx += a[i] * a[i];
		yy += b[i] * b[i];
		xy += a[i] * b[i];
	}
	return (xy - (x * y) / n) / Math.sqrt((xx - (x * x) / n) * (yy - (y * y) / n));
}

test('every point of curves made of edges, of resampled curves and of subdivided meshes has an id of its own', () => {
	const rows: Row[] = [
		['grid', 'grid', { columns: 4, rows: 4 }],
		['edges-to-curves', 'edges', { which: 'all' }, { mesh: 'grid.mesh' }],
		['resample-curve', 'fine', { by: 'count', count: 7 }, { curve: 'edges.curve' }],
		['subdivide', 'finer', { levels: 2 }, { geometry: 'grid.mesh' }]
	];
	const { geometry } = evaluateAll(generator(rows));
	const edges = geometry('edges').curves!;
	assert.ok(edges.points.count > 25);
	assert.equal(distinct(edges.points), edges.points.count);
	const fine = geometry('fine').curves!;
	assert.equal(distinct(fine.points), fine.points.count);
	const { points, faces, corners } = geometry('finer').mesh!;
	for (const table of [points, faces, corners]) assert.equal(distinct(table), table.count);
	// What was there before keeps the id that it had.
	const before = geometry('grid').mesh!.points;
	assert.deepEqual([...idsOf(points).subarray(0, 2 * before.count)], [...idsOf(before)]);
});

test('a longer curve keeps the ids of the points that were there', () => {
	const points = (length: number) =>
		evaluateAll(
			generator([
				['line', 'line', { to: [length, 0, 0] }],
				['resample-curve', 'fine', { by: 'spacing', spacing: 0.5 }, { curve: 'line.curve' }]
			])
		).geometry('fine').curves!.points;
	const [short, long] = [points(3), points(9)];
	assert.deepEqual([...idsOf(long).subarray(0, 2 * short.count)], [...idsOf(short)]);
});

test('the parts of a vector of formulas draw each their own numbers, also without stored streams', () => {
	fc.assert(
		fc.property(fc.integer({ min: 1, max: 1e9 }), (seed) => {
			const part = formula('random(-1, 1)');
			const { geometry } = evaluateAll(
				generator(
					[
						['row-of-points', 'row', { count: 2000 }],
						['box', 'box'],
						[
							'place-copies',
							'copies',
							{ offset: [part, part, part] },
							{ points: 'row.points', source: 'box.mesh' }
						]
					],
					seed
				)
			);
			const row = positionsOf({ points: geometry('row').points!.points });
			const p = positionsOf({ points: geometry('copies').copies!.copies });
			const [x, y, z] = [0, 1, 2].map((k) =>
				Array.from({ length: 2000 }, (_, i) => p[3 * i + k] - row[3 * i + k])
			);
			for (const [a, b] of [
				[x, y],
				[y, z],
				[x, z]
			])
				assert.ok(Math.abs(correlation(a, b)) < 0.1, 'independent');
		}),
		{ numRuns: 30 }
	);
});

test('noise is one function everywhere, and noise with a number another one, independent of it', () => {
	const heights = (text: string, short: string): Row => [
		'displace',
		short,
		{ along: 'direction', amount: formula(text) },
		{ geometry: 'grid.mesh' }
	];
	const { geometry, error } = evaluateAll(
		generator([
			['grid', 'grid', { width: 40, depth: 40, columns: 60, rows: 60 }],
			heights('noise(position * 0.731)', 'a'),
			heights('noise(position * 0.731, 1)', 'b'),
			heights('noise(position * 0.731, 2)', 'c'),
			heights('noise(position * 0.731, 7)', 'd'),
			heights('noise(position, index)', 'wrong')
		])
	);
	const y = (short: string) => {
		const p = positionsOf(geometry(short).mesh!);
		return Array.from({ length: p.length / 3 }, (_, i) => p[3 * i + 1]);
	};
	assert.deepEqual(y('a'), y('b'));
	for (const [one, other] of [
		['a', 'c'],
		['a', 'd'],
		['c', 'd']
	])
		assert.ok(Math.abs(correlation(y(one), y(other))) < 0.12, `${one} and ${other}`);
	assert.match(error('wrong')!, /a whole number, such as noise\(position, 2\)/);
});
