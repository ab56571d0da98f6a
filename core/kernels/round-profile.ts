/** Corners of a flat line cut or rounded. */
import { pollAt } from '../geometry/index.ts';
import { PI, acos, cos, sin, tan } from '../math/index.ts';

type Point = readonly [number, number];

/**
 * Cuts (one segment) or rounds (more) some corners.
 * @param size the length cut off on both sides of a chamfered corner, or the radius of a rounded one, in metres.
 * @param segments pieces of each corner; 1 is a chamfer.
 * @param chosen the places of the corners in the line. A corner never takes more than half of a side.
 */
export function roundProfile(
	line: readonly Point[],
	size: number,
	segments: number,
	chosen: readonly number[]
): Point[] {
	if (!(size > 0)) return [...line];
	const out: Point[] = [];
	line.forEach((corner, i) => {
		const before = line[i - 1],
			after = line[i + 1];
		if (!chosen.includes(i) || !before || !after) return void out.push(corner);
		const a = direction(corner, before),
			b = direction(corner, after);
		if (!a || !b) return void out.push(corner);
		const opening = acos(Math.max(-1, Math.min(1, a.x * b.x + a.y * b.y)));
		const half = opening / 2;
		if (half < 1e-4 || half > 1.5707) return void out.push(corner);
		const share = (at: number) => (chosen.includes(at) ? 0.5 : 1);
		const room = Math.min(a.length * share(i - 1), b.length * share(i + 1));
		const cut = Math.min(segments === 1 ? size : size / tan(half), room);
		if (segments === 1) {
			out.push(
				[corner[0] + a.x * cut, corner[1] + a.y * cut],
				[corner[0] + b.x * cut, corner[1] + b.y * cut]
			);
			return;
		}
		const radius = cut * tan(half);
		// The centre lies on the bisector; the arc is spanned from the first tangent point.
		const mx = a.x + b.x,
			my = a.y + b.y;
		const m = Math.sqrt(mx * mx + my * my);
		const far = radius / sin(half);
		const cx = corner[0] + (mx / m) * far,
			cy = corner[1] + (my / m) * far;
		const sx = corner[0] + a.x * cut - cx,
			sy = corner[1] + a.y * cut - cy;
		const turn = (PI - opening) * (a.x * b.y - a.y * b.x > 0 ? -1 : 1);
		for (let k = 0; k <= segments; k++) {
			pollAt(k);
			const t = (turn * k) / segments;
			out.push([cx + sx * cos(t) - sy * sin(t), cy + sx * sin(t) + sy * cos(t)]);
		}
	});
	return out;
}

function direction(from: Point, to: Point): { x: number; y: number; length: number } | null {
	const x = to[0] - from[0],
		y = to[1] - from[1];
	const length = Math.sqrt(x * x + y * y);
	return length > 0 ? { x: x / length, y: y / length, length } : null;
}
