/** Affine maps as 12 numbers: three columns of the linear part, then the translation. */
import { cross } from '../math/index.ts';
import { anyAcross } from './singular.ts';
import { quaternion } from '../math/index.ts';

export type Affine = Float64Array;

export const identity = (): Affine => Float64Array.of(1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0);

/** The map that scales, then rotates, then moves. The rotation is a quaternion x, y, z, w. */
export function compose(
	position: ArrayLike<number>,
	q: ArrayLike<number>,
	scale: ArrayLike<number>,
	out = identity(),
	p = 0,
	o = 0,
	s = 0
): Affine {
	setAxes(out, q, o, scale, s);
	out[9] = position[p];
	out[10] = position[p + 1];
	out[11] = position[p + 2];
	return out;
}

/** Writes the linear part that scales and then rotates: the axes, one after another. `stride` numbers lie between them. */
export function setAxes(
	out: { [i: number]: number },
	q: ArrayLike<number>,
	o: number,
	scale: ArrayLike<number>,
	s: number,
	at = 0,
	stride = 3
): void {
	const x = q[o],
		y = q[o + 1],
		z = q[o + 2],
		w = q[o + 3];
	const sx = scale[s],
		sy = scale[s + 1],
		sz = scale[s + 2];
	out[at] = (1 - 2 * (y * y + z * z)) * sx;
	out[at + 1] = 2 * (x * y + w * z) * sx;
	out[at + 2] = 2 * (x * z - w * y) * sx;
	at += stride;
	out[at] = 2 * (x * y - w * z) * sy;
	out[at + 1] = (1 - 2 * (x * x + z * z)) * sy;
	out[at + 2] = 2 * (y * z + w * x) * sy;
	at += stride;
	out[at] = 2 * (x * z + w * y) * sz;
	out[at + 1] = 2 * (y * z - w * x) * sz;
	out[at + 2] = (1 - 2 * (x * x + y * y)) * sz;
}

/** From a move (m), angles (degrees, fixed axes x, y, z), a scale, all about a pivot (m). */
export function affineFrom(
	move: ArrayLike<number>,
	angles: ArrayLike<number>,
	scale: ArrayLike<number>,
	pivot: ArrayLike<number> = [0, 0, 0]
): Affine {
	const q = [0, 0, 0, 1];
	quaternion.fromAngles(q, 0, angles[0], angles[1], angles[2]);
	const m = compose([0, 0, 0], q, scale);
	const moved = [0, 0, 0];
	apply(moved, 0, m, pivot[0], pivot[1], pivot[2]);
	for (let k = 0; k < 3; k++) m[9 + k] = move[k] + pivot[k] - moved[k];
	return m;
}

/** out = m · (x, y, z, 1). */
export function apply(
	out: { [i: number]: number },
	o: number,
	m: ArrayLike<number>,
	x: number,
	y: number,
	z: number
): void {
	out[o] = m[0] * x + m[3] * y + m[6] * z + m[9];
	out[o + 1] = m[1] * x + m[4] * y + m[7] * z + m[10];
	out[o + 2] = m[2] * x + m[5] * y + m[8] * z + m[11];
}

/** a · b: first b, then a. */
export function product(a: ArrayLike<number>, b: ArrayLike<number>, out = identity()): Affine {
	for (let c = 0; c < 4; c++) {
		const x = b[3 * c],
			y = b[3 * c + 1],
			z = b[3 * c + 2];
		const t = c === 3 ? 1 : 0;
		out[3 * c] = a[0] * x + a[3] * y + a[6] * z + t * a[9];
		out[3 * c + 1] = a[1] * x + a[4] * y + a[7] * z + t * a[10];
		out[3 * c + 2] = a[2] * x + a[5] * y + a[8] * z + t * a[11];
	}
	return out;
}

export function determinant(m: ArrayLike<number>): number {
	return (
		m[0] * (m[4] * m[8] - m[5] * m[7]) -
		m[3] * (m[1] * m[8] - m[2] * m[7]) +
		m[6] * (m[1] * m[5] - m[2] * m[4])
	);
}

/** The inverse transpose of the linear part times the determinant: takes normals to normals, up to length. */
export function cofactors(m: ArrayLike<number>): Float64Array {
	return Float64Array.of(
		m[4] * m[8] - m[5] * m[7],
		m[5] * m[6] - m[3] * m[8],
		m[3] * m[7] - m[4] * m[6],
		m[7] * m[2] - m[8] * m[1],
		m[8] * m[0] - m[6] * m[2],
		m[6] * m[1] - m[7] * m[0],
		m[1] * m[5] - m[2] * m[4],
		m[2] * m[3] - m[0] * m[5],
		m[0] * m[4] - m[1] * m[3]
	);
}

/** Splits a linear part into rotation and scale. Null when it shears, which no rotation and scale can say. */
export function decompose(m: ArrayLike<number>): { q: number[]; scale: number[] } | null {
	const q = [0, 0, 0, 1],
		scale = [1, 1, 1];
	return decomposeInto(m, q, scale) ? { q, scale } : null;
}

const axes = new Float64Array(9);

/** The same into a quaternion and three sizes. False when it shears; then both are left as they come. */
export function decomposeInto(m: ArrayLike<number>, q: number[], scale: number[]): boolean {
	let isFlat = false;
	for (let k = 0; k < 3; k++) {
		const [x, y, z] = [m[3 * k], m[3 * k + 1], m[3 * k + 2]];
		scale[k] = Math.sqrt(x * x + y * y + z * z);
		if (scale[k] === 0) isFlat = true;
	}
	if (determinant(m) < 0) scale[0] = -scale[0];
	for (let k = 0; k < 9; k++) axes[k] = m[k] / scale[(k / 3) | 0];
	for (let i = 0; i < 3; i++)
		for (let j = i + 1; j < 3; j++) {
			if (scale[i] === 0 || scale[j] === 0) continue;
			const a = 3 * i,
				b = 3 * j;
			const along = axes[a] * axes[b] + axes[a + 1] * axes[b + 1] + axes[a + 2] * axes[b + 2];
			if (Math.abs(along) > 1e-5) return false;
		}
	if (isFlat) {
		const full = scale.map((size, k) => (size === 0 ? null : [...axes.subarray(3 * k, 3 * k + 3)]));
		completeAxes(full);
		axes.set(full.flat());
	}
	quaternion.fromAxes(q, 0, axes[0], axes[1], axes[2], axes[3], axes[4], axes[5], axes[6], axes[7], axes[8]);
	return true;
}

/** Gives axes that are missing a direction at right angles to the others, so that the three make a rotation. */
function completeAxes(axes: (number[] | null)[]): asserts axes is number[][] {
	const known = axes.findIndex((axis) => axis !== null);
	if (known < 0) axes.splice(0, 3, [1, 0, 0], [0, 1, 0], [0, 0, 1]);
	else if (axes.filter((axis) => axis === null).length === 2) axes[(known + 1) % 3] = anyAcross(axes[known]!);
	for (let k = 0; k < 3; k++) axes[k] ??= cross(axes[(k + 1) % 3]!, axes[(k + 2) % 3]!);
}

/** The map of one of many places, 16 numbers each, as 12 numbers. */
export function affineAt(matrices: Float32Array, place: number, out = identity()): Affine {
	for (let c = 0; c < 4; c++) for (let k = 0; k < 3; k++) out[3 * c + k] = matrices[16 * place + 4 * c + k];
	return out;
}
