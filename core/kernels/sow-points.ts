/**
 * Points sown over the faces of a mesh, in proportion to area times weight. Counter-based: point number n is the same
 * whatever the count, so raising the count keeps the earlier points where they were.
 */
import {
	allocate,
	checkScratch,
	derive,
	positionsOf,
	shapeOf,
	together,
	trianglesOf
} from '../geometry/index.ts';
import type { Mesh } from '../geometry/index.ts';
import { SOWING_BLOCK, SowingRoom } from '../wasm/sowing.ts';
import { standOff } from './stand-off.ts';

/** Values to be blended across triangles at the points sown on them. */
export interface Blend {
	source: Float32Array;
	/** Numbers for each row of the source and each point, 1 … 4. */
	width: number;
	/** The row in the source of each corner of each triangle. */
	rows: Uint32Array;
}

/** Where points were sown. */
export interface Sown {
	positions: Float32Array;
	/** The face of each point. */
	faces: Uint32Array;
	/** Two words for each point, from the stream and its number, unless they were not wanted. */
	ids: Uint32Array | null;
	/** The triangle of each point (see `trianglesOf`), where asked for. */
	triangles: Uint32Array | null;
	/** Normals of length 1, and the rotations that stand off them, where corner normals were given. */
	normals: Float32Array | null;
	orientations: Float32Array | null;
	/** What was asked to be blended, in that order. */
	blended: Float32Array[];
}

export interface SowOptions {
	/** Points wanted. With a least distance, darts to throw. */
	count: number;
	stream: readonly [number, number];
	/** How much of each face counts, 0 or more; null for all alike. */
	weights: ArrayLike<number> | null;
	/** What `cumulativeAreas` gives for these weights, where it is known already. */
	areas?: Float64Array;
	/** Normals of corners, to be blended for each point; null for none. */
	normals?: Float32Array | null;
	/** Whether orientations are made from the normals. */
	orientations?: boolean;
	blends?: readonly Blend[];
	/** Whether ids are given (they are unless this is false), and triangles. */
	ids?: boolean;
	triangles?: boolean;
	poll?: () => void;
}

/** Square metres of the triangles, times the weights of their faces, summed up to each triangle. */
export function cumulativeAreas(mesh: Mesh, weights: ArrayLike<number> | null): Float64Array {
	if (weights) return sumAreas(mesh, weights);
	return derive(shapeOf(mesh), 'areas of triangles, summed', () => sumAreas(mesh, null));
}

function sumAreas(mesh: Mesh, weights: ArrayLike<number> | null): Float64Array {
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

/** Bytes of a slot, and of the rows of a triangle. */
const SLOT_BYTES = 8,
	ROW_BYTES = 16;

/** Sows points. An area of zero gives none. */
export function sowPoints(mesh: Mesh, options: SowOptions): Sown {
	const { count, stream, weights, normals = null, blends = [], poll = () => {} } = options;
	const { corners, faces: faceOf } = trianglesOf(mesh);
	const sums = options.areas ?? cumulativeAreas(mesh, weights);
	const n = sums.length && sums[sums.length - 1] > 0 ? count : 0;
	const sown: Sown = {
		positions: allocate('float', 3 * n),
		faces: allocate('index', n),
		ids: options.ids === false ? null : allocate('index', 2 * n),
		triangles: options.triangles ? allocate('index', n) : null,
		normals: normals && allocate('float', 3 * n),
		orientations: normals && options.orientations ? allocate('float', 4 * n) : null,
		blended: blends.map(({ width }) => allocate('float', width * n))
	};
	if (!n) return sown;
	const all: (Blend & { out: Float32Array })[] = [
		{ source: positionsOf(mesh), width: 3, rows: pointsOfTriangles(mesh), out: sown.positions },
		...(normals ? [{ source: normals, width: 3, rows: corners, out: sown.normals! }] : []),
		...blends.map((blend, i) => ({ ...blend, out: sown.blended[i] }))
	];
	const groups = [...new Set(all.map(({ rows }) => rows))].map((rows) => groupOf(rows, all));
	let bytes = SLOT_BYTES * faceOf.length + 16;
	for (const { records, width } of groups) bytes += ROW_BYTES * faceOf.length + 4 * records * width + 48;
	checkScratch(bytes);
	const room = new SowingRoom(bytes, [sums, ...all.flatMap(({ rows, source }) => [rows, source])]);
	const slots = room.take(SLOT_BYTES * faceOf.length);
	if (!room.isFilled) writeSlots(room.words(slots, 2 * faceOf.length), sums);
	const placed = groups.map((group) => ({
		...group,
		table: writeRows(room, group.rows, faceOf),
		recordsAt: writeRecords(room, group)
	}));
	room.markFilled();
	sowBlocks(room, slots, faceOf.length, stream, placed, sown, poll);
	return sown;
}

/** Values that are read at the same rows. They lie side by side in one record, so that one slow read brings them all. */
interface Group {
	rows: Uint32Array;
	records: number;
	/** Numbers in a record. */
	width: number;
	members: (Blend & { out: Float32Array; offset: number })[];
}

function groupOf(rows: Uint32Array, all: readonly (Blend & { out: Float32Array })[]): Group {
	let width = 0,
		records = 0;
	const members = all
		.filter((blend) => blend.rows === rows)
		.map((blend) => {
			const offset = width;
			width += blend.width;
			records = blend.source.length / blend.width;
			return { ...blend, offset };
		});
	return { rows, records, width, members };
}

/** Blocks of points, each drawn and blended while it is in the near cache. */
function sowBlocks(
	room: SowingRoom,
	slots: number,
	slotCount: number,
	[first, second]: readonly [number, number],
	groups: readonly (Group & { table: number; recordsAt: number })[],
	{ ids, faces, triangles, normals, orientations }: Sown,
	poll: () => void
): void {
	const { sowing } = room;
	const roomIds = room.words(room.ids, 2 * SOWING_BLOCK),
		roomTriangles = room.words(room.triangles, SOWING_BLOCK),
		roomFaces = room.words(room.fourths, SOWING_BLOCK);
	const out = room.floats(room.out, 4 * SOWING_BLOCK),
		secondOut = room.floats(room.secondOut, 4 * SOWING_BLOCK);
	for (let from = 0; from < faces.length; from += SOWING_BLOCK) {
		poll();
		const n = Math.min(SOWING_BLOCK, faces.length - from);
		sowing.name(n, room.ids, first, second, from);
		sowing.choose(n, room.triangles, room.ids, slots, slotCount);
		sowing.share(n, room.shares, room.ids);
		ids?.set(roomIds.subarray(0, 2 * n), 2 * from);
		triangles?.set(roomTriangles.subarray(0, n), from);
		for (const { table, recordsAt, width: stride, members } of groups) {
			sowing.locate(n, room.corners, room.fourths, room.triangles, table, recordsAt, 4 * stride);
			for (const { width, offset, out: to } of members) {
				sowing.blend(n, room.out, width, room.corners, room.shares, 4 * offset);
				if (to === normals) {
					sowing.normalize(n, room.out);
					if (orientations) {
						// The few that point along z are left to the general way, which does all of the block again.
						if (sowing.standOff(n, room.secondOut, room.out))
							standOff(secondOut.subarray(0, 4 * n), out.subarray(0, 3 * n));
						orientations.set(secondOut.subarray(0, 4 * n), 4 * from);
					}
				}
				to.set(out.subarray(0, width * n), width * from);
			}
		}
		faces.set(roomFaces.subarray(0, n), from);
	}
}

/** The point of each corner of each triangle. */
export function pointsOfTriangles(mesh: Mesh): Uint32Array {
	const { cornerPoints } = mesh.topology;
	const { corners } = trianglesOf(mesh);
	return derive(together(corners, mesh.topology), 'points of triangles', () => {
		const points = new Uint32Array(corners.length);
		for (let i = 0; i < corners.length; i++) points[i] = cornerPoints[corners[i]];
		return points;
	});
}

/** Four words for every triangle: its rows, and its face. Gives the table's address. */
function writeRows(room: SowingRoom, rows: Uint32Array, faceOf: Uint32Array): number {
	const at = room.take(ROW_BYTES * faceOf.length);
	if (room.isFilled) return at;
	const words = room.words(at, 4 * faceOf.length);
	for (let t = 0, i = 0, o = 0; t < faceOf.length; t++, i += 3, o += 4) {
		words[o] = rows[i];
		words[o + 1] = rows[i + 1];
		words[o + 2] = rows[i + 2];
		words[o + 3] = faceOf[t];
	}
	return at;
}

/** The values of a group, side by side. Gives the address. */
function writeRecords(room: SowingRoom, { records, width, members }: Group): number {
	const at = room.take(4 * records * width + 16);
	if (room.isFilled) return at;
	const all = room.floats(at, records * width);
	for (const { source, width: own, offset } of members)
		for (let k = 0; k < own; k++)
			for (let i = k, o = offset + k; i < source.length; i += own, o += width) all[o] = source[i];
	return at;
}

/**
 * Slots of equal chance: each holds one triangle up to a limit, and another beyond it; two words, the limit in units of
 * 2⁻³². One look decides a triangle, where a search in the sums takes many: the alias method (Michael D. Vose, “A Linear
 * Algorithm for Generating Random Numbers with a Given Distribution”, 1991).
 */
function writeSlots(slots: Uint32Array, sums: Float64Array): void {
	const n = sums.length;
	const limits = new Float64Array(n);
	// Small ones from the front, large ones from the back.
	const waiting = new Uint32Array(n);
	let smalls = 0,
		larges = n;
	for (let t = 0; t < n; t++) {
		limits[t] = ((sums[t] - (t ? sums[t - 1] : 0)) / sums[n - 1]) * n;
		if (limits[t] < 1) waiting[smalls++] = t;
		else waiting[--larges] = t;
	}
	const close = (t: number, limit: number, other: number) => {
		const word = Math.ceil(limit * 4294967296);
		slots[2 * t] = word;
		slots[2 * t + 1] = word > 4294967295 ? t : other;
	};
	while (smalls && larges < n) {
		const s = waiting[--smalls],
			l = waiting[larges];
		close(s, limits[s], l);
		limits[l] -= 1 - limits[s];
		if (limits[l] < 1) {
			larges++;
			waiting[smalls++] = l;
		}
	}
	// What is left is 1 but for rounding; a triangle without area must still never be drawn.
	while (larges < n) close(waiting[larges++], 1, 0);
	while (smalls) {
		const s = waiting[--smalls];
		close(s, limits[s] > 0.5 ? 1 : limits[s], 0);
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
