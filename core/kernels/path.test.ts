import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { lengthOf } from '../geometry/index.ts';
import { evaluateAll, generator } from '../testing/index.ts';
import { canSplit, joinAt, piecesOf, samplePath, splitAt, withoutPoint } from './path.ts';
import type { ControlPoint } from './path.ts';

const coordinate = fc.integer({ min: -50, max: 50 }).map((n) => n / 10);
const place = fc.tuple(coordinate, coordinate, coordinate);
const point: fc.Arbitrary<ControlPoint> = fc.record(
	{ at: place, in: place, out: place },
	{ noNullPrototype: true }
);
const path = fc.array(point, { minLength: 3, maxLength: 8 });

/** All pieces one after another, as polylines by handles. */
const drawn = (points: readonly ControlPoint[], closed = false) =>
	piecesOf(points).map((piece) => samplePath(piece, 'bezier', closed, 5));

test('a split curve runs through the same places, and joining gives the curve back', () => {
	fc.assert(
		fc.property(path, fc.nat(), (points, n) => {
			const i = 1 + (n % (points.length - 2));
			assert.equal(canSplit(points, i, false), true, 'an inner point');
			const split = splitAt(points, i, false);
			const [first, second] = drawn(split.path);
			assert.equal(drawn(split.path).length, 2);
			assert.deepEqual([...first, ...second.slice(3)], drawn(points)[0]);
			assert.deepEqual(joinAt(split.path, i), points);
		})
	);
});

test('a closed curve is opened where it is split, and keeps its places', () => {
	fc.assert(
		fc.property(path, fc.nat(), (points, n) => {
			const i = n % points.length;
			const split = splitAt(points, i, true);
			assert.equal(split.closed, false);
			const [open] = drawn(split.path);
			const [round] = drawn(points, true);
			const turned = [...round.slice(15 * i), ...round.slice(0, 15 * i)];
			assert.deepEqual(open.slice(0, -3), turned);
			assert.deepEqual(open.slice(-3), open.slice(0, 3), 'it ends where it begins');
		})
	);
});

test('ends cannot be split, and a deleted end leaves the curve ending before it', () => {
	const points: ControlPoint[] = [0, 1, 2, 3, 4].map((x) => ({ at: [x, 0, 0] }));
	assert.deepEqual(
		[0, 1, 4].map((i) => canSplit(points, i, false)),
		[false, true, false]
	);
	const { path } = splitAt(points, 2, false);
	assert.deepEqual(splitAt(path, 2, false).path, path, 'the place of a split is not split again');
	const shorter = withoutPoint(path, 2);
	assert.deepEqual(
		piecesOf(shorter).map((piece) => piece.map(({ at }) => at[0])),
		[
			[0, 1],
			[2, 3, 4]
		]
	);
});

test('a drawing of several curves gives them all; a point alone is pointed out', () => {
	const at = (x: number, z: number, ends = false) => ({ at: [x, 0, z], ...(ends && { ends }) });
	const run = evaluateAll(
		generator([
			[
				'draw-curve',
				'two',
				{ type: 'straight', path: { path: [at(0, 0), at(3, 0, true), at(0, 1), at(0, 5)] } }
			],
			['draw-curve', 'alone', { type: 'straight', path: { path: [at(0, 0), at(3, 0, true), at(0, 1)] } }],
			[
				'draw-curve',
				'rings',
				{
					type: 'straight',
					closed: true,
					path: { path: [at(0, 0), at(1, 0), at(1, 1, true), at(5, 0), at(6, 0), at(6, 1)] }
				}
			]
		])
	);
	assert.equal(run.geometry('two').curves!.curves.count, 2);
	assert.equal(lengthOf(run.geometry('two')), 7);
	assert.match(run.warnings('alone')[0], /a single point/);
	assert.ok(Math.abs(lengthOf(run.geometry('rings')) - 2 * (2 + Math.SQRT2)) < 1e-6, 'both are closed');
});
