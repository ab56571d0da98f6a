/**
 * The nearest place in a tree of boxes. The same operations in the same order as in any other engine, so the bits are the
 * same: see core/kernels/box-tree.ts, which builds the tree, and core/kernels/primitives.ts for the sources.
 *
 * A node holds the boxes of its two halves, singles, side by side: lowest x of both, highest x of both, then y, then z (48
 * bytes); then two words, each the number of a node, or of a leaf: ~(first primitive × 8 + count).
 */

/** Bytes in a node, as a shift, and in an entry of the stack. */
const NODE = 6,
	ENTRY = 4;

/** The squared distances to both boxes along one axis. */
@inline
function along(at: usize, offset: usize, x: v128): v128 {
	const low = f64x2.promote_low_f32x4(v128.load64_zero(at + offset)),
		high = f64x2.promote_low_f32x4(v128.load64_zero(at + offset, 8));
	const d = f64x2.max(f64x2.max(f64x2.sub(low, x), f64x2.sub(x, high)), f64x2.splat(0));
	return f64x2.mul(d, d);
}

// prettier-ignore
@inline function single(at: usize, offset: usize = 0): f64 { return <f64>load<f32>(at + offset); }

@inline
function tell(found: usize, u: f64, v: f64, x: f64, y: f64, z: f64): void {
	store<f64>(found, u, 8);
	store<f64>(found, v, 16);
	store<f64>(found, x, 24);
	store<f64>(found, y, 32);
	store<f64>(found, z, 40);
}

/** By regions (Christer Ericson, “Real-Time Collision Detection”, 2005). */
function toTriangle(o: usize, x: f64, y: f64, z: f64, found: usize): f64 {
	const ax = single(o),
		ay = single(o, 4),
		az = single(o, 8);
	const ux = single(o, 12) - ax,
		uy = single(o, 16) - ay,
		uz = single(o, 20) - az;
	const vx = single(o, 24) - ax,
		vy = single(o, 28) - ay,
		vz = single(o, 32) - az;
	const px = x - ax,
		py = y - ay,
		pz = z - az;
	const d1 = ux * px + uy * py + uz * pz,
		d2 = vx * px + vy * py + vz * pz;
	const uu = ux * ux + uy * uy + uz * uz,
		uv = ux * vx + uy * vy + uz * vz,
		vv = vx * vx + vy * vy + vz * vz;
	const d3 = d1 - uu,
		d4 = d2 - uv,
		d5 = d1 - uv,
		d6 = d2 - vv;
	let u: f64 = 0,
		v: f64 = 0;
	const vc = d1 * d4 - d3 * d2,
		vb = d5 * d2 - d1 * d6,
		va = d3 * d6 - d5 * d4;
	if (d1 <= 0 && d2 <= 0) u = v = 0;
	else if (d3 >= 0 && d4 <= d3) u = 1;
	else if (vc <= 0 && d1 >= 0 && d3 <= 0) u = d1 == d3 ? 0 : d1 / (d1 - d3);
	else if (d6 >= 0 && d5 <= d6) v = 1;
	else if (vb <= 0 && d2 >= 0 && d6 <= 0) v = d2 == d6 ? 0 : d2 / (d2 - d6);
	else if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
		const sum = d4 - d3 + (d5 - d6);
		v = sum == 0 ? 0 : (d4 - d3) / sum;
		u = 1 - v;
	} else {
		const sum = va + vb + vc;
		u = vb / sum;
		v = vc / sum;
	}
	const nx = ax + u * ux + v * vx,
		ny = ay + u * uy + v * vy,
		nz = az + u * uz + v * vz;
	tell(found, u, v, nx, ny, nz);
	return (nx - x) * (nx - x) + (ny - y) * (ny - y) + (nz - z) * (nz - z);
}

@inline
function toPlace(px: f64, py: f64, pz: f64, x: f64, y: f64, z: f64): f64 {
	const dx = px - x,
		dy = py - y,
		dz = pz - z;
	return dx * dx + dy * dy + dz * dz;
}

function toSegment(o: usize, x: f64, y: f64, z: f64, found: usize): f64 {
	const ax = single(o),
		ay = single(o, 4),
		az = single(o, 8);
	const ex = single(o, 12) - ax,
		ey = single(o, 16) - ay,
		ez = single(o, 20) - az;
	const square = ex * ex + ey * ey + ez * ez;
	let u: f64 = square > 0 ? ((x - ax) * ex + (y - ay) * ey + (z - az) * ez) / square : 0;
	u = u < 0 ? 0 : u > 1 ? 1 : u;
	const px = ax + u * ex,
		py = ay + u * ey,
		pz = az + u * ez;
	// What stood there as the share of a third corner means nothing on a segment.
	store<f64>(found, u, 8);
	store<f64>(found, px, 24);
	store<f64>(found, py, 32);
	store<f64>(found, pz, 40);
	return toPlace(px, py, pz, x, y, z);
}

function toPoint(o: usize, x: f64, y: f64, z: f64, found: usize): f64 {
	store<f64>(found, single(o), 24);
	store<f64>(found, single(o, 4), 32);
	store<f64>(found, single(o, 8), 40);
	return toPlace(single(o), single(o, 4), single(o, 8), x, y, z);
}

/** The squared distance to one primitive; its nearest place is written to `found`. */
@inline
function measure(data: usize, corners: i32, place: i32, x: f64, y: f64, z: f64, found: usize): f64 {
	const o = data + <usize>(place * 12 * corners);
	if (corners == 3) return toTriangle(o, x, y, z, found);
	if (corners == 2) return toSegment(o, x, y, z, found);
	return toPoint(o, x, y, z, found);
}

/**
 * Finds the nearest primitive. To `found` are written its distance, u, v, and x, y, z of the place.
 * @param root the first node or leaf. @param last the place of the last answer: it bounds the search from the start.
 * @returns its place in the order of the leaves.
 */
export function nearest(
	x: f64,
	y: f64,
	z: f64,
	nodes: usize,
	data: usize,
	order: usize,
	corners: i32,
	root: i32,
	last: i32,
	stack: usize,
	found: usize
): i32 {
	const xs = f64x2.splat(x),
		ys = f64x2.splat(y),
		zs = f64x2.splat(z);
	let place = last;
	let best = measure(data, corners, last, x, y, z, found);
	let top: i32 = 0;
	store<i32>(stack, root);
	store<f64>(stack, 0, 8);
	while (top >= 0) {
		const entry = stack + (<usize>top << ENTRY);
		top--;
		if (load<f64>(entry, 8) > best) continue;
		let code = load<i32>(entry);
		let isAway = false;
		while (code >= 0) {
			const node = nodes + (<usize>code << NODE);
			const d = f64x2.add(f64x2.add(along(node, 0, xs), along(node, 16, ys)), along(node, 32, zs));
			const da = f64x2.extract_lane(d, 0),
				db = f64x2.extract_lane(d, 1);
			const nearFirst = da <= db;
			const farther = nearFirst ? db : da;
			if (farther <= best) {
				top++;
				const next = stack + (<usize>top << ENTRY);
				store<i32>(next, nearFirst ? load<i32>(node, 52) : load<i32>(node, 48));
				store<f64>(next, farther, 8);
			}
			if ((nearFirst ? da : db) > best) {
				isAway = true;
				break;
			}
			code = nearFirst ? load<i32>(node, 48) : load<i32>(node, 52);
		}
		if (isAway) continue;
		const leaf = ~code;
		const end = (leaf >> 3) + (leaf & 7);
		for (let i = leaf >> 3; i < end; i++) {
			const d = measure(data, corners, i, x, y, z, found);
			if (
				d < best ||
				(d == best &&
					load<u32>(order + (<usize>i << 2)) < load<u32>(order + (<usize>place << 2)))
			) {
				best = d;
				place = i;
			}
		}
	}
	measure(data, corners, place, x, y, z, found);
	store<f64>(found, sqrt(best));
	return place;
}
