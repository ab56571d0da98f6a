import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { offeredKinds } from '../nodes/index.ts';
import { generator } from '../testing/index.ts';
import type { Row } from '../testing/index.ts';
import { Evaluator } from './evaluate.ts';
import { Progress } from './progress.ts';

const run = (progress: Progress, kind: string, elements: number, asks: number): number[] => {
	progress.begin(kind, elements);
	const told = Array.from({ length: asks }, () => progress.ask());
	progress.end();
	return told;
};

test('what is told lies between 0 and 1 and never falls, however long it takes', () => {
	fc.assert(
		fc.property(
			fc.array(fc.tuple(fc.constantFrom('a', 'b'), fc.nat(1e7), fc.integer({ min: 1, max: 3000 })), {
				minLength: 1,
				maxLength: 6
			}),
			(runs) => {
				const progress = new Progress();
				for (const [kind, elements, asks] of runs) {
					let before = 0;
					for (const share of run(progress, kind, elements, asks)) {
						assert.ok(share >= before && share < 1, `${before} then ${share}`);
						before = share;
					}
				}
			}
		)
	);
});

test('the second time it is known: half of the work is told as half, with twice the elements too', () => {
	const progress = new Progress();
	run(progress, 'a', 1e6, 500);
	const same = run(progress, 'a', 1e6, 500);
	assert.ok(Math.abs(same[249] - 0.5) < 0.01);
	const twice = run(progress, 'a', 2e6, 1000);
	assert.ok(Math.abs(twice[499] - 0.5) < 0.01);
});

/** Graphs in which one node does more than a little; `more` makes it a little more. */
const HEAVY: Record<string, (more: number) => Row[]> = {
	subdivide: (more) => [
		['grid', 'sheet', { columns: 60 + more, rows: 60 }],
		['subdivide', 'it', { levels: 3 }, { geometry: 'sheet.mesh' }]
	],
	'sow-points': (more) => [
		['grid', 'sheet'],
		['sow-points', 'it', { by: 'count', count: 500_000 + more }, { surface: 'sheet.mesh' }]
	],
	relax: (more) => [
		['grid', 'sheet', { columns: 140 + more, rows: 140 }],
		['relax', 'it', { iterations: 20 }, { geometry: 'sheet.mesh' }]
	],
	'chain-of-copies': (more) => [
		['box', 'box'],
		['chain-of-copies', 'it', { count: 100_000 + more }, { source: 'box.mesh' }]
	]
};

for (const [kind, rows] of Object.entries(HEAVY))
	test(`${offeredKinds.find(({ id }) => id === kind)!.name} tells how far it is, the second time all the way`, () => {
		let told: number[] = [];
		let of = '';
		const evaluator = new Evaluator({
			progress: (node, share) => {
				if (node === of) told.push(share);
			}
		});
		for (const time of [1, 2]) {
			told = [];
			const document = generator(rows(time));
			of = document.graphs.main.nodes.at(-1)!.id;
			assert.equal(evaluator.evaluate(document, [of]).results.get(of)!.state, 'fresh');
			assert.ok(told.length >= 20, `${told.length} times`);
			assert.ok(told.every((share, i) => share > 0 && share >= (told[i - 1] ?? 0)));
		}
		assert.ok(told.at(-1)! > 0.9, `ended at ${told.at(-1)}`);
		assert.ok(Math.abs(told[told.length >> 1] - 0.5) < 0.1);
	});

test('a node that goes through earlier frames tells how far it is, also while others are evaluated for it', () => {
	const told: { node: string; share: number }[] = [];
	const evaluator = new Evaluator({ progress: (node, share) => told.push({ node, share }) });
	const document = {
		...generator([
			['row-of-points', 'row', { count: { formula: 'frame + 10', streams: [] } }],
			['damped-follow', 'late', {}, { geometry: 'row.points' }]
		]),
		frames: { rate: 24, first: 1, last: 300 }
	};
	const { id } = document.graphs.main.nodes[1];
	evaluator.begin(document, { frame: 300 }).pull([id]);
	const ofIt = told.filter(({ node }) => node === id).map(({ share }) => share);
	assert.equal(new Set(ofIt).size, 300);
	assert.ok(ofIt.every((share, i) => share >= (ofIt[i - 1] ?? 0) && share < 1));
	// Before the first frame of it, and when it is done, the others speak for themselves.
	const others = told.filter(({ node }) => node !== id);
	assert.ok(others.length < 20, `${others.length} of others`);
	// From what it remembers it is one frame.
	told.length = 0;
	evaluator.begin(document, { frame: 299 }).pull([id]);
	assert.deepEqual(
		[...new Set(told.filter(({ node }) => node === id).map(({ share }) => share))].length < 20,
		true
	);
});
