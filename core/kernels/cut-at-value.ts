/**
 * Faces cut where a value crosses a threshold, without cracks. A face is cut along its own triangles, between which the value
 * runs straight, so that the pieces tile it exactly whatever the number of crossings; a flat one without dents that is
 * crossed twice is cut in two.
 */
import {
	Growing,
	allocate,
	blendTwo,
	column,
	edgesOf,
	filled,
	idsOf,
	pollAt,
	positionsOf,
	scratch,
	trianglesOf
} from '../geometry/index.ts';
import type { Column, Mesh, Table } from '../geometry/index.ts';
import { mix } from '../math/index.ts';

/** Between two rows of a table: a share of the way from the first to the second. Equal rows are taken as they are. */
class Mixed {
	readonly a = new Growing('index');
	readonly b = new Growing('index');
	readonly t = new Growing('double');

	push(a: number, b: number, t: number): number {
		this.a.push(a);
		this.b.push(b);
		this.t.push(t);
		return this.t.length - 1;
	}
}

/** What a mesh is cut into. */
export interface Cut {
	points: Mixed;
	corners: Mixed;
	starts: Uint32Array;
	cornerPoints: Uint32Array;
	/** For each piece its face, and 1 where the value is above. */
	faces: Uint32Array;
	sides: Uint8Array;
}

/**
 * @param values one number for each point.
 * The faces get a column `side` (yes where the value is above). Attributes of points and corners are blended at the cut.
 */
export function cutAtValue(mesh: Mesh, values: ArrayLike<number>, threshold: number): Mesh {
	const { points, corners, starts, cornerPoints, faces, sides } = new Cutter(mesh, values, threshold).cut();
	const faceTable = blendTable(mesh.faces, faces, faces, scratch('double', faces.length));
	(faceTable.columns as Map<string, Column>).set('side', column('bool', 'plain', sides));
	return {
		topology: { pointCount: points.t.length, faceStarts: starts, cornerPoints },
		points: blendTable(mesh.points, points.a.view(), points.b.view(), points.t.view()),
		corners: blendTable(mesh.corners, corners.a.view(), corners.b.view(), corners.t.view()),
		faces: faceTable,
		edges: null
	};
}

/** A corner of a face, or a crossing between two; its sign is −1 below, 0 on the cut, 1 above. */
interface Place {
	point: number;
	/** The corners that it lies between, and its share of the way. */
	a: number;
	b: number;
	t: number;
	sign: number;
}

/** The cut as rows that are still to be blended. */
export class Cutter {
	readonly #mesh: Mesh;
	readonly #values: ArrayLike<number>;
	readonly #threshold: number;
	readonly #points = new Mixed();
	readonly #corners = new Mixed();
	readonly #starts = new Growing('index');
	readonly #cornerPoints = new Growing('index');
	readonly #faces = new Growing('index');
	readonly #sides = new Growing('byte');
	/** The new point on each edge that is crossed; −1 where none is. */
	readonly #onEdge: Int32Array;
	/** The new points between corners of the face at hand that are no neighbours. */
	readonly #within = new Map<number, number>();

	constructor(mesh: Mesh, values: ArrayLike<number>, threshold: number) {
		this.#mesh = mesh;
		this.#values = values;
		this.#threshold = threshold;
		this.#onEdge = filled('int', edgesOf(mesh.topology).uses.length, -1);
	}

	cut(): Cut {
		const { topology } = this.#mesh;
		const { faceStarts } = topology;
		const edges = edgesOf(topology);
		for (let i = 0; i < topology.pointCount; i++) this.#points.push(i, i, 0);
		for (let e = 0; e < this.#onEdge.length; e++) {
			pollAt(e);
			const a = edges.points[2 * e],
				b = edges.points[2 * e + 1];
			if (this.#sign(a) * this.#sign(b) < 0) this.#onEdge[e] = this.#pointBetween(a, b);
		}
		this.#starts.push(0);
		const { corners, faces } = trianglesOf(this.#mesh);
		for (let f = 0, t = 0; f + 1 < faceStarts.length; f++) {
			pollAt(f);
			const first = t;
			while (t < faces.length && faces[t] === f) t++;
			this.#face(f, corners.subarray(3 * first, 3 * t));
		}
		return {
			points: this.#points,
			corners: this.#corners,
			starts: this.#starts.take(),
			cornerPoints: this.#cornerPoints.take(),
			faces: this.#faces.take(),
			sides: this.#sides.take()
		};
	}

	#sign(point: number): number {
		const v = this.#values[point] - this.#threshold;
		return v > 0 ? 1 : v < 0 ? -1 : 0;
	}

	/** A new point where the value crosses between two, the lower one first. */
	#pointBetween(a: number, b: number): number {
		const va = this.#values[a] - this.#threshold,
			vb = this.#values[b] - this.#threshold;
		return this.#points.push(a, b, va / (va - vb));
	}

	/** @param triangles its triangles, three corners each. */
	#face(f: number, triangles: Uint32Array): void {
		const { faceStarts } = this.#mesh.topology;
		const start = faceStarts[f],
			size = faceStarts[f + 1] - start;
		if (!this.#isCrossed(start, size)) return this.#whole(f, start, size);
		const corners = Array.from({ length: size }, (_, k) => start + k);
		const ring = this.#ring(corners, start, size);
		const crossings = ring.reduce((count, { sign }) => count + (sign === 0 ? 1 : 0), 0);
		const isSimple = crossings === 2 && (size === 3 || isFlatAndConvex(this.#mesh, start, size));
		if (isSimple) return inTwo(ring).forEach((piece) => this.#piece(f, piece));
		this.#within.clear();
		for (let t = 0; t < triangles.length; t += 3) {
			const part = this.#ring([triangles[t], triangles[t + 1], triangles[t + 2]], start, size);
			inTwo(part).forEach((piece) => this.#piece(f, piece));
		}
	}

	/** Whether the value lies above at some corners of a face, and below at others. */
	#isCrossed(start: number, size: number): boolean {
		const { cornerPoints } = this.#mesh.topology;
		let [above, below] = [false, false];
		for (let c = start; c < start + size; c++) {
			const sign = this.#sign(cornerPoints[c]);
			if (sign > 0) above = true;
			else if (sign < 0) below = true;
		}
		return above && below;
	}

	/** A face that is not cut. */
	#whole(f: number, start: number, size: number): void {
		const { cornerPoints } = this.#mesh.topology;
		let isAbove = 0;
		for (let c = start; c < start + size; c++) {
			this.#cornerPoints.push(cornerPoints[c]);
			this.#corners.push(c, c, 0);
			if (this.#sign(cornerPoints[c]) > 0) isAbove = 1;
		}
		this.#close(f, isAbove);
	}

	/** Round some corners of a face: they, and the crossings between them. */
	#ring(corners: readonly number[], start: number, size: number): Place[] {
		const { cornerPoints } = this.#mesh.topology;
		const ring: Place[] = [];
		corners.forEach((c, k) => {
			const next = corners[(k + 1) % corners.length];
			const p = cornerPoints[c],
				q = cornerPoints[next];
			ring.push({ point: p, a: c, b: c, t: 0, sign: this.#sign(p) });
			if (this.#sign(p) * this.#sign(q) >= 0) return;
			const point = this.#crossing(c, next, start, size);
			// The share is stored from the lower point; walked the other way it is the rest.
			const t = this.#points.t.at(point);
			ring.push({ point, a: c, b: next, t: this.#points.a.at(point) === p ? t : 1 - t, sign: 0 });
		});
		return ring;
	}

	/** The new point between two corners of a face: that of their edge, where they are neighbours. */
	#crossing(c: number, next: number, start: number, size: number): number {
		const { cornerPoints } = this.#mesh.topology;
		const { ofCorner } = edgesOf(this.#mesh.topology);
		const after = (corner: number) => start + ((corner - start + 1) % size);
		if (after(c) === next) return this.#onEdge[ofCorner[c]];
		if (after(next) === c) return this.#onEdge[ofCorner[next]];
		const key = Math.min(c, next) * cornerPoints.length + Math.max(c, next);
		let point = this.#within.get(key);
		if (point === undefined) {
			const [p, q] = [cornerPoints[c], cornerPoints[next]];
			this.#within.set(key, (point = this.#pointBetween(Math.min(p, q), Math.max(p, q))));
		}
		return point;
	}

	#piece(f: number, piece: readonly Place[]): void {
		let isAbove = 0;
		for (const { point, a, b, t, sign } of piece) {
			this.#cornerPoints.push(point);
			this.#corners.push(a, b, t);
			if (sign > 0) isAbove = 1;
		}
		this.#close(f, isAbove);
	}

	#close(f: number, isAbove: number): void {
		this.#starts.push(this.#cornerPoints.length);
		this.#faces.push(f);
		this.#sides.push(isAbove);
	}
}

/** A ring that changes sides at two places, cut between them; one that does not stays whole. */
function inTwo(ring: readonly Place[]): (readonly Place[])[] {
	const isCrossed = ring.some(({ sign }) => sign > 0) && ring.some(({ sign }) => sign < 0);
	if (!isCrossed) return [ring];
	const first = ring.findIndex(({ sign }) => sign === 0);
	const turned = [...ring.slice(first), ...ring.slice(0, first)];
	const second = turned.findIndex(({ sign }, i) => i > 0 && sign === 0);
	return [turned.slice(0, second + 1), [...turned.slice(second), turned[0]]];
}

/** How far corners may lie off the plane of a face that counts as flat, as a share of its size. */
const FLAT = 1e-6;

/** Whether a face lies in a plane and turns one way only: then it may be cut straight across. */
function isFlatAndConvex(mesh: Mesh, start: number, size: number): boolean {
	const p = positionsOf(mesh);
	const { cornerPoints } = mesh.topology;
	const at = (k: number) => 3 * cornerPoints[start + (k % size)];
	const n = [0, 0, 0];
	let extent = 0;
	const turns: number[][] = [];
	for (let k = 0; k < size; k++) {
		const [a, b, c] = [at(k), at(k + 1), at(k + 2)];
		const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
		const [vx, vy, vz] = [p[c] - p[b], p[c + 1] - p[b + 1], p[c + 2] - p[b + 2]];
		turns.push([uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx]);
		for (let i = 0; i < 3; i++) {
			n[i] += turns[k][i];
			extent = Math.max(extent, Math.abs(p[b + i] - p[at(0) + i]));
		}
	}
	const length = Math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]);
	if (!(length > 0)) return false;
	for (let k = 0; k < size; k++) {
		const turn = turns[k][0] * n[0] + turns[k][1] * n[1] + turns[k][2] * n[2];
		let off = 0;
		for (let i = 0; i < 3; i++) off += ((p[at(k) + i] - p[at(0) + i]) * n[i]) / length;
		if (turn < 0 || Math.abs(off) > FLAT * extent) return false;
	}
	return true;
}

/** Rows of a table blended by role; ids of new rows come from both of theirs. */
function blendTable(table: Table, a: Uint32Array, b: Uint32Array, t: Float64Array): Table {
	const columns = new Map<string, Column>();
	for (const [name, source] of table.columns) columns.set(name, blendTwo(source, a, b, t));
	const old = idsOf(table);
	const ids = allocate('index', 2 * a.length);
	const isUsed = scratch('byte', table.count);
	for (let i = 0; i < a.length; i++) {
		pollAt(i);
		const [x, y] = [old[2 * a[i]], old[2 * a[i] + 1]];
		// The first part of a face keeps its id; the others get one from it.
		const fresh = t[i] === 0 && !isUsed[a[i]];
		isUsed[a[i]] = 1;
		ids[2 * i] = fresh ? x : mix(mix(x, old[2 * b[i]]), i);
		ids[2 * i + 1] = fresh ? y : mix(mix(y, old[2 * b[i] + 1]), 1);
	}
	return { count: a.length, columns, ids };
}
