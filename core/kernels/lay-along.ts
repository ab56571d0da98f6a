/** A map that takes a straight axis onto a curve: what lies beside the axis lies beside the curve. */
import { lengthsAlong, positionsOf } from '../geometry/index.ts';
import type { Curves } from '../geometry/index.ts';
import type { Frames } from './frames.ts';
import type { SpaceMap } from './deform-maps.ts';

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
	{ tangents, normals }: Frames,
	{ axis, from, stretch, start }: LayOptions
): SpaceMap {
	const p = positionsOf(curves);
	const { along, lengths } = lengthsAlong(curves);
	const closed = !!curves.curves.columns.get('closed')!.data[curve];
	const first = curves.starts[curve],
		last = curves.starts[curve + 1] - 1;
	const whole = lengths[curve];
	// Sideways first, then upward, in the cyclic order of the axes.
	const up = axis === 1 ? 2 : 1,
		side = 3 - axis - up;
	// To the right of the way with y up: a mirror image is avoided by the sign.
	const sign = (up - axis + 3) % 3 === 1 ? 1 : -1;
	return (points, weights, out) => {
		let at = first;
		for (let i = 0, o = 0; o < points.length; i++, o += 3) {
			let s = start + (points[o + axis] - from) * stretch;
			if (closed && whole > 0) s -= whole * Math.floor(s / whole);
			while (at > first && along[at] > s) at--;
			while (at < last && along[at + 1] <= s) at++;
			const ends = at >= last && !closed;
			const a = ends && last > first ? last - 1 : at;
			const b = a < last ? a + 1 : closed ? first : a;
			const span = (b === first && closed ? whole : along[b]) - along[a];
			const t = span > 0 ? (s - along[a]) / span : 0;
			// Beyond an end the place goes on, the frame stays.
			const f = t < 0 ? 0 : t > 1 ? 1 : t;
			let nx = 0,
				ny = 0,
				nz = 0,
				tx = 0,
				ty = 0,
				tz = 0;
			for (let k = 0; k < 2; k++) {
				const row = 3 * (k ? b : a),
					w = k ? f : 1 - f;
				nx += normals[row] * w;
				ny += normals[row + 1] * w;
				nz += normals[row + 2] * w;
				tx += tangents[row] * w;
				ty += tangents[row + 1] * w;
				tz += tangents[row + 2] * w;
			}
			let size = Math.sqrt(tx * tx + ty * ty + tz * tz) || 1;
			tx /= size;
			ty /= size;
			tz /= size;
			const lean = nx * tx + ny * ty + nz * tz;
			nx -= lean * tx;
			ny -= lean * ty;
			nz -= lean * tz;
			size = Math.sqrt(nx * nx + ny * ny + nz * nz) || 1;
			nx /= size;
			ny /= size;
			nz /= size;
			const bx = (ty * nz - tz * ny) * sign,
				by = (tz * nx - tx * nz) * sign,
				bz = (tx * ny - ty * nx) * sign;
			const u = points[o + side],
				v = points[o + up];
			const x = p[3 * a] + (p[3 * b] - p[3 * a]) * t + bx * u + nx * v,
				y = p[3 * a + 1] + (p[3 * b + 1] - p[3 * a + 1]) * t + by * u + ny * v,
				z = p[3 * a + 2] + (p[3 * b + 2] - p[3 * a + 2]) * t + bz * u + nz * v;
			const w = weights[i];
			out[o] = points[o] + (x - points[o]) * w;
			out[o + 1] = points[o + 1] + (y - points[o + 1]) * w;
			out[o + 2] = points[o + 2] + (z - points[o + 2]) * w;
		}
	};
}

/** How often a length fits, at least once. */
export const timesThatFit = (whole: number, piece: number): number =>
	piece > 0 ? Math.max(1, Math.floor(whole / piece + 0.5)) : 1;
