/** Pictures as numbers: PNG and JPEG, decoded by common libraries after their declared sizes are checked. */
import { Unzlib } from 'fflate';
import { convertIndexedToRgb, decode as decodePng } from 'fast-png';
import { decode as decodeJpeg } from 'jpeg-js';
import { NodeError } from '../math/index.ts';
import { allocate, derive, formatBytes } from '../geometry/index.ts';

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
			`${name} is no PNG or JPEG picture: it begins differently. Save it as PNG and choose it again.`
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

/** What is needed to show a picture; texts, profiles and animations are dropped before the library sees them. */
const NEEDED = new Set(['IHDR', 'PLTE', 'tRNS', 'IDAT', 'IEND']);

function readPng(bytes: Uint8Array, name: string): Picture {
	const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
	const kept: Uint8Array[] = [bytes.subarray(0, 8)];
	const pixels: Uint8Array[] = [];
	let expected = 0;
	for (let at = 8; ;) {
		if (at + 12 > bytes.length) throw broken(name, 'PNG');
		const length = view.getUint32(at);
		if (at + 12 + length > bytes.length) throw broken(name, 'PNG');
		const kind = String.fromCharCode(...bytes.subarray(at + 4, at + 8));
		if (kind === 'IHDR') {
			if (length !== 13 || expected) throw broken(name, 'PNG');
			const [width, height] = [view.getUint32(at + 8), view.getUint32(at + 12)];
			checkSize(name, width, height);
			const channels = [1, 0, 3, 1, 2, 0, 4][bytes[at + 17]] ?? 0;
			if (!channels) throw broken(name, 'PNG');
			// A byte before each row; interlacing adds some more rows.
			expected = Math.ceil((width * channels * bytes[at + 16]) / 8 + 1) * height * 2 + 1024;
		} else if (!expected) throw broken(name, 'PNG');
		if (kind === 'IDAT') pixels.push(bytes.subarray(at + 8, at + 8 + length));
		if (NEEDED.has(kind)) kept.push(bytes.subarray(at, at + 12 + length));
		if (kind === 'IEND') break;
		at += 12 + length;
	}
	checkInflated(pixels, expected, name);
	const plain = new Uint8Array(kept.reduce((sum, part) => sum + part.length, 0));
	let at = 0;
	for (const part of kept) {
		plain.set(part, at);
		at += part.length;
	}
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

/** Inflates without keeping anything, and stops as soon as more comes than the picture’s size allows. */
function checkInflated(parts: readonly Uint8Array[], most: number, name: string): void {
	let sum = 0;
	const inflater = new Unzlib((chunk) => {
		sum += chunk.length;
		if (sum > most)
			throw new NodeError(`${name} holds far more data than a picture of its size. It was not read.`);
	});
	const step = 65536;
	try {
		parts.forEach((part, p) => {
			for (let at = 0; at < part.length || at === 0; at += step)
				inflater.push(part.subarray(at, at + step), p === parts.length - 1 && at + step >= part.length);
		});
	} catch (error) {
		throw error instanceof NodeError ? error : broken(name, 'PNG');
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
	const { width, height } = jpegSize(bytes, name);
	checkSize(name, width, height);
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

/** Width and height from the header of the frame. */
function jpegSize(bytes: Uint8Array, name: string): { width: number; height: number } {
	for (let at = 2; at + 9 < bytes.length;) {
		if (bytes[at] !== 0xff) break;
		const marker = bytes[at + 1];
		if (marker >= 0xc0 && marker <= 0xcf && marker !== 0xc4 && marker !== 0xc8 && marker !== 0xcc)
			return { height: bytes[at + 5] * 256 + bytes[at + 6], width: bytes[at + 7] * 256 + bytes[at + 8] };
		at += marker === 0xff ? 1 : 2 + bytes[at + 2] * 256 + bytes[at + 3];
	}
	throw broken(name, 'JPEG');
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
