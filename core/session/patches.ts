/** The worker’s copy of the document follows the page’s by patches: only what changed is sent. */
import type { GeneratorDocument, Graph } from '../engine/index.ts';
import type { Patch } from './messages.ts';

/** What of a document, beside its graphs, results depend on. */
const HEARD = ['seed', 'assets', 'dials', 'frames'] as const;

/** What changed between two states of a document. Nodes are compared as objects: a change makes new ones. */
export function patchBetween(before: GeneratorDocument | null, after: GeneratorDocument): Patch {
	if (!before) return { whole: after };
	const patch: Patch = {};
	const a = before.graphs.main,
		b = after.graphs.main;
	if (a.nodes !== b.nodes) {
		const known = new Set(a.nodes);
		const changed = b.nodes.filter((node) => !known.has(node));
		if (changed.length) patch.nodes = changed;
		if (a.nodes.length !== b.nodes.length || a.nodes.some((node, i) => node.id !== b.nodes[i].id))
			patch.order = b.nodes.map((node) => node.id);
	}
	if (a.wires !== b.wires) patch.wires = b.wires;
	const bodies = changedBodies(before.graphs, after.graphs);
	if (bodies.length) patch.bodies = bodies;
	if (HEARD.some((name) => before[name] !== after[name])) {
		const { graphs: _graphs, ...rest } = after;
		void _graphs;
		patch.rest = rest;
	}
	return patch;
}

type Bodies = Readonly<Record<string, Graph>>;

/** The bodies that are new or changed, and the ids of those that are gone. */
function changedBodies(
	before: GeneratorDocument['graphs'],
	after: GeneratorDocument['graphs']
): Patch['bodies'] & object {
	if (before === after) return [];
	const gone = Object.keys(before).filter((id) => !Object.hasOwn(after, id));
	const changed = Object.entries(after).filter(([id, graph]) => id !== 'main' && before[id] !== graph);
	return [...changed, ...gone.map((id): [string, null] => [id, null])];
}

function withBodies(bodies: Bodies, changes: readonly (readonly [string, Graph | null])[]): Bodies {
	const out = new Map(Object.entries(bodies));
	for (const [id, graph] of changes)
		if (graph) out.set(id, graph);
		else out.delete(id);
	return Object.fromEntries(out);
}

/** The document after a patch. The same objects where nothing changed: the evaluator looks its graph up by identity. */
export function patched(before: GeneratorDocument | null, patch: Patch): GeneratorDocument {
	if (patch.whole) return patch.whole;
	if (!before) throw new Error('The first patch brings the whole document.');
	const { main } = before.graphs;
	let { nodes } = main;
	if (patch.nodes || patch.order) {
		const byId = new Map(nodes.map((node) => [node.id, node]));
		for (const node of patch.nodes ?? []) byId.set(node.id, node);
		nodes = (patch.order ?? nodes.map((node) => node.id)).map((id) => byId.get(id)!);
	}
	const graph =
		nodes === main.nodes && !patch.wires ? main : { ...main, nodes, wires: patch.wires ?? main.wires };
	const { main: _main, ...others } = before.graphs;
	void _main;
	const kept = patch.bodies ? withBodies(others, patch.bodies) : others;
	// The same object where nothing changed: what is known of all bodies is kept with it.
	const graphs =
		graph === main && kept === others
			? before.graphs
			: ({ ...kept, main: graph } as GeneratorDocument['graphs']);
	return { ...before, ...patch.rest, graphs };
}
