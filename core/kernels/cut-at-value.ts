/** Faces cut where a value crosses a threshold, exactly on the line between the points of each edge, without cracks. */
import { mix } from '../math/index.ts';
import { allocate, blendTwo, column, edgesOf, filled, idsOf, pollAt } from '../geometry/index.ts';
import type { Column, Mesh, Table } from '../geometry/index.ts';

/** Between two rows of a table: a share of the way from the first to the second. Equal rows are taken as they are. */
interface Mixed {
	a: number[];
	b: number[];
	t: number[];
}

/**
 * @param values one number for each point.
 * The faces get a column `side` (yes where the value is above). Attributes of points and corners are blended at the cut.
 */
export function cutAtValue(mesh: Mesh, values: ArrayLike<number>, threshold: number): Mesh {
	const { faceStarts, cornerPoints, pointCount } = mesh.topology;
	const edges = edgesOf(mesh.topology);
	const points: Mixed = { a: [], b: [], t: [] };
	for (let i = 0; i < pointCount; i++) {
		pollAt(i);
		push(points, i, i, 0);
	}
	/** The new point on each edge that is crossed. */
	const onEdge = filled('int', edges.uses.length, -1);
	for (let e = 0; e < edges.uses.length; e++) {
		pollAt(e);
		const a = edges.points[2 * e],
			b = edges.points[2 * e + 1];
		const va = values[a] - threshold,
			vb = values[b] - threshold;
		if ((va < 0 && vb > 0) || (va > 0 && vb < 0)) onEdge[e] = push(points, a, b, va / (va - vb));
	}
	const corners: Mixed = { a: [], b: [], t: [] };
	const starts: number[] = [0],
		cornerOut: number[] = [],
		faceRows: number[] = [],
		sides: number[] = [];
	for (let f = 0; f + 1 < faceStarts.length; f++) {
		pollAt(f);
		const start = faceStarts[f],
			end = faceStarts[f + 1];
		// Round the face: its corners, and the crossings between them. Each has a sign: -1, 0 on the cut, or 1.
		const ring: { point: number; a: number; b: number; t: number; sign: number }[] = [];
		for (let c = start; c < end; c++) {
			const p = cornerPoints[c];
			const v = values[p] - threshold;
			ring.push({ point: p, a: c, b: c, t: 0, sign: v > 0 ? 1 : v < 0 ? -1 : 0 });
			const cut = onEdge[edges.ofCorner[c]];
			if (cut < 0) continue;
			const next = c + 1 < end ? c + 1 : start;
			// The share is stored from the lower point; walked the other way it is the rest.
			const t = points.a[cut] === p ? points.t[cut] : 1 - points.t[cut];
			ring.push({ point: cut, a: c, b: next, t, sign: 0 });
		}
		for (const piece of piecesOf(ring)) {
			const above = piece.some(({ sign }) => sign > 0);
			for (const one of piece) {
				cornerOut.push(one.point);
				push(corners, one.a, one.b, one.t);
			}
			starts.push(cornerOut.length);
			faceRows.push(f);
			sides.push(above ? 1 : 0);
		}
	}
	const faceTable = blendTable(mesh.faces, { a: faceRows, b: faceRows, t: faceRows.map(() => 0) });
	const side = allocate('byte', sides.length);
	side.set(sides);
	(faceTable.columns as Map<string, Column>).set('side', column('bool', 'plain', side));
	const topology = {
		pointCount: points.a.length,
		faceStarts: copied(starts),
		cornerPoints: copied(cornerOut)
	};
	return {
		topology,
		points: blendTable(mesh.points, points),
		corners: blendTable(mesh.corners, corners),
		faces: faceTable,
		edges: null
	};
}

function push(list: Mixed, a: number, b: number, t: number): number {
	list.a.push(a);
	list.b.push(b);
	return list.t.push(t) - 1;
}

function copied(list: number[]): Uint32Array {
	const out = allocate('index', list.length);
	out.set(list);
	return out;
}

/**
 * A ring split where it changes sides. Runs of one side become faces, several where the face has dents; a ring that only
 * touches the cut stays whole.
 */
function piecesOf<One extends { sign: number }>(ring: One[]): One[][] {
	const positive = ring.some(({ sign }) => sign > 0),
		negative = ring.some(({ sign }) => sign < 0);
	if (!(positive && negative)) return [ring];
	const pieces: One[][] = [];
	const n = ring.length;
	// Begin at a place on the cut whose next one lies off it.
	const first = ring.findIndex(({ sign }, i) => sign === 0 && ring[(i + 1) % n].sign !== 0);
	let piece: One[] = [];
	for (let k = 0; k <= n; k++) {
		pollAt(k);
		const one = ring[(first + k) % n];
		piece.push(one);
		if (one.sign !== 0 || k === 0) continue;
		if (piece.length >= 3) pieces.push(piece);
		piece = [one];
	}
	return pieces;
}

/** Rows of a table blended by role; ids of new rows come from both of theirs. */
function blendTable(table: Table, { a, b, t }: Mixed): Table {
	const columns = new Map<string, Column>();
	for (const [name, source] of table.columns) columns.set(name, blendTwo(source, a, b, t));
	const old = idsOf(table);
	const ids = allocate('index', 2 * a.length);
	const used = new Set<number>();
	for (let i = 0; i < a.length; i++) {
		pollAt(i);
		const [x, y] = [old[2 * a[i]], old[2 * a[i] + 1]];
		// The first part of a face keeps its id; the others get one from it.
		const fresh = t[i] === 0 && !used.has(a[i]);
		used.add(a[i]);
		ids[2 * i] = fresh ? x : mix(mix(x, old[2 * b[i]]), i);
		ids[2 * i + 1] = fresh ? y : mix(mix(y, old[2 * b[i] + 1]), 1);
	}
	return { count: a.length, columns, ids };
}
