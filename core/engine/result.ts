/** What comes of a node. */
import { Hasher } from '../math/index.ts';
import type { Fix } from '../math/index.ts';
import type { Bounds, Counts, Geometry } from '../geometry/index.ts';
import type { GraphNode } from './document.ts';
import { throughPorts } from './build.ts';
import type { GraphIndex } from './graph-index.ts';
import { isGeometry } from './values.ts';
import type { Value } from './values.ts';

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
}

const nothing = {
	outputs: new Map<string, Value>(),
	counts: null,
	bounds: null,
	milliseconds: 0,
	warnings: []
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

/** What a bypassed node hands through, or why it cannot. */
export function bypassedFrom(
	node: GraphNode,
	index: GraphIndex,
	results: ReadonlyMap<string, NodeResult>
): NodeResult | { port: string; geometries: Geometry[]; key: string } {
	const ports = throughPorts(node);
	const through =
		ports && index.wiresInto(node.id, ports.input).map((wire) => ({ wire, up: results.get(wire.from[0]) }));
	if (!ports || !through?.length) return waiting(node, 'Bypassed: it has nothing to hand through.');
	const blocked = through.find(({ up }) => !up || up.state === 'error' || up.state === 'waiting');
	if (blocked) return waitingFor(node, blocked.wire.from[0], index);
	const geometries = through
		.map(({ wire, up }) => up!.outputs.get(wire.from[1]))
		.filter((value): value is Geometry => isGeometry(value));
	const key = new Hasher()
		.text('bypassed')
		.text(ports.output)
		.text(through.map(({ wire, up }) => `${up!.key} ${wire.from[1]}`).join())
		.key();
	return { port: ports.output, geometries, key };
}
