/** The tables behind sowing: each triangle is drawn as often as it weighs, and kept points keep their distance. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { dice, evaluateAll, generator } from '../testing/index.ts';
import { areaOf } from '../geometry/index.ts';
import { writeSlots } from './alias-table.ts';
import { keepApart } from './keep-apart.ts';
import { cumulativeAreas, pointsOfTriangles, recordsOf } from './triangle-records.ts';

/** The chance of each, as the slots give it: a slot is as likely as any other, and its limit is in units of 2⁻³². */
function chances(weights: readonly number[]): number[] {
	let sum = 0;
	const sums = Float64Array.from(weights, (w) => (sum += w));
	const slots = new Uint32Array(2 * weights.length);
	writeSlots(slots, sums);
	const out = Array<number>(weights.length).fill(0);
	for (let t = 0; t < weights.length; t++) {
		const other = slots[2 * t + 1];
		// A slot that is whole names itself as the other one.
		const share = other === t ? 1 : slots[2 * t] / 4294967296;
		out[t] += share / weights.length;
		out[other] += (1 - share) / weights.length;
	}
	return out;
}

test('each is drawn as often as it weighs, to one in four thousand million, and nothing without weight ever', () => {
	const weight = fc.oneof(fc.constantFrom(0, 1, 1e-12, 1e12), fc.integer({ min: 0, max: 1000 }));
	fc.assert(
		fc.property(fc.array(weight, { minLength: 1, maxLength: 60 }), (weights) => {
			const total = weights.reduce((sum, w) => sum + w, 0);
			fc.pre(total > 0);
			for (const [t, chance] of chances(weights).entries()) {
				const wanted = weights[t] / total;
				assert.ok(Math.abs(chance - wanted) < 2e-9 * weights.length, `${t} of ${weights}: ${chance}`);
				if (weights[t] === 0) assert.equal(chance, 0);
			}
		})
	);
});

test('sums of areas end in the mesh’s area, and weights of 0 take faces out of them', () => {
	const float = evaluateAll(generator([['sphere', 'float', {}]])).geometry('float');
	const { mesh } = float;
	const sums = cumulativeAreas(mesh!, null);
	assert.ok(Math.abs(sums.at(-1)! - areaOf(float)) < 1e-6 * sums.at(-1)!);
	for (let t = 1; t < sums.length; t++) assert.ok(sums[t] >= sums[t - 1]);
	assert.equal(cumulativeAreas(mesh!, null), sums, 'kept with the mesh');
	const half = new Float32Array(mesh!.faces.count).fill(0.5);
	assert.ok(Math.abs(cumulativeAreas(mesh!, half).at(-1)! - sums.at(-1)! / 2) < 1e-9);
	assert.equal(cumulativeAreas(mesh!, new Float32Array(mesh!.faces.count)).at(-1), 0);
});

test('corners share a record where all that is blended agrees, and only there', () => {
	const { mesh } = evaluateAll(generator([['box', 'hut', {}]])).geometry('hut');
	const points = pointsOfTriangles(mesh!);
	const position = mesh!.points.columns.get('position')!.data as Float32Array;
	const places = { source: position, width: 3, rows: points };
	assert.equal(recordsOf([places]).rows, points, 'places alone are the points’ own');
	// A value that differs by side: the eight points of a box part into three each.
	const sides = Float32Array.from({ length: points.length }, (_, i) => Math.floor(i / 6));
	const own = { source: sides, width: 1, rows: Uint32Array.from(points, (_, i) => i) };
	const { rows, count } = recordsOf([places, own]);
	assert.equal(count, mesh!.points.count * 3);
	for (let i = 0; i < rows.length; i++)
		for (let j = 0; j < i; j++)
			assert.equal(rows[i] === rows[j], points[i] === points[j] && sides[i] === sides[j], `${i} and ${j}`);
});

test('kept points are exactly those that a search through all pairs keeps', () => {
	for (const [seed, spread, distance] of [
		[1, 10, 1],
		[2, 1000, 40],
		[3, 0.01, 0.002],
		[4, 1, 5]
	]) {
		const roll = dice(seed);
		const n = 600;
		const positions = Float32Array.from({ length: 3 * n }, () => (roll() - 0.5) * spread);
		// Some lie exactly on others.
		for (let i = 0; i < 30; i++) positions.copyWithin(3 * (n - 1 - i), 3 * i, 3 * i + 3);
		const kept: number[] = [];
		for (let i = 0; i < n; i++) {
			const apart = kept.every((j) => {
				let square = 0;
				for (let k = 0; k < 3; k++) {
					const d = positions[3 * i + k] - positions[3 * j + k];
					square += d * d;
				}
				return square >= distance * distance;
			});
			if (apart) kept.push(i);
		}
		assert.deepEqual([...keepApart(positions, distance)], kept);
		assert.ok(kept.length < n && kept.length >= 1);
	}
});
