/** Documents that are large on purpose: what is beyond use is left out and said, and checking them takes no longer for it. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { newDocument } from './index.ts';
import { openRaw } from './document-text.ts';

const base = (): Record<string, unknown> => structuredClone(newDocument('Large')) as Record<string, unknown>;
const many = <Row>(count: number, make: (i: number) => Row): Row[] =>
	Array.from({ length: count }, (_, i) => make(i));
const dial = (i: number) => ({ key: `d${i}`, name: `Dial ${i}`, kind: 'number', value: i, start: i });
const node = (id: string, kind: string, settings: object, more: object = {}) => ({
	...{ id, kind, short: id, at: [0, 0], settings, stream: id, version: 1 },
	...more
});
const graph = (nodes: object[], wires: object[] = []) => ({ nodes, wires, notes: [] });

test('of presets, variations, dials and subgraphs beyond use the first are kept, and the rest is counted', () => {
	const { document, leftOut } = openRaw({
		...base(),
		dials: many(700, dial),
		presets: many(100_000, (i) => ({ id: `p${i}`, name: `P ${i}`, values: { d0: i } })),
		kept: many(100_000, (i) => ({ id: `k${i}`, name: `K ${i}`, seed: i, values: { d0: i } })),
		graphs: {
			main: graph([]),
			...Object.fromEntries(many(20_000, (i) => [`b${i}`, graph([])]))
		}
	});
	assert.deepEqual(
		[
			document.dials.length,
			document.presets.length,
			document.kept.length,
			Object.keys(document.graphs).length
		],
		[500, 500, 2000, 1001]
	);
	assert.equal(document.presets[499].id, 'p499');
	assert.deepEqual(
		leftOut.map((sentence) => /^[\d,]+ [a-z ]+ were left out/.exec(sentence)?.[0]),
		[
			'200 dials were left out',
			'99,500 presets were left out',
			'98,000 kept variations were left out',
			'19,000 subgraphs were left out'
		]
	);
	// What was left out once is not missed again.
	assert.deepEqual(openRaw(document).leftOut, []);
});

test('a million keys: settings beyond use hold their first key', () => {
	const keys = many(10_000, (at) => ({ at, value: [at, 2, 3], easing: 'linear' }));
	const { document, leftOut } = openRaw({
		...base(),
		graphs: { main: graph(many(100, (i) => node(`n${i}`, 'box', { size: { keys } }))) }
	});
	const counts = document.graphs.main.nodes.map(({ settings: { size } }) =>
		typeof size === 'object' && 'keys' in size ? size.keys.length : 0
	);
	assert.deepEqual(counts.slice(0, 6), [10_000, 10_000, 10_000, 10_000, 10_000, 1]);
	assert.match(leftOut[0], /keys were left out/);
});

test('keys of parts, of dials and of presets count too', () => {
	const keys = many(10_000, (at) => ({ at, value: at, easing: 'linear' }));
	const countOf = (setting: unknown): number =>
		Array.isArray(setting)
			? setting.reduce<number>((sum, part) => sum + countOf(part), 0)
			: ((setting as { keys?: unknown[] } | undefined)?.keys?.length ?? 0);
	const dial = (i: number) => ({ key: `d${i}`, name: `D${i}`, kind: 'number', value: { keys }, start: 0 });
	const { document, leftOut } = openRaw({
		...base(),
		graphs: { main: graph(many(3, (i) => node(`n${i}`, 'box', { size: [{ keys }, 1, { keys }] }))) },
		dials: many(3, dial),
		presets: [{ id: 'p', name: 'Tall', values: { d1: { keys } } }]
	});
	const counts = [
		...document.graphs.main.nodes.map(({ settings: { size } }) => countOf(size)),
		...document.dials.map(({ value }) => countOf(value)),
		...document.presets.map(({ values }) => countOf(values.d1))
	];
	assert.deepEqual(counts, [20_000, 20_000, 10_001, 1, 1, 1, 1]);
	assert.match(leftOut[0], /^49,995 keys were left out/);
});

test('keys as nearly all are, and such that hold more, are both read; what is none is left out', () => {
	const sound = [
		{ at: 1, value: 2, easing: 'linear' },
		{ at: 5.5, value: 3, easing: 'bezier', handles: [0.2, 0, 0.8, 1] },
		{ at: 9, value: { low: 1, high: 2, stream: 's' }, easing: 'held' }
	];
	const opened = (keys: object[]) =>
		openRaw({ ...base(), graphs: { main: graph([node('n', 'grid', { width: { keys } })]) } }).document.graphs
			.main.nodes[0].settings.width;
	assert.deepEqual(opened(sound), { keys: sound });
	for (const wrong of [
		{ at: 'x', value: 2, easing: 'linear' },
		{ at: 1, value: 2, easing: 'sideways' },
		{ at: 1, value: NaN, easing: 'linear' }
	])
		assert.equal(opened([wrong]), undefined);
});

test('two inputs of one name get names of their own', () => {
	const inputs = ['a', 'a', 'a2', 'a'].map((name, value) => ({ name, value }));
	const { document, leftOut } = openRaw({
		...base(),
		graphs: { main: graph([node('n', 'points-from-values', {}, { inputs })]) }
	});
	const names = document.graphs.main.nodes[0].inputs!.map(({ name }) => name);
	assert.equal(new Set(names).size, 4);
	assert.equal(names[0], 'a');
	assert.equal(leftOut.length, 3);
});

test('names are one line, and read in the direction of what stands around them', () => {
	const { document } = openRaw({
		...base(),
		name: 'Reeds\nby\u0000 the \u202eweir\u2066',
		dials: [{ ...dial(1), name: 'Lo\u2028w' }]
	});
	assert.equal(document.name, 'Reeds by  the  weir ');
	assert.equal(document.dials[0].name, 'Lo w');
});
