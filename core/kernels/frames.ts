/**
 * Frames along curves that do not spin: rotation-minimising by double reflection (Wang, Jüttler, Zheng and Liu,
 * “Computation of Rotation Minimizing Frames”, 2008). On a closed curve the remaining twist is spread over its length.
 */
import { atan2, cos, sin } from '../math/index.ts';
import { allocate, lengthsAlong, positionsOf, pollAt } from '../geometry/index.ts';
import type { Curves } from '../geometry/index.ts';
import { tangentsOf } from './resample-curves.ts';

/** Unit tangents and unit normals at right angles to them, 3 numbers a point. */
export interface Frames {
	tangents: Float32Array;
	normals: Float32Array;
}

export function framesOf(curves: Curves): Frames {
	const p = positionsOf(curves);
	const tangents = tangentsOf(curves);
	const normals = allocate('float', p.length);
	const closed = curves.curves.columns.get('closed')!.data;
	const { along, lengths } = lengthsAlong(curves);
	for (let c = 0; c + 1 < curves.starts.length; c++) {
		const first = curves.starts[c],
			end = curves.starts[c + 1];
		if (first === end) continue;
		startNormal(normals, tangents, first);
		for (let i = first; i + 1 < end; i++) {
			pollAt(i);
			carry(p, tangents, normals, i, i + 1, normals, i + 1);
		}
		if (!closed[c] || end - first < 3) continue;
		const back = new Float32Array(3);
		carry(p, tangents, normals, end - 1, first, back, 0);
		const o = 3 * first;
		const [tx, ty, tz] = [tangents[o], tangents[o + 1], tangents[o + 2]];
		const [nx, ny, nz] = [normals[o], normals[o + 1], normals[o + 2]];
		const sine =
			tx * (back[1] * nz - back[2] * ny) +
			ty * (back[2] * nx - back[0] * nz) +
			tz * (back[0] * ny - back[1] * nx);
		const twist = atan2(sine, back[0] * nx + back[1] * ny + back[2] * nz);
		for (let i = first; i < end; i++) turn(normals, tangents, i, (twist * along[i]) / lengths[c]);
	}
	return { tangents, normals };
}

/** Frames whose normal is as near to the world's up as may be; where a curve goes straight up, the last normal is kept. */
export function uprightFrames(curves: Curves): Frames {
	const tangents = tangentsOf(curves);
	const normals = allocate('float', tangents.length);
	for (let i = 0; i < tangents.length / 3; i++) {
		pollAt(i);
		const o = 3 * i;
		startNormal(normals, tangents, i);
		if (Math.abs(tangents[o + 1]) <= 0.999 || i === 0) continue;
		const [x, y, z] = [normals[o - 3], normals[o - 2], normals[o - 1]];
		const along = x * tangents[o] + y * tangents[o + 1] + z * tangents[o + 2];
		const nx = x - along * tangents[o],
			ny = y - along * tangents[o + 1],
			nz = z - along * tangents[o + 2];
		const size = Math.sqrt(nx * nx + ny * ny + nz * nz);
		if (size > 1e-6) normals.set([nx / size, ny / size, nz / size], o);
	}
	return { tangents, normals };
}

/** A first normal: as near to up as may be; along x for a curve that starts upward. */
function startNormal(normals: Float32Array, tangents: Float32Array, i: number): void {
	const o = 3 * i;
	const [x, y, z] = [tangents[o], tangents[o + 1], tangents[o + 2]];
	const upward = Math.abs(y) > 0.999;
	const along = upward ? x : y;
	let nx = (upward ? 1 : 0) - along * x,
		ny = (upward ? 0 : 1) - along * y,
		nz = -along * z;
	const size = Math.sqrt(nx * nx + ny * ny + nz * nz);
	nx /= size;
	ny /= size;
	nz /= size;
	normals.set([nx, ny, nz], o);
}

/** Reflects twice: once in the plane between the points, once so that the tangents meet. */
function carry(
	p: Float32Array,
	tangents: Float32Array,
	normals: Float32Array,
	from: number,
	to: number,
	out: Float32Array,
	at: number
): void {
	const a = 3 * from,
		b = 3 * to;
	const vx = p[b] - p[a],
		vy = p[b + 1] - p[a + 1],
		vz = p[b + 2] - p[a + 2];
	const c = vx * vx + vy * vy + vz * vz;
	let [nx, ny, nz] = [normals[a], normals[a + 1], normals[a + 2]];
	let [tx, ty, tz] = [tangents[a], tangents[a + 1], tangents[a + 2]];
	if (c > 0) {
		const n = (2 / c) * (vx * nx + vy * ny + vz * nz),
			t = (2 / c) * (vx * tx + vy * ty + vz * tz);
		nx -= n * vx;
		ny -= n * vy;
		nz -= n * vz;
		tx -= t * vx;
		ty -= t * vy;
		tz -= t * vz;
	}
	const wx = tangents[b] - tx,
		wy = tangents[b + 1] - ty,
		wz = tangents[b + 2] - tz;
	const d = wx * wx + wy * wy + wz * wz;
	if (d > 1e-24) {
		const n = (2 / d) * (wx * nx + wy * ny + wz * nz);
		nx -= n * wx;
		ny -= n * wy;
		nz -= n * wz;
	}
	// Rounding would let the normal lean; it is brought back to a right angle.
	const lean = nx * tangents[b] + ny * tangents[b + 1] + nz * tangents[b + 2];
	nx -= lean * tangents[b];
	ny -= lean * tangents[b + 1];
	nz -= lean * tangents[b + 2];
	const size = Math.sqrt(nx * nx + ny * ny + nz * nz) || 1;
	out[3 * at] = nx / size;
	out[3 * at + 1] = ny / size;
	out[3 * at + 2] = nz / size;
}

function turn(normals: Float32Array, tangents: Float32Array, i: number, angle: number): void {
	const o = 3 * i;
	const [nx, ny, nz] = [normals[o], normals[o + 1], normals[o + 2]];
	const [tx, ty, tz] = [tangents[o], tangents[o + 1], tangents[o + 2]];
	const c = cos(angle),
		s = sin(angle);
	normals[o] = nx * c + (ty * nz - tz * ny) * s;
	normals[o + 1] = ny * c + (tz * nx - tx * nz) * s;
	normals[o + 2] = nz * c + (tx * ny - ty * nx) * s;
}
