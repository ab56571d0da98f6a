/**
 * Faces of n sides as n quads around their middles: flat, or smoothed (Edwin Catmull and Jim Clark, “Recursively
 * generated B-spline surfaces on arbitrary topological meshes”, 1978). Borders become smooth curves of their own.
 *
 * Where only some faces are cut, their neighbours take in the new points of shared edges, so nothing opens. Those
 * neighbours have points on straight sides; once all steps are done `closeUp` cuts them into triangles around their
 * middles, because points on a straight side would be skipped when a face is cut into triangles.
 */
import { mix } from '../math/index.ts';
import {
	allocate,
	allocateData,
	blendMany,
	blends,
	blendTwo,
	edgesOf,
	filled,
	gatherColumn,
	idsOf,
	idsOfRows,
	pollAt,
	positionsOf,
	scratch,
	WIDTH,
	writeDerived,
	setInPieces,
	copyOf
} from '../geometry/index.ts';
import type { Column, Mesh, Table, Topology } from '../geometry/index.ts';

/** A mesh some of whose faces have points on their sides that their shape does not need. */
export interface Refined {
	mesh: Mesh;
	/** One byte for each face: 1 where there are such points. */
	wanting: Uint8Array;
}

/**
 * One step on some faces; the others stay as they are, to the bit.
 * @param chosen one byte for each face; null for all.
 */
export function subdivideWhere(
	{ mesh, wanting }: Refined,
	chosen: Uint8Array | null,
	smooth: boolean
): Refined {
	const { faceStarts } = mesh.topology;
	const { ofCorner, uses } = edgesOf(mesh.topology);
	const isCut = scratch('byte', uses.length);
	for (let f = 0; f + 1 < faceStarts.length; f++) {
		pollAt(f);
		if (!chosen || chosen[f]) for (let c = faceStarts[f]; c < faceStarts[f + 1]; c++) isCut[ofCorner[c]] = 1;
	}
	const parts = cutUp(mesh, (f) => (!chosen || chosen[f] ? 'quads' : 'whole'), isCut);
	const out = assemble(mesh, parts);
	if (smooth)
		(out.points.columns as Map<string, Column>).set(
			'position',
			smoothed(mesh, out.points.columns.get('position')!, parts, chosen)
		);
	const stillWanting = scratch('byte', parts.faceOf.length);
	for (let i = 0; i < parts.faceOf.length; i++) {
		pollAt(i);
		const f = parts.faceOf[i];
		if (chosen && !chosen[f]) {
			const size = faceStarts[f + 1] - faceStarts[f];
			const now = out.topology.faceStarts[i + 1] - out.topology.faceStarts[i];
			stillWanting[i] = wanting[f] || now > size ? 1 : 0;
		}
	}
	return { mesh: out, wanting: stillWanting };
}

/** Cuts faces with points on straight sides into triangles around their middles. */
export function closeUp({ mesh, wanting }: Refined): Mesh {
	if (!wanting.includes(1)) return mesh;
	return assemble(
		mesh,
		cutUp(
			mesh,
			(f) => (wanting[f] ? 'triangles' : 'whole'),
			scratch('byte', edgesOf(mesh.topology).uses.length)
		)
	);
}

/** What new corners are made of: a corner as it was, the middle of its side to the next, or the middle of its face. */
const OWN = 0,
	SIDE = 1,
	MIDDLE = 2;

interface Parts {
	topology: Topology;
	/** For each new face the one it is a part of. */
	faceOf: Uint32Array;
	/** For each new corner what it is, of which old corner, and from which it takes what does not blend. */
	what: Uint8Array;
	corner: Uint32Array;
	owner: Uint32Array;
	/** The edges and faces whose middles are new points, in their order after the old points. */
	edges: Uint32Array;
	faces: Uint32Array;
}

/** New faces and corners. New points: the old ones, then the middles of cut edges, then those of faces. */
function cutUp(mesh: Mesh, how: (face: number) => 'whole' | 'quads' | 'triangles', isCut: Uint8Array): Parts {
	const { faceStarts, cornerPoints, pointCount } = mesh.topology;
	const { ofCorner } = edgesOf(mesh.topology);
	const faceCount = faceStarts.length - 1;
	let corners = 0,
		newFaces = 0,
		middles = 0;
	for (let f = 0; f < faceCount; f++) {
		pollAt(f);
		const size = faceStarts[f + 1] - faceStarts[f];
		const way = how(f);
		if (way !== 'whole') middles++;
		newFaces += way === 'whole' ? 1 : size;
		corners += way === 'quads' ? 4 * size : way === 'triangles' ? 3 * size : size;
		if (way === 'whole')
			for (let c = faceStarts[f]; c < faceStarts[f + 1]; c++) corners += isCut[ofCorner[c]];
	}
	const edgePoint = scratch('index', isCut.length);
	let edgeCount = 0;
	for (let e = 0; e < isCut.length; e++) {
		pollAt(e);
		if (isCut[e]) edgePoint[e] = pointCount + edgeCount++;
	}
	const parts: Parts = {
		topology: {
			pointCount: pointCount + edgeCount + middles,
			faceStarts: allocate('index', newFaces + 1),
			cornerPoints: allocate('index', corners)
		},
		faceOf: allocate('index', newFaces),
		what: allocate('byte', corners),
		corner: allocate('index', corners),
		owner: allocate('index', corners),
		edges: scratch('index', edgeCount),
		faces: scratch('index', middles)
	};
	for (let e = 0, i = 0; e < isCut.length; e++) {
		pollAt(e);
		if (isCut[e]) parts.edges[i++] = e;
	}
	let o = 0,
		face = 0,
		middle = 0;
	const put = (what: number, corner: number, owner: number, point: number) => {
		parts.what[o] = what;
		parts.corner[o] = corner;
		parts.owner[o] = owner;
		parts.topology.cornerPoints[o++] = point;
	};
	const close = (f: number) => {
		parts.faceOf[face++] = f;
		parts.topology.faceStarts[face] = o;
	};
	for (let f = 0; f < faceCount; f++) {
		pollAt(f);
		const start = faceStarts[f],
			end = faceStarts[f + 1];
		const way = how(f);
		const own = pointCount + edgeCount + middle;
		if (way !== 'whole') parts.faces[middle++] = f;
		for (let c = start; c < end; c++) {
			if (way === 'quads') {
				const before = c > start ? c - 1 : end - 1;
				put(OWN, c, c, cornerPoints[c]);
				put(SIDE, c, c, edgePoint[ofCorner[c]]);
				put(MIDDLE, c, c, own);
				put(SIDE, before, c, edgePoint[ofCorner[before]]);
				close(f);
			} else if (way === 'triangles') {
				const next = c + 1 < end ? c + 1 : start;
				put(OWN, c, c, cornerPoints[c]);
				put(OWN, next, next, cornerPoints[next]);
				put(MIDDLE, c, c, own);
				close(f);
			} else {
				put(OWN, c, c, cornerPoints[c]);
				if (isCut[ofCorner[c]]) put(SIDE, c, c, edgePoint[ofCorner[c]]);
			}
		}
		if (way === 'whole') close(f);
	}
	return parts;
}

function assemble(mesh: Mesh, parts: Parts): Mesh {
	const table = (from: Table, ids: Uint32Array, spread: (source: Column) => Column): Table => ({
		count: ids.length / 2,
		ids,
		columns: new Map([...from.columns].map(([name, source]) => [name, spread(source)]))
	});
	const normalFree = new Map(mesh.corners.columns);
	normalFree.delete('normal');
	const middles = facesAround(mesh.topology, parts.faces);
	return {
		topology: parts.topology,
		points: table(mesh.points, idsOfPoints(mesh, parts), (source) =>
			spreadPoints(mesh, parts, middles, source)
		),
		corners: table({ ...mesh.corners, columns: normalFree }, idsOfRows(mesh.corners, parts.owner), (source) =>
			spreadCorners(mesh, parts, source)
		),
		faces: table(mesh.faces, idsOfRows(mesh.faces, parts.faceOf), (source) =>
			gatherColumn(source, parts.faceOf)
		),
		edges: null
	};
}

/** Old points keep their ids; the middles of edges have theirs from both ends, those of faces from the face. */
function idsOfPoints(mesh: Mesh, { topology, edges, faces }: Parts): Uint32Array {
	const ids = allocate('index', 2 * topology.pointCount);
	const old = idsOf(mesh.points);
	const ends = edgesOf(mesh.topology).points;
	setInPieces(ids, old);
	const { faceStarts, cornerPoints, pointCount } = mesh.topology;
	let o = pointCount;
	for (let i = 0; i < edges.length; i++, o++) {
		pollAt(i);
		const a = 2 * ends[2 * edges[i]],
			b = 2 * ends[2 * edges[i] + 1];
		ids[2 * o] = mix(mix(mix(0x3d41e7, old[a]), old[b]), old[a + 1]);
		ids[2 * o + 1] = mix(mix(mix(0x52c9b3, old[b + 1]), old[b]), old[a]);
	}
	for (let i = 0; i < faces.length; i++, o++) {
		pollAt(i);
		// A part of a face that was cut before may have the face's id; its points tell them apart.
		let around = 0x666163;
		for (let c = faceStarts[faces[i]]; c < faceStarts[faces[i] + 1]; c++)
			around = mix(mix(around, old[2 * cornerPoints[c]]), old[2 * cornerPoints[c] + 1]);
		writeDerived(ids, o, mesh.faces, faces[i], around);
	}
	return ids;
}

/** The points of some faces, as what their middles are the mean of. */
function facesAround({ faceStarts, cornerPoints }: Topology, faces: Uint32Array) {
	const starts = scratch('index', faces.length + 1);
	for (let i = 0; i < faces.length; i++) {
		pollAt(i);
		starts[i + 1] = starts[i] + faceStarts[faces[i] + 1] - faceStarts[faces[i]];
	}
	const items = scratch('index', starts[faces.length]);
	for (let i = 0; i < faces.length; i++) {
		pollAt(i);
		for (let c = faceStarts[faces[i]], o = starts[i]; c < faceStarts[faces[i] + 1]; c++, o++)
			items[o] = cornerPoints[c];
	}
	return { starts, items };
}

/** Old points as they are, then the middles of edges and of faces. */
function spreadPoints(
	mesh: Mesh,
	{ topology, edges }: Parts,
	middles: ReturnType<typeof facesAround>,
	source: Column
): Column {
	const ends = edgesOf(mesh.topology).points;
	const [a, b, half] = [
		scratch('index', edges.length),
		scratch('index', edges.length),
		filled('float', edges.length, 0.5)
	];
	for (let i = 0; i < edges.length; i++) {
		pollAt(i);
		a[i] = ends[2 * edges[i]];
		b[i] = ends[2 * edges[i] + 1];
	}
	const data = allocateData(source.type, topology.pointCount);
	setInPieces(data, source.data);
	// What does not blend comes from the first end.
	const ofEdges = blends(source) ? blendTwo(source, a, b, half) : gatherColumn(source, a);
	setInPieces(data, ofEdges.data, source.data.length);
	setInPieces(data, blendMany(source, middles).data, source.data.length + ofEdges.data.length);
	return { ...source, data };
}

function spreadCorners(mesh: Mesh, { topology, faceOf, what, corner, owner }: Parts, source: Column): Column {
	const { faceStarts } = mesh.topology;
	const width = WIDTH[source.type];
	const data = allocateData(source.type, what.length);
	const mixes = blends(source);
	const from = source.data;
	for (let face = 0; face < faceOf.length; face++) {
		pollAt(face);
		const start = faceStarts[faceOf[face]],
			end = faceStarts[faceOf[face] + 1];
		for (let k = 0; k < width; k++)
			for (let i = topology.faceStarts[face]; i < topology.faceStarts[face + 1]; i++) {
				const c = corner[i];
				let value = from[owner[i] * width + k];
				if (mixes && what[i] === SIDE) {
					const next = c + 1 < end ? c + 1 : start;
					value = (from[c * width + k] + from[next * width + k]) / 2;
				} else if (mixes && what[i] === MIDDLE) {
					let sum = 0;
					for (let each = start; each < end; each++) sum += from[each * width + k];
					value = sum / (end - start);
				}
				data[i * width + k] = value;
			}
	}
	return { ...source, data };
}

/**
 * Positions by the smooth rules: from the flat ones, whose face middles are already right. A point or an edge moves only
 * if all faces around it are cut.
 */
function smoothed(mesh: Mesh, flat: Column, parts: Parts, chosen: Uint8Array | null): Column {
	const { faceStarts, cornerPoints, pointCount } = mesh.topology;
	const { points, ofCorner, uses } = edgesOf(mesh.topology);
	const p = positionsOf(mesh);
	const out = copyOf(flat.data as Float32Array);
	const edgeCount = uses.length;
	const middles = 3 * (pointCount + parts.edges.length);
	const edgeSum = scratch('double', 3 * edgeCount),
		faceSum = scratch('double', 3 * pointCount),
		faces = scratch('index', pointCount);
	const edgeStays = scratch('byte', edgeCount),
		pointStays = scratch('byte', pointCount);
	for (let f = 0, middle = middles; f + 1 < faceStarts.length; f++) {
		pollAt(f);
		const isChosen = !chosen || chosen[f];
		for (let c = faceStarts[f]; c < faceStarts[f + 1]; c++) {
			if (!isChosen) {
				edgeStays[ofCorner[c]] = pointStays[cornerPoints[c]] = 1;
				continue;
			}
			faces[cornerPoints[c]]++;
			for (let k = 0; k < 3; k++) {
				edgeSum[3 * ofCorner[c] + k] += flat.data[middle + k];
				faceSum[3 * cornerPoints[c] + k] += flat.data[middle + k];
			}
		}
		if (isChosen) middle += 3;
	}
	const edgeMiddles = scratch('double', 3 * pointCount),
		edgesAt = scratch('index', pointCount);
	const borderSum = scratch('double', 3 * pointCount),
		borders = scratch('index', pointCount);
	for (let e = 0; e < edgeCount; e++) {
		pollAt(e);
		const a = points[2 * e],
			b = points[2 * e + 1];
		const inner = uses[e] === 2;
		for (let k = 0; k < 3; k++) {
			const sum = p[3 * a + k] + p[3 * b + k];
			edgeMiddles[3 * a + k] += sum / 2;
			edgeMiddles[3 * b + k] += sum / 2;
			if (!inner) {
				borderSum[3 * a + k] += sum / 2;
				borderSum[3 * b + k] += sum / 2;
			}
		}
		edgesAt[a]++;
		edgesAt[b]++;
		if (!inner) {
			borders[a]++;
			borders[b]++;
		}
	}
	parts.edges.forEach((e, i) => {
		if (uses[e] !== 2 || edgeStays[e]) return;
		for (let k = 0; k < 3; k++)
			out[3 * (pointCount + i) + k] =
				(p[3 * points[2 * e] + k] + p[3 * points[2 * e + 1] + k] + edgeSum[3 * e + k]) / 4;
	});
	for (let i = 0; i < pointCount; i++) {
		pollAt(i);
		const n = edgesAt[i];
		if (!n || pointStays[i]) continue;
		for (let k = 3 * i; k < 3 * i + 3; k++) {
			// On a border: halfway to the middles of its two border edges. A corner of several borders stays.
			if (borders[i] === 2) out[k] = p[k] / 2 + borderSum[k] / 4;
			else if (borders[i] === 0)
				out[k] = (faceSum[k] / faces[i] + (2 * edgeMiddles[k]) / n + (n - 3) * p[k]) / n;
		}
	}
	return { ...flat, data: out };
}
