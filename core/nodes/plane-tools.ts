/** Points seen in a plane: what nodes have in common that make cells, triangles and hulls of them. */
import type { Column, Table } from '../geometry/index.ts';
import { PLACE_COLUMNS, floats, pollAt, scratch } from '../geometry/index.ts';
import type { Plane } from '../kernels/extrude.ts';
import { choice } from './define.ts';

/** Both axes of each plane with their signs, so that what runs counter-clockwise in it faces up, the front or the right. */
const PLANES: Readonly<Record<string, Plane>> = {
	ground: [0, 1, 2, -1],
	front: [0, 1, 1, 1],
	side: [2, -1, 1, 1]
};

export const planeInput = choice({
	label: 'Plane',
	help: 'The plane in which the points are seen.',
	default: 'own',
	options: [
		{ id: 'own', label: 'The one they lie in' },
		{ id: 'ground', label: 'The ground (x, z)' },
		{ id: 'front', label: 'The front (x, y)' },
		{ id: 'side', label: 'The side (z, y)' }
	]
});

/** The plane that is meant; by themselves points that lie flat in the front or the side are seen there, others from above. */
export const planeFor = (name: string, points: Table): Plane =>
	PLANES[name === 'own' ? ownPlane(points) : name];

/** Points lie in a plane where they stray from it by less than this, as a fraction of how far they reach. */
const FLAT = 1e-4;

function ownPlane(points: Table): string {
	const p = floats(points, 'position');
	const [low, high] = [
		[Infinity, Infinity, Infinity],
		[-Infinity, -Infinity, -Infinity]
	];
	for (let i = 0; i < points.count; i++) {
		pollAt(i);
		for (let k = 0; k < 3; k++) {
			low[k] = Math.min(low[k], p[3 * i + k]);
			high[k] = Math.max(high[k], p[3 * i + k]);
		}
	}
	const [x, y, z] = high.map((most, k) => most - low[k]);
	const far = FLAT * Math.max(x, y, z);
	// What lies along a line lies in the ground as well.
	if (!(y > far)) return 'ground';
	return z <= far ? 'front' : x <= far ? 'side' : 'ground';
}

/** Two numbers a point, as they lie in a plane. */
export function flattened(points: Table, [a, signA, b, signB]: Plane): Float64Array {
	const p = floats(points, 'position');
	const out = scratch('double', 2 * points.count);
	for (let i = 0; i < points.count; i++) {
		pollAt(i);
		out[2 * i] = signA * p[3 * i + a];
		out[2 * i + 1] = signB * p[3 * i + b];
	}
	return out;
}

/** How high a point lies over a plane. */
export const heightOver = (points: Table, [a, , b]: Plane, i: number): number =>
	floats(points, 'position')[3 * i + 3 - a - b];

/** What points have beside where they are and how they stand, for the shapes that are made of them. */
export const valuesOf = (points: Table): Table => ({
	...points,
	columns: new Map<string, Column>(
		[...points.columns].filter(
			([name]) => !PLACE_COLUMNS.includes(name) && name !== 'normal' && name !== 'tangent'
		)
	)
});
