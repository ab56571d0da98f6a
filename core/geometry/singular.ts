/**
 * Any linear map as a rotation, a scale along three axes, and another rotation: M = U · S · Vᵀ (the singular value
 * decomposition), by turning MᵀM into a diagonal two axes at a time (Carl Gustav Jacob Jacobi, “Über ein leichtes
 * Verfahren …”, 1846).
 */
import { dot, unit, cross } from '../math/index.ts';

/** Sweeps over the three pairs of axes; four bring doubles as near as they get. */
const SWEEPS = 8;

export interface Split {
	/** Columns of the outer rotation and of the inner one’s transpose, nine numbers each. */
	u: number[];
	v: number[];
	/** Scales along the axes between them; at most the last is negative. */
	scale: number[];
}

/** @param m nine numbers, by columns. */
export function splitLinear(m: ArrayLike<number>): Split {
	const column = (k: number) => [m[3 * k], m[3 * k + 1], m[3 * k + 2]];
	const a = [0, 1, 2].map((i) => [0, 1, 2].map((j) => dot(column(i), column(j))));
	const v = [
		[1, 0, 0],
		[0, 1, 0],
		[0, 0, 1]
	];
	for (let sweep = 0; sweep < SWEEPS; sweep++)
		for (const [p, q] of [
			[0, 1],
			[0, 2],
			[1, 2]
		])
			turn(a, v, p, q);
	// The longest first, so that axes without length come last and are completed from the others.
	const order = [0, 1, 2].sort((i, j) => a[j][j] - a[i][i]);
	const axes = order.map((k) => v.map((row) => row[k]));
	if (dot(cross(axes[0], axes[1]), axes[2]) < 0) axes[2] = axes[2].map((x) => -x);
	const images = axes.map((axis) =>
		[0, 1, 2].map((k) => m[k] * axis[0] + m[3 + k] * axis[1] + m[6 + k] * axis[2])
	);
	const scale = images.map((image) => Math.sqrt(dot(image, image)));
	const least = 1e-9 * scale[0];
	const first = scale[0] > 0 ? images[0].map((x) => x / scale[0]) : [1, 0, 0];
	const second =
		scale[1] > least ? unit(images[1].map((x, k) => x - dot(images[1], first) * first[k])) : anyAcross(first);
	const third = cross(first, second);
	if (dot(images[2], third) < 0) scale[2] = -scale[2];
	return { u: [first, second, third].flat(), v: axes.flat(), scale };
}

/** Makes the number between two axes zero, and turns the axes as much. */
function turn(a: number[][], v: number[][], p: number, q: number): void {
	if (a[p][q] === 0) return;
	const theta = (a[q][q] - a[p][p]) / (2 * a[p][q]);
	const t = (theta < 0 ? -1 : 1) / (Math.abs(theta) + Math.sqrt(theta * theta + 1));
	const c = 1 / Math.sqrt(t * t + 1),
		s = t * c;
	for (let k = 0; k < 3; k++) [a[k][p], a[k][q]] = [c * a[k][p] - s * a[k][q], s * a[k][p] + c * a[k][q]];
	for (let k = 0; k < 3; k++) [a[p][k], a[q][k]] = [c * a[p][k] - s * a[q][k], s * a[p][k] + c * a[q][k]];
	for (const row of v) [row[p], row[q]] = [c * row[p] - s * row[q], s * row[p] + c * row[q]];
}

/** A direction at right angles to one, off the axis that it leans to least. */
export function anyAcross(a: readonly number[]): number[] {
	const least = [0, 1, 2].reduce((best, k) => (Math.abs(a[k]) < Math.abs(a[best]) ? k : best), 0);
	return unit(cross(a, [0, 0, 0].fill(1, least, least + 1)));
}
