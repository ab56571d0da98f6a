/** What flows in the graph, in words: on a label’s foot (short) and on the chip of a wire (long). */
import type { Value } from '../engine/index.ts';
import type { Geometry } from '../geometry/index.ts';
import type { NodeResult } from '../engine/index.ts';
import * as varying from '../varying/index.ts';
import { isList, isVarying } from '../engine/index.ts';
import { attributeNames } from '../geometry/index.ts';
import { NodeError } from '../math/index.ts';
import { countsInWords } from './counts.ts';
import type { Readers } from './where-read.ts';

const round = (x: number): string => String(Math.round(x * 1000) / 1000);
const vector = (parts: readonly number[]): string => `(${parts.map(round).join(', ')})`;

export function valueInWords(value: Exclude<Value, Geometry>): { short: string; long: string } {
	if (isList(value)) {
		const { data, width } = value;
		const rows = data.length / width;
		const first = Array.from({ length: Math.min(4, rows) }, (_, i) => {
			const parts = [...data.subarray(width * i, width * (i + 1))];
			return width === 1 ? round(parts[0]) : vector(parts);
		});
		const count = `${rows.toLocaleString('en')} ${width === 3 ? 'vectors' : 'numbers'}`;
		return { short: count, long: `${count}: ${first.join(', ')}${rows > first.length ? ' …' : ''}` };
	}
	if ('stops' in value) {
		const text = `${value.stops.length} stops`;
		return { short: text, long: `A ramp with ${text}.` };
	}
	if (!isVarying(value)) return { short: 'value', long: 'A value.' };
	const listed = value.constant ? null : listedInWords(value);
	if (listed) return listed;
	if (!value.constant)
		return value.op === 'random'
			? { short: 'random for each element', long: 'A random number for each element.' }
			: { short: 'differs by element', long: 'A value that differs from element to element.' };
	const wide = value.type === 'vector';
	const out = new Float64Array(wide ? 3 : 1);
	try {
		varying.run(value, varying.singleElement(), wide ? 3 : 1, out);
	} catch (error) {
		// What cannot be worked out is told by the node that reads it; words about it must not end an evaluation.
		if (error instanceof NodeError) return { short: 'value', long: error.message };
		throw error;
	}
	const text = wide ? vector([...out]) : value.type === 'yesno' ? (out[0] ? 'yes' : 'no') : round(out[0]);
	return { short: text, long: text };
}

/** Lists of more rows are counted, not told. */
const MOST_LISTED = 10_000;

/** A value that comes of lists alone is known without a geometry: an element for each row of the longest list. */
function listedInWords(value: varying.Varying): { short: string; long: string } | null {
	const count = rowsOf(value);
	if (!count) return null;
	// Told after each evaluation, so that long ones would be worked out again and again.
	if (count > MOST_LISTED) {
		const text = `${count.toLocaleString('en')} values`;
		return { short: text, long: `${text}.` };
	}
	const wide = value.type === 'vector' ? 3 : 1;
	const out = new Float64Array(count * wide);
	try {
		varying.run(value, varying.plainElements(count), wide, out);
	} catch (error) {
		// It also reads what only a geometry has.
		if (error instanceof NodeError) return null;
		throw error;
	}
	const rows = (most: number) => {
		const some = Array.from({ length: Math.min(most, count) }, (_, i) => {
			const own = [...out.subarray(wide * i, wide * (i + 1))];
			return wide === 3 ? vector(own) : value.type === 'yesno' ? (own[0] ? 'yes' : 'no') : round(own[0]);
		});
		return `${some.join(', ')}${count > some.length ? ' …' : ''}`;
	};
	return { short: rows(wide === 3 ? 1 : 3), long: `${count.toLocaleString('en')} values: ${rows(4)}` };
}

/** The rows of the longest list that a value reads; 0 where it reads none. Values are a net of many, so each is looked at once. */
function rowsOf(value: varying.Varying): number {
	const seen = new Set<varying.Varying>();
	const open = [value];
	let most = 0;
	while (open.length) {
		const one = open.pop()!;
		if (seen.has(one)) continue;
		seen.add(one);
		if (one.op === 'list') most = Math.max(most, one.list!.length / Number(one.value));
		open.push(...one.args);
	}
	return most;
}

/** The most elements on which values are worked out to be told of. */
const MOST_TOLD = 2_000_000;

/** The values on a wire where they are read: how many, from where to where, and the first of them. */
export function valuesInWords(
	value: varying.Varying,
	{ elements, called, geometry, part, kind }: Readers
): string {
	const { count } = elements;
	const said = `${count.toLocaleString('en')} ${called}`;
	if (count > MOST_TOLD) return `${said}, each with its own value.`;
	const asked = `${value.hash} on ${part} ${kind}`;
	const last = lastTold.get(geometry);
	if (last?.asked === asked) return last.said;
	const told = toldOf(value, elements, said);
	lastTold.set(geometry, { asked, said: told });
	return told;
}

/** What was told last of each geometry: the pointer rests on one wire for a while. */
const lastTold = new WeakMap<Geometry, { asked: string; said: string }>();

function toldOf(value: varying.Varying, elements: varying.Elements, said: string): string {
	const { count } = elements;
	const width = value.type === 'vector' ? 3 : 1;
	const out = new Float64Array(count * width);
	try {
		varying.run(value, elements, width, out);
	} catch (error) {
		if (error instanceof NodeError) return error.message;
		throw error;
	}
	if (value.type === 'yesno')
		return `${out.reduce((sum, x) => sum + x, 0).toLocaleString('en')} of ${said}: yes`;
	const ranges = Array.from({ length: width }, (_, k) => {
		let [low, high] = [Infinity, -Infinity];
		for (let i = k; i < out.length; i += width) {
			if (out[i] < low) low = out[i];
			if (out[i] > high) high = out[i];
		}
		const range = low === high ? round(low) : `${round(low)} to ${round(high)}`;
		return width === 1 ? range : `${'xyz'[k]} ${range}`;
	});
	const first = Array.from({ length: Math.min(3, count) }, (_, i) => {
		const own = [...out.subarray(width * i, width * (i + 1))];
		return width === 1 ? round(own[0]) : vector(own);
	});
	return `${said}: ${ranges.join(', ')}\nfirst ${first.join(', ')}${count > 3 ? ' …' : ''}`;
}

/** The names of the attributes that a geometry carries, beside what every one has. */
export function attributesInWords(geometry: Geometry): string {
	const plain = ['position', 'orientation', 'scale', 'source', 'shown', 'closed', 'type', 'material'];
	const names = [...attributeNames(geometry).keys()].filter((name) => !plain.includes(name));
	if (!names.length) return '';
	return `\nwith ${names.slice(0, 6).join(', ')}${names.length > 6 ? ' …' : ''}`;
}

export function geometryInWords({ counts, bounds }: Pick<NodeResult, 'counts' | 'bounds'>): string {
	const said = countsInWords(counts!, ['points', 'faces', 'curves', 'copies']);
	const size = bounds
		? ` · ${[0, 1, 2].map((k) => round(bounds.high[k] - bounds.low[k])).join(' × ')} m`
		: '';
	return (said.join(', ') || 'empty') + size;
}
