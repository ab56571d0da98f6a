/** Copies written out as real points and faces. */
import { mix } from '../math/index.ts';
import type { Column, Geometry, Mesh, Placed, Table } from '../geometry/index.ts';
import {
	WIDTH,
	allocate,
	allocateData,
	column,
	affineAt,
	countsOf,
	expand,
	idsOf,
	isPlaced,
	placeInto,
	matrix,
	mergeGeometries,
	pollAt,
	PLACE_COLUMNS,
	gatherColumn,
	ofCopies,
	scratch
} from '../geometry/index.ts';

/** Points that `meshOfCopies` would make. */
export function countWrittenOut(geometry: Geometry): number {
	const own = (g: Geometry): number => countsOf(g).points;
	const below = (g: Geometry, depth: number): number => {
		if (!g.copies || depth > 16) return own(g);
		const each = g.copies.sources.map((source) => below(source, depth + 1));
		const source = g.copies.copies.columns.get('source')!.data;
		let sum = own(g);
		for (let i = 0; i < source.length; i++) {
			pollAt(i);
			sum += each[source[i]] ?? 0;
		}
		return sum;
	};
	return below(geometry, 0);
}

/**
 * The geometry without copies: each of them is its own points, faces and curves. Points know their outermost copy in `copy`,
 * and what all that they lie in had: its attributes, the innermost first, but for those that the source has itself.
 */
export function meshOfCopies(geometry: Geometry): Geometry {
	const parts = expand(geometry).map((placed) => (placed.matrices ? writeOut(placed) : placed.geometry));
	if (!parts.length) return { ...geometry, copies: null };
	return mergeGeometries(
		parts,
		parts.map((_, i) => i + 1)
	);
}

/** A name with its column, and the row of it for each place. */
type Named = readonly [name: string, column: Column, rows: Uint32Array];

/** What the copies that places lie in have beside their places, each name once, of the innermost that have it. */
export function attributesOfCopies(placed: Placed): Named[] {
	const names = new Set(placed.levels.flatMap(({ geometry }) => [...geometry.copies!.copies.columns.keys()]));
	return [...names]
		.filter((name) => !PLACE_COLUMNS.includes(name) && !OWN.has(name))
		.map((name) => {
			const { column, level } = ofCopies(placed, name)!;
			return [name, column, level.rows];
		});
}
const OWN: ReadonlySet<string> = new Set(['source', 'shown']);

function writeOut(placed: Placed): Geometry {
	const { geometry, matrices, count, origins } = placed;
	const place = { matrices: matrices!, count, origins: origins!, attributes: attributesOfCopies(placed) };
	const { mesh, curves, points } = geometry;
	return {
		...geometry,
		copies: null,
		mesh: mesh && repeatMesh(mesh, place),
		curves: curves && {
			points: tile(curves.points, place, true),
			curves: tile(curves.curves, place, false),
			starts: tileStarts(curves.starts, count)
		},
		points: points && { points: tile(points.points, place, true) }
	};
}

interface Place {
	matrices: Float32Array;
	count: number;
	origins: Uint32Array;
	attributes: readonly Named[];
}

function tileStarts(starts: Uint32Array, count: number): Uint32Array {
	const pieces = starts.length - 1,
		span = starts[pieces];
	const out = allocate('index', pieces * count + 1);
	for (let i = 0; i < count; i++) {
		pollAt(i);
		for (let k = 1; k <= pieces; k++) out[i * pieces + k] = i * span + starts[k];
	}
	return out;
}

function repeatMesh(mesh: Mesh, place: Place): Mesh {
	const { count, matrices } = place;
	const { faceStarts, cornerPoints, pointCount } = mesh.topology;
	const out = allocate('index', cornerPoints.length * count);
	const n = cornerPoints.length;
	const mirrored: number[] = [];
	const own = matrix.identity();
	for (let i = 0; i < count; i++) {
		pollAt(i);
		if (matrix.determinant(affineAt(matrices, i, own)) < 0) mirrored.push(i);
		for (let c = 0; c < n; c++) out[i * n + c] = cornerPoints[c] + i * pointCount;
	}
	const corners = tile(mesh.corners, place, false);
	// A mirrored copy would be inside out: its faces are turned round.
	for (const i of mirrored)
		for (let f = 0; f + 1 < faceStarts.length; f++) {
			pollAt(f);
			const start = i * n + faceStarts[f],
				end = i * n + faceStarts[f + 1];
			out.subarray(start, end).reverse();
			for (const { type, data } of corners.columns.values()) {
				const width = WIDTH[type];
				const before = data.slice(start * width, end * width);
				for (let c = 0; c < end - start; c++)
					for (let k = 0; k < width; k++) data[(end - 1 - c) * width + k] = before[c * width + k];
			}
		}
	return {
		topology: {
			pointCount: pointCount * count,
			faceStarts: tileStarts(faceStarts, count),
			cornerPoints: out
		},
		points: tile(mesh.points, place, true),
		corners,
		faces: tile(mesh.faces, place, false),
		edges: null
	};
}

/** A table once for each place, its vectors moved by role. */
function tile(table: Table, { matrices, count, origins, attributes }: Place, withCopy: boolean): Table {
	const rows = table.count;
	const m = matrix.identity();
	const columns = new Map<string, Column>();
	for (const [name, source] of table.columns) {
		const width = WIDTH[source.type];
		const data = allocateData(source.type, rows * count);
		const isMoved = isPlaced(source);
		for (let i = 0; i < count; i++) {
			pollAt(i);
			const base = i * rows * width;
			if (isMoved) placeInto(source, affineAt(matrices, i, m), data, base);
			else data.set(source.data, base);
		}
		columns.set(name, { ...source, data });
	}
	if (withCopy) {
		const copy = allocate('int', rows * count);
		for (let i = 0; i < count; i++) {
			pollAt(i);
			copy.fill(origins[i], i * rows, (i + 1) * rows);
		}
		columns.set('copy', column('int', 'id', copy));
		const at = scratch('index', rows * count);
		for (const [name, source, of] of attributes) {
			if (table.columns.has(name)) continue;
			for (let i = 0; i < count; i++) {
				pollAt(i);
				at.fill(of[i], i * rows, (i + 1) * rows);
			}
			columns.set(name, gatherColumn(source, at));
		}
	}
	const own = idsOf(table);
	const ids = allocate('index', 2 * rows * count);
	for (let i = 0; i < count; i++) {
		pollAt(i);
		for (let k = 0; k < rows; k++) {
			const o = 2 * (i * rows + k);
			ids[o] = mix(mix(origins[i], own[2 * k]), own[2 * k + 1]);
			ids[o + 1] = mix(mix(i + 0x51ed27, own[2 * k + 1]), own[2 * k]);
		}
	}
	return { count: rows * count, columns, ids };
}
