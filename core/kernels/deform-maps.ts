/** Maps of space that bend, twist and taper along an axis. Each works through whole columns in one loop. */
import { scratch, pollAt } from '../geometry/index.ts';
import { PI, cos, sin } from '../math/index.ts';

/** Moves the points of `p`, three numbers each, to `out`, each as far as its weight says. All in doubles: see deform.ts. */
export type SpaceMap = (p: Float64Array, weights: Float32Array, out: Float64Array) => void;

/** The stretch along an axis in which a map acts: before it nothing moves, after it all goes on as at its end. */
export interface Stretch {
	/** 0, 1 or 2 for x, y or z. */
	axis: number;
	/** Metres along the axis. */
	from: number;
	to: number;
	/** A place on the axis: only the two other coordinates count. */
	centre: readonly [number, number, number];
}

/**
 * Bends the stretch into an arc, keeping lengths along the axis.
 * @param angle degrees over the whole stretch. @param towards degrees about the axis: where it leans to.
 */
export function bendMap({ axis, from, to, centre }: Stretch, angle: number, towards: number): SpaceMap {
	const a = (axis + 1) % 3,
		b = (axis + 2) % 3;
	const [ca, cb] = [centre[a], centre[b]];
	const lean = (towards * PI) / 180;
	const ua = cos(lean),
		ub = sin(lean);
	const length = to - from;
	const whole = (angle * PI) / 180;
	return (p, weights, out) => {
		for (let i = 0, o = 0; o < p.length; i++, o += 3) {
			const turn = whole * weights[i];
			const x = p[o + a] - ca,
				y = p[o + b] - cb,
				h = p[o + axis] - from;
			if (h <= 0 || !(length > 0) || (turn < 1e-9 && turn > -1e-9)) {
				out[o] = p[o];
				out[o + 1] = p[o + 1];
				out[o + 2] = p[o + 2];
				continue;
			}
			const r = x * ua + y * ub,
				side = y * ua - x * ub;
			const within = h < length ? h : length,
				beyond = h - within;
			const radius = length / turn;
			const theta = within / radius;
			const c = cos(theta),
				s = sin(theta);
			const up = (radius - r) * s + beyond * c,
				out1 = radius - (radius - r) * c + beyond * s;
			out[o + axis] = from + up;
			out[o + a] = ca + out1 * ua - side * ub;
			out[o + b] = cb + out1 * ub + side * ua;
		}
	};
}

/** Turns cross-sections about the axis, more and more along the stretch. @param angle degrees at its end. */
export function twistMap({ axis, from, to, centre }: Stretch, angle: number): SpaceMap {
	const a = (axis + 1) % 3,
		b = (axis + 2) % 3;
	const [ca, cb] = [centre[a], centre[b]];
	const scale = to > from ? 1 / (to - from) : 0;
	const whole = (angle * PI) / 180;
	return (p, weights, out) => {
		for (let i = 0, o = 0; o < p.length; i++, o += 3) {
			let t = (p[o + axis] - from) * scale;
			t = t > 0 ? (t < 1 ? t : 1) : 0;
			const turn = whole * t * weights[i];
			const c = cos(turn),
				s = sin(turn);
			const x = p[o + a] - ca,
				y = p[o + b] - cb;
			out[o + axis] = p[o + axis];
			out[o + a] = ca + x * c - y * s;
			out[o + b] = cb + x * s + y * c;
		}
	};
}

/** Scales cross-sections about the axis by a factor for each place along the stretch, from 0 to 1. */
export function taperMap(
	{ axis, from, to, centre }: Stretch,
	factorsAt: (t: Float64Array) => Float64Array
): SpaceMap {
	const a = (axis + 1) % 3,
		b = (axis + 2) % 3;
	const scale = to > from ? 1 / (to - from) : 0;
	return (p, weights, out) => {
		const t = scratch('double', p.length / 3);
		for (let i = 0; i < t.length; i++) {
			pollAt(i);
			const x = (p[3 * i + axis] - from) * scale;
			t[i] = x > 0 ? (x < 1 ? x : 1) : 0;
		}
		const factors = factorsAt(t);
		for (let i = 0, o = 0; o < p.length; i++, o += 3) {
			const f = 1 + (factors[i] - 1) * weights[i];
			out[o + axis] = p[o + axis];
			out[o + a] = centre[a] + (p[o + a] - centre[a]) * f;
			out[o + b] = centre[b] + (p[o + b] - centre[b]) * f;
		}
	};
}
