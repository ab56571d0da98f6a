/** Pairs within a distance, against the same worked out over all pairs at once. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { Ledger } from '../geometry/index.ts';
import { pairsWithin } from './pairs-within.ts';
import { PointTree } from './point-tree.ts';

/** All pairs in the order of their lengths, each joined while both ends have room. */
function byAllPairs(p: Float64Array, distance: number, most: number): string[] {
	const n = p.length / 3;
	const pairs: [square: number, a: number, b: number][] = [];
	for (let a = 0; a < n; a++)
		for (let b = a + 1; b < n; b++) {
			const square = [0, 1, 2].reduce((sum, k) => sum + (p[3 * a + k] - p[3 * b + k]) ** 2, 0);
			if (Math.sqrt(square) <= distance) pairs.push([square, a, b]);
		}
	const room = new Array<number>(n).fill(most);
	return pairs
		.sort((x, y) => x[0] - y[0] || x[1] - y[1] || x[2] - y[2])
		.filter(([, a, b]) => room[a] > 0 && room[b] > 0 && (room[a]--, room[b]--, true))
		.map(([, a, b]) => `${a} ${b}`);
}

const found = (p: Float64Array, distance: number, most: number): string[] =>
	new Ledger().work(() => {
		const { firsts, seconds } = pairsWithin(new PointTree(p, 3), p, distance, most);
		return Array.from(firsts.view(), (a, l) => `${a} ${seconds.view()[l]}`);
	});

test('the nearest pairs come first of all, and none stay apart whose ends both have room', () => {
	const place = fc.integer({ min: -6, max: 6 });
	fc.assert(
		fc.property(
			// On a grid many are as far apart, and some in one place.
			fc.array(fc.tuple(place, place, place), { minLength: 0, maxLength: 60 }),
			fc.constantFrom(0.5, 1, 1.5, 4, 30),
			fc.integer({ min: 0, max: 9 }),
			fc.constantFrom(1e-3, 1, 1e4),
			(rows, distance, most, size) => {
				const p = Float64Array.from(rows.flat(), (x) => x * size);
				assert.deepEqual(found(p, distance * size, most).sort(), byAllPairs(p, distance * size, most).sort());
			}
		),
		{ numRuns: 300 }
	);
});

test('pairs are joined in the order of their lengths, and one more at a point keeps the shortest', () => {
	const p = Float64Array.of(0, 0, 0, 1, 0, 0, 3, 0, 0, 3.5, 0, 0);
	assert.deepEqual(found(p, 10, 1), ['2 3', '0 1']);
	assert.deepEqual(found(p, 10, 2), ['2 3', '0 1', '1 2', '0 3']);
	assert.deepEqual(found(p, 1, 9), ['2 3', '0 1']);
	assert.deepEqual(found(p, -1, 9), []);
});

test('a thousand points in one place, and a hundred thousand anywhere, take steps in keeping with their number', () => {
	let polls = 0;
	const count = (p: Float64Array, most: number): number => {
		polls = 0;
		const ledger = new Ledger({ poll: () => void polls++ });
		return ledger.work(() => pairsWithin(new PointTree(p, 3), p, 0.01, most).firsts.view().length);
	};
	// In one place all are as near: three by three, each with both others, and one is left.
	assert.equal(count(new Float64Array(3000), 2), 999);
	const spread = Float64Array.from(
		{ length: 300_000 },
		(_, i) => ((i * 2654435761) % 4294967296) / 4294967296
	);
	assert.ok(count(spread, 4) > 0);
});
