/** The graph of settings: each setting bound once, however often it is referred to, and in an order that needs no luck. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { constantNumber } from '../varying/index.ts';
import { generator } from '../testing/index.ts';
import type { Row } from '../testing/index.ts';
import { Evaluator, isVarying } from './index.ts';
import type { GeneratorDocument } from './index.ts';

const formula = (text: string) => ({ formula: text, streams: [] });

/** The number that a node gives, or its error. */
function read(document: GeneratorDocument, short: string): number | string {
	const node = document.graphs.main.nodes.find((one) => one.short === short)!;
	const result = new Evaluator().evaluate(document, [node.id]).results.get(node.id)!;
	const value = [...result.outputs.values()][0];
	return value && isVarying(value) ? constantNumber(value) : (result.error?.message ?? '');
}

/** Numbers that refer to those before them, each as a row; the references are given by how far back they lie. */
const net = fc
	.array(
		fc.record({
			back: fc.array(fc.integer({ min: 1, max: 6 }), { maxLength: 3 }),
			plus: fc.integer({ min: -5, max: 5 })
		}),
		{ minLength: 1, maxLength: 25 }
	)
	.map((parts) => ({
		rows: parts.map(({ back, plus }, i): Row => {
			const names = back.filter((b) => b <= i).map((b) => `n${i - b}.value`);
			return ['number', `n${i}`, { value: formula([...names, `(${plus})`].join(' + ')) }];
		}),
		values: parts.reduce<number[]>((known, { back, plus }, i) => {
			const sum = back.filter((b) => b <= i).reduce((all, b) => all + known[i - b], 0);
			return [...known, sum + plus];
		}, [])
	}));

test('whatever refers to whatever, each number is what its formula says', () => {
	fc.assert(
		fc.property(net, fc.nat(), ({ rows, values }, seed) => {
			const document = generator(rows);
			// The order in which nodes stand in the file says nothing.
			const nodes = document.graphs.main.nodes
				.map((node, i) => ({ node, key: ((i + 1) * 7919 * (seed + 3)) % 104_729 }))
				.sort((a, b) => a.key - b.key)
				.map(({ node }) => node);
			const shuffled = { ...document, graphs: { main: { ...document.graphs.main, nodes } } };
			rows.forEach(([, short], i) => assert.equal(read(shuffled, short), values[i]));
		}),
		{ numRuns: 100 }
	);
});

test('5,000 references in a chain are followed, and 60 that each refer twice to the one before', () => {
	const model = generator([['number', 'n0', { value: 1 }]]);
	const [first] = model.graphs.main.nodes;
	const chainOf = (count: number, text: (before: string) => string): GeneratorDocument => ({
		...model,
		graphs: {
			main: {
				...model.graphs.main,
				nodes: Array.from({ length: count }, (_, i) => ({
					...first,
					id: `n${i}`,
					short: `n${i}`,
					settings: { value: i ? formula(text(`n${i - 1}.value`)) : 1 }
				}))
			}
		}
	});
	assert.equal(
		read(
			chainOf(5000, (before) => `${before} + 1`),
			'n4999'
		),
		5000
	);
	assert.equal(
		read(
			chainOf(61, (before) => `${before} + ${before}`),
			'n60'
		),
		2 ** 60
	);
});

test('a circle is refused with its whole path, and what lies beside it works', () => {
	const document = generator([
		['number', 'a', { value: 1 }],
		['number', 'b', { value: formula('a.value + 1') }],
		['number', 'c', { value: formula('b.value + 1') }],
		['number', 'beside', { value: formula('free.value * 2') }],
		['number', 'free', { value: 4 }]
	]);
	const [a, ...others] = document.graphs.main.nodes;
	const circular = {
		...document,
		graphs: {
			main: { ...document.graphs.main, nodes: [{ ...a, settings: { value: formula('c.value') } }, ...others] }
		}
	};
	for (const short of ['a', 'b', 'c'])
		assert.match(
			String(read(circular, short)),
			/in a circle: .*(a\.value|b\.value|c\.value) → .*Give one of them a plain value/
		);
	assert.equal(read(circular, 'beside'), 8);
	const itself = {
		...document,
		graphs: {
			main: { ...document.graphs.main, nodes: [{ ...a, settings: { value: formula('a.value + 1') } }] }
		}
	};
	assert.match(String(read(itself, 'a')), /a\.value → a\.value/);
});

test('a reference to a setting that is wired waits for what comes there', () => {
	const document = generator([
		['number', 'five', { value: 5 }],
		['formula', 'twice', { formula: 'x * 2' }, { x: 'five.value' }],
		['number', 'more', { value: formula('twice.x + 1') }],
		['number', 'again', { value: formula('more.value * 10') }]
	]);
	assert.equal(read(document, 'again'), 60);
	const order = [...document.graphs.main.nodes].reverse();
	assert.equal(
		read({ ...document, graphs: { main: { ...document.graphs.main, nodes: order } } }, 'again'),
		60
	);
});

test('a circle through a wire and a reference is told at the node that lies on it', () => {
	const document = generator([
		['grid', 'grid'],
		['measure', 'size', {}, { geometry: 'grid.mesh' }],
		['formula', 'wide', { formula: 'x' }, { x: 'size.area' }]
	]);
	const nodes = document.graphs.main.nodes.map((node) =>
		node.short === 'grid' ? { ...node, settings: { ...node.settings, width: formula('wide.x + 1') } } : node
	);
	const circular = { ...document, graphs: { main: { ...document.graphs.main, nodes } } };
	const { results } = new Evaluator().evaluate(
		circular,
		nodes.map(({ id }) => id)
	);
	const messages = [...results.values()].map(({ error }) => error?.message ?? '');
	assert.ok(
		messages.some((message) => /lies on a circle of wires or references/.test(message)),
		messages.join('\n')
	);
	assert.ok(
		messages.every((message) => message !== ''),
		'all of them wait or fail'
	);
});
