/** How columns blend, by role: the only place that does it. Ids, whole numbers, yes or no and texts come from the nearer. */
import { pollAt, scratch } from './allocate.ts';
import type { Column } from './table.ts';
import { WIDTH, allocateData } from './table.ts';

/** Whether values of a column are mixed; others are chosen. */
export const blends = (source: Column): boolean =>
	source.data instanceof Float32Array && source.role !== 'id';

/** Whether rows have length 1, and must have it again after a blend. */
const isUnit = ({ role }: Column): boolean =>
	role === 'normal' || role === 'direction' || role === 'orientation';

type Numbers = { [i: number]: number };

/** Gives a row the length 1; where it has none, the default of its column. */
function makeUnit(data: Numbers, o: number, width: number, source: Column): void {
	let square = 0;
	for (let k = 0; k < width; k++) square += data[o + k] * data[o + k];
	const size = Math.sqrt(square);
	for (let k = 0; k < width; k++) data[o + k] = size > 0 ? data[o + k] / size : source.default[k];
}

/** 1, or −1 where two rotations lie in opposite halves: one and its opposite turn alike, and would cancel out. */
function signBetween({ role, data }: Column, a: number, b: number, width: number): number {
	if (role !== 'orientation') return 1;
	let along = 0;
	for (let k = 0; k < width; k++) along += data[a + k] * data[b + k];
	return along >= 0 ? 1 : -1;
}

/** Rows between pairs of rows: `share` of the way from `a` to `b`. Where the share is 0 the row is that of `a` to the bit. */
export function blendTwo(
	source: Column,
	a: ArrayLike<number>,
	b: ArrayLike<number>,
	share: ArrayLike<number>
): Column {
	const width = WIDTH[source.type];
	const from = source.data;
	const mixes = blends(source);
	const unit = mixes && isUnit(source);
	const data = allocateData(source.type, a.length);
	for (let i = 0; i < a.length; i++) {
		pollAt(i);
		const t = share[i];
		const p = a[i] * width,
			q = b[i] * width,
			o = i * width;
		if (!mixes || t === 0) {
			const nearer = t > 0.5 || (!mixes && t === 0.5) ? q : p;
			for (let k = 0; k < width; k++) data[o + k] = from[nearer + k];
			continue;
		}
		const sign = signBetween(source, p, q, width);
		for (let k = 0; k < width; k++) data[o + k] = from[p + k] + (sign * from[q + k] - from[p + k]) * t;
		if (unit) makeUnit(data, o, width, source);
	}
	return { ...source, data };
}

/** For each new row the rows it is the mean of: `items[starts[i] … starts[i + 1]]`. */
export interface Relation {
	starts: Uint32Array;
	items: Uint32Array;
}

/** Means of rows; of yes or no whether any is, of what does not blend the first. Without any, the column's default. */
export function blendMany(source: Column, { starts, items }: Relation): Column {
	const count = starts.length - 1;
	const width = WIDTH[source.type];
	const from = source.data;
	const mixes = blends(source);
	const unit = mixes && isUnit(source);
	const data = allocateData(source.type, count);
	const sums = scratch('double', width);
	for (let i = 0; i < count; i++) {
		pollAt(i);
		const start = starts[i],
			size = starts[i + 1] - start,
			o = i * width;
		if (size === 0) {
			for (let k = 0; k < width; k++) data[o + k] = source.default[k];
			continue;
		}
		const first = items[start] * width;
		if (mixes) {
			sums.fill(0);
			for (let m = 0; m < size; m++) {
				const row = items[start + m] * width;
				const sign = signBetween(source, first, row, width);
				for (let k = 0; k < width; k++) sums[k] += sign * from[row + k];
			}
			for (let k = 0; k < width; k++) data[o + k] = sums[k] / size;
			if (unit && size > 1) makeUnit(data, o, width, source);
		} else
			for (let k = 0; k < width; k++) {
				let value = from[first + k];
				if (source.type === 'bool') for (let m = 1; m < size; m++) value |= from[items[start + m]];
				data[o + k] = value;
			}
	}
	return { ...source, data };
}
