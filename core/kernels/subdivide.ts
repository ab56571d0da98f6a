/**
 * Each face of n sides as n quads around its middle: flat, or smoothed (Edwin Catmull and Jim Clark, “Recursively generated
 * B-spline surfaces on arbitrary topological meshes”, 1978). Borders become smooth curves of their own.
 */
import { WIDTH, allocate, allocateData, edgesOf, positionsOf, pollAt } from '../geometry/index.ts';
import type { Column, Mesh, Table } from '../geometry/index.ts';

/** One step. Attributes are averaged; faces hand theirs to all of their quads. */
export function subdivide(mesh: Mesh, smooth: boolean): Mesh {
	const { faceStarts, cornerPoints, pointCount } = mesh.topology;
	const edges = edgesOf(mesh.topology);
	const faceCount = faceStarts.length - 1,
		edgeCount = edges.uses.length,
		corners = cornerPoints.length;
	// New points: the old ones, then one for each edge, then one for each face.
	const total = pointCount + edgeCount + faceCount;
	const topology = {
		pointCount: total,
		faceStarts: allocate('index', corners + 1),
		cornerPoints: allocate('index', 4 * corners)
	};
	/** The corner from which each new corner's values come: itself, towards the next, the middle, towards the one before. */
	const faceRows = allocate('index', corners);
	for (let f = 0; f < faceCount; f++) {
		pollAt(f);
		const start = faceStarts[f],
			end = faceStarts[f + 1];
		for (let c = start; c < end; c++) {
			const before = c > start ? c - 1 : end - 1;
			topology.cornerPoints.set(
				[
					cornerPoints[c],
					pointCount + edges.ofCorner[c],
					pointCount + edgeCount + f,
					pointCount + edges.ofCorner[before]
				],
				4 * c
			);
			topology.faceStarts[c + 1] = 4 * (c + 1);
			faceRows[c] = f;
		}
	}
	const points: Table = {
		count: total,
		ids: null,
		columns: new Map([...mesh.points.columns].map(([name, source]) => [name, spreadPoints(mesh, source)]))
	};
	if (smooth)
		(points.columns as Map<string, Column>).set('position', smoothed(mesh, points.columns.get('position')!));
	const cornerTable: Table = {
		count: 4 * corners,
		ids: null,
		columns: new Map(
			[...mesh.corners.columns]
				.filter(([name]) => name !== 'normal')
				.map(([name, source]) => [name, spreadCorners(mesh, source)])
		)
	};
	const faces: Table = {
		count: corners,
		ids: null,
		columns: new Map(
			[...mesh.faces.columns].map(([name, source]) => {
				const width = WIDTH[source.type];
				const data = allocateData(source.type, corners);
				for (let c = 0; c < corners; c++)
					for (let k = 0; k < width; k++) data[c * width + k] = source.data[faceRows[c] * width + k];
				return [name, { ...source, data }];
			})
		)
	};
	return { topology, points, corners: cornerTable, faces, edges: null };
}

const blends = (source: Column): boolean => source.data instanceof Float32Array && source.role !== 'id';

/** Old points as they are, then the middles of edges and of faces. */
function spreadPoints(mesh: Mesh, source: Column): Column {
	const { faceStarts, cornerPoints, pointCount } = mesh.topology;
	const { points } = edgesOf(mesh.topology);
	const width = WIDTH[source.type];
	const edgeCount = points.length / 2;
	const data = allocateData(source.type, pointCount + edgeCount + faceStarts.length - 1);
	data.set(source.data);
	const mixes = blends(source);
	for (let e = 0, o = pointCount * width; e < edgeCount; e++)
		for (let k = 0; k < width; k++, o++) {
			const a = source.data[points[2 * e] * width + k];
			data[o] = mixes ? (a + source.data[points[2 * e + 1] * width + k]) / 2 : a;
		}
	for (let f = 0, o = (pointCount + edgeCount) * width; f + 1 < faceStarts.length; f++)
		for (let k = 0; k < width; k++, o++) {
			let sum = 0;
			for (let c = faceStarts[f]; c < faceStarts[f + 1]; c++) sum += source.data[cornerPoints[c] * width + k];
			data[o] = mixes
				? sum / (faceStarts[f + 1] - faceStarts[f])
				: source.data[cornerPoints[faceStarts[f]] * width + k];
		}
	return { ...source, data };
}

function spreadCorners(mesh: Mesh, source: Column): Column {
	const { faceStarts, cornerPoints } = mesh.topology;
	const width = WIDTH[source.type];
	const data = allocateData(source.type, 4 * cornerPoints.length);
	const mixes = blends(source);
	const from = source.data;
	for (let f = 0; f + 1 < faceStarts.length; f++) {
		const start = faceStarts[f],
			end = faceStarts[f + 1];
		for (let k = 0; k < width; k++) {
			let sum = 0;
			for (let c = start; c < end; c++) sum += from[c * width + k];
			for (let c = start; c < end; c++) {
				const next = c + 1 < end ? c + 1 : start,
					before = c > start ? c - 1 : end - 1;
				const own = from[c * width + k];
				const o = 4 * c * width + k;
				data[o] = own;
				data[o + width] = mixes ? (own + from[next * width + k]) / 2 : own;
				data[o + 2 * width] = mixes ? sum / (end - start) : own;
				data[o + 3 * width] = mixes ? (own + from[before * width + k]) / 2 : own;
			}
		}
	}
	return { ...source, data };
}

/** Positions by the smooth rules: from the flat ones, whose face middles are already right. */
function smoothed(mesh: Mesh, flat: Column): Column {
	const { faceStarts, cornerPoints, pointCount } = mesh.topology;
	const { points, ofCorner, uses } = edgesOf(mesh.topology);
	const p = positionsOf(mesh);
	const edgeCount = uses.length;
	const out = (flat.data as Float32Array).slice();
	const middle = (pointCount + edgeCount) * 3;
	const edgeSum = new Float64Array(3 * edgeCount),
		faceSum = new Float64Array(3 * pointCount),
		faces = new Uint32Array(pointCount);
	for (let f = 0; f + 1 < faceStarts.length; f++)
		for (let c = faceStarts[f]; c < faceStarts[f + 1]; c++) {
			faces[cornerPoints[c]]++;
			for (let k = 0; k < 3; k++) {
				edgeSum[3 * ofCorner[c] + k] += flat.data[middle + 3 * f + k];
				faceSum[3 * cornerPoints[c] + k] += flat.data[middle + 3 * f + k];
			}
		}
	const edgeMiddles = new Float64Array(3 * pointCount),
		edgesAt = new Uint32Array(pointCount);
	const borderSum = new Float64Array(3 * pointCount),
		borders = new Uint32Array(pointCount);
	for (let e = 0; e < edgeCount; e++) {
		const a = points[2 * e],
			b = points[2 * e + 1];
		const inner = uses[e] === 2;
		for (let k = 0; k < 3; k++) {
			const sum = p[3 * a + k] + p[3 * b + k];
			if (inner) out[3 * (pointCount + e) + k] = (sum + edgeSum[3 * e + k]) / 4;
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
	for (let i = 0; i < pointCount; i++) {
		const n = edgesAt[i];
		if (!n) continue;
		for (let k = 3 * i; k < 3 * i + 3; k++) {
			// On a border: halfway to the middles of its two border edges. A corner of several borders stays.
			if (borders[i] === 2) out[k] = p[k] / 2 + borderSum[k] / 4;
			else if (borders[i] === 0)
				out[k] = (faceSum[k] / faces[i] + (2 * edgeMiddles[k]) / n + (n - 3) * p[k]) / n;
		}
	}
	return { ...flat, data: out };
}
