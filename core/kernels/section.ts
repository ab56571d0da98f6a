/** Curves as flat cross-sections: two numbers a point, counter-clockwise where they are closed. */
import { curveCount, positionsOf, scratch, pollAt } from '../geometry/index.ts';
import type { Curves } from '../geometry/index.ts';

export interface Section {
	/** Two numbers a point. */
	points: Float64Array;
	closed: boolean;
}

/** The two axes of the plane in which curves lie: the one along which they are thinnest is left out. */
export function planeOf(curves: Curves): readonly [number, number, number, number] {
	const p = positionsOf(curves);
	const low = [Infinity, Infinity, Infinity],
		high = [-Infinity, -Infinity, -Infinity];
	for (let i = 0; i < p.length; i++) {
		pollAt(i);
		if (p[i] < low[i % 3]) low[i % 3] = p[i];
		if (p[i] > high[i % 3]) high[i % 3] = p[i];
	}
	const size = [0, 1, 2].map((k) => high[k] - low[k]);
	const thin = size[1] <= size[0] && size[1] <= size[2] ? 1 : size[2] <= size[0] ? 2 : 0;
	// Axis and sign of both directions, so that what is drawn upright or on the ground is seen from its front.
	return thin === 1 ? [0, 1, 2, -1] : thin === 2 ? [0, 1, 1, 1] : [2, -1, 1, 1];
}

export interface SectionOptions {
	/** Keeps the sense of rotation of closed ones; otherwise they are turned counter-clockwise. */
	asDrawn?: boolean;
	/** Leaves out those that are open. */
	closedOnly?: boolean;
	/** The plane in which they are seen; their own where it is left out. */
	plane?: readonly [number, number, number, number];
}

/** All curves of a geometry as sections of one plane. Fewer than two points make none. */
export function sectionsOf(
	curves: Curves,
	{ asDrawn = false, closedOnly = false, plane }: SectionOptions = {}
): Section[] {
	const [a, signA, b, signB] = plane ?? planeOf(curves);
	const p = positionsOf(curves);
	const { starts } = curves;
	const out: Section[] = [];
	// One array for all: a million curves would else be a million buffers.
	const all = scratch('double', 2 * (starts.at(-1) ?? 0));
	for (let c = 0; c < curveCount(curves); c++) {
		pollAt(c);
		const closed = isClosedSection(curves, c);
		if (starts[c + 1] - starts[c] < 2 || (closedOnly && !closed)) continue;
		const points = all.subarray(2 * starts[c], 2 * starts[c + 1]);
		for (let i = 0, o = 3 * starts[c]; i < points.length; i += 2, o += 3) {
			pollAt(i);
			points[i] = signA * p[o + a];
			points[i + 1] = signB * p[o + b];
		}
		const isTurned = closed && !asDrawn && areaOfSection(points) < 0;
		out.push({ points: isTurned ? turnedRound(points) : points, closed });
	}
	return out;
}

/** Whether a curve goes round: it is closed, and has more than two points. */
const isClosedSection = ({ starts, curves }: Curves, c: number): boolean =>
	!!curves.columns.get('closed')!.data[c] && starts[c + 1] - starts[c] > 2;

/** How many curves make an open section. */
export function openSectionsIn(curves: Curves): number {
	let open = 0;
	for (let c = 0; c < curveCount(curves); c++) {
		pollAt(c);
		if (curves.starts[c + 1] - curves.starts[c] >= 2 && !isClosedSection(curves, c)) open++;
	}
	return open;
}

/** Signed: positive counter-clockwise. */
export function areaOfSection(points: Float64Array): number {
	let sum = 0;
	for (let i = 0, n = points.length; i < n; i += 2) {
		pollAt(i);
		const j = (i + 2) % n;
		sum += points[i] * points[j + 1] - points[j] * points[i + 1];
	}
	return sum / 2;
}

export function turnedRound(points: Float64Array): Float64Array {
	const out = scratch('double', points.length);
	for (let i = 0, n = points.length; i < n; i += 2) {
		pollAt(i);
		const j = i === 0 ? 0 : n - i;
		out[i] = points[j];
		out[i + 1] = points[j + 1];
	}
	return out;
}

/** A section with another count of points, evenly by length; a closed one keeps its first point. */
export function resampledSection({ points, closed }: Section, count: number): Section {
	const n = points.length / 2;
	if (n === count) return { points, closed };
	const ends = closed ? n + 1 : n;
	const along = scratch('double', ends);
	for (let i = 1; i < ends; i++) {
		pollAt(i);
		const a = 2 * (i - 1),
			b = 2 * (i % n);
		const x = points[b] - points[a],
			y = points[b + 1] - points[a + 1];
		along[i] = along[i - 1] + Math.sqrt(x * x + y * y);
	}
	const total = along[ends - 1];
	const out = scratch('double', 2 * count);
	for (let k = 0, i = 0; k < count; k++) {
		pollAt(k);
		const want = (total * k) / (closed ? count : count - 1);
		while (i < ends - 2 && along[i + 1] < want) i++;
		const span = along[i + 1] - along[i];
		const t = span > 0 ? Math.min(1, (want - along[i]) / span) : 0;
		const a = 2 * i,
			b = 2 * ((i + 1) % n);
		out[2 * k] = points[a] + (points[b] - points[a]) * t;
		out[2 * k + 1] = points[a + 1] + (points[b + 1] - points[a + 1]) * t;
	}
	return { points: out, closed };
}

/** Metres around each point of a section, and the whole way round. */
export function lengthsOfSection({ points, closed }: Section): { along: Float64Array; whole: number } {
	const n = points.length / 2;
	const along = scratch('double', n);
	let whole = 0;
	for (let i = 1; i <= n; i++) {
		pollAt(i);
		const a = 2 * (i - 1),
			b = 2 * (i % n);
		if (i === n && !closed) break;
		const x = points[b] - points[a],
			y = points[b + 1] - points[a + 1];
		whole += Math.sqrt(x * x + y * y);
		if (i < n) along[i] = whole;
	}
	return { along, whole };
}

/** Where the plane of curves lies along the axis that it leaves out, in metres. */
export function heightOf(curves: Curves): number {
	const [a, , b] = planeOf(curves);
	const p = positionsOf(curves);
	return p.length ? p[3 - a - b] : 0;
}
