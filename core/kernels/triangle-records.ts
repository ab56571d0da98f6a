/** The triangles of a mesh as sowing reads them: their areas, their points, and records of what is blended across them. */
import {
	areaOfTriangle,
	allocate,
	derive,
	filled,
	pollAt,
	positionsOf,
	scratch,
	shapeOf,
	together,
	trianglesOf
} from '../geometry/index.ts';
import type { Mesh } from '../geometry/index.ts';

/** Values to be blended across triangles at the points sown on them. */
export interface Blend {
	source: Float32Array;
	/** Numbers for each row of the source and each point, 1 … 4. */
	width: number;
	/** The row in the source of each corner of each triangle. */
	rows: Uint32Array;
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
	const sums = scratch('double', faces.length);
	let sum = 0;
	for (let t = 0; t < faces.length; t++) {
		pollAt(t);
		const area = areaOfTriangle(p, cornerPoints, corners, t);
		const weight = weights ? weights[faces[t]] : 1;
		if (area > 0 && weight > 0) sum += area * weight;
		sums[t] = sum;
	}
	return sums;
}

/** The point of each corner of each triangle. */
export function pointsOfTriangles(mesh: Mesh): Uint32Array {
	const { cornerPoints } = mesh.topology;
	const { corners } = trianglesOf(mesh);
	return derive(together(corners, mesh.topology), 'points of triangles', () => {
		const points = scratch('index', corners.length);
		for (let i = 0; i < corners.length; i++) {
			pollAt(i);
			points[i] = cornerPoints[corners[i]];
		}
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
export function recordsOf(members: readonly Blend[]): Records {
	const [{ rows: points, source, width }, ...others] = members;
	if (others.every(({ rows }) => rows === points)) return { rows: points, count: source.length / width };
	const key = members.flatMap(({ rows, source }) => [rows, source]).reduce<object>(together, points);
	return derive(key, 'records', () => {
		const rows = allocate('index', points.length);
		// The newest record of each point, the one before it, and the corner it was made for.
		const newest = filled('int', source.length / width, -1),
			before = scratch('int', points.length),
			made = scratch('index', points.length);
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
export function writeRows(words: Uint32Array, rows: Uint32Array, faceOf: Uint32Array): void {
	for (let t = 0, i = 0, o = 0; t < faceOf.length; t++, i += 3, o += 4) {
		pollAt(t);
		words[o] = rows[i];
		words[o + 1] = rows[i + 1];
		words[o + 2] = rows[i + 2];
		words[o + 3] = faceOf[t];
	}
}

/** The values of each record, side by side. */
export function writeRecords(all: Float32Array, records: Uint32Array, members: readonly Blend[]): void {
	const width = members.reduce((sum, member) => sum + member.width, 0);
	let offset = 0;
	for (const { rows, source, width: own } of members) {
		for (let i = 0; i < rows.length; i++) {
			pollAt(i);
			for (let k = 0; k < own; k++) all[width * records[i] + offset + k] = source[own * rows[i] + k];
		}
		offset += own;
	}
}
