import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import '../testing/index.ts';
import { registersFor } from '../wasm/formulas.ts';
import { column } from '../geometry/index.ts';
import type { Elements } from './elements.ts';
import { emit } from './emit.ts';
import { fuse } from './fuse.ts';
import type { Program } from './instructions.ts';
import { lower } from './lower.ts';
import type { Varying } from './varying.ts';
import { attribute, constant, operate, part, vector } from './varying.ts';

const COUNT = 37;
const numbers = (seed: number) =>
	Float32Array.from({ length: COUNT }, (_, i) => ((i * 7919 + seed * 104729) % 1000) / 40 - 12);
const columns = new Map(['a', 'b', 'c'].map((name, i) => [name, column('float', 'plain', numbers(i + 1))]));
const elements: Elements = {
	count: COUNT,
	ids: null,
	attribute: (name) => columns.get(name)!,
	builtin: () => columns.get('a')!
};
const lowered = (value: Varying) => lower(value, elements, () => {});

/** The results of a program for all elements, part after part. */
function run(program: Program): number[] {
	const { steps, constants, registers, result } = emit(program);
	const pool = registersFor(registers);
	for (const { register, value } of constants) pool[register].fill(value, 0, COUNT + 3);
	for (const step of steps) step(0, COUNT, pool);
	return result.flatMap((register) => [...pool[register].subarray(0, COUNT)]);
}

const leaf = fc.oneof(
	fc.constantFrom('a', 'b', 'c').map(attribute),
	fc.constantFrom(0, -0, 1, 2, 3, -1.5, 1e-9).map(constant)
);
const { value: anyValue } = fc.letrec<{ value: Varying }>((tie) => ({
	value: fc.oneof(
		{ maxDepth: 6, withCrossShrink: true },
		leaf,
		fc
			.tuple(
				fc.constantFrom('add', 'subtract', 'multiply', 'divide', 'min', 'max', 'pow', 'less'),
				tie('value'),
				tie('value')
			)
			.map(([op, x, y]) => operate(op, [x, y])),
		// The same value twice: its product may not be taken into either sum.
		tie('value').map((x) => operate('add', [operate('multiply', [x, x]), operate('multiply', [x, x])])),
		fc
			.tuple(tie('value'), tie('value'), tie('value'))
			.map(([x, y, z]) => operate('len', [operate('normalize', [vector(x, y, z)])])),
		fc
			.tuple(tie('value'), tie('value'))
			.map(([x, y]) => part(operate('cross', [vector(x, y, x), vector(y, x, y)]), 1))
	)
}));

test('a program that was made shorter gives the same to the bit', () => {
	fc.assert(
		fc.property(anyValue, (value) => {
			const program = lowered(value);
			const short = fuse(program);
			assert.ok(short.instructions.length <= program.instructions.length);
			assert.deepEqual(run(short), run(program));
		}),
		{ numRuns: 400 }
	);
});

test('nothing is written where it is read in the same loop, and every place is written once', () => {
	fc.assert(
		fc.property(anyValue, (value) => {
			const { instructions, constants, result } = fuse(lowered(value));
			const written = new Set<number>(constants.keys());
			for (const { ins, outs } of instructions) {
				assert.ok(ins.every((place) => written.has(place)));
				for (const place of outs) {
					assert.ok(!written.has(place));
					written.add(place);
				}
			}
			assert.ok(result.every((place) => written.has(place)));
		})
	);
});

test('a product goes into the sum after it, but not one that is read twice', () => {
	const [a, b, c] = ['a', 'b', 'c'].map(attribute);
	const loops = (value: Varying) =>
		fuse(lowered(value)).instructions.flatMap((one) => (one.op === 'loop' ? [one.loop] : []));
	const product = operate('multiply', [a, b]);
	assert.deepEqual(loops(operate('add', [product, c])), ['multiplyAdd']);
	assert.deepEqual(loops(operate('add', [c, product])), ['multiplyAdd']);
	assert.deepEqual(loops(operate('subtract', [product, constant(2)])), ['multiplyAdd']);
	assert.deepEqual(loops(operate('add', [product, product])), ['multiply', 'add']);
	assert.deepEqual(loops(operate('min', [operate('add', [product, c]), product])), [
		'multiply',
		'add',
		'min'
	]);
});

test('what is known is worked out beforehand, and what nobody reads is not worked out at all', () => {
	const known = operate('add', [operate('sin', [constant(2)]), operate('noise', [constant(3)], 4)]);
	const program = lowered(known);
	assert.equal(program.instructions.length, 0);
	assert.equal(run(program).length, COUNT);
	const [a, b] = ['a', 'b'].map(attribute);
	const crossed = operate('cross', [vector(a, b, a), vector(b, a, b)]);
	const whole = fuse(lowered(crossed)).instructions.length;
	assert.ok(fuse(lowered(part(crossed, 0))).instructions.length < whole);
});

test('registers are used again: a chain of a thousand steps needs a handful', () => {
	let value = attribute('a');
	for (let i = 0; i < 1000; i++)
		value = operate(i % 2 ? 'min' : 'divide', [value, attribute('bc'[i % 2 ? 0 : 1])]);
	assert.ok(emit(fuse(lowered(value))).registers < 8);
});
