/** Generators and exports as files: opened from and saved to the artist's disk. */
import type { Asset } from '$core/geometry/asset';
import { packGenerator, unpackGenerator } from '$core/formats/package-file';
import { openDocument, writeDocument } from '$core/engine/document';
import type { GeneratorDocument } from '$core/engine/document';
import { loadAsset, newId, saveAsset, saveGenerator } from './database';

/** Hands bytes to the browser as a download. */
export function download(data: Uint8Array | string | Blob, name: string, type: string): void {
	const blob = data instanceof Blob ? data : new Blob([data as BlobPart], { type });
	const url = URL.createObjectURL(blob);
	const link = document.createElement('a');
	link.href = url;
	link.download = name;
	link.click();
	setTimeout(() => URL.revokeObjectURL(url), 10_000);
}

/** A name that every file system takes. */
export const fileName = (name: string): string =>
	name
		.trim()
		.toLowerCase()
		.replace(/[^\p{L}\p{N}]+/gu, '-')
		.replace(/^-|-$/g, '') || 'generator';

/** The assets that a document still refers to. */
export async function assetsOf(document: GeneratorDocument): Promise<Asset[]> {
	const used = new Set<string>();
	for (const node of document.graphs.main.nodes)
		for (const setting of Object.values(node.settings))
			if (typeof setting === 'string' && Object.hasOwn(document.assets, setting)) used.add(setting);
	const found = await Promise.all([...used].map((hash) => loadAsset(hash)));
	return found.filter((asset) => asset !== undefined);
}

/** Saves a generator with its assets as a file. */
export async function downloadGenerator(document: GeneratorDocument): Promise<void> {
	const assets = await assetsOf(document);
	const bytes = packGenerator(writeDocument(document), assets);
	download(
		bytes,
		`${fileName(document.name)}.embrell.json`,
		assets.length ? 'application/zip' : 'application/json'
	);
}

export interface Imported {
	id: string;
	name: string;
	leftOut: string[];
	/** The file as it came. */
	original: Uint8Array;
}

/** Unpacks a generator and stores its assets. Throws NodeError. */
export async function openPacked(
	bytes: Uint8Array,
	name: string
): Promise<{ document: GeneratorDocument; leftOut: string[] }> {
	const { text, assets } = unpackGenerator(bytes, name);
	const opened = openDocument(text);
	for (const [hash, bytes] of assets)
		await saveAsset({ hash, bytes, name: opened.document.assets[hash]?.name ?? hash });
	return opened;
}

/** Reads a generator file and stores it under a new id. Throws NodeError. */
export async function importGenerator(file: File): Promise<Imported> {
	const original = new Uint8Array(await file.arrayBuffer());
	const { document, leftOut } = await openPacked(original, file.name);
	const id = newId();
	await saveGenerator({ id, name: document.name, document, untouched: false });
	return { id, name: document.name, leftOut, original };
}
