/** Subgraphs of one's own as the node search offers them: those of the generator, and those on the shelf. */
import type { GeneratorDocument } from '../../../core/engine/index.ts';
import { interfaceOf, portsInWords, usesOf } from '../../../core/engine/index.ts';
import type { OwnEntry } from './search.ts';
import type { Shelved } from '../store/shelf.ts';

const portsOf = (graph: GeneratorDocument['graphs'][string]) => {
	const { inputs, outputs } = interfaceOf(graph);
	return {
		takes: inputs.map(({ carries }) => carries),
		gives: outputs.map(({ carries }) => carries)
	};
};

/** @param within the bodies in which the search is opened: they cannot be used in themselves. */
export function ownSubgraphs(document: GeneratorDocument, within: readonly string[]): OwnEntry[] {
	return Object.entries(document.graphs).flatMap(([id, graph]): OwnEntry[] => {
		if (id === 'main' || within.includes(id)) return [];
		const uses = usesOf(document, id).length;
		return [
			{
				id: `body ${id}`,
				kind: 'subgraph',
				name: graph.name || id,
				family: 'subgraph',
				help: `${portsInWords(graph)}. Used ${uses === 1 ? 'once' : `${uses} times`} in this generator.`,
				settings: { body: id },
				words: '',
				...portsOf(graph)
			}
		];
	});
}

export function onShelf(shelf: readonly Shelved[]): OwnEntry[] {
	return shelf.map(({ item, picture }): OwnEntry => ({
		id: `shelf ${item.id}`,
		kind: 'subgraph',
		name: item.name,
		family: 'shelf',
		help: `${portsInWords(item.graphs[item.body])}. From your shelf.`,
		settings: {},
		words: item.words,
		shelved: item,
		picture,
		...portsOf(item.graphs[item.body])
	}));
}
