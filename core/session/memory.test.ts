/** Memory over a day's work: the ledger stays level, says what is held, and lets go of what nobody needs. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { isGeometry, withGraph, withSetting } from '../engine/index.ts';
import { boundsOf, expand } from '../geometry/index.ts';
import type { GeneratorDocument } from '../engine/index.ts';
import { generator } from '../testing/index.ts';
import { Shows } from './shows.ts';

/** A session with a page's memory of what it sent. */
function open(memory = 2e9) {
	const shows = new Shows({ memory });
	const { session } = shows;
	session.take({ kind: 'start', stop: null, name: 'a' });
	return {
		session,
		ledger: session.evaluator.ledger,
		show: (document: GeneratorDocument, shown: string[]) => shows.show(document, { shown }).picture
	};
}

const idOf = (document: GeneratorDocument, short: string): string =>
	document.graphs.main.nodes.find((node) => node.short === short)!.id;
const set = (document: GeneratorDocument, short: string, name: string, value: number) =>
	withGraph(document, 'main', (graph) => withSetting(graph, idOf(document, short), name, value));

const twoGrids = (side: number) =>
	generator([
		['grid', 'first', { columns: side, rows: side }],
		['grid', 'second', { columns: side, rows: side }],
		['displace-by-noise', 'waves', { amount: 0.2 }, { geometry: 'first.mesh' }]
	]);

test('a long drag with two nodes shown: the ledger stays level, and the last picture is as whole as the first', () => {
	const { show, ledger } = open();
	let document = twoGrids(60);
	const shown = [idOf(document, 'waves'), idOf(document, 'second')];
	const first = show(document, shown);
	const levels: number[] = [];
	for (let step = 1; step <= 200; step++) {
		document = set(document, 'waves', 'amount', 0.2 + step / 1000);
		const picture = show(document, shown);
		assert.equal(picture.packet.draws.length, first.packet.draws.length);
		if (step % 20 === 0) levels.push(ledger.held);
	}
	const [early, late] = [levels[1], levels.at(-1)!];
	// Results of earlier steps are kept while there is room for them; what they share counts once.
	const perStep = (late - early) / 160;
	const position = 61 * 61 * 12;
	assert.ok(perStep < 12 * position, `${perStep} bytes a step for a column of ${position}`);
});

test('with little room the ledger is level to the byte, and each picture is made', () => {
	const { show, ledger } = open(20e6);
	let document = twoGrids(100);
	const shown = [idOf(document, 'waves'), idOf(document, 'second')];
	let [low, high] = [Infinity, 0];
	for (let step = 0; step < 120; step++) {
		document = set(document, 'waves', 'amount', 0.2 + step / 1000);
		show(document, shown);
		if (step < 40) continue;
		low = Math.min(low, ledger.held);
		high = Math.max(high, ledger.held);
	}
	assert.ok(high <= 20e6 && high < 1.25 * low, `${low} to ${high}`);
	assert.equal(ledger.working, 0);
});

test('columns that many results share count once', () => {
	const rows = Array.from({ length: 40 }, (_, i) => [
		'material',
		`m${i}`,
		{},
		{ geometry: i ? `m${i - 1}.geometry` : 'grid.mesh' }
	]) as never[];
	const document = generator([['grid', 'grid', { columns: 300, rows: 300 }], ...rows]);
	const { show, ledger } = open(400e6);
	const alone = open();
	alone.show(document, [idOf(document, 'grid')]);
	const one = alone.ledger.held;
	show(document, [idOf(document, 'm39')]);
	// Each node adds its own column of materials: an int for each face.
	assert.ok(ledger.held < one + 41 * 300 * 300 * 4 * 1.5 + 40e6, `${ledger.held} against ${one}`);
});

test('what is let go of is held no more: nothing stays in the ledger when all holders are gone', () => {
	const { session, show, ledger } = open(30e6);
	let document = twoGrids(80);
	for (let step = 0; step < 30; step++) {
		document = set(document, 'first', 'width', 5 + step);
		show(document, [idOf(document, 'waves')]);
	}
	// Another generator: everything of the first goes, but what fits beside it.
	const other = generator([['box', 'box']]);
	session.take({ kind: 'start', stop: null, name: 'b' });
	show(other, [idOf(other, 'box')]);
	assert.ok(ledger.held <= 15e6, `${ledger.held}`);
});

test('bypassed merges make one geometry, however often they are evaluated', () => {
	const document = generator([
		['grid', 'a', { columns: 100, rows: 100 }],
		['grid', 'b', { columns: 100, rows: 100 }],
		['merge', 'both', {}, { geometry: ['a.mesh', 'b.mesh'] }]
	]);
	const bypassed = withGraph(document, 'main', (graph) => ({
		...graph,
		nodes: graph.nodes.map((node) => (node.short === 'both' ? { ...node, bypassed: true } : node))
	}));
	const { show, ledger } = open();
	show(bypassed, [idOf(document, 'both')]);
	const held = ledger.held;
	for (let i = 0; i < 100; i++) {
		const name = `Name ${i}`;
		const packet = show({ ...bypassed, name }, [idOf(document, 'both')]).packet;
		assert.equal(packet.objects.length, 0, 'nothing is sent again');
	}
	assert.equal(ledger.held, held);
});

test('a packer that follows another names nothing alike, and one that failed sends all again', () => {
	const document = generator([
		['row-of-points', 'row', { count: 5 }],
		['box', 'box'],
		['place-copies', 'copies', {}, { points: 'row.points', source: 'box.mesh' }]
	]);
	const names = (session: ReturnType<typeof open>) =>
		session.show(document, [idOf(document, 'copies')]).packet.draws.flatMap((d) => [d.object, d.matricesKey]);
	const one = open();
	const before = new Set(names(one));
	one.session.take({ kind: 'start', stop: null, name: 'z' });
	for (const name of names(one)) assert.ok(!before.has(name), `${name} was used before`);
	// Too little room for the picture of a result that fits.
	const narrow = open(3.2e6);
	const grid = generator([['grid', 'grid', { columns: 150, rows: 150 }]]);
	assert.throws(() => narrow.show(grid, [idOf(grid, 'grid')]), /memory/);
	const small = set(set(grid, 'grid', 'columns', 20), 'grid', 'rows', 20);
	assert.equal(narrow.show(small, [idOf(grid, 'grid')]).packet.objects.length, 1);
});

test('the box around what is shown is that of all its parts together', () => {
	const document = generator([
		['box', 'box', { size: [1, 2, 3] }],
		['grid', 'grid'],
		['transform', 'moved', { move: [7, 2, 0] }, { geometry: 'box.mesh' }]
	]);
	const { show, session } = open();
	const { bounds } = show(document, [idOf(document, 'moved'), idOf(document, 'grid')]);
	const all = session.evaluator.evaluate(
		generator([
			['box', 'box', { size: [1, 2, 3] }],
			['grid', 'grid'],
			['transform', 'moved', { move: [7, 2, 0] }, { geometry: 'box.mesh' }],
			['merge', 'both', {}, { geometry: ['moved.geometry', 'grid.mesh'] }]
		]),
		['n4']
	);
	const merged = [...all.results.get('n4')!.outputs.values()].find(isGeometry)!;
	assert.deepEqual(bounds, boundsOf(merged));
	assert.equal(expand(merged).length, 1);
});

test('an imported file counts, and all that was read from it, until nothing reads it any more', () => {
	const { session, ledger, show } = open();
	const hash = 'a'.repeat(64);
	const rows = Array.from({ length: 2000 }, (_, i) => `v ${i} 0 0\nv ${i} 1 0\nv ${i} 0 1\nf -3 -2 -1`);
	const bytes = new TextEncoder().encode(rows.join('\n'));
	const document = {
		...generator([['import-mesh', 'wreck', { file: hash }]]),
		assets: { [hash]: { name: 'wreck.obj', bytes: bytes.length } }
	};
	const empty = generator([['box', 'hull', {}]]);
	show(empty, [idOf(empty, 'hull')]);
	const before = ledger.held;
	session.take({ kind: 'asset', asset: { hash, name: 'wreck.obj', bytes } });
	assert.equal(ledger.held - before, bytes.length);
	session.take({ kind: 'asset', asset: { hash, name: 'wreck.obj', bytes: bytes.slice() } });
	assert.equal(ledger.held - before, bytes.length);
	show(document, [idOf(document, 'wreck')]);
	// 6,000 points of three numbers at least.
	assert.ok(ledger.held - before > bytes.length + 72_000);
	show(empty, [idOf(empty, 'hull')]);
	const kept = ledger.held;
	session.take({ kind: 'forget', assets: [hash] });
	assert.ok(kept - ledger.held >= bytes.length, `${kept - ledger.held}`);
	session.take({ kind: 'forget', assets: [hash] });
	assert.equal(ledger.isHeld(bytes), false);
});
