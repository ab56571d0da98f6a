import assert from 'node:assert/strict';
import test from 'node:test';
import type { GeneratorDocument, Setting } from '../engine/index.ts';
import { generator } from '../testing/index.ts';
import { KeptFrames } from './kept-frames.ts';
import { Shows } from './shows.ts';

const formula = (text: string): Setting => ({ formula: text, streams: [] });

/** A session of a document; gives what is reported of a frame. */
function playing(memory: number) {
	const shows = new Shows({ memory });
	return (document: GeneratorDocument, frame: number) => {
		const { reports: told } = shows.show(document, { shown: [document.graphs.main.nodes.at(-1)!.id], frame });
		assert.ok(told);
		return told;
	};
}
const waving = (size: number) =>
	generator([
		['grid', 'flat', { width: 5, depth: 5, columns: size, rows: size }],
		['displace', 'lifted', { amount: formula('sin(time + position.x)') }, { geometry: 'flat.mesh' }],
		['transform', 'moved', { move: [0, formula('frame'), 0] }, { geometry: 'lifted.geometry' }]
	]);

test('frames that were shown are kept until the generator changes', () => {
	const at = playing(1e9);
	const document = waving(10);
	for (const frame of [1, 2, 3, 7, 8]) at(document, frame);
	const told = at(document, 2);
	assert.deepEqual(told.kept, [
		[1, 3],
		[7, 8]
	]);
	assert.equal(told.ran, 0);
	assert.deepEqual(at(waving(11), 2).kept, [[2, 2]]);
});

test('of those that had to make room none is said to be kept: each that is runs nothing', () => {
	const at = playing(6e6);
	const document = waving(60);
	let told = at(document, 1);
	for (let frame = 2; frame <= 80; frame++) told = at(document, frame);
	const kept = told.kept.flatMap(([from, to]) => Array.from({ length: to - from + 1 }, (_, i) => from + i));
	assert.ok(kept.length > 3 && kept.length < 70, `${kept.length} kept`);
	assert.ok(kept.includes(80) && !kept.includes(1));
	for (const frame of kept) assert.equal(at(document, frame).ran, 0, `frame ${frame}`);
});

test('a result that several frames share takes all of them along', () => {
	const result = (key: string) => ({ key }) as never;
	const kept = new KeptFrames();
	kept.add(1, [result('still'), result('a')]);
	kept.add(2, [result('still'), result('b')]);
	kept.dropped('a');
	assert.deepEqual(kept.runs(), [[2, 2]]);
	kept.dropped('unheard of');
	kept.dropped('still');
	assert.deepEqual(kept.runs(), []);
});
