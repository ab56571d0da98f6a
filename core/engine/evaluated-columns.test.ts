/** Values worked out on elements: once for what they read, and let go of when nobody asks any more. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { Ledger, allocate, column, geometryOf, makePoints, withColumns } from '../geometry/index.ts';
import type { Geometry } from '../geometry/index.ts';
import '../testing/index.ts';
import { attribute, constant, element, elementsOf, operate, part, random, run } from '../varying/index.ts';
import type { Varying } from '../varying/index.ts';
import { EvaluatedColumns } from './evaluated-columns.ts';

const COUNT = 50;
const points = (): Geometry => {
	const p = allocate('float', 3 * COUNT);
	for (let i = 0; i < p.length; i++) p[i] = (i * 37) % 11;
	return geometryOf({ points: makePoints(p) });
};
const withNumbers = (g: Geometry, name: string, of: (i: number) => number): Geometry => {
	const data = allocate('float', COUNT);
	for (let i = 0; i < COUNT; i++) data[i] = of(i);
	return {
		...g,
		points: { points: withColumns(g.points!.points, { [name]: column('float', 'plain', data) }) }
	};
};

/** Asks for a value on a geometry, and counts how often it was worked out. */
function asker(ledger = new Ledger()) {
	const columns = new EvaluatedColumns(ledger);
	let made = 0;
	return {
		columns,
		ledger,
		ask(value: Varying, geometry: Geometry, shape = 'float 1'): { data: ArrayLike<number>; made: boolean } {
			const elements = elementsOf(geometry, 'points', 'point');
			const before = made;
			const { data } = columns.take(value, elements, shape, () => {
				made++;
				const out = allocate('float', elements.count);
				run(value, elements, 1, out);
				return { data: out, said: [] };
			});
			return { data, made: made > before };
		}
	};
}
const height = part(element('position'), 1);
const wide = attribute('wide');

test('a value is worked out once for the columns that it reads, whatever else the geometry carries', () => {
	const { ask } = asker();
	const g = withNumbers(points(), 'wide', (i) => i);
	const value = operate('add', [wide, height]);
	assert.ok(ask(value, g).made);
	assert.ok(!ask(value, g).made);
	assert.ok(!ask(operate('add', [wide, height]), g).made, 'an equal value made anew');
	const other = withNumbers(g, 'unread', (i) => -i);
	assert.ok(!ask(value, other).made, 'another attribute is not read');
	const changed = withNumbers(g, 'wide', (i) => 2 * i);
	const { data, made } = ask(value, changed);
	assert.ok(made, 'the one that is read is another');
	assert.equal(data[10], 20 + (((10 * 3 + 1) * 37) % 11));
	assert.ok(ask(value, g, 'float 3').made, 'numbers of another shape');
});

test('random values follow the ids, and constants and places nothing but the count', () => {
	const { ask } = asker();
	const g = points();
	const dice = random(constant(0), constant(1), [1, 2]);
	assert.ok(ask(dice, g).made);
	const ids = allocate('index', 2 * COUNT).fill(7);
	const named: Geometry = { ...g, points: { points: { ...g.points!.points, ids } } };
	const { data, made } = ask(dice, named);
	assert.ok(made);
	assert.equal(new Set(Array.from(data)).size, 1, 'all have one id');
	assert.ok(ask(constant(3), g).made);
	assert.ok(!ask(constant(3), named).made);
	assert.ok(ask(element('index'), g).made);
	assert.ok(!ask(element('index'), named).made);
});

test('what is kept is what working it out anew gives, in any order of questions', () => {
	const values = [wide, height, operate('multiply', [wide, height]), operate('add', [wide, constant(1)])];
	const geometries = [0, 1, 2].map((k) => withNumbers(points(), 'wide', (i) => i * k));
	fc.assert(
		fc.property(fc.array(fc.tuple(fc.nat(3), fc.nat(2), fc.boolean()), { maxLength: 60 }), (asked) => {
			const { ask, columns } = asker();
			for (const [v, g, ends] of asked) {
				const fresh = new Float32Array(COUNT);
				run(values[v], elementsOf(geometries[g], 'points', 'point'), 1, fresh);
				assert.deepEqual([...Array.from(ask(values[v], geometries[g]).data)], [...fresh]);
				if (ends) columns.endRound();
			}
		}),
		{ numRuns: 60 }
	);
});

test('what nobody asked for in some evaluations is let go of, in the ledger too', () => {
	const { ask, columns, ledger } = asker();
	const g = withNumbers(points(), 'wide', (i) => i);
	ask(wide, g);
	ask(height, g);
	assert.equal(ledger.held, 2 * 4 * COUNT);
	for (let round = 0; round < 10; round++) {
		columns.endRound();
		ask(wide, g);
		assert.ok(ledger.held <= 2 * 4 * COUNT);
	}
	assert.equal(ledger.held, 4 * COUNT, 'only the one that is still asked for');
	assert.ok(ask(height, g).made);
});

test('a long drag of a setting keeps a few columns, not one for each step', () => {
	const { ask, columns, ledger } = asker();
	const g = withNumbers(points(), 'wide', (i) => i);
	for (let step = 0; step < 500; step++) {
		ask(operate('multiply', [wide, constant(step + 0.5)]), g);
		columns.endRound();
	}
	assert.ok(ledger.held <= 6 * 4 * COUNT, `${ledger.held}`);
});

test('under pressure columns of earlier evaluations go, those of this one stay', () => {
	const { ask, columns, ledger } = asker();
	const g = withNumbers(points(), 'wide', (i) => i);
	ask(wide, g);
	columns.endRound();
	ask(height, g);
	columns.trim(() => true);
	assert.equal(ledger.held, 4 * COUNT);
	assert.ok(!ask(height, g).made);
	assert.ok(ask(wide, g).made);
});
