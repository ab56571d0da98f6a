/** Formulas of every shape, run in blocks by the engine and by a second, plain interpreter: the same numbers. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { column, geometryOf, makePoints, withColumns } from '../geometry/index.ts';
import { cos, sin } from '../math/index.ts';
import type { Names } from './index.ts';
import { FormulaError, bindFormula, elementsOf, parseFormula, parseQuantity, run } from './index.ts';
import { runs } from '../testing/runs.ts';

type Vector = [number, number, number];
/** A formula with what it means for one element. */
interface Meant<T> {
	text: string;
	at: (i: number) => T;
}

/** More than four blocks, and not a whole number of them. */
const COUNT = 1201;
const heights = Float32Array.from({ length: COUNT }, (_, i) => ((i * 37) % 101) / 8 - 6);
const places = Float32Array.from({ length: 3 * COUNT }, (_, i) => ((i * 53) % 211) / 16 - 6);
const cloud = geometryOf({
	points: {
		points: withColumns(makePoints(places).points, { height: column('float', 'plain', heights) })
	}
});
const elements = elementsOf(cloud, 'points', 'point');
const scope: Names = {
	lookUp: () => null,
	names: () => [],
	attributes: true,
	stream: (place) => [place, 1],
	noiseSeed: 1
};

const one = (text: string, ...args: string[]) => `${text}(${args.join(', ')})`;

const { number, vector } = fc.letrec<{ number: Meant<number>; vector: Meant<Vector>; truth: Meant<boolean> }>(
	(tie) => ({
		number: fc.oneof(
			{ maxDepth: 5, depthSize: 'large' },
			fc.integer({ min: -24, max: 24 }).map((n): Meant<number> => ({
				text: n < 0 ? `(${n / 8})` : String(n / 8),
				at: () => n / 8
			})),
			fc.constantFrom<Meant<number>>(
				{ text: 'height', at: (i) => heights[i] },
				{ text: 'index', at: (i) => i },
				{ text: 'count', at: () => COUNT },
				{ text: 'position.y', at: (i) => places[3 * i + 1] }
			),
			fc
				.tuple(tie('number'), fc.constantFrom('+', '-', '*', '/', '%'), tie('number'))
				.map(([a, sign, b]): Meant<number> => ({
					text: `(${a.text} ${sign} ${b.text})`,
					at: (i) => {
						const [x, y] = [a.at(i), b.at(i)];
						if (sign === '%') return x - y * Math.floor(x / y);
						return sign === '+' ? x + y : sign === '-' ? x - y : sign === '*' ? x * y : x / y;
					}
				})),
			fc
				.tuple(
					fc.constantFrom<[string, (x: number) => number]>(
						['sqrt', Math.sqrt],
						['abs', Math.abs],
						['floor', Math.floor],
						['ceil', Math.ceil],
						['sin', sin],
						['cos', cos],
						['fract', (x) => x - Math.floor(x)]
					),
					tie('number')
				)
				.map(([[name, f], a]): Meant<number> => ({ text: one(name, a.text), at: (i) => f(a.at(i)) })),
			fc
				.tuple(fc.constantFrom('min' as const, 'max' as const), tie('number'), tie('number'))
				.map(([name, a, b]): Meant<number> => ({
					text: one(name, a.text, b.text),
					at: (i) => Math[name](a.at(i), b.at(i))
				})),
			// The same value in three places, which the engine works out once.
			tie('number').map((a): Meant<number> => ({
				text: `(${a.text} * ${a.text} + ${a.text})`,
				at: (i) => a.at(i) * a.at(i) + a.at(i)
			})),
			tie('number').map((a): Meant<number> => ({
				text: one('clamp', a.text, '(-1.5)', '2'),
				at: (i) => Math.min(Math.max(a.at(i), -1.5), 2)
			})),
			fc
				.tuple(tie('vector'), fc.constantFrom(0, 1, 2))
				.map(([v, k]): Meant<number> => ({ text: `${v.text}.${'xyz'[k]}`, at: (i) => v.at(i)[k] })),
			fc.tuple(tie('vector'), tie('vector')).map(([v, w]): Meant<number> => ({
				text: one('dot', v.text, w.text),
				at: (i) => {
					const [a, b] = [v.at(i), w.at(i)];
					return a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
				}
			}))
		),
		vector: fc.oneof(
			{ maxDepth: 4 },
			fc.constant<Meant<Vector>>({
				text: 'position',
				at: (i) => [places[3 * i], places[3 * i + 1], places[3 * i + 2]]
			}),
			fc.tuple(tie('number'), tie('number'), tie('number')).map(([a, b, c]): Meant<Vector> => ({
				text: one('vec', a.text, b.text, c.text),
				at: (i) => [a.at(i), b.at(i), c.at(i)]
			})),
			fc
				.tuple(tie('vector'), fc.constantFrom('+', '-', '*'), tie('vector'))
				.map(([v, sign, w]): Meant<Vector> => ({
					text: `(${v.text} ${sign} ${w.text})`,
					at: (i) => {
						const [a, b] = [v.at(i), w.at(i)];
						return a.map((x, k) => (sign === '+' ? x + b[k] : sign === '-' ? x - b[k] : x * b[k])) as Vector;
					}
				})),
			fc.tuple(tie('vector'), tie('number')).map(([v, a]): Meant<Vector> => ({
				text: `(${v.text} * ${a.text})`,
				at: (i) => {
					const by = a.at(i);
					return v.at(i).map((x) => x * by) as Vector;
				}
			})),
			fc.tuple(tie('vector'), tie('vector')).map(([v, w]): Meant<Vector> => ({
				text: one('cross', v.text, w.text),
				at: (i) => {
					const [a, b] = [v.at(i), w.at(i)];
					return [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
				}
			})),
			fc
				.tuple(fc.constantFrom('abs' as const, 'floor' as const, 'sqrt' as const), tie('vector'))
				.map(([name, v]): Meant<Vector> => ({
					text: one(name, v.text),
					at: (i) => v.at(i).map((x) => Math[name](x)) as Vector
				})),
			// A number beside a vector stands for all its parts, on either side.
			fc
				.tuple(tie('number'), fc.constantFrom('+', '-', '/'), tie('vector'), fc.boolean())
				.map(([a, sign, v, first]): Meant<Vector> => ({
					text: first ? `(${a.text} ${sign} ${v.text})` : `(${v.text} ${sign} ${a.text})`,
					at: (i) => {
						const by = a.at(i);
						return v.at(i).map((x) => {
							const [p, q] = first ? [by, x] : [x, by];
							return sign === '+' ? p + q : sign === '-' ? p - q : p / q;
						}) as Vector;
					}
				})),
			fc.tuple(tie('truth'), tie('vector'), tie('number')).map(([q, v, a]): Meant<Vector> => ({
				text: one('choose', q.text, v.text, a.text),
				at: (i) => (q.at(i) ? v.at(i) : [a.at(i), a.at(i), a.at(i)])
			}))
		),
		truth: fc.oneof(
			{ maxDepth: 3 },
			fc
				.tuple(tie('number'), fc.constantFrom('<', '>', '<=', '>='), tie('number'))
				.map(([a, sign, b]): Meant<boolean> => ({
					text: `(${a.text} ${sign} ${b.text})`,
					at: (i) => {
						const [x, y] = [a.at(i), b.at(i)];
						return sign === '<' ? x < y : sign === '>' ? x > y : sign === '<=' ? x <= y : x >= y;
					}
				})),
			fc
				.tuple(tie('truth'), fc.constantFrom('and', 'or'), tie('truth'))
				.map(([a, word, b]): Meant<boolean> => ({
					text: `(${a.text} ${word} ${b.text})`,
					at: (i) => (word === 'and' ? a.at(i) && b.at(i) : a.at(i) || b.at(i))
				})),
			tie('truth').map((a): Meant<boolean> => ({ text: `(not ${a.text})`, at: (i) => !a.at(i) }))
		)
	})
);

test('formulas of every shape give what plain arithmetic gives, element by element, and 0 where there is no answer', () => {
	const out = new Float64Array(COUNT);
	let compared = 0;
	fc.assert(
		fc.property(number, ({ text, at }) => {
			fc.pre(text.length < 2000);
			let broken = '';
			run(bindFormula(parseFormula(text), scope, text), elements, 1, out, {
				warn: (message) => (broken = message)
			});
			let missing = 0;
			for (let i = 0; i < COUNT; i++) {
				const wanted = at(i);
				if (!Number.isFinite(wanted)) missing++;
				const kept = Number.isFinite(wanted) ? wanted : 0;
				if (out[i] !== kept) assert.fail(`element ${i}: ${out[i]}, not ${kept}`);
				compared++;
			}
			assert.equal(broken !== '', missing > 0, `${missing} have no answer; it says “${broken}”`);
		}),
		{ numRuns: runs(1500, 500) }
	);
	assert.ok(compared > runs(1_000_000, 300_000));
});

test('and so do vectors, part by part, into columns of singles', () => {
	const out = new Float32Array(3 * COUNT);
	fc.assert(
		fc.property(vector, ({ text, at }) => {
			fc.pre(text.length < 2000);
			run(bindFormula(parseFormula(text), scope, text), elements, 3, out);
			for (let i = 0; i < COUNT; i++)
				at(i).forEach((wanted, k) => {
					// What is too large for a single has no answer either.
					const single = Math.fround(wanted);
					const kept = Number.isFinite(single) ? single : 0;
					if (out[3 * i + k] !== kept)
						assert.fail(`part ${k} of element ${i}: ${out[3 * i + k]}, not ${kept}`);
				});
		}),
		{ numRuns: runs(700, 300) }
	);
});

test('a number that is larger than any is told of where it stands', () => {
	for (const text of ['1e999', '2 + 1e400', 'sin(9e9999)'])
		assert.throws(
			() => parseFormula(text),
			(error) =>
				error instanceof FormulaError &&
				/larger than any/.test(error.message) &&
				text.slice(error.from, error.to).includes('e')
		);
	for (const text of ['1e999 m', '1e308 km']) assert.throws(() => parseQuantity(text), /larger than any/);
	assert.equal(parseFormula('1e-999').kind, 'number', 'what is smaller than any is nothing');
});
