/** Where a graph has room: under all that is there. */
import type { Graph } from '$core/engine/index';

/** Units of the graph that a node's label and its distance to the next take at most. */
const NODE_TALL = 200;

export const below = ({ nodes }: Graph): [number, number] => [
	Math.min(0, ...nodes.map(({ at }) => at[0])),
	Math.max(0, ...nodes.map(({ at }) => at[1] + NODE_TALL))
];
