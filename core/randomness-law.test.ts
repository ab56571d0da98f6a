/** Random numbers over 100,000 elements: even, independent of one another, and the same whatever happens elsewhere. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import {
	copyNodes,
	pasteNodes,
	withGraph,
	withNode,
	newNode,
	withShort,
	withoutNodes
} from './engine/index.ts';
import type { GeneratorDocument } from './engine/index.ts';
import { evaluateAll, generator } from './testing/index.ts';
import type { Row } from './testing/index.ts';

const COUNT = 100_000;
const POINTS: Row = ['row-of-points', 'row', { count: COUNT }];
const range = (stream: string, low = 0, high = 1) => ({ low, high, stream });

/** The correlation of two rows of numbers. */
function correlation(a: ArrayLike<number>, b: ArrayLike<number>): number {
	const n = Math.min(a.length, b.length);
	const mean = (x: ArrayLike<number>) => {
		let sum = 0;
		for (let i = 0; i < n; i++) sum += x[i];
		return sum / n;
	};
	const [ma, mb] = [mean(a), mean(b)];
	let [aa, bb, ab] = [0, 0, 0];
	for (let i = 0; i < n; i++) {
		aa += (a[i] - ma) ** 2;
		bb += (b[i] - mb) ** 2;
		ab += (a[i] - ma) * (b[i] - mb);
	}
	return ab / Math.sqrt(aa * bb);
}
const written = (document: GeneratorDocument, short: string, name: string, seed = document.seed) =>
	evaluateAll({ ...document, seed })
		.geometry(short)
		.points!.points.columns.get(name)!.data as Float32Array;

/** Three nodes of eight attributes each: twenty-four streams. */
const many = (): GeneratorDocument =>
	generator([
		POINTS,
		...[0, 1, 2].map((k): Row => [
			'write-attribute',
			`all${k}`,
			Object.fromEntries([
				['rows', 8],
				...Array.from({ length: 8 }, (_, r) => [
					[`name${r ? r + 1 : ''}`, `v${8 * k + r}`],
					[`value${r ? r + 1 : ''}`, range(`s${8 * k + r}`)]
				]).flat()
			]),
			{ geometry: k ? `all${k - 1}.geometry` : 'row.points' }
		])
	]);

test('of twenty streams each is even, and no two hang together', () => {
	const { columns } = evaluateAll(many()).geometry('all2').points!.points;
	const values = Array.from({ length: 20 }, (_, k) => columns.get(`v${k}`)!.data);
	for (const [k, data] of values.entries()) {
		const bins = new Uint32Array(100);
		for (const x of data) bins[Math.min(99, Math.floor(x * 100))]++;
		const expected = COUNT / 100;
		const chi = bins.reduce((sum, n) => sum + (n - expected) ** 2 / expected, 0);
		// 99 degrees of freedom: beyond 148 in one of a thousand.
		assert.ok(chi < 148, `stream ${k}: ${chi}`);
		for (let other = 0; other < k; other++) {
			const r = correlation(data, values[other]);
			assert.ok(Math.abs(r) < 0.01, `${k} and ${other}: ${r}`);
		}
		assert.ok(Math.abs(correlation(data.subarray(0, -1), data.subarray(1))) < 0.01, 'neighbours');
	}
});

test('a seed and the next one, and a node and its duplicate, draw independent numbers', () => {
	const document = generator([
		POINTS,
		['write-attribute', 'tall', { name: 'tall', value: range('t') }, { geometry: 'row.points' }]
	]);
	const own = written(document, 'tall', 'tall');
	assert.ok(Math.abs(correlation(own, written(document, 'tall', 'tall', document.seed + 1))) < 0.01);
	const tall = document.graphs.main.nodes.find(({ short }) => short === 'tall')!;
	const doubled = withGraph(document, 'main', (graph) => {
		const row = graph.nodes.find(({ short }) => short === 'row')!;
		const { graph: next, ids } = pasteNodes(graph, copyNodes(graph, new Set([tall.id])), [0, 50]);
		return { ...next, wires: [...next.wires, { from: [row.id, 'points'], to: [ids[0], 'geometry'] }] };
	});
	const copy = doubled.graphs.main.nodes.at(-1)!;
	// Its stream is another each time: five deviations of what chance gives.
	assert.ok(Math.abs(correlation(own, written(doubled, copy.short, 'tall'))) < 5 / Math.sqrt(COUNT));
	assert.deepEqual(written(doubled, 'tall', 'tall'), own);
});

const BED: Row[] = [
	['grid', 'flat', { width: 10, depth: 10 }],
	['sow-points', 'sown', { by: 'count', count: 300 }, { surface: 'flat.mesh' }],
	[
		'write-attribute',
		'tall',
		{
			rows: 2,
			name: 'tall',
			value: range('tall'),
			name2: 'lean',
			value2: { formula: 'random(0, 90)', streams: [] }
		},
		{ geometry: 'sown.points' }
	],
	['box', 'reed', {}],
	[
		'place-copies',
		'reeds',
		{ scale: range('size', 0.5, 1) },
		{ points: 'tall.geometry', source: 'reed.mesh' }
	],
	['number', 'spare', {}]
];
const state = (document: GeneratorDocument) => {
	const run = evaluateAll(document);
	const short = (kind: string) => document.graphs.main.nodes.find((node) => node.kind === kind)!.short;
	const points = run.geometry(short('write-attribute')).points!.points.columns;
	const copies = run.geometry(short('place-copies')).copies!.copies.columns;
	return [points.get('position')!, points.get('tall')!, points.get('lean')!, copies.get('scale')!].map(
		({ data }) => [...data]
	);
};

test('adding, removing and renaming nodes leaves the random numbers of all others as they were', () => {
	const document = generator(BED);
	const before = state(document);
	const kinds = ['random-number', 'sow-points', 'box', 'noise-value', 'write-attribute'];
	fc.assert(
		fc.property(fc.array(fc.tuple(fc.nat(2), fc.nat(20)), { maxLength: 6 }), (edits) => {
			let changed = document;
			for (const [what, which] of edits)
				changed = withGraph(changed, 'main', (graph) => {
					if (what === 0)
						return withNode(graph, newNode(graph, kinds[which % kinds.length], [0, 0]), null, null);
					const own = new Set(document.graphs.main.nodes.slice(0, 5).map(({ id }) => id));
					const others = graph.nodes.filter(({ id }) => !own.has(id));
					if (what === 1 && others.length)
						return withoutNodes(graph, new Set([others[which % others.length].id]));
					return withShort(graph, graph.nodes[which % graph.nodes.length].id, `other${which}`);
				});
			// What was added may be of the same kinds: the first of each is meant.
			assert.deepEqual(state(changed), before);
		}),
		{ numRuns: 30 }
	);
});

test('removing every second point leaves the numbers of the others as they were', () => {
	const thinned = generator([
		...BED.slice(0, 2),
		['keep-in-rhythm', 'half', { keep: 1, skip: 1 }, { geometry: 'sown.points' }],
		['write-attribute', 'tall', { ...BED[2][2] }, { geometry: 'half.geometry' }],
		['box', 'reed', {}],
		[
			'place-copies',
			'reeds',
			{ scale: range('size', 0.5, 1) },
			{ points: 'tall.geometry', source: 'reed.mesh' }
		]
	]);
	const [position, tall, lean, scale] = state(generator(BED));
	const [position2, tall2, lean2, scale2] = state(thinned);
	const everySecond = (data: readonly number[], width: number) =>
		data.filter((_, i) => Math.floor(i / width) % 2 === 0);
	assert.deepEqual(position2, everySecond(position, 3));
	assert.deepEqual(tall2, everySecond(tall, 1));
	assert.deepEqual(lean2, everySecond(lean, 1));
	assert.deepEqual(scale2, everySecond(scale, 3));
});
