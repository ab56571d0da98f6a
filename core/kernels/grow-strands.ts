/** Strands: a curve from each point, a quadratic Bézier that leans, bends at a place, droops and curls. */
import { TAU, cos, quaternion, sin } from '../math/index.ts';
import type { Curves, Table } from '../geometry/index.ts';
import { allocate, column, makeTable, pollAt, scratch } from '../geometry/index.ts';

/** One number for each strand. Lengths in metres, angles in degrees. */
export interface StrandNumbers {
	length: ArrayLike<number>;
	/** From the point's y, to the side that `direction` says: an angle round y. */
	lean: ArrayLike<number>;
	direction: ArrayLike<number>;
	/** How far its end is turned against its beginning, further to the same side, and where, as a share of it. */
	bend: ArrayLike<number>;
	bendAt: ArrayLike<number>;
	/** How far its end sinks, as a share of its length. */
	droop: ArrayLike<number>;
	/** Turns round itself, and how wide, as a share of its length. */
	curl: ArrayLike<number>;
	curlWidth: ArrayLike<number>;
	width: ArrayLike<number>;
}

/** Curves of `segments` pieces, with `width` at their points, and the columns of the points from which they grow. */
export function growStrands(roots: Table, segments: number, of: StrandNumbers): Curves {
	const { count } = roots;
	const each = segments + 1;
	const position = allocate('float', 3 * count * each),
		width = allocate('float', count * each),
		starts = allocate('index', count + 1);
	const base = roots.columns.get('position')!.data;
	const turns = roots.columns.get('orientation')?.data ?? null;
	const way = [0, 0, 0],
		q = [0, 0, 0, 1];
	/** The strand that is grown, from its root. */
	const unit = scratch('double', 3 * each);
	for (let s = 0, o = 0; s < count; s++) {
		let long = 0;
		starts[s + 1] = starts[s] + each;
		const length = of.length[s] > 0 ? of.length[s] : 0;
		const lean = quaternion.radians(of.lean[s]),
			end = lean + quaternion.radians(of.bend[s]),
			round = quaternion.radians(of.direction[s]);
		const place = Math.max(0, Math.min(1, of.bendAt[s]));
		const [sx, sz] = [cos(round), -sin(round)];
		// How far it goes to its side and along its axis: to the place of the bend, and to its end.
		const bx = place * length * sin(lean),
			by = place * length * cos(lean);
		const ex = bx + (1 - place) * length * sin(end),
			ey = by + (1 - place) * length * cos(end);
		if (turns) for (let k = 0; k < 4; k++) q[k] = turns[4 * s + k];
		const sink = of.droop[s] * length,
			wide = of.curlWidth[s] * length,
			curl = TAU * of.curl[s];
		for (let i = 0; i < each; i++, o++) {
			pollAt(o);
			const t = i / segments;
			const x = 2 * t * (1 - t) * bx + t * t * ex,
				y = 2 * t * (1 - t) * by + t * t * ey;
			way[0] = x * sx;
			way[1] = y;
			way[2] = x * sz;
			if (wide !== 0) {
				way[0] += t * wide * (cos(curl * t + round) - cos(round));
				way[2] += t * wide * (sin(curl * t + round) - sin(round));
			}
			if (turns) quaternion.rotate(way, 0, q[0], q[1], q[2], q[3], way[0], way[1], way[2]);
			const at = 3 * i;
			unit[at] = way[0];
			unit[at + 1] = way[1] - sink * t * t;
			unit[at + 2] = way[2];
			if (i > 0) long += between(unit, at - 3, at);
			width[o] = of.width[s];
		}
		// All of it grows with its length: so much larger, it is as long as was wanted, measured along its pieces.
		const scale = long > 0 ? length / long : 0;
		for (let k = 0, at = 3 * starts[s]; k < 3 * each; k++)
			position[at + k] = base[3 * s + (k % 3)] + scale * unit[k];
	}
	const own = Object.fromEntries(
		[...roots.columns].filter(([name]) => !['position', 'orientation', 'scale', 'normal'].includes(name))
	);
	return {
		points: makeTable(count * each, {
			position: column('vec3', 'position', position),
			width: column('float', 'plain', width)
		}),
		curves: makeTable(count, { ...own, closed: column('bool', 'plain', allocate('byte', count)) }, roots.ids),
		starts
	};
}

function between(p: Float64Array, a: number, b: number): number {
	const [x, y, z] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
	return Math.sqrt(x * x + y * y + z * z);
}
