import assert from 'node:assert/strict';
import { test } from 'node:test';
import { generator } from '../testing/index.ts';
import {
	copyNodes,
	fitsInGraph,
	newDocument,
	openDocument,
	openRaw,
	pasteNodes,
	withKind,
	withShort,
	withoutNodes,
	writeDocument
} from './index.ts';
import type { GeneratorDocument } from './index.ts';

const small = (): GeneratorDocument =>
	generator([
		['grid', 'ground', { width: { low: 1, high: 2, stream: 'shared' } }],
		[
			'displace',
			'relief',
			{ amount: { formula: 'ground.columns * random(0, 1)', streams: ['f1'] } },
			{ geometry: 'ground.mesh' }
		],
		['sow-points', 'sown', { density: { low: 1, high: 2, stream: 'shared' } }, { surface: 'relief.geometry' }]
	]);

test('a document is written and read back the same', () => {
	const document = small();
	assert.deepEqual(openDocument(writeDocument(document)), { document, leftOut: [] });
});

test('a broken document opens as far as it can, with a list of what was left out', () => {
	const raw = JSON.parse(writeDocument(small()));
	raw.graphs.main.nodes[1].settings.amount = { nonsense: true };
	raw.graphs.main.nodes.push(
		{ id: 'zz', kind: 'no-such-kind', version: 1, short: 'odd', at: [0, 0], settings: {}, stream: 's' },
		{ id: 5 }
	);
	raw.graphs.main.wires.push({ from: ['nowhere', 'mesh'], to: ['n1', 'x'] });
	raw.seed = -4;
	const { document, leftOut } = openRaw(raw);
	assert.equal(document.graphs.main.nodes.length, 3);
	assert.equal(document.graphs.main.wires.length, 2);
	assert.equal(leftOut.length, 5);
	assert.match(leftOut.join(' '), /setting “amount” of node relief/);
	assert.match(leftOut.join(' '), /no kind of node “no-such-kind”/);
});

test('newer, foreign, deep and empty files are refused with a sentence', () => {
	assert.throws(() => openRaw({ ...newDocument(), version: 99 }), /made with a newer Embrell/);
	assert.throws(() => openDocument('{"format":"other"}'), /is not a generator/);
	assert.throws(() => openDocument(''), /is empty/);
	assert.throws(() => openDocument('[1, 2'), /not JSON/);
	assert.throws(() => openDocument('['.repeat(100)), /nested more than/);
});

test('names from a file never become keys of objects', () => {
	const raw = JSON.parse(writeDocument(small()));
	raw.graphs.main.nodes[0].settings = JSON.parse('{"__proto__": 5, "width": 3}');
	const { document } = openRaw(raw);
	assert.equal(document.graphs.main.nodes[0].settings.width, 3);
	assert.equal(({} as Record<string, unknown>).width, undefined);
});

test('a pasted set gets streams of its own, keeps those it shares, and follows its own references', () => {
	const document = small();
	const { graph, ids } = pasteNodes(
		document.graphs.main,
		copyNodes(document.graphs.main, new Set(['n1', 'n2', 'n3'])),
		[10, 10]
	);
	const [ground, relief, sown] = ids.map((id) => graph.nodes.find((node) => node.id === id)!);
	assert.deepEqual([ground.short, relief.short, sown.short], ['ground2', 'relief2', 'sown2']);
	const width = ground.settings.width as { stream: string },
		density = sown.settings.density as { stream: string };
	assert.notEqual(width.stream, 'shared');
	assert.equal(width.stream, density.stream, 'a stream shared inside the set stays shared');
	const amount = relief.settings.amount as { formula: string; streams: string[] };
	assert.equal(amount.formula, 'ground2.columns * random(0, 1)');
	assert.notEqual(amount.streams[0], 'f1');
	const alone = pasteNodes(document.graphs.main, copyNodes(document.graphs.main, new Set(['n2'])), [0, 0]);
	const copy = alone.graph.nodes.find((node) => node.id === alone.ids[0])!;
	assert.match(
		(copy.settings.amount as { formula: string }).formula,
		/^ground\.columns/,
		'references outside stay'
	);
	assert.ok(
		alone.graph.wires.some((wire) => wire.from[0] === 'n1' && wire.to[0] === copy.id),
		'wires from outside stay'
	);
});

test('renaming rewrites formulas, deleting heals the wire, changing the kind keeps what fits', () => {
	const { main } = small().graphs;
	const renamed = withShort(main, 'n1', 'mudflat');
	assert.equal(
		(renamed.nodes[1].settings.amount as { formula: string }).formula,
		'mudflat.columns * random(0, 1)'
	);
	const healed = withoutNodes(main, new Set(['n2']));
	assert.deepEqual(healed.wires, [{ from: ['n1', 'mesh'], to: ['n3', 'surface'] }]);
	const changed = withKind(main, 'n1', 'box');
	assert.equal(changed.nodes[0].kind, 'box');
	assert.equal(changed.wires.length, 2, 'the wire from its mesh is kept');
	const moved = withKind(main, 'n2', 'transform');
	assert.deepEqual(moved.wires.map((wire) => wire.to[1]).sort(), ['geometry', 'surface']);
});

test('wires that do not fit say why, and circles are refused with their path', () => {
	const { main } = small().graphs;
	const reason = (from: [string, string], to: [string, string]) => {
		const fit = fitsInGraph(main, from, to);
		return fit.fits ? '' : fit.reason;
	};
	assert.equal(reason(['n2', 'geometry'], ['n2', 'geometry']), 'This would make a circle: relief → relief.');
	assert.match(reason(['n3', 'points'], ['n2', 'geometry']), /circle: relief → sown → relief/);
	assert.match(reason(['n1', 'mesh'], ['n3', 'density']), /takes a value; geometry can be measured/);
	assert.match(reason(['n1', 'mesh'], ['n3', 'by']), /set by hand/);
});
