/** Bodies that nobody uses. */
import { bodiesIn } from './bodies.ts';
import type { GeneratorDocument } from './document.ts';

type Graphs = GeneratorDocument['graphs'];

/** The graphs that are used, from the main one on. */
function usedIn(graphs: Graphs): Set<string> {
	const used = new Set(['main']);
	for (const id of used)
		if (Object.hasOwn(graphs, id)) for (const body of bodiesIn(graphs[id])) used.add(body);
	return used;
}

/** The document without the bodies whose last use has gone since `before`. The same object where none has. */
export function withoutOrphans(document: GeneratorDocument, before: Graphs): GeneratorDocument {
	const used = usedIn(document.graphs);
	const wereUsed = usedIn(before);
	const kept = Object.entries(document.graphs).filter(([id]) => used.has(id) || !wereUsed.has(id));
	if (kept.length === Object.keys(document.graphs).length) return document;
	return { ...document, graphs: Object.fromEntries(kept) as GeneratorDocument['graphs'] };
}
