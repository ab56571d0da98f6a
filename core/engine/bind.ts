/** Settings of a graph as varying values: plain numbers, random ranges, formulas with their references, and wires. */
import { NodeError } from '../math/index.ts';
import type { Geometry } from '../geometry/index.ts';
import type { Meaning, Ramp, Scope, Tree, Varying } from '../varying/index.ts';
import {
	FormulaError,
	bindFormula,
	constant,
	constantYesNo,
	listValue,
	namesIn,
	parseFormula,
	random,
	streamWords,
	vector
} from '../varying/index.ts';
import type { InputDefinition, List } from '../nodes/index.ts';
import { nodeKinds } from '../nodes/index.ts';
import { inputOf } from './connect.ts';
import type { FormulaSetting, Graph, GraphNode, ScalarSetting, Setting, Wire } from './document.ts';
import { endsOf, isFormula, isPath, isRamp, isRange } from './document.ts';

const NO_WIRES: readonly Wire[] = [];

/** A graph looked up quickly. Made once for each state of the graph. */
export class GraphIndex {
	readonly byId = new Map<string, GraphNode>();
	readonly byShort = new Map<string, GraphNode>();
	/** Wires into each node. */
	readonly intoNode = new Map<string, Wire[]>();

	constructor(graph: Graph) {
		for (const node of graph.nodes) {
			this.byId.set(node.id, node);
			this.byShort.set(node.short, node);
		}
		for (const wire of graph.wires) {
			push(this.intoNode, wire.to[0], wire);
		}
	}

	wiresInto(node: string, port: string): readonly Wire[] {
		const all = this.intoNode.get(node);
		if (!all) return NO_WIRES;
		// Most nodes have one wire, and are asked for every input at every run.
		if (all.length === 1) return all[0].to[1] === port ? all : NO_WIRES;
		return all.filter((wire) => wire.to[1] === port);
	}
}

function push<K, V>(map: Map<K, V[]>, key: K, value: V): void {
	const list = map.get(key);
	if (list) list.push(value);
	else map.set(key, [value]);
}

const trees = new Map<string, Tree>();

/** A formula's tree, kept by its text. Throws FormulaError. */
export function treeOf(text: string): Tree {
	let tree = trees.get(text);
	if (!tree) {
		tree = parseFormula(text);
		if (trees.size > 2000) trees.clear();
		trees.set(text, tree);
	}
	return tree;
}

/** The settings of other nodes, or of the same, that a formula refers to. */
export function referencesIn(
	text: string,
	node: GraphNode,
	index: GraphIndex
): { node: GraphNode; setting: string }[] {
	let tree: Tree;
	try {
		tree = treeOf(text);
	} catch {
		return [];
	}
	return namesIn(tree).flatMap(({ name }) => {
		const [first, second] = name.split('.');
		if (second !== undefined) {
			const other = index.byShort.get(first);
			if (other && inputOf(other, second)) return [{ node: other, setting: second }];
		}
		const own = inputOf(node, first);
		return own && own.kind !== 'formula' && own.kind !== 'geometry' ? [{ node, setting: first }] : [];
	});
}

/** The parts of a setting that are formulas. */
export function formulasOf(setting: Setting | undefined): FormulaSetting[] {
	if (isFormula(setting)) return [setting];
	return Array.isArray(setting) ? setting.filter(isFormula) : [];
}

/** Binds settings of one graph. Made for one evaluation: `outputs` gives what upstream nodes have emitted. */
export class Binder {
	readonly #index: GraphIndex;
	readonly #seed: number;
	readonly #outputs: (node: string, port: string) => unknown;
	#open: { node: GraphNode; setting: string }[] = [];

	constructor(index: GraphIndex, seed: number, outputs: (node: string, port: string) => unknown) {
		this.#index = index;
		this.#seed = seed;
		this.#outputs = outputs;
	}

	/** The varying value of a setting. Throws NodeError with the input's name. `note` hears what the artist should know. */
	value(node: GraphNode, name: string, note: (message: string) => void = () => {}): Varying {
		const input = inputOf(node, name);
		if (!input) throw new NodeError(`There is no setting “${name}” on ${node.short}.`);
		const circle = this.#open.findIndex((open) => open.node.id === node.id && open.setting === name);
		if (circle >= 0) {
			const path = [...this.#open.slice(circle), { node, setting: name }].map(
				(step) => `${step.node.short}.${step.setting}`
			);
			throw new NodeError(
				`These settings depend on one another in a circle: ${path.join(' → ')}. Give one of them a plain value.`,
				{ input: name }
			);
		}
		this.#open.push({ node, setting: name });
		try {
			const wires = this.#index.wiresInto(node.id, name);
			if (wires.length) return this.#fromWire(wires[wires.length - 1], input, note);
			return this.#fromSetting(node, name, input, settingOf(node, name, input));
		} catch (error) {
			if (error instanceof NodeError && !error.input)
				throw new NodeError(error.message, { input: name, fixes: error.fixes });
			throw error;
		} finally {
			this.#open.pop();
		}
	}

	#fromWire(wire: Wire, input: InputDefinition, note: (message: string) => void): Varying {
		const value = this.#outputs(wire.from[0], wire.from[1]);
		if (isList(value)) {
			if (value.data.length > value.width)
				note(
					`“${input.label}” takes the ${value.data.length / value.width} values of a list in turn, and repeats them where there are more elements.`
				);
			return listValue(value.data, value.width);
		}
		if (!isVarying(value)) throw new NodeError(`“${input.label}” takes a value; geometry came.`);
		return value;
	}

	#fromSetting(node: GraphNode, name: string, input: InputDefinition, setting: Setting): Varying {
		if (typeof setting === 'boolean') return constantYesNo(setting);
		if (Array.isArray(setting)) {
			const [x, y, z] = setting.map((part) => this.#scalar(node, part, false, name));
			return vector(x, y, z);
		}
		if (typeof setting === 'string') {
			if (input.kind === 'formula') return this.#scalar(node, { formula: setting, streams: [] }, false, name);
			throw new NodeError(`“${input.label}” takes a number; a text stands there.`, { input: name });
		}
		if (isRamp(setting) || isPath(setting))
			throw new NodeError(`“${input.label}” takes a number.`, { input: name });
		const scalar = this.#scalar(node, setting, input.kind === 'number' && !!input.whole, name);
		if (input.kind === 'vector' && scalar.type === 'number') return vector(scalar, scalar, scalar);
		return scalar;
	}

	#scalar(node: GraphNode, setting: ScalarSetting, whole: boolean, name: string): Varying {
		if (typeof setting === 'number') return constant(setting);
		if (isRange(setting)) {
			const [low, high] = endsOf(setting);
			return random(constant(low), constant(high), streamWords(this.#seed, '', setting.stream), whole);
		}
		const { formula } = setting;
		try {
			return bindFormula(treeOf(formula), this.#scope(node, name, setting), formula);
		} catch (error) {
			if (!(error instanceof FormulaError)) throw error;
			const { from, to, mending, unknown, message } = error;
			const label = inputOf(node, name)?.label ?? name;
			throw new NodeError(`“${label}”, at character ${from + 1}: ${message}`, {
				input: name,
				fixes: [
					...(mending
						? [
								{
									label: mending.label,
									formula: { from: formula, to: formula.slice(0, from) + mending.text + formula.slice(to) }
								}
							]
						: []),
					...(unknown && !unknown.includes('.')
						? [{ label: `Make “${unknown}” an input`, declare: unknown }]
						: [])
				]
			});
		}
	}

	/** Names in the order of the language: inputs of the node, (reserved names,) settings of the node, attributes. */
	#scope(node: GraphNode, current: string, setting: FormulaSetting): Scope {
		const kind = nodeKinds.get(node.kind)!;
		const meaning = (of: GraphNode, name: string): Meaning | null => {
			const input = inputOf(of, name);
			if (
				!input ||
				input.kind === 'geometry' ||
				input.kind === 'text' ||
				input.kind === 'choice' ||
				input.kind === 'asset' ||
				input.kind === 'list' ||
				input.kind === 'ramp' ||
				input.kind === 'path' ||
				input.kind === 'formula'
			)
				return null;
			return { value: this.value(of, name), unit: 'unit' in input ? input.unit : undefined };
		};
		return {
			lookUp: (name) => {
				const [first, second] = name.split('.');
				if (second !== undefined) {
					const other = this.#index.byShort.get(first);
					return other && name.split('.').length === 2 ? meaning(other, second) : null;
				}
				if (node.inputs?.some((own) => own.name === name)) return meaning(node, name);
				if (name === 'seed') return { value: constant(this.#seed) };
				if (RESERVED_NAMES.has(name)) return null;
				return name !== current && Object.hasOwn(kind.inputs, name) ? meaning(node, name) : null;
			},
			names: () => [
				...(node.inputs ?? []).map((own) => own.name),
				...Object.keys(kind.inputs).filter(
					(name) => kind.inputs[name].kind === 'number' || kind.inputs[name].kind === 'vector'
				),
				...[...this.#index.byShort.values()].flatMap((other) =>
					Object.keys(nodeKinds.get(other.kind)?.inputs ?? {}).map((name) => `${other.short}.${name}`)
				)
			],
			attributes: true,
			stream: (place, shared) =>
				streamWords(
					this.#seed,
					'',
					shared !== null
						? `shared ${shared}`
						: (setting.streams[place] ?? `${node.stream} ${current} ${place}`)
				),
			noiseSeed: this.#seed
		};
	}
}

const RESERVED_NAMES = new Set(['index', 'count', 'id', 'position', 'normal', 'u', 'length']);

/** A node's setting, or what its definition starts with. */
export function settingOf(node: GraphNode, name: string, input: InputDefinition): Setting {
	if (Object.hasOwn(node.settings, name)) return node.settings[name];
	const own = node.inputs?.find((one) => one.name === name);
	if (own) return own.value;
	if (input.kind === 'vector' || input.kind === 'colour')
		return [...input.default] as [number, number, number];
	return 'default' in input ? (input.default as Setting) : 0;
}

export const isList = (value: unknown): value is List =>
	typeof value === 'object' && value !== null && 'width' in value && 'data' in value;
export const isRampValue = (value: unknown): value is Ramp =>
	typeof value === 'object' && value !== null && 'stops' in value;
export const isGeometry = (value: unknown): value is Geometry =>
	typeof value === 'object' && value !== null && 'materials' in value;
export const isVarying = (value: unknown): value is Varying =>
	typeof value === 'object' && value !== null && 'op' in value && 'hash' in value;
