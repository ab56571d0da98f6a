/** Columns of numbers as the Data drawer shows them, sorts them and counts them. */
import { pollAt, scratch } from '../geometry/index.ts';
import type { ColumnType } from '../geometry/index.ts';

/** One number for each row: a column, or a part of one. */
export interface Series {
	/** Names it in questions: `position.x`. */
	key: string;
	/** The attribute, and the part of it. */
	name: string;
	part: string;
	type: ColumnType;
	data: ArrayLike<number>;
	width: number;
	offset: number;
	words?: readonly string[];
}

export const valueAt = ({ data, width, offset }: Series, row: number): number => data[row * width + offset];

const DIGIT = 11;
const BUCKETS = 1 << DIGIT;

/**
 * Puts rows into the order of a series, the least first; equal ones stay as they were, and what is not a number comes last.
 * By counting, eleven bits at a time: a third of the time of comparing.
 */
export function sortRows(rows: Uint32Array, series: Series, descending: boolean): Uint32Array {
	const n = rows.length;
	const { low, high } = sortable(rows, series, descending);
	const counts = scratch('index', BUCKETS);
	// The places of rows move; their keys stay with their first places.
	let places = scratch('index', n),
		next = scratch('index', n);
	for (let i = 0; i < n; i++) {
		pollAt(i);
		places[i] = i;
	}
	for (const keys of high ? [low, high] : [low])
		for (let shift = 0; n > 0 && shift < 32; shift += DIGIT) {
			counts.fill(0);
			for (let i = 0; i < n; i++) {
				pollAt(i);
				counts[(keys[i] >>> shift) & (BUCKETS - 1)]++;
			}
			// A digit that all share moves nothing.
			if (counts[(keys[0] >>> shift) & (BUCKETS - 1)] === n) continue;
			let sum = 0;
			for (let b = 0; b < BUCKETS; b++) {
				const count = counts[b];
				counts[b] = sum;
				sum += count;
			}
			for (let i = 0; i < n; i++) {
				pollAt(i);
				const place = places[i];
				next[counts[(keys[place] >>> shift) & (BUCKETS - 1)]++] = place;
			}
			[places, next] = [next, places];
		}
	for (let i = 0; i < n; i++) {
		pollAt(i);
		next[i] = rows[places[i]];
	}
	return next;
}

/** Keys that are ordered as whole numbers as their values are: 32 bits, and 32 more for doubles. */
function sortable(
	rows: Uint32Array,
	series: Series,
	descending: boolean
): { low: Uint32Array; high: Uint32Array | null } {
	const isDouble = series.data instanceof Float64Array;
	const ranks = series.words && rankOf(series.words);
	const bits = isDouble ? new Float64Array(1) : new Float32Array(1);
	const words = new Uint32Array(bits.buffer);
	const low = scratch('index', rows.length),
		high = isDouble ? scratch('index', rows.length) : null;
	for (let i = 0; i < rows.length; i++) {
		pollAt(i);
		const x = valueAt(series, rows[i]);
		if (x !== x) {
			low[i] = 0xffffffff;
			if (high) high[i] = 0xffffffff;
			continue;
		}
		if (!isDouble && !(series.data instanceof Float32Array)) {
			const whole = ((ranks ? ranks[x] : x) ^ 0x80000000) >>> 0;
			low[i] = descending ? Math.min(0xfffffffe, ~whole >>> 0) : Math.min(0xfffffffe, whole);
			continue;
		}
		bits[0] = x === 0 ? 0 : x;
		const top = isDouble ? words[1] : words[0];
		// Of negative numbers all bits turn round, of others the sign: then they are in order.
		const flip = top >>> 31 ? 0xffffffff : 0x80000000;
		const turn = descending ? 0xffffffff : 0;
		const first = (top ^ flip ^ turn) >>> 0;
		if (high) {
			high[i] = first;
			low[i] = (words[0] ^ (top >>> 31 ? 0xffffffff : 0) ^ turn) >>> 0;
		} else low[i] = first;
	}
	return { low, high };
}

/** The place of each word in the alphabet. */
function rankOf(words: readonly string[]): Uint32Array {
	const order = words
		.map((_, i) => i)
		.sort((a, b) => (words[a] < words[b] ? -1 : words[a] > words[b] ? 1 : 0));
	const ranks = scratch('index', words.length);
	order.forEach((word, rank) => (ranks[word] = rank));
	return ranks;
}

/** What is told of a series. */
export interface Statistics {
	count: number;
	/** How many are no number. */
	broken: number;
	least: number;
	greatest: number;
	mean: number;
	/** The standard deviation. */
	deviation: number;
	/** How many lie in each of equal parts of the range from the least to the greatest. */
	bars: number[];
}

/** Bars of a histogram. */
const BARS = 40;

export function statisticsOf(series: Series, rows: Uint32Array): Statistics {
	let count = 0,
		mean = 0,
		squares = 0,
		least = Infinity,
		greatest = -Infinity;
	for (let i = 0; i < rows.length; i++) {
		pollAt(i);
		const x = valueAt(series, rows[i]);
		if (x - x !== 0) continue;
		// As it comes, so that large numbers lose nothing (B. P. Welford, 1962).
		count++;
		const step = x - mean;
		mean += step / count;
		squares += step * (x - mean);
		if (x < least) least = x;
		if (x > greatest) greatest = x;
	}
	const bars = Array<number>(BARS).fill(0);
	const size = greatest - least;
	for (let i = 0; count && i < rows.length; i++) {
		pollAt(i);
		const x = valueAt(series, rows[i]);
		if (x - x !== 0) continue;
		bars[size > 0 ? Math.min(BARS - 1, Math.floor(((x - least) / size) * BARS)) : 0]++;
	}
	return {
		count: rows.length,
		broken: rows.length - count,
		least: count ? least : 0,
		greatest: count ? greatest : 0,
		mean: count ? mean : 0,
		deviation: count ? Math.sqrt(squares / count) : 0,
		bars
	};
}

/** Two series against each other: their correlation, and some of their rows as places. */
export interface Correlation {
	r: number;
	/** Two numbers a row, of no more rows than can be told apart. */
	places: Float32Array;
	count: number;
}

/** Rows that are drawn. */
const MOST_DRAWN = 2000;

export function correlationOf(one: Series, other: Series, rows: Uint32Array): Correlation {
	let n = 0,
		meanX = 0,
		meanY = 0,
		xx = 0,
		yy = 0,
		xy = 0;
	for (let i = 0; i < rows.length; i++) {
		pollAt(i);
		const x = valueAt(one, rows[i]),
			y = valueAt(other, rows[i]);
		if (x - x !== 0 || y - y !== 0) continue;
		n++;
		const dx = x - meanX,
			dy = y - meanY;
		meanX += dx / n;
		meanY += dy / n;
		xx += dx * (x - meanX);
		yy += dy * (y - meanY);
		xy += dx * (y - meanY);
	}
	const drawn = Math.min(MOST_DRAWN, rows.length);
	const places = new Float32Array(2 * drawn);
	for (let k = 0; k < drawn; k++) {
		const row = rows[Math.floor((k * rows.length) / drawn)];
		places[2 * k] = valueAt(one, row);
		places[2 * k + 1] = valueAt(other, row);
	}
	return { r: xx > 0 && yy > 0 ? xy / Math.sqrt(xx * yy) : 0, places, count: n };
}
