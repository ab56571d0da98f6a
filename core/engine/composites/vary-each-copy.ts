/** A body evaluated for each copy: copies whose values are equal, perhaps after rounding, share one shape. */
import { Hasher, NodeError, formatCount, plural } from '../../math/index.ts';
import type { Geometry } from '../../geometry/index.ts';
import { EMPTY, allocate, geometryOf, pollAt } from '../../geometry/index.ts';
import { asPoints } from '../../kernels/as-points.ts';
import { MOST_SHAPES, placedCopies } from '../../nodes/index.ts';
import type { placingInputs, ResolvedInputs } from '../../nodes/index.ts';
import { constant, constantYesNo, elementsOf, vector } from '../../varying/index.ts';
import type { Varying } from '../../varying/index.ts';
import type { GraphNode, Port } from '../document.ts';
import type { Arrival, Scope } from '../scope.ts';
import { isGeometry, isVarying } from '../values.ts';
import type { Body, Tools } from './body.ts';
import { arrivalsAt, insideOf, leaving } from './inner.ts';

interface Inputs extends ResolvedInputs<typeof placingInputs> {
	points: Geometry;
	rounding: string;
	roundingSteps: number;
	stepSize: number;
	randomness: string;
}

/** What arrives at one port, for each copy. */
interface Values {
	port: Port;
	/** 3 for vectors and colours. */
	width: 1 | 3;
	data: Float64Array;
}

export function* varyBody(scope: Scope, node: GraphNode, { inputs, context, warn }: Tools): Body {
	const { ports, scope: scopeOf } = insideOf(scope, node);
	const own = inputs() as unknown as Inputs;
	const at = ports.outputs.find(({ carries }) => carries === 'geometry');
	if (!at)
		throw new NodeError('Its body gives no geometry. Open it, and connect what it makes to an Output.', {
			input: 'body'
		});
	const arrivals = arrivalsAt(scope, node, ports.inputs);
	const on = asPoints(own.points);
	const { count } = on.points!.points;
	const elements = elementsOf(on, 'points', 'point');
	const values = ports.inputs.flatMap((port): Values[] => {
		const value = arrivals.get(port.name)?.value;
		if (!isVarying(value)) return [];
		const width = port.carries === 'vector' || port.carries === 'colour' ? 3 : 1;
		const data = context().numbersOn(value, elements, width);
		if (port.carries !== 'yesno') roundValues(data, width, own, port);
		return [{ port, width, data }];
	});
	const { which, firsts } = groupEqual(count, values);
	const shapes: Geometry[] = [];
	const failures: string[] = [];
	let before: Scope | null = null;
	for (const [place, row] of firsts.entries()) {
		const step = own.randomness === 'same' ? '' : stepOf(values, row);
		const inner = scopeOf({
			arrivals: withValues(arrivals, values, row),
			place,
			places: firsts.length,
			step
		});
		const done = before ? { scope: before, keep: [at.node] } : undefined;
		yield { scope: inner, nodes: [at.node], done };
		before = inner;
		try {
			const { value } = leaving(inner, at.node);
			shapes.push(isGeometry(value) ? value : EMPTY);
		} catch (error) {
			if (!(error instanceof NodeError)) throw error;
			failures.push(`Shape ${place}: ${error.message}`);
			shapes.push(EMPTY);
		}
	}
	if (failures.length && failures.length === firsts.length) throw new NodeError(failures[0]);
	if (failures.length)
		warn(
			`${plural(failures.length, 'shape')} of ${formatCount(firsts.length)} could not be made, and ${failures.length === 1 ? 'is' : 'are'} left out. ${failures[0]}`
		);
	const copies = placedCopies(on, which, own, context());
	return { copies: geometryOf({ copies: { copies, sources: shapes } }) };
}

/** Rounds numbers as the settings say. What is not a number stays as it is. */
function roundValues(
	data: Float64Array,
	width: number,
	{ rounding, roundingSteps: steps, stepSize: size }: Inputs,
	port: Port
): void {
	if (rounding === 'none' || (rounding === 'size' && !(size > 0))) return;
	if (rounding === 'size') {
		for (let i = 0; i < data.length; i++) {
			pollAt(i);
			data[i] = Math.round(data[i] / size) * size;
		}
		return;
	}
	for (let k = 0; k < width; k++) {
		let low = Infinity,
			high = -Infinity;
		for (let i = k; i < data.length; i += width) {
			if (data[i] < low) low = data[i];
			if (data[i] > high) high = data[i];
		}
		if (port.min !== undefined && port.max !== undefined && port.min < port.max)
			({ min: low, max: high } = port as { min: number; max: number });
		const gap = steps > 1 ? (high - low) / (steps - 1) : 0;
		for (let i = k; i < data.length; i += width) {
			pollAt(i);
			if (!(gap > 0)) data[i] = steps > 1 ? data[i] : (low + high) / 2;
			else data[i] = low + gap * Math.min(steps - 1, Math.max(0, Math.round((data[i] - low) / gap)));
		}
	}
}

/** Which shape each copy shows, and the first copy that shows each. */
function groupEqual(count: number, values: readonly Values[]): { which: Int32Array; firsts: number[] } {
	const which = allocate('int', count);
	const firsts: number[] = [];
	const known = new Map<string, number>();
	for (let i = 0; i < count; i++) {
		pollAt(i);
		let name = '';
		for (const { width, data } of values) for (let k = 0; k < width; k++) name += `${data[i * width + k]},`;
		let place = known.get(name);
		if (place === undefined) {
			known.set(name, (place = firsts.push(i) - 1));
			if (firsts.length > MOST_SHAPES)
				throw new NodeError(
					`These copies would need more than ${formatCount(MOST_SHAPES)} different shapes. Round the values more.`,
					{ input: 'rounding' }
				);
		}
		which[i] = place;
	}
	return { which, firsts };
}

/** A step of the path that follows from the values: a shape keeps its random numbers whatever other copies there are. */
function stepOf(values: readonly Values[], row: number): string {
	const hasher = new Hasher();
	for (const { port, width, data } of values) {
		hasher.text(port.name);
		for (let k = 0; k < width; k++) hasher.number(data[row * width + k]);
	}
	return hasher.key();
}

/** What arrives in the body for one copy. */
function withValues(
	arrivals: ReadonlyMap<string, Arrival>,
	values: readonly Values[],
	row: number
): Map<string, Arrival> {
	const own = new Map(arrivals);
	for (const { port, width, data } of values) {
		const value = valueOf(port, data.subarray(row * width, (row + 1) * width));
		own.set(port.name, { value, key: value.hash });
	}
	return own;
}

function valueOf({ carries }: Port, [x, y, z]: Float64Array): Varying {
	if (carries === 'yesno') return constantYesNo(x !== 0);
	return carries === 'vector' || carries === 'colour' ? vector(x, y, z) : constant(x);
}
