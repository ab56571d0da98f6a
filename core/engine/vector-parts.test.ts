import assert from 'node:assert/strict';
import test from 'node:test';
import fc from 'fast-check';
import { boundsOf } from '../geometry/index.ts';
import { evaluateAll, generator, geometryOf, withBodies } from '../testing/index.ts';
import { documentAt } from './at-frame.ts';
import { withSettingOn, withWire } from './build.ts';
import { inputOf } from './connect.ts';
import { dialOf, whyNoDial, withDialFor, withDialValues, withLink } from './dials.ts';
import { dissolve } from './dissolve.ts';
import { openDocument, writeDocument } from './document-text.ts';
import type { GeneratorDocument, Key, KeysSetting, Setting } from './document.ts';
import { withGraph } from './document.ts';
import { Evaluator } from './evaluate.ts';
import { settingAt, withKey } from './keys.ts';
import { keyedRows, withSettingAtPlace } from './keyed-places.ts';
import { makeBody } from './make-body.ts';
import { mayFollow, withFollowing } from './references.ts';
import { settled } from './settle.ts';
import { settingOf } from './settings-graph.ts';
import { withTie } from './ties.ts';
import { isGeometry } from './values.ts';
import { PARTS, partName, partOfSetting } from './vector-parts.ts';

const number = fc.integer({ min: -400, max: 400 }).map((x) => x / 8);
const triple = fc.tuple(number, number, number);
const keys = (...of: [number, Setting, Key['easing']?][]): KeysSetting => ({
	keys: of.map(([at, value, easing = 'linear']) => ({ at, value: value as Key['value'], easing }))
});
const nodeOf = ({ graphs }: GeneratorDocument, short: string) =>
	graphs.main.nodes.find((node) => node.short === short)!;
const settingIn = (document: GeneratorDocument, short: string, name: string): Setting =>
	settingOf(nodeOf(document, short), name, inputOf(nodeOf(document, short), name)!);
const put = (document: GeneratorDocument, short: string, name: string, value: Setting): GeneratorDocument => {
	const { id } = nodeOf(document, short);
	return settled(withSettingAtPlace(document, 'main', { node: id, setting: name }, value), document);
};
/** The middle of what a node makes at a frame. */
function middleAt(document: GeneratorDocument, short: string, frame = 1): number[] {
	const { id } = nodeOf(document, short);
	const result = new Evaluator().begin(document, { frame }).pull([id]).results.get(id)!;
	assert.equal(result.error, null, result.error?.message);
	const { low, high } = boundsOf([...result.outputs.values()].find(isGeometry)!)!;
	return low.map((x, k) => (x + high[k]) / 2);
}
const near = (a: readonly number[], b: readonly number[]) =>
	a.forEach((x, k) =>
		assert.ok(Math.abs(x - b[k]) <= 1e-5 * Math.max(1, Math.abs(b[k])), `${a} is not ${b}`)
	);

/** A box that is moved, and a number that may be wired to one part of the way. */
const moved = (move: Setting, value = 7, wires: Record<string, string> = {}): GeneratorDocument =>
	generator([
		['number', 'far', { value }],
		['box', 'hull', {}],
		['transform', 'put', { move }, { geometry: 'hull.mesh', ...wires }]
	]);

test('a wire into one part of a vector sets that part, and leaves the others as they are', () => {
	const home = middleAt(moved([0, 0, 0]), 'put');
	fc.assert(
		fc.property(triple, number, fc.constantFrom(...PARTS), fc.boolean(), (move, value, part, isUniform) => {
			const setting = isUniform ? move[0] : move;
			const document = moved(setting, value, { [partName('move', part)]: 'far.value' });
			const wanted = PARTS.map((k) => home[k] + (k === part ? value : (partOfSetting(setting, k) as number)));
			near(middleAt(document, 'put'), wanted);
			// Saved and opened again it is the same, and nothing is left out.
			const opened = openDocument(writeDocument(document));
			assert.deepEqual(opened.leftOut, []);
			near(middleAt(opened.document, 'put'), wanted);
		}),
		{ numRuns: 40 }
	);
});

test('a vector is wired as a whole or part by part: the last wire takes the place of its rivals', () => {
	const whole = moved([0, 0, 0], 7, { move: 'far.value' });
	const { id } = nodeOf(whole, 'put');
	const far = nodeOf(whole, 'far').id;
	const into = (graph: GeneratorDocument['graphs']['main'], name: string) =>
		withWire(graph, { from: [far, 'value'], to: [id, name] });
	const names = (graph: GeneratorDocument['graphs']['main']) =>
		graph.wires.filter(({ to }) => to[0] === id && to[1] !== 'geometry').map(({ to }) => to[1]);
	const parted = into(into(whole.graphs.main, 'move.z'), 'move.x');
	assert.deepEqual(names(parted), ['move.z', 'move.x']);
	assert.deepEqual(names(into(parted, 'move')), ['move']);
	// A stranger's file that has both keeps the first, and says so.
	const both = withGraph(whole, 'main', (graph) => ({
		...graph,
		wires: [...graph.wires, { from: [far, 'value'], to: [id, 'move.y'] }]
	}));
	const { document, leftOut } = openDocument(writeDocument(both));
	assert.deepEqual(names(document.graphs.main), ['move']);
	assert.match(leftOut.join(' '), /whole, or part by part/);
});

test('a part takes numbers only, and a formula elsewhere that speaks of the vector waits for its wire', () => {
	const document = generator([
		['box', 'hull', { size: [1, 1, 1] }],
		['number', 'far', { value: 3 }],
		['transform', 'put', { move: [1, 0, 2] }, { geometry: 'hull.mesh', 'move.y': 'far.value' }],
		[
			'transform',
			'after',
			{ move: [{ formula: 'put.move.y + put.move.z', streams: [] }, 0, 0] },
			{ geometry: 'hull.mesh' }
		]
	]);
	const home = middleAt(document, 'hull');
	near(middleAt(document, 'after'), [home[0] + 5, home[1], home[2]]);
	assert.equal(inputOf(nodeOf(document, 'put'), 'move.y')!.kind, 'number');
	assert.equal(inputOf(nodeOf(document, 'put'), 'geometry.y'), null);
	assert.equal(inputOf(nodeOf(document, 'hull'), 'size.w'), null);
});

test('random parts draw the same numbers, whatever is wired to another part', () => {
	const range = (stream: string) => ({ low: 0, high: 9, stream });
	const move: Setting = [range('a'), 0, range('c')];
	const before = middleAt(moved(move), 'put');
	const after = middleAt(moved(move, 7, { 'move.y': 'far.value' }), 'put');
	near(after, [before[0], before[1] + 7, before[2]]);
});

test('keys of a whole vector, split into those of its parts, give the same at every frame', () => {
	const easing = fc.constantFrom<Key['easing']>('linear', 'smooth', 'held', 'bezier');
	const end = fc.constantFrom<NonNullable<KeysSetting['after']>>('hold', 'loop', 'on', 'back');
	fc.assert(
		fc.property(
			fc.array(fc.tuple(fc.integer({ min: 1, max: 60 }), triple, easing), { minLength: 1, maxLength: 5 }),
			end,
			fc.double({ min: -20, max: 90, noNaN: true }),
			(of, after, frame) => {
				const whole: KeysSetting = { ...keys(...of), after };
				const parts = PARTS.map((k) => settingAt(partOfSetting(whole, k) as KeysSetting, frame));
				assert.deepEqual(parts, settingAt(whole, frame));
			}
		),
		{ numRuns: 200 }
	);
});

test('each part has keys with an easing of its own, and a row of its own; those of the whole are split by the first', () => {
	let document = moved([1, 2, 3]);
	document = put(document, 'put', 'move.y', keys([1, 0], [11, 10]));
	document = put(document, 'put', 'move.z', keys([1, 0, 'held'], [11, 10]));
	const home = middleAt(moved([0, 0, 0]), 'put');
	near(middleAt(document, 'put', 6), [home[0] + 1, home[1] + 5, home[2]]);
	near(middleAt(document, 'put', 11), [home[0] + 1, home[1] + 10, home[2] + 10]);
	const names = (of: GeneratorDocument) => keyedRows(of, 'main').map(({ name }) => name);
	assert.deepEqual(names(document), ['put.move.y', 'put.move.z']);
	assert.deepEqual(names(openDocument(writeDocument(document)).document), names(document));

	const whole = put(moved([0, 0, 0]), 'put', 'move', keys([1, [0, 0, 0]], [11, [10, 20, 30]]));
	const place = { node: nodeOf(whole, 'put').id, setting: 'move.x' };
	const own = withKey(settingIn(whole, 'put', 'move.x'), 6, 9);
	const split = withSettingAtPlace(whole, 'main', place, own);
	near(middleAt(split, 'put', 6), [home[0] + 9, home[1] + 10, home[2] + 15]);
	assert.equal(keyedRows(split, 'main').length, 3);
});

test('a dial has one part in hand: it moves that, and hears it; of a vector and its parts the last that was linked counts', () => {
	const { document, key } = withDialFor(moved([1, 2, 3]), {
		graph: 'main',
		node: nodeOf(moved([1, 2, 3]), 'put').id,
		setting: 'move.y'
	});
	assert.equal(dialOf(document, key)!.name, 'Move y');
	const turned = settled(withDialValues(document, { [key]: 8 }), document);
	assert.deepEqual(settingIn(turned, 'put', 'move'), [1, 8, 3]);
	const typed = put(turned, 'put', 'move', [4, 5, 6]);
	assert.equal(dialOf(typed, key)!.value, 5);
	const again = openDocument(writeDocument(typed)).document;
	assert.deepEqual(nodeOf(again, 'put').dials, { 'move.y': key });
	const at = { graph: 'main', node: nodeOf(typed, 'put').id, setting: 'move' };
	assert.equal(whyNoDial(typed, at), null);
	const whole = withDialFor(typed, at);
	assert.deepEqual(nodeOf(whole.document, 'put').dials, { move: whole.key });
	const back = withLink(whole.document, { ...at, setting: 'move.y' }, dialOf(typed, key)!);
	assert.deepEqual(nodeOf(back, 'put').dials, { 'move.y': key });
});

test('one part follows another setting: of a vector the same part', () => {
	const document = generator([
		['box', 'hull', { size: [1, 5, 1] }],
		['number', 'far', { value: 3 }],
		['transform', 'put', { move: [1, 0, 2] }, { geometry: 'hull.mesh' }]
	]);
	const [hull, put_, far] = ['hull', 'put', 'far'].map((short) => nodeOf(document, short).id);
	const follow = (leader: [string, string], name: string) =>
		withGraph(document, 'main', (graph) => withFollowing(graph, leader, [put_, name]));
	assert.deepEqual(settingIn(follow([hull, 'size'], 'move.y'), 'put', 'move'), [
		1,
		{ formula: 'hull.size.y', streams: [] },
		2
	]);
	assert.deepEqual(settingIn(follow([far, 'value'], 'move.z'), 'put', 'move'), [
		1,
		0,
		{ formula: 'far.value', streams: [] }
	]);
	assert.equal(mayFollow(document.graphs.main, [put_, 'move'], [put_, 'move.y']).isAllowed, false);
	const home = middleAt(document, 'hull');
	near(middleAt(follow([hull, 'size'], 'move.y'), 'put'), [home[0] + 1, home[1] + 5, home[2] + 2]);
});

test('a wired part goes into a body and out of it again', () => {
	const document = moved([1, 2, 3], 7, { 'move.y': 'far.value' });
	const before = middleAt(document, 'put');
	const made = makeBody(document, 'main', new Set([nodeOf(document, 'put').id]), 'subgraph');
	assert.ok('node' in made, JSON.stringify(made));
	near(
		middleAt(made.document, made.document.graphs.main.nodes.find(({ id }) => id === made.node)!.short),
		before
	);
	const apart = dissolve(made.document, 'main', made.node);
	assert.ok('nodes' in apart);
	near(middleAt(apart.document, 'put'), before);

	// A port that takes a vector is wired in one part, where the subgraph is used.
	const used = withBodies(
		[
			['number', 'far', { value: 7 }],
			['box', 'hull', {}],
			['subgraph', 'use', { body: 'b', way: [1, 2, 3] }, { stuff: 'hull.mesh', 'way.z': 'far.value' }]
		],
		{
			b: [
				['input', 'stuff', { name: 'stuff' }],
				['input', 'way', { name: 'way', carries: 'vector' }],
				['transform', 'put', {}, { geometry: 'stuff.value', move: 'way.value' }],
				['output', 'out', { name: 'out' }, { value: 'put.geometry' }]
			]
		}
	);
	const home = middleAt(moved([0, 0, 0]), 'put');
	const { low, high } = boundsOf(geometryOf(used, 'use'))!;
	near(
		low.map((x, k) => (x + high[k]) / 2),
		[home[0] + 1, home[1] + 2, home[2] + 7]
	);
	const taken = dissolve(used, 'main', 'use');
	assert.ok('nodes' in taken);
	near(middleAt(taken.document, 'put'), [home[0] + 1, home[1] + 2, home[2] + 7]);
});

test('a dial with keys moves all that reads it, by hand and by formula; a key on a setting in its hand is the dial’s', () => {
	const start = moved([0, 0, 0]);
	const at = { graph: 'main', node: nodeOf(start, 'put').id, setting: 'move.x' };
	const { document, key } = withDialFor(start, at);
	const spoken = withGraph(document, 'main', (graph) => ({
		...graph,
		nodes: graph.nodes.map((node) =>
			node.short === 'put' ? withSettingOn(node, 'move.z', { formula: `2 * dial.${key}`, streams: [] }) : node
		)
	}));
	const keyed = put(spoken, 'put', 'move.x', keys([1, 0], [11, 10]));
	assert.deepEqual(dialOf(keyed, key)!.value, keys([1, 0], [11, 10]));
	assert.deepEqual(nodeOf(keyed, 'put').dials, { 'move.x': key });
	const home = middleAt(start, 'put');
	for (const [document, name] of [
		[keyed, 'as it was made'],
		[openDocument(writeDocument(keyed)).document, 'opened again']
	] as const)
		for (const frame of [1, 4, 11]) {
			assert.equal(dialOf(documentAt(document, frame), key)!.value, frame - 1, name);
			near(middleAt(document, 'put', frame), [home[0] + frame - 1, home[1], home[2] + 2 * (frame - 1)]);
		}
	assert.deepEqual(
		keyedRows(keyed, 'main').map(({ node, setting }) => [node, setting]),
		[['', key]]
	);
});

test('a tied end follows the keys of the other, also through a dial, and as many times as there are frames', () => {
	const start = generator([
		['box', 'hull', { size: [1, 1, 1] }],
		['transform', 'put', { move: [0, 0, 0] }, { geometry: 'hull.mesh' }],
		['number', 'far', { value: 0 }]
	]);
	const end = (short: string, setting: string, part?: number) => ({
		graph: 'main',
		node: nodeOf(start, short).id,
		setting,
		...(part !== undefined && { part })
	});
	const tied = withTie(start, {
		id: 't',
		a: end('far', 'value'),
		b: end('put', 'move', 1),
		toB: '3 * x',
		toA: 'x / 3'
	});
	const keyed = put(tied, 'far', 'value', keys([1, 0], [11, 10]));
	const home = middleAt(start, 'put');
	for (const frame of [1, 6, 11, 6])
		near(middleAt(keyed, 'put', frame), [home[0], home[1] + 3 * (frame - 1), home[2]]);
	// The other way round: keys on one part move the number.
	const back = put(tied, 'put', 'move.y', keys([1, 0], [11, 30]));
	assert.equal(settingIn(documentAt(back, 6), 'far', 'value'), 5);
	assert.equal(documentAt(tied, 6), tied);
});

test('where the node behind a wire into a part fails, the vector’s node waits for it by name', () => {
	const document = moved([1, 2, 3], 0, { 'move.y': 'far.value' });
	const broken = withGraph(document, 'main', (graph) => ({
		...graph,
		nodes: graph.nodes.map((node) =>
			node.short === 'far' ? withSettingOn(node, 'value', { formula: 'nothing.here', streams: [] }) : node
		)
	}));
	const run = evaluateAll(broken);
	assert.ok(run.error('far'));
	assert.match(run.error('put') ?? '', /far/);
});
