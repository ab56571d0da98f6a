/** A generator as a file: plain JSON, or a zip of document.json and its assets where it has any. */
import { sha256 } from '@noble/hashes/sha2.js';
import { Unzip, UnzipInflate, zipSync } from 'fflate';
import { Hasher, NodeError, Stopped } from '../math/index.ts';
import type { Asset } from '../geometry/index.ts';
import { formatBytes, poll } from '../geometry/index.ts';

/** The largest file that is opened, what it may unpack to, and the most of that which may be text; bytes. */
export const LARGEST_PACKAGE = 1_000_000_000;
const LARGEST_UNPACKED = 1_000_000_000;
const LARGEST_TEXT = 80_000_000;
/** An archive may unpack to so many times its own size: nothing an artist makes does. What is smaller than this may anyway. */
const MOST_TIMES = 100;
const SMALL_UNPACKED = 20_000_000;
/** Bytes that are gone through between two polls. */
const PIECE = 1 << 24;

/** The name that an asset has by its content: SHA-256, 64 hexadecimal digits. Nobody can make another file with the same. */
export function hashBytes(bytes: Uint8Array): string {
	const hash = sha256.create();
	for (let i = 0; i < bytes.length; i += PIECE) {
		poll();
		hash.update(bytes.subarray(i, i + PIECE));
	}
	return [...hash.digest()].map((byte) => byte.toString(16).padStart(2, '0')).join('');
}

/** The names of assets in files of earlier versions: 32 digits of a hash that somebody who wants to can meet. */
const formerHash = (bytes: Uint8Array): string => new Hasher().array(bytes).digest();

/** Packs the text of a document with its assets. */
export function packGenerator(text: string, assets: readonly Asset[]): Uint8Array {
	const document = new TextEncoder().encode(text);
	if (!assets.length) return document;
	return zipSync(
		{
			'document.json': document,
			...Object.fromEntries(assets.map(({ hash, bytes }) => [`assets/${hash}`, bytes]))
		},
		// One date for all, so that the same generator is the same file.
		{ level: 6, mtime: new Date(2000, 0, 1) }
	);
}

/** What a file holds: the document’s text, its assets by hash, and sentences about those that were left out. */
export interface Unpacked {
	text: string;
	assets: Map<string, Uint8Array>;
	leftOut: string[];
}

/** Bytes that go to the archive reader at once: unpacked they are at most a thousand times as many. */
const FED = 1 << 15;

/**
 * Those entries of an archive that are wanted. What it says of its sizes is not believed: what comes out is counted as it
 * comes, so that a small file that swells is refused before it has.
 */
export function entriesOf(
	bytes: Uint8Array,
	name: string,
	isWanted: (path: string) => boolean
): Map<string, Uint8Array> {
	const most = Math.min(LARGEST_UNPACKED, Math.max(SMALL_UNPACKED, MOST_TIMES * bytes.length));
	const entries = new Map<string, Uint8Array>();
	let unpacked = 0,
		open = 0;
	const unzip = new Unzip((file) => {
		if (!isWanted(file.name)) return;
		const chunks: Uint8Array[] = [];
		let size = 0;
		open++;
		file.ondata = (error, chunk, isLast) => {
			if (error) throw error;
			size += chunk.length;
			unpacked += chunk.length;
			if (unpacked > most)
				throw new NodeError(
					`${name} has ${formatBytes(bytes.length)} and unpacks to more than ${formatBytes(most)}. It is damaged, or made to fill the memory.`
				);
			chunks.push(chunk);
			if (!isLast) return;
			open--;
			entries.set(file.name, chunks.length === 1 ? chunks[0].slice() : joined(chunks, size));
		};
		file.start();
	});
	unzip.register(UnzipInflate);
	try {
		for (let i = 0; i < bytes.length; i += FED) {
			poll();
			unzip.push(bytes.subarray(i, i + FED), i + FED >= bytes.length);
		}
		if (open) throw new Error('cut off');
	} catch (error) {
		if (error instanceof NodeError || error instanceof Stopped) throw error;
		throw new NodeError(`${name} is a broken or cut off archive.`);
	}
	return entries;
}

function joined(chunks: readonly Uint8Array[], size: number): Uint8Array {
	const whole = new Uint8Array(size);
	let at = 0;
	for (const chunk of chunks) {
		whole.set(chunk, at);
		at += chunk.length;
	}
	return whole;
}

/** Unpacks a file. Throws NodeError. */
export function unpackGenerator(bytes: Uint8Array, name: string): Unpacked {
	if (bytes.length === 0) throw new NodeError(`${name} has 0 bytes: there is nothing in it.`);
	const textOf = (document: Uint8Array): string => {
		if (document.length > LARGEST_TEXT)
			throw new NodeError(
				`${name} has a document of ${formatBytes(document.length)}; at most ${formatBytes(LARGEST_TEXT)} are read.`
			);
		return new TextDecoder().decode(document);
	};
	if (!(bytes[0] === 0x50 && bytes[1] === 0x4b))
		return { text: textOf(bytes), assets: new Map(), leftOut: [] };
	const entries = entriesOf(
		bytes,
		name,
		(path) => path === 'document.json' || /^assets\/([0-9a-f]{32}|[0-9a-f]{64})$/.test(path)
	);
	const document = entries.get('document.json');
	if (!document) throw new NodeError(`${name} is an archive without a document.json: it is not a generator.`);
	const assets = new Map<string, Uint8Array>();
	const leftOut: string[] = [];
	/** What files of earlier versions call an asset, and its name of today. */
	const former = new Map<string, string>();
	for (const [path, data] of entries) {
		if (!path.startsWith('assets/')) continue;
		const hash = path.slice(7);
		// One under another’s name would take the place of a file that other generators read.
		const own = hashBytes(data);
		if (own === hash) assets.set(hash, data);
		else if (formerHash(data) === hash) {
			assets.set(own, data);
			former.set(hash, own);
		} else leftOut.push(`A file in the archive is not the one it says it is (${hash.slice(0, 8)} …).`);
	}
	let text = textOf(document);
	for (const [old, now] of former) text = text.replaceAll(`"${old}"`, `"${now}"`);
	return { text, assets, leftOut };
}
