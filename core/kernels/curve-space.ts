/**
 * A move, rotation and scale in the space of curves: x to the right of the way, y up from it, z along it. Each point
 * belongs to the nearest place of the curves; what is moved along z follows the curve round its bends.
 */
import { curveCount } from '../geometry/index.ts';
import type { Curves } from '../geometry/index.ts';
import { quaternion } from '../math/index.ts';
import type { SpaceMap } from './deform-maps.ts';
import type { Frames } from './frames.ts';
import { treeOfCurves } from './nearest.ts';
import { Rail } from './rail.ts';

export interface CurveMove {
	move: readonly number[];
	/** Degrees about x, y, z of the curve, at the nearest place. */
	rotate: readonly number[];
	scale: readonly number[];
}

/** @param curves at least one, with points. */
export function curveSpaceMap(curves: Curves, frames: Frames, { move, rotate, scale }: CurveMove): SpaceMap {
	const { tree, u, curve } = treeOfCurves(curves);
	const rails = Array.from({ length: curveCount(curves) }, (_, c) => new Rail(curves, c, frames));
	const turn = [0, 0, 0, 1],
		local = [0, 0, 0];
	return (points, weights, out) => {
		for (let i = 0, o = 0; o < points.length; i++, o += 3) {
			const w = weights[i];
			const found = tree.nearest(points[o], points[o + 1], points[o + 2]);
			const piece = found.primitive;
			const rail = rails[curve[piece]];
			const s = rail.length * (u[2 * piece] + (u[2 * piece + 1] - u[2 * piece]) * found.u);
			const here = rail.find(s);
			const x = points[o] - here.x,
				y = points[o + 1] - here.y,
				z = points[o + 2] - here.z;
			const right = x * here.bx + y * here.by + z * here.bz,
				up = x * here.nx + y * here.ny + z * here.nz,
				on = x * here.tx + y * here.ty + z * here.tz;
			quaternion.fromAngles(turn, 0, rotate[0] * w, rotate[1] * w, rotate[2] * w);
			quaternion.rotate(
				local,
				0,
				turn[0],
				turn[1],
				turn[2],
				turn[3],
				right * (1 + (scale[0] - 1) * w),
				up * (1 + (scale[1] - 1) * w),
				on * (1 + (scale[2] - 1) * w)
			);
			const side = local[0] + move[0] * w,
				above = local[1] + move[1] * w;
			// What the turn and the move add along the way follows the curve; what was beyond an end stays beyond it.
			const there = rail.find(s + (local[2] - on) + move[2] * w);
			out[o] = there.x + there.bx * side + there.nx * above + there.tx * on;
			out[o + 1] = there.y + there.by * side + there.ny * above + there.ty * on;
			out[o + 2] = there.z + there.bz * side + there.nz * above + there.tz * on;
		}
	};
}
