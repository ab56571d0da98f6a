/**
 * The cells of points in a plane: what lies nearer to each than to any other, within a rectangle. A cell begins as the
 * rectangle. Where another point is nearer to one of its corners, it is cut by the line half way to that point, until no corner
 * is nearer to another.
 *
 * Tried before: the neighbours in a Delaunay triangulation. It takes half the time, but the library's is incomplete for
 * points that lie nearly on one line.
 */
import { pollAt, scratch } from '../geometry/index.ts';
import { PI, atan2, cos, sin } from '../math/index.ts';
import { PointTree } from './point-tree.ts';

export interface CellOptions {
	/** Lowest x and y, highest x and y. */
	within: readonly [number, number, number, number];
	/** For each point, by how much its cell's sides are moved inwards; null for none. */
	inset: ArrayLike<number> | null;
	/** For each point, how far its cell reaches at most; null for as far as it likes. */
	reach: ArrayLike<number> | null;
	/** Pieces of a whole circle where the reach ends a cell. */
	segments: number;
}

/**
 * @param places two numbers a point. Of points that lie exactly on one another only the first has a cell.
 * @returns for each point its cell, two numbers a corner, counter-clockwise; empty where nothing is left.
 */
export function voronoiCells(
	places: Float64Array,
	{ within, inset, reach, segments }: CellOptions
): Float64Array[] {
	const count = places.length / 2;
	const first = firstsOf(places);
	const own = scratch('index', count);
	let unique = 0;
	for (let i = 0; i < count; i++) {
		pollAt(i);
		if (first[i] === i) own[unique++] = i;
	}
	const apart = scratch('double', 2 * unique);
	for (let i = 0; i < unique; i++) {
		pollAt(i);
		apart[2 * i] = places[2 * own[i]];
		apart[2 * i + 1] = places[2 * own[i] + 1];
	}
	const tree = new PointTree(apart, 2);
	const [left, low, right, high] = within;
	const cells: Float64Array[] = Array.from({ length: count }, () => EMPTY);
	for (let u = 0; u < unique; u++) {
		pollAt(u);
		const i = own[u];
		const [x, y] = [apart[2 * u], apart[2 * u + 1]];
		const d = inset ? Math.max(0, inset[i]) : 0;
		let cell = cellOf(tree, apart, u, [left, low, right, low, right, high, left, high]);
		if (d > 0) cell = shrunk(cell, d);
		const far = reach ? reach[i] - d : Infinity;
		if (cell.length && far < Infinity) cell = far > 0 ? withinCircle(cell, x, y, far, segments) : [];
		cells[i] = Float64Array.from(cell);
	}
	return cells;
}

const EMPTY = new Float64Array(0);

/** For each point the first that lies exactly where it does. */
function firstsOf(places: Float64Array): Uint32Array {
	const first = scratch('index', places.length / 2);
	const known = new Map<number, Map<number, number>>();
	for (let i = 0; i < first.length; i++) {
		pollAt(i);
		const [x, y] = [places[2 * i], places[2 * i + 1]];
		let column = known.get(x);
		if (!column) known.set(x, (column = new Map()));
		const found = column.get(y);
		if (found === undefined) column.set(y, i);
		first[i] = found ?? i;
	}
	return first;
}

/** The share of its distance by which another point must be nearer to a corner than the cell's own. */
const NEARER = 1 - 1e-12;

/** What of a rectangle is nearer to a point than to all others. */
function cellOf(tree: PointTree, p: Float64Array, own: number, rectangle: number[]): number[] {
	const [x, y] = [p[2 * own], p[2 * own + 1]];
	const square = (i: number, cx: number, cy: number) =>
		(p[2 * i] - cx) * (p[2 * i] - cx) + (p[2 * i + 1] - cy) * (p[2 * i + 1] - cy);
	let cell = rectangle;
	const done = new Set<number>();
	for (let c = 0; c < cell.length;) {
		const [cx, cy] = [cell[c], cell[c + 1]];
		const other = tree.nearest(cx, cy);
		if (other === own || done.has(other) || !(square(other, cx, cy) < square(own, cx, cy) * NEARER)) {
			c += 2;
			continue;
		}
		done.add(other);
		const dx = p[2 * other] - x,
			dy = p[2 * other + 1] - y;
		const length = Math.sqrt(dx * dx + dy * dy);
		// Half way, from the point itself, so that far places lose no digits.
		cell = cut(cell, x, y, dx / length, dy / length, length / 2);
		c = 0;
	}
	return cell;
}

/** A polygon without dents whose sides have moved inwards. */
function shrunk(polygon: number[], distance: number): number[] {
	let out = polygon;
	for (let i = 0, n = polygon.length; i < n && out.length; i += 2) {
		const j = (i + 2) % n;
		const dx = polygon[j] - polygon[i],
			dy = polygon[j + 1] - polygon[i + 1];
		const length = Math.sqrt(dx * dx + dy * dy);
		if (length > 0) out = cut(out, polygon[i], polygon[i + 1], dy / length, -dx / length, -distance);
	}
	return out;
}

/** What of a polygon lies on the near side of a line: its direction across, and how far it runs from (x, y). */
function cut(
	polygon: readonly number[],
	x: number,
	y: number,
	nx: number,
	ny: number,
	distance: number
): number[] {
	const n = polygon.length;
	const out: number[] = [];
	let px = polygon[n - 2],
		py = polygon[n - 1];
	let before = (px - x) * nx + (py - y) * ny - distance;
	for (let i = 0; i < n; i += 2) {
		const qx = polygon[i],
			qy = polygon[i + 1];
		const here = (qx - x) * nx + (qy - y) * ny - distance;
		if (before <= 0 !== here <= 0) {
			const t = before / (before - here);
			out.push(px + (qx - px) * t, py + (qy - py) * t);
		}
		if (here <= 0) out.push(qx, qy);
		[px, py, before] = [qx, qy, here];
	}
	return out.length >= 6 ? out : [];
}

/** What of a polygon without dents lies within a circle; its arcs in pieces. */
function withinCircle(
	polygon: readonly number[],
	x: number,
	y: number,
	radius: number,
	segments: number
): number[] {
	const out: number[] = [];
	const n = polygon.length;
	let isCut = false;
	for (let i = 0; i < n; i += 2) {
		const ax = polygon[i] - x,
			ay = polygon[i + 1] - y,
			bx = polygon[(i + 2) % n] - x,
			by = polygon[(i + 3) % n] - y;
		// Where the side is within the circle: between the two solutions of |a + t (b − a)| = radius.
		const dx = bx - ax,
			dy = by - ay;
		const A = dx * dx + dy * dy,
			B = ax * dx + ay * dy,
			C = ax * ax + ay * ay - radius * radius;
		const root = B * B - A * C;
		// A side that only touches the circle is none that it cuts.
		if (!(A > 0) || root <= (C > 0 ? 1e-12 * A * radius * radius : 0)) {
			isCut ||= C > 0;
			continue;
		}
		const low = Math.max(0, (-B - Math.sqrt(root)) / A),
			high = Math.min(1, (-B + Math.sqrt(root)) / A);
		if (low >= high) {
			isCut = true;
			continue;
		}
		arcTo(out, x, y, ax + dx * low, ay + dy * low, radius, segments);
		if (low > 0) push(out, x + ax + dx * low, y + ay + dy * low);
		else push(out, polygon[i], polygon[i + 1]);
		if (high < 1) push(out, x + ax + dx * high, y + ay + dy * high);
		else push(out, polygon[(i + 2) % n], polygon[(i + 3) % n]);
		isCut ||= low > 0 || high < 1;
	}
	if (!isCut) return [...polygon];
	if (!out.length) {
		// No side comes near: the whole circle, or nothing of it.
		if (!holds(polygon, x, y)) return [];
		for (let k = 0; k < segments; k++)
			out.push(x + radius * cos((k * 2 * PI) / segments), y + radius * sin((k * 2 * PI) / segments));
		return out;
	}
	arcTo(out, x, y, out[0] - x, out[1] - y, radius, segments);
	const last = out.length - 2;
	if (last > 2 && near(out[0], out[last], radius) && near(out[1], out[last + 1], radius)) out.splice(last, 2);
	return out.length >= 6 ? out : [];
}

const near = (a: number, b: number, size: number): boolean => Math.abs(a - b) <= 1e-12 * size;

function push(out: number[], x: number, y: number): void {
	const n = out.length;
	if (n && out[n - 2] === x && out[n - 1] === y) return;
	out.push(x, y);
}

/** Pieces of the circle from the last corner to a place (from the middle), where both lie on it and apart. */
function arcTo(
	out: number[],
	x: number,
	y: number,
	toX: number,
	toY: number,
	radius: number,
	segments: number
): void {
	const n = out.length;
	if (!n) return;
	const fromX = out[n - 2] - x,
		fromY = out[n - 1] - y;
	const square = radius * radius;
	if (Math.abs(fromX * fromX + fromY * fromY - square) > 1e-9 * square) return;
	if (Math.abs(toX * toX + toY * toY - square) > 1e-9 * square) return;
	const start = atan2(fromY, fromX);
	let span = atan2(toY, toX) - start;
	if (span < 0) span += 2 * PI;
	if (span < 1e-9 || span > 2 * PI - 1e-9) return;
	const pieces = Math.ceil((span / (2 * PI)) * segments - 1e-9);
	for (let k = 1; k < pieces; k++) {
		const angle = start + (span * k) / pieces;
		push(out, x + radius * cos(angle), y + radius * sin(angle));
	}
}

/** Whether a place lies in a polygon without dents, counter-clockwise. */
function holds(polygon: readonly number[], x: number, y: number): boolean {
	for (let i = 0, n = polygon.length; i < n; i += 2) {
		const j = (i + 2) % n;
		const side =
			(polygon[j] - polygon[i]) * (y - polygon[i + 1]) - (polygon[j + 1] - polygon[i + 1]) * (x - polygon[i]);
		if (side < 0) return false;
	}
	return true;
}
