import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import '../testing/index.ts';
import { Places, makeTable, matrix, withColumns } from '../geometry/index.ts';
import { chainPlaces } from './chain-places.ts';

const number = (low: number, high: number) =>
	fc.integer({ min: low * 100, max: high * 100 }).map((x) => x / 100);
const three = (low: number, high: number) =>
	fc.tuple(number(low, high), number(low, high), number(low, high));
const step = fc.record({ move: three(-2, 2), turn: three(-90, 90), scale: three(0.5, 1.5) });

const placesOf = (steps: readonly { move: number[]; turn: number[]; scale: number[] }[]) => {
	const parts = (name: 'move' | 'turn' | 'scale') => [0, 1, 2].map((k) => steps.map((one) => one[name][k]));
	const made = chainPlaces(steps.length, {
		moves: parts('move'),
		turns: parts('turn'),
		scales: parts('scale')
	});
	return new Places(withColumns(makeTable(steps.length, {}), made.columns()));
};

test('each stands in the space of the one before it; the first at the origin', () => {
	fc.assert(
		fc.property(fc.array(step, { minLength: 1, maxLength: 8 }), (steps) => {
			const places = placesOf(steps);
			let wanted = matrix.identity();
			steps.forEach(({ move, turn, scale }, i) => {
				if (i > 0) wanted = matrix.product(wanted, matrix.affineFrom(move, turn, scale));
				const found = places.affine(i);
				const size = Math.max(1, ...wanted.map(Math.abs));
				found.forEach((x, k) =>
					assert.ok(Math.abs(x - wanted[k]) < 2e-5 * size, `${i}, ${k}: ${x} for ${wanted[k]}`)
				);
			});
		})
	);
});

test('more of them leave the earlier ones where they were, to the bit', () => {
	fc.assert(
		fc.property(fc.array(step, { minLength: 3, maxLength: 8 }), fc.nat(2), (steps, less) => {
			const [all, some] = [placesOf(steps), placesOf(steps.slice(0, steps.length - less))];
			assert.deepEqual([...all.position.subarray(0, some.position.length)], [...some.position]);
		})
	);
});

test('steps that are all alike go round: twelve turns of thirty degrees come back', () => {
	const places = placesOf(
		Array.from({ length: 13 }, () => ({ move: [1, 0, 0], turn: [0, 30, 0], scale: [1, 1, 1] }))
	);
	places.affine(12).forEach((x, k) => assert.ok(Math.abs(x - matrix.identity()[k]) < 1e-5));
});
