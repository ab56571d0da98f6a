/** A varying value as colours: from sand (0) through teal to ink (1), for every vertex and copy that is shown. */
import type { Geometry, PartName } from '../index.ts';
import { PART_NAMES, partKind, scratch, tableOf, varying } from '../index.ts';
import type { HeatFacts } from './messages.ts';

/** Screen colours of the scale at 0, a half and 1. */
export const HEAT_SCALE: readonly (readonly [number, number, number])[] = [
	[222, 200, 150],
	[31, 122, 112],
	[30, 43, 46]
];

interface ReadHere {
	numbers: Float32Array | null;
	trouble: string;
}

export class Heat {
	readonly #value: varying.Varying;
	/** The numbers at the ends of the scale; null for 0 and 1. */
	#ends: readonly [number, number] | null = null;
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
		return this.#ends ? `${this.#value.hash} ${this.#ends.join(' ')}` : this.#value.hash;
	}

	/** Lets the scale run from the least to the greatest number on some geometries; from 0 to 1 where there are none. */
	fit(geometries: readonly Geometry[]): void {
		const { low, high, count } = this.facts(geometries);
		this.#ends = count ? [low, high > low ? high : low + 1] : null;
	}

	/** The numbers on the points or copies of a part; null where the value cannot be worked out there. */
	read(geometry: Geometry, part: PartName): Float32Array | null {
		const { numbers } = this.#numbers(geometry, part);
		if (!numbers || !this.#ends) return numbers;
		const [low, high] = this.#ends;
		const scaled = scratch('float', numbers.length);
		for (let i = 0; i < scaled.length; i++) scaled[i] = (numbers[i] - low) / (high - low);
		return scaled;
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
		const kind = partKind(part).placed;
		const table = tableOf(geometry, part, kind);
		if (!table?.count) return { numbers: null, trouble: '' };
		const numbers = scratch('float', table.count);
		try {
			varying.run(this.#value, varying.elementsOf(geometry, part, kind), 1, numbers);
		} catch (error) {
			return { numbers: null, trouble: (error as Error).message };
		}
		return { numbers, trouble: '' };
	}

	facts(geometries: readonly Geometry[]): HeatFacts {
		let [low, high, sum, count, why] = [Infinity, -Infinity, 0, 0, ''];
		const of = new Set<string>();
		for (const geometry of geometries)
			for (const part of PART_NAMES) {
				const { numbers, trouble } = this.#numbers(geometry, part);
				why ||= trouble;
				if (!numbers) continue;
				of.add(partKind(part).placed === 'copy' ? 'copies' : 'points');
				count += numbers.length;
				for (const x of numbers) {
					if (x < low) low = x;
					if (x > high) high = x;
					sum += x;
				}
			}
		if (!count)
			return {
				low: 0,
				high: 0,
				mean: 0,
				count,
				of: '',
				trouble: why || 'Nothing is shown that could be coloured.'
			};
		return {
			low,
			high,
			mean: sum / count,
			count,
			of: [...of].join(' and '),
			...(this.#ends && { ends: this.#ends })
		};
	}
}

/** Three bytes for each row: `rows` are looked up in `numbers`, or taken in order where they are left out. */
export function coloursOf(
	numbers: Float32Array,
	rows: ArrayLike<number> | null,
	out: Uint8Array
): Uint8Array {
	for (let i = 0; i < out.length / 3; i++) {
		const x = numbers[rows ? rows[i] : i];
		const t = x > 0 ? (x < 1 ? x : 1) : 0;
		const [a, b] = t < 0.5 ? [HEAT_SCALE[0], HEAT_SCALE[1]] : [HEAT_SCALE[1], HEAT_SCALE[2]];
		const share = t < 0.5 ? 2 * t : 2 * t - 1;
		for (let k = 0; k < 3; k++) out[3 * i + k] = a[k] + (b[k] - a[k]) * share;
	}
	return out;
}
