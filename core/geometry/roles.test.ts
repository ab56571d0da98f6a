/** Columns blended and placed by role: rotations stay rotations, whatever is done to what carries them. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { quaternion } from '../math/index.ts';
import { evaluateAll, generator } from '../testing/index.ts';
import {
	blendMany,
	blendTwo,
	column,
	geometryOf,
	makeMesh,
	makeTable,
	matrix,
	mergeGeometries,
	placeInto,
	stackTables,
	textColumn,
	withColumns
} from './index.ts';

const unit = fc
	.tuple(
		...([0, 1, 2, 3].map(() => fc.integer({ min: -50, max: 50 })) as [
			fc.Arbitrary<number>,
			fc.Arbitrary<number>,
			fc.Arbitrary<number>,
			fc.Arbitrary<number>
		])
	)
	.filter((q) => q.some((x) => x !== 0))
	.map((q) => {
		const size = Math.sqrt(q.reduce((sum, x) => sum + x * x, 0));
		return q.map((x) => x / size);
	});
const turned = (q: ArrayLike<number>, v: readonly number[], o = 0): number[] => {
	const out = [0, 0, 0];
	quaternion.rotate(out, 0, q[o], q[o + 1], q[o + 2], q[o + 3], v[0], v[1], v[2]);
	return out;
};
const near = (a: ArrayLike<number>, b: ArrayLike<number>, within = 1e-5) =>
	Array.from(a).every((x, i) => Math.abs(x - b[i]) <= within);

test('a rotation between two has length 1, and q and −q count as the same', () => {
	fc.assert(
		fc.property(unit, unit, fc.double({ min: 0, max: 1, noNaN: true }), (a, b, share) => {
			const opposite = b.map((x) => -x);
			const rows = column('vec4', 'orientation', Float32Array.from([...a, ...b, ...opposite]));
			const mixed = blendTwo(rows, [0, 0, 0], [1, 2, 0], [share, share, share]).data;
			for (let i = 0; i < 3; i++) {
				const size = [0, 1, 2, 3].reduce((sum, k) => sum + mixed[4 * i + k] * mixed[4 * i + k], 0);
				assert.ok(Math.abs(size - 1) < 1e-5);
			}
			// At right angles to one another either half is as near.
			const along = a.reduce((sum, x, k) => sum + x * b[k], 0);
			if (Math.abs(along) > 1e-3)
				assert.ok(near(turned(mixed, [1, 2, 3]), turned(mixed, [1, 2, 3], 4)), 'either half');
			assert.ok(near(turned(mixed, [1, 2, 3], 8), turned(a, [1, 2, 3])), 'with itself');
			const mean = blendMany(rows, { starts: Uint32Array.of(0, 3), items: Uint32Array.of(1, 2, 1) }).data;
			assert.ok(near(turned(mean, [1, 2, 3]), turned(b, [1, 2, 3])), 'the mean of one and its opposite');
		})
	);
});

test('what is placed by a rotation keeps lengths and angles, by role', () => {
	fc.assert(
		fc.property(unit, unit, (turn, own) => {
			const m = matrix.compose([4, 5, 6], turn, [1, 1, 1]);
			const rotation = new Float32Array(4);
			placeInto(column('vec4', 'orientation', Float32Array.from(own)), m, rotation, 0);
			assert.ok(near(turned(rotation, [1, 2, 3]), turned(turn, turned(own, [1, 2, 3])), 1e-4));
			const place = new Float32Array(3);
			placeInto(column('vec3', 'position', Float32Array.of(1, 2, 3)), m, place, 0);
			assert.ok(
				near(
					place,
					turned(turn, [1, 2, 3]).map((x, k) => x + [4, 5, 6][k]),
					1e-4
				)
			);
		})
	);
});

test('points of copies that are written out are turned with their copies', () => {
	const { geometry } = evaluateAll(
		generator([
			['row-of-points', 'row', { count: 3 }],
			['ring-of-points', 'ring', { count: 4 }],
			[
				'place-copies',
				'copies',
				{ rotation: [0, 90, 0], follow: false },
				{ points: 'row.points', source: 'ring.points' }
			],
			['copies-to-mesh', 'out', {}, { copies: 'copies.copies' }]
		])
	);
	const before = geometry('ring').points!.points.columns.get('orientation')!.data;
	const after = geometry('out').points!.points.columns.get('orientation')!.data;
	assert.equal(after.length, 3 * before.length);
	const quarter = [0, Math.SQRT1_2, 0, Math.SQRT1_2];
	for (let i = 0; i < after.length / 4; i++)
		assert.ok(
			near(turned(after, [0, 0, 1], 4 * i), turned(quarter, turned(before, [0, 0, 1], 4 * (i % 4))), 1e-5)
		);
});

test('dictionaries of text become one, however large, and every row keeps its text', () => {
	const texts = (from: number, count: number) =>
		makeTable(count, { mark: textColumn(Array.from({ length: count }, (_, i) => `mark ${from + i}`)) });
	const [a, b] = [texts(0, 150_000), texts(100_000, 150_000)];
	const { count, columns } = stackTables([
		{ table: a, salt: 1 },
		{ table: b, salt: 2 },
		{ table: makeTable(3, {}), salt: 3 }
	]);
	const { data, words } = columns.get('mark')!;
	assert.equal(count, 300_003);
	assert.equal(words!.length, 250_001, 'texts that both have stand there once, and the empty one');
	for (const row of [0, 99_999, 149_999]) assert.equal(words![data[row]], `mark ${row}`);
	for (const row of [0, 50_000, 149_999]) assert.equal(words![data[150_000 + row]], `mark ${100_000 + row}`);
	assert.equal(words![data[300_002]], '');
});

test('what nobody has painted is white beside what is: no material gets darker by a merge', () => {
	const painted = (colour: number[] | null) => {
		const mesh = makeMesh(
			Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0),
			Uint32Array.of(0, 3),
			Uint32Array.of(0, 1, 2)
		);
		const data = Float32Array.from([0, 1, 2].flatMap(() => colour ?? []));
		const points = colour
			? withColumns(mesh.points, { colour: column('vec3', 'colour', data) })
			: mesh.points;
		return geometryOf({ mesh: { ...mesh, points } });
	};
	const { columns } = mergeGeometries([painted([0.5, 0.25, 0]), painted(null)]).mesh!.points;
	assert.deepEqual([...columns.get('colour')!.data.subarray(6)], [0.5, 0.25, 0, ...Array<number>(9).fill(1)]);
});
