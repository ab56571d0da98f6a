/**
 * Points sown over the faces of a mesh, in proportion to area times weight. Counter-based: point number n is the same
 * whatever the count, so raising the count keeps the earlier points where they were.
 */
import { allocate, checkScratch, positionsOf, trianglesOf, poll } from '../geometry/index.ts';
import type { Mesh } from '../geometry/index.ts';
import { SORTED, SORTED_BITS, SOWING_BLOCK, SowingRoom } from '../wasm/sowing.ts';
import { writeSlots } from './alias-table.ts';
import {
	cumulativeAreas,
	pointsOfTriangles,
	recordsOf,
	writeRecords,
	writeRows
} from './triangle-records.ts';
import type { Blend } from './triangle-records.ts';
import { standOff } from './stand-off.ts';

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
	/** The number of the first; those before it are as if they had been sown already. */
	from?: number;
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
}

/** Bytes of a slot, and of the rows of a triangle. */
const SLOT_BYTES = 8,
	ROW_BYTES = 16;

/** Sows points. An area of zero gives none. */
export function sowPoints(mesh: Mesh, options: SowOptions): Sown {
	const { count, stream, weights, normals = null, blends = [] } = options;
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
	sowBlocks(room, tables, { from: options.from ?? 0, count: n }, stream, all, sown);
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
	{ from: start, count }: { from: number; count: number },
	[first, second]: readonly [number, number],
	members: readonly Member[],
	{ positions, ids, faces, triangles, normals, orientations }: Sown
): void {
	const { sowing, pairs, seconds, thirds } = room;
	const outs = members.map(({ width }) => room.take(4 * width * SOWING_BLOCK));
	const starts = room.words(room.starts, SORTED);
	const shift = Math.max(0, 32 - Math.clz32(tables.slotCount - 1) - SORTED_BITS);
	for (let at = 0; at < count; at += SOWING_BLOCK) {
		poll();
		const n = Math.min(SOWING_BLOCK, count - at);
		const from = start + at;
		if (ids) {
			sowing.name(n, room.spare, first, second, from);
			ids.set(room.words(room.spare, 2 * n), 2 * at);
		}
		sowing.draw(n, room.spare, first, from, tables.slotCount);
		starts.fill(0);
		sowing.sort(n, pairs, room.spare, room.starts, SORTED, shift);
		sowing.settle(n, pairs, seconds, thirds, tables.slots, first, second, from);
		if (triangles) {
			sowing.tell(n, room.spare, pairs);
			triangles.set(room.words(room.spare, n), at);
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
		faces?.set(room.words(room.spare, n), at);
		for (let i = 0; i < members.length; i++) {
			const { width, out } = members[i];
			if (out === normals) {
				sowing.normalize(n, outs[i]);
				if (orientations) {
					const turns = room.floats(room.spare, 4 * n);
					// The few that point along z are left to the general way, which does all of the block again.
					if (sowing.standOff(n, room.spare, outs[i])) standOff(turns, room.floats(outs[i], 3 * n));
					orientations.set(turns, 4 * at);
				}
			}
			out.set(room.floats(outs[i], width * n), width * at);
		}
	}
}
