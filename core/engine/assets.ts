/** The files of a generator: those that its nodes read, and the pictures of its presets. */
import type { GeneratorDocument } from './document.ts';

/** The digests of the files that nodes of a generator read, in bodies too, and those that presets put into slots. */
export function readAssets({ graphs, presets, assets }: GeneratorDocument): string[] {
	const used = new Set<string>();
	if (!Object.keys(assets).length) return [];
	const take = (hash: unknown) => {
		if (typeof hash === 'string' && Object.hasOwn(assets, hash)) used.add(hash);
	};
	for (const { nodes } of Object.values(graphs))
		for (const { settings } of nodes) Object.values(settings).forEach(take);
	for (const { slots } of presets)
		for (const { settings } of Object.values(slots ?? {})) Object.values(settings).forEach(take);
	return [...used];
}

/** The digests of all files that a generator refers to: those, and the pictures of presets and kept variations. */
export function usedAssets(document: GeneratorDocument): string[] {
	const { presets, kept, assets } = document;
	const pictures = [...presets, ...kept].flatMap(({ picture }) =>
		picture !== undefined && Object.hasOwn(assets, picture) ? [picture] : []
	);
	return [...new Set([...readAssets(document), ...pictures])];
}
