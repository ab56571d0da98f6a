/** A generator taken out of its file; whoever opens one, here or in a worker, does it so. */
import type { Asset } from '$core/geometry/asset';
import type { GeneratorDocument } from '$core/engine/document';
import { openDocument } from '$core/engine/document-text';
import { unpackGenerator } from '$core/formats/package-file';

export interface Opened {
	document: GeneratorDocument;
	assets: Asset[];
	leftOut: string[];
	/** A picture for the Library, until one of its own is taken. */
	picture?: Blob | null;
}

/** Unpacks a generator. Throws NodeError. */
export function openPacked(bytes: Uint8Array, name: string): Opened {
	const { text, assets, leftOut } = unpackGenerator(bytes, name);
	const opened = openDocument(text);
	return {
		document: opened.document,
		assets: [...assets].map(([hash, bytes]) => ({
			hash,
			bytes,
			name: opened.document.assets[hash]?.name ?? hash
		})),
		leftOut: [...leftOut, ...opened.leftOut]
	};
}
