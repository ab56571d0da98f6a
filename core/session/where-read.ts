/** On which elements the values on a wire are read. */
import type { Graph, NodeResult } from '../engine/index.ts';
import type { Geometry, Kind, Part } from '../geometry/index.ts';
import type { InputDefinition } from '../nodes/index.ts';
import * as varying from '../varying/index.ts';
import { inputOf, isGeometry } from '../engine/index.ts';
import { PART_NAMES, tableOf, placedIn } from '../geometry/index.ts';
import { nodeKinds } from '../nodes/index.ts';

export interface Readers {
	elements: varying.Elements;
	/** What they are, in the plural: points, faces, copies … */
	called: string;
	geometry: Geometry;
	part: Part;
	kind: Kind;
}

const CALLED: Partial<Record<Kind, string>> = {
	point: 'points',
	face: 'faces',
	edge: 'edges',
	corner: 'corners',
	curve: 'curves',
	copy: 'copies'
};

/** The elements of a geometry that a setting varies over: copies that are yet to be placed are the points they get. */
function readersIn(geometry: Geometry, kind: Kind): Readers | null {
	const wanted: [Part, Kind][] = [
		...PART_NAMES.map((part): [Part, Kind] => [part, kind]),
		...placedIn(geometry).map(({ part, kind: own }): [Part, Kind] => [part, own])
	];
	for (const [part, own] of wanted)
		if (tableOf(geometry, part, own)?.count) {
			const elements = varying.elementsOf(geometry, part, own);
			return { elements, called: CALLED[own] ?? 'elements', geometry, part, kind: own };
		}
	return null;
}

/**
 * The elements of the node that a wire leads to; where that node only reckons with values, those of the next one after
 * it that reads them on elements. Null where there is none.
 */
export function readersOf(
	graph: Graph,
	results: ReadonlyMap<string, Pick<NodeResult, 'outputs'>>,
	to: readonly [string, string]
): Readers | null {
	const byId = new Map(graph.nodes.map((node) => [node.id, node]));
	const queue: (readonly [string, string])[] = [to];
	const seen = new Set<string>();
	for (const [id, name] of queue) {
		const node = byId.get(id);
		const input = node && inputOf(node, name);
		if (!node || !input || seen.has(id)) continue;
		seen.add(id);
		const { inputs } = nodeKinds.get(node.kind)!;
		const kind = 'varies' in input ? input.varies : undefined;
		const read = (Object.entries(inputs) as [string, InputDefinition][])
			.filter(([, one]) => one.kind === 'geometry')
			.flatMap(([port]) => graph.wires.filter((wire) => wire.to[0] === id && wire.to[1] === port))
			.map(({ from }) => results.get(from[0])?.outputs.get(from[1]))
			.find((value) => !!value && isGeometry(value));
		const found = kind && read ? readersIn(read as Geometry, kind) : null;
		if (found) return found;
		queue.push(...graph.wires.filter((wire) => wire.from[0] === id).map((wire) => wire.to));
	}
	return null;
}
