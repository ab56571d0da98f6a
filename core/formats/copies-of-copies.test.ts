/** Copies of copies keep their colours and attributes: in the View, as a mesh, and in files. The innermost that has one counts. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { PLYLoader } from 'three/examples/jsm/loaders/PLYLoader.js';
import validator from 'gltf-validator';
import { Ledger } from '../geometry/index.ts';
import type { PacketDraw } from '../session/messages.ts';
import { Packer } from '../session/packets.ts';
import type { Row } from '../testing/index.ts';
import { evaluateAll, generator } from '../testing/index.ts';
import { writeGlb, writePly } from './index.ts';

const formula = (text: string) => ({ formula: text, streams: [] });
const told = (short: string, from: string, name: string, value: unknown, type = 'auto'): Row => [
	'write-attribute',
	short,
	{ name, elements: 'copy', type, value },
	{ geometry: from }
];
/** A row of two floats of their own colours and sizes, on each of three ropes that have a length, and some a colour. */
const nested = (outerColour: boolean) =>
	evaluateAll(
		generator([
			['box', 'cork', {}],
			['row-of-points', 'two', { count: 2 }],
			['place-copies', 'floats', {}, { points: 'two.points', source: 'cork.mesh' }],
			told('sized', 'floats.copies', 'size', formula('10 + index')),
			told('dyed', 'sized.geometry', 'colour', formula('vec(index, 0, 0)'), 'colour'),
			['row-of-points', 'three', { count: 3 }],
			['place-copies', 'ropes', {}, { points: 'three.points', source: 'dyed.geometry' }],
			told('long', 'ropes.copies', 'length', formula('index * 5')),
			told('both', 'long.geometry', 'size', -1),
			...(outerColour ? [told('last', 'both.geometry', 'colour', formula('vec(0, 1, 0)'), 'colour')] : []),
			['copies-to-mesh', 'all', {}, { copies: outerColour ? 'last.geometry' : 'both.geometry' }]
		])
	);
const column = (run: ReturnType<typeof nested>, name: string): number[] => [
	...run.geometry('all').mesh!.points.columns.get(name)!.data
];
const eachOf = (values: readonly number[], times: number) =>
	values.flatMap((value) => Array<number>(times).fill(value));

test('as a mesh: points have what every copy that they lie in had, the nearest first', () => {
	const run = nested(true);
	assert.deepEqual(column(run, 'size'), eachOf([10, 11, 10, 11, 10, 11], 8));
	assert.deepEqual(column(run, 'length'), eachOf([0, 5, 10], 16));
	assert.deepEqual(column(run, 'copy'), eachOf([0, 1, 2], 16));
	assert.deepEqual(
		column(run, 'colour').filter((_, k) => k % 3 === 0),
		eachOf([0, 1, 0, 1, 0, 1], 8)
	);
});

/** One channel of the colours of all places: they are drawn in an order of their own. */
const channel = ({ colours }: PacketDraw, which: number): number[] =>
	[...colours!].filter((_, k) => k % 3 === which).sort((a, b) => a - b);

test('in the View each place has the colour of its innermost copy', () => {
	const packet = new Packer(new Ledger()).pack(
		[{ node: 'n', geometry: nested(true).geometry('last'), ghost: false }],
		false
	);
	const [draw] = packet.draws;
	assert.deepEqual([draw.count, draw.painted], [6, true]);
	assert.deepEqual(channel(draw, 0), [0, 0, 0, 255, 255, 255]);
	// Where only the outer ones have colours, those.
	const outer = evaluateAll(
		generator([
			['box', 'cork', {}],
			['row-of-points', 'two', { count: 2 }],
			['place-copies', 'floats', {}, { points: 'two.points', source: 'cork.mesh' }],
			['place-copies', 'ropes', {}, { points: 'two.points', source: 'floats.copies' }],
			told('dyed', 'ropes.copies', 'colour', formula('vec(0, 0, index)'), 'colour')
		])
	).geometry('dyed');
	const [plain] = new Packer(new Ledger()).pack([{ node: 'n', geometry: outer, ghost: false }], false).draws;
	assert.deepEqual(channel(plain, 2), [0, 0, 255, 255]);
});

test('a GLB keeps colours and chosen attributes of each place; a PLY its colours', async () => {
	const geometry = nested(false).geometry('both');
	const [glb, ply] = new Ledger().work(() => [
		writeGlb(geometry, {
			attributes: [
				{ name: 'size', as: 'size' },
				{ name: 'length', as: 'length' }
			]
		}),
		writePly(geometry)
	]);
	assert.equal((await validator.validateBytes(glb)).issues.numErrors, 0);
	const view = new DataView(glb.buffer);
	const json = JSON.parse(new TextDecoder().decode(glb.subarray(20, 20 + view.getUint32(12, true))));
	const { attributes } = json.nodes.find((one: { extensions?: object }) => one.extensions).extensions
		.EXT_mesh_gpu_instancing;
	const read = (place: number, width: number): number[] => {
		const accessor = json.accessors[place];
		const start = 20 + view.getUint32(12, true) + 8 + json.bufferViews[accessor.bufferView].byteOffset;
		return Array.from({ length: accessor.count * width }, (_, i) => view.getFloat32(start + 4 * i, true));
	};
	assert.deepEqual(read(attributes._SIZE, 1), [10, 11, 10, 11, 10, 11]);
	assert.deepEqual(read(attributes._LENGTH, 1), [0, 0, 5, 5, 10, 10]);
	assert.equal(json.accessors[attributes._COLOR_0].count, 6);
	const colour = new PLYLoader().parse(ply.buffer as ArrayBuffer).attributes.color;
	assert.equal(colour.count, 48);
	const red = Array.from({ length: 48 }, (_, i) => Math.round(colour.getX(i)));
	assert.deepEqual(red, eachOf([0, 1, 0, 1, 0, 1], 8));
});
