/**
 * Space bent by a lattice: a box of control points, and how far each was moved (Thomas Sederberg and Scott Parry,
 * “Free-Form Deformation of Solid Geometric Models”, 1986).
 */
import { scratch, pollAt } from '../geometry/index.ts';
import type { Bounds } from '../geometry/index.ts';
import type { SpaceMap } from './deform-maps.ts';

export interface Lattice {
	/** Points along x, y and z; each at least 2. */
	counts: readonly [number, number, number];
	/** The box in which they stand evenly. */
	box: Bounds;
	/** How far each is moved: three numbers, x fastest, then z, then y, as “Grid of points” numbers them. */
	moves: Float32Array;
	/** Bernstein polynomials over the whole box, or straight between neighbours. */
	smooth: boolean;
}

/** Places outside the box go as its nearest side does. */
export function latticeMap({ counts, box, moves, smooth }: Lattice): SpaceMap {
	const weights = counts.map((n) => scratch('double', n));
	const [nx, ny, nz] = counts;
	return (p, strength, out) => {
		for (let i = 0, o = 0; o < p.length; i++, o += 3) {
			for (let k = 0; k < 3; k++) {
				const size = box.high[k] - box.low[k];
				const t = size > 0 ? (p[o + k] - box.low[k]) / size : 0;
				fill(weights[k], t < 0 ? 0 : t > 1 ? 1 : t, smooth);
			}
			let mx = 0,
				my = 0,
				mz = 0;
			for (let y = 0; y < ny; y++) {
				pollAt(y);
				const a = weights[1][y];
				if (a === 0) continue;
				for (let z = 0; z < nz; z++) {
					const b = a * weights[2][z];
					if (b === 0) continue;
					for (let x = 0; x < nx; x++) {
						const w = b * weights[0][x];
						const m = 3 * ((y * nz + z) * nx + x);
						mx += w * moves[m];
						my += w * moves[m + 1];
						mz += w * moves[m + 2];
					}
				}
			}
			out[o] = p[o] + mx * strength[i];
			out[o + 1] = p[o + 1] + my * strength[i];
			out[o + 2] = p[o + 2] + mz * strength[i];
		}
	};
}

/** How much each of a row of control points counts at a share of the way along it. */
function fill(weights: Float64Array, t: number, smooth: boolean): void {
	const n = weights.length;
	weights.fill(0);
	if (!smooth) {
		const at = t * (n - 1);
		const i = Math.min(n - 2, Math.floor(at));
		weights[i] = 1 - (at - i);
		weights[i + 1] = at - i;
		return;
	}
	// Raised from degree 0 one at a time.
	weights[0] = 1;
	for (let d = 1; d < n; d++) {
		pollAt(d);
		for (let i = d; i >= 0; i--)
			weights[i] = (i < d ? weights[i] * (1 - t) : 0) + (i > 0 ? weights[i - 1] * t : 0);
	}
}
