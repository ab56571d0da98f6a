/** Cells tile their rectangle, and every place lies in the cell of the point that is nearest to it. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { dice } from '../testing/index.ts';
import { areaOfSection } from './section.ts';
import { voronoiCells } from './voronoi.ts';

const whole = { inset: null, reach: null, segments: 64 };
const areas = (cells: readonly Float64Array[]) =>
	cells.map((cell) => (cell.length ? areaOfSection(cell) : 0));
const sum = (numbers: readonly number[]) => numbers.reduce((total, x) => total + x, 0);

/** Points of a kind in a square of a size: spread, on a grid, on a line, on the border, many on one another. */
function points(kind: string, count: number, size: number, seed: number): Float64Array {
	const roll = dice(seed);
	const side = Math.ceil(Math.sqrt(count));
	return Float64Array.from(
		Array.from({ length: count }, (_, i) => {
			const [a, b] = [roll(), roll()];
			if (kind === 'grid') return [(i % side) / side, Math.floor(i / side) / side];
			if (kind === 'line') return [a, 0.25 + a / 2];
			if (kind === 'border') return i % 2 ? [a < 0.5 ? 0 : 1, b] : [b, a < 0.5 ? 0 : 1];
			if (kind === 'doubles') return [Math.floor(a * 5) / 5, Math.floor(b * 5) / 5];
			return [a, b];
		})
			.flat()
			.map((x) => x * size)
	);
}
const kinds = fc.constantFrom('spread', 'grid', 'line', 'border', 'doubles');
const size = fc.constantFrom(1e-3, 1, 1e4);

test('cells tile the rectangle, each holds its point, and every place lies in the cell of the nearest', () => {
	fc.assert(
		fc.property(kinds, fc.integer({ min: 1, max: 200 }), size, fc.nat(1e6), (kind, count, metres, seed) => {
			const places = points(kind, count, metres, seed);
			const cells = voronoiCells(places, { ...whole, within: [0, 0, metres, metres] });
			const total = sum(areas(cells));
			assert.ok(Math.abs(total / (metres * metres) - 1) < 1e-9, `${total} of ${metres * metres}`);
			const roll = dice(seed + 1);
			for (let k = 0; k < 20; k++) {
				const [x, y] = [roll() * metres, roll() * metres];
				const far = (i: number) => Math.hypot(places[2 * i] - x, places[2 * i + 1] - y);
				let nearest = 0;
				for (let i = 1; i < count; i++) if (far(i) < far(nearest)) nearest = i;
				const cell = cells[nearest];
				for (let i = 0; i < cell.length; i += 2) {
					const j = (i + 2) % cell.length;
					const side = (cell[j] - cell[i]) * (y - cell[i + 1]) - (cell[j + 1] - cell[i + 1]) * (x - cell[i]);
					assert.ok(side >= -1e-9 * metres * metres, `${x}, ${y} lies in cell ${nearest}`);
				}
			}
		}),
		{ numRuns: 200 }
	);
});

test('10,000 points, some of them on one another and on the border, tile their rectangle', () => {
	const places = points('spread', 10_000, 1, 5);
	for (let i = 0; i < 300; i++) places.copyWithin(2 * (9_999 - i), 2 * i, 2 * i + 2);
	for (let i = 1000; i < 1100; i++) places[2 * i] = i % 2;
	const cells = voronoiCells(places, { ...whole, within: [0, 0, 1, 1] });
	assert.ok(Math.abs(sum(areas(cells)) - 1) < 1e-9);
	assert.equal(cells.filter((cell) => !cell.length).length, 300);
});

test('with a small reach cells are discs, with a large one whole cells, and in between they only grow', () => {
	fc.assert(
		fc.property(kinds, fc.integer({ min: 1, max: 60 }), size, fc.nat(1e6), (kind, count, metres, seed) => {
			const places = points(kind, count, metres, seed);
			const of = (reach: number, segments = 64) =>
				areas(
					voronoiCells(places, {
						...whole,
						within: [-metres, -metres, 2 * metres, 2 * metres],
						reach: new Float64Array(count).fill(reach * metres),
						segments
					})
				);
			const [none, some, more, all] = [of(0), of(0.02), of(0.2), of(9)];
			const full = areas(
				voronoiCells(places, { ...whole, within: [-metres, -metres, 2 * metres, 2 * metres] })
			);
			const disc = 32 * Math.sin(Math.PI / 32) * (0.02 * metres) ** 2;
			for (let i = 0; i < count; i++) {
				assert.equal(none[i], 0);
				const slack = 1e-9 * metres * metres;
				assert.ok(some[i] <= disc * 1.004 && some[i] <= more[i] + slack && more[i] <= all[i] + slack);
				assert.ok(Math.abs(all[i] - full[i]) < slack);
			}
			if (count === 1) assert.ok(Math.abs(some[0] / disc - 1) < 1e-9);
		}),
		{ numRuns: 100 }
	);
});

test('an inset leaves a gap twice as wide between neighbours', () => {
	const places = Float64Array.of(1, 1, 3, 1);
	const [left, right] = voronoiCells(places, { ...whole, within: [0, 0, 4, 2], inset: [0.25, 0.25] });
	assert.deepEqual([areaOfSection(left), areaOfSection(right)], [1.5 * 1.5, 1.5 * 1.5]);
	const [gone] = voronoiCells(places, { ...whole, within: [0, 0, 4, 2], inset: [1.5, 0] });
	assert.equal(gone.length, 0);
});
