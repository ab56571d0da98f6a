/** Values carried from one kind of element to another, by role: most blend, ids, whole numbers and texts do not. */
import { scratch, pollAt } from './allocate.ts';
import type { Geometry, Kind, Mesh } from './geometry.ts';
import type { Column, Table } from './table.ts';
import type { Relation } from './blend.ts';
import { blendMany } from './blend.ts';
import { edgesOf } from './derive.ts';
import { counting, grouped } from './grouped.ts';
import { derive, together } from './kept.ts';

/** The parts of a geometry whose tables hold elements. */
export type Part = 'mesh' | 'curves' | 'points' | 'copies' | 'whole';

/** The order in which kinds are searched for a bare name, after the kind asked for and points. */
const SEARCH: readonly Kind[] = ['point', 'corner', 'face', 'edge', 'curve', 'copy', 'whole'];

const KINDS: Record<Part, readonly Kind[]> = {
	mesh: ['point', 'edge', 'face', 'corner'],
	curves: ['point', 'curve'],
	points: ['point'],
	copies: ['copy'],
	whole: ['whole']
};

/** The parts that are there and have elements of a kind, with their tables. */
export function tablesOf(geometry: Geometry, kind: Kind): { part: Part; table: Table }[] {
	const found: { part: Part; table: Table }[] = [];
	for (const part of ['mesh', 'curves', 'points', 'copies', 'whole'] as const) {
		const table = KINDS[part].includes(kind) ? tableOf(geometry, part, kind) : null;
		if (table) found.push({ part, table });
	}
	return found;
}

/** Every table that is there, with its part and kind. */
export function allTables(geometry: Geometry): { part: Part; kind: Kind; table: Table }[] {
	const found: { part: Part; kind: Kind; table: Table }[] = [];
	for (const part of ['mesh', 'curves', 'points', 'copies', 'whole'] as const)
		for (const kind of KINDS[part]) {
			if (kind === 'edge' && !geometry.mesh?.edges) continue;
			const table = tableOf(geometry, part, kind);
			if (table) found.push({ part, kind, table });
		}
	return found;
}

/** The table of a kind in a part, or null. */
export function tableOf(geometry: Geometry, part: Part, kind: Kind): Table | null {
	if (part === 'whole' || kind === 'whole') return kind === 'whole' ? geometry.whole : null;
	if (part === 'mesh' && geometry.mesh) {
		const mesh = geometry.mesh;
		if (kind === 'edge')
			return mesh.edges ?? { count: edgesOf(mesh.topology).uses.length, columns: new Map(), ids: null };
		return kind === 'point'
			? mesh.points
			: kind === 'face'
				? mesh.faces
				: kind === 'corner'
					? mesh.corners
					: null;
	}
	if (part === 'curves' && geometry.curves)
		return kind === 'point' ? geometry.curves.points : kind === 'curve' ? geometry.curves.curves : null;
	if (part === 'points' && geometry.points) return kind === 'point' ? geometry.points.points : null;
	if (part === 'copies' && geometry.copies) return kind === 'copy' ? geometry.copies.copies : null;
	return null;
}

/** The geometry with one table replaced. */
export function withTable(geometry: Geometry, part: Part, kind: Kind, table: Table): Geometry {
	switch (part) {
		case 'mesh': {
			const field =
				kind === 'point' ? 'points' : kind === 'face' ? 'faces' : kind === 'corner' ? 'corners' : 'edges';
			return { ...geometry, mesh: { ...geometry.mesh!, [field]: table } };
		}
		case 'curves':
			return {
				...geometry,
				curves: { ...geometry.curves!, [kind === 'point' ? 'points' : 'curves']: table }
			};
		case 'points':
			return { ...geometry, points: { points: table } };
		case 'copies':
			return { ...geometry, copies: { ...geometry.copies!, copies: table } };
		default:
			return { ...geometry, whole: table };
	}
}

export interface Found {
	column: Column;
	kind: Kind;
	/** Other kinds that have a column of this name. */
	others: Kind[];
}

/** Finds an attribute: the kind asked for first, then points, then a fixed order; then the whole. */
export function findAttribute(geometry: Geometry, part: Part, kind: Kind, name: string): Found | null {
	const order = [kind, ...SEARCH.filter((other) => other !== kind)];
	const found: Found[] = [];
	for (const candidate of order) {
		const table = candidate === 'whole' ? geometry.whole : tableOf(geometry, part, candidate);
		const column = table?.columns.get(name);
		if (column) found.push({ column, kind: candidate, others: [] });
	}
	if (!found.length) return null;
	return {
		...found[0],
		others: found
			.slice(1)
			.map((f) => f.kind)
			.filter((other) => other !== 'whole')
	};
}

/** The names of all attributes that a bare name can reach, for messages and lists. */
export function attributeNames(geometry: Geometry): Map<string, { kind: Kind; part: Part; column: Column }> {
	const names = new Map<string, { kind: Kind; part: Part; column: Column }>();
	for (const kind of SEARCH)
		for (const { part, table } of tablesOf(geometry, kind))
			for (const [name, column] of table.columns)
				if (!names.has(name)) names.set(name, { kind, part, column });
	return names;
}

/** A column of one kind as a column of another, of the same part. */
export function convertColumn(geometry: Geometry, part: Part, source: Column, from: Kind, to: Kind): Column {
	if (from === to) return source;
	const target = tableOf(geometry, part, to) ?? geometry.whole;
	const shape =
		part === 'mesh' ? geometry.mesh?.topology : part === 'curves' ? geometry.curves?.starts : target;
	return derive(together(source, shape ?? target), `${from} to ${to} of ${target.count}`, () => {
		if (from === 'whole')
			return blendMany(source, { starts: counting(target.count + 1), items: scratch('index', target.count) });
		const relation = relate(geometry, part, from, to);
		return blendMany(source, relation);
	});
}

function relate(geometry: Geometry, part: Part, from: Kind, to: Kind): Relation {
	if (to === 'whole') {
		const count = tableOf(geometry, part, from)!.count;
		return { starts: Uint32Array.of(0, count), items: counting(count) };
	}
	if (part === 'mesh') return relateMesh(geometry.mesh!, from, to);
	const { starts } = geometry.curves!;
	const count = starts[starts.length - 1];
	if (from === 'point') return { starts, items: counting(count) };
	const items = scratch('index', count);
	for (let i = 0; i + 1 < starts.length; i++) {
		pollAt(i);
		items.fill(i, starts[i], starts[i + 1]);
	}
	return { starts: counting(count + 1), items };
}

/** Corners know their point, their face and their edge; every other relation is a pair of these. */
function relateMesh(mesh: Mesh, from: Kind, to: Kind): Relation {
	return derive(mesh.topology, `relation ${from} ${to}`, () => {
		const corners = mesh.topology.cornerPoints.length;
		if (from === 'point' && to === 'edge') {
			const ends = edgesOf(mesh.topology).points;
			const starts = counting(ends.length / 2 + 1);
			for (let e = 0; e < starts.length; e++) {
				pollAt(e);
				starts[e] *= 2;
			}
			return { starts, items: ends };
		}
		if (from === 'edge' && to === 'point')
			return grouped(mesh.topology.pointCount, edgesOf(mesh.topology).points, (k) => k >> 1);
		const owners = (kind: Kind): Uint32Array => {
			if (kind === 'point') return mesh.topology.cornerPoints;
			if (kind === 'edge') return edgesOf(mesh.topology).ofCorner;
			if (kind === 'corner') return counting(corners);
			const faces = scratch('index', corners);
			const { faceStarts } = mesh.topology;
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
				? mesh.topology.pointCount
				: to === 'edge'
					? edgesOf(mesh.topology).uses.length
					: to === 'face'
						? mesh.topology.faceStarts.length - 1
						: corners;
		return grouped(count, targets, (c) => sources[c]);
	});
}
