/**
 * Flat regions cut into triangles, every point of every outline kept, also those on straight sides: a constrained Delaunay
 * triangulation of all points, of which the triangles inside stay. Takes n log n.
 */
import Constrainautor from '@kninnug/constrainautor';
import { Growing, pollAt, scratch } from '../geometry/index.ts';
import { mix } from '../math/index.ts';
import { delaunay } from './delaunay.ts';

/** Loops of places in a plane, two numbers a place, one after another. */
export interface Loops {
	places: Float64Array;
	/** For each loop its first place, and one more entry: the count of places. */
	starts: Uint32Array;
}

/** The loops of a list, one after another. */
export function loopsOf(loops: readonly Float64Array[]): Loops {
	const starts = scratch('index', loops.length + 1);
	for (let l = 0; l < loops.length; l++) {
		pollAt(l);
		starts[l + 1] = starts[l] + loops[l].length / 2;
	}
	const places = scratch('double', 2 * starts[loops.length]);
	for (let l = 0; l < loops.length; l++) {
		pollAt(l);
		places.set(loops[l], 2 * starts[l]);
	}
	return { places, starts };
}

/**
 * Triangles of what lies inside an odd number of loops, as three places each, in no particular sense of rotation. Null where
 * the loops cross one another: then there is no such triangulation.
 */
export function triangulate({ places, starts }: Loops): Uint32Array | null {
	const first = firstOfEqual(places);
	let cut = triangulated(places, starts, first);
	// One in 500 outlines with places on straight sides is refused, as rounding puts a side through a place. Shaken by far less
	// than matters, none of 60,000 is.
	for (let k = 0; !cut && k < SHAKES.length; k++)
		cut = triangulated(shaken(places, first, SHAKES[k]), starts, first);
	return cut;
}

/** How far places are shaken, in turn, in shares of the size of the whole. */
const SHAKES = [1e-10, 1e-9, 1e-8];

/** Places moved a little, each by numbers of its own; equal ones alike. */
function shaken(places: Float64Array, first: Uint32Array, share: number): Float64Array {
	let size = 0;
	for (let i = 0; i < places.length; i++) {
		pollAt(i);
		size = Math.max(size, Math.abs(places[i] - places[i % 2]));
	}
	const out = scratch('double', places.length);
	for (let i = 0; i < places.length; i++) {
		pollAt(i);
		const chance = (mix(mix(share * 1e10, first[i >> 1]), i & 1) >>> 0) / 4294967296;
		out[i] = places[i] + (chance - 0.5) * share * size;
	}
	return out;
}

function triangulated(places: Float64Array, starts: Uint32Array, first: Uint32Array): Uint32Array | null {
	const count = places.length / 2;
	const { triangles, halfedges, hull } = delaunay(places);
	if (!triangles.length) return scratch('index', 0);
	const sides = sidesOf(starts, first, count);
	const fixed = new Constrainautor({ coords: places, triangles, halfedges, hull });
	try {
		for (let i = 0; i < sides.length; i++) {
			pollAt(i);
			fixed.constrainOne(Math.floor(sides[i] / count), sides[i] % count);
		}
	} catch (error) {
		if (isCrossing(error)) return null;
		throw error;
	}
	return inside(triangles, halfedges, (edge) => fixed.isConstrained(edge));
}

/** What the library says of edges that cannot be made part of the triangulation. */
const isCrossing = (error: unknown): boolean =>
	error instanceof Error && /intersect|through|constrain|edge/i.test(error.message);

/** For each place the first that is equal to it. Found by sorting. */
function firstOfEqual(places: Float64Array): Uint32Array {
	const count = places.length / 2;
	const order = scratch('index', count);
	for (let i = 0; i < count; i++) {
		pollAt(i);
		order[i] = i;
	}
	order.sort((a, b) => places[2 * a] - places[2 * b] || places[2 * a + 1] - places[2 * b + 1] || a - b);
	const first = scratch('index', count);
	for (let i = 0; i < count; i++) {
		pollAt(i);
		const [p, before] = [order[i], order[i - 1]];
		const isEqual =
			i > 0 && places[2 * p] === places[2 * before] && places[2 * p + 1] === places[2 * before + 1];
		first[p] = isEqual ? first[before] : p;
	}
	return first;
}

/** The sides of all loops as numbers `low × count + high`. One that is passed twice is none: both are on the same side of it. */
function sidesOf(starts: Uint32Array, first: Uint32Array, count: number): Float64Array {
	const keys = new Growing('double');
	for (let l = 0; l + 1 < starts.length; l++)
		for (let i = starts[l]; i < starts[l + 1]; i++) {
			const a = first[i],
				b = first[i + 1 < starts[l + 1] ? i + 1 : starts[l]];
			if (a !== b) keys.push(a < b ? a * count + b : b * count + a);
		}
	const sorted = keys.take().sort();
	let kept = 0;
	for (let i = 0; i < sorted.length;) {
		pollAt(i);
		let next = i;
		while (next < sorted.length && sorted[next] === sorted[i]) next++;
		if ((next - i) % 2 === 1) sorted[kept++] = sorted[i];
		i = next;
	}
	return sorted.subarray(0, kept);
}

/** The triangles that an odd number of sides separates from outside. */
function inside(
	triangles: ArrayLike<number>,
	halfedges: ArrayLike<number>,
	isSide: (edge: number) => boolean
): Uint32Array {
	/** 0 not seen, 1 outside, 2 inside. */
	const found = scratch('byte', triangles.length / 3);
	const queue = new Growing('index');
	for (let edge = 0; edge < halfedges.length; edge++) {
		pollAt(edge);
		const t = Math.floor(edge / 3);
		if (halfedges[edge] >= 0 || found[t]) continue;
		found[t] = isSide(edge) ? 2 : 1;
		queue.push(t);
	}
	const out = new Growing('index');
	for (let at = 0; at < queue.length; at++) {
		const t = queue.at(at);
		if (found[t] === 2) for (let k = 0; k < 3; k++) out.push(triangles[3 * t + k]);
		for (let edge = 3 * t; edge < 3 * t + 3; edge++) {
			const other = halfedges[edge];
			if (other < 0) continue;
			const next = Math.floor(other / 3);
			if (found[next]) continue;
			found[next] = isSide(edge) ? 3 - found[t] : found[t];
			queue.push(next);
		}
	}
	return out.take();
}
