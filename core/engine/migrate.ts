/** Documents of earlier versions in the names of today. Works on what was read, before it is checked: it may be broken. */
import { nodeKinds } from '../nodes/index.ts';
import type { AnyNode } from '../nodes/index.ts';
import { KEPT_NAMES, KEPT_SHORTS, renameInFormula, renameName } from '../varying/index.ts';
import { numbered } from './free-names.ts';

type Raw = Record<string, unknown>;
const isRaw = (x: unknown): x is Raw => typeof x === 'object' && x !== null && !Array.isArray(x);
const rowsOf = (x: unknown): unknown[] => (Array.isArray(x) ? x : []);

/** What became of a kind of node since a version. */
interface Renamed {
	kind: AnyNode;
	inputs: ReadonlyMap<string, string>;
	options: ReadonlyMap<string, ReadonlyMap<string, string>>;
}

/** The kinds that were called otherwise before a version, or had inputs that were, by their ids of then. */
function renamedSince(version: number): ReadonlyMap<string, Renamed> {
	const out = new Map<string, Renamed>();
	for (const kind of nodeKinds.values())
		for (const { before, id = kind.id, inputs = {}, options = {} } of kind.renamed ?? [])
			if (before === version + 1)
				out.set(id, {
					kind,
					inputs: new Map(Object.entries(inputs)),
					options: new Map(Object.entries(options).map(([name, one]) => [name, new Map(Object.entries(one))]))
				});
	return out;
}

/** A document one version on, its kinds, inputs and options by their new names, in formulas too, in every graph of it. */
export function withNewNames(document: Raw, version: number): Raw {
	const known = renamedSince(version);
	const graphs = Object.entries(isRaw(document.graphs) ? document.graphs : {});
	return {
		...document,
		graphs: Object.fromEntries(
			graphs.map(([id, graph]) => [id, isRaw(graph) ? graphWithNewNames(graph, known) : graph])
		)
	};
}

function graphWithNewNames(graph: Raw, known: ReadonlyMap<string, Renamed>): Raw {
	const byId = new Map<unknown, Renamed>();
	const byShort = new Map<string, Renamed>();
	for (const node of rowsOf(graph.nodes)) {
		const renamed = isRaw(node) && known.get(String(node.kind));
		if (!renamed) continue;
		byId.set(node.id, renamed);
		if (typeof node.short === 'string' && renamed.inputs.size) byShort.set(node.short, renamed);
	}
	const nodes = rowsOf(graph.nodes).map((node) => (isRaw(node) ? renamedNode(node, byId, byShort) : node));
	const wires = rowsOf(graph.wires).map((wire) => {
		if (!isRaw(wire) || !Array.isArray(wire.to)) return wire;
		const [id, input] = wire.to as unknown[];
		const now = byId.get(id)?.inputs.get(String(input));
		return now === undefined ? wire : { ...wire, to: [id, now] };
	});
	return { ...graph, nodes, wires };
}

function renamedNode(
	node: Raw,
	byId: ReadonlyMap<unknown, Renamed>,
	byShort: ReadonlyMap<string, Renamed>
): Raw {
	const own = byId.get(node.id);
	const inFormula = (text: string): string => {
		if (own) {
			// A name that only now is one of the node's own meant an attribute.
			for (const now of own.inputs.values())
				if (!own.inputs.has(now)) text = renameName(text, now, `attribute.${now}`);
			for (const [old, now] of own.inputs) text = renameName(text, old, now);
		}
		for (const [short, { inputs }] of byShort)
			if (text.includes(`${short}.`))
				for (const [old, now] of inputs) text = renameName(text, `${short}.${old}`, `${short}.${now}`);
		return text;
	};
	const changed = (setting: unknown): unknown =>
		Array.isArray(setting)
			? setting.map(changed)
			: isRaw(setting) && typeof setting.formula === 'string'
				? { ...setting, formula: inFormula(setting.formula) }
				: setting;
	const settings: [string, unknown][] = Object.entries(isRaw(node.settings) ? node.settings : {}).map(
		([old, setting]) => {
			const name = own?.inputs.get(old) ?? old;
			const option = typeof setting === 'string' && own?.options.get(name)?.get(setting);
			// The formula of a Formula node is a text.
			if (typeof setting === 'string' && nodeKinds.get(String(node.kind))?.inputs[name]?.kind === 'formula')
				return [name, inFormula(setting)];
			return [name, option || changed(setting)];
		}
	);
	return {
		...node,
		...(own && { kind: own.kind.id }),
		...(isRaw(node.settings) && { settings: Object.fromEntries(settings) }),
		...(own &&
			Array.isArray(node.pinned) && {
				pinned: node.pinned.map((name) => own.inputs.get(String(name)) ?? (name as unknown))
			})
	};
}

/** Backgrounds by the names of today; “paper” was that of the theme. */
const BACKGROUNDS_OF_1: Readonly<Record<string, string>> = {
	paper: 'theme',
	mist: 'grey',
	slate: 'dusk',
	night: 'dusk'
};

export function withNewBackground(document: Raw): Raw {
	if (!isRaw(document.view)) return document;
	const old = document.view.background;
	const now = typeof old === 'string' && Object.hasOwn(BACKGROUNDS_OF_1, old) ? BACKGROUNDS_OF_1[old] : old;
	return { ...document, view: { ...document.view, background: now } };
}

/**
 * A document without nodes that have names which formulas keep for themselves: `time` becomes `time2`, in formulas too. What
 * was read by such a name alone was a setting of the same node, or an attribute, and still is.
 */
export function withoutKeptNames(document: Raw): Raw {
	const graphs = isRaw(document.graphs) ? document.graphs : {};
	return {
		...document,
		graphs: Object.fromEntries(
			Object.entries(graphs).map(([id, graph]) => [id, isRaw(graph) ? graphWithoutKeptNames(graph) : graph])
		)
	};
}

function graphWithoutKeptNames(graph: Raw): Raw {
	const nodes = rowsOf(graph.nodes);
	const taken = new Set(nodes.map((node) => (isRaw(node) ? node.short : undefined)));
	const renamed = new Map<string, string>();
	for (const short of taken) {
		if (typeof short !== 'string' || !KEPT_SHORTS.has(short)) continue;
		renamed.set(
			short,
			numbered(short, (name) => taken.has(name))
		);
	}
	return {
		...graph,
		nodes: nodes.map((node) => {
			if (!isRaw(node)) return node;
			const settings = isRaw(node.settings) ? node.settings : {};
			const kind = nodeKinds.get(String(node.kind));
			const own = new Set(rowsOf(node.inputs).map((input) => (isRaw(input) ? input.name : undefined)));
			const short = renamed.get(String(node.short)) ?? node.short;
			const inFormula = (text: string): string => {
				for (const name of KEPT_NAMES) {
					if (own.has(name) || !text.includes(name)) continue;
					const isSetting = !!kind && Object.hasOwn(kind.inputs, name);
					text = renameName(text, name, isSetting ? `${String(short)}.${name}` : `attribute.${name}`);
				}
				for (const [from, to] of renamed)
					if (text.includes(`${from}.`)) text = renameInFormula(text, from, to);
				return text;
			};
			return {
				...node,
				short,
				...(isRaw(node.settings) && { settings: mapTexts(settings, kind, inFormula) })
			};
		})
	};
}

/** Settings with the texts of their formulas changed. */
function mapTexts(settings: Raw, kind: AnyNode | undefined, change: (text: string) => string): Raw {
	const one = (setting: unknown): unknown =>
		Array.isArray(setting)
			? setting.map(one)
			: isRaw(setting) && typeof setting.formula === 'string'
				? { ...setting, formula: change(setting.formula) }
				: setting;
	return Object.fromEntries(
		Object.entries(settings).map(([name, setting]) => [
			name,
			typeof setting === 'string' && kind?.inputs[name]?.kind === 'formula' ? change(setting) : one(setting)
		])
	);
}
