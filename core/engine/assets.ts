/** The files of a generator: those that its nodes read, and the pictures of its presets. */
import type { GeneratorDocument } from './document.ts';

/** The digests of the files that a generator refers to, in bodies too. */
export function usedAssets({ graphs, presets, kept, assets }: GeneratorDocument): string[] {
	const used = new Set<string>();
	const take = (hash: unknown) => {
		if (typeof hash === 'string' && Object.hasOwn(assets, hash)) used.add(hash);
	};
	for (const { nodes } of Object.values(graphs))
		for (const { settings } of nodes) Object.values(settings).forEach(take);
	for (const { picture } of [...presets, ...kept]) take(picture);
	for (const { slots } of presets)
		for (const { settings } of Object.values(slots ?? {})) Object.values(settings).forEach(take);
	return [...used];
}
