/** A round tube along curves: a circle that is swept, at bends widened so that it is nowhere thinner. */
import { TAU, cos, sin } from '../math/index.ts';
import { SHARP_ANGLE, allocate, curveCount, pollAt, positionsOf, scratch } from '../geometry/index.ts';
import type { Curves, Mesh } from '../geometry/index.ts';
import { framesOf } from './frames.ts';
import { bendAt } from './mitre.ts';
import { skin } from './skin.ts';

/** The most that a bend widens a tube, in times: what “Sweep” begins with. */
const MITRE = 4;

/**
 * @param radii one radius for each point of the curves, in metres.
 * @param sides faces around, at least 3.
 * @param caps closes the ends of open curves with a face each.
 * @param repeat how often a texture repeats in a metre, for each curve; null for once.
 * Outward faces; UVs in metres: around at the mean radius, and along.
 */
export function makeTube(
	curves: Curves,
	radii: ArrayLike<number>,
	sides: number,
	caps: boolean,
	repeat: ArrayLike<number> | null = null
): Mesh {
	const p = positionsOf(curves);
	const { tangents, normals } = framesOf(curves);
	const positions = allocate('float', p.length * sides);
	const circle = Array.from({ length: sides }, (_, s) => [cos((TAU * s) / sides), sin((TAU * s) / sides)]);
	const closed = curves.curves.columns.get('closed')!.data;
	for (let c = 0, o = 0; c < curveCount(curves); c++) {
		const first = curves.starts[c],
			last = curves.starts[c + 1] - 1;
		for (let i = first; i <= last; i++) {
			pollAt(i);
			const [tx, ty, tz] = [tangents[3 * i], tangents[3 * i + 1], tangents[3 * i + 2]];
			const [nx, ny, nz] = [normals[3 * i], normals[3 * i + 1], normals[3 * i + 2]];
			const bx = ty * nz - tz * ny,
				by = tz * nx - tx * nz,
				bz = tx * ny - ty * nx;
			const [wx, wy, wz, widen] = bendAt(p, i, first, last, !!closed[c], MITRE);
			for (let s = 0; s < sides; s++, o += 3) {
				const a = circle[s][0] * radii[i],
					b = circle[s][1] * radii[i];
				const dx = nx * a + bx * b,
					dy = ny * a + by * b,
					dz = nz * a + bz * b;
				const across = widen > 0 ? (dx * wx + dy * wy + dz * wz) * widen : 0;
				positions[o] = p[3 * i] + dx + wx * across;
				positions[o + 1] = p[3 * i + 1] + dy + wy * across;
				positions[o + 2] = p[3 * i + 2] + dz + wz * across;
			}
		}
	}
	const means = meansOf(curves, radii);
	return skin(curves, positions, {
		around: sides,
		closed: true,
		caps,
		clockwise: true,
		repeat,
		// Round, however few its sides are; a bend that turns more than they do stays sharp.
		...(360 / sides >= SHARP_ANGLE && { smooth: 360 / sides + 1 }),
		u: (c, s) => (TAU * means[c] * s) / sides,
		cap: (c, isLast, s) => [circle[s][0] * means[c], (isLast ? circle[s][1] : -circle[s][1]) * means[c]]
	});
}

/** The mean radius of each curve. */
function meansOf({ starts }: Curves, radii: ArrayLike<number>): Float64Array {
	const means = scratch('double', starts.length - 1);
	for (let c = 0; c < means.length; c++)
		for (let i = starts[c]; i < starts[c + 1]; i++) {
			pollAt(i);
			means[c] += radii[i] / (starts[c + 1] - starts[c]);
		}
	return means;
}
