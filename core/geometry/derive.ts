/** Data that follows from other data: edges, triangles, normals, adjacency. Made once and kept with what it came from. */
import { PI, cos } from '../math/index.ts';
import type { Mesh, Topology } from './geometry.ts';
import { positionsOf } from './geometry.ts';
import { allocate, filled, firstOf, pollAt, scratch } from './allocate.ts';
import type { Grouped } from './grouped.ts';
import { grouped } from './grouped.ts';
import { derive, together } from './kept.ts';
import type { Column } from './table.ts';
import { column } from './table.ts';
import { trianglesOfOutline } from './outline-triangles.ts';

/** The key for what follows from a mesh’s positions and topology. */
export const shapeOf = (mesh: Mesh): object => together(mesh.points.columns.get('position')!, mesh.topology);

export interface Edges {
	/** Two points for each edge, the lower index first; edges in the order in which faces first use them. */
	readonly points: Uint32Array;
	/** For each corner the edge that leads from it to the next corner of its face. */
	readonly ofCorner: Uint32Array;
	/** How many faces use each edge. */
	readonly uses: Uint32Array;
}

/** The edges of a mesh. */
export function edgesOf(topology: Topology): Edges {
	return derive(topology, 'edges', () => {
		const { faceStarts, cornerPoints, pointCount } = topology;
		const corners = cornerPoints.length;
		const ofCorner = allocate('index', corners);
		// Chains of edges by that point of them at which fewer faces meet, so that the middle of a fan makes no long one:
		// first[p] is the newest edge there, next[e] the one before it.
		const meeting = scratch('index', pointCount);
		for (let c = 0; c < corners; c++) {
			pollAt(c);
			meeting[cornerPoints[c]]++;
		}
		const first = filled('int', pointCount, -1);
		const next = scratch('int', corners);
		const ends = scratch('index', corners * 2);
		const uses = scratch('index', corners);
		let count = 0;
		for (let f = 0; f + 1 < faceStarts.length; f++) {
			pollAt(f);
			const start = faceStarts[f],
				end = faceStarts[f + 1];
			for (let c = start; c < end; c++) {
				const p = cornerPoints[c],
					q = cornerPoints[c + 1 < end ? c + 1 : start];
				const low = p < q ? p : q,
					high = p < q ? q : p;
				const at = meeting[high] < meeting[low] ? high : low;
				let e = first[at];
				while (e >= 0 && (ends[2 * e + 1] !== high || ends[2 * e] !== low)) e = next[e];
				if (e < 0) {
					e = count++;
					ends[2 * e] = low;
					ends[2 * e + 1] = high;
					next[e] = first[at];
					first[at] = e;
				}
				uses[e]++;
				ofCorner[c] = e;
			}
		}
		return { points: firstOf(ends, count * 2), ofCorner, uses: firstOf(uses, count) };
	});
}

export interface Triangles {
	/** Three corners for each triangle. */
	readonly corners: Uint32Array;
	/** The face each triangle is a part of. */
	readonly faces: Uint32Array;
}

/** Triangles of all faces, which keep every corner: two for a quad without a dent, ear clipping for larger or dented faces. */
export function trianglesOf(mesh: Mesh): Triangles {
	const position = mesh.points.columns.get('position')!;
	const { topology } = mesh;
	const { faceStarts, cornerPoints } = topology;
	const simple = derive(topology, 'only triangles', () => {
		for (let f = 0; f + 1 < faceStarts.length; f++) {
			pollAt(f);
			if (faceStarts[f + 1] - faceStarts[f] !== 3) return false;
		}
		return true;
	});
	// Triangle meshes depend on the topology alone, so a deformation keeps them.
	return derive(simple ? topology : shapeOf(mesh), 'triangles', () => {
		const faces = faceStarts.length - 1;
		let count = 0;
		for (let f = 0; f < faces; f++) {
			pollAt(f);
			count += Math.max(0, faceStarts[f + 1] - faceStarts[f] - 2);
		}
		const corners = allocate('index', count * 3);
		const faceOf = allocate('index', count);
		const p = position.data;
		let t = 0;
		for (let f = 0; f < faces; f++) {
			pollAt(f);
			const start = faceStarts[f],
				size = faceStarts[f + 1] - start;
			if (size < 3) continue;
			const from = t;
			if (size === 3 || (size === 4 && !quadIsDented(p, cornerPoints, start))) {
				for (let k = 1; k + 1 < size; k++, t++) {
					corners[3 * t] = start;
					corners[3 * t + 1] = start + k;
					corners[3 * t + 2] = start + k + 1;
				}
			} else {
				const cut = cutFace(p, cornerPoints, start, size);
				for (let k = 0; k < cut.length; k += 3, t++)
					for (let m = 0; m < 3; m++) corners[3 * t + m] = start + cut[k + m];
			}
			faceOf.fill(f, from, t);
		}
		return {
			corners: firstOf(corners, t * 3),
			faces: firstOf(faceOf, t)
		};
	});
}

/** Newell's normal of a face, not normalised: its length is twice the area. Summed in doubles. */
function faceAreaVector(
	out: { [i: number]: number },
	o: number,
	p: ArrayLike<number>,
	cornerPoints: Uint32Array,
	start: number,
	end: number
): void {
	let x = 0,
		y = 0,
		z = 0;
	const a = 3 * cornerPoints[start];
	const ax = p[a],
		ay = p[a + 1],
		az = p[a + 2];
	for (let c = start + 1; c + 1 < end; c++) {
		pollAt(c);
		const b = 3 * cornerPoints[c],
			d = 3 * cornerPoints[c + 1];
		const ux = p[b] - ax,
			uy = p[b + 1] - ay,
			uz = p[b + 2] - az;
		const vx = p[d] - ax,
			vy = p[d + 1] - ay,
			vz = p[d + 2] - az;
		x += uy * vz - uz * vy;
		y += uz * vx - ux * vz;
		z += ux * vy - uy * vx;
	}
	out[o] = x;
	out[o + 1] = y;
	out[o + 2] = z;
}

function quadIsDented(p: ArrayLike<number>, cornerPoints: Uint32Array, start: number): boolean {
	const n = [0, 0, 0];
	faceAreaVector(n, 0, p, cornerPoints, start, start + 4);
	for (let k = 0; k < 4; k++) {
		const a = 3 * cornerPoints[start + k],
			b = 3 * cornerPoints[start + ((k + 1) & 3)],
			c = 3 * cornerPoints[start + ((k + 2) & 3)];
		const ux = p[b] - p[a],
			uy = p[b + 1] - p[a + 1],
			uz = p[b + 2] - p[a + 2];
		const vx = p[c] - p[b],
			vy = p[c + 1] - p[b + 1],
			vz = p[c + 2] - p[b + 2];
		if ((uy * vz - uz * vy) * n[0] + (uz * vx - ux * vz) * n[1] + (ux * vy - uy * vx) * n[2] < 0) return true;
	}
	return false;
}

/** The triangles of a face of any shape, as places among its corners. */
function cutFace(p: ArrayLike<number>, cornerPoints: Uint32Array, start: number, size: number): number[] {
	const n = [0, 0, 0];
	faceAreaVector(n, 0, p, cornerPoints, start, start + size);
	const [ax, ay, az] = n.map(Math.abs);
	// Drop the axis along which the face is thinnest, and keep its sense of rotation.
	const drop = ax > ay && ax > az ? 0 : ay > az ? 1 : 2;
	const u = (drop + 1) % 3,
		v = (drop + 2) % 3;
	const flat: number[] = [];
	for (let k = 0; k < size; k++) {
		pollAt(k);
		const q = 3 * cornerPoints[start + k];
		flat.push(n[drop] < 0 ? -p[q + u] : p[q + u], p[q + v]);
	}
	return trianglesOfOutline(flat);
}

/** Unit normals of the faces, 3 numbers each; (0, 1, 0) for a face without area. */
export function faceNormals(mesh: Mesh): Float32Array {
	const position = mesh.points.columns.get('position')!;
	return derive(shapeOf(mesh), 'face normals', () => {
		const { faceStarts, cornerPoints } = mesh.topology;
		const count = faceStarts.length - 1;
		const normals = allocate('float', count * 3);
		const n = [0, 0, 0];
		for (let f = 0; f < count; f++) {
			pollAt(f);
			faceAreaVector(n, 0, position.data, cornerPoints, faceStarts[f], faceStarts[f + 1]);
			const size = Math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]);
			normals[3 * f] = size > 0 ? n[0] / size : 0;
			normals[3 * f + 1] = size > 0 ? n[1] / size : 1;
			normals[3 * f + 2] = size > 0 ? n[2] / size : 0;
		}
		return normals;
	});
}

/** How many triangles are drawn of a mesh: however a face is cut, it has two less than corners; hidden faces have none. */
export function triangleCount({ topology: { faceStarts, cornerPoints }, faces }: Mesh): number {
	const shown = faces.columns.get('shown');
	if (!shown) return cornerPoints.length - 2 * faces.count;
	return derive(together(faceStarts, shown), 'triangles shown', () => {
		let count = 0;
		for (let f = 0; f < faces.count; f++) {
			pollAt(f);
			if (shown.data[f]) count += faceStarts[f + 1] - faceStarts[f] - 2;
		}
		return count;
	});
}

/** The area of one of the triangles of `trianglesOf`, in square metres. */
export function areaOfTriangle(
	p: ArrayLike<number>,
	cornerPoints: Uint32Array,
	corners: Uint32Array,
	t: number
): number {
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
	return 0.5 * Math.sqrt(x * x + y * y + z * z);
}

/** Areas of the faces in square metres, as doubles: those of the triangles that they are drawn with. */
export function faceAreas(mesh: Mesh): Float64Array {
	const position = mesh.points.columns.get('position')!;
	return derive(shapeOf(mesh), 'face areas', () => {
		const p = position.data;
		const { faceStarts, cornerPoints } = mesh.topology;
		const { corners, faces } = trianglesOf(mesh);
		const areas = allocate('double', faceStarts.length - 1);
		for (let t = 0; t < faces.length; t++) {
			pollAt(t);
			areas[faces[t]] += areaOfTriangle(p, cornerPoints, corners, t);
		}
		return areas;
	});
}

/** Unit normals of the points, the faces around weighted by area; (0, 1, 0) for a point without faces. */
export function pointNormals(mesh: Mesh): Float32Array {
	const position = mesh.points.columns.get('position')!;
	return derive(shapeOf(mesh), 'point normals', () => {
		const { faceStarts, cornerPoints, pointCount } = mesh.topology;
		const sums = scratch('double', pointCount * 3);
		const n = [0, 0, 0];
		for (let f = 0; f + 1 < faceStarts.length; f++) {
			pollAt(f);
			faceAreaVector(n, 0, position.data, cornerPoints, faceStarts[f], faceStarts[f + 1]);
			for (let c = faceStarts[f]; c < faceStarts[f + 1]; c++) {
				const q = 3 * cornerPoints[c];
				sums[q] += n[0];
				sums[q + 1] += n[1];
				sums[q + 2] += n[2];
			}
		}
		const normals = allocate('float', pointCount * 3);
		for (let i = 0; i < sums.length; i += 3) {
			pollAt(i);
			const size = Math.sqrt(sums[i] * sums[i] + sums[i + 1] * sums[i + 1] + sums[i + 2] * sums[i + 2]);
			normals[i] = size > 0 ? sums[i] / size : 0;
			normals[i + 1] = size > 0 ? sums[i + 1] / size : 1;
			normals[i + 2] = size > 0 ? sums[i + 2] / size : 0;
		}
		return normals;
	});
}

/** Degrees over which an edge is drawn sharp, where faces say nothing else. */
export const SHARP_ANGLE = 40;
const SHARP_ANGLE_COSINE = 0.766;

/** For each face the degrees up to which it shades as one with its neighbours: 0 is flat, 180 blends with all. */
export const smoothColumn = (degrees: Float32Array): Column => ({
	...column('float', 'plain', degrees),
	default: [SHARP_ANGLE]
});

/** The cosines of those; null where faces say nothing. */
function limitsOf(mesh: Mesh): Float64Array | null {
	const smooth = mesh.faces.columns.get('smooth');
	if (smooth?.type !== 'float') return null;
	const out = scratch('double', mesh.faces.count);
	for (let f = 0; f < out.length; f++) {
		pollAt(f);
		const degrees = smooth.data[f];
		// At 0 not even a face of the same plane is blended with.
		out[f] =
			degrees === SHARP_ANGLE
				? SHARP_ANGLE_COSINE
				: degrees <= 0
					? 2
					: cos((Math.min(180, degrees) * PI) / 180);
	}
	return out;
}

/**
 * Normals for shading, one for each corner: the faces around the point that turn from this one by less than both of them
 * blend over, 40° where they say nothing, are blended by area; across sharper edges the shading breaks.
 */
export function cornerNormals(mesh: Mesh): Float32Array {
	const stored = mesh.corners.columns.get('normal');
	if (stored?.type === 'vec3') return stored.data as Float32Array;
	const smooth = mesh.faces.columns.get('smooth');
	return derive(smooth ? together(shapeOf(mesh), smooth) : shapeOf(mesh), 'corner normals', () => {
		const limits = limitsOf(mesh);
		const { faceStarts, cornerPoints, pointCount } = mesh.topology;
		const flat = faceNormals(mesh);
		const areas = faceAreas(mesh);
		const { starts, items: around } = cornersOfPoints(mesh.topology);
		const faceOf = scratch('index', cornerPoints.length);
		for (let f = 0; f + 1 < faceStarts.length; f++) {
			pollAt(f);
			faceOf.fill(f, faceStarts[f], faceStarts[f + 1]);
		}
		const normals = allocate('float', cornerPoints.length * 3);
		for (let p = 0; p < pointCount; p++) {
			const many =
				starts[p + 1] - starts[p] > MANY_AROUND
					? directionsAround(around.subarray(starts[p], starts[p + 1]), faceOf, flat, areas)
					: null;
			for (let k = starts[p]; k < starts[p + 1]; k++) {
				pollAt(k);
				const f = 3 * faceOf[around[k]];
				const limit = limits ? limits[f / 3] : SHARP_ANGLE_COSINE;
				const fx = flat[f],
					fy = flat[f + 1],
					fz = flat[f + 2];
				let x = 0,
					y = 0,
					z = 0;
				for (const own of many ?? NOBODY) {
					if (fx * own.x + fy * own.y + fz * own.z < limit * own.size) continue;
					x += own.x;
					y += own.y;
					z += own.z;
				}
				for (let m = many ? starts[p + 1] : starts[p]; m < starts[p + 1]; m++) {
					const g = faceOf[around[m]];
					const gx = flat[3 * g],
						gy = flat[3 * g + 1],
						gz = flat[3 * g + 2];
					if (fx * gx + fy * gy + fz * gz < (limits ? Math.max(limit, limits[g]) : limit)) continue;
					x += gx * areas[g];
					y += gy * areas[g];
					z += gz * areas[g];
				}
				const size = Math.sqrt(x * x + y * y + z * z);
				const c = 3 * around[k];
				normals[c] = size > 0 ? x / size : fx;
				normals[c + 1] = size > 0 ? y / size : fy;
				normals[c + 2] = size > 0 ? z / size : fz;
			}
		}
		return normals;
	});
}

/** Round a point with more corners than this, faces that look nearly the same way count as one: their pairs would be too many. */
const MANY_AROUND = 256;
/** Cells of directions to a unit: some 800 all around, 7° wide. */
const CELLS = 8;

interface Direction {
	x: number;
	y: number;
	z: number;
	size: number;
}
const NOBODY: readonly Direction[] = [];

/** What the faces around a point add up to, by the cell of their directions. */
function directionsAround(
	corners: Uint32Array,
	faceOf: Uint32Array,
	flat: Float32Array,
	areas: ArrayLike<number>
): Direction[] {
	const cells = new Map<number, Direction>();
	for (let i = 0; i < corners.length; i++) {
		pollAt(i);
		const g = faceOf[corners[i]];
		const cell = [0, 1, 2].reduce((key, k) => key * 32 + Math.round(flat[3 * g + k] * CELLS) + CELLS, 0);
		let sum = cells.get(cell);
		if (!sum) cells.set(cell, (sum = { x: 0, y: 0, z: 0, size: 0 }));
		sum.x += flat[3 * g] * areas[g];
		sum.y += flat[3 * g + 1] * areas[g];
		sum.z += flat[3 * g + 2] * areas[g];
	}
	for (const sum of cells.values()) sum.size = Math.sqrt(sum.x * sum.x + sum.y * sum.y + sum.z * sum.z);
	return [...cells.values()];
}

/** For each point the corners that use it. */
const cornersOfPoints = (topology: Topology): Grouped =>
	derive(topology, 'corners of points', () => grouped(topology.pointCount, topology.cornerPoints));

/** The signed volume that a closed mesh with outward faces encloses, in cubic metres. */
export function volumeOf(mesh: Mesh): number {
	const p = positionsOf(mesh);
	const { corners } = trianglesOf(mesh);
	const { cornerPoints } = mesh.topology;
	let sum = 0;
	for (let t = 0; t < corners.length; t += 3) {
		pollAt(t);
		const a = 3 * cornerPoints[corners[t]],
			b = 3 * cornerPoints[corners[t + 1]],
			c = 3 * cornerPoints[corners[t + 2]];
		sum +=
			p[a] * (p[b + 1] * p[c + 2] - p[b + 2] * p[c + 1]) +
			p[a + 1] * (p[b + 2] * p[c] - p[b] * p[c + 2]) +
			p[a + 2] * (p[b] * p[c + 1] - p[b + 1] * p[c]);
	}
	return sum / 6;
}
