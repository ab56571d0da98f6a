import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import type { ScalarSetting } from '../../../../core/engine/document.ts';
import { endsOf, isFormula, isRange } from '../../../../core/engine/document.ts';
import type { Mode } from './scalar-modes.ts';
import { formulaFrom, inMode, modeOf } from './scalar-modes.ts';

const number = fc.integer({ min: -1000, max: 1000 }).map((x) => x / 8);
const scalar = fc.oneof(
	number,
	fc.record({ low: number, high: number, stream: fc.constant('s1') }),
	fc.record({ base: number, variation: number, stream: fc.constant('s1') }),
	fc.constant<ScalarSetting>({ formula: 'random(1, 2) + random(3, 4)', streams: ['a', 'b'] })
);
const modes: Mode[] = ['plain', 'ends', 'around', 'formula'];

test('a change of mode gives that mode, and again the same', () => {
	fc.assert(
		fc.property(scalar, fc.constantFrom(...modes), fc.boolean(), (setting, mode, whole) => {
			const changed = inMode(mode, setting, whole, 3);
			assert.equal(modeOf(changed), mode);
			if (mode !== 'plain') assert.deepEqual(inMode(mode, changed, whole, 3), changed);
		})
	);
});

test('between both kinds of random range the ends and the stream stay', () => {
	fc.assert(
		fc.property(number, number, (a, b) => {
			const range = { low: a, high: b, stream: 's9' };
			const around = inMode('around', range, false, 0);
			assert.ok(isRange(around));
			const [low, high] = endsOf(around);
			assert.ok(Math.abs(low - a) < 1e-5 && Math.abs(high - b) < 1e-5);
			assert.equal(around.stream, 's9');
			assert.deepEqual(endsOf(inMode('ends', around, false, 0) as never), [low, high]);
		})
	);
});

test('from a range to a plain value comes its middle', () => {
	assert.equal(inMode('plain', { low: 2, high: 5, stream: 's' }, false, 0), 3.5);
	assert.equal(inMode('plain', { base: 2.4, variation: 9, stream: 's' }, true, 0), 2);
	assert.equal(inMode('plain', { formula: 'x', streams: [] }, false, 7), 7);
});

test('a formula keeps the streams of the random numbers that it still draws', () => {
	const before = { formula: 'random(0, 1) + random(0, 1)', streams: ['a', 'b'] };
	const less = formulaFrom('random(0, 2)', before);
	assert.ok(isFormula(less));
	assert.deepEqual(less.streams, ['a']);
	const more = formulaFrom('random(0, 1) + random(0, 1) + random(0, 1)', before);
	assert.ok(isFormula(more));
	assert.deepEqual(more.streams.slice(0, 2), ['a', 'b']);
	assert.equal(new Set(more.streams).size, 3);
	// While it is mistyped, none is lost.
	assert.deepEqual((formulaFrom('random(0,', before) as { streams: string[] }).streams, ['a', 'b']);
});
