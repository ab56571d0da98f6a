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
	listValue,
	random,
	streamWords
} from '../varying/index.ts';
import type { InputDefinition, Moment } from '../nodes/index.ts';
import { nodeKinds } from '../nodes/index.ts';
import { inputOf, inputsOf, outputOf, outputsOf } from './connect.ts';
import { numbersOfDial } from './dial-conditions.ts';
import { inputKind } from './inputs/index.ts';
import type { Dial, GraphNode, ScalarSetting, Setting, Wire } from './document.ts';
import { endsOf, isRange } from './document.ts';
import type { GraphIndex } from './graph-index.ts';
import { formulasOf, referencesIn, treeOf } from './graph-index.ts';
import { isList, isVarying } from './values.ts';
import { PARTS, cutPart, partOfSetting, wiresIntoParts } from './vector-parts.ts';

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
	/** Which pass it is, or which of a repeat so many further out; null where there is none. */
	pass: (outer: number) => { pass: number; passes: number } | null;
	/** The frame at hand. */
	moment: () => Moment;
	/** What a dial is; null where there is none of that key. */
	dial: (key: string) => Dial | null;
	/** Every key of a dial. */
	dials: () => string[];
	/** What arrives at an input of the body. */
	arrival: (input: GraphNode) => unknown;
}

/** A setting on its way: what it refers to, and, once it is bound, its value or why it has none. */
interface Slot {
	readonly node: GraphNode;
	readonly setting: string;
	readonly references: readonly Slot[];
	/** Nodes of which its formulas read an output. */
	readonly reads: readonly string[];
	/** The reference that is bound next. */
	next: number;
	isOpen: boolean;
	bound: Bound | null;
}

interface Bound {
	value: Varying | null;
	error: Error | null;
}

const NO_SLOTS: readonly Slot[] = [];

export class SettingsGraph {
	readonly #of: SettingsOf;
	readonly #slots = new Map<GraphNode, Map<string, Slot>>();

	constructor(of: SettingsOf) {
		this.#of = of;
	}

	/** Binds the settings of a node that are formulas. Answers the id of a node that must be evaluated first, or null. */
	prepare(node: GraphNode): string | null {
		for (const name of formulaNames(node)) {
			const wanted = this.#bindAll(this.#slot(node, name));
			if (wanted !== null) return wanted;
		}
		return null;
	}

	/** The varying value of a setting. Throws NodeError with the input's name. */
	value(node: GraphNode, name: string): Varying {
		const slot = this.#slot(node, name);
		if (!slot.bound) this.#bindAll(slot);
		// Only what waits for a wire is not bound by now.
		const { value, error } = (slot.bound ??= this.#bind(node, name));
		if (value) return value;
		if (error instanceof NodeError && !error.input)
			throw new NodeError(error.message, { input: name, fixes: error.fixes });
		throw error!;
	}

	/** The slot of a setting, its references not looked for yet. */
	#slot(node: GraphNode, setting: string): Slot {
		let own = this.#slots.get(node);
		if (!own) this.#slots.set(node, (own = new Map()));
		let slot = own.get(setting);
		if (!slot)
			own.set(
				setting,
				(slot = { node, setting, references: NO_SLOTS, reads: [], next: -1, isOpen: false, bound: null })
			);
		return slot;
	}

	/** Binds a setting after all that it hangs from. Answers the id of a node whose output is wanted first. */
	#bindAll(first: Slot): string | null {
		if (first.bound) return null;
		const stack: Slot[] = [];
		const open = (slot: Slot) => {
			slot.isOpen = true;
			if (slot.next < 0) Object.assign(slot, this.#referencesOf(slot));
			slot.next = 0;
			stack.push(slot);
		};
		open(first);
		let wanted: string | null = null;
		while (stack.length && wanted === null) {
			const top = stack[stack.length - 1];
			if (top.next < top.references.length) {
				const reference = top.references[top.next++];
				if (reference.isOpen) {
					top.bound = circle(stack, reference);
					top.next = top.references.length;
				} else if (!reference.bound) open(reference);
				continue;
			}
			// What comes on a wire is known when its node is done; binding goes on from here then.
			const wire = stack.length > 1 ? this.#wireAwaited(top) : undefined;
			const read = top.reads.find((id) => !this.#of.isDone(id));
			if (wire) wanted = wire.from[0];
			else if (read !== undefined) wanted = read;
			else {
				top.bound ??= this.#bind(top.node, top.setting);
				top.isOpen = false;
				stack.pop();
			}
		}
		for (const slot of stack) slot.isOpen = false;
		return wanted;
	}

	/** A wire into a setting, or into a part of it, whose node is not done. */
	#wireAwaited({ node, setting }: Slot): Wire | undefined {
		const { index, isDone } = this.#of;
		const own = index.wiresInto(node.id, setting).slice(-1);
		return [...own, ...wiresIntoParts(index.wiresIntoNode(node.id), setting)].find(
			({ from }) => !isDone(from[0])
		);
	}

	#referencesOf({ node, setting: name }: Slot): Pick<Slot, 'references' | 'reads'> {
		const { index } = this.#of;
		const none = { references: NO_SLOTS, reads: [] };
		if (index.wiresInto(node.id, name).length) return none;
		const all = formulaTexts(node, name).flatMap((text) => referencesIn(text, node, index, name));
		if (!all.length) return none;
		return {
			references: all.flatMap((to) => (to.isOutput ? [] : [this.#slot(to.node, to.setting)])),
			reads: all.flatMap((to) => (to.isOutput ? [to.node.id] : []))
		};
	}

	#bind(node: GraphNode, name: string): Bound {
		const input = inputOf(node, name);
		if (!input)
			return failedWith(new NodeError(`There is no setting “${name}” on ${node.short}.`, { input: name }));
		try {
			const wire = this.#of.index.wiresInto(node.id, name).at(-1);
			const value = wire ? this.#fromWire(wire, input) : this.#fromSetting(node, name, input);
			return { value, error: null };
		} catch (error) {
			return failedWith(
				error instanceof NodeError && !error.input
					? new NodeError(error.message, { input: name, fixes: error.fixes })
					: (error as Error)
			);
		}
	}

	#fromWire(wire: Wire, input: InputDefinition): Varying {
		const value = this.#of.output(wire.from[0], wire.from[1]);
		if (isList(value)) {
			if (value.type === 'text')
				throw new NodeError(
					`“${input.label}” takes numbers; a list of words came. Numbers come from “List from text” too.`
				);
			return listValue(value.data, value.width);
		}
		if (!isVarying(value)) throw new NodeError(`“${input.label}” takes a value; geometry came.`);
		return value;
	}

	#fromSetting(node: GraphNode, name: string, input: InputDefinition): Varying {
		const kind = inputKind(input);
		if (!kind.bind) throw new NodeError(`“${input.label}” holds no number.`);
		const setting = settingOf(node, name, input);
		const cut = cutPart(name);
		const wires = input.kind === 'vector' ? wiresIntoParts(this.#of.index.wiresIntoNode(node.id), name) : [];
		// One value for all parts is three, where one of them is wired.
		const parts = wires.length ? (PARTS.map((k) => partOfSetting(setting, k)) as Setting) : setting;
		return kind.bind(input, parts, {
			scalar: (one, { part = 'x', whole = false } = {}) => {
				const wire = wires.findLast(({ to }) => to[1] === `${name}.${part}`);
				return wire
					? this.#intoPart(wire, node)
					: this.#scalar(node, one, whole, cut?.whole ?? name, cut ? 'xyz'[cut.part] : part);
			}
		});
	}

	/** The number that a wire brings to a part of a vector. */
	#intoPart(wire: Wire, node: GraphNode): Varying {
		const input = inputOf(node, wire.to[1])!;
		const value = this.#fromWire(wire, input);
		if (value.type !== 'vector') return value;
		throw new NodeError(
			`“${input.label}” is a single number; a vector came. Take a part of it with “Formula”.`,
			{
				input: wire.to[1]
			}
		);
	}

	#scalar(node: GraphNode, setting: ScalarSetting, whole: boolean, name: string, part: string): Varying {
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
			return bindFormula(
				treeOf(formula),
				new NamesOfNode(this.#of, this, node, name, setting.streams, part),
				formula
			);
		} catch (error) {
			if (!(error instanceof FormulaError)) throw error;
			const { from, to, mending, unknown, message } = error;
			const label = inputOf(node, name)?.label ?? name;
			throw new NodeError(`“${label}”, at character ${from + 1}: ${message}`, {
				input: name,
				cause: error,
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
}

/** Names in the order of the language: inputs of the node, (reserved names,) settings of the node, attributes. */
class NamesOfNode implements Names {
	readonly attributes = true;
	readonly #of: SettingsOf;
	readonly #graph: SettingsGraph;
	readonly #node: GraphNode;
	/** The setting in which the formula stands. */
	readonly #current: string;
	readonly #streams: readonly string[];
	/** Which part of a vector it is; x for numbers. */
	readonly #part: string;

	constructor(
		of: SettingsOf,
		graph: SettingsGraph,
		node: GraphNode,
		current: string,
		streams: readonly string[],
		part: string
	) {
		this.#of = of;
		this.#graph = graph;
		this.#node = node;
		this.#current = current;
		this.#streams = streams;
		this.#part = part;
	}

	get noiseSeed(): number {
		return this.#of.seed;
	}

	lookUp(name: string): Meaning | null {
		const node = this.#node;
		if (node.inputs?.some((own) => own.name === name)) return this.#meaning(node, name);
		const pass = PASS.exec(name);
		// What grows tells its own progress, of each branch.
		if (pass && !(name === 'progress' && nodeKinds.get(node.kind)?.grows))
			return this.#pass(pass[1].length / 'outer.'.length, pass[2]);
		if (name.startsWith('dial.')) return this.#dial(name.slice('dial.'.length));
		const dot = name.indexOf('.');
		if (dot >= 0) {
			const second = name.slice(dot + 1);
			const other = second.includes('.') ? undefined : this.#of.index.byShort.get(name.slice(0, dot));
			return other ? this.#meaning(other, second) : null;
		}
		if (name === 'time' || name === 'frame' || name === 'frames')
			return { value: constant(this.#of.moment()[name]) };
		if (name === 'seed') return { value: constant(this.#of.seed) };
		if (name === this.#current || RESERVED.includes(name)) return null;
		return Object.hasOwn(nodeKinds.get(node.kind)!.inputs, name) ? this.#meaning(node, name) : null;
	}

	/** A number of the pass at hand, or of one further out; nothing outside of repeats. */
	#pass(outer: number, which: string): Meaning | null {
		const found = this.#of.pass(outer);
		if (!found) return null;
		const { pass, passes } = found;
		return { value: constant(which === 'pass' ? pass : which === 'passes' ? passes : (pass + 1) / passes) };
	}

	/** A dial's value; nothing where it is a text or a ramp. */
	#dial(key: string): Meaning | null {
		const dial = this.#of.dial(key);
		if (!dial) return null;
		const plain = numbersOfDial(dial);
		if (plain) return plain;
		const { value, unit } = dial;
		if (!isRange(value)) return null;
		const [low, high] = endsOf(value);
		const words = streamWords(
			this.#of.seed,
			this.#of.path,
			`${value.stream} ${this.#node.stream} ${this.#current} ${this.#part}`
		);
		return { value: random(constant(low), constant(high), words, dial.kind === 'whole'), unit };
	}

	#meaning(of: GraphNode, name: string): Meaning | null {
		// What arrives in a body is spoken of by its Input node, as a number is by its Number node.
		if (of.kind === 'input' && name === 'value') {
			const value = this.#of.arrival(of);
			if (isList(value) && value.type !== 'text') return { value: listValue(value.data, value.width) };
			return isVarying(value) ? { value, unit: unitOfInput(of) } : null;
		}
		const input = inputOf(of, name);
		if (!input) return this.#outputOf(of, name);
		if (!inputKind(input).isNumeric) return null;
		return { value: this.#graph.value(of, name), unit: 'unit' in input ? input.unit : undefined };
	}

	/** What another node has come to, where that is one value. */
	#outputOf(of: GraphNode, name: string): Meaning | null {
		const output = outputOf(of, name);
		if (!output || output.kind === 'geometry' || output.kind === 'list' || output.kind === 'ramp')
			return null;
		const value = this.#of.output(of.id, name);
		if (!isVarying(value)) return null;
		if (value.constant) return { value };
		const to = inputOf(this.#node, this.#current)?.label ?? this.#current;
		throw new NodeError(
			`“${of.short}.${name}” differs by element, so a formula cannot read it. Wire “${output.label}” of ${of.short} into “${to}”, or into an input of a Formula node.`,
			{ input: this.#current }
		);
	}

	names(): string[] {
		const own = inputsOf(this.#node)
			.filter(([, { kind }]) => kind === 'number' || kind === 'vector' || kind === 'value')
			.map(([name]) => name);
		const others = [...this.#of.index.byShort.values()].flatMap((other) => [
			...(other.kind === 'input' ? [`${other.short}.value`] : []),
			...inputsOf(other).map(([name]) => `${other.short}.${name}`),
			...(nodeKinds.get(other.kind)?.givesOne
				? Object.keys(outputsOf(other)).map((name) => `${other.short}.${name}`)
				: [])
		]);
		return [...own, ...this.#of.dials().map((key) => `dial.${key}`), ...others];
	}

	stream(place: number, shared: string | null): readonly [number, number] {
		const where = this.#part === 'x' ? this.#current : `${this.#current}.${this.#part}`;
		const own = () => this.#streams[place] ?? `${this.#node.stream} ${where} ${place}`;
		return streamWords(this.#of.seed, this.#of.path, shared === null ? own() : `shared ${shared}`);
	}
}

/** The numbers of a pass, of repeats so many further out. */
const PASS = /^((?:outer\.)*)(pass|passes|progress)$/;
const unitOfInput = ({ settings }: GraphNode): string | undefined =>
	typeof settings.unit === 'string' && settings.unit ? settings.unit : undefined;

const failedWith = (error: Error): Bound => ({ value: null, error });

function circle(stack: readonly Slot[], back: Slot): Bound {
	const path = [...stack.slice(stack.indexOf(back)), back].map(
		({ node, setting }) => `${node.short}.${setting}`
	);
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

/** The texts of the formulas in a setting. */
export function formulaTexts(node: GraphNode, name: string): string[] {
	const input = inputOf(node, name);
	const setting = input ? settingOf(node, name, input) : undefined;
	return typeof setting === 'string' && input?.kind === 'formula'
		? [setting]
		: formulasOf(setting).map(({ formula }) => formula);
}

/** A node's setting, or what its definition starts with; of a part of a vector what stands in that. */
export function settingOf(node: GraphNode, name: string, input: InputDefinition): Setting {
	if (Object.hasOwn(node.settings, name)) return node.settings[name];
	const own = node.inputs?.find((one) => one.name === name);
	if (own) return own.value;
	const cut = cutPart(name);
	const whole = cut && inputOf(node, cut.whole);
	if (whole) return partOfSetting(settingOf(node, cut.whole, whole), cut.part);
	return inputKind(input).start(input) ?? 0;
}

const dialsKnown = new WeakMap<GraphNode, readonly (readonly [string, string])[]>();
const DIAL_NAMES = /\bdial\s*\.\s*([a-zA-Z][a-zA-Z0-9]*)/g;

/** The dials of which a node's formulas speak: settings, each with the key of a dial. Found once for each node. */
export function dialsSpokenOf(node: GraphNode): readonly (readonly [setting: string, key: string])[] {
	let known = dialsKnown.get(node);
	if (!known) {
		known = formulaNames(node).flatMap((name) => {
			const texts = formulaTexts(node, name).join(' ');
			const keys = new Set([...texts.matchAll(DIAL_NAMES)].map(([, key]) => key));
			return [...keys].map((key) => [name, key] as const);
		});
		dialsKnown.set(node, known);
	}
	return known;
}
