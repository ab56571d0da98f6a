import assert from 'node:assert/strict';
import { test } from 'node:test';
import { expand } from '../geometry/index.ts';
import type { Placed } from '../geometry/index.ts';
import { evaluateAll, generator } from '../testing/index.ts';
import { evenly } from './evenly.ts';

const make = (length: number) => new Float32Array(length);
/** Copies of a box on a grid of side × side points. */
function field(side: number): { before: Placed; after: Placed } {
	const geometry = evaluateAll(
		generator([
			['grid-of-points', 'spots', { countX: side, countY: 1, countZ: side, spacing: [1, 1, 1] }],
			['box', 'crate'],
			['place-copies', 'crates', {}, { points: 'spots.points', source: 'crate.mesh' }]
		])
	).geometry('crates');
	const before = expand(geometry).find(({ matrices }) => matrices)!;
	return { before, after: evenly(geometry, before, make) };
}
/** The places on the ground of some of the copies, as texts. */
const spots = ({ matrices }: Placed, from: number, to: number) =>
	Array.from(
		{ length: to - from },
		(_, i) => `${matrices![16 * (from + i) + 12]} ${matrices![16 * (from + i) + 14]}`
	);

test('every place is there once, with the copy that it comes from', () => {
	const { before, after } = field(160);
	assert.equal(after.count, 160 * 160);
	assert.deepEqual(spots(after, 0, after.count).sort(), spots(before, 0, before.count).sort());
	const of = new Map(spots(before, 0, before.count).map((spot, i) => [spot, before.origins![i]]));
	spots(after, 0, after.count).forEach((spot, i) => assert.equal(after.origins![i], of.get(spot)));
});

test('every beginning is spread over the whole: each corner of the field gets its share', () => {
	const { after } = field(160);
	for (const part of [2, 8, 32]) {
		const first = Math.ceil(after.count / part);
		const cells = new Array<number>(16).fill(0);
		const xs = Array.from({ length: first }, (_, i) => [
			after.matrices![16 * i + 12],
			after.matrices![16 * i + 14]
		]);
		const all = Array.from({ length: after.count }, (_, i) => after.matrices![16 * i + 12]);
		const [low, high] = [Math.min(...all), Math.max(...all)];
		const cell = (x: number) => Math.min(3, Math.floor(((x - low) / (high - low)) * 4));
		for (const [x, z] of xs) cells[4 * cell(x) + cell(z)]++;
		const fair = first / 16;
		// Five standard deviations of a fair draw.
		for (const n of cells) assert.ok(Math.abs(n - fair) < 5 * Math.sqrt(fair), `${n} where ${fair} are due`);
	}
});

test('a few copies are spread as well: the first of them are not those that were made first', () => {
	for (const side of [8, 20, 60]) {
		const { before, after } = field(side);
		assert.deepEqual(spots(after, 0, after.count).sort(), spots(before, 0, before.count).sort());
		const first = Math.ceil(after.count / 4);
		const rows = new Set(Array.from({ length: first }, (_, i) => after.matrices![16 * i + 14]));
		assert.ok(rows.size > 0.6 * side, `${rows.size} of ${side} rows are met`);
	}
});
