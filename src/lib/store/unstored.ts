/** Generators of this page that could not be stored: they are there as long as the page is, and can be saved as files. */
import type { Asset } from '$core/geometry/asset';
import type { GeneratorDocument } from '$core/engine/document';

const documents = new Map<string, GeneratorDocument>();
const files = new Map<string, Asset>();

/** Holds a generator and its files, until it is stored after all. */
export function hold(id: string, document: GeneratorDocument, assets: readonly Asset[]): void {
	documents.set(id, document);
	for (const asset of assets) files.set(asset.hash, asset);
}
export const heldDocument = (id: string): GeneratorDocument | undefined => documents.get(id);
export const heldFile = (hash: string): Asset | undefined => files.get(hash);

/** It is stored by now. */
export const isStored = (id: string): void => void documents.delete(id);
