/** The shelf: bodies that an artist keeps for use in other generators. */
import { z } from 'zod';
import { NodeError, plural } from '../math/index.ts';
import { interfaceOf, usedFrom, withPorts } from './bodies.ts';
import { labelOfPort } from './port-names.ts';
import { withBodies } from './clip.ts';
import { openRaw } from './document-text.ts';
import type { GeneratorDocument, Graph, GraphNode } from './document.ts';
import { VERSION, bodyId, nameSchema, newDocument, withGraph } from './document.ts';

/** A body on the shelf, with those that it uses. */
export interface ShelfItem {
	id: string;
	/** Counts up each time it is put there anew. */
	version: number;
	name: string;
	/** Words that find it, beside its name. */
	words: string;
	/** Of documents, as of which it was written. */
	written: number;
	body: string;
	graphs: Readonly<Record<string, Graph>>;
}

const itemShape = z.object({
	id: z.string().regex(/^[A-Za-z0-9_-]{1,40}$/),
	version: z.number().int().min(1),
	name: nameSchema,
	words: z.string().max(500),
	written: z.number().int().min(1),
	body: bodyId,
	graphs: z.record(z.string(), z.unknown())
});

/** What lies on the shelf, checked like a file. Throws a NodeError with a sentence where it cannot be used. */
export function readShelfItem(raw: unknown): ShelfItem {
	const read = itemShape.safeParse(raw);
	if (!read.success) throw new NodeError('What lies on the shelf there is not ours, or damaged.');
	const { graphs, ...item } = read.data;
	if (item.written > VERSION)
		throw new NodeError(
			`“${item.name}” was put on the shelf by a newer Embrell. Open this page anew to get that one, and try again.`
		);
	const { document } = openRaw({
		...newDocument(),
		version: item.written,
		graphs: { ...graphs, main: { nodes: [], wires: [], notes: [] } }
	});
	const { main: _main, ...bodies } = document.graphs;
	void _main;
	if (!Object.hasOwn(bodies, item.body)) throw new NodeError(`“${item.name}” on the shelf is damaged.`);
	return { ...item, graphs: bodies };
}

/** A body as it goes onto the shelf, and the document that remembers it. */
export function toShelf(
	document: GeneratorDocument,
	body: string,
	{ id, version, words }: Pick<ShelfItem, 'id' | 'version' | 'words'>
): { item: ShelfItem; document: GeneratorDocument } {
	const marked = withGraph(document, body, (graph) => ({ ...graph, shelf: { id, version } }));
	const graphs = Object.fromEntries(usedFrom(marked.graphs, [body]).map((one) => [one, marked.graphs[one]]));
	const item = { id, version, name: marked.graphs[body].name ?? body, words, written: VERSION, body, graphs };
	return { item, document: marked };
}

interface Taken {
	document: GeneratorDocument;
	body: string;
}

/** The document with a body of the shelf in it, and its id there. One that is there already, as it is on the shelf, is used again. */
export function fromShelf(document: GeneratorDocument, item: ShelfItem): Taken {
	const there = Object.entries(document.graphs).find(
		([, { shelf }]) => shelf?.id === item.id && shelf.version === item.version
	);
	return there ? { document, body: there[0] } : added(document, item);
}

function added(document: GeneratorDocument, item: ShelfItem): Taken {
	const { graphs, names } = withBodies(document, item.graphs);
	return { document: withPorts({ ...document, graphs }), body: names.get(item.body)! };
}

/** A body of the document as it is on the shelf now: its uses stay where they are. */
export function withNewer(document: GeneratorDocument, body: string, item: ShelfItem): GeneratorDocument {
	const taken = added(document, item);
	if (Object.hasOwn(document.graphs, taken.body))
		return withPorts(withGraph(document, body, () => document.graphs[taken.body]));
	const { [taken.body]: newer, ...rest } = taken.document.graphs;
	return withPorts({ ...taken.document, graphs: { ...rest, [body]: newer } as GeneratorDocument['graphs'] });
}

/** A node as text; which id a body has is no matter. */
const inText = (node: GraphNode): string =>
	JSON.stringify({ ...node, settings: { ...node.settings, body: undefined } });

/** What would change in a document if a body were taken as it is on the shelf now, in sentences. */
export function differences(before: Graph, item: ShelfItem): string[] {
	const after = item.graphs[item.body];
	const sides = [
		['input', interfaceOf(before).inputs, interfaceOf(after).inputs],
		['output', interfaceOf(before).outputs, interfaceOf(after).outputs]
	] as const;
	const told = sides.flatMap(([what, old, now]) => {
		const known = new Map(old.map((port) => [port.name, port]));
		const kept = new Set(now.map(({ name }) => name));
		const named = (name: string) => `“${labelOfPort(name)}”`;
		return [
			...now.filter(({ name }) => !known.has(name)).map(({ name }) => `A new ${what}, ${named(name)}.`),
			...old
				.filter(({ name }) => !kept.has(name))
				.map(({ name }) => `The ${what} ${named(name)} goes, with what stands at it.`),
			...now
				.filter(({ name, carries }) => known.has(name) && known.get(name)!.carries !== carries)
				.map(({ name, carries }) => `The ${what} ${named(name)} carries ${carries} now.`)
		];
	});
	const ids = new Map(before.nodes.map((node) => [node.id, inText(node)]));
	const changed = after.nodes.filter((node) => ids.get(node.id) !== inText(node)).length;
	const gone = before.nodes.filter(({ id }) => !after.nodes.some((node) => node.id === id)).length;
	if (changed) told.push(`${plural(changed, 'node')} inside ${changed === 1 ? 'is' : 'are'} new or changed.`);
	if (gone) told.push(`${plural(gone, 'node')} inside ${gone === 1 ? 'goes' : 'go'}.`);
	return told.length ? told : ['Nothing that shows.'];
}
