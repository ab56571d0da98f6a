/** Bodies that nobody uses. */
import { bodiesIn } from './bodies.ts';
import type { GeneratorDocument } from './document.ts';

/** The document without the bodies that nothing uses, directly or in another. The same object where all are used. */
export function withoutOrphans(document: GeneratorDocument): GeneratorDocument {
	const used = new Set(['main']);
	for (const id of used)
		if (Object.hasOwn(document.graphs, id)) for (const body of bodiesIn(document.graphs[id])) used.add(body);
	const kept = Object.entries(document.graphs).filter(([id]) => used.has(id));
	if (kept.length === Object.keys(document.graphs).length) return document;
	return { ...document, graphs: Object.fromEntries(kept) as GeneratorDocument['graphs'] };
}
