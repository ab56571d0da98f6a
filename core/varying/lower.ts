/** Lowers a varying value to a flat program for the columns at hand: types are checked, and what is known is worked out. */
import { NodeError, formatCount } from '../math/index.ts';
import type { Column } from '../geometry/index.ts';
import { WIDTH } from '../geometry/index.ts';
import type { Elements } from './elements.ts';
import { valuesOf } from './emit.ts';
import type { Instruction, NoiseLoop, Program } from './instructions.ts';
import type { ValueType, Varying } from './varying.ts';
import { partsOf, resultType } from './varying.ts';

/** Hears sentences about ambiguous names, and values that are no numbers. */
export type Report = (message: string) => void;

/** Where a value stands: one place, or three. */
interface Lowered {
	places: readonly number[];
	type: ValueType;
}

/** A value as a program. Shared parts are written once. Throws NodeError where names are missing or types do not fit. */
export function lower(value: Varying, elements: Elements, warn: Report): Program {
	const lowering = new Lowering(elements, warn);
	const done = new Map<string, Lowered>();
	for (const node of partsOf(value))
		done.set(
			node.hash,
			lowering.node(
				node,
				node.args.map((arg) => done.get(arg.hash)!)
			)
		);
	const { places, type } = done.get(value.hash)!;
	return { instructions: lowering.instructions, constants: lowering.constants, result: places, type };
}

/** Written without what stands in `ins` and `outs`. */
type Work = Instruction extends infer One
	? One extends Instruction
		? Omit<One, 'ins' | 'outs'>
		: never
	: never;

class Lowering {
	readonly instructions: Instruction[] = [];
	readonly constants = new Map<number, number>();
	/** The place of each constant; a negative zero and what is not a number have places of their own. */
	readonly #placeOf = new Map<string, number>();
	#places = 0;
	readonly #elements: Elements;
	readonly #warn: Report;

	constructor(elements: Elements, warn: Report) {
		this.#elements = elements;
		this.#warn = warn;
	}

	node(node: Varying, args: readonly Lowered[]): Lowered {
		const { op, value } = node;
		switch (op) {
			case 'constant':
				return { places: [this.#constant(value as number)], type: node.type };
			case 'vector':
				if (args.some(({ type }) => type === 'vector'))
					throw new NodeError('A vector is made of three numbers; one of the parts is a vector itself.');
				return { places: args.map(({ places }) => places[0]), type: 'vector' };
			case 'part':
				if (args[0].type !== 'vector')
					throw new NodeError(`A number has no part “.${'xyz'[value as number]}”: only vectors do.`);
				return number([args[0].places[value as number]]);
			case 'element':
				return this.#element(value as string);
			case 'attribute':
				return this.#load(this.#elements.attribute(value as string, this.#warn));
			case 'list':
				this.#tellLength(node.list!.length / (value as number));
				return {
					places: this.#write({ op: 'list', list: node.list! }, [], value as number),
					type: value === 3 ? 'vector' : 'number'
				};
			case 'random':
				return this.#random(args, value as number[]);
			case 'field':
				if (args[0].type !== 'vector') throw new NodeError('A place in space is a vector; a number came.');
				return number(this.#write({ op: 'field', field: node.field! }, args[0].places, 1));
			case 'ramp':
				if (args[0].type === 'vector')
					throw new NodeError('A ramp is read at a number; a vector came. Take a part of it, such as .x.');
				return {
					places: this.#write({ op: 'ramp', table: node.list! }, args[0].places, value as number),
					type: value === 3 ? 'vector' : 'number'
				};
		}
		const type = resultType(
			op,
			args.map((arg) => arg.type)
		);
		return { places: this.#operation(node, args, type === 'vector' ? 3 : 1), type };
	}

	/** Says what happens where a list has fewer or more values than there are elements. One value is for all of them. */
	#tellLength(length: number): void {
		const { count, called = 'elements' } = this.#elements;
		if (length <= 1 || length === count || count <= 1) return;
		const values = `${formatCount(length)} values`;
		this.#warn(
			length < count
				? `${values} repeated over ${formatCount(count)} ${called}.`
				: `Only the first ${formatCount(count)} of ${values} are used, as there are ${formatCount(count)} ${called}.`
		);
	}

	#constant(value: number): number {
		const key = Object.is(value, -0) ? '-0' : String(value);
		let place = this.#placeOf.get(key);
		if (place === undefined) {
			this.#placeOf.set(key, (place = this.#places++));
			this.constants.set(place, value);
		}
		return place;
	}

	/** Writes an instruction, unless all that it hangs from is known: then its results are constants. */
	#write(work: Work, ins: readonly number[], count: number): number[] {
		const outs = Array.from({ length: count }, () => this.#places++);
		const instruction = { ...work, ins, outs } as Instruction;
		const known = FOLDED.has(work.op) && ins.every((place) => this.constants.has(place));
		if (known)
			return valuesOf(
				instruction,
				ins.map((place) => this.constants.get(place)!)
			).map((x) => this.#constant(x));
		this.instructions.push(instruction);
		return outs;
	}

	#loop(loop: string, ...ins: number[]): number {
		return this.#write({ op: 'loop', loop }, ins, 1)[0];
	}

	#element(name: string): Lowered {
		if (name === 'count') return number([this.#constant(this.#elements.count)]);
		if (name === 'index') return number(this.#write({ op: 'index' }, [], 1));
		if (name === 'id') return number(this.#write({ op: 'ids', ids: this.#elements.ids }, [], 1));
		return this.#load(this.#elements.builtin(name));
	}

	#load(column: Column): Lowered {
		const width = WIDTH[column.type];
		const places = this.#write({ op: 'column', column }, [], Math.min(3, width));
		if (width === 1) return { places, type: column.type === 'bool' ? 'yesno' : 'number' };
		return { places: width === 2 ? [...places, this.#constant(0)] : places, type: 'vector' };
	}

	#random([low, high]: readonly Lowered[], [first, second, whole]: readonly number[]): Lowered {
		if (low.type === 'vector' || high.type === 'vector')
			throw new NodeError('“random” draws numbers between two numbers; a vector came.');
		return number(
			this.#write(
				{ op: 'random', stream: [first, second], whole: !!whole, ids: this.#elements.ids },
				[low.places[0], high.places[0]],
				1
			)
		);
	}

	/** An operation of the language: its places, one or three. A number among vectors stands for all three parts. */
	#operation(node: Varying, args: readonly Lowered[], parts: 1 | 3): readonly number[] {
		const at = (arg: number, k: number) => args[arg].places[k] ?? args[arg].places[0];
		const each = (make: (k: number) => number) => Array.from({ length: parts }, (_, k) => make(k));
		switch (node.op) {
			case 'remap':
				return each((k) => {
					const from = this.#loop('subtract', at(0, k), at(1, k));
					const t = this.#loop('divide', from, this.#loop('subtract', at(2, k), at(1, k)));
					return this.#loop('mix', at(3, k), at(4, k), t);
				});
			case 'dot': {
				const [x, y, z] = XYZ.map((k) => this.#loop('multiply', at(0, k), at(1, k)));
				return [this.#loop('add', this.#loop('add', x, y), z)];
			}
			case 'len':
				return [this.#loop('length3', at(0, 0), at(0, 1), at(0, 2))];
			case 'distance':
				return [this.#loop('length3', ...XYZ.map((k) => this.#loop('subtract', at(0, k), at(1, k))))];
			case 'normalize':
				return this.#write({ op: 'normalize' }, args[0].places, 3);
			case 'cross':
				return each((k) => {
					const i = (k + 1) % 3,
						j = (k + 2) % 3;
					const a = this.#loop('multiply', at(0, i), at(1, j));
					return this.#loop('subtract', a, this.#loop('multiply', at(0, j), at(1, i)));
				});
			case 'hsl':
				return this.#write({ op: 'colour' }, [at(0, 0), at(1, 0), at(2, 0)], 3);
			case 'noise':
			case 'cells':
			case 'fractal':
			case 'ridged':
				return this.#noise(node, args);
			case 'noise4':
			case 'fractal4':
			case 'ridged4':
			case 'cells4':
				return this.#drifting(node, args);
			case 'choose':
				return each((k) => this.#loop('choose', at(0, 0), at(1, k), at(2, k)));
			case 'atan':
				return each((k) =>
					args.length === 2 ? this.#loop('atan2', at(0, k), at(1, k)) : this.#loop('atan', at(0, k))
				);
			case 'subtract':
				return each((k) => this.#difference(at(0, k), at(1, k)));
			case 'pow':
				return each((k) => this.#power(at(0, k), at(1, k)));
			default:
				return each((k) => this.#loop(node.op, ...args.map((_, arg) => at(arg, k))));
		}
	}

	/** Minus a constant is plus its opposite, to the bit; so a product before it can be taken in. */
	#difference(a: number, b: number): number {
		const known = this.constants.get(b);
		return known === undefined ? this.#loop('subtract', a, b) : this.#loop('add', a, this.#constant(-known));
	}

	/** Small whole powers as products. */
	#power(x: number, exponent: number): number {
		const known = this.constants.get(exponent);
		if (known === 2) return this.#loop('multiply', x, x);
		if (known === 3) return this.#loop('multiply', this.#loop('multiply', x, x), x);
		return this.#loop('pow', x, exponent);
	}

	/** Noise at a place; a number is a place on the x axis. */
	#noise({ op, value }: Varying, [{ places, type }, ...more]: readonly Lowered[]): number[] {
		const of = op as 'noise' | 'cells' | 'fractal' | 'ridged';
		const [x, y, z] = type === 'vector' ? places : [places[0], this.#constant(0), this.#constant(0)];
		const [octaves, lacunarity = this.#constant(2), gain = this.#constant(0.5)] = more.map(
			(one) => one.places[0]
		);
		const ins = of === 'noise' || of === 'cells' ? [x, y, z] : [x, y, z, octaves, lacunarity, gain];
		return this.#write({ op: 'noise', of, seed: (value as number) ?? 0 }, ins, 1);
	}

	/** Noise in 4-D: the place, the fourth number, its period, and for octaves what they take. */
	#drifting({ op, value }: Varying, [{ places, type }, w, period, ...more]: readonly Lowered[]): number[] {
		const [x, y, z] = type === 'vector' ? places : [places[0], this.#constant(0), this.#constant(0)];
		const after = period?.places[0] ?? this.#constant(0);
		const of = op === 'noise4' ? 'fractal4' : (op as NoiseLoop);
		const octaves =
			op === 'noise4' ? [1, 2, 0.5].map((x) => this.#constant(x)) : more.map((one) => one.places[0]);
		return this.#write(
			{ op: 'noise', of, seed: (value as number) ?? 0 },
			[x, y, z, w.places[0], after, ...octaves],
			1
		);
	}
}

const XYZ = [0, 1, 2] as const;
/** Instructions that always give the same from the same. */
const FOLDED: ReadonlySet<string> = new Set(['loop', 'normalize', 'colour', 'noise']);
const number = (places: readonly number[]): Lowered => ({ places, type: 'number' });
