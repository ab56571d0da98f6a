/** A varying value as colours: from sand (0) through teal to ink (1), for every vertex and copy that is shown. */
import type { Geometry, Part } from '../../../core/index.ts';
import { tableOf, varying } from '../../../core/index.ts';
import type { HeatFacts } from './messages.ts';

/** Screen colours of the scale at 0, a half and 1. */
export const HEAT_SCALE: readonly (readonly [number, number, number])[] = [
	[222, 200, 150],
	[31, 122, 112],
	[30, 43, 46]
];

export class Heat {
	readonly value: varying.Varying;
	#low = Infinity;
	#high = -Infinity;
	#sum = 0;
	#count = 0;
	#trouble = '';
	readonly #of = new Set<string>();

	constructor(value: varying.Varying) {
		this.value = value;
	}

	get key(): string {
		return this.value.hash;
	}

	/** The numbers on the points or copies of a part; null where the value cannot be worked out there. */
	read(geometry: Geometry, part: Part): Float32Array | null {
		const kind = part === 'copies' ? 'copy' : 'point';
		const table = tableOf(geometry, part, kind);
		if (!table?.count) return null;
		const out = new Float32Array(table.count);
		try {
			varying.run(this.value, varying.elementsOf(geometry, part, kind), 1, out);
		} catch (error) {
			this.#trouble ||= (error as Error).message;
			return null;
		}
		for (const x of out) {
			if (x < this.#low) this.#low = x;
			if (x > this.#high) this.#high = x;
			this.#sum += x;
		}
		this.#count += out.length;
		this.#of.add(part === 'copies' ? 'copies' : 'points');
		return out;
	}

	facts(): HeatFacts {
		return {
			low: this.#count ? this.#low : 0,
			high: this.#count ? this.#high : 0,
			mean: this.#count ? this.#sum / this.#count : 0,
			count: this.#count,
			of: [...this.#of].join(' and '),
			...(!this.#count && { trouble: this.#trouble || 'Nothing is shown that could be coloured.' })
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
