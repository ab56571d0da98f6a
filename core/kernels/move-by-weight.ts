/** Points and copies moved by an affine map of which each gets a share. */
import { quaternion } from '../math/index.ts';
import type { Affine, Column, Table } from '../geometry/index.ts';
import {
	PLACE_COLUMNS,
	Places,
	PlacesChanged,
	PlacesMade,
	WIDTH,
	column,
	copyOf,
	floats,
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

/** How much each point or copy gets of the move, the rotation and the scale; often all three are one array. */
export interface Shares {
	move: Float32Array;
	rotation: Float32Array;
	scale: Float32Array;
}

/** The map of a share of a move, made again only where the shares change from one element to the next. */
class SharedMove {
	readonly #of: Move;
	readonly #shares: Shares;
	#at: readonly [number, number, number] = [0, 0, 0];
	#map: Affine;

	constructor(of: Move, shares: Shares) {
		this.#of = of;
		this.#shares = shares;
		this.#map = matrix.affineFrom([0, 0, 0], [0, 0, 0], [1, 1, 1], of.pivot);
	}

	/** For an element; null where nothing happens to it. */
	of(i: number): Affine | null {
		const { move, rotation, scale } = this.#shares;
		const [m, r, s] = [move[i], rotation[i], scale[i]];
		if (m === 0 && r === 0 && s === 0) return null;
		const [a, b, c] = this.#at;
		if (m !== a || r !== b || s !== c) {
			this.#at = [m, r, s];
			const { move, rotation, scale, pivot } = this.#of;
			this.#map = matrix.affineFrom(
				move.map((x) => x * m),
				rotation.map((x) => x * r),
				scale.map((x) => 1 + (x - 1) * s),
				pivot
			);
		}
		return this.#map;
	}
}

/** Every column of points placed by its role. Points without weight stay as they are, to the bit. */
export function pointsMovedByWeight(points: Table, shares: Shares, move: Move): Table {
	const columns = new Map(points.columns);
	for (const [name, source] of points.columns)
		if (isPlaced(source)) columns.set(name, placedByWeight(source, points.count, shares, move));
	return { ...points, columns };
}

function placedByWeight(source: Column, count: number, shares: Shares, move: Move): Column {
	const width = WIDTH[source.type];
	const from = source.data;
	const data = copyOf(from);
	const shared = new SharedMove(move, shares);
	for (let i = 0, o = 0; i < count; i++, o += width) {
		pollAt(i);
		const m = shared.of(i);
		if (!m) continue;
		if (source.role === 'position') matrix.apply(data, o, m, from[o], from[o + 1], from[o + 2]);
		else placeInto({ ...source, data: from.subarray(o, o + width) }, m, data, o);
	}
	return { ...source, data };
}

/** Copies moved as wholes; those that come to shear are kept as they are then. */
export function copiesMovedByWeight(copies: Table, shares: Shares, move: Move): Table {
	const places = new Places(copies),
		made = new PlacesMade(copies.count);
	const own = matrix.identity(),
		whole = matrix.identity();
	const shared = new SharedMove(move, shares);
	for (let i = 0; i < copies.count; i++) {
		pollAt(i);
		const m = shared.of(i);
		places.affine(i, own);
		made.set(i, m ? matrix.product(m, own, whole) : own);
	}
	const others = new Map(copies.columns);
	for (const name of PLACE_COLUMNS) others.delete(name);
	return withColumns(pointsMovedByWeight({ ...copies, columns: others }, shares, move), made.columns());
}

/** What becomes of the rotation and size that a copy has. */
export type OnCopies = 'multiply' | 'add' | 'replace';

/** Copies turned and scaled where they stand, and moved along their own axes. Columns that nothing changes stay the same. */
export function copiesMovedOnTheirOwn(
	copies: Table,
	shares: Shares,
	{ move, rotation, scale }: Omit<Move, 'pivot'>,
	how: OnCopies
): Table {
	const isReplaced = how === 'replace';
	const turns = isReplaced || rotation.some((x) => x !== 0);
	const sizes = isReplaced || scale.some((x) => x !== 1);
	const moves = move.some((x) => x !== 0);
	// How a copy shears goes with its rotation and size.
	if (!turns && !sizes) return moves ? copiesPushed(copies, shares.move, move) : copies;
	const places = new PlacesChanged(copies);
	if (moves) push(places.position, floats(copies, 'orientation'), shares.move, move);
	const orientation = floats(copies, 'orientation');
	const turn = [0, 0, 0, 1],
		whole = [0, 0, 0, 1],
		q = [0, 0, 0, 1];
	quaternion.fromAngles(whole, 0, rotation[0], rotation[1], rotation[2]);
	for (let i = 0, o = 0; i < copies.count; i++, o += 4) {
		pollAt(i);
		const r = shares.rotation[i],
			c = shares.scale[i];
		if (isReplaced) {
			if (r !== 0 || c !== 0) places.blendTo(i, whole, scale, r, c);
			continue;
		}
		if (turns && r !== 0) {
			// About the copy's own axes: the new rotation comes first.
			quaternion.fromAngles(turn, 0, rotation[0] * r, rotation[1] * r, rotation[2] * r);
			quaternion.multiply(
				q,
				0,
				orientation[o],
				orientation[o + 1],
				orientation[o + 2],
				orientation[o + 3],
				turn[0],
				turn[1],
				turn[2],
				turn[3]
			);
			places.turnTo(i, q);
		}
		if (!sizes || c === 0) continue;
		for (let k = 0; k < 3; k++) {
			const was = places.scale[3 * i + k];
			places.resize(i, k, how === 'multiply' ? was * (1 + (scale[k] - 1) * c) : was + (scale[k] - 1) * c);
		}
	}
	return withColumns(copies, places.columns());
}

/** Copies moved along their own axes, no more. */
function copiesPushed(copies: Table, shares: Float32Array, move: readonly number[]): Table {
	const position = copyOf(floats(copies, 'position'));
	push(position, floats(copies, 'orientation'), shares, move);
	return withColumns(copies, { position: column('vec3', 'position', position) });
}

function push(
	position: Float32Array,
	orientation: Float32Array,
	shares: Float32Array,
	[x, y, z]: readonly number[]
): void {
	const step = [0, 0, 0];
	for (let i = 0, o = 0, p = 0; i < shares.length; i++, o += 4, p += 3) {
		pollAt(i);
		const w = shares[i];
		if (w === 0) continue;
		quaternion.rotate(
			step,
			0,
			orientation[o],
			orientation[o + 1],
			orientation[o + 2],
			orientation[o + 3],
			x * w,
			y * w,
			z * w
		);
		position[p] += step[0];
		position[p + 1] += step[1];
		position[p + 2] += step[2];
	}
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
