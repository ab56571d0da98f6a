/** Steps that fill registers from what is at hand: columns, lists, ids, chance. One step is one loop over a block. */
import { mix } from '../math/index.ts';
import type { Column } from '../geometry/index.ts';
import { WIDTH } from '../geometry/index.ts';
import { addressOf, formulas, stageArray, stageAt } from '../wasm/formulas.ts';

/** Runs one step on the elements from `start`, `n` of them. */
export type Step = (start: number, n: number, registers: readonly Float64Array[]) => void;

const UNIT_OF_INDEX = 2.3283064365386963e-10;

/** The places of the elements, from 0. */
export const indexStep =
	(o: number): Step =>
	(start, n, r) => {
		const out = r[o];
		for (let i = 0; i < n; i++) out[i] = start + i;
	};

/** The ids of the elements, as far as a number holds them exactly: 53 bits. Places where there are none. */
export function idStep(o: number, ids: Uint32Array | null): Step {
	if (!ids) return indexStep(o);
	return (start, n, r) => {
		for (let i = 0; i < n; i++)
			r[o][i] = ids[2 * (start + i)] + (ids[2 * (start + i) + 1] & 0x1fffff) * 4294967296;
	};
}

/** A column, the first parts of each element to the registers. */
export function columnStep(registers: readonly number[], { type, data }: Column): Step {
	const width = WIDTH[type];
	const { loadFloats, loadVectors } = formulas();
	if (data instanceof Float32Array && width === 1) {
		const o = addressOf(registers[0]);
		return (start, n) => {
			stageArray().set(data.subarray(start, start + n));
			loadFloats(n, stageAt, o);
		};
	}
	if (data instanceof Float32Array && width === 3) {
		const [x, y, z] = registers.map(addressOf);
		return (start, n) => {
			stageArray().set(data.subarray(3 * start, 3 * (start + n)));
			loadVectors(n, stageAt, x, y, z);
		};
	}
	return (start, n, r) => {
		for (const [k, o] of registers.entries())
			for (let i = 0; i < n; i++) r[o][i] = data[(start + i) * width + k];
	};
}

/** A list, from its start again where it ends; 0 where it is empty. */
export function listStep(registers: readonly number[], list: Float64Array): Step {
	const width = registers.length;
	const length = list.length / width;
	return (start, n, r) => {
		for (const [k, o] of registers.entries())
			for (let i = 0; i < n; i++) r[o][i] = length ? list[((start + i) % length) * width + k] : 0;
	};
}

/** Numbers between two, by the element's id and the two words of a stream; whole ones equally often. */
export function randomStep(
	o: number,
	low: number,
	high: number,
	[first, second]: readonly [number, number],
	whole: boolean,
	ids: Uint32Array | null
): Step {
	return (start, n, r) => {
		const out = r[o],
			from = r[low],
			to = r[high];
		for (let i = 0; i < n; i++) {
			const at = start + i;
			const word = ids
				? mix(mix(mix(first, ids[2 * at]), ids[2 * at + 1]), second)
				: mix(mix(mix(first, at), 0), second);
			const t = (word >>> 0) * UNIT_OF_INDEX;
			if (!whole) out[i] = from[i] + (to[i] - from[i]) * t;
			else {
				const lowest = Math.ceil(from[i]);
				const count = Math.floor(to[i]) - lowest + 1;
				out[i] = count > 0 ? lowest + Math.floor(t * count) : lowest;
			}
		}
	};
}

/** Hue, saturation and lightness to linear red, green and blue. */
export function colourStep(out: readonly number[], [h, s, l]: readonly number[]): Step {
	return (_start, n, r) => {
		for (let i = 0; i < n; i++) {
			const hue = (r[h][i] - Math.floor(r[h][i])) * 12;
			const light = Math.max(0, Math.min(1, r[l][i]));
			const a = Math.max(0, Math.min(1, r[s][i])) * Math.min(light, 1 - light);
			for (let k = 0; k < 3; k++) {
				const at = (k * -4 + 12 + hue) % 12;
				const shown = light - a * Math.max(-1, Math.min(at - 3, 9 - at, 1));
				// From the screen's encoding to linear light, near enough by a cubic through its curve.
				r[out[k]][i] = shown * (shown * (shown * 0.305306011 + 0.682171111) + 0.012522878);
			}
		}
	};
}
