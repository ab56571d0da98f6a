/** Orientations from normals, for whole columns at once: no call for each row, which would box ten numbers. */
import { pollAt } from '../geometry/index.ts';
import { quaternion } from '../math/index.ts';

/**
 * Rotations that take y to the normals and keep z as near as may be to the world’s z, as `quaternion.lookAlong` does: a
 * turn about z after a tilt about x, each by its half angle.
 * @param out four numbers for each normal; `normals` are 1 long.
 */
export function standOff(out: Float32Array, normals: Float32Array): void {
	for (let i = 0, o = 0; i < normals.length; i += 3, o += 4) {
		pollAt(i);
		const x = normals[i],
			y = normals[i + 1],
			z = normals[i + 2];
		const flat = Math.sqrt(x * x + y * y);
		if (!(flat > 1e-5)) {
			quaternion.lookAlong(out, o, x, y, z, 0, 0, 1);
			continue;
		}
		const c = y / flat,
			s = -x / flat;
		const tiltCos = Math.sqrt((1 + flat) / 2);
		const tiltSin = z / (2 * tiltCos);
		// The larger half is a root, the smaller follows by division: a root of nearly nothing would lose digits.
		const root = Math.sqrt((1 + Math.abs(c)) / 2);
		const turnCos = c >= 0 ? root : Math.abs(s) / (2 * root);
		const turnSin = c >= 0 ? s / (2 * root) : s < 0 ? -root : root;
		out[o] = turnCos * tiltSin;
		out[o + 1] = turnSin * tiltSin;
		out[o + 2] = turnSin * tiltCos;
		out[o + 3] = turnCos * tiltCos;
	}
}
