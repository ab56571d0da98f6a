/** What is told of the nearest place, and where a ray meets a triangle. */

/** The answer of the last question. Kept in one object, because a fresh one for each would cost more than the search. */
export interface Nearest {
	/** Metres. */
	distance: number;
	/** The triangle, segment or point by number; -1 where there is nothing at all. */
	primitive: number;
	x: number;
	y: number;
	z: number;
	/** On a segment: how far along it, from 0 to 1. On a triangle: the share of its second corner, and of its third. */
	u: number;
	v: number;
}

/** Where a ray meets a triangle, in lengths of its direction; -1 where it does not (Möller and Trumbore, 1997). */
export function rayTriangle(
	d: ArrayLike<number>,
	o: number,
	x: number,
	y: number,
	z: number,
	dx: number,
	dy: number,
	dz: number
): number {
	const ux = d[o + 3] - d[o],
		uy = d[o + 4] - d[o + 1],
		uz = d[o + 5] - d[o + 2];
	const vx = d[o + 6] - d[o],
		vy = d[o + 7] - d[o + 1],
		vz = d[o + 8] - d[o + 2];
	const px = dy * vz - dz * vy,
		py = dz * vx - dx * vz,
		pz = dx * vy - dy * vx;
	const det = ux * px + uy * py + uz * pz;
	if (det === 0) return -1;
	const tx = x - d[o],
		ty = y - d[o + 1],
		tz = z - d[o + 2];
	const u = (tx * px + ty * py + tz * pz) / det;
	if (u < 0 || u > 1) return -1;
	const qx = ty * uz - tz * uy,
		qy = tz * ux - tx * uz,
		qz = tx * uy - ty * ux;
	const v = (dx * qx + dy * qy + dz * qz) / det;
	if (v < 0 || u + v > 1) return -1;
	return (vx * qx + vy * qy + vz * qz) / det;
}
