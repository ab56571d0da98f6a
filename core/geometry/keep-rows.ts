/** Some of the elements of a geometry, of whatever kind: their columns, their ids, and all that hangs from them. */
import { Growing } from './growing.ts';
import { allocate, filled, pollAt, scratch } from './allocate.ts';
import type { Part } from './convert.ts';
import type { Curves, Geometry, Instances, Kind, Mesh } from './geometry.ts';
import { gatherTable } from './table.ts';

/**
 * The geometry with some rows of one kind of element, in the order given. Of a mesh whose faces are kept only the points
 * that they use stay, of curves all of theirs; copies keep their sources.
 */
export function keepRows(geometry: Geometry, part: Part, kind: Kind, rows: Uint32Array): Geometry {
	if (part === 'mesh' && kind === 'face' && geometry.mesh)
		return { ...geometry, mesh: keepFaces(geometry.mesh, rows) };
	if (part === 'curves' && kind === 'curve' && geometry.curves)
		return { ...geometry, curves: keepCurves(geometry.curves, rows) };
	if (part === 'points' && kind === 'point' && geometry.points)
		return { ...geometry, points: { points: gatherTable(geometry.points.points, rows) } };
	if (part === 'copies' && kind === 'copy' && geometry.copies)
		return { ...geometry, copies: keepCopies(geometry.copies, rows) };
	throw new Error(`Rows of ${kind} in ${part} cannot be kept by themselves.`);
}

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

function keepCurves({ points, curves, starts }: Curves, rows: Uint32Array): Curves {
	const newStarts = allocate('index', rows.length + 1);
	for (let c = 0; c < rows.length; c++) {
		pollAt(c);
		newStarts[c + 1] = newStarts[c] + starts[rows[c] + 1] - starts[rows[c]];
	}
	const kept = scratch('index', newStarts[rows.length]);
	for (let c = 0; c < rows.length; c++) {
		pollAt(c);
		for (let i = starts[rows[c]], o = newStarts[c]; i < starts[rows[c] + 1]; i++, o++) kept[o] = i;
	}
	return { points: gatherTable(points, kept), curves: gatherTable(curves, rows), starts: newStarts };
}

const keepCopies = ({ copies, sources }: Instances, rows: Uint32Array): Instances => ({
	copies: gatherTable(copies, rows),
	sources
});
