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
export function sowPoints(mesh: Mesh, { count, stream, weights, poll = () => {} }: SowOptions): Sown {
	const { faces: faceOf } = trianglesOf(mesh);
	const sums = cumulativeAreas(mesh, weights);
	const n = sums.length && sums[sums.length - 1] > 0 ? count : 0;
	const positions = allocate('float', 3 * n);
	const faces = allocate('index', n);
	const triangles = allocate('index', n);
	const shares = allocate('float', 2 * n);
	const ids = allocate('index', 2 * n);
	const draw = drawTable(sums);
	// Each pass stands alone and is small, so that the engine inlines the mixing and the machine runs ahead of slow reads:
	// one loop over everything took three times as long.
	eachBlock(n, poll, (from, to) => {
		nameSome(ids, stream, from, to);
		chooseTriangles(triangles, ids, draw, from, to);
		share(shares, ids, from, to);
	});
	eachBlock(n, poll, (from, to) => readFaces(faces, faceOf, triangles, from, to));
	const sown: Sown = { positions, faces, triangles, shares, ids };
	blendAcross(positions, positionsOf(mesh), 3, pointsOfTriangles(mesh), sown, poll);
	return sown;
}

const BLOCK = 4096;

function eachBlock(count: number, poll: () => void, work: (from: number, to: number) => void): void {
	for (let from = 0; from < count; from += BLOCK) {
		poll();
		work(from, Math.min(count, from + BLOCK));
	}
}

function readFaces(out: Uint32Array, faceOf: Uint32Array, rows: Uint32Array, from: number, to: number): void {
	for (let i = from; i < to; i++) out[i] = faceOf[rows[i]];
}

function nameSome(
	ids: Uint32Array,
	[first, second]: readonly [number, number],
	from: number,
	to: number
): void {
	for (let i = from; i < to; i++) {
		ids[2 * i] = mix(first, i);
		ids[2 * i + 1] = mix(second, i);
	}
}

/** Slots of equal chance: each holds one triangle up to a limit, and another beyond it. */
interface DrawTable {
	limits: Float64Array;
	others: Uint32Array;
}

/**
 * One look decides a triangle, where a search in the sums takes many: the alias method (Michael D. Vose, “A Linear
 * Algorithm for Generating Random Numbers with a Given Distribution”, 1991).
 */
function drawTable(sums: Float64Array): DrawTable {
	const n = sums.length;
	const limits = new Float64Array(n);
	const others = new Uint32Array(n);
	const small = new Uint32Array(n),
		large = new Uint32Array(n);
	let smalls = 0,
		larges = 0;
	for (let t = 0; t < n; t++) {
		limits[t] = ((sums[t] - (t ? sums[t - 1] : 0)) / sums[n - 1]) * n;
		if (limits[t] < 1) small[smalls++] = t;
		else large[larges++] = t;
	}
	while (smalls && larges) {
		const s = small[--smalls],
			l = large[larges - 1];
		others[s] = l;
		limits[l] -= 1 - limits[s];
		if (limits[l] < 1) {
			larges--;
			small[smalls++] = l;
		}
	}
	// What is left is 1 but for rounding; a triangle without area must still never be drawn.
	while (larges) limits[large[--larges]] = 1;
	while (smalls) {
		const s = small[--smalls];
		if (limits[s] > 0.5) limits[s] = 1;
	}
	return { limits, others };
}

function chooseTriangles(
	triangles: Uint32Array,
	ids: Uint32Array,
	{ limits, others }: DrawTable,
	from: number,
	to: number
): void {
	const n = limits.length;
	for (let i = from; i < to; i++) {
		const slot = Math.floor(toUnit(mix(ids[2 * i], 1)) * n);
		triangles[i] = toUnit(ids[2 * i + 1]) < limits[slot] ? slot : others[slot];
	}
}

/** Shares of the second and third corner, even over the triangle: half of the square is folded over. */
function share(shares: Float32Array, ids: Uint32Array, from: number, to: number): void {
	for (let i = from; i < to; i++) {
		const u = toUnit(mix(ids[2 * i], 2)),
			v = toUnit(mix(ids[2 * i], 3));
		const fold = u + v > 1 ? 1 : 0;
		shares[2 * i] = Math.abs(fold - u);
		shares[2 * i + 1] = Math.abs(fold - v);
	}
}

/** The point of each corner of each triangle. */
export function pointsOfTriangles(mesh: Mesh): Uint32Array {
	const { cornerPoints } = mesh.topology;
	return trianglesOf(mesh).corners.map((corner) => cornerPoints[corner]);
}

/**
 * Values blended across triangles at the points sown on them, one component after another: each needs only a short
 * table, which stays in the near cache.
 * @param width numbers for each row of `source` and each point of `out`.
 * @param rows the row in `source` of each corner of each triangle.
 */
export function blendAcross(
	out: Float32Array,
	source: Float32Array,
	width: number,
	rows: Uint32Array,
	{ triangles, shares }: Pick<Sown, 'triangles' | 'shares'>,
	poll: () => void
): void {
	const table = new Float32Array(rows.length);
	for (let k = 0; k < width; k++) {
		fillTable(table, source, width, k, rows);
		eachBlock(triangles.length, poll, (from, to) =>
			blendSome(out, width, k, table, triangles, shares, from, to)
		);
	}
}

/** One component for every triangle, three numbers side by side: at its first corner, and the ways to the others. */
function fillTable(
	table: Float32Array,
	source: Float32Array,
	width: number,
	k: number,
	rows: Uint32Array
): void {
	for (let t = 0; t < rows.length; t += 3) {
		const a = source[rows[t] * width + k];
		table[t] = a;
		table[t + 1] = source[rows[t + 1] * width + k] - a;
		table[t + 2] = source[rows[t + 2] * width + k] - a;
	}
}

function blendSome(
	out: Float32Array,
	width: number,
	k: number,
	table: Float32Array,
	triangles: Uint32Array,
	shares: Float32Array,
	from: number,
	to: number
): void {
	for (let i = from, o = width * from + k; i < to; i++, o += width) {
		const t = 3 * triangles[i];
		out[o] = table[t] + shares[2 * i] * table[t + 1] + shares[2 * i + 1] * table[t + 2];
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
