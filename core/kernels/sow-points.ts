/**
 * Points sown over the faces of a mesh, in proportion to area times weight. Counter-based: point number n is the same
 * whatever the count, so raising the count keeps the earlier points where they were.
 */
import {
	allocate,
	checkScratch,
	derive,
	pollAt,
	positionsOf,
	shapeOf,
	together,
	trianglesOf
} from '../geometry/index.ts';
import type { Mesh } from '../geometry/index.ts';
import { SORTED, SORTED_BITS, SOWING_BLOCK, SowingRoom } from '../wasm/sowing.ts';
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
	/** The face of each point; and two words for each point, from the stream and its number; unless not wanted. */
	faces: Uint32Array | null;
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
	/** Whether faces and ids are given (they are unless this is false), and triangles. */
	faces?: boolean;
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
		faces: options.faces === false ? null : allocate('index', n),
		ids: options.ids === false ? null : allocate('index', 2 * n),
		triangles: options.triangles ? allocate('index', n) : null,
		normals: normals && allocate('float', 3 * n),
		orientations: normals && options.orientations ? allocate('float', 4 * n) : null,
		blended: blends.map(({ width }) => allocate('float', width * n))
	};
	if (!n) return sown;
	const all: Member[] = [
		{ source: positionsOf(mesh), width: 3, rows: pointsOfTriangles(mesh), out: sown.positions },
		...(normals ? [{ source: normals, width: 3, rows: corners, out: sown.normals! }] : []),
		...blends.map((blend, i) => ({ ...blend, out: sown.blended[i] }))
	];
	const records = recordsOf(all);
	const width = all.reduce((sum, member) => sum + member.width, 0);
	const slotBytes = SLOT_BYTES * faceOf.length,
		rowBytes = ROW_BYTES * faceOf.length,
		recordBytes = 4 * width * records.count + 16,
		blockBytes = 4 * width * SOWING_BLOCK;
	checkScratch(slotBytes + rowBytes + recordBytes + blockBytes);
	const room = new SowingRoom(
		slotBytes + rowBytes + recordBytes + blockBytes + 64 * (all.length + 3),
		all.flatMap(({ rows, source }) => [rows, source]),
		sums
	);
	// Rows and records first: they stay where they are when only the weight is another.
	const rows = room.take(rowBytes),
		recordsAt = room.take(recordBytes);
	const tables: Tables = {
		slots: room.take(slotBytes),
		slotCount: faceOf.length,
		rows,
		records: recordsAt,
		width
	};
	if (!room.hasRecords) {
		writeRows(room.words(rows, 4 * faceOf.length), records.rows, faceOf);
		writeRecords(room.floats(recordsAt, width * records.count), records.rows, all);
	}
	if (!room.hasSlots) writeSlots(room.words(tables.slots, 2 * faceOf.length), sums);
	room.markFilled();
	sowBlocks(room, tables, n, stream, all, sown, poll);
	return sown;
}

/** A value to be blended, and where the results go. */
type Member = Blend & { out: Float32Array };

/** Addresses, slots in all, and numbers in a record. */
interface Tables {
	slots: number;
	slotCount: number;
	rows: number;
	records: number;
	width: number;
}

/** Points blended with one value before it is the next one’s turn: their records stay in the near cache. */
const BATCH = 512;

/**
 * Blocks of points, each drawn, sorted by where in the mesh they fall, and blended in that order: so large tables are
 * read from front to back, where points in their own order would wait for memory at each step.
 */
function sowBlocks(
	room: SowingRoom,
	tables: Tables,
	count: number,
	[first, second]: readonly [number, number],
	members: readonly Member[],
	{ positions, ids, faces, triangles, normals, orientations }: Sown,
	poll: () => void
): void {
	const { sowing, pairs, seconds, thirds } = room;
	const outs = members.map(({ width }) => room.take(4 * width * SOWING_BLOCK));
	const starts = room.words(room.starts, SORTED);
	const shift = Math.max(0, 32 - Math.clz32(tables.slotCount - 1) - SORTED_BITS);
	for (let from = 0; from < count; from += SOWING_BLOCK) {
		poll();
		const n = Math.min(SOWING_BLOCK, count - from);
		if (ids) {
			sowing.name(n, room.spare, first, second, from);
			ids.set(room.words(room.spare, 2 * n), 2 * from);
		}
		sowing.draw(n, room.spare, first, from, tables.slotCount);
		starts.fill(0);
		sowing.sort(n, pairs, room.spare, room.starts, SORTED, shift);
		sowing.settle(n, pairs, seconds, thirds, tables.slots, first, second, from);
		if (triangles) {
			sowing.tell(n, room.spare, pairs);
			triangles.set(room.words(room.spare, n), from);
		}
		for (let some = 0; some < n; some += BATCH) {
			let record = tables.records;
			for (let i = 0; i < members.length; i++) {
				const { width, out } = members[i];
				sowing.blend(
					Math.min(BATCH, n - some),
					outs[i],
					faces && out === positions ? room.spare : 0,
					width,
					pairs + 8 * some,
					seconds + 4 * some,
					thirds + 4 * some,
					tables.rows,
					record,
					4 * tables.width
				);
				record += 4 * width;
			}
		}
		faces?.set(room.words(room.spare, n), from);
		for (let i = 0; i < members.length; i++) {
			const { width, out } = members[i];
			if (out === normals) {
				sowing.normalize(n, outs[i]);
				if (orientations) {
					const turns = room.floats(room.spare, 4 * n);
					// The few that point along z are left to the general way, which does all of the block again.
					if (sowing.standOff(n, room.spare, outs[i])) standOff(turns, room.floats(outs[i], 3 * n));
					orientations.set(turns, 4 * from);
				}
			}
			out.set(room.floats(outs[i], width * n), width * from);
		}
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

/** Corners of triangles in the records that they share. */
interface Records {
	/** The record of each corner of each triangle. */
	rows: Uint32Array;
	count: number;
}

/** Records at one point that are compared with a new corner. Beyond that a corner has one of its own. */
const COMPARED = 8;

/**
 * Corners that lie at one row of the first value, and agree in all others, share a record. So all values of a point are
 * read from three places, and a smooth mesh has no more of them than points.
 */
function recordsOf(members: readonly Member[]): Records {
	const [{ rows: points, source, width }, ...others] = members;
	if (others.every(({ rows }) => rows === points)) return { rows: points, count: source.length / width };
	const key = members.flatMap(({ rows, source }) => [rows, source]).reduce<object>(together, points);
	return derive(key, 'records', () => {
		const rows = allocate('index', points.length);
		// The newest record of each point, the one before it, and the corner it was made for.
		const newest = new Int32Array(source.length / width).fill(-1),
			before = new Int32Array(points.length),
			made = new Uint32Array(points.length);
		const agree = (i: number, j: number) =>
			others.every(({ rows, source, width }) => {
				for (let k = 0; k < width; k++)
					if (source[width * rows[i] + k] !== source[width * rows[j] + k]) return false;
				return true;
			});
		let count = 0;
		for (let i = 0; i < points.length; i++) {
			pollAt(i);
			let record = newest[points[i]];
			for (let k = 0; record >= 0 && !agree(i, made[record]); k++)
				record = k < COMPARED ? before[record] : -1;
			if (record < 0) {
				record = count++;
				made[record] = i;
				before[record] = newest[points[i]];
				newest[points[i]] = record;
			}
			rows[i] = record;
		}
		return { rows, count };
	});
}

/** Four words for every triangle: its records, and its face. */
function writeRows(words: Uint32Array, rows: Uint32Array, faceOf: Uint32Array): void {
	for (let t = 0, i = 0, o = 0; t < faceOf.length; t++, i += 3, o += 4) {
		words[o] = rows[i];
		words[o + 1] = rows[i + 1];
		words[o + 2] = rows[i + 2];
		words[o + 3] = faceOf[t];
	}
}

/** The values of each record, side by side. */
function writeRecords(all: Float32Array, records: Uint32Array, members: readonly Member[]): void {
	const width = members.reduce((sum, member) => sum + member.width, 0);
	let offset = 0;
	for (const { rows, source, width: own } of members) {
		for (let i = 0; i < rows.length; i++)
			for (let k = 0; k < own; k++) all[width * records[i] + offset + k] = source[own * rows[i] + k];
		offset += own;
	}
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
