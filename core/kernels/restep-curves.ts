/** Curves walked again from their first point: each piece keeps its length, and is turned as a rule says. */
import type { Curves } from '../geometry/index.ts';
import { allocate, lengthsAlong, positionsOf, pollAt, withPositions } from '../geometry/index.ts';
import { quaternion } from '../math/index.ts';
import type { Front } from './branch-way.ts';
import { cross, dot, front, normalise, settle } from './branch-way.ts';

/**
 * @param turn turns the front of a curve before a piece: the curve, the share of its length in the middle of the piece, how
 * many pieces there are, and how long the curve and the piece are, in metres.
 */
export function restepCurves(
	curves: Curves,
	turn: (
		at: Front,
		curve: number,
		t: number,
		pieces: number,
		metres: { before: number; step: number; whole: number }
	) => void
): Curves {
	const p = positionsOf(curves);
	const { along, lengths } = lengthsAlong(curves);
	const out = allocate('float', p.length);
	const at = front(),
		own = new Float64Array(3),
		last = new Float64Array(3),
		axis = new Float64Array(3);
	for (let c = 0; c + 1 < curves.starts.length; c++) {
		pollAt(c);
		const first = curves.starts[c],
			end = curves.starts[c + 1];
		const pieces = end - first - 1;
		const whole = lengths[c];
		for (let k = 0; k < 3; k++) at.p[k] = out[3 * first + k] = p[3 * first + k];
		at.n.set([0, 0, 1]);
		for (let i = 0; i < pieces; i++) {
			const a = 3 * (first + i);
			for (let k = 0; k < 3; k++) own[k] = p[a + 3 + k] - p[a + k];
			const before = along[first + i];
			const step = normalise(own);
			if (!(step > 0)) own.set(last);
			if (i === 0) {
				at.d.set(own);
				settle(at);
			} else turnAlong(at, last, own, axis);
			turn(at, c, (before + step / 2) / (whole || 1), pieces, { before, step, whole });
			for (let k = 0; k < 3; k++) {
				at.p[k] += step * at.d[k];
				out[a + 3 + k] = at.p[k];
			}
			last.set(own);
		}
	}
	return { ...curves, points: withPositions(curves.points, out) };
}

const Q = [0, 0, 0, 1];

/** Turns a front by the turn from one direction to another. */
function turnAlong({ d, n }: Front, from: Float64Array, to: Float64Array, axis: Float64Array): void {
	cross(from, to, axis);
	const w = 1 + dot(from, to);
	if (w < 1e-9) {
		for (let k = 0; k < 3; k++) d[k] = -d[k];
		return;
	}
	const length = Math.sqrt(dot(axis, axis) + w * w);
	for (let k = 0; k < 3; k++) Q[k] = axis[k] / length;
	Q[3] = w / length;
	// The turn is that of the curve as it was, carried along with what has been turned so far.
	const own = Float64Array.from(d);
	quaternion.rotate(d, 0, Q[0], Q[1], Q[2], Q[3], own[0], own[1], own[2]);
	quaternion.rotate(n, 0, Q[0], Q[1], Q[2], Q[3], n[0], n[1], n[2]);
	settle({ d, n, p: own });
}
