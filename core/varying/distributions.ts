/** Numbers and vectors that come more or less often, made of even draws from 0 up to 1. */
import { PI, quaternion } from '../math/index.ts';
import type { Varying } from './varying.ts';
import { constant, operate, vector } from './varying.ts';

/** An even draw by its name: each name has a stream of its own. */
export type Draw = (name: string) => Varying;
const times = (...values: Varying[]): Varying => values.reduce((a, b) => operate('multiply', [a, b]));
const plus = (a: Varying, b: Varying): Varying => operate('add', [a, b]);
const minus = (a: Varying, b: Varying): Varying => operate('subtract', [a, b]);
const root = (a: Varying): Varying => operate('sqrt', [a]);
const ONE = constant(1);

/** By two even draws (G. E. P. Box and M. E. Muller, “A note on the generation of random normal deviates”, 1958). */
export function normal(mean: Varying, deviation: Varying, draw: Draw): Varying {
	// One less than a draw is never 0, whose logarithm is none.
	const far = root(times(constant(-2), operate('log', [minus(ONE, draw('far'))])));
	return plus(mean, times(deviation, far, operate('cos', [times(constant(2 * PI), draw('turn'))])));
}

/** By the inverse of its distribution: two halves of a parabola that meet at the likeliest number. */
export function triangular(low: Varying, high: Varying, likeliest: Varying, draw: Draw): Varying {
	const even = draw('draw');
	const width = minus(high, low);
	const peak = operate('clamp', [likeliest, operate('min', [low, high]), operate('max', [low, high])]);
	const [below, above] = [minus(peak, low), minus(high, peak)];
	const isBelow = operate('less', [times(even, width), below]);
	return operate('choose', [
		isBelow,
		plus(low, root(operate('abs', [times(even, width, below)]))),
		minus(high, root(operate('abs', [times(minus(ONE, even), width, above)])))
	]);
}

/** A whole number from 0 on, each as often as its share. */
export function byShares(shares: readonly number[], draw: Draw): Varying {
	const whole = shares.reduce((sum, share) => sum + share, 0);
	const even = times(draw('draw'), constant(whole));
	let sum = 0;
	return shares.slice(0, -1).reduce<Varying>((place, share) => {
		sum += share;
		return plus(place, operate('atMost', [constant(sum), even]));
	}, constant(0));
}

/** Every place as likely: heights of a sphere are even (Archimedes), and so are the cubes of the radii of a ball. */
export function vectorIn(
	{ within, size, axis, angle }: { within: string; size: Varying; axis: readonly number[]; angle: Varying },
	draw: Draw
): Varying {
	const turn = times(constant(2 * PI), draw('about'));
	const least = within === 'cone' ? operate('cos', [operate('radians', [angle])]) : constant(-1);
	const height = minus(ONE, times(draw('height'), minus(ONE, least)));
	const across = root(operate('max', [constant(0), minus(ONE, times(height, height))]));
	const aside = times(across, operate('cos', [turn])),
		ahead = times(across, operate('sin', [turn]));
	const long = within === 'ball' ? times(size, operate('pow', [draw('depth'), constant(1 / 3)])) : size;
	const [x, y, z] = within === 'cone' ? turned(axis, aside, height, ahead) : [aside, height, ahead];
	return vector(times(long, x), times(long, y), times(long, z));
}

/** A direction about the y axis, turned so that this lies along another. */
function turned(axis: readonly number[], x: Varying, y: Varying, z: Varying): Varying[] {
	const q = [0, 0, 0, 1];
	const up = axis.some((part) => part !== 0) ? axis : [0, 1, 0];
	quaternion.lookAlong(q, 0, up[0], up[1], up[2], 0, 0, 1);
	const columns = [
		[1, 0, 0],
		[0, 1, 0],
		[0, 0, 1]
	].map(([a, b, c]) => {
		const out = [0, 0, 0];
		quaternion.rotate(out, 0, q[0], q[1], q[2], q[3], a, b, c);
		return out;
	});
	return [0, 1, 2].map((k) =>
		plus(
			plus(times(constant(columns[0][k]), x), times(constant(columns[1][k]), y)),
			times(constant(columns[2][k]), z)
		)
	);
}
