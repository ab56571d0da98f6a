/** What lies in the artist's library that a slot takes: files of other generators, and curves drawn there. */
import type { Slot, SlotContent } from '$core/index';
import { openRaw } from '$core/index';
import { database } from './database';

export interface SlotOffer {
	id: string;
	name: string;
	/** Words that find it, the first of which is shown. */
	hints: readonly string[];
	text: string;
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

/** The newest first. Drawn curves with less than two points are left out. */
export async function slotOffers(takes: Slot['takes']): Promise<SlotOffer[]> {
	const db = await database();
	const generators = (await db.getAll('generators')).sort((a, b) => b.updated - a.updated).slice(0, MOST);
	const files = new Map<string, SlotOffer>();
	const drawn: SlotOffer[] = [];
	for (const { id, name, document } of generators) {
		for (const [hash, asset] of Object.entries(document.assets ?? {}))
			if (ENDINGS[takes].test(asset.name) && !files.has(hash))
				files.set(hash, { id: hash, name: asset.name, hints: [`of ${name}`], text: '', file: hash });
		if (takes !== 'curve') continue;
		for (const node of openRaw(document).document.graphs.main.nodes) {
			const { curve } = node.settings;
			const points = typeof curve === 'object' && 'path' in curve ? curve.path.length : 0;
			if (node.kind !== 'draw-curve' || points < 2) continue;
			const content = { kind: node.kind, settings: node.settings };
			drawn.push({
				id: `${id} ${node.id}`,
				name: node.title ?? node.short,
				hints: [`of ${name}`],
				text: '',
				content
			});
		}
	}
	return [...drawn, ...files.values()];
}
