/** Slots: nodes in whose place a generator's users put a curve, a mesh or an image of their own. */
import type { InputDefinition } from '../nodes/index.ts';
import { nodeKinds } from '../nodes/index.ts';
import { withKind } from './change-kind.ts';
import { freeKey } from './dials.ts';
import { withTaken } from './saved-settings.ts';
import { settled } from './settle.ts';
import type { GeneratorDocument, Graph, GraphNode, Slot, SlotContent, Wire } from './document.ts';
import { withGraph } from './document.ts';
import { throughPorts, withWire } from './build.ts';
import { fits, inputOf, outputOf, pathBetween } from './connect.ts';

const inputsOfKind = (kind: string): InputDefinition[] =>
	Object.values((nodeKinds.get(kind)?.inputs ?? {}) as Record<string, InputDefinition>);

/** What a slot in the place of a node would take; null where nothing begins there, or one is there already. */
export const slotTakes = (document: GeneratorDocument, { id, kind }: GraphNode): Slot['takes'] | null =>
	document.slots.some(({ node }) => node === id) ? null : beganBy(kind);

/** What begins with a kind of node; null where it changes what comes in. */
function beganBy(kind: string): Slot['takes'] | null {
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
	const [now, was] = [slotContents(document)[key], slotContents(base)[key]];
	return JSON.stringify(now) !== JSON.stringify(was);
}

/** What stands in each slot. */
export const slotContents = (document: GeneratorDocument): Record<string, SlotContent> =>
	Object.fromEntries(
		document.slots.flatMap(({ key }) => {
			const node = slotNode(document, key);
			if (!node) return [];
			const wires = document.graphs.main.wires.filter(({ to }) => to[0] === node.id);
			return [[key, { kind: node.kind, settings: node.settings, wires }]];
		})
	);

/** Whether a slot holds something, as a preset says it. */
export function holds(document: GeneratorDocument, key: string, content: SlotContent): boolean {
	const { [key]: now } = slotContents(document);
	// What says nothing of wires leaves them.
	return !!now && JSON.stringify({ ...now, ...content }) === JSON.stringify(now);
}

/** The graph with these wires into a node, as far as they can be, and no others. */
function withWiresInto(graph: Graph, id: string, wires: readonly Wire[]): Graph {
	const now = graph.wires.filter(({ to }) => to[0] === id);
	if (JSON.stringify(now) === JSON.stringify(wires)) return graph;
	const none = { ...graph, wires: graph.wires.filter(({ to }) => to[0] !== id) };
	const node = graph.nodes.find((one) => one.id === id)!;
	return wires.reduce((made, wire) => {
		const carried = outputOf(
			made.nodes.find((one) => one.id === wire.from[0]),
			wire.from[1]
		);
		const input = wire.to[0] === id ? inputOf(node, wire.to[1]) : null;
		const can = carried && input && fits(carried.kind, input).fits && !pathBetween(made, id, wire.from[0]);
		return can ? withWire(made, wire) : made;
	}, none);
}

/** Materials of the generator that come over those of what is in a slot: their names, and whether all faces get them. */
export function materialsOver(
	{ graphs: { main } }: GeneratorDocument,
	slot: string
): { name: string; whole: boolean }[] {
	const nodes = new Map(main.nodes.map((node) => [node.id, node]));
	const found: { name: string; whole: boolean }[] = [];
	const reached = new Set([slot]);
	for (const id of reached)
		for (const { from, to } of main.wires) {
			const node = from[0] === id ? nodes.get(to[0]) : undefined;
			// On it goes where it is handed through, merged, or copied as it is.
			if (!node || (to[1] !== throughPorts(node)?.input && to[1] !== 'source')) continue;
			reached.add(node.id);
			if (node.kind !== 'material' || node.bypassed) continue;
			const { name, where = true } = node.settings;
			const isWhole =
				where === true && !main.wires.some((one) => one.to[0] === node.id && one.to[1] === 'where');
			found.push({ name: typeof name === 'string' ? name : 'Material', whole: isWhole });
		}
	return found;
}

/** Something put into a slot; a sentence where the slot takes something else. */
export function withSlotFilled(
	document: GeneratorDocument,
	key: string,
	content: SlotContent
): GeneratorDocument | string {
	const slot = document.slots.find((one) => one.key === key);
	const node = slotNode(document, key);
	if (!slot || !node) return `There is no slot “${key}” any more; what stood there was left out.`;
	if (node.kind !== content.kind && beganBy(content.kind) !== slot.takes)
		return `The slot “${slot.name}” takes ${slot.takes === 'image' ? 'an image' : `a ${slot.takes}`}; ${nodeKinds.get(content.kind)?.name ?? content.kind} is not one.`;
	const made = withGraph(document, 'main', (graph) => {
		const changed = withKind(graph, node.id, content.kind);
		const filled = {
			...changed,
			nodes: changed.nodes.map((one) =>
				// Its name stays, so that formulas that speak of it go on doing so.
				one.id === node.id ? withTaken({ ...one, short: node.short }, content.settings) : one
			)
		};
		return content.wires ? withWiresInto(filled, node.id, content.wires) : filled;
	});
	return settled(made, document);
}
