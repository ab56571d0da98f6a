/** Rows of a source by how near they are to places: the nearest, a mixture on the nearest surface, or all within a radius. */
import type { Column, Mesh, Table } from '../geometry/index.ts';
import {
	Growing,
	WIDTH,
	allocateData,
	blendMany,
	blends,
	floats,
	pollAt,
	scratch,
	trianglesOf
} from '../geometry/index.ts';
import { treeOfMesh } from './nearest.ts';
import { PointTree } from './point-tree.ts';

/** For each place the rows that it takes a value from, and how much of each. Without any it takes the column's default. */
export interface Taken {
	starts: Uint32Array;
	items: Uint32Array;
	/** Shares that add up to 1; null for equal ones. */
	shares: Float32Array | null;
}

const treeOf = (points: Table): PointTree => new PointTree(Float64Array.from(floats(points, 'position')), 3);

/** The nearest point of each place. */
export function takeNearestPoint(points: Table, places: Float32Array): Taken {
	const tree = treeOf(points);
	const n = places.length / 3;
	const starts = scratch('index', n + 1),
		items = scratch('index', points.count ? n : 0);
	for (let i = 0; i < n; i++) {
		pollAt(i << 4);
		if (points.count) items[i] = tree.nearest(places[3 * i], places[3 * i + 1], places[3 * i + 2]);
		starts[i + 1] = points.count ? i + 1 : 0;
	}
	return { starts, items, shares: null };
}

/** All points within a radius of each place. */
export function takeWithin(points: Table, places: Float32Array, radius: number): Taken {
	const tree = treeOf(points);
	const n = places.length / 3;
	const starts = scratch('index', n + 1);
	const items = new Growing('index');
	for (let i = 0; i < n; i++) {
		pollAt(i << 4);
		tree.within(places[3 * i], places[3 * i + 1], places[3 * i + 2], radius, items);
		items.view().subarray(starts[i]).sort();
		starts[i + 1] = items.length;
	}
	return { starts, items: items.take(), shares: null };
}

/** The three points of the triangle on which the nearest place of the surface lies, by how near it is to each. */
export function takeOnSurface(mesh: Mesh, places: Float32Array): Taken {
	const tree = treeOfMesh(mesh);
	const { corners } = trianglesOf(mesh);
	const n = places.length / 3;
	const any = corners.length > 0;
	const starts = scratch('index', n + 1),
		items = scratch('index', any ? 3 * n : 0),
		shares = scratch('float', any ? 3 * n : 0);
	for (let i = 0; any && i < n; i++) {
		pollAt(i << 4);
		const found = tree.nearest(places[3 * i], places[3 * i + 1], places[3 * i + 2]);
		const own = [0, 1, 2].map((k) => mesh.topology.cornerPoints[corners[3 * found.primitive + k]]);
		const parts = [1 - found.u - found.v, found.u, found.v];
		for (let k = 0; k < 3; k++) {
			items[3 * i + k] = own[k];
			shares[3 * i + k] = parts[k];
		}
		starts[i + 1] = 3 * (i + 1);
	}
	return { starts, items, shares };
}

/** A column for places, from that of the source. */
export function taken(source: Column, { starts, items, shares }: Taken): Column {
	if (!shares) return blendMany(source, { starts, items });
	const width = WIDTH[source.type];
	const count = starts.length - 1;
	const data = allocateData(source.type, count);
	for (let i = 0; i < count; i++) {
		pollAt(i);
		const first = starts[i];
		if (starts[i + 1] === first) {
			for (let k = 0; k < width; k++) data[i * width + k] = source.default[k];
			continue;
		}
		if (!blends(source)) {
			let nearest = first;
			for (let m = first + 1; m < starts[i + 1]; m++) if (shares[m] > shares[nearest]) nearest = m;
			for (let k = 0; k < width; k++) data[i * width + k] = source.data[items[nearest] * width + k];
			continue;
		}
		for (let k = 0; k < width; k++) {
			let sum = 0;
			for (let m = first; m < starts[i + 1]; m++) sum += shares[m] * source.data[items[m] * width + k];
			data[i * width + k] = sum;
		}
	}
	return { ...source, data };
}
