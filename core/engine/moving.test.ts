import assert from 'node:assert/strict';
import test from 'node:test';
import fc from 'fast-check';
import type { GeneratorDocument, Setting } from './index.ts';
import { whatMoves } from './index.ts';
import { Shows } from '../session/shows.ts';
import { generator, withBodies } from '../testing/index.ts';
import { withKey } from './keys.ts';
import { Ledger } from '../geometry/index.ts';
import { States } from './states.ts';

const formula = (text: string): Setting => ({ formula: text, streams: [] });
const told = (document: GeneratorDocument, graph = 'main') =>
	Object.fromEntries(
		[...whatMoves(document, graph)].map(([id, why]) => [
			document.graphs[graph].nodes.find((node) => node.id === id)!.short,
			why
		])
	);

test('which nodes move, and why, is known without evaluating', () => {
	const document = withBodies(
		[
			['box', 'still', {}],
			['box', 'keyed', { size: withKey(withKey(undefined, 1, 1), 9, 2) }],
			['number', 'wave', { value: formula('sin(time)') }],
			['clock', 'tick', {}],
			['transform', 'led', { move: [formula('wave.value'), 0, 0] }, { geometry: 'still.mesh' }],
			['latch', 'held', {}, { geometry: 'still.mesh' }],
			['earlier-value', 'was', {}, { geometry: 'still.mesh' }],
			['merge', 'all', {}, { geometry: ['keyed.mesh', 'still.mesh'] }],
			['subgraph', 'used', { body: 'lift' }, { geometry: 'still.mesh' }],
			['merge', 'none', {}, { geometry: 'still.mesh' }],
			['write-attribute', 'old', { name: 'b', value: formula('attribute.time') }, { geometry: 'still.mesh' }]
		],
		{
			lift: [
				['input', 'inner', { name: 'geometry' }],
				['transform', 'up', { move: [0, formula('frame'), 0] }, { geometry: 'inner.value' }],
				['output', 'out', { name: 'geometry' }, { value: 'up.geometry' }]
			]
		}
	);
	assert.deepEqual(told(document), {
		keyed: '“Size” has keys.',
		wave: 'One of its formulas speaks of time or frame.',
		tick: 'It tells the time.',
		held: 'It remembers what was before.',
		was: 'It looks at earlier frames.',
		used: 'Something in its body moves.',
		all: 'What comes from keyed moves.',
		led: 'A formula speaks of wave, which moves.'
	});
	assert.deepEqual(Object.keys(told(document, 'lift')), ['up', 'out']);
});

test('a session shows the frame that it is asked for; a key set elsewhere runs nothing', () => {
	const shows = new Shows();
	const show = (document: GeneratorDocument, frame?: number) => {
		const { picture, reports } = shows.showResult(document, { frame });
		assert.ok(reports);
		return { width: picture.bounds!.high[0] * 2, ran: picture.ran, hash: reports.hash };
	};
	const plain = generator([['box', 'box', { size: [1, 1, 1] }]]);
	const keyed = (frame: number, value: Setting, before: GeneratorDocument): GeneratorDocument => {
		const [node] = before.graphs.main.nodes;
		const settings = { ...node.settings, size: withKey(node.settings.size, frame, value) };
		return {
			...before,
			graphs: { ...before.graphs, main: { ...before.graphs.main, nodes: [{ ...node, settings }] } }
		};
	};
	const first = show(plain);
	const one = keyed(1, [1, 1, 1], plain);
	const two = keyed(41, [3, 1, 1], one);
	assert.deepEqual(show(two, 1), { ...first, ran: 0 });
	const middle = show(two, 21);
	assert.equal(middle.width, 2);
	assert.equal(show(two, 41).width, 3);
	assert.deepEqual(show(two, 21), { ...middle, ran: 0 });
	assert.equal(show(two).width, 1, 'without a frame it is the first');
	// Other frames reach it too, though no node is another.
	const early: GeneratorDocument = { ...two, frames: { rate: 24, first: 21, last: 60 } };
	assert.equal(show(early).width, 2, 'the first frame is another now');
});

test('of what is remembered a share of the memory is kept: frames from which to go on, evenly, and the last', () => {
	const ledger = new Ledger({ limit: 1e6 });
	const states = new States(ledger);
	for (let frame = 1; frame <= 5000; frame++) states.keep('a', frame, { bytes: 100 });
	assert.ok(ledger.held <= 50 * 100, `${ledger.held} bytes`);
	assert.equal(states.latest('a', 5000)!.frame, 5000);
	const gaps = Array.from(
		{ length: 49 },
		(_, i) => 100 * i + 100 - (states.latest('a', 100 * i + 100)?.frame ?? 0)
	);
	assert.ok(Math.max(...gaps) < 256, `${Math.max(...gaps)} frames to go on from the nearest`);
	assert.equal(states.latest('a', 0), null);
	// One that is too large by itself keeps fewer frames, and the last of them.
	for (let frame = 1; frame <= 100; frame++) states.keep('c', frame, { bytes: 30_000 });
	assert.ok(ledger.held <= 1e6 / 8, `${ledger.held} bytes`);
	assert.equal(states.latest('c', 100)!.frame, 100);
	for (let frame = 101; frame <= 110; frame++) states.keep('c', frame, { bytes: 200_000 });
	assert.equal(states.latest('c', 200)!.frame, 110);
	states.trim(() => ledger.held > 0);
	for (let frame = 1; frame <= 20; frame++) states.keep('a', frame, { bytes: 100 });
	// Nobody has asked for it for some evaluations: it goes first when there is no room.
	for (let round = 0; round < 5; round++) states.endRound();
	for (let frame = 1; frame <= 20; frame++) states.keep('b', frame, { bytes: 20_000 });
	assert.equal(states.latest('a', 5000), null);
	states.trim(() => ledger.held > 0);
	assert.equal(ledger.held, 0);
});

test('nodes that remember much never drive each other out: each goes on from the frame before', () => {
	fc.assert(
		fc.property(
			fc.array(fc.integer({ min: 1, max: 60_000 }), { minLength: 1, maxLength: 6 }),
			fc.integer({ min: 2, max: 150 }),
			(sizes, frames) => {
				const ledger = new Ledger({ limit: 1e6 });
				const states = new States(ledger);
				for (let frame = 1; frame <= frames; frame++) {
					sizes.forEach((bytes, k) => {
						assert.equal(states.latest(`${k}`, frame)?.frame ?? 0, frame - 1);
						states.keep(`${k}`, frame, { bytes });
					});
					states.endRound();
				}
				const least = sizes.reduce((sum, bytes) => sum + bytes, 0);
				assert.ok(ledger.held <= Math.max(1e6 / 8, least), `${ledger.held} bytes for ${least}`);
			}
		)
	);
});
