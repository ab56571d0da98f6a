/** Strands that are combed, drawn together, and cut where they meet something. */
import { exp, log, quaternion } from '../math/index.ts';
import type { Curves } from '../geometry/index.ts';
import {
	Growing,
	allocate,
	copyOf,
	curveCount,
	gatherTable,
	pollAt,
	positionsOf,
	withPositions
} from '../geometry/index.ts';
import type { BoxTree } from './box-tree.ts';
import { cross, dot, normalise } from './branch-way.ts';

/**
 * Each strand is turned about its root, so that the way to its end goes towards a direction, by a share of it.
 * @param towards three numbers a strand; those of no length leave it.
 * @param share one number a strand, from 0 to 1.
 */
export function combCurves(curves: Curves, towards: ArrayLike<number>, share: ArrayLike<number>): Curves {
	const p = positionsOf(curves);
	const out = allocate('float', p.length);
	const way = new Float64Array(3),
		goal = new Float64Array(3),
		axis = new Float64Array(3),
		step = [0, 0, 0],
		q = [0, 0, 0, 1];
	for (let c = 0; c < curveCount(curves); c++) {
		pollAt(c);
		const first = curves.starts[c],
			end = curves.starts[c + 1];
		if (first === end) continue;
		const root = 3 * first,
			tip = 3 * (end - 1);
		for (let k = 0; k < 3; k++) {
			way[k] = p[tip + k] - p[root + k];
			goal[k] = towards[3 * c + k];
		}
		const isFree = !(normalise(way) > 0 && normalise(goal) > 0);
		// A share of the way: between the two directions, made 1 long again.
		const t = Math.max(0, Math.min(1, share[c] || 0));
		for (let k = 0; k < 3; k++) goal[k] = way[k] + (goal[k] - way[k]) * t;
		if (isFree || !(normalise(goal) > 1e-6)) goal.set(way);
		cross(way, goal, axis);
		const w = 1 + dot(way, goal);
		const length = Math.sqrt(dot(axis, axis) + w * w);
		for (let k = 0; k < 3; k++) q[k] = length > 0 ? axis[k] / length : 0;
		q[3] = length > 0 ? w / length : 1;
		for (let i = first; i < end; i++) {
			pollAt(i);
			for (let k = 0; k < 3; k++) step[k] = p[3 * i + k] - p[root + k];
			quaternion.rotate(step, 0, q[0], q[1], q[2], q[3], step[0], step[1], step[2]);
			for (let k = 0; k < 3; k++) out[3 * i + k] = p[root + k] + step[k];
		}
	}
	return { ...curves, points: withPositions(curves.points, out) };
}

/**
 * Strands drawn to the strand of their clump: towards its point at the same share of the way, more and more to the end.
 * @param centre for each strand the strand that is its clump's; a strand may be its own.
 * @param amount one number a strand: how much, at its end.
 * @param shape 1 draws evenly along it, more draws only its end.
 */
export function clumpCurves(
	curves: Curves,
	centre: Int32Array,
	amount: ArrayLike<number>,
	shape: number
): Curves {
	const p = positionsOf(curves);
	const out = allocate('float', p.length);
	for (let c = 0; c < curveCount(curves); c++) {
		const first = curves.starts[c],
			count = curves.starts[c + 1] - first;
		const from = curves.starts[centre[c]],
			others = curves.starts[centre[c] + 1] - from;
		for (let i = 0; i < count; i++) {
			pollAt(first + i);
			const t = count > 1 ? i / (count - 1) : 0;
			const by = amount[c] * (t > 0 ? exp(shape * log(t)) : 0);
			const s = t * (others - 1);
			const at = Math.min(others - 1, Math.floor(s));
			const next = Math.min(others - 1, at + 1);
			for (let k = 0; k < 3; k++) {
				const there = p[3 * (from + at) + k] + (p[3 * (from + next) + k] - p[3 * (from + at) + k]) * (s - at);
				const here = p[3 * (first + i) + k];
				out[3 * (first + i) + k] = here + (there - here) * by;
			}
		}
	}
	return { ...curves, points: withPositions(curves.points, out) };
}

/** What stands on a mesh meets it at once: the first piece is looked at from so far along it. */
const OFF = 1e-4;

/** Curves cut where they first go through a mesh: what is behind goes. A root may stand on it. */
export function trimCurves(curves: Curves, tree: BoxTree): Curves {
	const p = positionsOf(curves);
	const rows = new Growing('index'),
		starts = new Growing('index');
	/** The rows that are cut, and how far along their piece. */
	const cutRows = new Growing('index'),
		cutAt = new Growing('double');
	starts.push(0);
	for (let c = 0; c < curveCount(curves); c++) {
		const first = curves.starts[c],
			end = curves.starts[c + 1];
		if (first < end) rows.push(first);
		for (let i = first; i + 1 < end; i++) {
			const a = 3 * i;
			const [dx, dy, dz] = [p[a + 3] - p[a], p[a + 4] - p[a + 1], p[a + 5] - p[a + 2]];
			const off = i === first ? OFF : 0;
			const t = off + tree.along(p[a] + off * dx, p[a + 1] + off * dy, p[a + 2] + off * dz, dx, dy, dz);
			rows.push(i + 1);
			if (t <= 1) {
				cutRows.push(rows.length - 1);
				cutAt.push(t);
				break;
			}
		}
		starts.push(rows.length);
	}
	const points = gatherTable(curves.points, rows.view());
	const cut = copyOf(positionsOf({ points }));
	for (let n = 0; n < cutRows.length; n++)
		for (let k = 0; k < 3; k++) {
			const o = 3 * cutRows.at(n) + k;
			cut[o] = cut[o - 3] + (cut[o] - cut[o - 3]) * cutAt.at(n);
		}
	return { ...curves, points: withPositions(points, cut), starts: starts.take() };
}
