/** Affine maps as 12 numbers: three columns of the linear part, then the translation. */
import { anyAcross, cross } from './singular.ts';
import { quaternion } from '../math/index.ts';
import type { Instances } from './geometry.ts';
import { floats } from './table.ts';

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
	const x = q[o],
		y = q[o + 1],
		z = q[o + 2],
		w = q[o + 3];
	const sx = scale[s],
		sy = scale[s + 1],
		sz = scale[s + 2];
	out[0] = (1 - 2 * (y * y + z * z)) * sx;
	out[1] = 2 * (x * y + w * z) * sx;
	out[2] = 2 * (x * z - w * y) * sx;
	out[3] = 2 * (x * y - w * z) * sy;
	out[4] = (1 - 2 * (x * x + z * z)) * sy;
	out[5] = 2 * (y * z + w * x) * sy;
	out[6] = 2 * (x * z + w * y) * sz;
	out[7] = 2 * (y * z - w * x) * sz;
	out[8] = (1 - 2 * (x * x + y * y)) * sz;
	out[9] = position[p];
	out[10] = position[p + 1];
	out[11] = position[p + 2];
	return out;
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
	const s = [0, 3, 6].map((c) => Math.sqrt(m[c] * m[c] + m[c + 1] * m[c + 1] + m[c + 2] * m[c + 2]));
	if (determinant(m) < 0) s[0] = -s[0];
	const a = [0, 3, 6].map((c, k) => (s[k] === 0 ? null : [m[c] / s[k], m[c + 1] / s[k], m[c + 2] / s[k]]));
	completeAxes(a);
	for (let i = 0; i < 3; i++)
		for (let j = i + 1; j < 3; j++)
			if (
				s[i] !== 0 &&
				s[j] !== 0 &&
				Math.abs(a[i][0] * a[j][0] + a[i][1] * a[j][1] + a[i][2] * a[j][2]) > 1e-5
			)
				return null;
	const q = [0, 0, 0, 1];
	quaternion.fromAxes(q, 0, a[0][0], a[0][1], a[0][2], a[1][0], a[1][1], a[1][2], a[2][0], a[2][1], a[2][2]);
	return { q, scale: s };
}

/** Gives axes that are missing a direction at right angles to the others, so that the three make a rotation. */
function completeAxes(axes: (number[] | null)[]): asserts axes is number[][] {
	const known = axes.findIndex((axis) => axis !== null);
	if (known < 0) axes.splice(0, 3, [1, 0, 0], [0, 1, 0], [0, 0, 1]);
	else if (axes.filter((axis) => axis === null).length === 2) axes[(known + 1) % 3] = anyAcross(axes[known]!);
	for (let k = 0; k < 3; k++) axes[k] ??= cross(axes[(k + 1) % 3]!, axes[(k + 2) % 3]!);
}

/** The map of one copy. */
export function affineOfCopy(instances: Instances, i: number, out = identity()): Affine {
	const position = floats(instances.copies, 'position');
	if (instances.linear) {
		for (let k = 0; k < 9; k++) out[k] = instances.linear[9 * i + k];
		for (let k = 0; k < 3; k++) out[9 + k] = position[3 * i + k];
		return out;
	}
	return compose(
		position,
		floats(instances.copies, 'orientation'),
		floats(instances.copies, 'scale'),
		out,
		3 * i,
		4 * i,
		3 * i
	);
}

/** The maps of some copies as 4 × 4 matrices by columns, in one loop. */
export function matricesOf(instances: Instances, rows: Uint32Array, out: Float32Array): void {
	const position = floats(instances.copies, 'position');
	const { linear } = instances;
	if (linear) {
		for (let i = 0, o = 0; i < rows.length; i++, o += 16) {
			for (let c = 0; c < 3; c++)
				for (let k = 0; k < 3; k++) out[o + 4 * c + k] = linear[9 * rows[i] + 3 * c + k];
			for (let k = 0; k < 3; k++) out[o + 12 + k] = position[3 * rows[i] + k];
			out[o + 15] = 1;
		}
		return;
	}
	const orientation = floats(instances.copies, 'orientation'),
		scale = floats(instances.copies, 'scale');
	for (let i = 0, o = 0; i < rows.length; i++, o += 16) {
		const p = 3 * rows[i],
			q = 4 * rows[i];
		const x = orientation[q],
			y = orientation[q + 1],
			z = orientation[q + 2],
			w = orientation[q + 3];
		const sx = scale[p],
			sy = scale[p + 1],
			sz = scale[p + 2];
		out[o] = (1 - 2 * (y * y + z * z)) * sx;
		out[o + 1] = 2 * (x * y + w * z) * sx;
		out[o + 2] = 2 * (x * z - w * y) * sx;
		out[o + 4] = 2 * (x * y - w * z) * sy;
		out[o + 5] = (1 - 2 * (x * x + z * z)) * sy;
		out[o + 6] = 2 * (y * z + w * x) * sy;
		out[o + 8] = 2 * (x * z + w * y) * sz;
		out[o + 9] = 2 * (y * z - w * x) * sz;
		out[o + 10] = (1 - 2 * (x * x + y * y)) * sz;
		out[o + 12] = position[p];
		out[o + 13] = position[p + 1];
		out[o + 14] = position[p + 2];
		out[o + 15] = 1;
	}
}
