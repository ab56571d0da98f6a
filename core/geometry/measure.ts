/** Facts about a geometry: bounds, areas, lengths, and a digest of all it holds. */
import { Hasher, formatCount, plural } from '../math/index.ts';
import { pollAt, scratch } from './allocate.ts';
import { allTables } from './convert.ts';
import { faceAreas } from './derive.ts';
import { derive, together } from './kept.ts';
import type { Curves, Geometry, Kind } from './geometry.ts';
import { positionsOf } from './geometry.ts';
import { identity } from './matrix.ts';
import { Places } from './places.ts';
import type { Column, Table } from './table.ts';
import { WIDTH } from './table.ts';

/** Lowest and highest x, y, z in metres. */
export interface Bounds {
	low: [number, number, number];
	high: [number, number, number];
}

/** The box around everything, copies included; null when nothing is there. Boxes of sources are used for copies. */
export function boundsOf(geometry: Geometry, depth = 0): Bounds | null {
	// Boxes of positions are kept with them; only copies are worth keeping a box for.
	return geometry.copies
		? derive(geometry, 'bounds', () => measureBounds(geometry, depth))
		: measureBounds(geometry, depth);
}

function measureBounds(geometry: Geometry, depth: number): Bounds | null {
	const low: [number, number, number] = [Infinity, Infinity, Infinity];
	const high: [number, number, number] = [-Infinity, -Infinity, -Infinity];
	const include = (x: number, y: number, z: number) => {
		if (x < low[0]) low[0] = x;
		if (y < low[1]) low[1] = y;
		if (z < low[2]) low[2] = z;
		if (x > high[0]) high[0] = x;
		if (y > high[1]) high[1] = y;
		if (z > high[2]) high[2] = z;
	};
	for (const part of [geometry.mesh, geometry.curves, geometry.points]) {
		if (!part) continue;
		const own = boundsOfPositions(part.points.columns.get('position')!);
		if (own) {
			include(own.low[0], own.low[1], own.low[2]);
			include(own.high[0], own.high[1], own.high[2]);
		}
	}
	if (geometry.copies && depth < 16) {
		const { copies, sources } = geometry.copies;
		const boxes = sources.map((source) => boundsOf(source, depth + 1));
		const source = copies.columns.get('source')!.data;
		const shown = copies.columns.get('shown')?.data;
		const places = new Places(copies);
		const m = identity();
		for (let i = 0; i < copies.count; i++) {
			pollAt(i);
			const box = boxes[source[i]];
			if (!box || (shown && !shown[i])) continue;
			places.affine(i, m);
			// The centre moves; the half sizes grow by the absolute values of the matrix.
			for (let k = 0; k < 3; k++) {
				let centre = m[9 + k],
					half = 0;
				for (let c = 0; c < 3; c++) {
					const a = m[3 * c + k];
					centre += (a * (box.low[c] + box.high[c])) / 2;
					half += (Math.abs(a) * (box.high[c] - box.low[c])) / 2;
				}
				if (centre - half < low[k]) low[k] = centre - half;
				if (centre + half > high[k]) high[k] = centre + half;
			}
		}
	}
	return low[0] <= high[0] ? { low, high } : null;
}

const boundsOfPositions = (position: Column): Bounds | null =>
	derive(position, 'bounds', () => {
		const p = position.data;
		if (!p.length) return null;
		const box = p instanceof Float32Array ? boxOf(p) : boxOf(Float32Array.from(p));
		return { low: [box[0], box[1], box[2]], high: [box[3], box[4], box[5]] } as Bounds;
	});

/** Lowest and highest x, y, z. Two places at a time, each with its own extremes, so that none waits for the one before. */
function boxOf(p: Float32Array): number[] {
	let [ax, ay, az, cx, cy, cz] = [Infinity, Infinity, Infinity, Infinity, Infinity, Infinity];
	let [bx, by, bz, dx, dy, dz] = [-Infinity, -Infinity, -Infinity, -Infinity, -Infinity, -Infinity];
	const even = p.length - (p.length % 6);
	for (let i = 0; i < even; i += 6) {
		pollAt(i);
		const x = p[i],
			y = p[i + 1],
			z = p[i + 2],
			u = p[i + 3],
			v = p[i + 4],
			w = p[i + 5];
		ax = x < ax ? x : ax;
		ay = y < ay ? y : ay;
		az = z < az ? z : az;
		bx = x > bx ? x : bx;
		by = y > by ? y : by;
		bz = z > bz ? z : bz;
		cx = u < cx ? u : cx;
		cy = v < cy ? v : cy;
		cz = w < cz ? w : cz;
		dx = u > dx ? u : dx;
		dy = v > dy ? v : dy;
		dz = w > dz ? w : dz;
	}
	for (let i = even; i < p.length; i += 3) {
		pollAt(i);
		ax = p[i] < ax ? p[i] : ax;
		ay = p[i + 1] < ay ? p[i + 1] : ay;
		az = p[i + 2] < az ? p[i + 2] : az;
		bx = p[i] > bx ? p[i] : bx;
		by = p[i + 1] > by ? p[i + 1] : by;
		bz = p[i + 2] > bz ? p[i + 2] : bz;
	}
	return [
		Math.min(ax, cx),
		Math.min(ay, cy),
		Math.min(az, cz),
		Math.max(bx, dx),
		Math.max(by, dy),
		Math.max(bz, dz)
	];
}

/** The area of all faces in square metres; copies are not counted. */
export function areaOf(geometry: Geometry): number {
	let sum = 0;
	if (geometry.mesh) for (const area of faceAreas(geometry.mesh)) sum += area;
	return sum;
}

/** The key for what follows from the curves’ positions, where each begins, and which are closed. */
const pathsOf = (curves: Curves): object =>
	together(
		together(curves.points.columns.get('position')!, curves.starts),
		curves.curves.columns.get('closed')!
	);

/** For each point of the curves its distance along its curve in metres, and each curve's length. */
export function lengthsAlong(curves: Curves): { along: Float64Array; lengths: Float64Array } {
	return derive(pathsOf(curves), 'lengths along', () => {
		const p = positionsOf(curves);
		const closed = curves.curves.columns.get('closed')!.data;
		const along = scratch('double', p.length / 3);
		const lengths = scratch('double', curves.starts.length - 1);
		const between = (a: number, b: number) => {
			const x = p[3 * b] - p[3 * a],
				y = p[3 * b + 1] - p[3 * a + 1],
				z = p[3 * b + 2] - p[3 * a + 2];
			return Math.sqrt(x * x + y * y + z * z);
		};
		for (let c = 0; c < lengths.length; c++) {
			pollAt(c);
			const start = curves.starts[c],
				end = curves.starts[c + 1];
			let length = 0;
			for (let i = start + 1; i < end; i++) along[i] = length += between(i - 1, i);
			if (closed[c] && end - start > 1) length += between(end - 1, start);
			lengths[c] = length;
		}
		return { along, lengths };
	});
}

/** The length of all curves in metres. */
export function lengthOf(geometry: Geometry): number {
	let sum = 0;
	if (geometry.curves) for (const length of lengthsAlong(geometry.curves).lengths) sum += length;
	return sum;
}

/** A digest of everything a geometry holds, the same in every engine. Columns count by name, not by order. */
export function digestOf(geometry: Geometry): string {
	return derive(geometry, 'digest', () => {
		const hasher = new Hasher();
		const table = (name: string, t: Table | null) => {
			hasher.text(name).word(t ? t.count : -1);
			if (!t) return;
			for (const key of [...t.columns.keys()].sort()) {
				const c = t.columns.get(key)!;
				hasher.text(key).text(c.type).text(c.role).array(c.data, pollAt);
				if (c.words) c.words.forEach((word) => hasher.text(word));
			}
			if (t.ids) hasher.array(t.ids, pollAt);
		};
		table('mesh points', geometry.mesh?.points ?? null);
		if (geometry.mesh) {
			hasher
				.array(geometry.mesh.topology.faceStarts, pollAt)
				.array(geometry.mesh.topology.cornerPoints, pollAt);
			table('faces', geometry.mesh.faces);
			table('corners', geometry.mesh.corners);
			table('edges', geometry.mesh.edges);
		}
		table('curve points', geometry.curves?.points ?? null);
		if (geometry.curves) {
			hasher.array(geometry.curves.starts, pollAt);
			table('curves', geometry.curves.curves);
		}
		table('points', geometry.points?.points ?? null);
		table('copies', geometry.copies?.copies ?? null);
		for (const source of geometry.copies?.sources ?? []) hasher.text(digestOf(source));
		hasher.text(JSON.stringify(geometry.materials));
		table('whole', geometry.whole);
		return hasher.digest();
	});
}

/**
 * What is wrong with the numbers of a geometry, as a sentence; null where all of them are finite.
 * @param isSound whether a column is known to be sound already.
 */
export function firstUnsound(geometry: Geometry, isSound: (column: Column) => boolean): string | null {
	for (const { kind, table } of allTables(geometry))
		for (const [name, column] of table.columns) {
			if (!(column.data instanceof Float32Array) || isSound(column)) continue;
			const count = derive(column, 'unsound', () =>
				countUnsound(column.data as Float32Array, WIDTH[column.type])
			);
			if (count)
				return `${formatCount(count)} of ${plural(table.count, NAMES[kind][0], NAMES[kind][1])} ${count === 1 ? 'has' : 'have'} a ${column.role === 'plain' ? `value “${name}”` : name} that no number says: beyond 10³⁸, or the outcome of a calculation without an answer. Lower the sizes, scales, strengths or distances.`;
		}
	return null;
}

const NAMES: Readonly<Record<Kind, readonly [string, string]>> = {
	point: ['point', 'points'],
	edge: ['edge', 'edges'],
	face: ['face', 'faces'],
	corner: ['corner', 'corners'],
	curve: ['curve', 'curves'],
	copy: ['copy', 'copies'],
	whole: ['geometry', 'geometries']
};

/** Of rows of `width` numbers those that are not all finite. */
function countUnsound(data: Float32Array, width: number): number {
	// A number minus itself is 0, unless it is none. Four sums, so that none waits for the one before.
	let [a, b, c, d] = [0, 0, 0, 0];
	const whole = data.length - (data.length % 4);
	for (let i = 0; i < whole; i += 4) {
		pollAt(i);
		a += data[i] - data[i];
		b += data[i + 1] - data[i + 1];
		c += data[i + 2] - data[i + 2];
		d += data[i + 3] - data[i + 3];
	}
	for (let i = whole; i < data.length; i++) {
		pollAt(i);
		a += data[i] - data[i];
	}
	if (a + b + c + d === 0) return 0;
	let count = 0;
	for (let row = 0; row < data.length; row += width) {
		pollAt(row);
		let sum = 0;
		for (let k = row; k < row + width; k++) sum += data[k] - data[k];
		if (sum !== 0) count++;
	}
	return count;
}
