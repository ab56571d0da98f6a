/** One node's settings, kept under a name and used on others of its kind, in other generators too. */
import { z } from 'zod';
import { nodeKinds, rowsIn } from '../nodes/index.ts';
import { withStreams } from './build.ts';
import { inputOf } from './connect.ts';
import type { Graph, GraphNode, Setting } from './document.ts';
import { nameSchema, newStream, nodeSchema, withNodes } from './document.ts';
import { takes } from './inputs/index.ts';

export const savedSettingsSchema = z.object({
	id: z.string().min(1).max(80),
	/** The kind of node whose settings they are. */
	kind: z.string().max(80),
	name: nameSchema,
	settings: nodeSchema.shape.settings
});
export type SavedSettings = z.infer<typeof savedSettingsSchema>;

/** What of a node is kept: all that is set by hand, but for files, which stay with their generator. */
export const settingsToSave = (node: GraphNode): GraphNode['settings'] =>
	Object.fromEntries(
		Object.entries(node.settings).filter(([name]) => inputOf(node, name)?.kind !== 'asset' && name !== 'body')
	);

/** Whether a node takes a setting: one of a name that it does not know it leaves alone. */
const takesSetting = (node: GraphNode, name: string, setting: Setting): boolean => {
	const input = inputOf(node, name);
	return !!input && takes(input, setting);
};

/** A node with those of some settings that it takes; how many rows it has comes first. */
export function withTaken(node: GraphNode, settings: GraphNode['settings']): GraphNode {
	const { rows } = settings;
	const rowed =
		nodeKinds.get(node.kind)?.rows && typeof rows === 'number'
			? { ...node, settings: { ...node.settings, rows: rowsIn(settings) } }
			: node;
	const taken = Object.entries(settings).filter(([name, setting]) => takesSetting(rowed, name, setting));
	return { ...rowed, settings: { ...rowed.settings, ...Object.fromEntries(taken) } };
}

/** A node with saved settings. Random ranges draw numbers of their own. */
export const withSavedSettings = (graph: Graph, id: string, { kind, settings }: SavedSettings): Graph =>
	withNodes(graph, (node) =>
		node.id === id && node.kind === kind ? withTaken(node, withStreams(settings, newStream)) : node
	);
