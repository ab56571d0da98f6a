import assert from 'node:assert/strict';
import { test } from 'node:test';
import { deflateSync } from 'node:zlib';
import { encode as encodePng } from 'fast-png';
import { encode as encodeJpeg } from 'jpeg-js';
import { Evaluator } from '../engine/index.ts';
import { hashBytes } from './index.ts';
import type { Asset, Geometry } from '../geometry/index.ts';
import { evaluateAll, generator } from '../testing/index.ts';
import { readPicture } from './image.ts';

const png = (width: number, height: number, channels: 1 | 2 | 3 | 4, data: number[], depth: 8 | 16 = 8) =>
	encodePng({
		width,
		height,
		channels,
		depth,
		data: depth === 16 ? Uint16Array.from(data) : Uint8Array.from(data)
	});
const values = (bytes: Uint8Array, channel: Parameters<typeof readPicture>[1]) =>
	[...readPicture({ name: 'p.png', bytes }, channel).data].map((x) => Math.round(x * 1000) / 1000);

/** A PNG from chunks, so that each byte can be chosen. */
function chunks(...parts: [string, Uint8Array | number[]][]): Uint8Array {
	const table = Array.from({ length: 256 }, (_, n) => {
		for (let k = 0; k < 8; k++) n = n & 1 ? 0xedb88320 ^ (n >>> 1) : n >>> 1;
		return n;
	});
	const out = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];
	const word = (x: number) => [x >>> 24, (x >> 16) & 255, (x >> 8) & 255, x & 255];
	for (const [kind, data] of parts) {
		const body = [...kind].map((c) => c.charCodeAt(0)).concat([...data]);
		let crc = -1;
		for (const byte of body) crc = table[(crc ^ byte) & 255] ^ (crc >>> 8);
		out.push(...word(data.length), ...body, ...word(~crc));
	}
	return Uint8Array.from(out);
}
const header = (width: number, height: number, depth: number, type: number): [string, number[]] => [
	'IHDR',
	[
		...[width, height].flatMap((x) => [x >>> 24, (x >> 16) & 255, (x >> 8) & 255, x & 255]),
		depth,
		type,
		0,
		0,
		0
	]
];

test('channels of pictures of every depth are read as they are stored', () => {
	const colours = png(2, 1, 4, [255, 0, 51, 255, 0, 255, 102, 51]);
	assert.deepEqual(values(colours, 'red'), [1, 0]);
	assert.deepEqual(values(colours, 'green'), [0, 1]);
	assert.deepEqual(values(colours, 'blue'), [0.2, 0.4]);
	assert.deepEqual(values(colours, 'opacity'), [1, 0.2]);
	assert.deepEqual(values(colours, 'brightness'), [0.227, 0.744]);
	assert.deepEqual(values(png(2, 1, 1, [0, 32768], 16), 'brightness'), [0, 0.5]);
	assert.deepEqual(values(png(2, 1, 1, [0, 255]), 'opacity'), [1, 1]);
	// One bit a pixel, five pixels in a row of one byte, two rows.
	const bits = chunks(
		header(5, 2, 1, 0),
		['IDAT', deflateSync(Uint8Array.of(0, 0b10101000, 0, 0b01000000))],
		['IEND', []]
	);
	assert.deepEqual(values(bits, 'red'), [1, 0, 1, 0, 1, 0, 1, 0, 0, 0]);
	const indexed = chunks(
		header(3, 1, 2, 3),
		['PLTE', [0, 0, 0, 255, 255, 255, 51, 51, 51]],
		['IDAT', deflateSync(Uint8Array.of(0, 0b00011000))],
		['IEND', []]
	);
	assert.deepEqual(values(indexed, 'brightness'), [0, 1, 0.2]);
	const grey = encodeJpeg({ width: 16, height: 16, data: new Uint8Array(1024).fill(128) }, 95).data;
	const jpeg = readPicture({ name: 'p.jpg', bytes: new Uint8Array(grey) }, 'brightness');
	assert.deepEqual([jpeg.width, jpeg.height], [16, 16]);
	assert.ok(
		[...jpeg.data].every((x) => Math.abs(x - 0.502) < 0.01),
		'an even grey'
	);
});

test('pictures that are none, are cut off, too large or swollen are refused in a sentence', () => {
	const good = png(4, 4, 3, new Array(48).fill(7));
	const bomb = chunks(header(4, 4, 8, 0), ['IDAT', deflateSync(new Uint8Array(50_000_000))], ['IEND', []]);
	for (const [bytes, says] of [
		[new Uint8Array(0), /0 bytes/],
		[Uint8Array.from([...'GIF89a__'].map((c) => c.charCodeAt(0))), /not a PNG or JPEG/],
		[good.slice(0, 40), /cut off or broken/],
		[good.slice(0, good.length - 20), /cut off or broken/],
		[chunks(header(60_000, 60_000, 8, 0), ['IEND', []]), /60000 × 60000 pixels/],
		[chunks(header(0, 5, 8, 0), ['IEND', []]), /no pixels/],
		[chunks(header(4, 4, 8, 0), ['IEND', []]), /cut off or broken/],
		[bomb, /far more data/],
		[Uint8Array.of(0xff, 0xd8, 0xff, 0xe0, 0, 4, 1, 2), /cut off or broken/]
	] as const)
		assert.throws(() => readPicture({ name: 'mask.png', bytes }, 'red'), says);
});

test('a picture weighs where it lies: on the ground, on UVs, repeated or once', () => {
	// Two by two: the upper left is white.
	const bytes = png(2, 2, 1, [255, 0, 0, 0]);
	const asset: Asset = { hash: hashBytes(bytes), name: 'corner.png', bytes };
	const at = (x: number, z: number) => [x, 0, z];
	const rows = (settings: object, input = 'spots.curve') =>
		generator([
			[
				'draw-curve',
				'spots',
				{
					type: 'straight',
					path: { path: [at(-1, -1), at(1, -1), at(-1, 1), at(3, -1)].map((p) => ({ at: p })) }
				}
			],
			['grid', 'sheet', { width: 4, depth: 4, columns: 4, rows: 4 }],
			[
				'weight-by-pattern',
				'mask',
				{ pattern: 'picture', file: asset.hash, width: 4, height: 4, ...settings }
			],
			[
				'write-attribute',
				'shown',
				{ name: 'w', elements: 'point' },
				{ geometry: input, value: 'mask.weight' }
			]
		]);
	const read = (settings: object, input = 'spots.curve') => {
		const document = rows(settings, input);
		const run = evaluateAll(document, {}, new Evaluator({ asset: () => asset }));
		const found: Geometry = run.geometry('shown');
		return [...(found.mesh ?? found.curves)!.points.columns.get('w')!.data];
	};
	assert.deepEqual(read({ repeats: true }), [1, 0, 0, 1]);
	assert.deepEqual(read({ repeats: false }), [1, 0, 0, 0]);
	assert.deepEqual(read({ repeats: false, centre: [2, 0, 0] }), [0, 1, 0, 0]);
	// On UVs the upper left is u near 0, v near 1.
	const sheet = read({ across: 'uv', width: 1, height: 1, repeats: false }, 'sheet.mesh');
	assert.ok(
		Math.max(...sheet) === 1 && sheet.filter((w) => w > 0.99).length < sheet.length / 2,
		String(sheet)
	);
	const missing = evaluateAll(generator([['weight-by-pattern', 'mask', { pattern: 'picture' }]]));
	assert.match(missing.warnings('mask')[0], /No picture is chosen/);
});
