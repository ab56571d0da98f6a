/** Lists: a column with a length. Numbers are doubles, as in formulas. */

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

/** A list of numbers, whole numbers, yes and no, vectors or colours. */
export function listOf(type: Exclude<ListType, 'text'>, data: Float64Array): List {
	const width = type === 'vector' || type === 'colour' ? 3 : 1;
	return { kind: 'list', type, length: data.length / width, data, width };
}
