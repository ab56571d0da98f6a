/** A generator as a file: plain JSON, or a zip of document.json and its assets where it has any. */
import { unzipSync, zipSync } from 'fflate';
import { NodeError, Hasher } from '../math/index.ts';
import type { Asset } from '../geometry/index.ts';
import { formatBytes } from '../geometry/index.ts';

const LARGEST_UNPACKED = 1_000_000_000;

/** The name that an asset has by its content: 32 hexadecimal digits. */
export const hashBytes = (bytes: Uint8Array): string => new Hasher().array(bytes).digest();

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

/** Unpacks a file: the document's text, and assets by hash. Throws NodeError. */
export function unpackGenerator(
	bytes: Uint8Array,
	name: string
): { text: string; assets: Map<string, Uint8Array> } {
	if (bytes.length === 0) throw new NodeError(`${name} has 0 bytes: there is nothing in it.`);
	if (!(bytes[0] === 0x50 && bytes[1] === 0x4b))
		return { text: new TextDecoder().decode(bytes), assets: new Map() };
	let unpacked = 0;
	let entries: Record<string, Uint8Array>;
	try {
		entries = unzipSync(bytes, {
			filter: (file) => {
				unpacked += file.originalSize;
				if (unpacked > LARGEST_UNPACKED)
					throw new NodeError(`${name} would unpack to more than ${formatBytes(LARGEST_UNPACKED)}.`);
				return file.name === 'document.json' || /^assets\/[0-9a-f]{32}$/.test(file.name);
			}
		});
	} catch (error) {
		if (error instanceof NodeError) throw error;
		throw new NodeError(`${name} is a broken or cut off archive.`);
	}
	const document = entries['document.json'];
	if (!document) throw new NodeError(`${name} is an archive without a document.json: it is no generator.`);
	const assets = new Map<string, Uint8Array>();
	for (const [path, data] of Object.entries(entries))
		if (path.startsWith('assets/')) assets.set(path.slice(7), data);
	return { text: new TextDecoder().decode(document), assets };
}
