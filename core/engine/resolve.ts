/** What a node gets to run with: every input resolved from its wires and settings, as its kind says. */
import type { Asset } from '../geometry/index.ts';
import type { AnyNode, InputDefinition } from '../nodes/index.ts';
import { rowsIn } from '../nodes/index.ts';
import { inputOf, inputsOf } from './connect.ts';
import type { GraphNode, Setting, Wire } from './document.ts';
import { isRange } from './document.ts';
import type { GraphIndex } from './graph-index.ts';
import type { Arriving, Warn } from './inputs/index.ts';
import { inputKind } from './inputs/index.ts';
import type { NodeMessage } from './result.ts';
import type { Scope } from './scope.ts';
import { settingOf } from './settings-graph.ts';
import { wiresIntoParts } from './vector-parts.ts';

/** Where inputs come from. */
export interface Sources {
	scope: Scope;
	/** Finds an imported file by its digest. */
	asset?: (hash: string) => Asset | null;
	/** The wires that count, where not all of the node's do. */
	wires?: readonly Wire[];
}

const entries = new WeakMap<AnyNode, [string, InputDefinition][]>();
/** The inputs of a kind, listed once. */
function entriesOf(kind: AnyNode): [string, InputDefinition][] {
	let list = entries.get(kind);
	if (!list) entries.set(kind, (list = Object.entries(kind.inputs) as [string, InputDefinition][]));
	return list;
}

/** What `run` gets: every input resolved as its kind says. */
export function resolveInputs(
	node: GraphNode,
	kind: AnyNode,
	sources: Sources,
	warn: Warn,
	only?: readonly string[]
): Record<string, unknown> {
	const inputs: Record<string, unknown> = {};
	for (const [name, input] of entriesOf(kind)) {
		if (only && !only.includes(name)) continue;
		if (input.row && input.row >= rowsIn(node.settings)) continue;
		inputs[name] = inputKind(input).resolve(
			input,
			new Arrivals(node, name, settingOf(node, name, input), sources, warn)
		);
	}
	return inputs;
}

/**
 * Of the wires into a node those that count: where it uses one of several, that one. What cannot be decided yet is left to
 * the node itself, which then says why.
 */
export function wiresPicked(node: GraphNode, kind: AnyNode, scope: Scope): readonly Wire[] {
	const all = scope.index.wiresIntoNode(node.id);
	if (!kind.picks) return all;
	const { among, by, from, place } = kind.picks;
	const others = all.filter(({ to }) => !among.includes(to[1]));
	const name = from(
		Object.fromEntries(
			by.map((one) => [one, settingOf(node, one, kind.inputs[one])]).concat(Object.entries(node.settings))
		)
	);
	const choices = all.filter(({ to }) => to[1] === name);
	if (!choices.length) return others;
	let at: number | null;
	try {
		at = place(
			resolveInputs(node, kind, { scope }, () => {}, by),
			choices.length
		);
	} catch {
		return others;
	}
	return at === null ? [...others, ...choices] : [...others, choices[at]];
}

/** What comes to one input of a node. */
class Arrivals implements Arriving {
	readonly name: string;
	readonly setting: Setting;
	readonly warn: Warn;
	readonly #node: GraphNode;
	readonly #sources: Sources;

	constructor(node: GraphNode, name: string, setting: Setting, sources: Sources, warn: Warn) {
		this.#node = node;
		this.name = name;
		this.setting = setting;
		this.#sources = sources;
		this.warn = warn;
	}

	get #wires() {
		const { wires, scope } = this.#sources;
		return wires
			? wires.filter(({ to }) => to[1] === this.name)
			: scope.index.wiresInto(this.#node.id, this.name);
	}

	get isWired(): boolean {
		return this.#wires.length > 0 || this.#isWiredInPart;
	}

	/** Whether a wire ends at one part of it. */
	get #isWiredInPart(): boolean {
		const { scope } = this.#sources;
		return wiresIntoParts(scope.index.wiresIntoNode(this.#node.id), this.name).length > 0;
	}

	wired(): readonly unknown[] {
		return this.#wires.map(({ from }) => this.#sources.scope.output(from[0], from[1]));
	}

	value() {
		return this.#sources.scope.settings.value(this.#node, this.name);
	}

	asset(hash: string): Asset | null {
		return this.#sources.asset?.(hash) ?? null;
	}

	shorts(): Iterable<string> {
		return this.#sources.scope.index.byShort.keys();
	}
}

/** Random ranges of a node that are drawn once for the node. */
export const drawnOnce = (node: GraphNode, index: GraphIndex): string[] =>
	inputsOf(node).flatMap(([name, input]) => {
		if ((input.kind !== 'number' && input.kind !== 'vector') || input.varies) return [];
		const setting = settingOf(node, name, input);
		const isDrawn = isRange(setting) || (Array.isArray(setting) && setting.some(isRange));
		return isDrawn && !index.wiresInto(node.id, name).length ? [name] : [];
	});

/** Points out random ranges further up that are drawn once, where the artist plainly wanted one per copy. */
export function notesOnSharedRanges(node: GraphNode, kind: AnyNode, index: GraphIndex): NodeMessage[] {
	if (kind.family !== 'copies' || kind.id === 'copies-to-mesh') return [];
	const notes: NodeMessage[] = [];
	const queue = index.wiresInto(node.id, 'source').map((wire) => wire.from[0]);
	const seen = new Set(queue);
	while (queue.length) {
		const up = index.byId.get(queue.pop()!);
		if (!up) continue;
		for (const name of drawnOnce(up, index))
			notes.push({
				message: `The random range of “${inputOf(up, name)!.label}” in ${up.short} is drawn once: all copies show the same source. Vary each copy, or the copies' own scale and rotation, or connect several sources.`,
				input: 'source',
				...(kind.id === 'place-copies' &&
					index.wiresInto(node.id, 'source').length === 1 && {
						fixes: [{ label: 'Vary each copy', varyCopies: true }]
					})
			});
		for (const wire of index.wiresIntoNode(up.id))
			if (!seen.has(wire.from[0])) {
				seen.add(wire.from[0]);
				queue.push(wire.from[0]);
			}
	}
	return notes;
}
