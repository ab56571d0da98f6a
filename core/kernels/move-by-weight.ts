/** Points and copies moved by an affine map of which each gets a share. */
import { quaternion } from '../math/index.ts';
import type { Affine, Column, Table } from '../geometry/index.ts';
import {
	PLACE_COLUMNS,
	Places,
	PlacesChanged,
	PlacesMade,
	WIDTH,
	copyOf,
	isPlaced,
	matrix,
	placeInto,
	pollAt,
	withColumns
} from '../geometry/index.ts';

/** A scale, then a rotation (degrees about x, then y, then z), then a move (metres), about a pivot (metres). */
export interface Move {
	move: readonly number[];
	rotation: readonly number[];
	scale: readonly number[];
	pivot: readonly number[];
}

/** The map of a share of a move. */
function shareOf({ move, rotation, scale, pivot }: Move, w: number): Affine {
	const times = (v: readonly number[]) => v.map((x) => x * w);
	return matrix.affineFrom(
		times(move),
		times(rotation),
		scale.map((x) => 1 + (x - 1) * w),
		pivot
	);
}

/** Every column of points placed by its role. Points without weight stay as they are, to the bit. */
export function pointsMovedByWeight(points: Table, weights: Float32Array, move: Move): Table {
	const columns = new Map(points.columns);
	for (const [name, source] of points.columns)
		if (isPlaced(source)) columns.set(name, placedByWeight(source, weights, move));
	return { ...points, columns };
}

function placedByWeight(source: Column, weights: Float32Array, move: Move): Column {
	const width = WIDTH[source.type];
	const from = source.data;
	const data = copyOf(from);
	let m = shareOf(move, 0),
		share = 0;
	for (let i = 0, o = 0; i < weights.length; i++, o += width) {
		pollAt(i);
		const w = weights[i];
		if (w === 0) continue;
		if (w !== share) m = shareOf(move, (share = w));
		if (source.role === 'position') matrix.apply(data, o, m, from[o], from[o + 1], from[o + 2]);
		else placeInto({ ...source, data: from.subarray(o, o + width) }, m, data, o);
	}
	return { ...source, data };
}

/** Copies moved as wholes; those that come to shear are kept as they are then. */
export function copiesMovedByWeight(copies: Table, weights: Float32Array, move: Move): Table {
	const places = new Places(copies),
		made = new PlacesMade(copies.count);
	const own = matrix.identity(),
		whole = matrix.identity();
	let m = shareOf(move, 0),
		share = 0;
	for (let i = 0; i < copies.count; i++) {
		pollAt(i);
		if (weights[i] !== share) m = shareOf(move, (share = weights[i]));
		made.set(i, matrix.product(m, places.affine(i, own), whole));
	}
	const others = new Map(copies.columns);
	for (const name of PLACE_COLUMNS) others.delete(name);
	return withColumns(pointsMovedByWeight({ ...copies, columns: others }, weights, move), made.columns());
}

/** What becomes of the rotation and size that a copy has. */
export type OnCopies = 'multiply' | 'add' | 'replace';

/** Copies turned and scaled where they stand, and moved along their own axes. */
export function copiesMovedOnTheirOwn(
	copies: Table,
	weights: Float32Array,
	{ move, rotation, scale }: Omit<Move, 'pivot'>,
	how: OnCopies
): Table {
	const places = new PlacesChanged(copies);
	const { position, orientation } = places;
	const step = [0, 0, 0],
		turn = [0, 0, 0, 1],
		whole = [0, 0, 0, 1],
		q = [0, 0, 0, 1];
	quaternion.fromAngles(whole, 0, rotation[0], rotation[1], rotation[2]);
	for (let i = 0; i < copies.count; i++) {
		pollAt(i);
		const w = weights[i];
		if (w === 0) continue;
		const o = 4 * i;
		const [x, y, z, s] = [orientation[o], orientation[o + 1], orientation[o + 2], orientation[o + 3]];
		quaternion.rotate(step, 0, x, y, z, s, move[0] * w, move[1] * w, move[2] * w);
		for (let k = 0; k < 3; k++) position[3 * i + k] += step[k];
		if (how === 'replace') {
			places.blendTo(i, whole, scale, w);
			continue;
		}
		// About the copy's own axes: the new rotation comes first.
		quaternion.fromAngles(turn, 0, rotation[0] * w, rotation[1] * w, rotation[2] * w);
		quaternion.multiply(q, 0, x, y, z, s, turn[0], turn[1], turn[2], turn[3]);
		places.turnTo(i, q);
		for (let k = 0; k < 3; k++) {
			const was = places.scale[3 * i + k];
			places.resize(i, k, how === 'multiply' ? was * (1 + (scale[k] - 1) * w) : was + (scale[k] - 1) * w);
		}
	}
	return withColumns(copies, places.columns());
}

/** Copies made larger or smaller along their own axes, by weight. */
export function copiesResized(copies: Table, weights: Float32Array, scale: readonly number[]): Table {
	const places = new PlacesChanged(copies);
	for (let i = 0; i < copies.count; i++) {
		pollAt(i);
		for (let k = 0; k < 3; k++)
			places.resize(i, k, places.scale[3 * i + k] * (1 + (scale[k] - 1) * weights[i]));
	}
	return withColumns(copies, places.columns());
}
