/** What lies in the artist's library that a slot takes: files of other generators, and curves drawn there. */
import type { Slot, SlotContent } from '$core/engine/index';
import { openRaw } from '$core/engine/index';
import { database } from './database';

export interface SlotOffer {
	id: string;
	/** What it is called, and of which generator it is. */
	text: string;
	hints: readonly string[];
	/** A file by its digest, or what stands in the slot as it is. */
	file?: string;
	content?: SlotContent;
}

const ENDINGS: Readonly<Record<Slot['takes'], RegExp>> = {
	curve: /\.svg$/i,
	mesh: /\.(obj|glb|ply|stl)$/i,
	image: /\.(png|jpe?g)$/i
};
/** More are not looked at. */
const MOST = 500;

/** The newest first, but those of the generator itself. Drawn curves with less than two points are left out. */
export async function slotOffers(takes: Slot['takes'], but: string): Promise<SlotOffer[]> {
	const db = await database();
	const generators = (await db.getAll('generators'))
		.filter(({ id, deleted }) => id !== but && !deleted)
		.sort((a, b) => b.updated - a.updated)
		.slice(0, MOST);
	const files = new Map<string, SlotOffer>();
	const drawn: SlotOffer[] = [];
	for (const { id, name, document } of generators) {
		for (const [hash, asset] of Object.entries(document.assets ?? {}))
			if (ENDINGS[takes].test(asset.name) && !files.has(hash))
				files.set(hash, { id: hash, text: asset.name, hints: [`of ${name}`], file: hash });
		// Few have one: only those are read whole.
		const isDrawn = document.graphs?.main?.nodes?.some(({ kind }) => kind === 'draw-curve');
		if (takes !== 'curve' || !isDrawn) continue;
		for (const node of openRaw(document).document.graphs.main.nodes) {
			const { path } = node.settings;
			const points = typeof path === 'object' && 'path' in path ? path.path.length : 0;
			if (node.kind !== 'draw-curve' || points < 2) continue;
			const content = { kind: node.kind, settings: node.settings };
			drawn.push({
				id: `${id} ${node.id}`,
				text: node.title ?? node.short,
				hints: [`of ${name}`],
				content
			});
		}
	}
	return [...drawn, ...files.values()];
}
