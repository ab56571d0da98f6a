/** What is told of a wire is what flows in it, on the elements where it is read. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { isVarying } from '../engine/index.ts';
import type { Wire } from '../engine/index.ts';
import { evaluateAll, generator } from '../testing/index.ts';
import { attributesInWords, valueInWords, valuesInWords } from './in-words.ts';
import { readersOf } from './where-read.ts';

/** What is told of the wire into an input of a node. */
function told(document: ReturnType<typeof generator>, short: string, input: string): string {
	const { results } = evaluateAll(document).evaluation;
	const { main } = document.graphs;
	const id = main.nodes.find((node) => node.short === short)!.id;
	const wire: Wire = main.wires.find(({ to }) => to[0] === id && to[1] === input)!;
	const value = results.get(wire.from[0])!.outputs.get(wire.from[1])!;
	assert.ok(isVarying(value));
	const readers = readersOf(main, results, wire.to);
	return readers ? valuesInWords(value, readers) : valueInWords(value).long;
}

test('a formula on a grid: how many points, from where to where, and the first', () => {
	const document = generator([
		['grid', 'flat', { width: 4, depth: 4, columns: 4, rows: 4 }],
		['formula', 'rise', { formula: 'index / 8 - 1' }],
		['displace', 'tide', {}, { geometry: 'flat.mesh', amount: 'rise.value' }]
	]);
	assert.equal(told(document, 'tide', 'amount'), '25 points: -1 to 2\nfirst -1, -0.875, -0.75 …');
});

test('values that a node only reckons with are told where the next node reads them', () => {
	const document = generator([
		['grid', 'flat', { columns: 3, rows: 2 }],
		['random-number', 'gust', { low: 0, high: 1 }],
		['formula', 'twice', { formula: 'x * 2' }, { x: 'gust.value' }],
		['displace', 'tide', {}, { geometry: 'flat.mesh', amount: 'twice.value' }]
	]);
	const text = told(document, 'twice', 'x');
	const found = /^12 points: ([\d.]+) to ([\d.]+)\n/.exec(text)!;
	assert.ok(found, text);
	const [low, high] = [Number(found[1]), Number(found[2])];
	assert.ok(low >= 0 && low < high && high <= 1);
	const doubled = /^12 points: ([\d.]+) to ([\d.]+)\n/.exec(told(document, 'tide', 'amount'))!;
	assert.ok(
		Math.abs(Number(doubled[1]) - 2 * low) < 0.002 && Math.abs(Number(doubled[2]) - 2 * high) < 0.002
	);
});

test('vectors are told by axis, copies by the points they will stand on, one value as one', () => {
	const document = generator([
		['row-of-points', 'row', { count: 5 }],
		['box', 'hut'],
		['formula', 'lean', { formula: 'vec(index, 7, -index)' }],
		['place-copies', 'huts', {}, { points: 'row.points', source: 'hut.mesh', rotation: 'lean.value' }]
	]);
	assert.equal(
		told(document, 'huts', 'rotation'),
		'5 points: x 0 to 4, y 7, z -4 to 0\nfirst (0, 7, 0), (1, 7, -1), (2, 7, -2) …'
	);
});

test('what nothing reads yet, and what cannot be worked out there, is said so', () => {
	const loose = generator([
		['random-number', 'gust'],
		['formula', 'twice', { formula: 'x * 2' }, { x: 'gust.value' }]
	]);
	assert.equal(told(loose, 'twice', 'x'), 'A random number for each element.');
	const missing = generator([
		['grid', 'flat'],
		['formula', 'rise', { formula: 'barnacles + 1' }],
		['displace', 'tide', {}, { geometry: 'flat.mesh', amount: 'rise.value' }]
	]);
	assert.match(told(missing, 'tide', 'amount'), /There is no “barnacles” here/);
});

test('attributes are named, but not what every geometry has', () => {
	const run = evaluateAll(
		generator([
			['grid', 'flat', { columns: 2, rows: 2 }],
			['write-attribute', 'salted', { name: 'salt', value: 3 }, { geometry: 'flat.mesh' }]
		])
	);
	assert.match(attributesInWords(run.geometry('salted')), /^\nwith .*salt/);
	assert.doesNotMatch(attributesInWords(run.geometry('salted')), /position/);
});

/** What stands on the foot of a node that gives values. */
function foot(document: ReturnType<typeof generator>, short: string): string {
	const { results } = evaluateAll(document).evaluation;
	const id = document.graphs.main.nodes.find((node) => node.short === short)!.id;
	const [value] = results.get(id)!.outputs.values();
	return valueInWords(value as Parameters<typeof valueInWords>[0]).short;
}

test('a formula that is fed by a list shows its numbers, an element for each row', () => {
	const document = generator([
		['count-up', 'steps', { start: 0, step: 1, count: 12 }],
		['formula', 'wave', { formula: 'sin(x)' }, { x: 'steps.list' }],
		['formula', 'twice', { formula: 'x * 2 + index' }, { x: 'wave.value' }],
		['formula', 'where', { formula: 'x + position.x' }, { x: 'steps.list' }]
	]);
	assert.equal(foot(document, 'wave'), '0, 0.841, 0.909 …');
	assert.equal(foot(document, 'twice'), '0, 2.683, 3.819 …');
	assert.equal(foot(document, 'where'), 'differs by element', 'a place is read where there are places');
	const long = generator([
		['count-up', 'steps', { count: 50_000 }],
		['formula', 'wave', { formula: 'sin(x)' }, { x: 'steps.list' }]
	]);
	assert.equal(foot(long, 'wave'), '50,000 values', 'long ones are counted, not worked out each time');
});
