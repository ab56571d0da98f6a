/** What an imported mesh suggests of its unit and its axis up, and where its origin comes to lie. */
import assert from 'node:assert/strict';
import test from 'node:test';
import fc from 'fast-check';
import { hashBytes, proposeUnit, proposeUp } from './index.ts';
import { boundsOf, geometryOf } from '../geometry/index.ts';
import { evaluateAll, generator } from '../testing/index.ts';
import { makeMesh } from '../geometry/index.ts';

/** A box between two corners. */
const makeBox = (low: readonly number[], high: readonly number[]) =>
	makeMesh(
		Float32Array.from(
			[0, 1, 2, 3, 4, 5, 6, 7].flatMap((i) => [0, 1, 2].map((k) => (i & (1 << k) ? high : low)[k]))
		),
		Uint32Array.from([0, 4, 8, 12, 16, 20, 24]),
		Uint32Array.from([0, 2, 3, 1, 4, 5, 7, 6, 0, 1, 5, 4, 2, 6, 7, 3, 0, 4, 6, 2, 1, 3, 7, 5])
	);

const sizes = fc.record({
	width: fc.double({ min: 0.2, max: 5, noNaN: true }),
	depth: fc.double({ min: 0.2, max: 5, noNaN: true }),
	height: fc.double({ min: 0.2, max: 5, noNaN: true })
});

test('a thing that stands on the zero of z is proposed z up, one that stands on that of y is not', () => {
	fc.assert(
		fc.property(sizes, ({ width, depth, height }) => {
			const low = [-width / 2, -depth / 2, 0];
			const high = [width / 2, depth / 2, height];
			assert.equal(proposeUp(geometryOf({ mesh: makeBox(low, high) })), 'z');
			const turned = ([x, y, z]: number[]) => [x, z, y];
			assert.equal(proposeUp(geometryOf({ mesh: makeBox(turned(low), turned(high)) })), 'y');
			// Its middle in the origin says nothing.
			const half = high.map((x, k) => (x - low[k]) / 2);
			assert.equal(
				proposeUp(
					geometryOf({
						mesh: makeBox(
							half.map((x) => -x),
							half
						)
					})
				),
				'y'
			);
		}),
		{ numRuns: 100 }
	);
});

test('the unit is proposed from the size: millimetres, centimetres, metres', () => {
	for (const [metres, scale, unit] of [
		[3, 1000, 'mm'],
		[3, 100, 'cm'],
		[3, 1, 'm']
	] as const) {
		const half = (metres * scale) / 2;
		assert.equal(proposeUnit(geometryOf({ mesh: makeBox([-half, 0, -half], [half, half, half]) })), unit);
	}
});

test('the origin comes to lie in the middle, or under the base, whatever the unit and the axis', () => {
	const numbers = fc.tuple(...[0, 1, 2].map(() => fc.double({ min: -50, max: 50, noNaN: true })));
	fc.assert(
		fc.property(
			sizes,
			numbers,
			fc.constantFrom('y', 'z', 'x'),
			fc.constantFrom('m', 'cm', 'mm'),
			(size, at, up, unit) => {
				const [w, d, h] = [size.width, size.depth, size.height].map((x) => x / 2);
				const corners = [0, 1, 2, 3, 4, 5, 6, 7].map((i) =>
					[w, d, h].map((half, k) => at[k] + (i & (1 << k) ? half : -half)).join(' ')
				);
				const faces = ['1 3 4 2', '5 6 8 7', '1 2 6 5', '3 7 8 4', '1 5 7 3', '2 4 8 6'];
				const text = [...corners.map((corner) => `v ${corner}`), ...faces.map((face) => `f ${face}`)].join(
					'\n'
				);
				const bytes = new TextEncoder().encode(text);
				const hash = hashBytes(bytes);
				const landed = (origin: string, more: Record<string, unknown> = {}) => {
					const run = evaluateAll(
						generator([['import-mesh', 'thing', { file: hash, unit, up, origin, ...more }]]),
						{
							asset: () => ({ hash, name: 'thing.obj', bytes })
						}
					);
					return boundsOf(run.geometry('thing'))!;
				};
				const [kept, centre, base] = ['kept', 'centre', 'base'].map((origin) => landed(origin));
				const near = (a: number, b: number, what: string) =>
					assert.ok(Math.abs(a - b) < 1e-4 * Math.max(1, Math.abs(b)), `${what}: ${a} is not ${b}`);
				for (let k = 0; k < 3; k++) {
					near(centre.high[k] - centre.low[k], kept.high[k] - kept.low[k], 'as large');
					near(centre.low[k] + centre.high[k], 0, 'in its middle');
					if (k !== 1) near(base.low[k] + base.high[k], 0, 'over its base');
				}
				near(base.low[1], 0, 'on its base');
				// What it is moved by, it is moved by in the world; turned by a quarter, it lies the other way.
				const moved = landed('base', { move: [3, 0.5, -2], rotation: [0, 90, 0] });
				near(moved.low[1], 0.5, 'its base is lifted');
				near((moved.low[0] + moved.high[0]) / 2, 3, 'moved along x');
				near((moved.low[2] + moved.high[2]) / 2, -2, 'moved along z');
				near(moved.high[0] - moved.low[0], kept.high[2] - kept.low[2], 'turned');
			}
		),
		{ numRuns: 60 }
	);
});
