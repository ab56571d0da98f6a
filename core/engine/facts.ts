/** What can be told of a node, or of a graph, from its settings alone. */
import { Hasher } from '../math/index.ts';
import type { InputDefinition } from '../nodes/index.ts';
import { nodeKinds } from '../nodes/index.ts';
import { inputsOf } from './connect.ts';
import type { GraphNode, Setting } from './document.ts';
import { isFormula, isRange } from './document.ts';
import { formulaNames, settingOf } from './settings-graph.ts';

/** What is known of a node's settings without its graph. A node object never changes, so this is found once. */
export interface NodeFacts {
	/** A hash of the plain settings. */
	signature: string;
	/** Inputs whose setting is a random range or a formula. */
	varied: string[];
	hasFormulas: boolean;
}

const known = new WeakMap<GraphNode, NodeFacts>();

/** What is known of a node; found once for each node object. */
export function factsOf(node: GraphNode): NodeFacts {
	let facts = known.get(node);
	if (facts) return facts;
	const kind = nodeKinds.get(node.kind);
	const hasher = new Hasher().text(node.kind).word(kind?.version ?? 0);
	const varied: string[] = [];
	for (const [name, input] of inputsOf(node)) {
		const setting = settingOf(node, name, input);
		if (isVaried(setting, input)) varied.push(name);
		else hasher.text(name).text(JSON.stringify(setting));
	}
	facts = { signature: hasher.key(), varied, hasFormulas: formulaNames(node).length > 0 };
	known.set(node, facts);
	return facts;
}

/** Whether a setting must be bound before it can be hashed: random ranges and formulas. */
export function isVaried(setting: Setting, input: InputDefinition): boolean {
	if (isRange(setting) || isFormula(setting)) return true;
	if (input.kind === 'formula') return true;
	return Array.isArray(setting) && setting.some((part) => isRange(part) || isFormula(part));
}
