import assert from 'node:assert/strict';
import { test } from 'node:test';
import { generator, withBodies } from '../testing/index.ts';
import { withSettingOn, withWire } from './build.ts';
import { withDialFor, withDialValues } from './dials.ts';
import type { GeneratorDocument, Setting } from './document.ts';
import { withGraph, withNodes } from './document.ts';
import { Evaluator } from './evaluate.ts';
import { hangsFrom, hangsFromSame } from './hangs-from.ts';

const idOf = ({ graphs }: GeneratorDocument, short: string, graph = 'main') =>
	graphs[graph].nodes.find((node) => node.short === short)!.id;
const put = (document: GeneratorDocument, short: string, name: string, value: Setting, graph = 'main') =>
	withGraph(document, graph, (of) =>
		withNodes(of, (node) => (node.short === short ? withSettingOn(node, name, value) : node))
	);

test('it changes with a wire, a formula’s reference, a body however deep, a dial and the seed; with nothing else', () => {
	const base = withBodies(
		[
			['number', 'far', { value: 2 }],
			['number', 'lone', { value: 2 }],
			['box', 'hull', { size: [{ formula: 'far.value + dial.wide', streams: [] }, 1, 1] }],
			['subgraph', 'use', { body: 'outer' }, { stuff: 'hull.mesh' }],
			['box', 'other', {}]
		],
		{
			outer: [
				['input', 'stuff', { name: 'stuff' }],
				['subgraph', 'in', { body: 'inner' }, { stuff: 'stuff.value' }],
				['output', 'out', { name: 'out' }, { value: 'in.out' }]
			],
			inner: [
				['input', 'stuff', { name: 'stuff' }],
				['transform', 'put', { move: [1, 0, 0] }, { geometry: 'stuff.value' }],
				['output', 'out', { name: 'out' }, { value: 'put.geometry' }]
			]
		}
	);
	const made = withDialFor(base, { graph: 'main', node: idOf(base, 'other'), setting: 'size' });
	const wide = { ...made.document.dials[0], key: 'wide', kind: 'number' as const, value: 1, start: 1 };
	const document = { ...made.document, dials: [...made.document.dials, wide] };
	const use = idOf(document, 'use');
	const is = (changed: GeneratorDocument) =>
		hangsFromSame(hangsFrom(document, use, 1), hangsFrom(changed, use, 1));
	assert.ok(is(document));
	assert.ok(!is(put(document, 'far', 'value', 3)));
	assert.ok(!is(put(document, 'hull', 'standing', true)));
	assert.ok(!is(put(document, 'put', 'move', [2, 0, 0], 'inner')));
	assert.ok(!is({ ...document, seed: document.seed + 1 }));
	assert.ok(!is(withDialValues(document, { wide: 4 })));
	assert.ok(
		!is(
			withGraph(document, 'main', (graph) =>
				withWire(graph, { from: [idOf(document, 'far'), 'value'], to: [idOf(document, 'hull'), 'size.y'] })
			)
		)
	);
	assert.ok(is(put(document, 'lone', 'value', 3)));
	assert.ok(is(put(document, 'other', 'standing', true)));
	assert.ok(is({ ...document, name: 'Other' }));
});

test('what moves hangs from the frame, and from the keys behind it; what stands still does not', () => {
	const keys = [
		{ at: 1, value: 1, easing: 'linear' as const },
		{ at: 9, value: 5, easing: 'linear' as const }
	];
	const document = generator([
		['number', 'tall', { value: { keys } as Setting }],
		['box', 'hull', { size: [1, { formula: 'tall.value', streams: [] }, 1] }],
		['box', 'still', {}]
	]);
	const isSame = (short: string, frame: number) =>
		hangsFromSame(
			hangsFrom(document, idOf(document, short), 1),
			hangsFrom(document, idOf(document, short), frame)
		);
	assert.deepEqual([isSame('hull', 1), isSame('hull', 5), isSame('still', 5)], [true, false, true]);
});

test('a file that comes late is taken: what failed for want of it is tried again', () => {
	const document = generator([['import-mesh', 'wreck', { file: 'a'.repeat(64) }]]);
	const id = idOf(document, 'wreck');
	const here = new Map<string, { hash: string; name: string; bytes: Uint8Array }>();
	const by = new Evaluator({ asset: (hash) => here.get(hash) ?? null });
	const told = () => by.evaluate(document, [id]).results.get(id)!;
	assert.match(told().error!.message, /not here any more/);
	assert.match(told().error!.message, /not here any more/);
	const bytes = new TextEncoder().encode('v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n');
	here.set('a'.repeat(64), { hash: 'a'.repeat(64), name: 'wreck.obj', bytes });
	assert.equal(told().error, null);
	assert.equal(told().counts!.faces, 1);
});
