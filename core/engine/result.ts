/** What comes of a node. */
import { Hasher } from '../math/index.ts';
import type { Fix } from '../math/index.ts';
import type { Bounds, Counts, Geometry } from '../geometry/index.ts';
import { boundsOf, countsOf, mergeGeometries } from '../geometry/index.ts';
import type { AnyNode, InputDefinition, List } from '../nodes/index.ts';
import type { Ramp, Varying } from '../varying/index.ts';
import type { GraphIndex } from './bind.ts';
import { isGeometry } from './bind.ts';
import type { GraphNode } from './document.ts';

export type Value = Geometry | Varying | List | Ramp;

export interface NodeMessage {
	message: string;
	input?: string;
	fixes?: readonly Fix[];
	/** The id of the node that it waits for, where that is all there is to say. */
	waitsFor?: string;
}

/** What came of a node. */
export interface NodeResult {
	readonly id: string;
	/** Names what made it; equal keys are equal results. */
	readonly key: string;
	/** `waiting`: something that it needs is missing or failed further up. */
	readonly state: 'fresh' | 'waiting' | 'error' | 'bypassed';
	readonly outputs: ReadonlyMap<string, Value>;
	readonly counts: Counts | null;
	readonly bounds: Bounds | null;
	readonly milliseconds: number;
	readonly warnings: readonly NodeMessage[];
	readonly error: NodeMessage | null;
	readonly bytes: number;
}

const nothing = {
	outputs: new Map<string, Value>(),
	counts: null,
	bounds: null,
	milliseconds: 0,
	warnings: [],
	bytes: 0
};
/** A node that failed, with what to do about it. */
export const failed = (node: GraphNode, error: NodeMessage): NodeResult => ({
	id: node.id,
	key: '',
	state: 'error',
	error,
	...nothing
});
/** A node that misses something. */
export const waiting = (node: GraphNode, message: string, input?: string): NodeResult => ({
	id: node.id,
	key: '',
	state: 'waiting',
	error: { message, input },
	...nothing
});
/** A node that waits for one that failed or waits itself. */
export const waitingFor = (node: GraphNode, id: string, index: GraphIndex): NodeResult => ({
	...waiting(node, ''),
	error: { message: `Waits for ${index.byId.get(id)?.short ?? 'a node'}.`, waitsFor: id }
});

/** A bypassed node hands its first geometry through. */
export function bypassed(
	node: GraphNode,
	kind: AnyNode,
	index: GraphIndex,
	results: ReadonlyMap<string, NodeResult>
): NodeResult {
	const inputs = Object.entries(kind.inputs) as [string, InputDefinition][];
	const into = inputs.find(([, input]) => input.kind === 'geometry');
	const out = Object.entries(kind.outputs as AnyNode['outputs']).find(
		([, output]) => (output as { kind: string }).kind === 'geometry'
	);
	const through =
		into && index.wiresInto(node.id, into[0]).map((wire) => ({ wire, up: results.get(wire.from[0]) }));
	if (!into || !out || !through?.length)
		return { ...waiting(node, 'Bypassed: it has nothing to hand through.'), state: 'waiting' };
	const blocked = through.find(({ up }) => !up || up.state === 'error' || up.state === 'waiting');
	if (blocked) return waitingFor(node, blocked.wire.from[0], index);
	const geometries = through
		.map(({ wire, up }) => up!.outputs.get(wire.from[1]))
		.filter((v): v is Geometry => !!v && isGeometry(v));
	const geometry = geometries.length === 1 ? geometries[0] : mergeGeometries(geometries);
	const key = new Hasher()
		.text('bypassed')
		.text(through.map(({ wire, up }) => `${up!.key} ${wire.from[1]}`).join())
		.digest();
	return {
		id: node.id,
		key,
		state: 'bypassed',
		outputs: new Map([[out[0], geometry]]),
		warnings: [],
		error: null,
		bytes: 0,
		milliseconds: 0,
		counts: countsOf(geometry),
		bounds: boundsOf(geometry)
	};
}
