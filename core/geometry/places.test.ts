import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import '../testing/index.ts';
import { quaternion } from '../math/index.ts';
import type { Affine } from './matrix.ts';
import { affineFrom, determinant, product } from './matrix.ts';
import { Places, PlacesChanged, PlacesMade, shears, withAxes } from './places.ts';
import type { Table } from './table.ts';
import { gatherTable, makeTable, withColumns } from './table.ts';

const number = (low: number, high: number) =>
	fc.integer({ min: low * 100, max: high * 100 }).map((x) => x / 100);
const three = (low: number, high: number) =>
	fc.tuple(number(low, high), number(low, high), number(low, high));
const size = fc.oneof(number(0.1, 3), number(-3, -0.1));
const plain = fc
	.tuple(three(-9, 9), three(-180, 180), fc.tuple(size, size, size))
	.map(([move, turn, scale]) => affineFrom(move, turn, scale));
/** A map that shears, as a rotation after an uneven scale does. */
const sheared = fc.tuple(plain, plain).map(([a, b]) => product(a, b));

function tableOf(maps: readonly Affine[]): Table {
	const made = new PlacesMade(maps.length);
	maps.forEach((m, i) => made.set(i, m));
	return withColumns(makeTable(maps.length, {}), made.columns());
}
const near = (a: ArrayLike<number>, b: ArrayLike<number>, what = '') => {
	const most = Math.max(1, ...Array.from(b, Math.abs));
	for (let k = 0; k < b.length; k++)
		assert.ok(Math.abs(a[k] - b[k]) < 1e-5 * most, `${what} ${k}: ${a[k]} for ${b[k]}`);
};

test('what is written is read again, with shear and without, mirrored or not', () => {
	fc.assert(
		fc.property(fc.array(fc.oneof(plain, sheared), { minLength: 1, maxLength: 6 }), (maps) => {
			const places = new Places(tableOf(maps));
			maps.forEach((m, i) => near(places.affine(i), m, `copy ${i}`));
		})
	);
});

test('only where some copy shears are there axes; asked for, they say the same', () => {
	fc.assert(
		fc.property(fc.array(plain, { minLength: 1, maxLength: 6 }), (maps) => {
			const table = tableOf(maps);
			assert.ok(!shears(table));
			const full = withAxes(table);
			assert.ok(shears(full));
			maps.forEach((m, i) => near(new Places(full).affine(i), m));
		})
	);
	assert.ok(
		shears(
			tableOf([
				product(affineFrom([0, 0, 0], [0, 0, 0], [1, 3, 1]), affineFrom([0, 0, 0], [0, 0, 30], [1, 1, 1]))
			])
		)
	);
});

test('rows in another order are the same places in that order', () => {
	fc.assert(
		fc.property(
			fc.array(sheared, { minLength: 3, maxLength: 6 }),
			fc.array(fc.nat(2), { maxLength: 8 }),
			(maps, rows) => {
				const kept = new Places(gatherTable(tableOf(maps), rows));
				rows.forEach((row, i) => near(kept.affine(i), maps[row]));
			}
		)
	);
});

test('4 × 4 matrices are the same maps', () => {
	fc.assert(
		fc.property(fc.array(fc.oneof(plain, sheared), { minLength: 1, maxLength: 5 }), (maps) => {
			const out = new Float32Array(16 * maps.length);
			new Places(tableOf(maps)).matrices(Uint32Array.from(maps.keys()), out);
			maps.forEach((m, i) => {
				for (let c = 0; c < 4; c++)
					near(out.subarray(16 * i + 4 * c, 16 * i + 4 * c + 3), m.subarray(3 * c, 3 * c + 3));
				assert.equal(out[16 * i + 15], 1);
			});
		})
	);
});

test('a copy that is turned keeps its shape, and one that is resized its axes', () => {
	fc.assert(
		fc.property(fc.oneof(plain, sheared), three(-180, 180), number(0.2, 4), (m, turn, factor) => {
			const table = tableOf([m]);
			const changed = new PlacesChanged(table);
			const q = [0, 0, 0, 1];
			quaternion.fromAngles(q, 0, turn[0], turn[1], turn[2]);
			changed.turnTo(0, q);
			const turned = new Places(withColumns(table, changed.columns())).affine(0);
			assert.ok(Math.abs(determinant(turned) / determinant(m) - 1) < 1e-4);
			const length = (a: Affine, c: number) => Math.hypot(a[3 * c], a[3 * c + 1], a[3 * c + 2]);
			for (let c = 0; c < 3; c++) assert.ok(Math.abs(length(turned, c) - length(m, c)) < 1e-4 * length(m, c));
			near(turned.subarray(9), m.subarray(9), 'it stays');
			const sized = new PlacesChanged(table);
			sized.resize(0, 1, sized.scale[1] * factor);
			const after = new Places(withColumns(table, sized.columns())).affine(0);
			near(
				after,
				Float64Array.from(m, (x, k) => (k >= 3 && k < 6 ? x * factor : x))
			);
		}),
		{ numRuns: 300 }
	);
});
