/** Some elements of a geometry kept: their values, ids and all that hangs from them go along. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { evaluateAll, generator } from '../testing/index.ts';
import { faceAreas, idsOf, keepRows, lengthsAlong, positionsOf, Places, shears } from './index.ts';
import type { Geometry, Kind } from './index.ts';

const { geometry } = evaluateAll(
	generator([
		['grid', 'grid', { columns: 5, rows: 4 }],
		['displace-by-noise', 'hilly', { amount: 0.6 }, { geometry: 'grid.mesh' }],
		['edges-to-curves', 'lines', { which: 'all' }, { mesh: 'hilly.geometry' }],
		['row-of-points', 'row', { count: 9 }],
		['box', 'box'],
		[
			'place-copies',
			'copies',
			{ rotation: [0, { low: 0, high: 360, stream: 'a' }, 0], scale: [1, 2, 1] },
			{ points: 'row.points', source: 'box.mesh' }
		],
		['transform', 'sheared', { rotation: [0, 0, 30] }, { geometry: 'copies.copies' }],
		['transform', 'sheared2', { scale: [2, 1, 1] }, { geometry: 'sheared.geometry' }]
	])
);

const idText = (g: Geometry, part: 'mesh' | 'curves' | 'points' | 'copies', kind: Kind): string[] => {
	const table =
		kind === 'face'
			? g.mesh!.faces
			: kind === 'curve'
				? g.curves!.curves
				: kind === 'copy'
					? g.copies!.copies
					: g[part as 'points']!.points;
	const ids = idsOf(table);
	return Array.from({ length: table.count }, (_, i) => `${ids[2 * i]} ${ids[2 * i + 1]}`);
};
const rowsOf = (count: number) =>
	fc.uniqueArray(fc.nat(count - 1), { maxLength: count }).map((rows) => Uint32Array.from(rows));

test('faces keep their areas and ids, and only the points they use stay', () => {
	const whole = geometry('hilly');
	const areas = faceAreas(whole.mesh!);
	const ids = idText(whole, 'mesh', 'face');
	fc.assert(
		fc.property(rowsOf(areas.length), (rows) => {
			const kept = keepRows(whole, 'mesh', 'face', rows);
			assert.deepEqual(
				[...faceAreas(kept.mesh!)],
				[...rows].map((row) => areas[row])
			);
			assert.deepEqual(
				idText(kept, 'mesh', 'face'),
				[...rows].map((row) => ids[row])
			);
			const { cornerPoints, pointCount } = kept.mesh!.topology;
			assert.equal(new Set(cornerPoints).size, pointCount, 'no point without a face');
			assert.equal(kept.mesh!.points.count, pointCount);
		})
	);
});

test('curves keep their lengths and all of their points', () => {
	const whole = geometry('lines');
	const { lengths } = lengthsAlong(whole.curves!);
	fc.assert(
		fc.property(rowsOf(lengths.length), (rows) => {
			const kept = keepRows(whole, 'curves', 'curve', rows);
			assert.deepEqual(
				[...lengthsAlong(kept.curves!).lengths],
				[...rows].map((row) => lengths[row])
			);
			assert.equal(kept.curves!.points.count, kept.curves!.starts.at(-1));
		})
	);
});

test('copies stand as they stood, also those that shear', () => {
	for (const short of ['copies', 'sheared2']) {
		const whole = geometry(short);
		const { count } = whole.copies!.copies;
		fc.assert(
			fc.property(rowsOf(count), (rows) => {
				const kept = keepRows(whole, 'copies', 'copy', rows).copies!;
				rows.forEach((row, i) =>
					assert.deepEqual(
						[...new Places(kept.copies).affine(i)],
						[...new Places(whole.copies!.copies).affine(row)],
						`${short}: copy ${row}`
					)
				);
			})
		);
	}
	assert.ok(shears(geometry('sheared2').copies!.copies), 'they do shear');
});

test('loose points keep their places in the order asked for', () => {
	const whole = geometry('row');
	const p = positionsOf(whole.points!);
	fc.assert(
		fc.property(rowsOf(9), (rows) => {
			const kept = positionsOf(keepRows(whole, 'points', 'point', rows).points!);
			assert.deepEqual(
				[...kept],
				[...rows].flatMap((row) => [...p.subarray(3 * row, 3 * row + 3)])
			);
		})
	);
});
