/** A mesh: points, faces of any number of sides, their corners, and edges where somebody has written to them. */
import { allocate, copyOf, filled, pollAt, scratch } from '../allocate.ts';
import type { Relation } from '../blend.ts';
import { edgesOf } from '../derive.ts';
import type { Kind, Mesh, Topology } from '../geometry.ts';
import { makeMesh } from '../geometry.ts';
import { counting, grouped } from '../grouped.ts';
import { Growing } from '../growing.ts';
import { derive } from '../kept.ts';
import type { Affine } from '../matrix.ts';
import { affineAt, determinant, identity } from '../matrix.ts';
import { placeTable } from '../place.ts';
import { includePoints } from '../reach.ts';
import { stackTables } from '../stack.ts';
import type { Column, Table } from '../table.ts';
import { EMPTY_TABLE, WIDTH, column, gatherTable, withColumns } from '../table.ts';
import type { Tiling } from '../tile.ts';
import { tile, tileStarts } from '../tile.ts';
import type { PartKind } from './part.ts';

export const meshPart: PartKind<Mesh> = {
	called: 'a mesh',
	tables: {
		point: {
			name: 'mesh points',
			read: ({ points }) => points,
			write: (mesh, points) => ({ ...mesh, points })
		},
		face: {
			name: 'faces',
			read: ({ faces }) => faces,
			write: (mesh, faces) => ({ ...mesh, faces }),
			keep: keepFaces
		},
		corner: {
			name: 'corners',
			read: ({ corners }) => corners,
			write: (mesh, corners) => ({ ...mesh, corners })
		},
		edge: {
			name: 'edges',
			read: ({ edges }) => edges,
			write: (mesh, edges) => ({ ...mesh, edges }),
			implied: ({ topology }) => ({ ...EMPTY_TABLE, count: edgesOf(topology).uses.length })
		}
	},
	placed: 'point',
	each: 'face',
	shape: ({ topology }) => topology,
	arrays: ({ topology }) => [topology.faceStarts, topology.cornerPoints],
	relate: ({ topology }, from, to) =>
		derive(topology, `relation ${from} ${to}`, () => relate(topology, from, to)),
	include: includePoints,
	merge(all, tables, materials) {
		const topology = mergeTopologies(all);
		const hasMaterials = all.some(({ faces }) => faces.columns.has('material'));
		const faces = tables('face').map(({ table, salt }, i) => ({
			table: hasMaterials ? withMaterials(table, materials[i]) : table,
			salt
		}));
		const edges = all.some((mesh) => mesh.edges) ? stackTables(tables('edge')) : null;
		return {
			topology,
			points: stackTables(tables('point')),
			corners: stackTables(tables('corner')),
			faces: stackTables(faces),
			edges: edges && edges.count === edgesOf(topology).uses.length ? edges : null
		};
	},
	transform(mesh, m: Affine) {
		const moved = {
			...mesh,
			points: placeTable(mesh.points, m),
			faces: placeTable(mesh.faces, m),
			corners: placeTable(mesh.corners, m),
			edges: mesh.edges && placeTable(mesh.edges, m)
		};
		// Faces are turned round where the map mirrors, so that they stay outward.
		return determinant(m) < 0 ? turnFaces(moved) : moved;
	},
	tile: tileMesh,
	counts: ({ topology, points }) => ({ points: points.count, faces: topology.faceStarts.length - 1 }),
	empty: () => makeMesh(new Float32Array(0), Uint32Array.of(0), new Uint32Array(0))
};

/** Corners know their point, their face and their edge; every other relation is a pair of these. */
function relate(topology: Topology, from: Kind, to: Kind): Relation {
	const corners = topology.cornerPoints.length;
	if (from === 'point' && to === 'edge') {
		const ends = edgesOf(topology).points;
		const starts = counting(ends.length / 2 + 1);
		for (let e = 0; e < starts.length; e++) {
			pollAt(e);
			starts[e] *= 2;
		}
		return { starts, items: ends };
	}
	if (from === 'edge' && to === 'point')
		return grouped(topology.pointCount, edgesOf(topology).points, (k) => k >> 1);
	const owners = (kind: Kind): Uint32Array => {
		if (kind === 'point') return topology.cornerPoints;
		if (kind === 'edge') return edgesOf(topology).ofCorner;
		if (kind === 'corner') return counting(corners);
		const faces = scratch('index', corners);
		const { faceStarts } = topology;
		for (let f = 0; f + 1 < faceStarts.length; f++) {
			pollAt(f);
			faces.fill(f, faceStarts[f], faceStarts[f + 1]);
		}
		return faces;
	};
	const sources = owners(from);
	const targets = owners(to);
	const count =
		to === 'point'
			? topology.pointCount
			: to === 'edge'
				? edgesOf(topology).uses.length
				: to === 'face'
					? topology.faceStarts.length - 1
					: corners;
	return grouped(count, targets, (c) => sources[c]);
}

function mergeTopologies(meshes: readonly Mesh[]): Topology {
	let corners = 0,
		faces = 0,
		points = 0;
	for (const { topology } of meshes) {
		corners += topology.cornerPoints.length;
		faces += topology.faceStarts.length - 1;
	}
	const faceStarts = allocate('index', faces + 1);
	const cornerPoints = allocate('index', corners);
	corners = faces = 0;
	for (const { topology } of meshes) {
		const { faceStarts: starts, cornerPoints: own } = topology;
		for (let f = 0; f < starts.length - 1; f++) {
			pollAt(f);
			faceStarts[faces + f + 1] = corners + starts[f + 1];
		}
		for (let c = 0; c < own.length; c++) {
			pollAt(c);
			cornerPoints[corners + c] = own[c] + points;
		}
		corners += own.length;
		faces += starts.length - 1;
		points += topology.pointCount;
	}
	return { pointCount: points, faceStarts, cornerPoints };
}

/** The face table with its material indices counted in the merged list. Faces without one get -1. */
function withMaterials(faces: Table, places: readonly number[]): Table {
	const own = faces.columns.get('material');
	const data = allocate('int', faces.count);
	for (let f = 0; f < data.length; f++) {
		pollAt(f);
		data[f] = own ? (places[own.data[f]] ?? -1) : -1;
	}
	return withColumns(faces, { material: { ...column('int', 'id', data), default: [-1] } });
}

/** The mesh with every face the other way round; corner attributes go with their corners. */
function turnFaces(mesh: Mesh): Mesh {
	const { faceStarts, cornerPoints } = mesh.topology;
	const order = scratch('index', cornerPoints.length);
	for (let f = 0; f + 1 < faceStarts.length; f++) {
		pollAt(f);
		for (let c = faceStarts[f]; c < faceStarts[f + 1]; c++)
			order[c] = faceStarts[f] + faceStarts[f + 1] - 1 - c;
	}
	const turned = allocate('index', cornerPoints.length);
	for (let c = 0; c < order.length; c++) {
		pollAt(c);
		turned[c] = cornerPoints[order[c]];
	}
	const columns = new Map<string, Column>();
	for (const [name, source] of mesh.corners.columns) {
		const width = source.data.length / Math.max(1, mesh.corners.count);
		const data = copyOf(source.data);
		for (let c = 0; c < order.length; c++) {
			pollAt(c);
			for (let k = 0; k < width; k++) data[c * width + k] = source.data[order[c] * width + k];
		}
		columns.set(name, { ...source, data });
	}
	return {
		...mesh,
		topology: { ...mesh.topology, cornerPoints: turned },
		corners: { ...mesh.corners, columns, ids: null },
		// Edges are numbered by first use, which turning changes.
		edges: null
	};
}

/** Some faces; of the points only those that they use. */
function keepFaces(mesh: Mesh, rows: Uint32Array): Mesh {
	const { faceStarts, cornerPoints, pointCount } = mesh.topology;
	const starts = allocate('index', rows.length + 1);
	for (let f = 0; f < rows.length; f++) {
		pollAt(f);
		starts[f + 1] = starts[f] + faceStarts[rows[f] + 1] - faceStarts[rows[f]];
	}
	const corners = allocate('index', starts[rows.length]);
	const oldCorners = scratch('index', starts[rows.length]);
	const newPoint = filled('int', pointCount, -1);
	const points = new Growing('index');
	for (let f = 0, k = 0; f < rows.length; f++) {
		pollAt(f);
		for (let c = faceStarts[rows[f]]; c < faceStarts[rows[f] + 1]; c++, k++) {
			const p = cornerPoints[c];
			if (newPoint[p] < 0) {
				newPoint[p] = points.length;
				points.push(p);
			}
			corners[k] = newPoint[p];
			oldCorners[k] = c;
		}
	}
	return {
		topology: { pointCount: points.length, faceStarts: starts, cornerPoints: corners },
		points: gatherTable(mesh.points, points.view()),
		faces: gatherTable(mesh.faces, rows),
		corners: gatherTable(mesh.corners, oldCorners),
		edges: null
	};
}

/** A mesh once for each place. */
function tileMesh(mesh: Mesh, place: Tiling): Mesh {
	const { count, matrices } = place;
	const { faceStarts, cornerPoints, pointCount } = mesh.topology;
	const out = allocate('index', cornerPoints.length * count);
	const n = cornerPoints.length;
	const mirrored: number[] = [];
	const own = identity();
	for (let i = 0; i < count; i++) {
		pollAt(i);
		if (determinant(affineAt(matrices, i, own)) < 0) mirrored.push(i);
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
