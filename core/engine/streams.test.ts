/** Streams that are shared are told of at both ends; a stream of its own again changes that range, and no other. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { evaluateAll, generator } from '../testing/index.ts';
import type { Row } from '../testing/index.ts';
import { withGraph } from './document.ts';
import { readersOfStream, withOwnStream } from './streams.ts';

const range = (low: number, high: number, stream: string) => ({ low, high, stream });
const REEDS: Row[] = [
	['row-of-points', 'row', { count: 400 }],
	['box', 'reed', {}],
	[
		'place-copies',
		'reeds',
		{ rotation: [range(0, 10, 'tide'), range(0, 360, 'turn'), 0], scale: range(0.5, 1, 'tide') },
		{ points: 'row.points', source: 'reed.mesh' }
	],
	[
		'write-attribute',
		'tinted',
		{ name: 'tint', value: { formula: 'random(0, 1)', streams: ['tide'] } },
		{ geometry: 'row.points' }
	]
];

test('whoever draws from a stream is named, parts of vectors and formulas too', () => {
	const { main } = generator(REEDS).graphs;
	assert.deepEqual(
		readersOfStream(main, 'tide').map(({ label }) => label),
		['Rotation x', 'Scale', 'Value']
	);
	assert.deepEqual(
		readersOfStream(main, 'turn').map(({ part }) => part),
		[1]
	);
	assert.deepEqual(readersOfStream(main, 'nobody'), []);
});

test('a range with its own stream draws other numbers; all others stay as they were', () => {
	const document = generator(REEDS);
	const [, scale] = readersOfStream(document.graphs.main, 'tide');
	const changed = withGraph(document, 'main', (graph) => withOwnStream(graph, scale));
	const [before, after] = [document, changed].map((one) => {
		const run = evaluateAll(one);
		const { columns } = run.geometry('reeds').copies!.copies;
		return {
			scale: [...columns.get('scale')!.data],
			orientation: [...columns.get('orientation')!.data],
			tint: [...run.geometry('tinted').points!.points.columns.get('tint')!.data]
		};
	});
	assert.notDeepEqual(after.scale, before.scale);
	assert.deepEqual(after.orientation, before.orientation);
	assert.deepEqual(after.tint, before.tint);
});
