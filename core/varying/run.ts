/**
 * From a varying value to numbers: planned once for the columns at hand (see plan.ts), then run in blocks of 256 elements,
 * one loop for each step.
 */
import { NodeError } from '../math/index.ts';
import { pollAt } from '../geometry/index.ts';
import { BLOCK, addressOf, formulas, registersFor, stageArray, stageAt } from '../wasm/formulas.ts';
import type { Elements } from './elements.ts';
import type { Report } from './lower.ts';
import type { Plan } from './plan.ts';
import { planFor } from './plan.ts';
import type { ValueType, Varying } from './varying.ts';
import { constant, constantYesNo, vector } from './varying.ts';

export interface RunOptions {
	/** Hears of ambiguous names, and of values that are no numbers. */
	warn?: Report;
	/** Hears how many numbers have no answer; 0 stands in their place. */
	broken?: (count: number) => void;
}

/**
 * Works a value out for every element.
 * @param width 1 for numbers, 3 for vectors; a number asked for as a vector fills all three.
 * @param out `count × width` numbers; Int32Array rounds, Uint8Array holds yes or no.
 */
export function run(
	value: Varying,
	elements: Elements,
	width: 1 | 3,
	out: Float32Array | Float64Array | Int32Array | Uint8Array,
	options: RunOptions = {}
): void {
	const { count } = elements;
	const warn = options.warn ?? (() => {});
	const plan = keptPlan(value, elements, warn);
	if (plan.type === 'vector' && width === 1)
		throw new NodeError(
			'A single number is wanted here, but a vector comes. Take a part of it, such as .x, or its length with len().'
		);
	const pool = registersFor(plan.registers);
	const first = Math.min(BLOCK, count) + 3;
	for (const { register, value } of plan.constants) pool[register].fill(value, 0, first);
	const sources = width === 1 ? [plan.result[0]] : [0, 1, 2].map((k) => plan.result[k] ?? plan.result[0]);
	let broken = 0;
	for (let start = 0; start < count; start += BLOCK) {
		const n = Math.min(BLOCK, count - start);
		pollAt(start);
		for (const step of plan.steps) step(start, n, pool);
		if (out instanceof Float32Array) broken += storeSingles(out, start, n, sources);
		else for (let k = 0; k < width; k++) broken += store(out, start * width + k, width, n, pool[sources[k]]);
	}
	if (broken) options.broken?.(broken);
	if (broken)
		warn(
			`For ${broken === 1 ? 'one value' : `${broken} values`} of ${count * width} the calculation has no answer, such as a division by zero or the root of a negative number; 0 is used there.`
		);
}

/** Copies one register out as numbers, or three as vectors, and counts what is not a number. */
function storeSingles(out: Float32Array, start: number, n: number, sources: readonly number[]): number {
	const [x, y, z] = sources;
	const width = sources.length;
	const broken =
		width === 1
			? formulas().storeFloats(n, stageAt, addressOf(x))
			: formulas().storeVectors(n, stageAt, addressOf(x), addressOf(y), addressOf(z));
	out.set(stageArray().subarray(0, n * width), start * width);
	return broken;
}

/** Copies a register out and counts what is not a number. Each kind of array has its own loop. */
function store(
	out: Float64Array | Int32Array | Uint8Array,
	at: number,
	stride: number,
	n: number,
	r: Float64Array
): number {
	let broken = 0;
	if (out instanceof Float64Array) {
		for (let i = 0; i < n; i++, at += stride)
			if (r[i] - r[i] === 0) out[at] = r[i];
			else {
				out[at] = 0;
				broken++;
			}
		return broken;
	}
	const yesNo = out instanceof Uint8Array;
	for (let i = 0; i < n; i++, at += stride) {
		const x = r[i];
		if (x - x !== 0) {
			out[at] = 0;
			broken++;
		} else
			out[at] = yesNo ? (x !== 0 ? 1 : 0) : Math.max(-2147483648, Math.min(2147483647, Math.floor(x + 0.5)));
	}
	return broken;
}

/** The type that a value has on these elements. Throws NodeError where a name is missing or types do not fit. */
export function typeOn(value: Varying, elements: Elements): ValueType {
	return value.type === 'any' ? planFor(value, elements, () => {}).type : value.type;
}

/** One number from a value that is the same everywhere. */
export function constantNumber(value: Varying, heard: RunOptions = {}): number {
	if (value.op === 'constant') return value.value as number;
	const out = new Float64Array(1);
	run(value, NOTHING, 1, out, heard);
	return out[0];
}

/** Three numbers from a value that is the same everywhere. */
export function constantParts(value: Varying): [number, number, number] {
	const out = new Float64Array(3);
	run(value, NOTHING, 3, out);
	return [out[0], out[1], out[2]];
}

/** A value that is the same everywhere as what it comes to, whatever it was worked out from; any other as it is. */
export function workedOut(value: Varying): Varying {
	if (!value.constant || value.op === 'constant') return value;
	if (value.type === 'vector') return vector(...constantParts(value));
	const x = constantNumber(value);
	return value.type === 'yesno' ? constantYesNo(x !== 0) : constant(x);
}

const NOTHING: Elements = {
	count: 1,
	ids: null,
	attribute(name) {
		throw new NodeError(`There is no “${name}” here.`);
	},
	builtin(name) {
		throw new NodeError(`There is no “${name}” here.`);
	}
};

const plans = new WeakMap<Elements, Map<string, { plan: Plan; said: string[] }>>();

/** The plan of a value for elements, made once. What was said while planning is said each time. */
function keptPlan(value: Varying, elements: Elements, warn: Report): Plan {
	let own = plans.get(elements);
	if (!own) plans.set(elements, (own = new Map()));
	let kept = own.get(value.hash);
	if (!kept) {
		const said: string[] = [];
		const plan = planFor(value, elements, (message) => said.push(message));
		kept = { plan, said };
		// A plan that holds memory of others would keep it for as long as these elements live.
		if (!plan.holdsOthers) {
			if (own.size > 200) own.clear();
			own.set(value.hash, kept);
		}
	}
	kept.said.forEach(warn);
	return kept.plan;
}
