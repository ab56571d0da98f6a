/** Slots: nodes in whose place a generator's users put a curve, a mesh or an image of their own. */
import type { InputDefinition } from '../nodes/index.ts';
import { nodeKinds } from '../nodes/index.ts';
import { withKind } from './change-kind.ts';
import { freeKey } from './dials.ts';
import { withTaken } from './saved-settings.ts';
import { settled } from './settle.ts';
import type { GeneratorDocument, GraphNode, Slot } from './document.ts';
import { withGraph } from './document.ts';

/** What a user put into a slot: a kind of node and its settings. */
export type SlotContent = Pick<GraphNode, 'kind' | 'settings'>;

const inputsOfKind = (kind: string): InputDefinition[] =>
	Object.values((nodeKinds.get(kind)?.inputs ?? {}) as Record<string, InputDefinition>);

/** What a slot in the place of a node would take; null where nothing begins there, or one is there already. */
export function slotTakes(document: GeneratorDocument, { id, kind }: GraphNode): Slot['takes'] | null {
	if (document.slots.some(({ node }) => node === id)) return null;
	const inputs = inputsOfKind(kind);
	if (
		inputs.some((input) => input.kind === 'asset' && input.accept.some((ending) => /png|jpe?g/i.test(ending)))
	)
		return 'image';
	if (inputs.some((input) => input.kind === 'geometry' && !input.optional)) return null;
	const family = nodeKinds.get(kind)?.family;
	return family === 'curves' ? 'curve' : family === 'meshes' ? 'mesh' : null;
}

/** A node made a slot. The same document where it cannot be one. */
export function withSlot(document: GeneratorDocument, id: string): GeneratorDocument {
	const node = document.graphs.main.nodes.find((one) => one.id === id);
	const takes = node ? slotTakes(document, node) : null;
	if (!node || !takes) return document;
	const name = node.title ?? node.short.replace(/([a-z])([A-Z])/g, '$1 $2').toLowerCase();
	const key = freeKey(document.slots, node.short, 'slot');
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

/** Whether something else is in a slot than what its generator has there. */
export function isFilled(document: GeneratorDocument, base: GeneratorDocument, key: string): boolean {
	const [now, was] = [slotNode(document, key), slotNode(base, key)];
	return now?.kind !== was?.kind || JSON.stringify(now?.settings) !== JSON.stringify(was?.settings);
}

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
				one.id === node.id ? withTaken({ ...one, short: node.short }, content.settings) : one
			)
		};
	});
	return settled(made, document);
}
