/** Drawn control points as polylines: straight, through the points (Catmull-Rom), or by handles (Bézier). */
import { pollAt } from '../geometry/index.ts';

export interface ControlPoint {
	at: readonly [number, number, number];
	/** Steps away from the point, in metres. */
	in?: readonly [number, number, number];
	out?: readonly [number, number, number];
	/** The curve ends here; the next point begins another. */
	ends?: boolean;
}

/** The curves of a drawing: runs of points up to one that ends. */
export function piecesOf(points: readonly ControlPoint[]): ControlPoint[][] {
	const pieces: ControlPoint[][] = [];
	let run: ControlPoint[] = [];
	for (const point of points) {
		run.push(point);
		if (!point.ends) continue;
		pieces.push(run);
		run = [];
	}
	if (run.length) pieces.push(run);
	return pieces;
}

/** Where a point can be split: within a curve, or anywhere on a closed one. */
export function canSplit(points: readonly ControlPoint[], i: number, closed: boolean): boolean {
	if (closed) return piecesOf(points).length === 1 && points.length > 2;
	return i > 0 && i + 1 < points.length && !points[i].ends && !points[i - 1].ends;
}

/** Two curves that meet where there was one; a closed curve is opened there. Each keeps its own handle. */
export function splitAt(
	points: readonly ControlPoint[],
	i: number,
	closed: boolean
): { path: ControlPoint[]; closed: boolean } {
	if (!canSplit(points, i, closed)) return { path: [...points], closed };
	const { at, in: before, out } = points[i];
	const last: ControlPoint = { at, ...(before && { in: before }) },
		first: ControlPoint = { at, ...(out && { out }) };
	if (closed) return { path: [first, ...points.slice(i + 1), ...points.slice(0, i), last], closed: false };
	return {
		path: [...points.slice(0, i), { ...last, ends: true }, first, ...points.slice(i + 1)],
		closed: false
	};
}

/** The curve that ends at a point goes on with the next one; points at one place become one. */
export function joinAt(points: readonly ControlPoint[], i: number): ControlPoint[] {
	const point = points[i],
		next = points[i + 1];
	if (!point?.ends || !next) return [...points];
	const { ends: _, ...open } = point;
	if (point.at.some((x, k) => x !== next.at[k])) return [...points.slice(0, i), open, ...points.slice(i + 1)];
	const one: ControlPoint = {
		at: point.at,
		...(point.in && { in: point.in }),
		...(next.out && { out: next.out }),
		...(next.ends && { ends: true })
	};
	return [...points.slice(0, i), one, ...points.slice(i + 2)];
}

/** Without a point; where a curve ended at it, it ends at the one before. */
export function withoutPoint(points: readonly ControlPoint[], i: number): ControlPoint[] {
	const out = points.filter((_, k) => k !== i);
	if (points[i]?.ends && i > 0 && !points[i - 1].ends) out[i - 1] = { ...points[i - 1], ends: true };
	return out;
}

export type PathType = 'straight' | 'through' | 'bezier';

/**
 * Points along a drawn curve, 3 numbers each; control points are among them, and a closed curve does not repeat its first.
 * @param steps pieces between two control points, at least 1.
 * Catmull-Rom is centripetal (Yuksel, Schaefer and Keyser, “Parameterization and Applications of Catmull-Rom Curves”,
 * 2011), which makes no loops between uneven points.
 */
export function samplePath(
	points: readonly ControlPoint[],
	type: PathType,
	closed: boolean,
	steps: number
): number[] {
	const n = points.length;
	const out: number[] = [];
	if (n < 2) return points.flatMap((p) => [...p.at]);
	const spans = closed && n > 2 ? n : n - 1;
	const at = (i: number) => points[closed ? (i + n) % n : Math.max(0, Math.min(n - 1, i))].at;
	for (let i = 0; i < spans; i++) {
		pollAt(i);
		const a = at(i),
			b = at(i + 1);
		out.push(...a);
		if (type === 'straight') continue;
		for (let s = 1; s < steps; s++) {
			const t = s / steps;
			if (type === 'bezier') {
				const from = points[i],
					to = points[(i + 1) % n];
				for (let k = 0; k < 3; k++) {
					const u = 1 - t;
					const p1 = a[k] + (from.out?.[k] ?? 0),
						p2 = b[k] + (to.in?.[k] ?? 0);
					out.push(u * u * u * a[k] + 3 * u * u * t * p1 + 3 * u * t * t * p2 + t * t * t * b[k]);
				}
			} else
				out.push(
					...throughPoints(mirrored(at, i - 1, i, closed), a, b, mirrored(at, i + 2, i + 1, closed), t)
				);
		}
	}
	if (spans < n) out.push(...points[n - 1].at);
	return out;
}

type Vector = readonly [number, number, number];

/** The neighbour of a span's end; past the end of an open curve the mirror image of the span. */
function mirrored(at: (i: number) => Vector, i: number, end: number, closed: boolean): Vector {
	const p = at(i),
		e = at(end);
	if (closed || p !== e) return p;
	const other = at(end + (end - i));
	return [2 * e[0] - other[0], 2 * e[1] - other[1], 2 * e[2] - other[2]];
}

const distance = (a: Vector, b: Vector): number => {
	const x = b[0] - a[0],
		y = b[1] - a[1],
		z = b[2] - a[2];
	return Math.sqrt(x * x + y * y + z * z);
};

function throughPoints(p0: Vector, p1: Vector, p2: Vector, p3: Vector, t: number): Vector {
	// Knots by the root of the distance; equal points keep a little, so that nothing is divided by zero.
	const d01 = Math.sqrt(distance(p0, p1)) || 1e-6,
		d12 = Math.sqrt(distance(p1, p2)) || 1e-6,
		d23 = Math.sqrt(distance(p2, p3)) || 1e-6;
	const out: [number, number, number] = [0, 0, 0];
	for (let k = 0; k < 3; k++) {
		const m1 = d12 * ((p1[k] - p0[k]) / d01 - (p2[k] - p0[k]) / (d01 + d12) + (p2[k] - p1[k]) / d12);
		const m2 = d12 * ((p2[k] - p1[k]) / d12 - (p3[k] - p1[k]) / (d12 + d23) + (p3[k] - p2[k]) / d23);
		const t2 = t * t,
			t3 = t2 * t;
		out[k] =
			(2 * t3 - 3 * t2 + 1) * p1[k] + (t3 - 2 * t2 + t) * m1 + (3 * t2 - 2 * t3) * p2[k] + (t3 - t2) * m2;
	}
	return out;
}
