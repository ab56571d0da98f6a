/** In which order nodes are evaluated, and what can be told of a node from its settings alone. */
import { Hasher } from '../math/index.ts';
import type { InputDefinition } from '../nodes/index.ts';
import { nodeKinds } from '../nodes/index.ts';
import type { GraphIndex } from './bind.ts';
import { formulasOf, referencesIn, settingOf } from './bind.ts';
import { inputsOf } from './connect.ts';
import type { GraphNode, Setting, Wire } from './document.ts';
import { isFormula, isRange } from './document.ts';

/** What is known of a node's settings without its graph. A node object never changes, so this is found once. */
export interface NodeFacts {
	/** A hash of the plain settings. */
	signature: string;
	/** Inputs whose setting is a random range or a formula. */
	varied: string[];
	hasFormulas: boolean;
}

const NO_WIRES: readonly Wire[] = [];
const known = new WeakMap<GraphNode, NodeFacts>();

/** Nodes in an order in which each comes after all it depends on. No recursion: graphs may be long. */
export function orderOf(
	index: GraphIndex,
	targets: readonly string[]
): { order: GraphNode[]; circular: Set<string> } {
	const order: GraphNode[] = [];
	const state = new Map<string, 'open' | 'done'>();
	const circular = new Set<string>();
	const stack: { id: string; needs: string[]; next: number }[] = [];
	const open = (id: string) => {
		state.set(id, 'open');
		stack.push({ id, needs: needsOf(id, index), next: 0 });
	};
	for (const target of targets) {
		if (!index.byId.has(target) || state.has(target)) continue;
		open(target);
		while (stack.length) {
			const top = stack[stack.length - 1];
			const need = top.needs[top.next++];
			if (need === undefined) {
				stack.pop();
				state.set(top.id, 'done');
				order.push(index.byId.get(top.id)!);
			} else if (!state.has(need)) open(need);
			else if (state.get(need) === 'open') circular.add(top.id);
		}
	}
	return { order, circular };
}

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
	const hasFormulas =
		kind?.id === 'formula' || Object.values(node.settings).some((setting) => formulasOf(setting).length > 0);
	facts = { signature: hasher.digest(), varied, hasFormulas };
	known.set(node, facts);
	return facts;
}

/** The nodes whose outputs a node needs: along wires, and behind the references of its formulas. */
function needsOf(id: string, index: GraphIndex): string[] {
	const wires = index.intoNode.get(id) ?? NO_WIRES;
	if (!factsOf(index.byId.get(id)!).hasFormulas)
		return wires.map((wire) => wire.from[0]).filter((need) => need !== id && index.byId.has(need));
	const needs = new Set((index.intoNode.get(id) ?? []).map((wire) => wire.from[0]));
	const node = index.byId.get(id)!;
	const seen = new Set<string>();
	const queue = Object.values(node.settings).flatMap((s) =>
		formulasOf(s).map((f) => ({ node, text: f.formula }))
	);
	if (nodeKinds.get(node.kind)?.id === 'formula' && typeof node.settings.formula === 'string')
		queue.push({ node, text: node.settings.formula });
	while (queue.length) {
		const { node: from, text } = queue.pop()!;
		for (const { node: other, setting } of referencesIn(text, from, index)) {
			const key = `${other.id} ${setting}`;
			if (seen.has(key)) continue;
			seen.add(key);
			for (const wire of index.wiresInto(other.id, setting)) needs.add(wire.from[0]);
			if (Object.hasOwn(other.settings, setting))
				for (const f of formulasOf(other.settings[setting])) queue.push({ node: other, text: f.formula });
		}
	}
	needs.delete(id);
	return [...needs].filter((need) => index.byId.has(need));
}

/** Whether a setting may differ from element to element, or hang from other settings. */
export const isVaried = (setting: Setting, input: InputDefinition): boolean =>
	isRange(setting) ||
	isFormula(setting) ||
	input.kind === 'formula' ||
	(Array.isArray(setting) && setting.some((part) => typeof part !== 'number'));
