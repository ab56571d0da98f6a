/**
 * The graph of settings: values, random ranges, formulas and wires as varying values, with the references of formulas as
 * edges. Each setting is bound once, after those it refers to, without recursion.
 */
import { NodeError } from '../math/index.ts';
import type { Meaning, Names, Varying } from '../varying/index.ts';
import {
	FormulaError,
	RESERVED,
	bindFormula,
	constant,
	constantYesNo,
	listValue,
	random,
	streamWords,
	vector
} from '../varying/index.ts';
import type { InputDefinition } from '../nodes/index.ts';
import { nodeKinds } from '../nodes/index.ts';
import { inputOf } from './connect.ts';
import type { FormulaSetting, GraphNode, ScalarSetting, Setting, Wire } from './document.ts';
import { endsOf, isPath, isRamp, isRange } from './document.ts';
import type { GraphIndex, SettingRef } from './graph-index.ts';
import { formulasOf, referencesIn, treeOf } from './graph-index.ts';
import { isList, isVarying } from './values.ts';

/** What the settings of one graph are bound from. */
export interface SettingsOf {
	index: GraphIndex;
	seed: number;
	/** The uses and passes on the way down to this graph: part of every random stream. */
	path: string;
	/** What a node has emitted. Throws where nothing came of it. */
	output: (node: string, port: string) => unknown;
	/** Whether a node was evaluated, with whatever result. */
	isDone: (node: string) => boolean;
}

/** A setting that was bound, or why it cannot be. */
interface Bound {
	value: Varying | null;
	error: Error | null;
	/** What the artist should know of it. */
	notes: readonly string[];
}

/** A setting whose references are being bound. */
interface Open extends SettingRef {
	references: readonly SettingRef[];
	next: number;
}

const keyOf = (node: GraphNode, setting: string): string => `${node.id} ${setting}`;

export class SettingsGraph {
	readonly #of: SettingsOf;
	readonly #bound = new Map<string, Bound>();

	constructor(of: SettingsOf) {
		this.#of = of;
	}

	/** Binds the settings of a node that are formulas. Answers the id of a node that must be evaluated first, or null. */
	prepare(node: GraphNode): string | null {
		for (const name of formulaNames(node)) {
			const wanted = this.#bindAll({ node, setting: name });
			if (wanted !== null) return wanted;
		}
		return null;
	}

	/** The varying value of a setting. Throws NodeError with the input's name. `note` hears what the artist should know. */
	value(node: GraphNode, name: string, note: (message: string) => void = () => {}): Varying {
		let bound = this.#bound.get(keyOf(node, name));
		if (!bound) {
			this.#bindAll({ node, setting: name });
			bound = this.#bound.get(keyOf(node, name)) ?? this.#bind(node, name);
		}
		bound.notes.forEach(note);
		if (bound.error) {
			const { error } = bound;
			if (error instanceof NodeError && !error.input)
				throw new NodeError(error.message, { input: name, fixes: error.fixes });
			throw error;
		}
		return bound.value!;
	}

	/** Binds a setting after all that it hangs from. Answers the id of a node whose output is wanted first. */
	#bindAll(first: SettingRef): string | null {
		if (this.#bound.has(keyOf(first.node, first.setting))) return null;
		const stack: Open[] = [this.#open(first)];
		const open = new Set([keyOf(first.node, first.setting)]);
		while (stack.length) {
			const top = stack[stack.length - 1];
			const key = keyOf(top.node, top.setting);
			if (top.next < top.references.length) {
				const reference = top.references[top.next];
				const wanted = keyOf(reference.node, reference.setting);
				if (open.has(wanted)) {
					this.#bound.set(key, circle(stack, reference));
					top.next = top.references.length;
				} else {
					top.next++;
					if (this.#bound.has(wanted)) continue;
					open.add(wanted);
					stack.push(this.#open(reference));
				}
				continue;
			}
			const wire = this.#of.index.wiresInto(top.node.id, top.setting).at(-1);
			// What comes on a wire is known when its node is done; binding goes on from here then.
			if (wire && !this.#of.isDone(wire.from[0]) && stack.length > 1) return wire.from[0];
			if (!this.#bound.has(key)) this.#bound.set(key, this.#bind(top.node, top.setting));
			stack.pop();
			open.delete(key);
		}
		return null;
	}

	#open({ node, setting }: SettingRef): Open {
		return { node, setting, references: this.#referencesOf(node, setting), next: 0 };
	}

	#referencesOf(node: GraphNode, name: string): SettingRef[] {
		const { index } = this.#of;
		if (index.wiresInto(node.id, name).length) return [];
		const input = inputOf(node, name);
		const setting = input ? settingOf(node, name, input) : undefined;
		const texts =
			typeof setting === 'string' && input?.kind === 'formula'
				? [setting]
				: formulasOf(setting).map(({ formula }) => formula);
		return texts.flatMap((text) => referencesIn(text, node, index, name));
	}

	#bind(node: GraphNode, name: string): Bound {
		const input = inputOf(node, name);
		if (!input)
			return failedWith(new NodeError(`There is no setting “${name}” on ${node.short}.`, { input: name }));
		const notes: string[] = [];
		try {
			const wire = this.#of.index.wiresInto(node.id, name).at(-1);
			const value = wire
				? this.#fromWire(wire, input, (message) => notes.push(message))
				: this.#fromSetting(node, name, input, settingOf(node, name, input));
			return { value, error: null, notes };
		} catch (error) {
			return failedWith(
				error instanceof NodeError && !error.input
					? new NodeError(error.message, { input: name, fixes: error.fixes })
					: (error as Error)
			);
		}
	}

	#fromWire(wire: Wire, input: InputDefinition, note: (message: string) => void): Varying {
		const value = this.#of.output(wire.from[0], wire.from[1]);
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
			return random(
				constant(low),
				constant(high),
				streamWords(this.#of.seed, this.#of.path, setting.stream),
				whole
			);
		}
		const { formula } = setting;
		try {
			return bindFormula(treeOf(formula), this.#namesFor(node, name, setting), formula);
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
	#namesFor(node: GraphNode, current: string, setting: FormulaSetting): Names {
		const kind = nodeKinds.get(node.kind)!;
		const meaning = (of: GraphNode, name: string): Meaning | null => {
			const input = inputOf(of, name);
			if (!input || NOT_IN_FORMULAS.has(input.kind)) return null;
			return { value: this.value(of, name), unit: 'unit' in input ? input.unit : undefined };
		};
		return {
			lookUp: (name) => {
				const [first, second] = name.split('.');
				if (second !== undefined) {
					const other = this.#of.index.byShort.get(first);
					return other && name.split('.').length === 2 ? meaning(other, second) : null;
				}
				if (node.inputs?.some((own) => own.name === name)) return meaning(node, name);
				if (name === 'seed') return { value: constant(this.#of.seed) };
				if (RESERVED.includes(name)) return null;
				return name !== current && Object.hasOwn(kind.inputs, name) ? meaning(node, name) : null;
			},
			names: () => [
				...(node.inputs ?? []).map((own) => own.name),
				...Object.keys(kind.inputs).filter(
					(name) => kind.inputs[name].kind === 'number' || kind.inputs[name].kind === 'vector'
				),
				...[...this.#of.index.byShort.values()].flatMap((other) =>
					Object.keys(nodeKinds.get(other.kind)?.inputs ?? {}).map((name) => `${other.short}.${name}`)
				)
			],
			attributes: true,
			stream: (place, shared) =>
				streamWords(
					this.#of.seed,
					this.#of.path,
					shared !== null
						? `shared ${shared}`
						: (setting.streams[place] ?? `${node.stream} ${current} ${place}`)
				),
			noiseSeed: this.#of.seed
		};
	}
}

/** Kinds of input that hold no number. */
const NOT_IN_FORMULAS: ReadonlySet<string> = new Set([
	'geometry',
	'text',
	'choice',
	'asset',
	'list',
	'ramp',
	'path',
	'formula'
]);

const failedWith = (error: Error): Bound => ({ value: null, error, notes: [] });

function circle(stack: readonly Open[], back: SettingRef): Bound {
	const from = stack.findIndex(({ node, setting }) => node === back.node && setting === back.setting);
	const path = [...stack.slice(from), back].map(({ node, setting }) => `${node.short}.${setting}`);
	return failedWith(
		new NodeError(
			`These settings depend on one another in a circle: ${path.join(' → ')}. Give one of them a plain value.`
		)
	);
}

const namesOfNode = new WeakMap<GraphNode, readonly string[]>();

/** The settings of a node that are formulas. */
export function formulaNames(node: GraphNode): readonly string[] {
	let names = namesOfNode.get(node);
	if (!names) {
		const kind = nodeKinds.get(node.kind);
		names = Object.entries(node.settings)
			.filter(
				([name, setting]) =>
					formulasOf(setting).length > 0 ||
					(typeof setting === 'string' && kind?.inputs[name]?.kind === 'formula')
			)
			.map(([name]) => name);
		namesOfNode.set(node, names);
	}
	return names;
}

/** A node's setting, or what its definition starts with. */
export function settingOf(node: GraphNode, name: string, input: InputDefinition): Setting {
	if (Object.hasOwn(node.settings, name)) return node.settings[name];
	const own = node.inputs?.find((one) => one.name === name);
	if (own) return own.value;
	if (input.kind === 'vector' || input.kind === 'colour')
		return [...input.default] as [number, number, number];
	return 'default' in input ? (input.default as Setting) : 0;
}
