/** Cameras as files hold them: they look along −z, with y up. */
import { cross, quaternion, tan, unit } from '../math/index.ts';
import type { GlbFile } from './glb-file.ts';

/** Where a camera stands and what it shows at a moment. */
export interface CameraShot {
	readonly name: string;
	/** Metres. */
	readonly position: readonly number[];
	readonly target: readonly number[];
	/** Half of the height that it shows, in metres, where it has no perspective; null where it has a lens. */
	readonly half: number | null;
	/** From the lower to the upper rim, in degrees. */
	readonly angle: number;
}

/** The nearest that is drawn, and the furthest, in metres. */
export const NEAR = 0.01;
export const FAR = 10_000;

/** The rotation of a camera, x, y, z, w. Straight up or down it keeps the north at its upper rim. */
export function turnOf({ position, target }: CameraShot): number[] {
	const back = position.map((x, k) => x - target[k]);
	const out = [0, 0, 0, 1];
	const isSteep = Math.abs(back[1]) > 1e6 * Math.sqrt(back[0] * back[0] + back[2] * back[2]);
	const up = isSteep ? [0, 0, back[1] > 0 ? -1 : 1] : [0, 1, 0];
	// The axes: x to the right, y up, z backwards.
	const z = unit(back);
	const x = unit(cross(up, z));
	const y = cross(z, x);
	quaternion.fromAxes(out, 0, x[0], x[1], x[2], y[0], y[1], y[2], z[0], z[1], z[2]);
	return out;
}

/** The tangent of half of the angle of view. */
export const halfTangent = ({ angle }: CameraShot): number => tan(quaternion.radians(angle / 2));

/** A node with a camera in a GLB, as it is at one moment. How wide it sees, the picture says. */
export function addCamera(file: GlbFile, shot: CameraShot): number {
	const { name, position, half, angle } = shot;
	const camera =
		half === null
			? {
					name,
					type: 'perspective',
					perspective: { yfov: quaternion.radians(angle), znear: NEAR, zfar: FAR }
				}
			: { name, type: 'orthographic', orthographic: { xmag: half, ymag: half, znear: NEAR, zfar: FAR } };
	const index = file.lists.cameras.push(camera) - 1;
	return file.node({ name, camera: index, translation: [...position], rotation: turnOf(shot) });
}
