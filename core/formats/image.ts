/** Pictures as numbers: PNG and JPEG, decoded by common libraries after their declared sizes are checked. */
import { Unzlib } from 'fflate';
import { convertIndexedToRgb, decode as decodePng } from 'fast-png';
import { decode as decodeJpeg } from 'jpeg-js';
import { NodeError, Stopped } from '../math/index.ts';
import { allocate, derive, formatBytes, poll } from '../geometry/index.ts';

/** A picture: rows from the top, `channels` numbers for each pixel: grey, grey and opacity, colours, or all four. */
interface Picture {
	width: number;
	height: number;
	channels: number;
	data: Uint8Array | Uint16Array;
	/** The number that stands for 1. */
	most: number;
}

export type Channel = 'brightness' | 'red' | 'green' | 'blue' | 'opacity';

/** One number from 0 to 1 for each pixel, rows from the top. */
export type GreyPicture = {
	width: number;
	height: number;
	data: Float32Array;
};

const LARGEST_PICTURE_FILE = 64_000_000;
const MOST_PIXELS = 4096 * 4096;

/**
 * One channel of a PNG or JPEG file, as stored, without any correction for screens; brightness is weighted as the eye
 * does. Kept with the bytes. Throws NodeError with a sentence that says what is wrong.
 */
export function readPicture(file: { name: string; bytes: Uint8Array }, channel: Channel): GreyPicture {
	return derive(file.bytes, `picture ${channel}`, () => takeChannel(pictureOf(file), channel));
}

function pictureOf({ name, bytes }: { name: string; bytes: Uint8Array }): Picture {
	return derive(bytes, 'picture', () => {
		if (bytes.length === 0) throw new NodeError(`${name} has 0 bytes: there is nothing in it.`);
		if (bytes.length > LARGEST_PICTURE_FILE)
			throw new NodeError(
				`${name} has ${formatBytes(bytes.length)}; pictures of at most ${formatBytes(LARGEST_PICTURE_FILE)} are read.`
			);
		const start = [...bytes.subarray(0, 8)].map((byte) => byte.toString(16).padStart(2, '0')).join('');
		if (start === '89504e470d0a1a0a') return readPng(bytes, name);
		if (start.startsWith('ffd8ff')) return readJpeg(bytes, name);
		throw new NodeError(
			`${name} is not a PNG or JPEG picture: it begins differently. Save it as PNG and choose it again.`
		);
	});
}

function checkSize(name: string, width: number, height: number): void {
	if (!(width > 0 && height > 0)) throw new NodeError(`${name} says that it has no pixels.`);
	if (width * height > MOST_PIXELS)
		throw new NodeError(
			`${name} is ${width} × ${height} pixels; at most ${MOST_PIXELS / 1e6} million are read. Make it smaller.`
		);
}

const broken = (name: string, kind: string): NodeError =>
	new NodeError(`${name} is cut off or broken: its ${kind} data do not fit together. Save it again.`);

const wordOf = (kind: string): number => [...kind].reduce((word, c) => word * 256 + c.charCodeAt(0), 0);
const [IHDR, PLTE, TRNS, IDAT, IEND] = ['IHDR', 'PLTE', 'tRNS', 'IDAT', 'IEND'].map(wordOf);

function readPng(bytes: Uint8Array, name: string): Picture {
	const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
	// What is needed to show it; texts, profiles and animations are dropped before the library sees them.
	const before: Uint8Array[] = [bytes.subarray(0, 8)];
	// All pixels as one chunk, however many empty ones they came in.
	const pixels = new Uint8Array(bytes.length);
	let size = 0,
		expected = 0;
	for (let at = 8, kind = 0; kind !== IEND;) {
		if (at + 12 > bytes.length) throw broken(name, 'PNG');
		const length = view.getUint32(at);
		if (at + 12 + length > bytes.length) throw broken(name, 'PNG');
		kind = view.getUint32(at + 4);
		if (kind === IHDR) {
			if (length !== 13 || expected) throw broken(name, 'PNG');
			const [width, height] = [view.getUint32(at + 8), view.getUint32(at + 12)];
			checkSize(name, width, height);
			const channels = [1, 0, 3, 1, 2, 0, 4][bytes[at + 17]] ?? 0;
			if (!channels) throw broken(name, 'PNG');
			// A byte before each row; interlacing adds some more rows.
			expected = Math.ceil((width * channels * bytes[at + 16]) / 8 + 1) * height * 2 + 1024;
		} else if (!expected) throw broken(name, 'PNG');
		if (kind === IDAT && length) {
			pixels.set(bytes.subarray(at + 8, at + 8 + length), size);
			size += length;
		}
		const isOnce = kind === IHDR || kind === PLTE || kind === TRNS;
		if (isOnce) before.push(bytes.subarray(at, at + 12 + length));
		if (before.length > MOST_HEADS) throw broken(name, 'PNG');
		at += 12 + length;
	}
	const data = pixels.subarray(0, size);
	checkInflated(data, expected, name);
	const plain = withChunks(before, [
		['IDAT', data],
		['IEND', new Uint8Array()]
	]);
	try {
		const png = decodePng(plain);
		const { width, height, depth } = png;
		if (png.palette)
			return {
				width,
				height,
				channels: png.palette[0].length,
				data: convertIndexedToRgb(png),
				most: 255
			};
		const most = (1 << depth) - 1;
		if (depth < 8)
			return { width, height, channels: 1, data: unpacked(png.data, width, height, depth), most };
		return { width, height, channels: png.channels, data: png.data as Uint8Array | Uint16Array, most };
	} catch {
		throw broken(name, 'PNG');
	}
}

/** A header, a palette, its opacities: each comes once. With the first bytes, four. */
const MOST_HEADS = 4;

/** Chunks as they came, and others made: a length, a kind, the data, and a check at which the library does not look. */
function withChunks(
	before: readonly Uint8Array[],
	made: readonly (readonly [kind: string, data: Uint8Array])[]
): Uint8Array {
	const length =
		before.reduce((sum, part) => sum + part.length, 0) +
		made.reduce((sum, [, data]) => sum + data.length + 12, 0);
	const whole = new Uint8Array(length);
	const view = new DataView(whole.buffer);
	let at = 0;
	for (const part of before) {
		whole.set(part, at);
		at += part.length;
	}
	for (const [kind, data] of made) {
		view.setUint32(at, data.length);
		view.setUint32(at + 4, wordOf(kind));
		whole.set(data, at + 8);
		at += data.length + 12;
	}
	return whole;
}

/** Inflates without keeping anything, and stops as soon as more comes than the picture’s size allows. */
function checkInflated(data: Uint8Array, most: number, name: string): void {
	let sum = 0;
	const inflater = new Unzlib((chunk) => {
		sum += chunk.length;
		if (sum > most)
			throw new NodeError(`${name} holds far more data than a picture of its size. It was not read.`);
	});
	const step = 65536;
	try {
		for (let at = 0; at < data.length || at === 0; at += step) {
			poll();
			inflater.push(data.subarray(at, at + step), at + step >= data.length);
		}
	} catch (error) {
		throw error instanceof NodeError || error instanceof Stopped ? error : broken(name, 'PNG');
	}
}

function unpacked(data: ArrayLike<number>, width: number, height: number, depth: number): Uint8Array {
	const out = new Uint8Array(width * height);
	const row = Math.ceil((width * depth) / 8);
	for (let y = 0; y < height; y++)
		for (let x = 0; x < width; x++) {
			const bit = x * depth;
			out[y * width + x] = (data[y * row + (bit >> 3)] >> (8 - depth - (bit & 7))) & ((1 << depth) - 1);
		}
	return out;
}

function readJpeg(bytes: Uint8Array, name: string): Picture {
	checkJpeg(bytes, name);
	try {
		const jpeg = decodeJpeg(bytes, {
			useTArray: true,
			formatAsRGBA: false,
			tolerantDecoding: false,
			maxResolutionInMP: MOST_PIXELS / 1e6 + 1,
			maxMemoryUsageInMB: 512
		});
		return { width: jpeg.width, height: jpeg.height, channels: 3, data: jpeg.data, most: 255 };
	} catch {
		throw broken(name, 'JPEG');
	}
}

/** A picture that gets clearer as it comes has a dozen scans; each costs a look at all its pixels. */
const MOST_SCANS = 100;
const MOST_LOOKED_AT = 20 * MOST_PIXELS;

/** Throws where a picture is too large, or its scans would take very long. */
function checkJpeg(bytes: Uint8Array, name: string): void {
	let size: { width: number; height: number } | null = null;
	let scans = 0;
	for (let at = 2; at + 9 < bytes.length;) {
		if (bytes[at] !== 0xff) break;
		const marker = bytes[at + 1];
		if (marker === 0xd9) break;
		if (!size && marker >= 0xc0 && marker <= 0xcf && marker !== 0xc4 && marker !== 0xc8 && marker !== 0xcc) {
			size = { height: bytes[at + 5] * 256 + bytes[at + 6], width: bytes[at + 7] * 256 + bytes[at + 8] };
			checkSize(name, size.width, size.height);
		}
		if (marker === 0xff) at += 1;
		else at += 2 + bytes[at + 2] * 256 + bytes[at + 3];
		if (marker !== 0xda) continue;
		scans++;
		if (scans > MOST_SCANS || (size && scans * size.width * size.height > MOST_LOOKED_AT))
			throw new NodeError(
				`${name} has more than ${scans - 1} scans, far more than a JPEG picture of its size needs. Save it again.`
			);
		// The pixels: up to a marker that is neither a byte of theirs nor a restart.
		while (
			at + 1 < bytes.length &&
			!(bytes[at] === 0xff && bytes[at + 1] !== 0 && (bytes[at + 1] & 0xf8) !== 0xd0)
		)
			at++;
	}
	if (!size) throw broken(name, 'JPEG');
}

function takeChannel({ width, height, channels, data, most }: Picture, channel: Channel): GreyPicture {
	const out = allocate('float', width * height);
	const hasColours = channels >= 3,
		hasOpacity = channels === 2 || channels === 4;
	const at = channel === 'green' && hasColours ? 1 : channel === 'blue' && hasColours ? 2 : 0;
	for (let i = 0, o = 0; i < out.length; i++, o += channels) {
		if (channel === 'opacity') out[i] = hasOpacity ? data[o + channels - 1] / most : 1;
		else if (channel === 'brightness' && hasColours)
			out[i] = (0.2126 * data[o] + 0.7152 * data[o + 1] + 0.0722 * data[o + 2]) / most;
		else out[i] = data[o + at] / most;
	}
	return { width, height, data: out };
}
