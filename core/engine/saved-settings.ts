/** One node's settings, kept under a name and used on others of its kind, in other generators too. */
import { z } from 'zod';
import { mapStreams } from './build.ts';
import { inputOf, inputsOf } from './connect.ts';
import type { Graph, GraphNode, Setting } from './document.ts';
import { nameSchema, newStream, nodeSchema } from './document.ts';
import { withNodeChanged } from './edits.ts';
import { inputKind } from './inputs/index.ts';

export const savedSettingsSchema = z.object({
	id: z.string().min(1).max(80),
	/** The kind of node whose settings they are. */
	kind: z.string().max(80),
	name: nameSchema,
	settings: nodeSchema.shape.settings
});
export type SavedSettings = z.infer<typeof savedSettingsSchema>;

/** What of a node is kept: all that its kind lets be set by hand, but for files, which stay with their generator. */
export const settingsToSave = (node: GraphNode): GraphNode['settings'] =>
	Object.fromEntries(
		inputsOf(node).flatMap(([name, input]): [string, Setting][] =>
			input.kind !== 'asset' && name !== 'body' && Object.hasOwn(node.settings, name)
				? [[name, node.settings[name]]]
				: []
		)
	);

/** A node with saved settings; what it does not know, or would not take, is left as it is. Random ranges draw numbers of their own. */
export function withSavedSettings(graph: Graph, id: string, saved: SavedSettings): Graph {
	const node = graph.nodes.find((one) => one.id === id);
	if (!node || node.kind !== saved.kind) return graph;
	const taken = Object.entries(saved.settings).flatMap(([name, setting]): [string, Setting][] => {
		const input = inputOf(node, name);
		const schema = input && inputKind(input).schema;
		return schema?.safeParse(setting).success ? [[name, mapStreams(setting, newStream)]] : [];
	});
	return withNodeChanged(graph, id, () => ({ settings: { ...node.settings, ...Object.fromEntries(taken) } }));
}
