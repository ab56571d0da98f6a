/** Generators and exports as files: opened from and saved to the artist's disk. */
import type { Asset } from '$core/geometry/asset';
import { packGenerator } from '$core/formats/package-file';
import { readAssets, usedAssets } from '$core/engine/assets';
import { newDocument } from '$core/engine/document';
import { writeDocument } from '$core/engine/document-text';
import type { GeneratorDocument } from '$core/engine/document';
import { loadAsset, newId, saveAsset, saveGenerator } from './database';
import type { Opened } from './opened';
import { hold } from './unstored';

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
	const found = await Promise.all(usedAssets(document).map((hash) => loadAsset(hash)));
	return found.filter((asset) => asset !== undefined);
}

/** The assets that evaluating a document reads. */
export async function assetsReadBy(document: GeneratorDocument): Promise<Asset[]> {
	const found = await Promise.all(readAssets(document).map((hash) => loadAsset(hash)));
	return found.filter((asset) => asset !== undefined);
}

/** Saves a generator with its assets as a file. */
export async function downloadGenerator(document: GeneratorDocument): Promise<void> {
	const assets = await assetsOf(document);
	const bytes = packGenerator(writeDocument(document), assets);
	const [ending, type] = assets.length ? ['zip', 'application/zip'] : ['json', 'application/json'];
	download(bytes, `${fileName(document.name)}.embrell.${ending}`, type);
}

export const emptyGenerator = (): Opened => ({
	document: newDocument('Untitled generator'),
	assets: [],
	leftOut: []
});

/** Stores a generator that was opened, under a new id. First the generator: files that none reads are taken away. */
export async function store({ document, assets, picture }: Opened, untouched: boolean): Promise<string> {
	const id = newId();
	await saveGenerator({ id, name: document.name, document, untouched, picture });
	for (const asset of assets) await saveAsset(asset);
	return id;
}

/** Holds one that cannot be stored, as long as this page lasts. */
export function holdOpened({ document, assets }: Opened): string {
	const id = newId();
	hold(id, document, assets);
	return id;
}
