/** Ties as a law: whatever was accepted holds after any move, or says on itself why it does not. */
import assert from 'node:assert/strict';
import test from 'node:test';
import fc from 'fast-check';
import { NodeError } from '../math/index.ts';
import { generator } from '../testing/index.ts';
import { dialOf, withDialFor, withDialValues, withLink } from './dials.ts';
import type { GeneratorDocument, Tie } from './document.ts';
import { solved } from './equations.ts';
import { withSettingAtPlace } from './keyed-places.ts';
import { settled } from './settle.ts';
import { numberAt, proposedEquations, troubleOfTie, whyNotInHand, withTie } from './ties.ts';

const SHORTS = ['bow', 'mast', 'keel', 'stern'] as const;
const base = generator([
	...SHORTS.map((short) => ['number', short, { value: 2 }] as const),
	['sow-points', 'pegs', { count: 2 }]
]);
const idOf = (short: string): string => base.graphs.main.nodes.find((node) => node.short === short)!.id;
const end = (short: string, setting = 'value') => ({ graph: 'main', node: idOf(short), setting });
const EQUATIONS = [
	['x', 'x'],
	['3 * x', 'x / 3'],
	['x / 2', '2 * x'],
	['x + 1', 'x - 1'],
	['x * x', 'sqrt(x)'],
	['2 * x', 'x / 3']
] as const;
const put = (
	document: GeneratorDocument,
	short: string,
	value: number,
	setting = 'value'
): GeneratorDocument =>
	settled(withSettingAtPlace(document, 'main', { node: idOf(short), setting }, value), document);
const tied = (document: GeneratorDocument, tie: Tie): GeneratorDocument =>
	settled(withTie(document, tie), document);

function holds(document: GeneratorDocument, { a, b, toA, toB }: Tie): boolean {
	const [x, y] = [numberAt(document, a)!, numberAt(document, b)!];
	const is = (equation: string, from: number, value: number): boolean => {
		try {
			return Math.abs(solved(equation, from) - value) <= 1e-9 * Math.max(1, Math.abs(value));
		} catch {
			return false;
		}
	};
	return is(toB, x, y) || is(toA, y, x);
}

test('ties that were accepted, or changed, hold at once and after any move; else each says why', () => {
	const step = fc.tuple(fc.nat(3), fc.nat(3), fc.constantFrom(...EQUATIONS), fc.boolean());
	const move = fc.tuple(fc.nat(3), fc.constantFrom(4, -3, 0.5, 10));
	let [held, told] = [0, 0];
	fc.assert(
		fc.property(
			fc.array(step, { minLength: 2, maxLength: 6 }),
			fc.array(move, { maxLength: 3 }),
			(steps, moves) => {
				let document = base;
				const check = () => {
					for (const tie of document.ties) {
						const says = troubleOfTie(document, tie);
						assert.equal(says === null, holds(document, tie), says ?? JSON.stringify(tie));
						if (says === null) held++;
						else told++;
					}
				};
				steps.forEach(([a, b, [toB, toA], changes], i) => {
					const old = changes ? document.ties[i % Math.max(1, document.ties.length)] : undefined;
					const tie = old
						? { ...old, toB, toA }
						: { id: `t${i}`, a: end(SHORTS[a]), b: end(SHORTS[b]), toB, toA };
					try {
						document = tied(document, tie);
					} catch (error) {
						if (!(error instanceof NodeError)) throw error;
					}
					check();
				});
				for (const [at, value] of moves) {
					document = put(document, SHORTS[at], value);
					assert.equal(numberAt(document, end(SHORTS[at])), value);
					check();
				}
			}
		),
		{ numRuns: 400 }
	);
	// Only where a root or an uneven pair has no answer.
	assert.ok(held > 20 * told, `${held} held, ${told} told`);
});

test('a circle that does not settle is refused with its path, also where a dial’s hand would close it', () => {
	const circle = [
		['bow', 'mast', 'x', 'x'],
		['bow', 'keel', '3 * x', 'x / 3']
	].reduce(
		(document, [a, b, toB, toA], i) => tied(document, { id: `t${i}`, a: end(a), b: end(b), toB, toA }),
		base
	);
	assert.throws(
		() => withTie(circle, { id: 'z', a: end('mast'), b: end('keel'), toB: 'x', toA: 'x' }),
		/does not settle: Value of mast → Value of keel → Value of bow → Value of mast/
	);
	const { document, key } = withDialFor(circle, { graph: 'main', node: idOf('mast'), setting: 'value' });
	const at = { graph: 'main', node: idOf('keel'), setting: 'value' };
	assert.match(whyNotInHand(document, at, key)!, /does not settle/);
	assert.equal(whyNotInHand(document, { ...at, node: idOf('stern') }, key), null);
	// An equation that is changed afterwards is looked at in the same way.
	const even = { id: 'z', a: end('mast'), b: end('keel'), toB: '3 * x', toA: 'x / 3' };
	const closed = tied(document, even);
	assert.throws(() => withTie(closed, { ...even, toB: '4 * x', toA: 'x / 4' }), /does not settle/);
	// Turned one way round only it does not settle either.
	assert.throws(() => withTie(closed, { ...even, toA: 'x / 4' }), /does not settle/);
	const linked = withLink(document, { ...at, node: idOf('stern') }, dialOf(document, key)!);
	const turned = settled(withDialValues(linked, { [key]: 5 }), linked);
	assert.deepEqual(
		SHORTS.map((short) => numberAt(turned, end(short))),
		[5, 5, 15, 5]
	);
});

test('an equation that is changed moves its end at once; a new tie leaves both where they stand', () => {
	const number = fc.double({ min: 0.001, max: 1000, noNaN: true });
	fc.assert(
		fc.property(number, number, (x, y) => {
			const document = put(put(base, 'bow', x), 'mast', y);
			const [a, b] = [end('bow'), end('mast')];
			const made = tied(document, { id: 't', a, b, ...proposedEquations(document, a, b) });
			assert.ok(Math.abs(numberAt(made, b)! - y) <= 1e-15 * y, `${y} became ${numberAt(made, b)}`);
			assert.equal(numberAt(made, a), x);
			const there = tied(made, { ...made.ties[0], toB: '2 * x', toA: 'x / 2' });
			assert.deepEqual([numberAt(there, a), numberAt(there, b)], [x, 2 * x]);
			const back = tied(there, { ...there.ties[0], toA: 'x / 4' });
			assert.deepEqual([numberAt(back, a), numberAt(back, b)], [x / 2, 2 * x]);
		}),
		{ numRuns: 60 }
	);
	const third = put(put(base, 'bow', 3), 'mast', 1);
	assert.equal(proposedEquations(third, end('bow'), end('mast')).toB, 'x / 3');
});

test('an end without an answer stays and says so; a whole setting stays whole and says so', () => {
	const rooted = tied(base, { id: 't', a: end('bow'), b: end('mast'), toB: 'x * x', toA: 'sqrt(x)' });
	const without = put(rooted, 'mast', -4);
	assert.equal(numberAt(without, end('bow')), 2);
	assert.match(
		troubleOfTie(without, without.ties[0])!,
		/No answer where Value of mast is -4: sqrt\(x\)\. Value of bow stays/
	);
	const count = end('pegs', 'count');
	const halved = tied(base, { id: 't', a: end('bow'), b: count, toB: 'x / 2', toA: '2 * x' });
	const odd = put(halved, 'bow', 5);
	assert.equal(numberAt(odd, count), 3);
	assert.match(troubleOfTie(odd, odd.ties[0])!, /would be 2\.5; it can only be 3/);
	assert.equal(troubleOfTie(put(odd, 'bow', 6), odd.ties[0]), null);
	// Keys on an end are told of.
	const keyed = settled(
		withSettingAtPlace(
			halved,
			'main',
			{ node: idOf('bow'), setting: 'value' },
			{ keys: [{ at: 1, value: 2, easing: 'linear' }] }
		),
		halved
	);
	assert.match(troubleOfTie(keyed, keyed.ties[0])!, /Count of pegs follows the keys of Value of bow/);
});
