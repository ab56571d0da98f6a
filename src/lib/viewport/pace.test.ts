import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { FEW, FLOOR, MOVING, Pace, drawnOf, runsOf } from './pace.ts';

const PIXELS = 400_000;

/** A pace that has seen a machine which takes so long for a triangle and a pixel. */
function learnt(triangle: number, pixel: number): Pace {
	const pace = new Pace();
	for (let i = 0; i < 60; i++) {
		const load = { triangles: 20_000 + 1000 * (i % 7), pixels: PIXELS };
		pace.learn(load, 1 + load.triangles * triangle + load.pixels * pixel);
		// What takes next to nothing says how long any piece takes.
		pace.learn({ triangles: 0, pixels: 100 }, 1);
	}
	return pace;
}

test('it learns how long a picture takes, on a fast machine and on a slow one', () => {
	for (const slowness of [0.4, 1, 20]) {
		const pace = learnt(0.0006 * slowness, 0.00004 * slowness);
		const load = { triangles: 50_000, pixels: PIXELS };
		const truth = 1 + slowness * (50_000 * 0.0006 + PIXELS * 0.00004);
		assert.ok(Math.abs(pace.expect(load) / truth - 1) < 0.2, `${pace.expect(load)} for ${truth}`);
	}
});

test('one odd measurement changes little', () => {
	const pace = learnt(0.0006, 0.00004);
	const load = { triangles: 50_000, pixels: PIXELS };
	const before = pace.expect(load);
	pace.learn(load, 100 * before);
	assert.ok(pace.expect(load) < 2 * before);
});

test('what is drawn while something moves fits, and no more is left out than must be', () => {
	fc.assert(
		fc.property(
			fc.double({ min: 0.01, max: 20, noNaN: true }),
			fc.integer({ min: 0, max: 20_000 }),
			fc.integer({ min: 1, max: 5_000_000 }),
			(slowness, fixed, copied) => {
				const pace = new Pace(slowness);
				const n = pace.oneIn(fixed, copied, PIXELS);
				if (copied <= FEW) return assert.equal(n, 1);
				const cost = (one: number) => pace.expect({ triangles: fixed + copied / one, pixels: PIXELS });
				if (n > 1 && n < 1024) assert.ok(cost(n / 2) > MOVING * 0.99, 'twice as many would have fitted');
				// Where the rest alone takes nearly all of it, a few copies are drawn all the same.
				const rest = pace.expect({ triangles: fixed, pixels: PIXELS });
				if (n < 1024) assert.ok(cost(n) <= Math.max(MOVING, rest + 38) * 1.01);
			}
		)
	);
	assert.equal(new Pace().oneIn(1e9, 0, PIXELS), 1, 'where there are no copies nothing is left out');
});

test('runs hold every piece once, in order, and none is larger than the limit but by one piece alone', () => {
	fc.assert(
		fc.property(
			fc.array(fc.integer({ min: 0, max: 50 })),
			fc.integer({ min: 1, max: 60 }),
			(sizes, limit) => {
				const runs = runsOf(sizes, (x) => x, limit);
				assert.deepEqual(runs.flat(), sizes);
				for (const run of runs)
					assert.ok(run.length === 1 || run.reduce((sum, x) => sum + x, 0) <= limit, `${run} over ${limit}`);
			}
		)
	);
});

test('of few copies all are drawn, of many a share, and never so few that nobody sees how they lie', () => {
	for (const copies of [0, 1, 3, 12, FLOOR])
		for (const oneIn of [1, 2, 64, 1024]) assert.equal(drawnOf(copies, oneIn), copies);
	for (const copies of [100, 5000, 1_000_000])
		for (const oneIn of [1, 4, 1024]) {
			const drawn = drawnOf(copies, oneIn);
			assert.ok(drawn >= Math.min(copies, FLOOR) && drawn <= copies && drawn >= copies / oneIn);
			assert.ok(drawn === FLOOR || drawn <= Math.ceil(copies / oneIn));
		}
});
