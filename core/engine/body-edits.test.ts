/** What is done to bodies and their uses: ports renamed and added, settings brought out, uses copied and pasted. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { digestOf } from '../geometry/index.ts';
import { geometryOf, valueOf, withBodies } from '../testing/index.ts';
import type { Row } from '../testing/index.ts';
import {
	bringOut,
	copyNodes,
	inputOf,
	openDocument,
	pasteInto,
	portName,
	readClip,
	usesOf,
	wayInto,
	whyNotBroughtOut,
	withGraph,
	withInputFor,
	withOwnBody,
	withPortAtEdge,
	withPortNamed,
	withPorts,
	withSetting,
	withoutNodes,
	withoutOrphans,
	writeDocument
} from './index.ts';
import type { GeneratorDocument } from './index.ts';

const plain = (formula: string) => ({ formula, streams: [] });
const POST: readonly Row[] = [
	['input', 'height', { name: 'height', carries: 'number', default: 2 }],
	['box', 'post', { size: [0.1, plain('height.value'), { low: 0.1, high: 0.4, stream: 'thick' }] }],
	['output', 'end', { name: 'out', carries: 'geometry' }, { value: 'post.mesh' }]
];
const twoPosts = (): GeneratorDocument =>
	withBodies(
		[
			['number', 'tall', { value: 5 }],
			['subgraph', 'low', { body: 'post', height: 3 }],
			['subgraph', 'high', { body: 'post' }, { height: 'tall.value' }],
			['number', 'same', { value: plain('low.height * 2') }],
			['transform', 'up', { move: [0, plain('low.height'), 0] }, { geometry: 'high.out' }]
		],
		{ post: POST }
	);
const heightOf = (document: GeneratorDocument, node: string, port = 'out'): number => {
	const { result } = valueOf(document, node, port);
	assert.ok(result.bounds, result.error?.message);
	return result.bounds.high[1] - result.bounds.low[1];
};

test('a port renamed keeps what is set, wired and said of it at every use', () => {
	const before = twoPosts();
	const digests = (document: GeneratorDocument) => [
		digestOf(geometryOf(document, 'low')),
		digestOf(geometryOf(document, 'up', 'geometry'))
	];
	const after = withPortNamed(before, 'post', 'height', 'How tall');
	assert.deepEqual(digests(after), digests(before));
	const low = after.graphs.main.nodes.find(({ id }) => id === 'low')!;
	assert.equal(low.settings.howTall, 3);
	assert.equal(inputOf(low, 'howTall')!.label, 'How tall');
	assert.deepEqual(
		after.graphs.main.nodes.find(({ id }) => id === 'same')!.settings.value,
		plain('low.howTall * 2')
	);
	const out = withPortNamed(after, 'post', 'end', 'The post');
	assert.equal(heightOf(out, 'low', 'thePost'), 3);
	assert.equal(digestOf(geometryOf(out, 'up', 'geometry')), digests(before)[1]);
});

test('a setting brought out stands at every use as it stood inside, random numbers too', () => {
	const before = twoPosts();
	const made = bringOut(before, 'post', 'post', 'size');
	assert.ok('reason' in made, 'it is refused');
	assert.match(made.reason, /follows height\.value, which stands inside/);
	const box = withBodies(
		[
			['subgraph', 'a', { body: 'b' }],
			['subgraph', 'b', { body: 'b' }]
		],
		{
			b: [
				['row-of-points', 'row', { count: 20 }],
				[
					'displace',
					'moved',
					{ along: 'direction', amount: { low: 0, high: 1, stream: 'wind' } },
					{ geometry: 'row.points' }
				],
				['output', 'end', { name: 'out', carries: 'geometry' }, { value: 'moved.geometry' }]
			]
		}
	);
	const out = bringOut(box, 'b', 'moved', 'amount');
	assert.ok('document' in out, 'it is brought out');
	assert.equal(digestOf(geometryOf(out.document, 'a')), digestOf(geometryOf(box, 'a')));
	assert.notEqual(digestOf(geometryOf(out.document, 'b')), digestOf(geometryOf(out.document, 'a')));
	assert.match(whyNotBroughtOut(out.document.graphs.b, 'moved', 'amount')!, /A wire sets/);
	assert.match(whyNotBroughtOut(out.document.graphs.b, 'moved', 'along')!, /chosen by hand/);
});

test('a use made its own is changed alone; a body that nobody uses goes', () => {
	const own = withOwnBody(twoPosts(), 'main', 'low');
	const body = String(own.graphs.main.nodes.find(({ id }) => id === 'low')!.settings.body);
	assert.notEqual(body, 'post');
	assert.deepEqual(
		usesOf(own, 'post').map(({ node }) => node.id),
		['high']
	);
	assert.equal(heightOf(own, 'low'), 3);
	const gone = withoutOrphans(
		withGraph(own, 'main', (graph) => withoutNodes(graph, new Set(['high']))),
		own.graphs
	);
	assert.deepEqual(Object.keys(gone.graphs).sort(), [body, 'main'].sort());
});

test('wires dropped on a use, or on the edge of its body, make ports', () => {
	const wide = withInputFor(twoPosts(), 'main', ['tall', 'value'], 'low');
	const low = wide.graphs.main.nodes.find(({ id }) => id === 'low')!;
	assert.deepEqual(
		low.ports!.inputs.map(({ name }) => name),
		['height', 'value']
	);
	assert.ok(wide.graphs.main.wires.some(({ to }) => to.join() === 'low,value'));
	const edge = withPortAtEdge(wide, 'post', ['post', 'mesh'], true, [900, 0])!;
	assert.deepEqual(
		edge.document.graphs.main.nodes.find(({ id }) => id === 'high')!.ports!.outputs.map(({ name }) => name),
		['out', 'mesh']
	);
	assert.equal(heightOf(edge.document, 'high', 'mesh'), 5);
	assert.equal(withPortAtEdge(wide, 'main', ['tall', 'value'], true, [0, 0]), null);
	// A port that goes takes the wires at it with it.
	const less = withPorts(
		withGraph(edge.document, 'post', (graph) => withoutNodes(graph, new Set(['height'])))
	);
	assert.ok(!less.graphs.main.wires.some(({ to }) => to.join() === 'high,height'));
});

test('uses are pasted into another generator with their bodies, and keep their shapes', () => {
	const nested = withBodies([['subgraph', 'use', { body: 'pair' }]], {
		pair: [
			['subgraph', 'one', { body: 'post', height: 4 }],
			['output', 'end', { name: 'out', carries: 'geometry' }, { value: 'one.out' }]
		],
		post: POST
	});
	const clip = copyNodes(nested.graphs.main, new Set(['use']), nested.graphs);
	assert.deepEqual(Object.keys(clip.bodies!).sort(), ['pair', 'post']);
	const read = readClip(JSON.stringify(clip))!;
	assert.deepEqual(read.leftOut, []);
	// Another body of the same name stands there already.
	const other = withBodies([['subgraph', 'use', { body: 'post' }]], { post: [['box', 'post', {}]] });
	const { document, ids } = pasteInto(other, 'main', read.clip, [10, 10]);
	assert.equal(heightOf(document, ids[0]), 4);
	assert.equal(Object.keys(document.graphs).length, 4);
	// In the same generator the body is shared.
	const again = pasteInto(nested, 'main', clip, [10, 10]);
	assert.deepEqual(Object.keys(again.document.graphs).sort(), ['main', 'pair', 'post']);
	const opened = openDocument(writeDocument(document));
	assert.deepEqual(opened.leftOut, []);
	assert.deepEqual(opened.document.graphs, document.graphs);
});

test('names of ports are words that formulas can say', () => {
	assert.equal(portName('Leaf size'), 'leafSize');
	assert.equal(portName('  3 mm! '), 'mm');
	assert.equal(portName('', new Set(['input'])), 'input2');
	assert.equal(portName('Scale'), 'scaleInside');
	assert.equal(portName('__proto__'), 'proto');
});

test('the way into a body leads over the uses of those around it', () => {
	const document = withBodies([['subgraph', 'outer', { body: 'a' }]], {
		a: [['subgraph', 'inner', { body: 'b' }]],
		b: [['box', 'box', {}]],
		c: []
	});
	assert.deepEqual(wayInto(document, 'b'), ['outer', 'inner']);
	assert.deepEqual(wayInto(document, 'main'), []);
	assert.equal(wayInto(document, 'c'), null);
});

test('a ramp brought out shapes as it did inside, and at each use as that says', () => {
	const body: Row[] = [
		['row-of-points', 'row', { count: 9 }],
		['shape-weight', 'shaped', { ramp: { stops: [{ at: 0, value: 1, easing: 'held' }] } }, {}],
		[
			'displace',
			'moved',
			{ along: 'direction', direction: [0, 1, 0], amount: 2 },
			{ geometry: 'row.points', weight: 'shaped.weight' }
		],
		['output', 'end', { name: 'out', carries: 'geometry' }, { value: 'moved.geometry' }]
	];
	const before = withBodies([['subgraph', 'a', { body: 'b' }]], { b: body });
	const out = bringOut(before, 'b', 'shaped', 'ramp');
	assert.ok('document' in out, 'it is brought out');
	assert.equal(digestOf(geometryOf(out.document, 'a')), digestOf(geometryOf(before, 'a')));
	const flat = { stops: [{ at: 0, value: 0.25, easing: 'held' as const }] };
	const other = withGraph(out.document, 'main', (graph) => withSetting(graph, 'a', out.name, flat));
	const { result } = valueOf(other, 'a', 'out');
	assert.ok(Math.abs(result.bounds!.high[1] - 0.5) < 1e-6, String(result.bounds!.high[1]));
});

test('an Input pasted beside its like gets a name of its own, so that both count', () => {
	const document = twoPosts();
	const clip = copyNodes(document.graphs.post, new Set(['height', 'end']));
	const pasted = pasteInto(document, 'post', clip, [0, 50]);
	const use = pasted.document.graphs.main.nodes.find(({ id }) => id === 'low')!;
	assert.deepEqual(
		use.ports!.inputs.map(({ name }) => name),
		['height', 'height2']
	);
	assert.deepEqual(
		use.ports!.outputs.map(({ name }) => name),
		['out', 'out2']
	);
	assert.equal(heightOf(pasted.document, 'low'), 3);
});
