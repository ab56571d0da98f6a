/** Quaternions as (x, y, z, w) in flat arrays, and rotations from angles. Right-handed; y is up. */
import { PI, cos, sin } from './elementary.ts';

type Numbers = { [index: number]: number };

/** Degrees to radians. */
export const radians = (degrees: number): number => (degrees * PI) / 180;
/** out[o..o+3] = a ⊗ b: first b, then a. */
export function multiply(
	out: Numbers,
	o: number,
	ax: number,
	ay: number,
	az: number,
	aw: number,
	bx: number,
	by: number,
	bz: number,
	bw: number
): void {
	out[o] = aw * bx + ax * bw + ay * bz - az * by;
	out[o + 1] = aw * by - ax * bz + ay * bw + az * bx;
	out[o + 2] = aw * bz + ax * by - ay * bx + az * bw;
	out[o + 3] = aw * bw - ax * bx - ay * by - az * bz;
}

/** Rotation by angles in degrees about the fixed axes x, then y, then z. */
export function fromAngles(out: Numbers, o: number, x: number, y: number, z: number): void {
	const hx = radians(x) / 2,
		hy = radians(y) / 2,
		hz = radians(z) / 2;
	// Most rotations are about one axis: of nothing, the cosine is 1.
	const cx = hx === 0 ? 1 : cos(hx),
		sx = hx === 0 ? 0 : sin(hx),
		cy = hy === 0 ? 1 : cos(hy),
		sy = hy === 0 ? 0 : sin(hy),
		cz = hz === 0 ? 1 : cos(hz),
		sz = hz === 0 ? 0 : sin(hz);
	out[o] = sx * cy * cz - cx * sy * sz;
	out[o + 1] = cx * sy * cz + sx * cy * sz;
	out[o + 2] = cx * cy * sz - sx * sy * cz;
	out[o + 3] = cx * cy * cz + sx * sy * sz;
}

/** out = q · v · q⁻¹. */
export function rotate(
	out: Numbers,
	o: number,
	qx: number,
	qy: number,
	qz: number,
	qw: number,
	vx: number,
	vy: number,
	vz: number
): void {
	const tx = 2 * (qy * vz - qz * vy),
		ty = 2 * (qz * vx - qx * vz),
		tz = 2 * (qx * vy - qy * vx);
	out[o] = vx + qw * tx + qy * tz - qz * ty;
	out[o + 1] = vy + qw * ty + qz * tx - qx * tz;
	out[o + 2] = vz + qw * tz + qx * ty - qy * tx;
}

/** The rotation whose columns are three orthonormal axes. */
export function fromAxes(
	out: Numbers,
	o: number,
	xx: number,
	xy: number,
	xz: number,
	yx: number,
	yy: number,
	yz: number,
	zx: number,
	zy: number,
	zz: number
): void {
	const trace = xx + yy + zz;
	if (trace > 0) {
		const s = 0.5 / Math.sqrt(trace + 1);
		out[o] = (yz - zy) * s;
		out[o + 1] = (zx - xz) * s;
		out[o + 2] = (xy - yx) * s;
		out[o + 3] = 0.25 / s;
	} else if (xx > yy && xx > zz) {
		const s = 2 * Math.sqrt(1 + xx - yy - zz);
		out[o] = 0.25 * s;
		out[o + 1] = (yx + xy) / s;
		out[o + 2] = (zx + xz) / s;
		out[o + 3] = (yz - zy) / s;
	} else if (yy > zz) {
		const s = 2 * Math.sqrt(1 + yy - xx - zz);
		out[o] = (yx + xy) / s;
		out[o + 1] = 0.25 * s;
		out[o + 2] = (zy + yz) / s;
		out[o + 3] = (zx - xz) / s;
	} else {
		const s = 2 * Math.sqrt(1 + zz - xx - yy);
		out[o] = (zx + xz) / s;
		out[o + 1] = (zy + yz) / s;
		out[o + 2] = 0.25 * s;
		out[o + 3] = (xy - yx) / s;
	}
}

/**
 * The rotation that takes y to `up` and z as near as may be to `forward`. Neither need have length 1; a zero or parallel
 * `forward` is replaced by a steady choice.
 */
export function lookAlong(
	out: Numbers,
	o: number,
	upX: number,
	upY: number,
	upZ: number,
	forwardX: number,
	forwardY: number,
	forwardZ: number
): void {
	let size = Math.sqrt(upX * upX + upY * upY + upZ * upZ);
	if (!(size > 1e-20)) {
		upX = 0;
		upY = 1;
		upZ = 0;
		size = 1;
	}
	upX /= size;
	upY /= size;
	upZ /= size;
	let along = forwardX * upX + forwardY * upY + forwardZ * upZ;
	let zx = forwardX - along * upX,
		zy = forwardY - along * upY,
		zz = forwardZ - along * upZ;
	let length = Math.sqrt(zx * zx + zy * zy + zz * zz);
	if (!(length > 1e-6 * (Math.abs(along) + 1e-14))) {
		const useX = Math.abs(upZ) > 0.9;
		along = useX ? upX : upZ;
		zx = (useX ? 1 : 0) - along * upX;
		zy = -along * upY;
		zz = (useX ? 0 : 1) - along * upZ;
		length = Math.sqrt(zx * zx + zy * zy + zz * zz);
	}
	zx /= length;
	zy /= length;
	zz /= length;
	fromAxes(out, o, upY * zz - upZ * zy, upZ * zx - upX * zz, upX * zy - upY * zx, upX, upY, upZ, zx, zy, zz);
}
