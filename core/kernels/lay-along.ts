/** A map that takes a straight axis onto a curve: what lies beside the axis lies beside the curve. */
import type { Curves } from '../geometry/index.ts';
import type { Frames } from './frames.ts';
import type { SpaceMap } from './deform-maps.ts';
import { Rail } from './rail.ts';

export interface LayOptions {
	/** 0, 1 or 2: the axis of the geometry that runs along the curve. */
	axis: number;
	/** Where the geometry begins on its axis, in metres, and metres of curve for each metre of it. */
	from: number;
	stretch: number;
	/** Metres along the curve at which it begins. */
	start: number;
}

/**
 * Frames are blended between the curve's points, so that the map has no jump: places that are the same before are the same
 * after, at bends too. Beyond the ends it goes on straight.
 */
export function layMap(
	curves: Curves,
	curve: number,
	frames: Frames,
	{ axis, from, stretch, start }: LayOptions
): SpaceMap {
	const rail = new Rail(curves, curve, frames);
	// Sideways first, then upward, in the cyclic order of the axes.
	const up = axis === 1 ? 2 : 1,
		side = 3 - axis - up;
	// To the right of the way with y up: a mirror image is avoided by the sign.
	const sign = (up - axis + 3) % 3 === 1 ? 1 : -1;
	return (points, weights, out) => {
		for (let i = 0, o = 0; o < points.length; i++, o += 3) {
			const { x, y, z, nx, ny, nz, bx, by, bz } = rail.find(start + (points[o + axis] - from) * stretch);
			const u = points[o + side] * sign,
				v = points[o + up];
			const w = weights[i];
			out[o] = points[o] + (x + bx * u + nx * v - points[o]) * w;
			out[o + 1] = points[o + 1] + (y + by * u + ny * v - points[o + 1]) * w;
			out[o + 2] = points[o + 2] + (z + bz * u + nz * v - points[o + 2]) * w;
		}
	};
}

/** How often a length fits, at least once. */
export const timesThatFit = (whole: number, piece: number): number =>
	piece > 0 ? Math.max(1, Math.floor(whole / piece + 0.5)) : 1;
