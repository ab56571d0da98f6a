/** Sowing by a weight that is read where points fall: shares and counts are those of the weight, on any mesh. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { evaluateAll, generator } from '../testing/index.ts';
import { idsOf, positionsOf } from '../geometry/index.ts';

const DENSITY = 40;

// Laws of chance run with fixed seeds: of 300 counts one lies further than four standard deviations in every fiftieth run.

/** Points sown on a ground of 10 by 10 metres about the origin. */
function sown(
	cells: readonly [number, number],
	settings: Record<string, unknown>,
	metres = 10,
	seed = 1
): { points: number[][]; ids: string[]; warnings: string[] } {
	const run = evaluateAll(
		generator(
			[
				['grid', 'ground', { width: metres, depth: metres, columns: cells[0], rows: cells[1] }],
				['sow-points', 'sowing', settings, { surface: 'ground.mesh' }]
			],
			seed
		)
	);
	assert.equal(run.error('sowing'), null);
	const { points } = run.geometry('sowing');
	const p = positionsOf(points!);
	const ids = idsOf(points!.points);
	return {
		points: Array.from({ length: p.length / 3 }, (_, i) => [...p.subarray(3 * i, 3 * i + 3)]),
		ids: Array.from({ length: p.length / 3 }, (_, i) => `${ids[2 * i]} ${ids[2 * i + 1]}`),
		warnings: run.warnings('sowing')
	};
}

/** Fails where a count is further from what is expected of `tries` than four standard deviations. */
function within4Sigma(count: number, tries: number, chance: number, what: string): void {
	const sigma = Math.sqrt(tries * chance * (1 - chance));
	assert.ok(
		Math.abs(count - tries * chance) <= 4 * sigma + 1e-9,
		`${what}: ${count} for ${tries * chance} ± ${sigma}`
	);
}

const cells = fc.constantFrom<[number, number]>([1, 1], [1, 3], [2, 1], [7, 5], [40, 40]);
const metres = fc.constantFrom(1e-3, 1, 10, 1e4);

test('where a formula of position says no nothing falls, and elsewhere as much as anywhere, on coarse meshes and fine', () => {
	fc.assert(
		fc.property(cells, metres, fc.double({ min: 0.1, max: 0.9, noNaN: true }), (grid, size, share) => {
			const edge = (share - 0.5) * size;
			const { points } = sown(
				grid,
				{ density: 4000 / (size * size), weight: { formula: `position.x < ${edge.toFixed(9)}` } },
				size
			);
			for (const [x] of points) assert.ok(x <= edge + 1e-6 * size);
			within4Sigma(points.length, 4000, share, 'all');
			const upper = points.filter(([, , z]) => z > 0).length;
			within4Sigma(upper, points.length, 0.5, 'half of them');
		}),
		{ numRuns: 40, seed: 20 }
	);
});

test('a weight that rises from one side to the other gives each strip its share', () => {
	fc.assert(
		fc.property(cells, fc.integer({ min: 1, max: 1e6 }), (grid, seed) => {
			const weight = { formula: '(position.x + 5) / 10' };
			const byCount = sown(grid, { by: 'count', count: 3000, weight, seed }).points;
			assert.equal(byCount.length, 3000);
			const byDensity = sown(grid, { density: DENSITY, weight, seed }).points;
			within4Sigma(byDensity.length, DENSITY * 100, 0.5, 'by density');
			for (const points of [byCount, byDensity])
				for (let strip = 0; strip < 5; strip++) {
					const here = points.filter(([x]) => Math.floor((x + 5) / 2) === strip).length;
					within4Sigma(here, points.length, (2 * strip + 1) / 25, `strip ${strip}`);
				}
		}),
		{ numRuns: 30, seed: 4 }
	);
});

test('more points, or a higher weight, keep those that are there, by id and place', () => {
	fc.assert(
		fc.property(cells, fc.constantFrom('density', 'count'), (grid, by) => {
			const at = (factor: number, weight: string) => {
				const { points, ids } = sown(grid, {
					by,
					density: factor * DENSITY,
					count: factor * 500,
					weight: { formula: weight }
				});
				return new Map(ids.map((id, i) => [id, String(points[i])]));
			};
			const few = at(1, 'smoothstep(-5, 5, position.x)');
			assert.equal(few.size > 400, true);
			for (const more of [
				at(3, 'smoothstep(-5, 5, position.x)'),
				...(by === 'density' ? [at(1, 'max(0.5, smoothstep(-5, 5, position.x))')] : [])
			])
				for (const [id, place] of few) assert.equal(more.get(id), place);
		}),
		{ numRuns: 30 }
	);
});

test('what differs from face to face is worked out on the faces, also beside what differs within them', () => {
	// Every second face, and of those the right halves.
	const { points } = sown([4, 1], {
		density: 400,
		weight: { formula: '(index % 2 == 0) * (fract((position.x + 5) / 2.5) > 0.5)' }
	});
	for (const [x] of points) {
		assert.equal(Math.floor((x + 5) / 2.5) % 2, 0);
		assert.ok(((x + 5) / 2.5) % 1 > 0.5 - 1e-6);
	}
	within4Sigma(points.length, 40_000, 0.25, 'a quarter');
	// A random number for each face: whole faces are full or bare.
	const patchy = sown(
		[4, 1],
		{ density: 400, weight: { formula: 'random(0, 1) > 0.5', streams: [] } },
		10,
		4
	).points;
	const perFace = [0, 1, 2, 3].map((f) => patchy.filter(([x]) => Math.floor((x + 5) / 2.5) === f).length);
	for (const count of perFace) assert.ok(count === 0 || Math.abs(count - 10_000) < 500, String(perFace));
});

test('a weight that is nowhere, or all but nowhere, ends and says so', () => {
	const formula = (text: string) => ({ by: 'count', count: 300, weight: { formula: text } });
	const nothing = sown([3, 3], formula('position.x > 7'));
	assert.deepEqual(nothing.points, []);
	assert.match(nothing.warnings[0], /weight is 0 wherever a point fell/);
	const hardly = sown([3, 3], formula('len(position) < 0.02'));
	assert.ok(hardly.points.length < 300);
	assert.match(hardly.warnings[0], /of 300 points were sown: the weight is all but 0/);
	// A small zone in one large face is found.
	const spot = sown([1, 1], formula('len(position) < 0.5'));
	assert.equal(spot.points.length, 300);
	for (const [x, , z] of spot.points) assert.ok(Math.sqrt(x * x + z * z) < 0.5 + 1e-6);
});
