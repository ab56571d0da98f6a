/** A varying value as colours: from sand (0) through teal to ink (1), for every vertex and copy that is shown. */
import type { Geometry, PartName } from '../geometry/index.ts';
import * as varying from '../varying/index.ts';
import { PART_NAMES, partKind, scratch, placedIn } from '../geometry/index.ts';
import type { HeatFacts } from './messages.ts';

/** Screen colours of the scale at 0, a half and 1. */
export const HEAT_SCALE: readonly (readonly [number, number, number])[] = [
	[222, 200, 150],
	[31, 122, 112],
	[30, 43, 46]
];

/** Numbers on elements: one each, or three that are red, green and blue. */
export interface HeatNumbers {
	data: Float32Array;
	width: 1 | 3;
}

interface ReadHere {
	numbers: HeatNumbers | null;
	trouble: string;
}

export class Heat {
	readonly #value: varying.Varying;
	/** The numbers at the ends of the scale; null for 0 and 1. */
	#ends: readonly (readonly [number, number])[] | null = null;
	/** By geometry and part: for the picture and for the facts, and as long as neither changes. */
	readonly #known = new WeakMap<Geometry, Map<PartName, ReadHere>>();

	constructor(value: varying.Varying) {
		this.#value = value;
	}

	/** The value that it shows, by its hash. */
	get value(): string {
		return this.#value.hash;
	}

	get key(): string {
		return this.#ends ? `${this.#value.hash} ${this.#ends.flat().join(' ')}` : this.#value.hash;
	}

	/** Lets the scale run from the least to the greatest number on some geometries; from 0 to 1 where there are none. */
	fit(geometries: readonly Geometry[]): void {
		const { spans } = this.#spans(geometries);
		this.#ends = spans.length ? spans.map(([low, high]) => [low, high > low ? high : low + 1]) : null;
	}

	/** The numbers on the points or copies of a part; null where the value cannot be worked out there. */
	read(geometry: Geometry, part: PartName): HeatNumbers | null {
		const { numbers } = this.#numbers(geometry, part);
		if (!numbers || !this.#ends) return numbers;
		const { data, width } = numbers;
		const scaled = scratch('float', data.length);
		for (let k = 0; k < width; k++) {
			const [low, high] = this.#ends[k] ?? this.#ends[0];
			for (let i = k; i < scaled.length; i += width) scaled[i] = (data[i] - low) / (high - low);
		}
		return { data: scaled, width };
	}

	/** Worked out once for each geometry, for the picture and for the facts. */
	#numbers(geometry: Geometry, part: PartName): ReadHere {
		let known = this.#known.get(geometry);
		if (!known) this.#known.set(geometry, (known = new Map()));
		let read = known.get(part);
		if (!read) known.set(part, (read = this.#workOut(geometry, part)));
		return read;
	}

	#workOut(geometry: Geometry, part: PartName): ReadHere {
		const found = placedIn(geometry).find((one) => one.part === part);
		if (!found?.table.count) return { numbers: null, trouble: '' };
		try {
			const { kind, table } = found;
			const elements = varying.elementsOf(geometry, part, kind);
			const width = varying.typeOn(this.#value, elements) === 'vector' ? 3 : 1;
			const data = scratch('float', table.count * width);
			varying.run(this.#value, elements, width, data);
			return { numbers: { data, width }, trouble: '' };
		} catch (error) {
			return { numbers: null, trouble: (error as Error).message };
		}
	}

	/** The least and the greatest of each part of the numbers, their sum and count, and what they stand on. */
	#spans(geometries: readonly Geometry[]) {
		const spans: [number, number][] = [];
		let [sum, count, why] = [0, 0, ''];
		const of = new Set<string>();
		for (const geometry of geometries)
			for (const part of PART_NAMES) {
				const { numbers, trouble } = this.#numbers(geometry, part);
				why ||= trouble;
				if (!numbers) continue;
				of.add(partKind(part).placed === 'copy' ? 'copies' : 'points');
				const { data, width } = numbers;
				count += data.length / width;
				for (let k = 0; k < width; k++) {
					const span = (spans[k] ??= [Infinity, -Infinity]);
					for (let i = k; i < data.length; i += width) {
						const x = data[i];
						if (x < span[0]) span[0] = x;
						if (x > span[1]) span[1] = x;
						sum += x;
					}
				}
			}
		return { spans, sum, count, why, of: [...of].join(' and ') };
	}

	facts(geometries: readonly Geometry[]): HeatFacts {
		const { spans, sum, count, why, of } = this.#spans(geometries);
		if (!count)
			return {
				low: 0,
				high: 0,
				mean: 0,
				count,
				of: '',
				trouble: why || 'Nothing is shown that could be coloured.'
			};
		const [[low, high]] = spans;
		return {
			low,
			high,
			mean: sum / count / spans.length,
			count,
			of,
			...(this.#ends && { ends: this.#ends[0] }),
			...(spans.length === 3 && { parts: spans })
		};
	}
}

/** Three bytes for each row: `rows` are looked up in `numbers`, or taken in order where they are left out. */
export function coloursOf(
	{ data, width }: HeatNumbers,
	rows: ArrayLike<number> | null,
	out: Uint8Array
): Uint8Array {
	for (let i = 0; i < out.length / 3; i++) {
		const row = rows ? rows[i] : i;
		if (width === 3) {
			for (let k = 0; k < 3; k++) out[3 * i + k] = 255 * Math.max(0, Math.min(1, data[3 * row + k] || 0));
			continue;
		}
		const x = data[row];
		const t = x > 0 ? (x < 1 ? x : 1) : 0;
		const [a, b] = t < 0.5 ? [HEAT_SCALE[0], HEAT_SCALE[1]] : [HEAT_SCALE[1], HEAT_SCALE[2]];
		const share = t < 0.5 ? 2 * t : 2 * t - 1;
		for (let k = 0; k < 3; k++) out[3 * i + k] = a[k] + (b[k] - a[k]) * share;
	}
	return out;
}
