/** A number field as it is used: what is only looked at stays, to the bit; what is typed, dragged or nudged is set once. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import type { NumberOf } from './number-field.svelte';
import { NumberFieldState } from './number-field.svelte';
import { readQuantity, writeNumber } from './quantity';

function fieldOf(value: number, more: Partial<NumberOf> = {}) {
	const heard: [number, boolean][] = [];
	const of: NumberOf = {
		value,
		unit: '',
		min: -Infinity,
		max: Infinity,
		whole: false,
		...more,
		onchange(next, done) {
			heard.push([next, done]);
			of.value = next;
		}
	};
	return { field: new NumberFieldState(() => of), heard, of };
}
const any = fc.double({ noNaN: true, noDefaultInfinity: true });
const PLAIN = { shiftKey: false, ctrlKey: false };

test('clicked and left it changes nothing, whatever number stands there; all digits are shown while it has the keys', () => {
	fc.assert(
		fc.property(fc.oneof(any, fc.constantFrom(1 / 3, 1e-7, -0, 1e21, 5e-324, 0.1 + 0.2)), (value) => {
			const { field, heard } = fieldOf(value);
			const text = field.focus();
			assert.equal(field.shown, text);
			assert.ok(Object.is(readQuantity(text) + 0, value + 0), `${text} is not ${value}`);
			field.blur();
			field.focus();
			field.commit();
			field.blur();
			field.focus();
			field.cancel();
			assert.deepEqual(heard, []);
			assert.equal(field.typed, null);
		}),
		{ numRuns: 400 }
	);
});

test('what is typed is set once, within its bounds; what cannot be read stays there with a sentence, and changes nothing', () => {
	fc.assert(
		fc.property(any, any, (value, wanted) => {
			const { field, heard } = fieldOf(value, { min: -100, max: 100 });
			field.focus();
			field.type(writeNumber(wanted));
			field.commit();
			field.blur();
			// Nobody types −0; and whoever types what stands there already, out of bounds or not, changes nothing.
			const bounded = Math.max(-100, Math.min(100, wanted)) + 0;
			assert.deepEqual(heard, bounded === value || wanted === value ? [] : [[bounded, true]]);
		})
	);
	const { field, heard } = fieldOf(3);
	field.focus();
	field.type('three');
	field.blur();
	assert.ok(field.problem);
	assert.equal(field.shown, 'three');
	field.nudge(true, PLAIN);
	assert.deepEqual(heard, []);
	field.cancel();
	assert.deepEqual([field.problem, field.shown], ['', '3']);
});

test('a press puts the keys into the field; a drag sets as it goes, and once more when it ends; whole numbers stay whole', () => {
	const { field, heard } = fieldOf(1 / 3, { step: 0.1 });
	field.press(100);
	field.drag(101, PLAIN);
	assert.equal(field.release(), true);
	assert.deepEqual(heard, []);
	field.press(100);
	field.drag(110, PLAIN);
	assert.equal(field.release(), false);
	assert.deepEqual(heard, [
		[0.833333333333, false],
		[0.833333333333, true]
	]);
	const whole = fieldOf(4, { whole: true, max: 6 });
	whole.field.nudge(true, PLAIN);
	whole.field.nudge(true, { ...PLAIN, shiftKey: true });
	whole.field.nudge(true, PLAIN);
	assert.deepEqual(
		whole.heard.map(([x]) => x),
		[5, 6]
	);
	const tiny = fieldOf(1e-7, { step: 1e-8 });
	tiny.field.nudge(false, PLAIN);
	assert.equal(tiny.of.value, 9e-8);
});
