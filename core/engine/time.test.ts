import assert from 'node:assert/strict';
import test from 'node:test';
import fc from 'fast-check';
import { Evaluator, inputOf, isGeometry, openDocument, writeDocument } from './index.ts';
import type { GeneratorDocument, Setting } from './index.ts';
import { digestOf, floats } from '../geometry/index.ts';
import { generator, withBodies } from '../testing/index.ts';
import type { Varying } from '../varying/index.ts';
import { constantNumber } from '../varying/index.ts';
import { documentAt } from './at-frame.ts';
import type { Key, KeysSetting } from './document.ts';
import {
	isKeyable,
	mayHaveKeys,
	settingAt,
	sortedKeys,
	withKey,
	withKeysMoved,
	withoutKeys
} from './keys.ts';
import { momentAt, nameOfFrame, whyNoFrames, withFrameNamed, withFrames } from './time.ts';

const keys = (...of: [number, Setting, Partial<Key>?][]): KeysSetting => ({
	keys: of.map(([at, value, more]) => ({ at, value: value as Key['value'], easing: 'linear', ...more }))
});
const near = (a: Setting, b: number, within = 1e-12) =>
	assert.ok(Math.abs((a as number) - b) <= within, `${String(a)} is not ${b}`);
const idOf = ({ graphs }: GeneratorDocument, short: string) =>
	graphs.main.nodes.find((node) => node.short === short)!.id;
/** What a node makes at a frame: the digest of its geometry. */
function digestAt(document: GeneratorDocument, short: string, frame: number, by = new Evaluator()): string {
	const id = idOf(document, short);
	const result = by.begin(document, { frame }).pull([id]).results.get(id)!;
	assert.equal(result.error, null, result.error?.message);
	return digestOf([...result.outputs.values()].find(isGeometry)!);
}

test('between keys a setting is what the easing’s formula says; before and after them as it is told', () => {
	const number = fc.double({ min: -100, max: 100, noNaN: true });
	fc.assert(
		fc.property(number, number, fc.double({ min: 0, max: 1, noNaN: true }), (a, b, t) => {
			const frame = 10 + 30 * t;
			near(settingAt(keys([10, a], [40, b]), frame), a + (b - a) * ((frame - 10) / 30), 1e-9);
			const u = (frame - 10) / 30;
			const smooth = keys([10, a, { easing: 'smooth' }], [40, b]);
			near(settingAt(smooth, frame), a + (b - a) * (u * u * (3 - 2 * u)), 1e-9);
			const held = keys([10, a, { easing: 'held' }], [40, b]);
			near(settingAt(held, frame), frame >= 40 ? b : a);
			// A Bézier whose handles lie on the straight line is the straight line.
			const even = keys([10, a, { easing: 'bezier', handles: [1 / 3, 1 / 3, 2 / 3, 2 / 3] }], [40, b]);
			near(settingAt(even, frame), a + (b - a) * u, 1e-6 * Math.max(1, Math.abs(a - b)));
		}),
		{ numRuns: 200 }
	);
	const way = keys([10, 0], [20, 4]);
	assert.deepEqual([settingAt(way, 3), settingAt(way, 27)], [0, 4]);
	for (const [end, before, after] of [
		['loop', 2, 2.8],
		['back', 2, 1.2],
		['on', -2, 6.8]
	] as const) {
		const one = { ...way, before: end, after: end };
		near(settingAt(one, 5), before, 1e-9);
		near(settingAt(one, 27), after, 1e-9);
	}
});

test('random ranges, vectors, colours, words and ramps have keys; one at the same frame takes the other’s place', () => {
	const range = (low: number, high: number) => ({ low, high, stream: 's' });
	assert.deepEqual(settingAt(keys([0, range(0, 2)], [10, range(4, 10)]), 5), range(2, 6));
	const base = (base: number, variation: number) => ({ base, variation, stream: 's' });
	assert.deepEqual(settingAt(keys([0, base(1, 1)], [10, base(3, 0)]), 5), base(2, 0.5));
	assert.deepEqual(settingAt(keys([0, [0, 1, 2]], [10, [10, 1, 0]]), 5), [5, 1, 1]);
	assert.equal(settingAt(keys([0, 'box'], [10, 'sphere']), 9.9), 'box');
	assert.equal(settingAt(keys([0, false], [10, true]), 10), true);
	const ramp = (value: number): Setting => ({ stops: [{ at: 0, value, easing: 'linear' }] });
	assert.deepEqual(settingAt(keys([0, ramp(0)], [10, ramp(1)]), 4), ramp(0.4));
	assert.deepEqual(
		sortedKeys(keys([5, 1], [0, 0], [5, 2])).map(({ at, value }) => [at, value]),
		[
			[0, 0],
			[5, 2]
		]
	);
	const set = withKey(withKey(3, 40, 3), 10, 1);
	assert.deepEqual(
		set.keys.map(({ at }) => at),
		[10, 40]
	);
	assert.equal(settingAt(withKey(set, 40, 7), 40), 7);
	assert.deepEqual(
		withKeysMoved(set, new Set([10, 40]), (frame) => 2 * frame).keys.map(({ at }) => at),
		[20, 80]
	);
	assert.equal(withoutKeys(set, new Set([10, 40])), 3);
});

const bouncing = (): GeneratorDocument =>
	generator([
		['box', 'hull', { size: keys([1, [1, 1, 1]], [25, [3, 1, 1]]) }],
		['grid', 'mud', {}],
		['transform', 'moved', { move: [0, { formula: 'sin(time)', streams: [] }, 0] }, { geometry: 'mud.mesh' }],
		['clock', 'tick', { goes: 'back', length: 1 }],
		['displace', 'lifted', { along: 'direction' }, { geometry: 'mud.mesh', amount: 'tick.time' }]
	]);

test('only what reads time is worked out again when the frame changes', () => {
	const document = bouncing();
	const all = document.graphs.main.nodes.map(({ id }) => id);
	const by = new Evaluator();
	const ran = (frame: number) =>
		by
			.begin(document, { frame })
			.pull(all)
			.ran.map((id) => document.graphs.main.nodes.find((node) => node.id === id)!.short)
			.sort();
	assert.deepEqual(ran(1), ['hull', 'lifted', 'moved', 'mud', 'tick']);
	assert.deepEqual(ran(13), ['hull', 'lifted', 'moved', 'tick']);
	// A frame that was there already is known.
	assert.deepEqual(ran(1), []);
});

test('time, frame and frames are what the generator says; a clock goes on, over, back, and in steps', () => {
	const document = withFrames(bouncing(), { rate: 30, first: 1, last: 60 });
	const id = idOf(document, 'tick');
	const at = (settings: Record<string, Setting>, frame: number): number => {
		const made = generator([
			['clock', 'tick', settings],
			['row-of-points', 'row', {}]
		]);
		const timed = withFrames(made, document.frames!);
		const result = new Evaluator().begin(timed, { frame }).pull([idOf(timed, 'tick')]).results;
		return (result.get(idOf(timed, 'tick'))!.outputs.get('time') as unknown as { value: number }).value;
	};
	assert.ok(id);
	near(at({}, 31), 1);
	near(at({ speed: -2, start: 5 }, 31), 3);
	near(at({ goes: 'over', length: 0.7 }, 31), 0.3);
	near(at({ goes: 'back', length: 0.7 }, 31), 0.4);
	near(at({ hold: 12 }, 30), 0.8);
	// Over all frames, its share changes with how many there are; nothing else of it does.
	const by = new Evaluator();
	const shareOf = (last: number): number => {
		const timed = withFrames(document, { rate: 30, first: 1, last });
		const result = by.begin(generatorOf(timed), { frame: 31 }).pull([id]).results.get(id)!;
		return constantNumber(result.outputs.get('share') as Varying);
	};
	const generatorOf = (of: GeneratorDocument): GeneratorDocument => ({
		...of,
		graphs: {
			main: { ...of.graphs.main, nodes: of.graphs.main.nodes.map((node) => ({ ...node, settings: {} })) }
		}
	});
	near(shareOf(61), 0.5, 1e-9);
	near(shareOf(121), 0.25, 1e-9);
	assert.deepEqual(momentAt(document, 31), { frame: 31, time: 1, frames: 60, step: 1 / 30 });
});

test('a body hears which frame it is, by wire, formula and key', () => {
	const document = withBodies(
		[
			['box', 'hull', {}],
			['subgraph', 'use', { body: 'lift' }, { geometry: 'hull.mesh' }]
		],
		{
			lift: [
				['input', 'inner', { name: 'geometry' }],
				[
					'transform',
					'up',
					{ move: [0, { formula: 'frame', streams: [] }, 0], scale: keys([1, [1, 1, 1]], [3, [1, 1, 8]]) },
					{ geometry: 'inner.value' }
				],
				['output', 'out', { name: 'geometry' }, { value: 'up.geometry' }]
			]
		}
	);
	const by = new Evaluator();
	const [first, second, again] = [1, 2, 1].map((frame) => digestAt(document, 'use', frame, by));
	assert.notEqual(first, second);
	assert.equal(first, again);
});

test('a document with keys goes out and in again; at a frame it is one without, the same object while it is the same', () => {
	const document = withFrames(bouncing(), { rate: 25, first: 0, last: 50 });
	const read = openDocument(writeDocument(document));
	assert.deepEqual(read.leftOut, []);
	assert.deepEqual(read.document, document);
	assert.ok(!JSON.stringify(documentAt(document, 7)).includes('"keys"'));
	assert.equal(
		documentAt(document, 90).graphs.main,
		documentAt(document, 80).graphs.main,
		'after the last key'
	);
	const still = generator([['box', 'box', {}]]);
	assert.equal(documentAt(still, 5), still);
});

test('frames that cannot be are refused in a sentence, and a file with them opens without', () => {
	const frames = (rate: number, first: number, last: number) => whyNoFrames({ rate, first, last });
	assert.match(frames(0, 1, 10)!, /frames a second; 0 cannot be/);
	assert.match(frames(NaN, 1, 10)!, /frames a second/);
	assert.match(frames(24, 10, 1)!, /lies before the first/);
	assert.match(frames(24, 0, 1e9)!, /1,000,000,001 frames; 100,000 fit/);
	assert.match(frames(24, 0.5, 3)!, /whole numbers/);
	assert.equal(frames(24, 1, 120), null);
	const raw = JSON.parse(writeDocument(bouncing())) as Record<string, unknown>;
	for (const bad of [{ rate: 0, first: 1, last: 2 }, { rate: 24, first: 9, last: 2 }, 'often']) {
		const { document, leftOut } = openDocument(JSON.stringify({ ...raw, frames: bad }));
		assert.equal(document.frames, undefined);
		assert.ok(
			leftOut.some((sentence) => /frames/i.test(sentence)),
			leftOut.join()
		);
		assert.equal(floats(evaluatedMesh(document), 'position').length, 24);
	}
});

function evaluatedMesh(document: GeneratorDocument) {
	const id = idOf(document, 'hull');
	const { outputs } = new Evaluator().evaluate(document, [id]).results.get(id)!;
	return [...outputs.values()].find(isGeometry)!.mesh!.points;
}

test('rows, bodies, ports and words have no keys; what a setting is made of has', () => {
	const [paint, use, box] = generator([
		['material', 'paint', {}],
		['input', 'port', {}],
		['box', 'box', {}]
	]).graphs.main.nodes;
	const may = (node: typeof paint, name: string) => mayHaveKeys(node, name, inputOf(node, name)!);
	assert.ok(may(paint, 'roughness') && may(paint, 'colour') && may(paint, 'twoSided') && may(box, 'edge'));
	assert.ok(!may(paint, 'rows') && !may(paint, 'name') && !may(use, 'carries') && !may(use, 'default'));
	assert.ok(isKeyable(3) && isKeyable([1, 2, 3]) && !isKeyable({ formula: 'time', streams: [] }));
});

test('frames have names, at most one each, in their order; they are saved, and an empty one takes the name away', () => {
	const named = [
		[40, 'ebb'],
		[8, ' flood '],
		[40, 'slack water']
	].reduce((document, [at, name]) => withFrameNamed(document, at as number, name as string), bouncing());
	assert.deepEqual(named.namedFrames, [
		{ at: 8, name: 'flood' },
		{ at: 40, name: 'slack water' }
	]);
	const { document, leftOut } = openDocument(writeDocument(named));
	assert.deepEqual([document.namedFrames, leftOut], [named.namedFrames, []]);
	assert.equal(nameOfFrame(document, 8), 'flood');
	const none = withFrameNamed(withFrameNamed(document, 8, ' '), 40, '');
	assert.equal('namedFrames' in none, false);
	assert.equal(withFrameNamed(none, 3, ''), none);
});
