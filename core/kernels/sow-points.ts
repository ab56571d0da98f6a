/**
 * Points sown over the faces of a mesh, in proportion to area times weight. Counter-based: point number n is the same
 * whatever the count, so raising the count keeps the earlier points where they were.
 */
import { mix, toUnit } from '../math/index.ts';
import { allocate, trianglesOf, positionsOf } from '../geometry/index.ts';
import type { Mesh } from '../geometry/index.ts';

/** Where points were sown. */
export interface Sown {
	positions: Float32Array;
	/** The face of each point. */
	faces: Uint32Array;
	/** The triangle of each point (see `trianglesOf`), and its place in it: shares of the second and third corner. */
	triangles: Uint32Array;
	shares: Float32Array;
	/** Two words for each point, from the stream and its number. */
	ids: Uint32Array;
}

export interface SowOptions {
	/** Points wanted. With a least distance, darts to throw. */
	count: number;
	stream: readonly [number, number];
	/** How much of each face counts, 0 or more; null for all alike. */
	weights: ArrayLike<number> | null;
	poll?: () => void;
}

/** Square metres of the triangles, times the weights of their faces, summed up to each triangle. */
export function cumulativeAreas(mesh: Mesh, weights: ArrayLike<number> | null): Float64Array {
	const p = positionsOf(mesh);
	const { corners, faces } = trianglesOf(mesh);
	const { cornerPoints } = mesh.topology;
	const sums = new Float64Array(faces.length);
	let sum = 0;
	for (let t = 0; t < faces.length; t++) {
		const a = 3 * cornerPoints[corners[3 * t]],
			b = 3 * cornerPoints[corners[3 * t + 1]],
			c = 3 * cornerPoints[corners[3 * t + 2]];
		const ux = p[b] - p[a],
			uy = p[b + 1] - p[a + 1],
			uz = p[b + 2] - p[a + 2];
		const vx = p[c] - p[a],
			vy = p[c + 1] - p[a + 1],
			vz = p[c + 2] - p[a + 2];
		const x = uy * vz - uz * vy,
			y = uz * vx - ux * vz,
			z = ux * vy - uy * vx;
		const area = 0.5 * Math.sqrt(x * x + y * y + z * z);
		const weight = weights ? weights[faces[t]] : 1;
		if (area > 0 && weight > 0) sum += area * weight;
		sums[t] = sum;
	}
	return sums;
}

/** Sows points. An area of zero gives none. */
export function sowPoints(mesh: Mesh, { count, stream, weights, poll }: SowOptions): Sown {
	const { faces: faceOf } = trianglesOf(mesh);
	const sums = cumulativeAreas(mesh, weights);
	const total = sums.length ? sums[sums.length - 1] : 0;
	const n = total > 0 ? count : 0;
	const positions = allocate('float', 3 * n);
	const faces = allocate('index', n);
	const triangles = allocate('index', n);
	const shares = allocate('float', 2 * n);
	const ids = allocate('index', 2 * n);
	nameAll(ids, stream, poll);
	chooseTriangles(triangles, ids, sums, total, poll);
	place(positions, shares, ids, triangles, edgesOfTriangles(mesh), poll);
	gather(faces, faceOf, triangles);
	return { positions, faces, triangles, shares, ids };
}

// Each loop stands alone and is small, so that the engine inlines the mixing: in one loop it took four times as long.

function gather(out: Uint32Array, from: Uint32Array, rows: Uint32Array): void {
	for (let i = 0; i < out.length; i++) out[i] = from[rows[i]];
}

function nameAll(ids: Uint32Array, [first, second]: readonly [number, number], poll?: () => void): void {
	for (let i = 0, n = ids.length / 2; i < n; i++) {
		if (poll && (i & 1023) === 0) poll();
		ids[2 * i] = mix(first, i);
		ids[2 * i + 1] = mix(second, i);
	}
}

function chooseTriangles(
	triangles: Uint32Array,
	ids: Uint32Array,
	sums: Float64Array,
	total: number,
	poll?: () => void
): void {
	// A table from even steps of the sum to triangles: the search starts within a triangle or two of its end.
	const buckets = Math.max(1, Math.min(1 << 20, sums.length * 2));
	const guide = new Uint32Array(buckets + 1);
	for (let b = 0, t = 0; b <= buckets; b++) {
		while (t < sums.length - 1 && sums[t] <= (b / buckets) * total) t++;
		guide[b] = t;
	}
	const last = sums.length - 1;
	for (let i = 0; i < triangles.length; i++) {
		if (poll && (i & 1023) === 0) poll();
		// 53 bits choose the triangle: 32 would never reach one of 2^-33 of the area.
		let pick = toUnit(mix(ids[2 * i], 1)) + toUnit(ids[2 * i + 1]) * 2.3283064365386963e-10;
		if (pick >= 1) pick = 0;
		const target = pick * total;
		let t = guide[(pick * buckets) >>> 0];
		while (sums[t] <= target && t < last) t++;
		triangles[i] = t;
	}
}

/** Nine numbers a triangle, side by side: its first corner, and the ways to the second and third. */
function edgesOfTriangles(mesh: Mesh): Float32Array {
	const p = positionsOf(mesh);
	const { corners } = trianglesOf(mesh);
	const { cornerPoints } = mesh.topology;
	const out = new Float32Array(corners.length * 3);
	for (let t = 0; t < corners.length; t += 3) {
		const a = 3 * cornerPoints[corners[t]],
			b = 3 * cornerPoints[corners[t + 1]],
			c = 3 * cornerPoints[corners[t + 2]];
		for (let k = 0; k < 3; k++) {
			out[3 * t + k] = p[a + k];
			out[3 * t + 3 + k] = p[b + k] - p[a + k];
			out[3 * t + 6 + k] = p[c + k] - p[a + k];
		}
	}
	return out;
}

function place(
	positions: Float32Array,
	shares: Float32Array,
	ids: Uint32Array,
	triangles: Uint32Array,
	edges: Float32Array,
	poll?: () => void
): void {
	for (let i = 0; i < triangles.length; i++) {
		if (poll && (i & 1023) === 0) poll();
		let u = toUnit(mix(ids[2 * i], 2)),
			v = toUnit(mix(ids[2 * i], 3));
		if (u + v > 1) {
			u = 1 - u;
			v = 1 - v;
		}
		const e = 9 * triangles[i],
			o = 3 * i;
		positions[o] = edges[e] + u * edges[e + 3] + v * edges[e + 6];
		positions[o + 1] = edges[e + 1] + u * edges[e + 4] + v * edges[e + 7];
		positions[o + 2] = edges[e + 2] + u * edges[e + 5] + v * edges[e + 8];
		shares[2 * i] = u;
		shares[2 * i + 1] = v;
	}
}

/**
 * Of points in order, those that keep a least distance from all kept before them: the first of a pair stays.
 * A grid of cells as wide as the distance, chained through flat arrays (cells are hashed, never listed).
 * @returns the rows that are kept.
 */
export function keepApart(positions: Float32Array, distance: number, poll?: () => void): Uint32Array {
	const n = positions.length / 3;
	const size = Math.max(16, 1 << (32 - Math.clz32(n)));
	const heads = new Int32Array(size).fill(-1);
	const next = new Int32Array(n);
	const kept = new Uint32Array(n);
	const square = distance * distance;
	const scale = 1 / distance;
	let count = 0;
	for (let i = 0; i < n; i++) {
		if (poll && (i & 1023) === 0) poll();
		const x = positions[3 * i],
			y = positions[3 * i + 1],
			z = positions[3 * i + 2];
		const cx = Math.floor(x * scale),
			cy = Math.floor(y * scale),
			cz = Math.floor(z * scale);
		let free = true;
		for (let dx = -1; dx <= 1 && free; dx++)
			for (let dy = -1; dy <= 1 && free; dy++)
				for (let dz = -1; dz <= 1 && free; dz++) {
					let j = heads[cellOf(cx + dx, cy + dy, cz + dz) & (size - 1)];
					while (j >= 0) {
						const ex = positions[3 * j] - x,
							ey = positions[3 * j + 1] - y,
							ez = positions[3 * j + 2] - z;
						if (ex * ex + ey * ey + ez * ez < square) {
							free = false;
							break;
						}
						j = next[j];
					}
				}
		if (!free) continue;
		const cell = cellOf(cx, cy, cz) & (size - 1);
		next[i] = heads[cell];
		heads[cell] = i;
		kept[count++] = i;
	}
	return kept.slice(0, count);
}

const cellOf = (x: number, y: number, z: number): number => {
	const h = Math.imul(x, 0x9e3779b1) ^ Math.imul(y, 0x85ebca6b) ^ Math.imul(z, 0xc2b2ae35);
	return h ^ (h >>> 15);
};
