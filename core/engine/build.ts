/** Small changes to documents as pure functions: what the editor's commands, samples and tests are made of. */
import { NodeError } from '../math/index.ts';
import { nodeKinds, rowsIn, takesMany } from '../nodes/index.ts';
import type { AnyNode, InputDefinition } from '../nodes/index.ts';
import { fits, inputOf, inputsOf, outputsOf } from './connect.ts';
import type { GeneratorDocument, Graph, GraphNode, Setting, Wire } from './document.ts';
import { isFormula, isKeys, isRange, newStream, withKeyValues } from './document.ts';
import { inputKind } from './inputs/index.ts';
import { KEPT_SHORTS, renameInFormula } from '../varying/index.ts';
import { freeName, numbered } from './free-names.ts';
import { isOf, settingsWith, wholeOf } from './vector-parts.ts';

/** A name that no node of the graph has: sow, sow2, sow3 … */
export function freeShort(graph: Graph, wanted: string): string {
	const taken = new Set<string>([...graph.nodes.map((node) => node.short), ...KEPT_SHORTS]);
	const base =
		wanted
			.replace(/[^\p{L}\p{N}_]/gu, '')
			.replace(/^\d+/, '')
			.slice(0, 50) || 'node';
	return freeName(base, (short) => taken.has(short));
}

/** The short name that a new node of a kind begins with: its name in camel case. */
export function shortFor(kind: AnyNode): string {
	const [first, ...rest] = kind.name.split(/[\s-]+/);
	return first.toLowerCase() + rest.map((word) => word[0].toUpperCase() + word.slice(1)).join('');
}

/** A new node of a kind with all its settings, which are written out, defaults too. */
export function newNode(
	graph: Graph,
	kindId: string,
	at: readonly [number, number],
	settings: Record<string, unknown> = {}
): GraphNode {
	const kind = nodeKinds.get(kindId);
	if (!kind) throw new NodeError(`There is no kind of node “${kindId}”.`);
	const taken = new Set(graph.nodes.map((node) => node.id));
	const id = numbered('n', (one) => taken.has(one), graph.nodes.length + 1);
	const own: Record<string, Setting> = {};
	for (const [name, input] of Object.entries(kind.inputs) as [string, InputDefinition][]) {
		// A row that is not there yet has no settings.
		if (input.row && input.row >= rowsIn(settings)) continue;
		const start = inputKind(input).start(input);
		if (start !== null) own[name] = Object.hasOwn(settings, name) ? (settings[name] as Setting) : start;
	}
	return {
		id,
		kind: kindId,
		version: kind.version,
		short: freeShort(graph, shortFor(kind)),
		at: [at[0], at[1]],
		settings: own,
		...(kind.ownInputs && { inputs: [{ name: 'x', value: 1 }] }),
		stream: newStream()
	};
}

/** The graph with a wire more. An input that takes one wire loses the one it had. */
export function withWire(graph: Graph, wire: Wire): Graph {
	const target = graph.nodes.find((node) => node.id === wire.to[0]);
	const input = target && inputOf(target, wire.to[1]);
	const many = !!input && takesMany(input);
	const same = (w: Wire) => w.to[0] === wire.to[0] && w.to[1] === wire.to[1];
	// A vector is wired as a whole, or part by part.
	const isRival = ({ to: [id, name] }: Wire) =>
		id === wire.to[0] && name !== wire.to[1] && (isOf(name, wire.to[1]) || isOf(wire.to[1], name));
	const kept = graph.wires.filter(
		(w) => !isRival(w) && !(same(w) && (!many || (w.from[0] === wire.from[0] && w.from[1] === wire.from[1])))
	);
	return { ...graph, wires: [...kept, wire] };
}

/** The graph with a setting changed. */
export function withSetting(graph: Graph, node: string, name: string, setting: Setting): Graph {
	return {
		...graph,
		nodes: graph.nodes.map((one) => (one.id === node ? withSettingOn(one, name, setting) : one))
	};
}

/** A node with a setting changed, or one part of a vector. */
export function withSettingOn(node: GraphNode, name: string, setting: Setting): GraphNode {
	const whole = inputOf(node, wholeOf(name));
	const original = (whole && inputKind(whole).start(whole)) ?? 0;
	return { ...node, settings: settingsWith(node.settings, name, setting, original) };
}

/** The graph without some nodes. Where one stood in a chain of geometry, its wires are healed past it. */
export function withoutNodes(graph: Graph, ids: ReadonlySet<string>): Graph {
	let wires = graph.wires;
	const byId = new Map(graph.nodes.map((node) => [node.id, node]));
	for (const id of ids) {
		const through = byId.has(id) ? throughPorts(byId.get(id)!) : null;
		const into = through && wires.find((w) => w.to[0] === id && w.to[1] === through.input);
		const healed = wires.flatMap((wire): Wire[] => {
			if (wire.from[0] !== id) return wire.to[0] === id ? [] : [wire];
			const target = byId.get(wire.to[0]);
			const input = target && inputOf(target, wire.to[1]);
			if (!through || !into || wire.from[1] !== through.output || !input) return [];
			return fits('geometry', input).fits ? [{ from: into.from, to: wire.to }] : [];
		});
		wires = healed;
	}
	wires = wires.filter((w) => !ids.has(w.from[0]) && !ids.has(w.to[0]));
	return { ...graph, nodes: graph.nodes.filter((node) => !ids.has(node.id)), wires };
}

/** The ports by which a node hands geometry through: its first geometry input and output. */
export function throughPorts(node: GraphNode): { input: string; output: string } | null {
	const input = inputsOf(node).find(([, one]) => one.kind === 'geometry');
	const output = Object.entries(outputsOf(node)).find(([, one]) => one.kind === 'geometry');
	return input && output ? { input: input[0], output: output[0] } : null;
}

/** The graph with a node renamed, and every formula that refers to it rewritten. */
export function withShort(graph: Graph, id: string, wanted: string): Graph {
	const node = graph.nodes.find((one) => one.id === id);
	if (!node || node.short === wanted) return graph;
	const short = freeShort({ ...graph, nodes: graph.nodes.filter((one) => one.id !== id) }, wanted);
	return {
		...graph,
		nodes: graph.nodes.map((one) => ({
			...one,
			short: one.id === id ? short : one.short,
			settings: mapFormulas(one, (text) => renameInFormula(text, node.short, short))
		}))
	};
}

/** A node's settings with every formula's text changed. The same object where none changes. */
export function mapFormulas(node: GraphNode, change: (text: string) => string): GraphNode['settings'] {
	let changed = false;
	const one = <S>(setting: S): S => {
		if (!isFormula(setting)) return setting;
		const formula = change(setting.formula);
		if (formula === setting.formula) return setting;
		changed = true;
		return { ...setting, formula };
	};
	const settings: Record<string, Setting> = {};
	const kind = nodeKinds.get(node.kind);
	for (const [name, setting] of Object.entries(node.settings)) {
		settings[name] = Array.isArray(setting) ? (setting.map(one) as typeof setting) : one(setting);
		if (typeof setting === 'string' && kind?.inputs[name]?.kind === 'formula') {
			const text = change(setting);
			changed ||= text !== setting;
			settings[name] = text;
		}
	}
	return changed ? settings : node.settings;
}

/** The node that exports and cards show: the first Result, or else the last node of geometry that nothing hangs from. */
export function resultNode(document: GeneratorDocument): GraphNode | null {
	const { nodes, wires } = document.graphs.main;
	const result = nodes.find((node) => node.kind === 'result');
	if (result) return result;
	const used = new Set(wires.map((wire) => wire.from[0]));
	const free = nodes.filter((node) => !used.has(node.id));
	// A number that was just added is nothing to look at.
	const isSeen = (node: GraphNode) => Object.values(outputsOf(node)).some(({ kind }) => kind === 'geometry');
	return free.findLast(isSeen) ?? free.at(-1) ?? null;
}

/** A setting with other streams for its random numbers. */
export function mapStreams(setting: Setting, change: (stream: string) => string): Setting {
	if (isRange(setting)) return { ...setting, stream: change(setting.stream) };
	if (isFormula(setting)) return { ...setting, streams: setting.streams.map(change) };
	if (isKeys(setting)) return withKeyValues(setting, (value) => mapStreams(value, change));
	return Array.isArray(setting)
		? (setting.map((part) => mapStreams(part, change)) as typeof setting)
		: setting;
}

/** Settings with other streams for their random numbers. */
export const withStreams = (
	settings: GraphNode['settings'],
	change: (stream: string) => string
): GraphNode['settings'] =>
	Object.fromEntries(Object.entries(settings).map(([name, setting]) => [name, mapStreams(setting, change)]));

/** A node's settings whose formulas speak of others by new short names. */
export function withShorts(node: GraphNode, shorts: ReadonlyMap<string, string>): GraphNode['settings'] {
	const changed = [...shorts].filter(([from, to]) => from !== to);
	if (!changed.length) return node.settings;
	// All at once, through names that cannot be typed, so that a swap of names does not chain.
	return mapFormulas(node, (text) => {
		let renamed = text;
		changed.forEach(([from], i) => (renamed = renameInFormula(renamed, from, `ꙮ${i}`)));
		changed.forEach(([, to], i) => (renamed = renameInFormula(renamed, `ꙮ${i}`, to)));
		return renamed;
	});
}

/** The texts of all formulas of a node. */
export function textsOf(node: GraphNode): string[] {
	const texts: string[] = [];
	mapFormulas(node, (text) => (texts.push(text), text));
	return texts;
}

/** Those of some nodes of which a formula speaks: `height.value` speaks of height. */
export const spokenOf = <Named extends { short: string }>(
	named: readonly Named[],
	texts: readonly string[]
): Named[] => named.filter(({ short }) => texts.some((text) => renameInFormula(text, short, 'ꙮ') !== text));
