/** Slots: nodes in whose place a generator's users put a curve, a mesh or an image of their own. */
import type { InputDefinition } from '../nodes/index.ts';
import { nodeKinds } from '../nodes/index.ts';
import { withKind } from './change-kind.ts';
import { settled } from './settle.ts';
import type { GeneratorDocument, GraphNode, Slot } from './document.ts';
import { withGraph } from './document.ts';

/** What a user put into a slot: a kind of node and its settings. */
export type SlotContent = Pick<GraphNode, 'kind' | 'settings'>;

/** What a slot in the place of a node would take; a sentence where it can be none. */
export function slotTakes(document: GeneratorDocument, { id, kind }: GraphNode): Slot['takes'] | string {
	if (document.slots.some(({ node }) => node === id)) return 'It is a slot already.';
	const of = nodeKinds.get(kind);
	const file = inputsOfKind(kind).find((input) => input.kind === 'asset');
	if (file?.kind === 'asset' && file.accept.some((ending) => /png|jpe?g/i.test(ending))) return 'image';
	if (of?.family === 'curves' && !hasGeometryInput(kind)) return 'curve';
	if (of?.family === 'meshes' && !hasGeometryInput(kind)) return 'mesh';
	return 'A slot stands where a curve, a mesh or an image begins: take a node that nothing is wired to, such as Draw curve or Import mesh.';
}
const inputsOfKind = (kind: string): InputDefinition[] =>
	Object.values((nodeKinds.get(kind)?.inputs ?? {}) as Record<string, InputDefinition>);
const hasGeometryInput = (kind: string): boolean =>
	inputsOfKind(kind).some((input) => input.kind === 'geometry' && !input.optional);

/** A node made a slot. The same document where it cannot be one. */
export function withSlot(document: GeneratorDocument, id: string): GeneratorDocument {
	const node = document.graphs.main.nodes.find((one) => one.id === id);
	const takes = node ? slotTakes(document, node) : '';
	if (!node || (takes !== 'curve' && takes !== 'mesh' && takes !== 'image')) return document;
	const name = node.title ?? node.short.replace(/([a-z])([A-Z])/g, '$1 $2').toLowerCase();
	let key = node.short.replace(/[^a-zA-Z0-9]/g, '') || 'slot';
	for (let n = 2; document.slots.some((one) => one.key === key); n++) key = `${node.short}${n}`;
	const slot: Slot = { key, name: name[0].toUpperCase() + name.slice(1), takes, node: id };
	return { ...document, slots: [...document.slots, slot] };
}

export const withSlotChanged = (
	document: GeneratorDocument,
	key: string,
	change: Partial<Pick<Slot, 'name' | 'help'>>
): GeneratorDocument => ({
	...document,
	slots: document.slots.map((one) => (one.key === key ? { ...one, ...change } : one))
});

export const withoutSlot = (document: GeneratorDocument, key: string): GeneratorDocument => ({
	...document,
	slots: document.slots.filter((one) => one.key !== key)
});

export const slotNode = ({ graphs, slots }: GeneratorDocument, key: string): GraphNode | null => {
	const slot = slots.find((one) => one.key === key);
	return (slot && graphs.main.nodes.find(({ id }) => id === slot.node)) ?? null;
};

/** The kinds of node that a slot takes in its node's place. */
const TAKEN: Readonly<Record<Slot['takes'], readonly string[]>> = {
	curve: ['draw-curve', 'import-svg'],
	mesh: ['import-mesh'],
	image: []
};

/** Something put into a slot; a sentence where the slot takes something else. */
export function withSlotFilled(
	document: GeneratorDocument,
	key: string,
	content: SlotContent
): GeneratorDocument | string {
	const slot = document.slots.find((one) => one.key === key);
	const node = slotNode(document, key);
	if (!slot || !node) return `There is no slot “${key}” any more; what stood there was left out.`;
	if (node.kind !== content.kind && !TAKEN[slot.takes].includes(content.kind))
		return `The slot “${slot.name}” takes ${slot.takes === 'image' ? 'an image' : `a ${slot.takes}`}; ${nodeKinds.get(content.kind)?.name ?? content.kind} is none.`;
	const made = withGraph(document, 'main', (graph) => {
		const changed = withKind(graph, node.id, content.kind);
		return {
			...changed,
			nodes: changed.nodes.map((one) =>
				// Its name stays, so that formulas that speak of it go on doing so.
				one.id === node.id
					? { ...one, short: node.short, settings: { ...one.settings, ...content.settings } }
					: one
			)
		};
	});
	return settled(made, document);
}
