/** Curves cut into even pieces, and places found along them by length. */
import {
	allocate,
	blendTwo,
	lengthsAlong,
	makeTable,
	positionsOf,
	writeDerived,
	pollAt
} from '../geometry/index.ts';
import type { Column, Curves } from '../geometry/index.ts';

/** A place on a curve: between points `from` and `to`, `share` of the way. */
export interface Places {
	from: Uint32Array;
	to: Uint32Array;
	share: Float32Array;
}

/** How a length is cut. */
export type Spacing =
	| { by: 'count'; count: number }
	/** The last piece of an open curve may be left over, and is kept as a shorter one. */
	| { by: 'spacing'; length: number }
	/** As near to `length` as makes all pieces even. */
	| { by: 'fitted'; length: number }
	/** As many places at the ends of even pieces, or in their middles, as are asked for; also one or two on a closed curve. */
	| { by: 'stops'; count: number; middles: boolean }
	/** As another spacing, each piece cut once more. */
	| { by: 'cut'; of: Spacing; times: number };

/** A spacing from the settings of a node. */
export const spacingOf = (by: string, count: number, length: number): Spacing =>
	by === 'count' ? { by, count } : by === 'spacing' ? { by, length } : { by: 'fitted', length };

/** How a curve of some length is cut. */
interface Division {
	pieces: number;
	points: number;
	/** Metres between the points. */
	step: number;
	/** Whether the last point is the curve’s end, however sums round. */
	keepsEnd: boolean;
}

export function divide(total: number, closed: boolean, spacing: Spacing): Division {
	const evenly = (pieces: number): Division => ({
		pieces,
		points: closed ? pieces : pieces + 1,
		step: total / pieces,
		keepsEnd: !closed
	});
	switch (spacing.by) {
		case 'count':
			return evenly(closed ? Math.max(3, spacing.count) : Math.max(2, spacing.count) - 1);
		case 'stops':
			return evenly(closed || spacing.middles ? spacing.count : Math.max(1, spacing.count - 1));
		case 'fitted':
			return evenly(Math.max(closed ? 3 : 1, Math.round(total / Math.max(spacing.length, 1e-6))));
		case 'spacing': {
			const step = Math.max(spacing.length, 1e-6);
			// A hair of slack, so that 10 m by 0.1 m are 100 pieces however the sums round.
			const pieces = Math.floor(total / step + 1e-6);
			const closes = closed && pieces * step > total - 1e-6 * step;
			return { pieces, points: pieces + (closes ? 0 : 1), step, keepsEnd: false };
		}
		case 'cut': {
			const whole = divide(total, closed, spacing.of);
			const pieces = whole.pieces * spacing.times;
			const closes = whole.points === whole.pieces;
			return {
				pieces,
				points: pieces + (closes ? 0 : 1),
				step: whole.step / spacing.times,
				keepsEnd: whole.keepsEnd
			};
		}
	}
}

/** How many points `resampleCurves` would make. */
export function countResampled(curves: Curves, spacing: Spacing): number {
	const { lengths } = lengthsAlong(curves);
	const closed = curves.curves.columns.get('closed')!.data;
	let sum = 0;
	for (let c = 0; c < lengths.length; c++) {
		pollAt(c);
		sum += divide(lengths[c], !!closed[c], spacing).points + 1;
	}
	return sum;
}

/** Places at even distances along every curve, and how many each curve has. */
function placesAlong(
	curves: Curves,
	spacing: Spacing,
	keepLeftover: boolean
): { places: Places; starts: Uint32Array } {
	const { along, lengths } = lengthsAlong(curves);
	const closed = curves.curves.columns.get('closed')!.data;
	const count = lengths.length;
	const starts = allocate('index', count + 1);
	for (let c = 0; c < count; c++) {
		pollAt(c);
		const plan = divide(lengths[c], !!closed[c], spacing);
		const size = curves.starts[c + 1] - curves.starts[c];
		const leftover =
			keepLeftover &&
			!plan.keepsEnd &&
			!closed[c] &&
			lengths[c] - (plan.points - 1) * plan.step > 1e-6 * plan.step;
		const degenerate = size < 2 || !(lengths[c] > 0);
		starts[c + 1] = starts[c] + (degenerate ? Math.min(size, 1) : plan.points + (leftover ? 1 : 0));
	}
	const total = starts[count];
	const from = allocate('index', total),
		to = allocate('index', total),
		share = allocate('float', total);
	for (let c = 0; c < count; c++) {
		const first = curves.starts[c],
			last = curves.starts[c + 1] - 1;
		const end = starts[c + 1] - starts[c];
		const plan = divide(lengths[c], !!closed[c], spacing);
		let at = first;
		pollAt(c);
		for (let k = 0; k < end; k++) {
			pollAt(k);
			const isEnd = !closed[c] && k === end - 1 && (plan.keepsEnd || k === plan.points);
			const distance = isEnd ? lengths[c] : k * plan.step;
			while (at < last && along[at + 1] < distance) at++;
			const o = starts[c] + k;
			const next = at < last ? at + 1 : closed[c] ? first : last;
			const span = (at < last ? along[at + 1] : lengths[c]) - along[at];
			from[o] = at;
			to[o] = next;
			share[o] = isEnd ? 1 : span > 0 ? Math.min(1, (distance - along[at]) / span) : 0;
			if (isEnd && at === last) share[o] = 0;
		}
	}
	return { places: { from, to, share }, starts };
}

/** A column of the curves' points read at places. */
export const readAt = (source: Column, { from, to, share }: Places): Column =>
	blendTwo(source, from, to, share);

/** Every curve with new points at even distances; attributes are read between the old ones. */
export function resampleCurves(curves: Curves, spacing: Spacing, keepLeftover = true): Curves {
	const { places, starts } = placesAlong(curves, spacing, keepLeftover);
	const columns: Record<string, Column> = {};
	for (const [name, source] of curves.points.columns) columns[name] = readAt(source, places);
	return {
		points: makeTable(places.from.length, columns, idsAlong(curves, starts)),
		curves: curves.curves,
		starts
	};
}

/** Ids of points that are counted along their curves: they follow from the curve and the count. */
function idsAlong({ curves }: Curves, starts: Uint32Array): Uint32Array {
	const ids = allocate('index', 2 * starts[starts.length - 1]);
	for (let c = 0; c + 1 < starts.length; c++)
		for (let i = starts[c]; i < starts[c + 1]; i++) {
			pollAt(i);
			writeDerived(ids, i, curves, c, i - starts[c]);
		}
	return ids;
}

/** Unit tangents at the points of curves, 3 numbers each; (0, 0, 1) where a curve has no length. */
export function tangentsOf(curves: Curves): Float32Array {
	const p = positionsOf(curves);
	const closed = curves.curves.columns.get('closed')!.data;
	const tangents = allocate('float', p.length);
	for (let c = 0; c + 1 < curves.starts.length; c++) {
		const first = curves.starts[c],
			last = curves.starts[c + 1] - 1;
		for (let i = first; i <= last; i++) {
			pollAt(i);
			const a = i > first ? i - 1 : closed[c] ? last : i;
			const b = i < last ? i + 1 : closed[c] ? first : i;
			// The two unit directions are added, so that a long piece does not outweigh a short one.
			let x = 0,
				y = 0,
				z = 0;
			for (let way = 0; way < 2; way++) {
				const s = way ? i : a,
					t = way ? b : i;
				const dx = p[3 * t] - p[3 * s],
					dy = p[3 * t + 1] - p[3 * s + 1],
					dz = p[3 * t + 2] - p[3 * s + 2];
				const d = Math.sqrt(dx * dx + dy * dy + dz * dz);
				if (d > 0) {
					x += dx / d;
					y += dy / d;
					z += dz / d;
				}
			}
			const size = Math.sqrt(x * x + y * y + z * z);
			tangents[3 * i] = size > 0 ? x / size : 0;
			tangents[3 * i + 1] = size > 0 ? y / size : 0;
			tangents[3 * i + 2] = size > 0 ? z / size : 1;
		}
	}
	return tangents;
}
