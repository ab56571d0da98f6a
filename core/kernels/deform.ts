/**
 * Maps of space on columns of points, a block at a time, in doubles: so a map may be asked again a tiny step further on,
 * which tells how it turns what stands there.
 */
import { quaternion } from '../math/index.ts';
import { poll, scratch } from '../geometry/index.ts';
import type { Bounds } from '../geometry/index.ts';
import type { SpaceMap } from './deform-maps.ts';

/** Points that are mapped between two looks at whether to stop. */
const BLOCK = 4096;
/**
 * How far a step goes that tells how a map turns things in a box: a ten millionth of the box, far below what bends in it; and
 * further where a small thing stands far off, as doubles lose more of it there. Then it is the step at which what they lose
 * and what bends are as small as one another.
 */
export function stepIn(box: Bounds | null): number {
	if (!box) return 1e-7;
	const size = Math.max(...box.high.map((high, k) => high - box.low[k]));
	const far = Math.max(...box.high.map(Math.abs), ...box.low.map(Math.abs));
	return size > 0 ? size * Math.max(1e-7, Math.sqrt((1e-16 * far) / size)) : 1e-7 * Math.max(1, far);
}

/** Writes where points go. Those without weight stay as they are, to the bit. */
export function mapPoints(map: SpaceMap, p: Float32Array, weights: Float32Array, out: Float32Array): void {
	const from = scratch('double', 3 * BLOCK),
		to = scratch('double', 3 * BLOCK);
	for (let start = 0; start < weights.length; start += BLOCK) {
		poll();
		const n = Math.min(BLOCK, weights.length - start);
		const own = from.subarray(0, 3 * n),
			mapped = to.subarray(0, 3 * n);
		own.set(p.subarray(3 * start, 3 * (start + n)));
		map(own, weights.subarray(start, start + n), mapped);
		for (let i = 0, o = 3 * start; i < 3 * n; i++, o++)
			out[o] = weights[start + ((i / 3) | 0)] === 0 ? p[o] : mapped[i];
	}
}

/**
 * Tells how a map turns what stands at points: each orientation, four numbers, goes to `turned` with its point's place.
 * Its y and z axes go as the map takes a tiny step along them.
 * @param step how far they go, in metres: see `stepIn`.
 */
export function mapOrientations(
	map: SpaceMap,
	p: Float32Array,
	weights: Float32Array,
	orientations: ArrayLike<number>,
	step: number,
	turned: (i: number, q: readonly number[]) => void
): void {
	const from = scratch('double', 3 * BLOCK);
	const [here, up, forward] = [0, 1, 2].map(() => scratch('double', 3 * BLOCK));
	const ways = [here, up, forward];
	const q = [0, 0, 0, 1];
	for (let start = 0; start < weights.length; start += BLOCK) {
		poll();
		const n = Math.min(BLOCK, weights.length - start);
		const own = weights.subarray(start, start + n);
		ways.forEach((way, axis) => {
			writeSteps(from, p, orientations, start, n, axis, axis === 0 ? 0 : step);
			map(from.subarray(0, 3 * n), own, way.subarray(0, 3 * n));
		});
		for (let i = 0, o = 0; i < n; i++, o += 3) {
			if (own[i] === 0) continue;
			quaternion.lookAlong(
				q,
				0,
				up[o] - here[o],
				up[o + 1] - here[o + 1],
				up[o + 2] - here[o + 2],
				forward[o] - here[o],
				forward[o + 1] - here[o + 1],
				forward[o + 2] - here[o + 2]
			);
			turned(start + i, q);
		}
	}
}

/** Points, each a step further along an own axis of what stands there: 1 for y, 2 for z. */
function writeSteps(
	out: Float64Array,
	p: Float32Array,
	q: ArrayLike<number>,
	start: number,
	n: number,
	axis: number,
	step: number
): void {
	const y = axis === 1 ? step : 0,
		z = axis === 2 ? step : 0;
	for (let i = 0, o = 0; i < n; i++, o += 3) {
		const a = 4 * (start + i),
			b = 3 * (start + i);
		if (step !== 0) quaternion.rotate(out, o, q[a], q[a + 1], q[a + 2], q[a + 3], 0, y, z);
		for (let k = 0; k < 3; k++) out[o + k] = p[b + k] + (step !== 0 ? out[o + k] : 0);
	}
}
