/** How a wire goes from one label to another without running under those between them. */

export interface Place {
	readonly x: number;
	readonly y: number;
}
/** A label on the graph's ground. */
export interface Box extends Place {
	readonly id: string;
	readonly width: number;
	readonly height: number;
}

/** The context in which wires find the labels of their graph. */
export const LABELS = Symbol('labels');

/** A wire keeps this far from labels that it passes. */
const CLEAR = 10;
/** A curve is looked at in so many places. */
const LOOKS = 28;
/** Ways around labels, within ways around labels: a wire that would need more runs straight. */
const MOST_DEEP = 12;

/** A place on the curve between two waypoints, which leaves and arrives level. */
function between(a: Place, b: Place, t: number): Place {
	const pull = pullOf(a, b);
	const s = 1 - t;
	const [w0, w1, w2, w3] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
	return {
		x: w0 * a.x + w1 * (a.x + pull) + w2 * (b.x - pull) + w3 * b.x,
		y: (w0 + w1) * a.y + (w2 + w3) * b.y
	};
}
/** How far the curve goes on level before it turns. */
const pullOf = (a: Place, b: Place): number =>
	b.x > a.x ? Math.max(2, (b.x - a.x) * 0.5) : Math.max(40, (a.x - b.x) * 0.3);

const lies = ({ x, y }: Place, box: Box, clear: number): boolean =>
	x > box.x - clear && x < box.x + box.width + clear && y > box.y - clear && y < box.y + box.height + clear;

/** The first label that the curve between two waypoints runs under. */
function firstUnder(a: Place, b: Place, boxes: readonly Box[]): Box | null {
	const [low, high] = [Math.min(a.y, b.y), Math.max(a.y, b.y)];
	const near = boxes.filter(
		(box) =>
			box.x < b.x && box.x + box.width > a.x && box.y < high + CLEAR && box.y + box.height > low - CLEAR
	);
	if (!near.length) return null;
	for (let k = 1; k < LOOKS; k++) {
		const at = between(a, b, k / LOOKS);
		const under = near.find((box) => lies(at, box, CLEAR * 0.6));
		if (under) return under;
	}
	return null;
}

/** The nearest height, going up or down from a label, at which a level line past it is free of others. */
function freeLane(start: Box, up: boolean, boxes: readonly Box[]): number {
	let y = up ? start.y - CLEAR : start.y + start.height + CLEAR;
	const [from, to] = [start.x - CLEAR, start.x + start.width + CLEAR];
	for (let round = 0; round <= boxes.length; round++) {
		const inWay = boxes.find(
			(box) =>
				box.x < to &&
				box.x + box.width > from &&
				y > box.y - CLEAR * 0.9 &&
				y < box.y + box.height + CLEAR * 0.9
		);
		if (!inWay) break;
		y = up ? inWay.y - CLEAR : inWay.y + inWay.height + CLEAR;
	}
	return y;
}

/**
 * The waypoints of a wire, its ends included. Around each label in its way it takes the lane above or below that is nearer.
 * A wire that goes back runs straight.
 * @param boxes the labels, without those at its ends.
 * @param bends places through which the artist leads it.
 */
export function routeOf(
	from: Place,
	to: Place,
	boxes: readonly Box[],
	bends: readonly (readonly [number, number])[] = []
): Place[] {
	// Where the artist leads it, it goes.
	if (bends.length) return [from, ...bends.map(([x, y]) => ({ x, y })), to];
	if (to.x < from.x + 2 * CLEAR) return [from, to];
	const turns = turnsBetween(from, to, boxes, MOST_DEEP);
	return turns ? [from, ...turns, to] : [from, to];
}

/** The waypoints between two places; null where there is no way around. */
function turnsBetween(from: Place, to: Place, boxes: readonly Box[], deep: number): Place[] | null {
	const under = firstUnder(from, to, boxes);
	if (!under) return [];
	const enters = Math.max(from.x + 4, under.x - 2 * CLEAR);
	const leaves = Math.min(to.x - 4, under.x + under.width + 2 * CLEAR);
	if (deep === 0 || leaves <= enters) return null;
	const lanes = [true, false].map((up) => freeLane(under, up, boxes));
	// What matters is how far it is to the lane and on to the end.
	const cost = (y: number) => Math.abs(y - from.y) + Math.abs(y - to.y);
	const y = cost(lanes[0]) <= cost(lanes[1]) ? lanes[0] : lanes[1];
	const [enter, leave] = [
		{ x: enters, y },
		{ x: leaves, y }
	];
	const before = turnsBetween(from, enter, boxes, deep - 1);
	const after = turnsBetween(leave, to, boxes, deep - 1);
	return before && after && [...before, enter, leave, ...after];
}

/** The curve through waypoints as SVG path data, and the place at its middle. */
export function curveThrough(points: readonly Place[]): { path: string; middle: Place } {
	const path = [`M ${points[0].x} ${points[0].y}`];
	const along: { at: Place; length: number }[] = [{ at: points[0], length: 0 }];
	for (let i = 1; i < points.length; i++) {
		const [a, b] = [points[i - 1], points[i]];
		const pull = pullOf(a, b);
		path.push(`C ${a.x + pull} ${a.y} ${b.x - pull} ${b.y} ${b.x} ${b.y}`);
		for (let k = 1; k <= 12; k++) {
			const at = between(a, b, k / 12);
			const last = along.at(-1)!;
			along.push({ at, length: last.length + Math.hypot(at.x - last.at.x, at.y - last.at.y) });
		}
	}
	const half = along.at(-1)!.length / 2;
	return { path: path.join(' '), middle: along.find(({ length }) => length >= half)!.at };
}

/** Places on the curve through waypoints, close to one another. */
export const placesOn = (points: readonly Place[]): Place[] =>
	points
		.slice(1)
		.flatMap((b, i) => Array.from({ length: LOOKS + 1 }, (_, k) => between(points[i], b, k / LOOKS)));

/** Bends with one more at a place: between those between which the curve passes it. */
export function withBendAt(
	from: Place,
	to: Place,
	bends: readonly (readonly [number, number])[],
	at: Place
): [number, number][] {
	const points = [from, ...bends.map(([x, y]) => ({ x, y })), to];
	let [best, nearest] = [0, Infinity];
	for (let i = 0; i + 1 < points.length; i++)
		for (let k = 0; k <= LOOKS; k++) {
			const on = between(points[i], points[i + 1], k / LOOKS);
			const away = Math.hypot(on.x - at.x, on.y - at.y);
			if (away < nearest) [best, nearest] = [i, away];
		}
	const made = bends.map(([x, y]): [number, number] => [x, y]);
	made.splice(best, 0, [Math.round(at.x), Math.round(at.y)]);
	return made;
}
