/** The trees by which the nearest place on a geometry is found; each is kept with the positions that it was made of. */
import {
	Growing,
	PART_NAMES,
	allocate,
	curveCount,
	derive,
	lengthsAlong,
	positionsOf,
	shapeOf,
	together,
	trianglesOf,
	pollAt
} from '../geometry/index.ts';
import type { Curves, Geometry, Mesh, PartName, Points } from '../geometry/index.ts';
import { BoxTree } from './box-tree.ts';

/** The tree of a mesh's triangles, in the order of `trianglesOf`; kept with its positions. */
export function treeOfMesh(mesh: Mesh): BoxTree {
	return derive(shapeOf(mesh), 'box tree', () => {
		const p = positionsOf(mesh);
		const { corners } = trianglesOf(mesh);
		const data = allocate('float', 3 * corners.length);
		for (let i = 0; i < corners.length; i++) {
			pollAt(i);
			const o = 3 * mesh.topology.cornerPoints[corners[i]];
			for (let k = 0; k < 3; k++) data[3 * i + k] = p[o + k];
		}
		return new BoxTree(data, 3);
	});
}

/** The tree of all pieces of curves, with each piece's first point, its u there and at its end, and its curve. */
export interface CurveTree {
	tree: BoxTree;
	/** For each piece the u of its curve at its start and end. */
	u: Float64Array;
	/** For each piece its curve. */
	curve: Uint32Array;
	/** For each piece its first and second point. */
	ends: Uint32Array;
}

export function treeOfCurves(curves: Curves): CurveTree {
	const { along, lengths } = lengthsAlong(curves);
	return derive(together(curves.points.columns.get('position')!, along), 'box tree of curves', () => {
		const p = positionsOf(curves);
		const closed = curves.curves.columns.get('closed')!.data;
		const ends = new Growing('index'),
			us = new Growing('double'),
			owners = new Growing('index');
		for (let c = 0; c < curveCount(curves); c++) {
			pollAt(c);
			const first = curves.starts[c],
				last = curves.starts[c + 1] - 1;
			const share = (i: number) => (lengths[c] > 0 ? along[i] / lengths[c] : 0);
			for (let i = first; i < last; i++) {
				ends.push(i);
				ends.push(i + 1);
				us.push(share(i));
				us.push(share(i + 1));
				owners.push(c);
			}
			if (last === first || (closed[c] && last > first + 1)) {
				ends.push(last);
				ends.push(first);
				us.push(share(last));
				us.push(last === first ? 0 : 1);
				owners.push(c);
			}
		}
		const data = allocate('float', 3 * ends.length);
		for (let i = 0; i < ends.length; i++) {
			pollAt(i);
			for (let k = 0; k < 3; k++) data[3 * i + k] = p[3 * ends.at(i) + k];
		}
		return {
			tree: new BoxTree(data, 2),
			u: us.take(),
			curve: owners.take(),
			ends: ends.take()
		};
	});
}

const treeOfPoints = (points: Points): BoxTree =>
	derive(
		points.points.columns.get('position')!,
		'box tree of points',
		() => new BoxTree(positionsOf(points), 1)
	);

/** What is near of each part; null where it is not there, or has nothing that could be near. */
const TREES: Readonly<Record<PartName, (geometry: Geometry) => BoxTree | null>> = {
	mesh: ({ mesh }) => (mesh?.faces.count ? treeOfMesh(mesh) : mesh?.points.count ? treeOfPoints(mesh) : null),
	curves: ({ curves }) => (curves?.points.count ? treeOfCurves(curves).tree : null),
	points: ({ points }) => (points?.points.count ? treeOfPoints(points) : null),
	copies: () => null
};

/** The trees of everything that a geometry holds itself; copies are not looked into. */
export const treesOf = (geometry: Geometry): BoxTree[] =>
	PART_NAMES.flatMap((name) => TREES[name](geometry) ?? []);
