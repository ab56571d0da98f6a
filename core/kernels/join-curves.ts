/** Open curves whose ends lie near one another as one. */
import {
	Growing,
	allocate,
	column,
	curveCount,
	gatherTable,
	pollAt,
	positionsOf,
	scratch,
	withColumns
} from '../geometry/index.ts';
import type { Curves } from '../geometry/index.ts';
import { FreeEnds } from './free-ends.ts';

/**
 * Chains are grown from each curve that is left, always by the nearest free end, turned round where need be; a chain that
 * comes back to its start is closed. Takes n log n.
 * @param distance ends nearer than this are joined, in metres.
 * @param bridge whether both ends stay, with a piece between them; otherwise the second is left out.
 */
export function joinCurves(curves: Curves, distance: number, bridge: boolean): Curves {
	const p = positionsOf(curves);
	const { starts } = curves;
	const closed = curves.curves.columns.get('closed')!.data;
	const count = curveCount(curves);
	const made = new Joined();
	const open = new Growing('index');
	for (let c = 0; c < count; c++)
		if (closed[c]) {
			for (let i = starts[c]; i < starts[c + 1]; i++) made.rows.push(i);
			made.finish(true, c);
		} else if (starts[c + 1] > starts[c]) open.push(c);
	const ends = new FreeEnds(endsOf(p, starts, open.view()));
	const nearestTo = (point: number) =>
		ends.nearest(p[3 * point], p[3 * point + 1], p[3 * point + 2], distance);
	const [after, before, rows] = [new Growing('index'), new Growing('index'), new Growing('index')];
	for (let seed = 0; seed < open.length; seed++) {
		if (!ends.isFree(2 * seed)) continue;
		const take = (k: number): number => {
			ends.take(2 * k);
			ends.take(2 * k + 1);
			return open.at(k);
		};
		const first = take(seed);
		// What comes before the seed, from the seed outward, then what comes after it.
		grow(curves, starts[first + 1] - 1, after, { nearestTo, take, bridge });
		grow(curves, starts[first], before, { nearestTo, take, bridge });
		rows.clear();
		for (let i = before.length - 1; i >= 0; i--) rows.push(before.at(i));
		for (let i = starts[first]; i < starts[first + 1]; i++) rows.push(i);
		for (let i = 0; i < after.length; i++) rows.push(after.at(i));
		const [a, b] = [3 * rows.at(0), 3 * rows.at(rows.length - 1)];
		const gap = Math.sqrt(square(p[a] - p[b]) + square(p[a + 1] - p[b + 1]) + square(p[a + 2] - p[b + 2]));
		const isClosed = rows.length > 3 && gap <= distance;
		const size = isClosed && !bridge ? rows.length - 1 : rows.length;
		for (let i = 0; i < size; i++) made.rows.push(rows.at(i));
		made.finish(isClosed, first);
	}
	return made.curves(curves);
}

const square = (x: number): number => x * x;

/** The places of the first and the last point of each open curve. */
function endsOf(p: Float32Array, starts: Uint32Array, open: Uint32Array): Float32Array {
	const places = scratch('float', 6 * open.length);
	for (let k = 0; k < open.length; k++) {
		pollAt(k);
		const [first, last] = [3 * starts[open[k]], 3 * (starts[open[k] + 1] - 1)];
		for (let axis = 0; axis < 3; axis++) {
			places[6 * k + axis] = p[first + axis];
			places[6 * k + 3 + axis] = p[last + axis];
		}
	}
	return places;
}

interface Growth {
	/** The free end nearest to a point, as twice the place of its curve, and one more for its last point; or −1. */
	nearestTo: (point: number) => number;
	/** Takes a curve by its place, and gives its number. */
	take: (place: number) => number;
	bridge: boolean;
}

/** Writes the points that follow an end to `rows`, from there outward. */
function grow(
	{ points, starts }: Curves,
	end: number,
	rows: Growing<'index'>,
	{ nearestTo, take, bridge }: Growth
): void {
	const p = points.columns.get('position')!.data;
	rows.clear();
	for (let at = end; ;) {
		const found = nearestTo(at);
		if (found < 0) return;
		const c = take(found >> 1);
		const [first, last] = [starts[c], starts[c + 1] - 1];
		const isTurned = (found & 1) === 1;
		const meets = isTurned ? last : first;
		const isSame =
			p[3 * meets] === p[3 * at] && p[3 * meets + 1] === p[3 * at + 1] && p[3 * meets + 2] === p[3 * at + 2];
		const skip = bridge && !isSame ? 0 : 1;
		if (isTurned) for (let i = last - skip; i >= first; i--) rows.push(i);
		else for (let i = first + skip; i <= last; i++) rows.push(i);
		at = isTurned ? first : last;
	}
}

/** The joined curves as they are put together. */
class Joined {
	readonly rows = new Growing('index');
	readonly #starts = new Growing('index');
	readonly #closed = new Growing('byte');
	/** The curve from which each takes its attributes. */
	readonly #from = new Growing('index');

	constructor() {
		this.#starts.push(0);
	}

	finish(isClosed: boolean, from: number): void {
		this.#starts.push(this.rows.length);
		this.#closed.push(isClosed ? 1 : 0);
		this.#from.push(from);
	}

	curves({ points, curves }: Curves): Curves {
		const closed = allocate('byte', this.#closed.length);
		closed.set(this.#closed.view());
		return {
			points: gatherTable(points, this.rows.view()),
			curves: withColumns(gatherTable(curves, this.#from.view()), {
				closed: column('bool', 'plain', closed)
			}),
			starts: this.#starts.take()
		};
	}
}
