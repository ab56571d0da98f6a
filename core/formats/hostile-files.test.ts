/** Small files that were made to swell, or to take very long: each is refused before it has, or read in time. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { strToU8, zipSync } from 'fflate';
import { encode as encodePng } from 'fast-png';
import { encode as encodeJpeg } from 'jpeg-js';
import { Ledger } from '../geometry/index.ts';
import { readMesh, readPicture, unpackGenerator } from './index.ts';

/** A file that hangs its reader would hang the run: each of these takes a moment. */
const SOON = { timeout: 20_000 };

const asset = (digit: string) => `assets/${digit.repeat(64)}`;
/** How often a reader asks whether to stop, and what it says. */
function asked(work: () => unknown): { polls: number; said: string } {
	let polls = 0;
	let said = '';
	try {
		new Ledger({ poll: () => void polls++ }).work(work);
	} catch (error) {
		said = (error as Error).message;
	}
	return { polls, said };
}

test(
	'an archive that swells is refused long before all of it is out, also where it lies about its sizes',
	SOON,
	() => {
		const bomb = zipSync({ 'document.json': strToU8('{}'), [asset('a')]: new Uint8Array(60e6) });
		assert.ok(bomb.length < 80e3);
		const liar = bomb.slice();
		const view = new DataView(liar.buffer);
		for (let i = 0; i + 46 < liar.length; i++) {
			const mark = view.getUint32(i, true);
			const at = mark === 0x02014b50 ? i + 24 : mark === 0x04034b50 ? i + 22 : -1;
			if (at >= 0 && view.getUint32(at, true) > 1e7) view.setUint32(at, 1000, true);
		}
		for (const file of [bomb, liar]) {
			const { said, polls } = asked(() => unpackGenerator(file, 'tide.zip'));
			assert.match(said, /^tide\.zip has \d+ kB and unpacks to more than \d+ MB\. It is damaged, or made to/);
			assert.ok(polls < 40, `${polls} pieces were fed`);
		}
	}
);

test('an archive that shrinks as meshes do is opened', () => {
	const numbers = Float32Array.from({ length: 500_000 }, (_, i) => (i % 1000) / 8);
	const file = zipSync({ 'document.json': strToU8('{}'), 'other.txt': new Uint8Array(numbers.buffer) });
	assert.equal(unpackGenerator(file, 'rope.zip').text, '{}');
});

test('entries that all point at the same data, and a false count of entries, are no work', SOON, () => {
	const one = zipSync({ [asset('a')]: new Uint8Array(10e6) });
	const view = new DataView(one.buffer, one.byteOffset, one.byteLength);
	const end = one.length - 22;
	const directory = view.getUint32(end + 16, true);
	const entry = one.slice(directory, end);
	const entries = Array.from({ length: 1000 }, (_, i) => {
		const named = entry.slice();
		named.set(strToU8(i.toString(16).padStart(64, '0')), 46 + 7);
		return named;
	});
	const last = one.slice(end);
	const counts = new DataView(last.buffer);
	for (const at of [8, 10]) counts.setUint16(at, entries.length, true);
	counts.setUint32(12, entry.length * entries.length, true);
	const over = new Uint8Array(Buffer.concat([one.slice(0, directory), ...entries, last]));
	assert.match(asked(() => unpackGenerator(over, 'over.zip')).said, /without a document\.json/);

	const short = new Uint8Array(102);
	short.set([0x50, 0x4b, 3, 4]);
	const tail = new DataView(short.buffer);
	tail.setUint32(80, 0x06054b50, true);
	for (const at of [88, 90]) tail.setUint16(at, 65535, true);
	assert.match(asked(() => unpackGenerator(short, 'short.zip')).said, /archive/);
});

test('a JPEG of very many scans is refused; one that gets clearer as it comes is not', SOON, () => {
	const picture = encodeJpeg({ width: 64, height: 64, data: new Uint8Array(64 * 64 * 4).fill(120) }, 90).data;
	let scan = 2;
	while (picture[scan + 1] !== 0xda) scan += 2 + picture[scan + 2] * 256 + picture[scan + 3];
	const scans = (n: number) =>
		new Uint8Array(
			Buffer.concat([
				picture.subarray(0, scan),
				...Array.from({ length: n }, () => picture.subarray(scan, picture.length - 2)),
				picture.subarray(picture.length - 2)
			])
		);
	const read = (n: number) => asked(() => readPicture({ name: 'tide.jpg', bytes: scans(n) }, 'red')).said;
	assert.equal(read(12), '');
	for (const n of [101, 20_000])
		assert.equal(
			read(n),
			'tide.jpg has more than 100 scans, far more than a JPEG picture of its size needs. Save it again.'
		);
});

test('a PNG of one pixel in very many empty chunks is read; chunks that come again are refused', SOON, () => {
	const png = encodePng({ width: 1, height: 1, channels: 3, depth: 8, data: new Uint8Array([9, 51, 99]) });
	const chunk = Buffer.alloc(12);
	const filled = (kind: string, bytes: number) => {
		chunk.write(kind, 4);
		return Buffer.alloc(bytes, chunk);
	};
	const [head, rest] = [png.subarray(0, 33), png.subarray(33)];
	const read = (kind: string, bytes: number) => {
		const file = new Uint8Array(Buffer.concat([head, filled(kind, bytes), rest]));
		let red = NaN;
		const { polls, said } = asked(
			() => (red = readPicture({ name: 'tide.png', bytes: file }, 'red').data[0])
		);
		return { polls, said, red };
	};
	for (const kind of ['IDAT', 'tEXt']) {
		const counts = [6e6, 12e6, 24e6].map((bytes) => read(kind, bytes));
		assert.deepEqual(new Set(counts.map(({ polls }) => polls)).size, 1, 'no more work than for one pixel');
		assert.ok(counts.every(({ red }) => Math.abs(red - 9 / 255) < 1e-6));
	}
	assert.match(read('PLTE', 24e6).said, /^tide\.png is cut off or broken/);
});

test('an STL whose places were made to meet in a table is welded as any other', SOON, () => {
	// Places for which 3x ^ 5y ^ 7z of their bits is 0, as a plain table would mix them.
	const count = 100_000;
	const file = new Uint8Array(84 + 50 * count);
	const view = new DataView(file.buffer);
	view.setUint32(80, count, true);
	const third = 0xb6db6db7; // 7 times this is 1, in 32 bits.
	const isNumber = (bits: number) => (bits & 0x7f800000) !== 0x7f800000;
	let corner = 0;
	for (let i = 0; corner < 3 * count; i++) {
		const [x, y] = [0x3f800000 + 7 * i, 0x3f800000 + (Math.imul(i, 2654435761) & 0xfffff)];
		const z = Math.imul(third, Math.imul(x, 3) ^ Math.imul(y, 5));
		if (!isNumber(z)) continue;
		const at = 84 + 50 * Math.floor(corner / 3) + 12 + 12 * (corner % 3);
		[x, y, z].forEach((bits, k) => view.setInt32(at + 4 * k, bits | 0, true));
		corner++;
	}
	const { geometry } = readMesh({ name: 'tide.stl', bytes: file });
	assert.equal(geometry.mesh!.points.count, 3 * count);
});
