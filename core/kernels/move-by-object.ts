/** Points moved by the nearest place on an object. */
import type { Geometry } from '../geometry/index.ts';
import { pollAt, setInPieces } from '../geometry/index.ts';
import type { Nearest } from './primitives.ts';
import { treesOf } from './nearest.ts';

/** Finds the nearest place on any part of a geometry. */
export function nearestOn(object: Geometry): (x: number, y: number, z: number) => Nearest | null {
	const trees = treesOf(object);
	return (x, y, z) => {
		let best: Nearest | null = null;
		for (const tree of trees) {
			const found = tree.nearest(x, y, z);
			if (!best || found.distance < best.distance) best = found;
		}
		return best;
	};
}

/** Away from the nearest place, towards it, all the way onto it, or out to a distance from it. */
export type AlongObject = 'away' | 'towards' | 'onto' | 'distance';

interface ByObject {
	along: AlongObject;
	/** How far, or the distance to keep. */
	far: Float32Array;
	/** Where only inward moves count. */
	normals: Float32Array | null;
}

/** Points go by the nearest place on an object. One that lies exactly on it goes inward along its normal, or stays. */
export function moveByObject(
	p: Float32Array,
	moved: Float32Array,
	weights: Float32Array,
	nearest: (x: number, y: number, z: number) => Nearest | null,
	{ along, far, normals }: ByObject
): void {
	setInPieces(moved, p);
	for (let i = 0, o = 0; o < p.length; i++, o += 3) {
		pollAt(16 * i);
		if (weights[i] === 0) continue;
		const found = nearest(p[o], p[o + 1], p[o + 2]);
		if (!found) return;
		let wx = p[o] - found.x,
			wy = p[o + 1] - found.y,
			wz = p[o + 2] - found.z;
		const d = Math.sqrt(wx * wx + wy * wy + wz * wz);
		let step: number;
		if (along === 'onto') step = -d;
		else if (along === 'distance') {
			if (d >= far[i]) continue;
			step = far[i] - d;
		} else step = along === 'away' ? far[i] : -Math.min(far[i], d);
		if (d > 0) {
			wx /= d;
			wy /= d;
			wz /= d;
		} else if (normals) {
			wx = -normals[o];
			wy = -normals[o + 1];
			wz = -normals[o + 2];
		} else continue;
		if (normals && wx * normals[o] + wy * normals[o + 1] + wz * normals[o + 2] > 0) continue;
		moved[o] = p[o] + wx * step * weights[i];
		moved[o + 1] = p[o + 1] + wy * step * weights[i];
		moved[o + 2] = p[o + 2] + wz * step * weights[i];
	}
}
