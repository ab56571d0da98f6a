import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import type { Box, Place } from './route.ts';
import { curveThrough, placesOn, routeOf } from './route.ts';

const box = (id: string, x: number, y: number, height = 80): Box => ({ id, x, y, width: 188, height });
const isUnder = ({ x, y }: Place, { x: left, y: top, width, height }: Box): boolean =>
	x > left && x < left + width && y > top && y < top + height;

test('where nothing is in its way a wire has its ends only', () => {
	assert.deepEqual(routeOf({ x: 0, y: 0 }, { x: 300, y: 90 }, [box('far', 60, 400)]).length, 2);
});

test('around a label it takes the lane that is nearer, and comes back to its end', () => {
	for (const [y, above] of [
		[-60, false],
		[-20, true]
	] as const) {
		const between = box('between', 100, y);
		const points = routeOf({ x: 0, y: 0 }, { x: 400, y: 0 }, [between]);
		assert.equal(points.length, 4);
		assert.equal(points[1].y < y + 40, above);
		assert.deepEqual(
			[points[0], points.at(-1)],
			[
				{ x: 0, y: 0 },
				{ x: 400, y: 0 }
			]
		);
		assert.ok(!placesOn(points).some((at) => isUnder(at, between)));
	}
});

/** Labels in columns, with room between them, as a tidied graph has them. */
const columns = fc
	.array(
		fc.array(
			fc.record({ gap: fc.integer({ min: 30, max: 120 }), height: fc.integer({ min: 60, max: 240 }) }),
			{
				minLength: 1,
				maxLength: 6
			}
		),
		{ minLength: 1, maxLength: 5 }
	)
	.map((all) =>
		all.flatMap((column, c) => {
			let y = 0;
			return column.map(({ gap, height }, i) => {
				y += gap;
				const one = box(`${c} ${i}`, 120 + c * 270, y, height);
				y += height;
				return one;
			});
		})
	);

test('through columns of labels with lanes between them no wire runs under a label', () => {
	fc.assert(
		fc.property(
			columns,
			fc.integer({ min: -100, max: 1200 }),
			fc.integer({ min: -100, max: 1200 }),
			(boxes, a, b) => {
				const right = Math.max(...boxes.map(({ x, width }) => x + width));
				const points = routeOf({ x: 0, y: a }, { x: right + 120, y: b }, boxes);
				for (const at of placesOn(points))
					for (const one of boxes) assert.ok(!isUnder(at, one), `under ${one.id} at ${at.x}, ${at.y}`);
				// It never goes back.
				for (let i = 1; i < points.length; i++) assert.ok(points[i].x > points[i - 1].x);
			}
		)
	);
});

test('the curve starts and ends at its ends, and its middle lies on it', () => {
	const points = [
		{ x: 0, y: 0 },
		{ x: 80, y: 50 },
		{ x: 200, y: 50 },
		{ x: 300, y: 0 }
	];
	const { path, middle } = curveThrough(points);
	assert.match(path, /^M 0 0 C .* 300 0$/);
	assert.equal(path.match(/C/g)!.length, 3);
	assert.ok(middle.x > 120 && middle.x < 160 && middle.y === 50);
});

test('a wire that goes back is one curve', () => {
	assert.equal(routeOf({ x: 300, y: 0 }, { x: 0, y: 0 }, [box('between', 60, -40)]).length, 2);
});
