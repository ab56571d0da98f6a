/** Points moved towards the middle of their neighbours, again and again. */
import { Growing, allocate, edgesOf, pollAt, positionsOf, scratch, setInPieces } from '../geometry/index.ts';
import type { Curves, Geometry, Mesh } from '../geometry/index.ts';

export interface RelaxOptions {
	/** How often. */
	iterations: number;
	/** How far towards the middle, for each point. */
	share: Float32Array;
	/** Whether ends of curves and open edges of meshes stay. */
	keepEnds: boolean;
}

/** The new positions of the points of a geometry’s mesh or curves. */
export function relaxed(
	geometry: Geometry,
	part: 'mesh' | 'curves',
	{ iterations, share, keepEnds }: RelaxOptions
): Float32Array {
	const pairs = pairsIn(geometry, part);
	const own = geometry[part]!;
	if (keepEnds) {
		const fixed = bordersOf(pairs, part === 'mesh' ? geometry.mesh! : null, own.points.count);
		for (let i = 0; i < share.length; i++) {
			pollAt(i);
			if (fixed[i]) share[i] = 0;
		}
	}
	return smoothed(positionsOf(own), 3, pairs, share, iterations);
}

/** The points of a mesh or of curves that are neighbours, two by two. */
export const pairsIn = (geometry: Geometry, part: 'mesh' | 'curves'): Uint32Array =>
	part === 'mesh' ? edgesOf(geometry.mesh!.topology).points : pairsOfCurves(geometry.curves!);

function pairsOfCurves({ starts, curves }: Curves): Uint32Array {
	const closed = curves.columns.get('closed')!.data;
	const out = new Growing('index');
	const push = (a: number, b: number) => {
		out.push(a);
		out.push(b);
	};
	for (let c = 0; c + 1 < starts.length; c++) {
		pollAt(c);
		for (let i = starts[c]; i + 1 < starts[c + 1]; i++) push(i, i + 1);
		if (closed[c] && starts[c + 1] - starts[c] > 2) push(starts[c + 1] - 1, starts[c]);
	}
	return out.take();
}

/** On curves the points with one neighbour, on meshes those of edges that only one face uses. */
function bordersOf(pairs: Uint32Array, mesh: Mesh | null, count: number): Uint8Array {
	const out = scratch('byte', count);
	if (mesh) {
		const { uses } = edgesOf(mesh.topology);
		for (let e = 0; e < uses.length; e++) {
			pollAt(e);
			if (uses[e] === 1) out[pairs[2 * e]] = out[pairs[2 * e + 1]] = 1;
		}
		return out;
	}
	const neighbours = scratch('index', count);
	for (let i = 0; i < pairs.length; i++) {
		pollAt(i);
		neighbours[pairs[i]]++;
	}
	for (let i = 0; i < count; i++) {
		pollAt(i);
		out[i] = neighbours[i] < 2 ? 1 : 0;
	}
	return out;
}

/** Rows moved towards the mean of their neighbours, again and again; each by its share. */
export function smoothed(
	values: Float32Array,
	width: number,
	pairs: Uint32Array,
	share: Float32Array,
	iterations: number
): Float32Array {
	let from = scratch('double', values.length),
		to = scratch('double', from.length);
	setInPieces(from, values);
	const counts = scratch('double', share.length);
	for (let i = 0; i < pairs.length; i++) {
		pollAt(i);
		counts[pairs[i]]++;
	}
	for (let time = 0; time < iterations; time++) {
		if (time > 0)
			for (let i = 0; i < to.length; i++) {
				pollAt(i);
				to[i] = 0;
			}
		for (let e = 0; e < pairs.length; e += 2) {
			pollAt(e >> 1);
			const a = width * pairs[e],
				b = width * pairs[e + 1];
			for (let k = 0; k < width; k++) {
				to[a + k] += from[b + k];
				to[b + k] += from[a + k];
			}
		}
		for (let i = 0; i < share.length; i++) {
			pollAt(i);
			for (let k = width * i; k < width * i + width; k++)
				to[k] = counts[i] && share[i] !== 0 ? from[k] + (to[k] / counts[i] - from[k]) * share[i] : from[k];
		}
		[from, to] = [to, from];
	}
	const out = allocate('float', values.length);
	setInPieces(out, from);
	return out;
}
