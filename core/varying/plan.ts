/**
 * A varying value as steps over registers, for the columns at hand. Shared parts are worked out once, constants are
 * folded, registers are used again, and a product is taken into the sum that follows it.
 */
import { NodeError } from '../math/index.ts';
import type { Column } from '../geometry/index.ts';
import { WIDTH } from '../geometry/index.ts';
import type { Elements } from './elements.ts';
import { addressOf, formulas, patternAt, registersFor } from '../wasm/formulas.ts';
import { LOOPS } from './loops.ts';
import { patternOf } from './noise.ts';
import { readRamp } from './ramp.ts';
import { Registers } from './registers.ts';
import type { Step } from './steps.ts';
import { colourStep, columnStep, idStep, indexStep, listStep, randomStep } from './steps.ts';
import type { Field, ValueType, Varying } from './varying.ts';
import { partsOf, readerOf, resultType } from './varying.ts';

export interface Plan {
	steps: Step[];
	/** Registers that hold a constant throughout, with it. */
	constants: { register: number; value: number }[];
	registers: number;
	/** Where the result stands: one register, or three. */
	result: number[];
	type: ValueType;
	/** Whether steps read what does not belong to the elements: fields, long lists. */
	holdsOthers: boolean;
}

/** Lists of more numbers are not kept with the plans that read them. */
const LONG_LIST = 1000;

/** Hears sentences about ambiguous names, and values that are no numbers. */
export type Report = (message: string) => void;

/** Plans a value for elements. Registers 0 … are numbered; constants keep theirs, others are used again when free. */
export function planFor(value: Varying, elements: Elements, warn: Report): Plan {
	const nodes = [...partsOf(value)];
	const lastUse = new Map<string, number>();
	nodes.forEach((node, place) => node.args.forEach((arg) => lastUse.set(arg.hash, place)));
	lastUse.set(value.hash, Infinity);
	const builder = new Builder(elements, warn, nodes);
	nodes.forEach((node, place) => {
		builder.add(node);
		for (const arg of node.args) if (lastUse.get(arg.hash) === place) builder.free(arg.hash);
	});
	const made = builder.made.get(value.hash)!;
	return {
		steps: builder.steps.filter((step) => step !== NOTHING_TO_DO),
		constants: builder.registers.constants,
		registers: builder.registers.count,
		result: made.registers,
		type: made.type,
		holdsOthers: nodes.some(({ field, list }) => field !== null || (list?.length ?? 0) > LONG_LIST)
	};
}

interface Made {
	registers: number[];
	type: ValueType;
	/** The number, where it is a constant. */
	constants: (number | undefined)[];
}

const NOTHING_TO_DO: Step = () => {};

class Builder {
	steps: Step[] = [];
	readonly registers = new Registers();
	made = new Map<string, Made>();
	readonly #elements: Elements;
	readonly #warn: Report;
	/** How many times each value is used as an argument. */
	#uses = new Map<string, number>();

	constructor(elements: Elements, warn: Report, nodes: readonly Varying[]) {
		this.#elements = elements;
		this.#warn = warn;
		for (const node of nodes)
			for (const arg of node.args) this.#uses.set(arg.hash, (this.#uses.get(arg.hash) ?? 0) + 1);
	}

	add(node: Varying): void {
		const made = this.#make(node);
		this.registers.hold(made.registers);
		this.made.set(node.hash, made);
	}

	/** Gives back the registers of a value that nothing will read again. */
	free(hash: string): void {
		const made = this.made.get(hash)!;
		this.registers.release(made.registers);
		made.registers = [];
	}

	#fixed(values: number[], type: ValueType): Made {
		return { registers: values.map((x) => this.registers.constant(x)), type, constants: values };
	}

	#make(node: Varying): Made {
		const args = node.args.map((arg) => this.made.get(arg.hash)!);
		switch (node.op) {
			case 'constant':
				return this.#fixed([node.value as number], node.type);
			case 'vector': {
				const wrong = args.find((arg) => arg.type === 'vector');
				if (wrong)
					throw new NodeError('A vector is made of three numbers; one of the parts is a vector itself.');
				return {
					registers: args.map((arg) => arg.registers[0]),
					type: 'vector',
					constants: args.map((arg) => arg.constants[0])
				};
			}
			case 'part': {
				if (args[0].type !== 'vector')
					throw new NodeError(`A number has no part “.${'xyz'[node.value as number]}”: only vectors do.`);
				const k = node.value as number;
				return { registers: [args[0].registers[k]], type: 'number', constants: [args[0].constants[k]] };
			}
			case 'element':
				return this.#element(node.value as string);
			case 'attribute':
				return this.#load(this.#elements.attribute(node.value as string, this.#warn));
			case 'list':
				return this.#list(node.list!, node.value as number);
			case 'random':
				return this.#random(args, node.value as number[]);
			case 'field':
				return this.#field(node.field!, args[0]);
			case 'ramp':
				return this.#ramp(node, args[0]);
			default:
				return this.#operation(node, args);
		}
	}

	#element(name: string): Made {
		if (name === 'count') return this.#fixed([this.#elements.count], 'number');
		if (name === 'index') {
			const o = this.registers.take();
			this.steps.push(indexStep(o));
			return unknown([o]);
		}
		if (name === 'id') {
			const o = this.registers.take();
			this.steps.push(idStep(o, this.#elements.ids));
			return unknown([o]);
		}
		return this.#load(this.#elements.builtin(name));
	}

	#load(source: Column): Made {
		const width = WIDTH[source.type];
		const type: ValueType = source.type === 'bool' ? 'yesno' : width === 1 ? 'number' : 'vector';
		const registers = this.#several(Math.min(3, width));
		this.steps.push(columnStep(registers, source));
		return unknown(width === 2 ? [...registers, this.registers.constant(0)] : registers, type);
	}

	#list(list: Float64Array, width: number): Made {
		const registers = this.#several(width);
		this.steps.push(listStep(registers, list));
		return unknown(registers, width === 3 ? 'vector' : 'number');
	}

	#field(field: Field, place: Made): Made {
		if (place.type !== 'vector') throw new NodeError('A place in space is a vector; a number came.');
		const [x, y, z] = place.registers;
		const o = this.registers.take();
		const read = readerOf(field);
		this.steps.push((_start, n, r) => read(n, r[o], r[x], r[y], r[z]));
		return unknown([o]);
	}

	#ramp({ list, value }: Varying, { registers, type }: Made): Made {
		if (type === 'vector')
			throw new NodeError('A ramp is read at a number; a vector came. Take a part of it, such as .x.');
		const width = value as 1 | 3;
		const outs = this.#several(width);
		this.steps.push((_start, n, r) =>
			readRamp(
				list!,
				width,
				n,
				r[registers[0]],
				outs.map((o) => r[o])
			)
		);
		return unknown(outs, width === 3 ? 'vector' : 'number');
	}

	#random([low, high]: Made[], [first, second, whole]: number[]): Made {
		if (low.type === 'vector' || high.type === 'vector')
			throw new NodeError('“random” draws numbers between two numbers; a vector came.');
		const o = this.registers.take();
		const stream = [first, second] as const;
		this.steps.push(randomStep(o, low.registers[0], high.registers[0], stream, !!whole, this.#elements.ids));
		return unknown([o]);
	}

	#several(count: number): number[] {
		return Array.from({ length: count }, () => this.registers.take());
	}

	#operation(node: Varying, args: Made[]): Made {
		const types = args.map((arg) => arg.type);
		const type = resultType(node.op, types);
		// All arguments known: work it out now, on one element.
		const folds = args.every((arg) => arg.constants.every((x) => x !== undefined));
		const before = this.steps.length;
		const made = this.#emit(node, args, type);
		if (!folds) return made;
		const scratch = registersFor(this.registers.count);
		for (const { register, value } of this.registers.constants) scratch[register].fill(value, 0, 4);
		for (const step of this.steps.slice(before)) step(0, 1, scratch);
		this.steps.length = before;
		const values = made.registers.map((register) => scratch[register][0]);
		for (const register of made.registers) this.registers.discard(register);
		return this.#fixed(values, type);
	}

	#emit(node: Varying, args: Made[], type: ValueType): Made {
		const r = (arg: Made, k: number) => arg.registers[k] ?? arg.registers[0];
		const one = (registers: number[]): Made => unknown(registers, type);
		const parts = type === 'vector' ? 3 : 1;
		switch (node.op) {
			case 'remap':
				return one(
					range(parts).map((k) => {
						const t = this.#step(
							'divide',
							this.#step('subtract', r(args[0], k), r(args[1], k)),
							this.#step('subtract', r(args[2], k), r(args[1], k))
						);
						return this.#step('mix', r(args[3], k), r(args[4], k), t);
					})
				);
			case 'dot':
				return one([this.#dot(args[0], args[1])]);
			case 'len':
				return one([this.#step('length3', r(args[0], 0), r(args[0], 1), r(args[0], 2))]);
			case 'distance': {
				const [x, y, z] = [0, 1, 2].map((k) => this.#step('subtract', r(args[0], k), r(args[1], k)));
				return one([this.#step('length3', x, y, z)]);
			}
			case 'normalize': {
				const [x, y, z] = [0, 1, 2].map((k) => r(args[0], k));
				const out = this.#several(3);
				const [ox, oy, oz, ax, ay, az] = [...out, x, y, z].map(addressOf);
				const { normalize } = formulas();
				this.steps.push((_start, n) => normalize(n, ox, oy, oz, ax, ay, az));
				return one(out);
			}
			case 'cross':
				return one(
					[0, 1, 2].map((k) => {
						const i = (k + 1) % 3,
							j = (k + 2) % 3;
						return this.#step(
							'subtract',
							this.#step('multiply', r(args[0], i), r(args[1], j)),
							this.#step('multiply', r(args[0], j), r(args[1], i))
						);
					})
				);
			case 'hsl': {
				const out = this.#several(3);
				this.steps.push(
					colourStep(
						out,
						args.map((arg) => r(arg, 0))
					)
				);
				return one(out);
			}
			case 'noise':
			case 'fractal':
			case 'ridged':
			case 'cells':
				return one([this.#noise(node, args)]);
			case 'choose':
				return one(
					range(parts).map((k) => this.#step('choose', r(args[0], 0), r(args[1], k), r(args[2], k)))
				);
			case 'atan':
				return one(
					range(parts).map((k) =>
						args.length === 2
							? this.#step('atan2', r(args[0], k), r(args[1], k))
							: this.#step('atan', r(args[0], k))
					)
				);
			case 'subtract':
				// Minus a constant is plus its opposite, to the bit; so a product before it can be taken in.
				if (args[1].constants.every((x) => x !== undefined)) {
					const opposite = this.#fixed(
						args[1].constants.map((x) => -x!),
						args[1].type
					);
					return one(range(parts).map((k) => this.#sum(node, [args[0], opposite], k)));
				}
				return one(range(parts).map((k) => this.#step('subtract', r(args[0], k), r(args[1], k))));
			case 'add':
				return one(range(parts).map((k) => this.#sum(node, args, k)));
			case 'pow':
				return one(range(parts).map((k) => this.#power(args[0], args[1], k)));
			default:
				return one(range(parts).map((k) => this.#step(node.op, ...args.map((arg) => r(arg, k)))));
		}
	}

	/** Small whole powers as products. */
	#power(base: Made, exponent: Made, k: number): number {
		const x = base.registers[k] ?? base.registers[0];
		const y = exponent.constants[k] ?? exponent.constants[0];
		if (y === 2) return this.#step('multiply', x, x);
		if (y === 3) return this.#step('multiply', this.#step('multiply', x, x), x);
		return this.#step('pow', x, exponent.registers[k] ?? exponent.registers[0]);
	}

	/**
	 * A sum. A product that is used only here, and was made just before, is taken into it: its step becomes empty, and
	 * the sum is written where the product would have stood.
	 */
	#sum(node: Varying, args: Made[], k: number): number {
		const a = args[0].registers[k] ?? args[0].registers[0];
		const b = args[1].registers[k] ?? args[1].registers[0];
		const isVector = args[0].type === 'vector';
		// One register may stand for three parts; then none of its sums may overwrite it.
		const own =
			this.#uses.get(node.args[0].hash) === 1 &&
			args[0].registers.length === (isVector ? 3 : 1) &&
			(isVector || node.type !== 'vector');
		const product = own ? this.registers.takeProduct(a) : null;
		if (!product) return this.#step('add', a, b);
		this.steps[product.step] = NOTHING_TO_DO;
		const { multiplyAdd } = formulas();
		const [o, x, y, c] = [a, product.a, product.b, b].map(addressOf);
		this.steps.push((_start, n) => multiplyAdd(n, o, x, y, c));
		return a;
	}

	#dot(a: Made, b: Made): number {
		const [x, y, z] = [0, 1, 2].map((k) =>
			this.#step('multiply', a.registers[k] ?? a.registers[0], b.registers[k] ?? b.registers[0])
		);
		return this.#step('add', this.#step('add', x, y), z);
	}

	#step(loop: string, ...sources: number[]): number {
		const [a, b = a, c = a] = sources;
		const o = this.registers.take();
		const slow = LOOPS[loop];
		if (slow) this.steps.push((_start, n, r) => slow(n, r[o], r[a], r[b]));
		else {
			const fast = formulas()[loop as 'multiplyAdd'];
			const [po, pa, pb, pc] = [o, a, b, c].map(addressOf);
			this.steps.push((_start, n) => fast(n, po, pa, pb, pc));
		}
		if (loop === 'multiply') this.registers.noteProduct(o, this.steps.length - 1, a, b);
		return o;
	}

	#noise(node: Varying, args: Made[]): number {
		const order = patternOf((node.value as number) ?? 0);
		const p = args[0];
		const isVector = p.type === 'vector';
		const [x, y, z] = [
			p.registers[0],
			isVector ? p.registers[1] : this.registers.constant(0),
			isVector ? p.registers[2] : this.registers.constant(0)
		].map(addressOf);
		const out = this.registers.take();
		const o = addressOf(out);
		if (node.op === 'noise' || node.op === 'cells') {
			const f = formulas()[node.op];
			this.steps.push((_start, n) => f(n, o, patternAt(order), x, y, z));
			return out;
		}
		const [octaves, lacunarity, gain] = [
			args[1].registers[0],
			args[2]?.registers[0] ?? this.registers.constant(2),
			args[3]?.registers[0] ?? this.registers.constant(0.5)
		].map(addressOf);
		const f = formulas()[node.op as 'fractal'];
		this.steps.push((_start, n) => f(n, o, patternAt(order), x, y, z, octaves, lacunarity, gain));
		return out;
	}
}

/** A value that is known only on its elements. */
const unknown = (registers: number[], type: ValueType = 'number'): Made => ({
	registers,
	type,
	constants: registers.map(() => undefined)
});
const range = (n: number): number[] => Array.from({ length: n }, (_, i) => i);
