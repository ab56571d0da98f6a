/** What holds for bodies whatever is in them: once is as if it stood outside, and what is told inside leaves in files too. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { readGlb } from '../formats/read-glb.ts';
import { writeGlb } from '../formats/write-glb.ts';
import { Ledger, digestOf } from '../geometry/index.ts';
import { start } from '../testing/random-edits.ts';
import { geometryOf, valueOf, withBodies } from '../testing/index.ts';
import type { Row } from '../testing/index.ts';
import { Evaluator, isGeometry, makeBody, usesOf, withGraph, withSetting } from './index.ts';
import type { GeneratorDocument } from './index.ts';

const plain = (formula: string) => ({ formula, streams: [] });
const digests = (document: GeneratorDocument): Map<string, string> => {
	const { nodes } = document.graphs.main;
	const { results } = new Evaluator().evaluate(
		document,
		nodes.map(({ id }) => id)
	);
	return new Map(
		nodes.map(({ id, short }) => {
			const geometry = [...results.get(id)!.outputs.values()].find(isGeometry);
			return [short, geometry ? digestOf(geometry) : ''];
		})
	);
};

test('a repeat of one pass that draws the same gives what the nodes by themselves gave', () => {
	const document = start();
	const before = digests(document);
	const ids = document.graphs.main.nodes.map(({ id }) => id);
	let made = 0;
	fc.assert(
		fc.property(fc.subarray(ids, { minLength: 1, maxLength: 4 }), (some) => {
			const repeat = makeBody(document, 'main', new Set(some), 'repeat');
			if ('reason' in repeat) return;
			made++;
			const once = withGraph(repeat.document, 'main', (graph) =>
				withSetting(withSetting(graph, repeat.node, 'passes', 1), repeat.node, 'same', true)
			);
			for (const [short, digest] of digests(once))
				if (before.has(short)) assert.equal(digest, before.get(short), `${short} around ${some.join()}`);
		}),
		{ numRuns: 30 }
	);
	assert.ok(made > 5, `${made} were made`);
});

const BLADE: readonly Row[] = [
	['input', 'tall', { name: 'tall', carries: 'number', default: 1 }],
	['box', 'blade', { size: [0.1, plain('tall.value'), 0.1] }],
	['output', 'end', { name: 'shape', carries: 'geometry' }, { value: 'blade.mesh' }]
];

test('copies varied by a value that is the same everywhere are copies of one source', () => {
	const document = withBodies(
		[
			['row-of-points', 'row', { count: 30 }],
			['box', 'one', { size: [0.1, 2, 0.1] }],
			[
				'place-copies',
				'placed',
				{ scale: 1.5, rotation: [0, 20, 0] },
				{ points: 'row.points', source: 'one.mesh' }
			],
			[
				'vary-each-copy',
				'varied',
				{ body: 'blade', tall: 2, scale: 1.5, rotation: [0, 20, 0] },
				{ points: 'row.points' }
			]
		],
		{ blade: BLADE }
	);
	assert.equal(
		digestOf(geometryOf(document, 'varied', 'copies')),
		digestOf(geometryOf(document, 'placed', 'copies'))
	);
});

test('of two uses the second keeps its numbers when the first goes; told to be the same, both are alike', () => {
	const scattered: readonly Row[] = [
		['row-of-points', 'row', { count: 20 }],
		['transform', 'moved', { move: [0, { low: 0, high: 1, stream: 'wind' }, 0] }, { geometry: 'row.points' }],
		['output', 'end', { name: 'out', carries: 'geometry' }, { value: 'moved.geometry' }]
	];
	const use = (id: string, same = false): Row => ['subgraph', id, { body: 'scattered', same }];
	const of = (rows: Row[], id: string) => digestOf(geometryOf(withBodies(rows, { scattered }), id));
	const both = [use('first'), use('second')];
	assert.notEqual(of(both, 'first'), of(both, 'second'));
	assert.equal(of([use('second')], 'second'), of(both, 'second'));
	const alike = [use('first', true), use('second', true)];
	assert.equal(of(alike, 'first'), of(alike, 'second'));
});

test('the passes of repeats in one another stand in a GLB: all 12 pairs, each on its own points', () => {
	const document = withBodies(
		[
			['repeat', 'courses', { body: 'course', passes: 3 }],
			['move-attribute', 'a', { name: 'pass', from: 'face', to: 'point' }, { geometry: 'courses.all' }],
			['move-attribute', 'b', { name: 'outerPass', from: 'face', to: 'point' }, { geometry: 'a.geometry' }]
		],
		{
			course: [
				['repeat', 'shingles', { body: 'shingle', passes: 4 }],
				['output', 'end', { name: 'all', carries: 'geometry', role: 'gathered' }, { value: 'shingles.one' }]
			],
			shingle: [
				['box', 'box', { size: [0.5, 0.5, 0.5] }],
				['transform', 'moved', { move: [plain('pass'), plain('outer.pass'), 0] }, { geometry: 'box.mesh' }],
				['output', 'end', { name: 'one', carries: 'geometry', role: 'gathered' }, { value: 'moved.geometry' }]
			]
		}
	);
	const { result } = valueOf(document, 'b', 'geometry');
	assert.equal(result.error, null, result.error?.message);
	const bytes = new Ledger().work(() =>
		writeGlb(geometryOf(document, 'b', 'geometry'), {
			attributes: ['pass', 'outerPass'].map((name) => ({ name, as: name }))
		})
	);
	const { columns, count } = new Ledger().work(() => readGlb(bytes, 'roof.glb')).geometry.mesh!.points;
	const [position, pass, outer] = ['position', 'pass', 'outerpass'].map((name) => columns.get(name)!.data);
	const pairs = new Set<string>();
	for (let i = 0; i < count; i++) {
		assert.ok(
			Math.abs(position[3 * i] - pass[i]) < 0.26 && Math.abs(position[3 * i + 1] - outer[i]) < 0.26,
			`point ${i}`
		);
		pairs.add(`${outer[i]} ${pass[i]}`);
	}
	assert.equal(pairs.size, 12);
});

test('10,000 plants are copies of 40 shapes, each grown once', () => {
	const document = withBodies(
		[
			['grid-of-points', 'field', { countX: 100, countY: 1, countZ: 100 }],
			[
				'vary-each-copy',
				'plants',
				{ body: 'plant', kind: plain('index % 40'), rounding: 'none' },
				{ points: 'field.points' }
			]
		],
		{
			plant: [
				['input', 'kind', { name: 'kind', carries: 'number' }],
				[
					'grow-branches',
					'grown',
					{ levels: 2, count: 21, leafSpacing: 0, segments: 3, angle: { low: 30, high: 60, stream: 'a' } }
				],
				['output', 'end', { name: 'shape', carries: 'geometry' }, { value: 'grown.branches' }]
			]
		}
	);
	const evaluator = new Evaluator();
	const { results, ran } = evaluator.evaluate(document, ['plants']);
	const geometry = results.get('plants')!.outputs.get('copies');
	assert.ok(isGeometry(geometry), results.get('plants')!.error?.message);
	assert.equal(geometry.copies!.copies.count, 10_000);
	assert.equal(geometry.copies!.sources.length, 40);
	assert.equal(geometry.copies!.sources[0].curves!.curves.count, 1 + 21 + 441);
	assert.equal(ran.filter((id) => id.endsWith(' grown')).length, 40);
	// Chance differs from shape to shape.
	assert.equal(new Set(geometry.copies!.sources.map(digestOf)).size, 40);
	assert.equal(usesOf(document, 'plant').length, 1);
});
