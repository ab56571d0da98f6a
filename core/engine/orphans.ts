/** Bodies that nobody uses. */
import { usedFrom } from './bodies.ts';
import type { GeneratorDocument } from './document.ts';

/** The document without the bodies whose last use has gone since `before`. The same object where none has. */
export function withoutOrphans(
	document: GeneratorDocument,
	before: GeneratorDocument['graphs']
): GeneratorDocument {
	const used = new Set(usedFrom(document.graphs, ['main']));
	const gone = usedFrom(before, ['main']).filter((id) => !used.has(id) && Object.hasOwn(document.graphs, id));
	if (!gone.length) return document;
	const kept = Object.entries(document.graphs).filter(([id]) => !gone.includes(id));
	return { ...document, graphs: Object.fromEntries(kept) as GeneratorDocument['graphs'] };
}
