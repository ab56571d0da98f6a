/** Stops along curves: their places, with the curve’s frame there. */
import { allocate, curveCount, lengthsAlong, positionsOf, scratch, pollAt } from '../geometry/index.ts';
import type { Curves } from '../geometry/index.ts';
import { framesOf } from './frames.ts';
import { divide, resampleCurves } from './resample-curves.ts';
import type { Spacing } from './resample-curves.ts';

export interface Stops {
	positions: Float32Array;
	tangents: Float32Array;
	/** The frame’s normals, which do not spin. */
	normals: Float32Array;
	/** The curve of each stop, how far along it the stop is, and the curve’s length, in metres. */
	curve: Int32Array;
	along: Float64Array;
	whole: Float64Array;
}

function stopsFor(count: number): Stops {
	return {
		positions: allocate('float', 3 * count),
		tangents: allocate('float', 3 * count),
		normals: allocate('float', 3 * count),
		curve: allocate('int', count),
		along: scratch('double', count),
		whole: scratch('double', count)
	};
}

/** Stops on chosen points of curves, one byte for each point. */
export function stopsOn(curves: Curves, chosen: Uint8Array): Stops {
	const p = positionsOf(curves);
	const { tangents, normals } = framesOf(curves);
	const { along, lengths } = lengthsAlong(curves);
	const stops = stopsFor(chosen.reduce((sum, one) => sum + one, 0));
	let o = 0;
	for (let c = 0; c < curveCount(curves); c++) {
		pollAt(c);
		for (let i = curves.starts[c]; i < curves.starts[c + 1]; i++) {
			if (!chosen[i]) continue;
			for (let k = 0; k < 3; k++) {
				stops.positions[3 * o + k] = p[3 * i + k];
				stops.tangents[3 * o + k] = tangents[3 * i + k];
				stops.normals[3 * o + k] = normals[3 * i + k];
			}
			stops.curve[o] = c;
			stops.along[o] = along[i];
			stops.whole[o++] = lengths[c];
		}
	}
	return stops;
}

/**
 * Stops at the ends of even pieces, or in their middles. What is left over at the end of a curve, by a spacing that does not
 * fit, has none.
 */
export function evenStops(curves: Curves, spacing: Spacing, middles: boolean): Stops {
	const times = timesCut(spacing, middles);
	const even = resampleCurves(curves, { by: 'cut', of: spacing, times }, false);
	const chosen = scratch('byte', even.points.count);
	const isOne = spacing.by === 'stops' && spacing.count === 1;
	for (let c = 0; c < curveCount(even); c++) {
		pollAt(c);
		for (let i = even.starts[c], k = 0; i < even.starts[c + 1]; i++, k++)
			if (k % times === (middles ? times / 2 : 0) && !(isOne && k > 0 && !middles)) chosen[i] = 1;
	}
	const stops = stopsOn(even, chosen);
	// Lengths are those of the curve itself: the resampled one cuts across its corners.
	const { lengths } = lengthsAlong(curves);
	const closed = curves.curves.columns.get('closed')!.data;
	for (let o = 0, k = 0; o < stops.curve.length; o++, k++) {
		pollAt(o);
		const c = stops.curve[o];
		if (o > 0 && stops.curve[o - 1] !== c) k = 0;
		const { step } = divide(lengths[c], !!closed[c], spacing);
		stops.along[o] = Math.min(lengths[c], (middles ? k + 0.5 : k) * step);
		stops.whole[o] = lengths[c];
	}
	return stops;
}

/** How often each piece is cut to find its middle, and the way there: a ring of one or two points would have none. */
function timesCut(spacing: Spacing, middles: boolean): number {
	if (spacing.by === 'stops' && spacing.count < 3) return 8;
	return middles ? 2 : 1;
}

/**
 * Stops between corners: each stretch from one corner to the next is cut into even pieces as near to `spacing` as fits.
 * @param corners one byte for each point. A closed curve without corners is one stretch that begins at its start.
 * @param middles stops in the middles of the pieces, rather than between them.
 */
export function stopsBetween(curves: Curves, corners: Uint8Array, spacing: number, middles: boolean): Stops {
	const { along, lengths } = lengthsAlong(curves);
	const closed = curves.curves.columns.get('closed')!.data;
	const p = positionsOf(curves);
	const { normals } = framesOf(curves);
	const distances: number[][] = [];
	for (let c = 0; c < curveCount(curves); c++) {
		pollAt(c);
		const at: number[] = [];
		for (let i = curves.starts[c]; i < curves.starts[c + 1]; i++) if (corners[i]) at.push(along[i]);
		if (closed[c]) at.push((at[0] ?? 0) + lengths[c]);
		if (at.length === 1) at.unshift(0);
		const found: number[] = [];
		for (let k = 0; k + 1 < at.length; k++) {
			const stretch = at[k + 1] - at[k];
			if (!(stretch > 0)) continue;
			const pieces = Math.max(1, Math.round(stretch / spacing));
			for (let j = middles ? 0.5 : 1; j < pieces; j++) {
				const d = at[k] + (stretch * j) / pieces;
				found.push(d >= lengths[c] && closed[c] ? d - lengths[c] : d);
			}
		}
		distances.push(found.sort((a, b) => a - b));
	}
	const stops = stopsFor(distances.reduce((sum, one) => sum + one.length, 0));
	let o = 0;
	distances.forEach((found, c) => {
		const first = curves.starts[c],
			last = curves.starts[c + 1] - 1;
		let i = first;
		for (const d of found) {
			while (i < last && along[i + 1] <= d) i++;
			const next = i < last ? i + 1 : first;
			const span = (i < last ? along[i + 1] : lengths[c]) - along[i];
			const t = span > 0 ? (d - along[i]) / span : 0;
			// The way of the piece itself: between corners it is straight, and not blended with what lies behind them.
			const way = [0, 1, 2].map((k) => p[3 * next + k] - p[3 * i + k]);
			const size = Math.sqrt(way[0] * way[0] + way[1] * way[1] + way[2] * way[2]) || 1;
			const up = [0, 1, 2].map((k) => normals[3 * i + k] + (normals[3 * next + k] - normals[3 * i + k]) * t);
			const lean = (up[0] * way[0] + up[1] * way[1] + up[2] * way[2]) / (size * size);
			const upright = up.map((x, k) => x - lean * way[k]);
			const tall =
				Math.sqrt(upright[0] * upright[0] + upright[1] * upright[1] + upright[2] * upright[2]) || 1;
			for (let k = 0; k < 3; k++) {
				stops.positions[3 * o + k] = p[3 * i + k] + way[k] * t;
				stops.tangents[3 * o + k] = way[k] / size;
				stops.normals[3 * o + k] = upright[k] / tall;
			}
			stops.curve[o] = c;
			stops.along[o] = d;
			stops.whole[o++] = lengths[c];
		}
	});
	return stops;
}
