/** What nodes that make weights, and nodes that take them, have in common. */
import { NodeError } from '../../math/index.ts';
import type { Geometry } from '../../geometry/index.ts';
import { tableOf, scratch, pollAt } from '../../geometry/index.ts';
import type { Varying } from '../../varying/index.ts';
import { constant, constantNumber, operate } from '../../varying/index.ts';
import type { Context, Where } from '../define.ts';
import { geometry, number, output } from '../define.ts';

export const clamped = (x: Varying): Varying => operate('clamp', [x, constant(0), constant(1)]);
export const oneMinus = (x: Varying): Varying => operate('subtract', [constant(1), x]);

/** How far `x` is on the way from one number to another, from 0 to 1. Where both are the same it is a jump. */
export function wayBetween(x: Varying, from: Varying, to: Varying): Varying {
	if (from.hash === to.hash) return operate('step', [from, x]);
	return clamped(operate('divide', [operate('subtract', [x, from]), operate('subtract', [to, from])]));
}

/** What every node that makes a weight gives. */
export const weightOutput = output(
	'number',
	'Weight',
	'From 0 to 1, worked out for each element of whatever it is wired to.'
);

/** What every node that changes geometry takes: where, how much, and on which state of the geometry the weight is read. */
export const weightInputs = {
	weight: number({
		label: 'Weight',
		help: 'Where and how much, from 0 to 1, for each element. Wire a weight in, or type a formula.',
		default: 1,
		min: 0,
		max: 1,
		step: 0.01,
		varies: 'point',
		group: 'How much'
	}),
	strength: number({
		label: 'Strength',
		help: 'Times the weight. Negative turns the effect round.',
		default: 1,
		slider: [-2, 2],
		step: 0.01
	}),
	weightAt: geometry({
		label: 'Read weight from',
		help: 'Unwired, the weight is read on the geometry as it arrives. Wire a node further up to read it on the same elements as they were there.',
		optional: true
	})
} as const;

interface Given {
	weight: Varying;
	strength: number;
	weightAt: Geometry | null;
	/** What the weight is multiplied by for each element, below 0 too. */
	times?: Varying | null;
}

/** Weight times strength for each element; weights outside 0 … 1 count as the nearer end. */
export function weightsOn(
	context: Context,
	{ weight, strength, weightAt, times = null }: Given,
	where: Where
): Float32Array {
	const table = tableOf(where.geometry, where.part, where.kind)!;
	const source = weightAt ? { ...where, geometry: weightAt } : where;
	const there = weightAt && tableOf(weightAt, where.part, where.kind);
	if (weightAt && there?.count !== table.count)
		throw new NodeError(
			`“Read weight from” has ${there?.count ?? 0} elements where ${table.count} are changed. Wire a node further up the same chain, where the elements are the same.`,
			{ input: 'weightAt' }
		);
	const isWhole = weight.constant && constantNumber(weight) === 1 && strength === 1;
	if (times && isWhole) return context.numbers(times, source);
	const raw = context.numbers(weight, source);
	const weights = isWhole || (strength === 1 && areWeights(raw)) ? raw : scaled(raw, strength);
	return times ? product(weights, context.numbers(times, source)) : weights;
}

/** Of two columns. */
export function product(a: Float32Array, b: Float32Array): Float32Array {
	const out = scratch('float', a.length);
	for (let i = 0; i < a.length; i++) {
		pollAt(i);
		out[i] = a[i] * b[i];
	}
	return out;
}

function areWeights(raw: Float32Array): boolean {
	for (let i = 0; i < raw.length; i++) {
		pollAt(i);
		if (!(raw[i] >= 0 && raw[i] <= 1)) return false;
	}
	return true;
}

function scaled(raw: Float32Array, strength: number): Float32Array {
	const out = scratch('float', raw.length);
	for (let i = 0; i < raw.length; i++) {
		pollAt(i);
		out[i] = (raw[i] > 0 ? (raw[i] < 1 ? raw[i] : 1) : 0) * strength;
	}
	return out;
}
