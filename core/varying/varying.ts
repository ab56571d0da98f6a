/**
 * Values that may differ from element to element, as nodes of a graph without circles. Equal parts have equal hashes, so
 * that a plan works each of them out once. A varying value is made once and never changed.
 */
import type { Ramp } from './ramp.ts';
import { tableOfRamp } from './ramp.ts';
import { Hasher, NodeError, formatCount, mix, mixText } from '../math/index.ts';

export type ValueType = 'number' | 'vector' | 'yesno' | 'any';

export interface Varying {
	readonly kind: 'varying';
	readonly op: string;
	readonly args: readonly Varying[];
	/** What the operation knows beside its arguments: a constant, a name, the words of a stream. */
	readonly value: number | string | readonly number[] | null;
	/** The numbers of a list leaf, or the table of a ramp. */
	readonly list: Float64Array | null;
	/** What a field leaf asks about places in space. */
	readonly field: Field | null;
	readonly type: ValueType;
	readonly hash: string;
	/** True where nothing below depends on the element. */
	readonly constant: boolean;
}

/**
 * Something that has a number for every place in space, such as the distance to a mesh. It is data, so that it can be sent
 * to another thread; how a kind of field is read is said once, by `defineField`.
 */
export interface Field {
	readonly kind: string;
	/** Names the field: equal keys give equal numbers. */
	readonly key: string;
	/** Numbers, texts, arrays and geometries. */
	readonly data: Readonly<Record<string, unknown>>;
}

/** Writes the numbers at `n` places. */
export type FieldReader = (
	n: number,
	out: Float64Array,
	x: Float64Array,
	y: Float64Array,
	z: Float64Array
) => void;

const fieldKinds = new Map<string, (data: never) => FieldReader>();
const readers = new WeakMap<Field, FieldReader>();

/** Says how a kind of field is read, and gives what makes such fields. */
export function defineField<Data extends Readonly<Record<string, unknown>>>(
	kind: string,
	readerOf: (data: Data) => FieldReader
): (key: string, data: Data) => Field {
	fieldKinds.set(kind, readerOf);
	return (key, data) => ({ kind, key: `${kind} ${key}`, data });
}

/** What reads a field; made once. */
export function readerOf(field: Field): FieldReader {
	let reader = readers.get(field);
	if (!reader) readers.set(field, (reader = fieldKinds.get(field.kind)!(field.data as never)));
	return reader;
}

/** Leaves that are read from the element at hand. */
export const ELEMENT_NAMES = ['index', 'count', 'id', 'position', 'normal', 'u', 'length'] as const;

const ELEMENT_OPS = new Set(['element', 'attribute', 'random', 'list']);

function make(
	op: string,
	args: readonly Varying[],
	value: Varying['value'],
	type: ValueType,
	list: Float64Array | null = null,
	field: Field | null = null
): Varying {
	const hasher = new Hasher().text(op).text(type);
	if (typeof value === 'number') hasher.number(value);
	else if (typeof value === 'string') hasher.text(value);
	else if (value) value.forEach((x) => hasher.number(x));
	if (list) hasher.array(list);
	if (field) hasher.text(field.key);
	for (const arg of args) hasher.text(arg.hash);
	return {
		kind: 'varying',
		op,
		args,
		value,
		list,
		field,
		type,
		hash: hasher.key(),
		constant: !ELEMENT_OPS.has(op) && args.every((arg) => arg.constant)
	};
}

const smallWholes: Varying[] = [];

/** A number that is the same everywhere. */
export function constant(value: number): Varying {
	if (value >= 0 && value < 16 && value === Math.floor(value) && !Object.is(value, -0))
		return (smallWholes[value] ??= make('constant', [], value, 'number'));
	return make('constant', [], value, 'number');
}

/** A yes or no that is the same everywhere. */
export const constantYesNo = (value: boolean): Varying => make('constant', [], value ? 1 : 0, 'yesno');

/** A vector from three numbers or varying numbers. */
export function vector(x: Varying | number, y: Varying | number, z: Varying | number): Varying {
	const parts = [x, y, z].map((part) => (typeof part === 'number' ? constant(part) : part));
	return make('vector', parts, null, 'vector');
}

/** A value read from the element: its index, count, id, position, normal, u or length. */
export const element = (name: (typeof ELEMENT_NAMES)[number]): Varying =>
	make('element', [], name, name === 'position' || name === 'normal' ? 'vector' : 'number');

/** An attribute of the geometry on which the value is used. Its type is known only there. */
export const attribute = (name: string): Varying => make('attribute', [], name, 'any');

/** A list used per element; it repeats when there are more elements. `width` is 1, or 3 for vectors. */
export const listValue = (data: Float64Array, width: 1 | 3): Varying =>
	make('list', [], width, width === 3 ? 'vector' : 'number', data);

/** How many values a list has that is used as a value; null for what is no list. */
export const lengthOfList = ({ op, list, value }: Varying): number | null =>
	op === 'list' && list ? list.length / (value as number) : null;

/** What a field has at the place of a vector; left out, at the element's position. */
export const fieldAt = (field: Field, place: Varying = element('position')): Varying =>
	make('field', [place], null, 'number', null, field);

/** A ramp read at a number from 0 to 1. Colours come as vectors. */
export const throughRamp = (x: Varying, ramp: Ramp, colours = false): Varying =>
	make('ramp', [x], colours ? 3 : 1, colours ? 'vector' : 'number', tableOfRamp(ramp, colours ? 3 : 1));

/**
 * What separates one random stream from another: the generator's seed, the path of uses and passes, and the stream's name.
 * A name of several steps, such as `a/x`, is `x` one step further down that path: so nodes that leave a subgraph keep
 * their numbers.
 */
export function streamWords(seed: number, path: string, stream: string): [number, number] {
	const step = stream.startsWith('shared ') ? -1 : stream.lastIndexOf('/');
	if (step >= 0) return streamWords(seed, `${path}/${stream.slice(0, step)}`, stream.slice(step + 1));
	return [
		mixText(mixText(mix(0x1d872b41, seed), path), stream),
		mixText(mixText(mix(0x7a3c9f05, seed), stream), path)
	];
}

/** A random number for each element, from `low` up to `high`; whole numbers come equally often, both ends included. */
export function random(
	low: Varying,
	high: Varying,
	stream: readonly [number, number],
	whole = false
): Varying {
	return make('random', [low, high], [stream[0], stream[1], whole ? 1 : 0], 'number');
}

/**
 * A value in whole numbers: the only place that makes them. A random range gives each whole number between its ends equally
 * often; what else comes goes to the nearest.
 */
export function inWholes(value: Varying): Varying {
	if (value.op === 'random') {
		const [first, second] = value.value as readonly number[];
		return make('random', value.args, [first, second, 1], 'number');
	}
	if (value.op === 'constant' && value.type === 'number')
		return constant(Math.floor((value.value as number) + 0.5));
	return operate('floor', [operate('add', [value, constant(0.5)])]);
}

/** The result types of operations, by the types of their arguments. Throws NodeError where they do not fit. */
export function resultType(op: string, types: readonly ValueType[]): ValueType {
	const signature = OPERATIONS[op];
	if (!signature) throw new Error(`No operation “${op}”.`);
	const [low, high] = signature.arguments;
	if (types.length < low || types.length > high)
		throw new NodeError(
			`“${op}” takes ${low === high ? low : `${low} to ${high}`} value${high === 1 ? '' : 's'}; ${types.length} came.`
		);
	switch (signature.kind) {
		case 'each':
			return types.includes('vector') ? 'vector' : types.includes('any') ? 'any' : 'number';
		case 'scalar':
		case 'compare': {
			const place = types.indexOf('vector');
			if (place >= 0)
				throw new NodeError(
					`“${op}” works on numbers; its ${ordinal(place)} value is a vector. Take a part of it, such as .x, or its length with len().`
				);
			return signature.kind === 'compare' ? 'yesno' : 'number';
		}
		case 'vectors to number':
		case 'vectors to vector': {
			const place = types.findIndex((type) => type === 'number' || type === 'yesno');
			if (place >= 0)
				throw new NodeError(
					`“${op}” works on vectors; its ${ordinal(place)} value is a number. Make one with vec(x, y, z).`
				);
			return signature.kind === 'vectors to number' ? 'number' : 'vector';
		}
		case 'choose': {
			if (types[0] === 'vector') throw new NodeError('“choose” asks a yes or no first; a vector came.');
			return types[1] === 'vector' || types[2] === 'vector'
				? 'vector'
				: types.slice(1).includes('any')
					? 'any'
					: 'number';
		}
		case 'noise': {
			const place = op.endsWith('4') ? types.indexOf('vector', 1) : -1;
			if (place > 0)
				throw new NodeError(
					`“${op}” takes a place and then numbers; its ${ordinal(place)} value is a vector. Take a part of it, such as .x.`
				);
			return 'number';
		}
		case 'colour':
			return 'vector';
	}
}

const ordinal = (place: number): string =>
	['first', 'second', 'third', 'fourth', 'fifth'][place] ?? `${place + 1}th`;

interface Signature {
	/** The least and the most values that it takes. */
	arguments: readonly [number, number];
	kind:
		'each' | 'scalar' | 'compare' | 'vectors to number' | 'vectors to vector' | 'choose' | 'noise' | 'colour';
	/** Whether the result is an angle where a value is one; a quotient of two angles is a bare number. */
	unit: 'kept' | 'none' | 'degrees' | 'quotient';
	/** An angle in degrees is a mistake here. */
	takes?: 'radians';
}
type Kind = Signature['kind'];
const of = (kind: Kind, low: number, high = low, more: Partial<Signature> = {}): Signature => ({
	arguments: [low, high],
	kind,
	unit: 'kept',
	...more
});
const each = (count: number, more: Partial<Signature> = {}) => of('each', count, count, more);
const none = { unit: 'none' } as const;
const circular = { takes: 'radians' } as const;

/** Every operation with how many values it takes, and how types and units go through it. */
export const OPERATIONS: Readonly<Record<string, Signature>> = Object.assign(
	Object.create(null) as Record<string, Signature>,
	{
		add: each(2),
		subtract: each(2),
		multiply: each(2),
		divide: each(2, { unit: 'quotient' }),
		mod: each(2),
		pow: each(2),
		negate: each(1),
		sin: each(1, circular),
		cos: each(1, circular),
		tan: each(1, circular),
		asin: each(1),
		acos: each(1),
		atan: of('each', 1, 2),
		radians: each(1, none),
		degrees: each(1, { unit: 'degrees' }),
		exp: each(1),
		log: each(1),
		sqrt: each(1),
		abs: each(1),
		sign: each(1, none),
		floor: each(1),
		ceil: each(1),
		round: each(1),
		fract: each(1),
		min: each(2),
		max: each(2),
		clamp: each(3),
		mix: each(3),
		step: each(2, none),
		smoothstep: each(3, none),
		remap: each(5),
		less: of('compare', 2, 2, none),
		atMost: of('compare', 2, 2, none),
		equal: of('compare', 2, 2, none),
		and: of('compare', 2, 2, none),
		or: of('compare', 2, 2, none),
		not: of('compare', 1, 1, none),
		choose: of('choose', 3),
		dot: of('vectors to number', 2),
		distance: of('vectors to number', 2),
		len: of('vectors to number', 1),
		cross: of('vectors to vector', 2),
		normalize: of('vectors to vector', 1),
		noise: of('noise', 1, 1, none),
		fractal: of('noise', 2, 4, none),
		ridged: of('noise', 4, 4, none),
		cells: of('noise', 1, 1, none),
		// In 4-D: the place, the fourth number and its period, and what octaves take.
		noise4: of('noise', 2, 3, none),
		fractal4: of('noise', 6, 6, none),
		ridged4: of('noise', 6, 6, none),
		cells4: of('noise', 3, 3, none),
		hsl: of('colour', 3, 3, none)
	}
);

/** An operation on varying values. Throws NodeError where the types do not fit. `value` is a noise's seed. */
export function operate(op: string, args: readonly Varying[], value: number | null = null): Varying {
	return make(
		op,
		args,
		value,
		resultType(
			op,
			args.map((arg) => arg.type)
		)
	);
}

/** One part of a vector: 0, 1 or 2 for x, y or z. */
export function part(of: Varying, place: number): Varying {
	if (of.type === 'number' || of.type === 'yesno')
		throw new NodeError(`A number has no part “.${'xyz'[place]}”: only vectors do.`);
	if (of.op === 'vector') return of.args[place];
	return make('part', [of], place, 'number');
}

/** The most distinct parts that one value may have. */
const LARGEST_VARYING = 10_000;

/** Visits every distinct part once, arguments before what uses them, without recursion. */
export function* partsOf(value: Varying): Generator<Varying> {
	const seen = new Set<string>();
	const stack: { node: Varying; next: number }[] = [{ node: value, next: 0 }];
	seen.add(value.hash);
	while (stack.length) {
		const top = stack[stack.length - 1];
		if (top.next < top.node.args.length) {
			const arg = top.node.args[top.next++];
			if (seen.has(arg.hash)) continue;
			seen.add(arg.hash);
			if (seen.size > LARGEST_VARYING)
				throw new NodeError(
					`This value is made of more than ${formatCount(LARGEST_VARYING)} steps. Store a part of it with “Write attribute”.`
				);
			stack.push({ node: arg, next: 0 });
		} else {
			stack.pop();
			yield top.node;
		}
	}
}

/** A column that a value reads from the elements on which it is used. */
export interface Read {
	from: 'attribute' | 'builtin' | 'ids';
	name: string;
}
const readsKnown = new WeakMap<Varying, readonly Read[]>();

/** All that a value reads from its elements, beside their count and places. */
export function readsOf(value: Varying): readonly Read[] {
	let reads = readsKnown.get(value);
	if (reads) return reads;
	const found = new Map<string, Read>();
	for (const { op, value: name } of partsOf(value)) {
		if (op === 'attribute') found.set(`a ${String(name)}`, { from: 'attribute', name: String(name) });
		else if (op === 'random' || (op === 'element' && name === 'id'))
			found.set('ids', { from: 'ids', name: '' });
		else if (op === 'element' && name !== 'index' && name !== 'count')
			found.set(`b ${String(name)}`, { from: 'builtin', name: String(name) });
	}
	reads = [...found.values()];
	readsKnown.set(value, reads);
	return reads;
}

/**
 * A value in two steps: what does not hang from any leaf that `isLocal` names is taken out, to be worked out elsewhere, and
 * read back as an attribute. What has no such leaf at all is one part, and `rest` that attribute alone.
 * @returns the rest, and the parts taken out by the names under which it reads them, which no formula can write.
 */
export function takeOut(
	value: Varying,
	isLocal: (leaf: Varying) => boolean
): { rest: Varying; parts: ReadonlyMap<string, Varying> } {
	const parts = new Map<string, Varying>();
	const standsFor = new Map<string, Varying>();
	const known = new Map<string, { node: Varying; local: boolean }>();
	const readBack = ({ node, local }: { node: Varying; local: boolean }): Varying => {
		if (local || node.constant) return node;
		let leaf = standsFor.get(node.hash);
		if (!leaf) {
			const name = `part ${parts.size}`;
			parts.set(name, node);
			standsFor.set(node.hash, (leaf = attribute(name)));
		}
		return leaf;
	};
	for (const node of partsOf(value)) {
		const args = node.args.map((arg) => known.get(arg.hash)!);
		const local = isLocal(node) || args.some((arg) => arg.local);
		known.set(node.hash, {
			local,
			node:
				local && args.length
					? make(node.op, args.map(readBack), node.value, node.type, node.list, node.field)
					: node
		});
	}
	return { rest: readBack(known.get(value.hash)!), parts };
}

/** A value with some of its leaves replaced by other values; `replace` gives null for those that stay. */
export function withLeaves(value: Varying, replace: (leaf: Varying) => Varying | null): Varying {
	const made = new Map<string, Varying>();
	for (const node of partsOf(value)) {
		const args = node.args.map((arg) => made.get(arg.hash)!);
		const isChanged = args.some((arg, i) => arg !== node.args[i]);
		made.set(
			node.hash,
			replace(node) ?? (isChanged ? make(node.op, args, node.value, node.type, node.list, node.field) : node)
		);
	}
	return made.get(value.hash)!;
}
