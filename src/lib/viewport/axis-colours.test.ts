import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { axisColours, axisOf } from './axis-colours.ts';

test('a way has the colour of the axis that it lies along, either way round, and each axis one of its own', () => {
	const part = fc.integer({ min: -9, max: 9 });
	fc.assert(
		fc.property(fc.tuple(part, part, part), (way) => {
			const axis = axisOf(way);
			assert.equal(axisOf(way.map((x) => -x)), axis);
			assert.equal(Math.abs(way['xyz'.indexOf(axis)]), Math.max(...way.map(Math.abs)));
		})
	);
	for (const dark of [true, false]) assert.equal(new Set(Object.values(axisColours(dark))).size, 3);
});
