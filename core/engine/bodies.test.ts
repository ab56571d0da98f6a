/** Bodies: graphs used as one node, evaluated with what arrives there. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { digestOf, positionsOf } from '../geometry/index.ts';
import { geometryOf, valueOf, withBodies } from '../testing/index.ts';
import type { Row } from '../testing/index.ts';
import { Evaluator, isVarying, openDocument, writeDocument } from './index.ts';
import type { GeneratorDocument } from './index.ts';
import { constantNumber } from '../varying/index.ts';

const POST: readonly Row[] = [
	['input', 'height', { name: 'height', carries: 'number', default: 2 }],
	['box', 'post', { size: [0.1, 1, 0.1] }],
	['transform', 'tall', { scale: [1, 2, 1] }, { geometry: 'post.mesh' }],
	['output', 'end', { name: 'out', carries: 'geometry' }, { value: 'tall.geometry' }]
];

test('a use of a subgraph gives what its body gives by itself', () => {
	const document = withBodies([['subgraph', 'use', { body: 'post' }]], { post: POST });
	const alone = withBodies(POST.slice(1, 3), {});
	assert.equal(digestOf(geometryOf(document, 'use')), digestOf(geometryOf(alone, 'tall', 'geometry')));
});

test('what is wired to a use arrives in its body, numbers and geometry; else the default stands there', () => {
	const double: Row[] = [
		['input', 'x', { name: 'x', carries: 'number', default: 21 }],
		['formula', 'twice', { formula: 'x * 2' }, { x: 'x.value' }],
		['output', 'end', { name: 'out', carries: 'number' }, { value: 'twice.value' }]
	];
	const document = withBodies(
		[
			['number', 'five', { value: 5 }],
			['subgraph', 'plain', { body: 'double' }],
			['subgraph', 'wired', { body: 'double' }, { x: 'five.value' }],
			['subgraph', 'again', { body: 'double' }, { x: 'wired.out' }]
		],
		{ double }
	);
	for (const [node, wanted] of [
		['plain', 42],
		['wired', 10],
		['again', 20]
	] as const) {
		const { value, result } = valueOf(document, node, 'out');
		assert.ok(value && isVarying(value), result.error?.message);
		assert.equal(constantNumber(value), wanted);
	}
});

/** Bodies that each use the one before; the last holds a box. */
function nested(depth: number): GeneratorDocument {
	const bodies: Record<string, readonly Row[]> = {
		b0: [
			['box', 'box'],
			['output', 'end', { name: 'out', carries: 'geometry' }, { value: 'box.mesh' }]
		]
	};
	for (let i = 1; i < depth; i++)
		bodies[`b${i}`] = [
			['subgraph', 'use', { body: `b${i - 1}` }],
			['transform', 'up', { move: [0, 1, 0] }, { geometry: 'use.out' }],
			['output', 'end', { name: 'out', carries: 'geometry' }, { value: 'up.geometry' }]
		];
	return withBodies([['subgraph', 'use', { body: `b${depth - 1}` }]], bodies);
}

test('subgraphs lie 100 deep in one another', () => {
	const p = positionsOf(geometryOf(nested(100), 'use').mesh!);
	const low = Math.min(...Array.from({ length: p.length / 3 }, (_, i) => p[3 * i + 1]));
	assert.ok(Math.abs(low - (99 + Math.min(...positionsOf(geometryOf(nested(1), 'use').mesh!)))) < 1e-4);
	assert.match(valueOf(nested(300), 'use', 'out').result.error!.message, /more than 200 deep/);
});

test('one that contains itself is refused, with the way round', () => {
	const use = (body: string): Row[] => [
		['subgraph', 'use', { body }],
		['output', 'end', { name: 'out', carries: 'geometry' }, { value: 'use.out' }]
	];
	const document = withBodies([['subgraph', 'use', { body: 'a' }]], {
		a: use('b'),
		b: use('c'),
		c: use('a')
	});
	assert.match(
		valueOf(document, 'use', 'out').result.error!.message,
		/A subgraph cannot contain itself: a → b → c → a/
	);
});

const THOUSAND = 1000;
const uses = (body: string): Row[] =>
	Array.from({ length: THOUSAND }, (_, i): Row => ['subgraph', `use${i}`, { body }]);

test('1,000 equal uses without randomness are worked out once', () => {
	const document = withBodies(uses('post'), { post: POST });
	const { results, ran } = new Evaluator().evaluate(
		document,
		document.graphs.main.nodes.map(({ id }) => id)
	);
	const digests = new Set([...results.values()].map(({ outputs }) => digestOf(outputs.get('out') as never)));
	assert.equal(digests.size, 1);
	// The first use, and once each of what its result hangs from.
	assert.ok(ran.length <= POST.length + 1, `${ran.length} ran`);
});

test('1,000 uses with randomness are independent, and the same again with the same seed', () => {
	const random: Row[] = [
		['random-number', 'any', { low: 0, high: 1 }],
		['output', 'end', { name: 'out', carries: 'number' }, { value: 'any.value' }]
	];
	const numbers = (seed: number) => {
		const document = withBodies(uses('random'), { random }, seed);
		const { results } = new Evaluator().evaluate(
			document,
			document.graphs.main.nodes.map(({ id }) => id)
		);
		return [...results.values()].map(({ outputs, error }) => {
			const value = outputs.get('out');
			assert.ok(value && isVarying(value), error?.message);
			return value.hash;
		});
	};
	const first = numbers(1);
	assert.equal(new Set(first).size, THOUSAND);
	assert.deepEqual(numbers(1), first);
	assert.notDeepEqual(numbers(2), first);
});

test('random ranges in a body differ from use to use; the same use keeps its numbers when others are added', () => {
	const scattered: Row[] = [
		['row-of-points', 'row', { count: 50 }],
		[
			'displace',
			'moved',
			{ along: 'direction', amount: { low: 0, high: 1, stream: 'wind' } },
			{ geometry: 'row.points' }
		],
		['output', 'end', { name: 'out', carries: 'geometry' }, { value: 'moved.geometry' }]
	];
	const digests = (count: number) => {
		const document = withBodies(
			Array.from({ length: count }, (_, i): Row => ['subgraph', `use${i}`, { body: 'scattered' }]),
			{ scattered }
		);
		return Array.from({ length: count }, (_, i) => digestOf(geometryOf(document, `use${i}`)));
	};
	const [two, five] = [digests(2), digests(5)];
	assert.equal(new Set(five).size, 5);
	assert.deepEqual(five.slice(0, 2), two);
});

test('a change in a body runs what hangs from it, in every use; a change outside runs nothing inside', () => {
	const evaluator = new Evaluator();
	const main: Row[] = [
		['subgraph', 'use', { body: 'post' }],
		['transform', 'moved', {}, { geometry: 'use.out' }]
	];
	const before = withBodies(main, { post: POST });
	evaluator.evaluate(before, ['moved']);
	const outside = withBodies(
		[main[0], ['transform', 'moved', { move: [1, 0, 0] }, { geometry: 'use.out' }]],
		{
			post: POST
		}
	);
	assert.deepEqual(evaluator.evaluate(outside, ['moved']).ran, ['moved']);
	const inside = withBodies(main, {
		post: POST.map((row): Row =>
			row[1] === 'tall' ? ['transform', 'tall', { scale: [1, 3, 1] }, row[3]] : row
		)
	});
	const ran = evaluator.evaluate(inside, ['moved']).ran.map((id) => id.split(' ').at(-1));
	assert.ok(ran.includes('tall') && !ran.includes('post'), ran.join());
});

test('a failure inside is told at the use, with the node in which it lies', () => {
	const document = withBodies([['subgraph', 'use', { body: 'broken' }]], {
		broken: [
			['grid', 'grid', { columns: 1e9 }],
			['transform', 'moved', {}, { geometry: 'grid.mesh' }],
			['output', 'end', { name: 'out', carries: 'geometry' }, { value: 'moved.geometry' }]
		]
	});
	assert.match(valueOf(document, 'use', 'out').result.error!.message, /^grid inside: This would make/);
	const missing = withBodies([['subgraph', 'use', { body: 'nowhere' }]], {});
	assert.match(valueOf(missing, 'use', 'out').result.error!.message, /“nowhere” is not in this generator/);
});

test('a generator with bodies is written and read whole', () => {
	const document = withBodies([['subgraph', 'use', { body: 'post' }]], { post: POST });
	const { document: read, leftOut } = openDocument(writeDocument(document));
	assert.deepEqual(leftOut, []);
	assert.deepEqual(read.graphs, document.graphs);
	assert.equal(digestOf(geometryOf(read, 'use')), digestOf(geometryOf(document, 'use')));
});

test('an output at which nothing comes leaves the others standing; one that fails is told', () => {
	const partly: Row[] = [
		['input', 'into', { name: 'into', carries: 'geometry' }],
		['box', 'box', {}],
		['grid', 'grid', { columns: 1e9 }],
		['output', 'through', { name: 'through', carries: 'geometry' }, { value: 'into.value' }],
		['output', 'made', { name: 'made', carries: 'geometry' }, { value: 'box.mesh' }]
	];
	const quiet = valueOf(withBodies([['subgraph', 'use', { body: 'partly' }]], { partly }), 'use', 'made');
	assert.deepEqual(
		[quiet.result.state, quiet.result.warnings.length, quiet.result.counts?.faces],
		['fresh', 0, 6]
	);
	const failing: Row[] = [
		...partly,
		['output', 'large', { name: 'large', carries: 'geometry' }, { value: 'grid.mesh' }]
	];
	const told = valueOf(
		withBodies([['subgraph', 'use', { body: 'failing' }]], { failing }),
		'use',
		'made'
	).result;
	assert.equal(told.state, 'fresh');
	assert.match(told.warnings[0].message, /^grid inside: This would make/);
});
