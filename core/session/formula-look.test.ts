/** Formulas tried while they are typed: told on the elements that will read them, with what is wrong and where. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { Evaluator } from '../engine/index.ts';
import { generator } from '../testing/index.ts';
import type { Row } from '../testing/index.ts';
import { lookAtFormula } from './formula-look.ts';

const PATH: Row[] = [
	['grid', 'flat', { width: 4, depth: 4, columns: 4, rows: 4 }],
	[
		'write-attribute',
		'marked',
		{ name: 'height', value: { formula: 'index / 10', streams: [] } },
		{ geometry: 'flat.mesh' }
	],
	['displace', 'raised', {}, { geometry: 'marked.geometry' }],
	['number', 'tall', { value: { formula: 'raised.amount', streams: [] } }],
	['transform', 'turned', { rotation: [0, 0, 20] }, { geometry: 'flat.mesh' }]
];
const document = generator(PATH);
const { nodes } = document.graphs.main;
const { results } = new Evaluator().evaluate(
	document,
	nodes.map(({ id }) => id)
);
const idOf = (short: string) => nodes.find((node) => node.short === short)!.id;
const look = (text: string, short = 'raised', input = 'amount') =>
	lookAtFormula({ node: idOf(short), input, text, setting: { formula: text, streams: [] } }, document, {
		graph: 'main',
		results
	});

test('a formula is told on the elements that will read it: how many, the first, the least and the greatest', () => {
	const told = look('height * 2');
	assert.equal(told.trouble, null);
	assert.equal(told.of, '25 points');
	assert.deepEqual(
		told.first.map((x) => Math.round(x * 1000) / 1000),
		[0, 0.2, 0.4, 0.6, 0.8]
	);
	assert.deepEqual(
		told.ranges.map((range) => range.map((x) => Math.round(x * 1000) / 1000)),
		[[0, 4.8]]
	);
});

test('what has no answer is counted', () => {
	assert.equal(look('sqrt(index - 5)').broken, 5);
	assert.equal(look('1 / (index % 5)').broken, 5);
});

test('a setting of the node as a whole is one value', () => {
	const told = look('2 + 3', 'turned', 'scale');
	assert.equal(told.of, '');
	assert.deepEqual(told.first.slice(0, 1), [5]);
});

const mended = (text: string, told: ReturnType<typeof look>) =>
	text.slice(0, told.trouble!.from) + told.trouble!.mending!.text + text.slice(told.trouble!.to);

test('a mistake is told where it stands, and its mending makes a formula that works', () => {
	for (const [text, place, right] of [
		['sinn(height)', 'sinn', 'sin(height)'],
		['heigth + 1', 'heigth', 'height + 1'],
		['2 + 3 height', 'height', '2 + 3 * height'],
		['(height + 1', '', '(height + 1)'],
		['sin(turned.rotation.x)', 'turned.rotation.x', 'sin(radians(turned.rotation.x))']
	]) {
		const told = look(text);
		assert.ok(told.trouble, text);
		assert.equal(text.slice(told.trouble.from, told.trouble.to), place, text);
		assert.equal(mended(text, told), right);
		assert.equal(look(right).trouble, null, right);
	}
});

test('a name that is nothing is told of with what there is', () => {
	const { trouble } = look('sin(wobble)');
	assert.equal(trouble?.unknown, 'wobble');
	assert.deepEqual([trouble?.from, trouble?.to], [4, 10]);
	assert.match(trouble!.message, /Attributes here: .*height/);
});

test('a circle is told with its path before it is made', () => {
	const { trouble } = look('tall.value / 2');
	assert.match(trouble!.message, /raised\.amount → tall\.value → raised\.amount/);
});

test('whatever is typed is answered: a look, or a sentence at a place in the text', () => {
	const words = fc.constantFrom(
		'height',
		'index',
		'(',
		')',
		'+',
		'*',
		'sin',
		',',
		'2',
		'.',
		'vec',
		'wall.',
		'^',
		'not',
		'°',
		'\u0000',
		'😀',
		'random'
	);
	fc.assert(
		fc.property(fc.array(words, { maxLength: 12 }), (some) => {
			const text = some.join(' ');
			const { trouble, first, count } = look(text);
			if (!trouble) return assert.ok(first.length || count === 0 || first.every(Number.isFinite));
			assert.match(trouble.message, /[.?!]$/);
			assert.ok(trouble.from >= 0 && trouble.to >= trouble.from && trouble.from <= text.length);
		}),
		{ numRuns: 300 }
	);
	for (const text of [
		'x'.repeat(10_000),
		'('.repeat(1000) + '1' + ')'.repeat(1000),
		'-'.repeat(3000) + '1',
		'not '.repeat(900) + '1',
		'index + '.repeat(499) + '1',
		'2^'.repeat(1500) + '1',
		'abs('.repeat(900)
	])
		assert.ok(look(text).trouble?.message || look(text).first.length);
});
