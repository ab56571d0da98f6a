import assert from 'node:assert/strict';
import test from 'node:test';
import fc from 'fast-check';
import { Evaluator, isGeometry, whatMoves } from '../engine/index.ts';
import type { GeneratorDocument, Setting } from '../engine/index.ts';
import { constant, operate, plainElements, run, vector } from '../varying/index.ts';
import type { Varying } from '../varying/index.ts';
import { floats, tableOf } from '../geometry/index.ts';
import { generator } from '../testing/index.ts';

const read = (value: Varying): number => {
	const out = new Float64Array(1);
	run(value, plainElements(1), 1, out);
	return out[0];
};
const octaves = [3, 2, 0.5].map((x) => constant(x));
type Place = readonly [number, number, number];
const placed = ([x, y, z]: Place) => vector(constant(x), constant(y), constant(z));
/** Each pattern in 4-D, and the same in 3-D. */
const PATTERNS = {
	hills: {
		in4: (p: Place, w: number, period = 0, seed = 7) =>
			read(operate('fractal4', [placed(p), constant(w), constant(period), ...octaves], seed)),
		in3: (p: Place) => read(operate('fractal', [placed(p), ...octaves], 7))
	},
	ridges: {
		in4: (p: Place, w: number, period = 0, seed = 7) =>
			read(operate('ridged4', [placed(p), constant(w), constant(period), ...octaves], seed)),
		in3: (p: Place) => read(operate('ridged', [placed(p), ...octaves], 7))
	},
	cells: {
		in4: (p: Place, w: number, period = 0, seed = 7) =>
			read(operate('cells4', [placed(p), constant(w), constant(period)], seed)),
		in3: (p: Place) => read(operate('cells', [placed(p)], 7))
	}
} as const;
const place = fc.tuple(
	...([0, 1, 2] as const).map(() => fc.double({ min: -300, max: 300, noNaN: true }))
) as fc.Arbitrary<[number, number, number]>;

for (const [name, { in4, in3 }] of Object.entries(PATTERNS)) {
	test(`${name}: at drift 0 the noise is the one in 3-D, and it changes in place without a jump`, () => {
		fc.assert(
			fc.property(place, fc.double({ min: -40, max: 40, noNaN: true }), (p, w) => {
				assert.equal(in4(p, 0) + 0, in3(p) + 0, 'at 0');
				const here = in4(p, w);
				assert.ok(here >= -1 && here <= 1, `${here} lies outside`);
				// Cells have creases, where another point becomes the nearest, but no steps.
				assert.ok(Math.abs(in4(p, w + 1e-6) - here) < 1e-4, 'no jump');
			}),
			{ numRuns: 300 }
		);
	});

	test(`${name}: with a period it comes back, and has no seam there`, () => {
		fc.assert(
			fc.property(
				place,
				fc.integer({ min: 1, max: 300 }),
				fc.double({ min: 0, max: 1, noNaN: true }),
				(p, period, share) => {
					const w = share * period;
					assert.equal(in4(p, 0, period), in4(p, period, period), 'equal at both ends');
					assert.ok(Math.abs(in4(p, w, period) - in4(p, w + period, period)) < 1e-9, 'after a period');
					assert.ok(Math.abs(in4(p, 1e-7, period) - in4(p, period - 1e-7, period)) < 1e-4, 'no seam');
				}
			),
			{ numRuns: 300 }
		);
	});

	test(`${name}: what is a second later is as far from it as another noise, and as strong`, () => {
		// Over 4,000 places a few hills apart: the spread stays, and w and w + 1.5 have little to do with one another.
		const [now, later] = [0.5, 2].map((w) =>
			Array.from({ length: 4000 }, (_, i) => in4([i * 1.37 + 0.21, i * 0.73, (i % 61) * 2.11], w))
		);
		const mean = (of: readonly number[]) => of.reduce((sum, x) => sum + x, 0) / of.length;
		const [a, b] = [mean(now), mean(later)];
		const spread = (of: readonly number[], m: number) => Math.sqrt(mean(of.map((x) => (x - m) ** 2)));
		const [s, t] = [spread(now, a), spread(later, b)];
		assert.ok(s / t > 0.8 && s / t < 1.25, `spreads ${s} and ${t}`);
		const r = mean(now.map((x, i) => (x - a) * (later[i] - b))) / (s * t);
		assert.ok(Math.abs(r) < 0.12, `correlated by ${r}`);
	});
}

type Rows = Parameters<typeof generator>[0][number][];
const nodesOf = (more: Record<string, Setting>, kind = 'displace-by-noise'): Rows => [
	['grid', 'ground', { width: 4, depth: 4, columns: 12, rows: 12 }],
	[kind, 'waves', { ...more }, { geometry: 'ground.mesh' }]
];
function placesAt(document: GeneratorDocument, short: string, frame: number, by = new Evaluator()) {
	const id = document.graphs.main.nodes.find((node) => node.short === short)!.id;
	const result = by.begin(document, { frame }).pull([id]).results.get(id)!;
	assert.equal(result.error, null, result.error?.message);
	const made = [...result.outputs.values()].find(isGeometry)!;
	return [...floats(tableOf(made, 'mesh', 'point')!, 'position')];
}

test('formulas read it: noise4 at 0 is noise, and a third value is its period; a vector is told of', () => {
	const formula = (text: string): Setting => ({ formula: text, streams: [] });
	const columnOf = (text: string) => {
		const document = generator([
			...nodesOf({}).slice(0, 1),
			['write-attribute', 'told', { name: 'b', value: formula(text) }, { geometry: 'ground.mesh' }]
		]);
		const id = document.graphs.main.nodes[1].id;
		const result = new Evaluator().begin(document, {}).pull([id]).results.get(id)!;
		if (result.error) return result.error.message;
		return [...floats(tableOf([...result.outputs.values()].find(isGeometry)!, 'mesh', 'point')!, 'b')];
	};
	assert.deepEqual(columnOf('noise4(position / 0.7, 0)'), columnOf('noise(position / 0.7)'));
	assert.deepEqual(columnOf('noise4(position / 0.7, 3.25, 3)'), columnOf('noise4(position / 0.7, 0.25, 3)'));
	assert.notDeepEqual(columnOf('noise4(position / 0.7, 3.25)'), columnOf('noise4(position / 0.7, 0.25)'));
	assert.match(String(columnOf('noise4(position, position)')), /second value is a vector/);
});

test('with a speed it is where its drift would be, loops to the bit, and holds for some frames', () => {
	const by = new Evaluator();
	const moving = generator(nodesOf({ speed: 0.5 }));
	for (const frame of [1, 13, 49])
		assert.deepEqual(
			placesAt(moving, 'waves', frame, by),
			placesAt(generator(nodesOf({ drift: 0.5 * ((frame - 1) / 24) })), 'waves', 1, by),
			`frame ${frame}`
		);
	const looped = generator(nodesOf({ speed: 0.9, loop: 40 }));
	assert.deepEqual(placesAt(looped, 'waves', 1, by), placesAt(looped, 'waves', 41, by));
	assert.deepEqual(placesAt(looped, 'waves', 7, by), placesAt(looped, 'waves', 87, by));
	assert.notDeepEqual(placesAt(looped, 'waves', 1, by), placesAt(looped, 'waves', 21, by));
	const stepped = generator(nodesOf({ speed: 1, hold: 4 }));
	const shown = [1, 2, 4, 5, 8].map((frame) => placesAt(stepped, 'waves', frame, by));
	assert.deepEqual([shown[1], shown[2]], [shown[0], shown[0]]);
	assert.deepEqual(shown[4], shown[3]);
	assert.notDeepEqual(shown[3], shown[2]);
});

test('a drift may differ from place to place, and a noise that does not move is not worked out again', () => {
	const by = new Evaluator();
	const formula: Setting = { formula: 'position.x', streams: [] };
	const varied = placesAt(generator(nodesOf({ drift: formula })), 'waves', 1, by);
	const even = placesAt(generator(nodesOf({})), 'waves', 1, by);
	for (let i = 0; i < even.length; i += 3)
		if (Math.abs(even[i]) < 1e-6) assert.ok(Math.abs(varied[i + 1] - even[i + 1]) < 1e-6, 'at x = 0');
	assert.notDeepEqual(varied, even);

	const still = generator(nodesOf({}));
	by.begin(still, { frame: 1 }).pull([still.graphs.main.nodes[1].id]);
	const again = by.begin(still, { frame: 2 }).pull([still.graphs.main.nodes[1].id]);
	assert.deepEqual(again.ran, []);
	assert.equal(whatMoves(still, 'main').size, 0);
	const moving = generator(nodesOf({ speed: 0.5 }));
	assert.deepEqual([...whatMoves(moving, 'main').values()], ['“Speed” moves it.']);
});

test('a wobble with a speed sways: lengths stay, its foot stands, a loop closes', () => {
	const by = new Evaluator();
	const reed = (more: Record<string, Setting>) =>
		generator([
			['line', 'stem', { to: [0, 2, 0], points: 40 }],
			['wobble', 'sway', { wobble: 30, ...more }, { curve: 'stem.curve' }]
		]);
	const pointsAt = (document: GeneratorDocument, frame: number) => {
		const id = document.graphs.main.nodes[1].id;
		const result = by.begin(document, { frame }).pull([id]).results.get(id)!;
		assert.equal(result.error, null, result.error?.message);
		const made = [...result.outputs.values()].find(isGeometry)!;
		return floats(tableOf(made, 'curves', 'point')!, 'position');
	};
	const swaying = reed({ speed: 1, loop: 48 });
	const lengthOf = (p: Float32Array) => {
		let sum = 0;
		for (let i = 3; i < p.length; i += 3)
			sum += Math.hypot(p[i] - p[i - 3], p[i + 1] - p[i - 2], p[i + 2] - p[i - 1]);
		return sum;
	};
	assert.deepEqual(pointsAt(swaying, 1), pointsAt(reed({}), 1));
	assert.deepEqual(pointsAt(swaying, 1), pointsAt(swaying, 49));
	for (const frame of [5, 13, 30]) {
		const p = pointsAt(swaying, frame);
		assert.ok(Math.abs(lengthOf(p) - 2) < 1e-5);
		assert.deepEqual([...p.slice(0, 3)], [0, 0, 0]);
	}
	assert.notDeepEqual(pointsAt(swaying, 13), pointsAt(swaying, 1));
});
