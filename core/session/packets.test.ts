import assert from 'node:assert/strict';
import { test } from 'node:test';
import { withSetting } from '../engine/index.ts';
import { Ledger, boundsOf, countsOf } from '../geometry/index.ts';
import type { Geometry } from '../geometry/index.ts';
import { evaluateAll, generator } from '../testing/index.ts';
import { Evaluator } from '../engine/index.ts';
import { Packer } from './packets.ts';

const document = generator([
	['box', 'box', { size: [1, 2, 3] }],
	['material', 'red', { colour: [1, 0, 0] }, { geometry: 'box.mesh' }],
	['row-of-points', 'row', { count: 4, spacing: 5 }],
	['place-copies', 'copies', {}, { points: 'row.points', source: 'red.geometry' }],
	['helix', 'spring', {}],
	['merge', 'all', {}, { geometry: ['copies.copies', 'box.mesh', 'spring.curve', 'row.points'] }]
]);
const shown = (geometry: Geometry, node = 'n') => [{ node, geometry, ghost: false }];

/** The lowest and highest place that a packet draws. */
function boundsDrawn(packet: ReturnType<Packer['pack']>): number[][] {
	const low = [Infinity, Infinity, Infinity],
		high = [-Infinity, -Infinity, -Infinity];
	for (const { object, matrices, count } of packet.draws) {
		const { positions, index } = packet.objects.find(({ key }) => key === object)!;
		const rows = index ? [...new Set(index)] : [...Array(positions.length / 3).keys()];
		for (let c = 0; c < count; c++)
			for (const row of rows) {
				const p = positions.subarray(3 * row, 3 * row + 3);
				for (let k = 0; k < 3; k++) {
					const m = matrices?.subarray(16 * c, 16 * c + 16);
					const x = m ? m[k] * p[0] + m[4 + k] * p[1] + m[8 + k] * p[2] + m[12 + k] : p[k];
					low[k] = Math.min(low[k], x);
					high[k] = Math.max(high[k], x);
				}
			}
	}
	return [low, high];
}

test('a packet draws every part of a geometry where it stands, each source once', () => {
	const geometry = evaluateAll(document).geometry('all');
	const packet = new Packer(new Ledger()).pack(shown(geometry), false);
	const { low, high } = boundsOf(geometry)!;
	assert.deepEqual(boundsDrawn(packet), [low, high]);
	assert.deepEqual(packet.objects.map(({ kind }) => kind).sort(), ['lines', 'mesh', 'mesh', 'points']);
	assert.equal(
		packet.draws.filter(({ matricesKey }) => matricesKey).reduce((sum, { count }) => sum + count, 0),
		countsOf(geometry).copies
	);
});

test('what the page has is not sent again; moved copies send their places and nothing else', () => {
	const evaluator = new Evaluator();
	const packer = new Packer(new Ledger());
	const { nodes } = document.graphs.main;
	const idOf = (short: string) => nodes.find((node) => node.short === short)!.id;
	const pack = (move: number) => {
		const main = withSetting(document.graphs.main, idOf('copies'), 'offset', [0, move, 0]);
		const { results } = evaluator.evaluate({ ...document, graphs: { main } }, [idOf('all')]);
		return packer.pack(shown(results.get(idOf('all'))!.outputs.get('geometry') as Geometry), false);
	};
	const first = pack(0);
	assert.equal(first.objects.length, 4);
	const again = pack(0);
	assert.deepEqual(
		[again.objects, again.draws.map(({ matrices }) => matrices)],
		[[], again.draws.map(() => null)]
	);
	assert.deepEqual(
		again.draws.map(({ object }) => object),
		first.draws.map(({ object }) => object)
	);
	const moved = pack(2);
	const source = moved.draws.find(({ matrices }) => matrices)!.object;
	assert.ok(first.objects.some(({ key }) => key === source));
	assert.ok(!moved.objects.some(({ key }) => key === source), 'the source is not sent again');
	const places = moved.draws.find(({ matrices }) => matrices)!.matrices!;
	assert.deepEqual(
		[0, 1, 2, 3].map((i) => places[16 * i + 13]),
		[2, 2, 2, 2]
	);
	// What is no longer shown is forgotten, and sent anew when it comes back.
	packer.pack([], false);
	assert.equal(pack(2).objects.length, 4);
});

test('edges come with a mesh only when they are drawn', () => {
	const geometry = evaluateAll(document).geometry('box');
	const plain = new Packer(new Ledger()).pack(shown(geometry), false).objects[0];
	const wired = new Packer(new Ledger()).pack(shown(geometry), true).objects[0];
	assert.equal(plain.edges ?? null, null);
	assert.equal(wired.edges!.length, 12 * 2 * 3);
	assert.equal(wired.index!.length, 36);
});

test('colours of points and of copies are sent as they look on a screen, and a new colour under a new name', () => {
	const packed = (r: number) => {
		const run = evaluateAll(
			generator([
				['grid', 'flat', { columns: 1, rows: 1 }],
				[
					'write-attribute',
					'red',
					{ name: 'colour', type: 'colour', value: [r, 0.5, 0] },
					{ geometry: 'flat.mesh' }
				],
				['row-of-points', 'row', { count: 3 }],
				[
					'write-attribute',
					'dyed',
					{ name: 'colour', type: 'colour', value: [{ formula: 'index / 2', streams: [] }, 0, 1] },
					{ geometry: 'row.points' }
				],
				['place-copies', 'reds', {}, { points: 'dyed.geometry', source: 'flat.mesh' }]
			])
		);
		return {
			run,
			packet: new Packer(new Ledger()).pack(
				[
					{ node: 'a', geometry: run.geometry('red'), ghost: false },
					{ node: 'b', geometry: run.geometry('reds'), ghost: false }
				],
				false
			)
		};
	};
	const { packet } = packed(1);
	const [flat, source] = packet.objects;
	assert.deepEqual([flat.painted, [...flat.colours!.subarray(0, 3)]], [true, [255, 188, 0]]);
	assert.ok(!source.colours);
	const copies = packet.draws.find(({ node }) => node === 'b')!;
	assert.equal(copies.painted, true);
	// Each place has the colour of its copy, in whatever order they come.
	const red = new Map(
		[0, 1, 2].map((i) => [copies.matrices![16 * i + 12], copies.colours!.subarray(3 * i, 3 * i + 3)])
	);
	assert.deepEqual(
		[...red].sort(([a], [b]) => a - b).flatMap(([, colour]) => [...colour]),
		[0, 0, 255, 188, 0, 255, 255, 0, 255]
	);
	assert.notEqual(packed(0.5).packet.objects[0].key, flat.key);
});
