/**
 * The nearest place on one triangle or segment, and where a ray meets a triangle. The closest place on a triangle is
 * found by regions (Christer Ericson, “Real-Time Collision Detection”, 2005).
 */

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

/** The squared distance to the segment at `o` of the numbers; its nearest place is written to `found`. */
export function toSegment(
	found: Nearest,
	d: Float64Array,
	o: number,
	x: number,
	y: number,
	z: number
): number {
	const ex = d[o + 3] - d[o],
		ey = d[o + 4] - d[o + 1],
		ez = d[o + 5] - d[o + 2];
	const square = ex * ex + ey * ey + ez * ez;
	let u = square > 0 ? ((x - d[o]) * ex + (y - d[o + 1]) * ey + (z - d[o + 2]) * ez) / square : 0;
	u = u < 0 ? 0 : u > 1 ? 1 : u;
	found.u = u;
	found.x = d[o] + u * ex;
	found.y = d[o + 1] + u * ey;
	found.z = d[o + 2] + u * ez;
	return squareTo(found, x, y, z);
}

/** The squared distance to the point at `o` of the numbers, which is written to `found`. */
export function toPoint(found: Nearest, d: Float64Array, o: number, x: number, y: number, z: number): number {
	found.x = d[o];
	found.y = d[o + 1];
	found.z = d[o + 2];
	return squareTo(found, x, y, z);
}

function squareTo(found: Nearest, x: number, y: number, z: number): number {
	const dx = found.x - x,
		dy = found.y - y,
		dz = found.z - z;
	return dx * dx + dy * dy + dz * dz;
}

/** The squared distance to the triangle at `o` of the numbers; its nearest place is written to `found`. */
export function toTriangle(
	found: Nearest,
	d: Float64Array,
	o: number,
	x: number,
	y: number,
	z: number
): number {
	const ax = d[o],
		ay = d[o + 1],
		az = d[o + 2];
	const ux = d[o + 3] - ax,
		uy = d[o + 4] - ay,
		uz = d[o + 5] - az;
	const vx = d[o + 6] - ax,
		vy = d[o + 7] - ay,
		vz = d[o + 8] - az;
	const px = x - ax,
		py = y - ay,
		pz = z - az;
	const d1 = ux * px + uy * py + uz * pz,
		d2 = vx * px + vy * py + vz * pz;
	const uu = ux * ux + uy * uy + uz * uz,
		uv = ux * vx + uy * vy + uz * vz,
		vv = vx * vx + vy * vy + vz * vz;
	// Products with the other corners follow from these by differences.
	const d3 = d1 - uu,
		d4 = d2 - uv,
		d5 = d1 - uv,
		d6 = d2 - vv;
	let u = 0,
		v = 0;
	const vc = d1 * d4 - d3 * d2,
		vb = d5 * d2 - d1 * d6,
		va = d3 * d6 - d5 * d4;
	if (d1 <= 0 && d2 <= 0) u = v = 0;
	else if (d3 >= 0 && d4 <= d3) u = 1;
	else if (vc <= 0 && d1 >= 0 && d3 <= 0) u = d1 === d3 ? 0 : d1 / (d1 - d3);
	else if (d6 >= 0 && d5 <= d6) v = 1;
	else if (vb <= 0 && d2 >= 0 && d6 <= 0) v = d2 === d6 ? 0 : d2 / (d2 - d6);
	else if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
		const sum = d4 - d3 + (d5 - d6);
		v = sum === 0 ? 0 : (d4 - d3) / sum;
		u = 1 - v;
	} else {
		const sum = va + vb + vc;
		u = vb / sum;
		v = vc / sum;
	}
	// The formulas name the region opposite: b's share is vb, c's is vc.
	const nx = ax + u * ux + v * vx,
		ny = ay + u * uy + v * vy,
		nz = az + u * uz + v * vz;
	found.u = u;
	found.v = v;
	found.x = nx;
	found.y = ny;
	found.z = nz;
	return (nx - x) * (nx - x) + (ny - y) * (ny - y) + (nz - z) * (nz - z);
}

/** Where a ray meets a triangle, in lengths of its direction; -1 where it does not (Möller and Trumbore, 1997). */
export function rayTriangle(
	d: Float64Array,
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
