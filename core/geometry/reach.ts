/**
 * How far points reach, moved to where copies show them. A box round the whole source, moved, says whether a copy could
 * reach further than all before it; only then its points are asked. So a million copies cost little more than reading where
 * they are, and the outcome is that of every point.
 */
import { pollAt } from './allocate.ts';
import { Extremes } from './extremes.ts';
import type { Geometry, Instances } from './geometry.ts';
import { derive } from './kept.ts';
import type { Affine } from './matrix.ts';
import { identity, product } from './matrix.ts';
import { Places } from './places.ts';
import type { Column, Table } from './table.ts';

/** Lowest and highest x, y, z in metres. */
export interface Bounds {
	low: [number, number, number];
	high: [number, number, number];
}

/** Bounds that are being widened; nothing lies in them at first. */
export class Box {
	readonly low = Float64Array.of(Infinity, Infinity, Infinity);
	readonly high = Float64Array.of(-Infinity, -Infinity, -Infinity);

	include(x: number, y: number, z: number): void {
		const { low, high } = this;
		if (x < low[0]) low[0] = x;
		if (y < low[1]) low[1] = y;
		if (z < low[2]) low[2] = z;
		if (x > high[0]) high[0] = x;
		if (y > high[1]) high[1] = y;
		if (z > high[2]) high[2] = z;
	}

	bounds(): Bounds | null {
		const [low, high] = [this.low, this.high];
		return low[0] <= high[0] ? { low: [low[0], low[1], low[2]], high: [high[0], high[1], high[2]] } : null;
	}
}

/** What copies are told of their sources while a geometry is measured. */
export interface SourceBoxes {
	boundsOf(source: Geometry): Bounds | null;
	/** Widens a box by all points of a source, moved. */
	include(source: Geometry, place: Affine, box: Box): void;
	/** What is known of points that are asked again and again. */
	askedBefore(position: Column): Asked;
}

export interface Asked {
	/** How often they were all looked at. */
	looks: number;
	extremes: Extremes | null;
}

/**
 * A shape round points, as seven numbers: they lie within the box about a centre that reaches three half sizes to either
 * side, and within so many times the ellipsoid of those half axes.
 */
type Shape = Float64Array;

/** Of a box's size, by how much a copy must be able to widen it; single precision says no more. */
const SLACK = 1e-7;

/**
 * Which sides of a box could be widened by what lies within a shape, moved: a bit for each, lows first. The centre moves, half sizes
 * grow by absolute values.
 */
function couldWiden(shape: Shape, m: Affine, { low, high }: Box): number {
	const x = shape[0],
		y = shape[1],
		z = shape[2],
		width = shape[3],
		height = shape[4],
		depth = shape[5];
	let sides = 0;
	for (let k = 0; k < 3; k++) {
		const u = m[k],
			v = m[k + 3],
			w = m[k + 6];
		const a = u * width,
			b = v * height,
			c = w * depth;
		const middle = u * x + v * y + w * z + m[k + 9];
		let reach = Math.abs(a) + Math.abs(b) + Math.abs(c);
		if (middle + reach <= high[k] && middle - reach >= low[k]) continue;
		const least = low[k],
			most = high[k];
		const slack = SLACK * (most - least);
		reach = Math.min(reach, shape[6] * Math.sqrt(a * a + b * b + c * c));
		if (middle - reach < least - slack) sides |= 1 << k;
		if (middle + reach > most + slack) sides |= 8 << k;
	}
	return sides;
}

/** Widens a box by the whole of bounds, moved. */
export function includeBounds(bounds: Bounds, m: Affine, box: Box): void {
	for (let corner = 0; corner < 8; corner++) {
		const [x, y, z] = [0, 1, 2].map((k) => (corner & (1 << k) ? bounds.high[k] : bounds.low[k]));
		includeMoved(box, m, x, y, z);
	}
}

function includeMoved(box: Box, m: Affine, x: number, y: number, z: number): void {
	box.include(
		m[0] * x + m[3] * y + m[6] * z + m[9],
		m[1] * x + m[4] * y + m[7] * z + m[10],
		m[2] * x + m[5] * y + m[8] * z + m[11]
	);
}

/** Points that are so many, and were all looked at so often, are asked by direction from then on. */
const MANY = 32;
const OFTEN = 16;

/** Widens a box by the points of a table, moved; where they are if no place is given. */
export function includePoints(
	{ points }: { points: Table },
	place: Affine | null,
	box: Box,
	inside: SourceBoxes
): void {
	const position = points.columns.get('position')!;
	const p = position.data;
	const bounds = derive(position, 'bounds', () => boundsOfNumbers(p));
	if (!bounds) return;
	if (!place) {
		box.include(...bounds.low);
		box.include(...bounds.high);
		return;
	}
	const shape = derive(position, 'shape', () => shapeOf(bounds, p));
	const sides = couldWiden(shape, place, box);
	if (!sides) return;
	const asked = inside.askedBefore(position);
	if (points.count < MANY || ++asked.looks < OFTEN)
		for (let i = 0; i < p.length; i += 3) {
			pollAt(i);
			includeMoved(box, place, p[i], p[i + 1], p[i + 2]);
		}
	else widenSides((asked.extremes ??= new Extremes(p)), place, box, sides);
}

function widenSides(extremes: Extremes, m: Affine, { low, high }: Box, sides: number): void {
	for (let k = 0; k < 3; k++) {
		const u = m[k],
			v = m[k + 3],
			w = m[k + 6];
		if (sides & (1 << k)) low[k] = Math.min(low[k], m[k + 9] - extremes.reach(-u, -v, -w));
		if (sides & (8 << k)) high[k] = Math.max(high[k], m[k + 9] + extremes.reach(u, v, w));
	}
}

const shapeOfBounds = ({ low, high }: Bounds): Shape =>
	Float64Array.of(
		...low.map((x, k) => x + (high[k] - x) / 2),
		...low.map((x, k) => (high[k] - x) / 2),
		Math.sqrt(3)
	);

function shapeOf(bounds: Bounds, p: ArrayLike<number>): Shape {
	const shape = shapeOfBounds(bounds);
	const [cx, cy, cz, ...half] = shape;
	const [px, py, pz] = half.map((size) => (size > 0 ? 1 / size : 0));
	let most = 0;
	for (let i = 0; i < p.length; i += 3) {
		pollAt(i);
		const x = (p[i] - cx) * px,
			y = (p[i + 1] - cy) * py,
			z = (p[i + 2] - cz) * pz;
		const square = x * x + y * y + z * z;
		if (square > most) most = square;
	}
	shape[6] = Math.sqrt(most) * (1 + 1e-12);
	return shape;
}

/** Copies looked at before all others, from everywhere in the table: what they reach spares most of the rest. */
const FIRST = 64;

/** How far from its own origin a shape reaches at most. */
function furthestOf([x, y, z, width, height, depth]: Shape): number {
	const [a, b, c] = [Math.abs(x) + width, Math.abs(y) + height, Math.abs(z) + depth];
	return Math.sqrt(a * a + b * b + c * c) * (1 + 1e-6);
}

/** Beyond what rounding may do to an extent. */
const MARGIN = 1 + 1e-6;

/**
 * Whether what a copy may reach lies in the box, so that its map need not be known: a ball round its place, and along the
 * axes where that does not say it, the sides of its shape's box.
 */
function liesWithin(
	{ position, orientation, scale, axes }: Places,
	i: number,
	shape: Shape,
	furthest: number,
	{ low, high }: Box
): boolean {
	if (axes) return false;
	const o = 3 * i;
	const [u, v, w] = [scale[o], scale[o + 1], scale[o + 2]];
	const reach = furthest * Math.max(Math.abs(u), Math.abs(v), Math.abs(w));
	for (let k = 0; k < 3; k++) {
		const at = position[o + k];
		if (at - reach >= low[k] && at + reach <= high[k]) continue;
		const q = 4 * i;
		const x = orientation[q],
			y = orientation[q + 1],
			z = orientation[q + 2],
			r = orientation[q + 3];
		// How far its own three axes go along this one.
		const a = u * (k === 0 ? 1 - 2 * (y * y + z * z) : k === 1 ? 2 * (x * y + r * z) : 2 * (x * z - r * y)),
			b = v * (k === 0 ? 2 * (x * y - r * z) : k === 1 ? 1 - 2 * (x * x + z * z) : 2 * (y * z + r * x)),
			c = w * (k === 0 ? 2 * (x * z + r * y) : k === 1 ? 2 * (y * z - r * x) : 1 - 2 * (x * x + y * y));
		const centre = a * shape[0] + b * shape[1] + c * shape[2];
		const half = MARGIN * (Math.abs(a) * shape[3] + Math.abs(b) * shape[4] + Math.abs(c) * shape[5]);
		if (!(at + centre - half >= low[k] && at + centre + half <= high[k])) return false;
	}
	return true;
}

/** Widens a box by all copies that are shown. */
export function includeCopies(
	{ copies, sources }: Instances,
	place: Affine | null,
	box: Box,
	inside: SourceBoxes
): void {
	const shapes = sources.map((source) => {
		const bounds = inside.boundsOf(source);
		return bounds && shapeOfBounds(bounds);
	});
	const source = copies.columns.get('source')!.data;
	const shown = copies.columns.get('shown')?.data;
	const places = new Places(copies);
	const furthest = shapes.map((shape) => (shape ? furthestOf(shape) : 0));
	const own = identity(),
		whole = identity();
	const m = place ? whole : own;
	const first = Math.ceil(copies.count / FIRST);
	for (let stride = first; ; stride = 1) {
		for (let i = 0; i < copies.count; i += stride) {
			pollAt(i);
			const shape = shapes[source[i]];
			if (!shape || (shown && !shown[i])) continue;
			if (!place && liesWithin(places, i, shape, furthest[source[i]], box)) continue;
			places.affine(i, own);
			if (place) product(place, own, whole);
			if (couldWiden(shape, m, box)) inside.include(sources[source[i]], m, box);
		}
		if (stride <= 1) break;
	}
}

function boundsOfNumbers(data: Column['data']): Bounds | null {
	if (!data.length) return null;
	const box = boxOf(data instanceof Float32Array ? data : Float32Array.from(data));
	return { low: [box[0], box[1], box[2]], high: [box[3], box[4], box[5]] };
}

/** Lowest and highest x, y, z. Two places at a time, each with its own extremes, so that none waits for the one before. */
function boxOf(p: Float32Array): number[] {
	let [ax, ay, az, cx, cy, cz] = [Infinity, Infinity, Infinity, Infinity, Infinity, Infinity];
	let [bx, by, bz, dx, dy, dz] = [-Infinity, -Infinity, -Infinity, -Infinity, -Infinity, -Infinity];
	const even = p.length - (p.length % 6);
	for (let i = 0; i < even; i += 6) {
		pollAt(i);
		const x = p[i],
			y = p[i + 1],
			z = p[i + 2],
			u = p[i + 3],
			v = p[i + 4],
			w = p[i + 5];
		ax = x < ax ? x : ax;
		ay = y < ay ? y : ay;
		az = z < az ? z : az;
		bx = x > bx ? x : bx;
		by = y > by ? y : by;
		bz = z > bz ? z : bz;
		cx = u < cx ? u : cx;
		cy = v < cy ? v : cy;
		cz = w < cz ? w : cz;
		dx = u > dx ? u : dx;
		dy = v > dy ? v : dy;
		dz = w > dz ? w : dz;
	}
	for (let i = even; i < p.length; i += 3) {
		pollAt(i);
		ax = p[i] < ax ? p[i] : ax;
		ay = p[i + 1] < ay ? p[i + 1] : ay;
		az = p[i + 2] < az ? p[i + 2] : az;
		bx = p[i] > bx ? p[i] : bx;
		by = p[i + 1] > by ? p[i + 1] : by;
		bz = p[i + 2] > bz ? p[i + 2] : bz;
	}
	return [
		Math.min(ax, cx),
		Math.min(ay, cy),
		Math.min(az, cz),
		Math.max(bx, dx),
		Math.max(by, dy),
		Math.max(bz, dz)
	];
}
