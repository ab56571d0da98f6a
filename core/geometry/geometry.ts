/** What travels on a geometry wire: a mesh, curves, points and copies, any of them, with materials. All immutable. */
import type { Table } from './table.ts';
import { EMPTY_TABLE, WHOLE, column, floats, makeTable } from './table.ts';

/** Kinds of element. */
export type Kind = 'point' | 'edge' | 'face' | 'corner' | 'curve' | 'copy' | 'whole';

/** Which points make which faces. Shared by all meshes that differ only in attributes. */
export interface Topology {
	readonly pointCount: number;
	/** For each face its first corner, and one more entry: the count of corners. */
	readonly faceStarts: Uint32Array;
	/** For each corner its point. */
	readonly cornerPoints: Uint32Array;
}

export interface Mesh {
	readonly topology: Topology;
	/** Has `position` (vec3, metres). */
	readonly points: Table;
	readonly corners: Table;
	/** May have `material` (int, an index into the geometry's materials). */
	readonly faces: Table;
	/** Attributes of edges, in the order of `edgesOf(topology)`; empty columns where nobody has written to them. */
	readonly edges: Table | null;
}

export interface Curves {
	/** Has `position`. */
	readonly points: Table;
	/** Has `closed` (bool). */
	readonly curves: Table;
	/** For each curve its first point, and one more entry: the count of points. */
	readonly starts: Uint32Array;
}

export interface Points {
	/** Has `position`. */
	readonly points: Table;
}

export interface Instances {
	/** Has `source` (int) and the columns of places (see places.ts). May have `shown` (bool). */
	readonly copies: Table;
	readonly sources: readonly Geometry[];
}

/** glTF's metallic-roughness fields; `colour` is linear. */
export interface Material {
	readonly name: string;
	readonly colour: readonly [number, number, number, number];
	readonly roughness: number;
	readonly metallic: number;
	readonly twoSided: boolean;
}

export interface Geometry {
	readonly kind: 'geometry';
	readonly mesh: Mesh | null;
	readonly curves: Curves | null;
	readonly points: Points | null;
	readonly copies: Instances | null;
	readonly materials: readonly Material[];
	readonly whole: Table;
}

export const EMPTY: Geometry = {
	kind: 'geometry',
	mesh: null,
	curves: null,
	points: null,
	copies: null,
	materials: [],
	whole: WHOLE
};

/** A geometry of the parts given. */
export const geometryOf = (parts: Partial<Geometry>): Geometry => ({ ...EMPTY, ...parts });

const positionColumn = (positions: Float32Array) => column('vec3', 'position', positions);

/** Loose points at these positions (3 numbers each). */
export function makePoints(positions: Float32Array, ids: Uint32Array | null = null): Points {
	return { points: makeTable(positions.length / 3, { position: positionColumn(positions) }, ids) };
}

/** Curves through these positions. `starts` has one entry more than there are curves. */
export function makeCurves(positions: Float32Array, starts: Uint32Array, closed: Uint8Array): Curves {
	return {
		points: makeTable(positions.length / 3, { position: positionColumn(positions) }),
		curves: makeTable(closed.length, { closed: column('bool', 'plain', closed) }),
		starts
	};
}

/** A mesh from positions and polygons. */
export function makeMesh(positions: Float32Array, faceStarts: Uint32Array, cornerPoints: Uint32Array): Mesh {
	return {
		topology: { pointCount: positions.length / 3, faceStarts, cornerPoints },
		points: makeTable(positions.length / 3, { position: positionColumn(positions) }),
		corners: { ...EMPTY_TABLE, count: cornerPoints.length },
		faces: { ...EMPTY_TABLE, count: faceStarts.length - 1 },
		edges: null
	};
}

/** The same points, curves or mesh with new positions; vertex normals that were stored are dropped as out of date. */
export function withPositions(table: Table, positions: Float32Array): Table {
	const columns = new Map(table.columns);
	columns.set('position', positionColumn(positions));
	return { ...table, columns };
}

export const curveCount = (curves: Curves): number => curves.starts.length - 1;
export const positionsOf = (part: { points: Table }): Float32Array => floats(part.points, 'position');

export interface Counts {
	points: number;
	faces: number;
	curves: number;
	copies: number;
}
