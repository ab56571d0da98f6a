/** Settling as a law: whatever hangs together by dials and ties, a change reaches all of it once, and nothing else. */
import assert from 'node:assert/strict';
import test from 'node:test';
import fc from 'fast-check';
import type { GeneratorDocument, Tie } from './index.ts';
import { openDocument, writeDocument } from './index.ts';
import { generator } from '../testing/index.ts';
import { withDialFor, withDialValues, withLink } from './dials.ts';
import { withGraph } from './document.ts';
import { withValue } from './edits.ts';
import { settled } from './settle.ts';
import { runs } from '../testing/runs.ts';

const COUNT = 8;
/** Numbers n0 to n7, all 1. */
const base = (): GeneratorDocument =>
	generator(Array.from({ length: COUNT }, (_, i) => ['number', `n${i}`, { value: 1 }]));
const idOf = (document: GeneratorDocument, i: number): string => document.graphs.main.nodes[i].id;
const at = (document: GeneratorDocument, i: number) => ({
	graph: 'main',
	node: idOf(document, i),
	setting: 'value'
});
const valuesIn = (document: GeneratorDocument): number[] =>
	document.graphs.main.nodes.map(({ settings }) => settings.value as number);
const put = (document: GeneratorDocument, i: number, value: number): GeneratorDocument =>
	settled(
		withGraph(document, 'main', (graph) => withValue(graph, idOf(document, i), 'value', value)),
		document
	);

interface Shape {
	/** A tree of ties: each number but the first is tied to an earlier one by factor and step, or to none. */
	ties: ({ to: number; factor: number; step: number } | null)[];
	/** Which numbers each dial has in hand. */
	dials: number[][];
}

const shapes: fc.Arbitrary<Shape> = fc
	.record({
		ties: fc.tuple(
			...Array.from({ length: COUNT - 1 }, (_, i) =>
				fc.option(
					fc.record({
						to: fc.integer({ min: 0, max: i }),
						factor: fc.constantFrom(0.5, 2, 4, -1),
						step: fc.constantFrom(0, 1, -3)
					}),
					{ freq: 2 }
				)
			)
		),
		hands: fc.array(fc.integer({ min: 0, max: 2 }), { minLength: COUNT, maxLength: COUNT })
	})
	.map(({ ties, hands }) => ({
		ties: [null, ...ties],
		dials: [1, 2].map((dial) => hands.flatMap((hand, i) => (hand === dial ? [i] : [])))
	}));

function made({ ties, dials }: Shape): GeneratorDocument {
	let document = base();
	for (const [d, hand] of dials.entries()) {
		const [first, ...others] = hand;
		if (first === undefined) continue;
		const done = withDialFor(document, at(document, first));
		document = done.document;
		const dial = document.dials[document.dials.length - 1];
		assert.equal(dial.key, done.key, `dial ${d}`);
		for (const i of others) document = withLink(document, at(document, i), dial);
	}
	const rows = ties.flatMap((tie, i): Tie[] =>
		tie
			? [
					{
						id: `t${i}`,
						a: at(document, tie.to),
						b: at(document, i),
						toB: `${tie.factor} * x + ${tie.step}`,
						toA: `(x - ${tie.step}) / ${tie.factor}`
					}
				]
			: []
	);
	return { ...document, ties: rows };
}

/** What a change must reach, worked out by hand: over hands and ties, nearest first, each number once. */
function reached({ ties }: Shape, values: number[], i: number, value: number): Map<number, number> {
	const found = new Map([[i, value]]);
	const queue = [i];
	for (const at of queue) {
		const x = found.get(at)!;
		const take = (j: number, y: number) => {
			if (found.has(j)) return;
			found.set(j, y);
			// What stays as it was carries nothing on.
			if (y !== values[j]) queue.push(j);
		};
		ties.forEach((tie, j) => {
			if (tie?.to === at) take(j, tie.factor * x + tie.step);
			if (tie && j === at) take(tie.to, (x - tie.step) / tie.factor);
		});
	}
	return found;
}

test('without dials a change reaches over ties all that hangs from it, once, and nothing else', () => {
	fc.assert(
		fc.property(shapes, fc.nat(COUNT - 1), fc.integer({ min: 2, max: 50 }), (shape, i, value) => {
			const tied = { ...shape, dials: [] };
			const document = made(tied);
			const after = put(document, i, value);
			const wanted = reached(tied, valuesIn(document), i, value);
			valuesIn(after).forEach((now, j) => {
				const then = wanted.get(j) ?? 1;
				assert.ok(Math.abs(now - then) < 1e-9, `n${j} is ${now}, not ${then}`);
			});
		}),
		{ numRuns: runs(300, 100) }
	);
});

test('all that a dial has in hand holds what it says, after any run of changes', () => {
	const changes = fc.array(fc.tuple(fc.nat(COUNT + 1), fc.integer({ min: -40, max: 40 })), { maxLength: 12 });
	fc.assert(
		fc.property(shapes, changes, (shape, all) => {
			const inHand = { ...shape, ties: shape.ties.map(() => null) };
			let document = made(inHand);
			for (const [i, value] of all) {
				const key = document.dials[i - COUNT]?.key;
				document =
					i < COUNT
						? put(document, i, value)
						: key
							? settled(withDialValues(document, { [key]: value }), document)
							: document;
				for (const dial of document.dials)
					for (const node of document.graphs.main.nodes)
						if (node.dials?.value === dial.key) assert.equal(node.settings.value, dial.value);
			}
			assert.deepEqual(openDocument(writeDocument(document)).document, document, 'as it is opened again');
		}),
		{ numRuns: runs(200, 100) }
	);
});

test('dials and ties together come to rest, whatever hangs from what; the end that was moved stands', () => {
	fc.assert(
		fc.property(shapes, fc.nat(COUNT - 1), fc.integer({ min: -9, max: 9 }), (shape, i, value) => {
			const document = made(shape);
			const after = put(document, i, value);
			assert.equal(valuesIn(after)[i], value, 'what was moved stands');
			assert.equal(settled(after, after), after, 'and it is at rest');
			assert.ok(valuesIn(after).every(Number.isFinite));
			// Nothing but values was touched.
			assert.deepEqual(after.ties, document.ties);
			assert.deepEqual(
				after.graphs.main.nodes.map(({ dials, short }) => [dials, short]),
				document.graphs.main.nodes.map(({ dials, short }) => [dials, short])
			);
		}),
		{ numRuns: runs(300, 100) }
	);
});

test('what is not changed stays the same object, so that nothing of it is evaluated', () => {
	fc.assert(
		fc.property(shapes, fc.nat(COUNT - 1), fc.integer({ min: 2, max: 9 }), (shape, i, value) => {
			const document = made(shape);
			const after = put(document, i, value);
			const [was, now] = [document, after].map(({ graphs }) => graphs.main.nodes);
			now.forEach((node, j) => {
				if (node.settings.value === was[j].settings.value) assert.equal(node, was[j], `n${j}`);
			});
		}),
		{ numRuns: runs(200, 100) }
	);
});
