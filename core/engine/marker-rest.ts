/** The rest of a marker: where it stands when something begins to follow it. */
import { nodeKinds } from '../nodes/index.ts';
import { withSetting } from './build.ts';
import type { Graph, GraphNode, Setting } from './document.ts';
import { withoutItsKeys } from './document.ts';
import { isSame } from './dials.ts';
import { settingOf } from './settings-graph.ts';

const settingIn = (node: GraphNode, name: 'place' | 'rest'): Setting =>
	settingOf(node, name, nodeKinds.get('marker')!.inputs[name]);

/**
 * A graph with a wire that was just made. Where it lets something follow a marker whose rest nobody has set, the rest is
 * where the marker stands, so that nothing jumps.
 */
export function withRestOfMarker(
	graph: Graph,
	from: readonly [string, string],
	to: readonly [string, string]
): Graph {
	const [source, target] = [from, to].map(([id]) => graph.nodes.find((node) => node.id === id));
	if (source?.kind !== 'marker' || target?.kind !== 'follow-marker' || to[1] !== 'marker') return graph;
	const { rest } = nodeKinds.get('marker')!.inputs;
	const isUntouched =
		'default' in rest && isSame(settingIn(source, 'rest'), rest.default as unknown as Setting);
	const others = graph.wires.filter(({ from: [id], to: [other] }) => id === source.id && other !== target.id);
	const place = withoutItsKeys(settingIn(source, 'place'));
	const isPlain = Array.isArray(place) && place.every((part) => typeof part === 'number');
	return isUntouched && isPlain && !others.length ? withSetting(graph, source.id, 'rest', place) : graph;
}
