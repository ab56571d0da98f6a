/** Lists: a column with a length. Numbers are doubles, as in formulas. */
import { NodeError, plural } from '../math/index.ts';
import { pollAt, scratch } from '../geometry/index.ts';

export type ListType = 'number' | 'whole' | 'yesno' | 'vector' | 'colour' | 'text';

export interface List {
	readonly kind: 'list';
	readonly type: ListType;
	/** How many values there are. */
	readonly length: number;
	/** `length × width` numbers. Texts are places in `words`. */
	readonly data: Float64Array;
	/** Three for vectors and colours. */
	readonly width: 1 | 3;
	readonly words?: readonly string[];
}

/** A list of numbers, whole numbers, yes and no, vectors or colours. Throws NodeError where some are no numbers. */
export function listOf(type: Exclude<ListType, 'text'>, data: Float64Array): List {
	const width = type === 'vector' || type === 'colour' ? 3 : 1;
	let none = 0;
	for (let i = 0; i < data.length; i++) {
		pollAt(i);
		if (!Number.isFinite(data[i])) none++;
	}
	if (none)
		throw new NodeError(
			`${plural(none, 'value')} of the list would be beyond 10³⁰⁸, more than a number says. Use smaller numbers, or fewer.`
		);
	return { kind: 'list', type, length: data.length / width, data, width };
}

/** A list of texts; equal ones are one word. */
export function listOfTexts(texts: readonly string[]): List {
	const places = new Map<string, number>();
	const data = scratch('double', texts.length);
	for (let i = 0; i < texts.length; i++) {
		pollAt(i);
		let place = places.get(texts[i]);
		if (place === undefined) places.set(texts[i], (place = places.size));
		data[i] = place;
	}
	return { kind: 'list', type: 'text', length: texts.length, data, width: 1, words: [...places.keys()] };
}

/** Values of a list in a new order; a place may stand several times. */
export function gatherList(list: List, places: ArrayLike<number>): List {
	const { width, data: from } = list;
	const data = scratch('double', places.length * width);
	for (let i = 0; i < places.length; i++) {
		pollAt(i);
		for (let k = 0; k < width; k++) data[i * width + k] = from[places[i] * width + k];
	}
	return { ...list, length: places.length, data };
}

/** What each type is called in messages. */
export const LIST_TYPES: Readonly<Record<ListType, string>> = {
	number: 'numbers',
	whole: 'whole numbers',
	yesno: 'yes and no',
	vector: 'vectors',
	colour: 'colours',
	text: 'words'
};

/** A number to sort each value by: vectors by their length, words by the alphabet. */
export function sortKeys({ type, length, data, width, words }: List): Float64Array {
	const keys = scratch('double', length);
	if (type === 'text') {
		const order = [...words!.keys()].sort((a, b) => compareTexts(words![a], words![b]));
		const rank = new Map(order.map((word, place) => [word, place]));
		for (let i = 0; i < length; i++) keys[i] = rank.get(data[i])!;
		return keys;
	}
	for (let i = 0; i < length; i++) {
		pollAt(i);
		if (width === 1) keys[i] = data[i];
		else {
			const [x, y, z] = data.subarray(3 * i, 3 * i + 3);
			keys[i] = Math.sqrt(x * x + y * y + z * z);
		}
	}
	return keys;
}

/** By code units, the same in every engine and language. */
const compareTexts = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);

/** Throws where a list holds words: what wants numbers cannot use them. */
export function checkNumbers({ type }: List, label: string, input: string): void {
	if (type === 'text')
		throw new NodeError(
			`“${label}” takes numbers; a list of words came. Take numbers from “List from text”, or connect another list.`,
			{ input }
		);
}
