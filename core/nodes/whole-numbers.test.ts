/** Wherever whole numbers are drawn between two ends, each comes equally often. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import type { Row } from '../testing/index.ts';
import { evaluateAll, generator } from '../testing/index.ts';

const COUNT = 6000;
const PLACES: Row = ['grid-of-points', 'places', { countX: COUNT / 60, countY: 1, countZ: 60 }];
const range = (low: number, high: number) => ({ low, high, stream: 'dice' });

/** The most that chi-square may be for so many kinds: beyond it lies one in a hundred thousand. */
const MOST = [0, 19.5, 23, 25.9, 28.5, 30.9, 33.1];

function assertEven(drawn: ArrayLike<number>, low: number, high: number, what: string) {
	const counts = new Map<number, number>();
	for (const x of Array.from(drawn)) counts.set(x, (counts.get(x) ?? 0) + 1);
	const kinds = high - low + 1;
	const expected = drawn.length / kinds;
	let chi = 0;
	for (let x = low; x <= high; x++) chi += ((counts.get(x) ?? 0) - expected) ** 2 / expected;
	assert.deepEqual(
		[...counts.keys()].sort((a, b) => a - b),
		Array.from({ length: kinds }, (_, i) => low + i),
		what
	);
	assert.ok(chi < MOST[kinds - 1], `${what}: ${chi}`);
}

const attributeOf = (rows: Row[], settings: Record<string, unknown>, wires: Record<string, string> = {}) =>
	evaluateAll(
		generator([
			PLACES,
			...rows,
			['write-attribute', 'told', { name: 'n', ...settings }, { geometry: 'places.points', ...wires }]
		])
	)
		.geometry('told')
		.points!.points.columns.get('n')!.data;

test('a Number of whole numbers that is random gives whole ones, each equally often', () => {
	const drawn = attributeOf(
		[['number', 'dice', { value: range(1, 6), whole: true }]],
		{},
		{ value: 'dice.value' }
	);
	assertEven(drawn, 1, 6, 'Number');
});

test('so does Random number, and an attribute of whole numbers from a range or a wire', () => {
	assertEven(
		attributeOf([['random-number', 'dice', { low: -2, high: 2, whole: true }]], {}, { value: 'dice.value' }),
		-2,
		2,
		'Random number'
	);
	assertEven(attributeOf([], { type: 'int', value: range(0, 3) }), 0, 3, 'attribute');
	assertEven(
		attributeOf([['number', 'dice', { value: range(0, 3) }]], { type: 'int' }, { value: 'dice.value' }),
		0,
		3,
		'attribute by wire'
	);
});

test('copies that pick their source by a random number show each equally often', () => {
	const boxes = [0, 1, 2].map((i): Row => ['box', `box${i}`, { size: [1 + i, 1, 1] }]);
	const { geometry } = evaluateAll(
		generator([
			PLACES,
			...boxes,
			[
				'place-copies',
				'huts',
				{ pick: 'number', number: range(0, 2) },
				{ points: 'places.points', source: ['box0.mesh', 'box1.mesh', 'box2.mesh'] }
			]
		])
	);
	assertEven(geometry('huts').copies!.copies.columns.get('source')!.data, 0, 2, 'copies');
});

test('a whole setting of a node that is drawn once is as often at its ends as between', () => {
	const drawn = Array.from({ length: 1500 }, (_, seed) => {
		const { geometry } = evaluateAll(generator([['grid', 'flat', { columns: range(1, 3), rows: 1 }]], seed));
		return geometry('flat').mesh!.faces.count;
	});
	assertEven(drawn, 1, 3, 'columns');
});
