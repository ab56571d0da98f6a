/** The most that a zone weighs at a place while it moves from one frame to the next. */
import { pollAt, scratch } from '../geometry/index.ts';
import type { Field, Varying } from '../varying/index.ts';
import { defineField, fieldAt } from '../varying/index.ts';
import type { Zone } from './zone.ts';
import { distanceIn, ownPlace, weightOfZone } from './zone.ts';

/** Steps in which the nearest moment is looked for; each makes what is left of the time 0.618 times as long. */
const STEPS = 44;
const GOLDEN = (Math.sqrt(5) - 1) / 2;

const sweptField = (before: Zone, now: Zone): Field =>
	makeField(JSON.stringify([before, now]), { before, now });

/** How far a place is outside of where a zone weighs nothing, at each share of the time; and what it weighs then. */
interface Way {
	off(t: number): number;
	weight(t: number): number;
}

/** Where in the zone's own space a place is at first and in the end. */
type Ends = readonly [from: number[], to: number[]];

/** The way through a zone that only moves and turns. */
function wayThrough(zone: Zone, [p, q]: Ends): Way {
	const distance = distanceIn(zone);
	const reach = Math.max(zone.outer, zone.inner);
	const at = (t: number) =>
		distance(p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t, p[2] + (q[2] - p[2]) * t);
	return { off: (t) => at(t) - reach, weight: (t) => weightOfZone(zone, at(t)) };
}

/** The way through one whose size or bounds change too. */
function wayThroughChanging(before: Zone, now: Zone, ends: Ends): Way {
	const then = (t: number): Way => wayThrough(boundsAt(before, now, t), ends);
	return { off: (t) => then(t).off(t), weight: (t) => then(t).weight(t) };
}

/** When a zone comes nearest, as a share of the time: how far off it is falls, then rises. */
function nearest({ off }: Way): number {
	let [low, high] = [0, 1];
	let [c, d] = [1 - GOLDEN, GOLDEN];
	let [offC, offD] = [off(c), off(d)];
	for (let s = 0; s < STEPS; s++) {
		if (offC <= offD) {
			[high, d, offD] = [d, c, offC];
			c = high - GOLDEN * (high - low);
			offC = off(c);
		} else {
			[low, c, offC] = [c, d, offD];
			d = low + GOLDEN * (high - low);
			offD = off(d);
		}
	}
	return (low + high) / 2;
}

/** Degrees that a zone turns at most in one piece of its way: through each the places seem to go straight, which errs by 0.1 %. */
const TURNS = 5;
/** No frame turns it further than a few times round. */
const MOST_PIECES = 360;

const mixed = (a: number, b: number, t: number): number => a + (b - a) * t;
const mixedParts = (a: readonly number[], b: readonly number[], t: number): [number, number, number] => [
	mixed(a[0], b[0], t),
	mixed(a[1], b[1], t),
	mixed(a[2], b[2], t)
];

/** A zone on its way to another one. */
const zoneAt = (before: Zone, now: Zone, t: number): Zone => ({
	...boundsAt(before, now, t),
	centre: mixedParts(before.centre, now.centre, t),
	rotate: mixedParts(before.rotate, now.rotate, t)
});

/** The same, but where it stands in the end: what its own space is made of. */
const boundsAt = (before: Zone, now: Zone, t: number): Zone => ({
	...now,
	size: mixedParts(before.size, now.size, t),
	inner: mixed(before.inner, now.inner, t),
	outer: mixed(before.outer, now.outer, t),
	power: mixed(before.power, now.power, t)
});

const makeField = defineField('swept zone', ({ before, now }: { before: Zone; now: Zone }) => {
	const turn = before.rotate.reduce((most, angle, k) => Math.max(most, Math.abs(now.rotate[k] - angle)), 0);
	const pieces = Math.max(1, Math.min(MOST_PIECES, Math.ceil(turn / TURNS)));
	const stops = Array.from({ length: pieces + 1 }, (_, i) =>
		i === 0 ? before : i === pieces ? now : zoneAt(before, now, i / pieces)
	);
	const runs = Array.from({ length: pieces }, (_, i) => sweep(stops[i], stops[i + 1]));
	if (pieces === 1) return runs[0];
	return (n, out, x, y, z) => {
		const most = scratch('double', n);
		for (const run of runs) {
			run(n, out, x, y, z);
			for (let i = 0; i < n; i++) if (out[i] > most[i]) most[i] = out[i];
		}
		for (let i = 0; i < n; i++) out[i] = most[i];
	};
});

type Run = (
	n: number,
	out: { [place: number]: number },
	x: ArrayLike<number>,
	y: ArrayLike<number>,
	z: ArrayLike<number>
) => void;

/** What a zone sweeps that hardly turns on its way. */
function sweep(before: Zone, now: Zone): Run {
	const [place0, place1] = [ownPlace(before), ownPlace(now)];
	const ends: Ends = [
		[0, 0, 0],
		[0, 0, 0]
	];
	const [p, q] = ends;
	const isRigid =
		before.size.every((s, k) => s === now.size[k]) &&
		before.inner === now.inner &&
		before.outer === now.outer &&
		before.power === now.power;
	// The distance to an ellipsoid is found in steps, and is not quite exact.
	const margin = 1e-3 * Math.max(...now.size.map(Math.abs));
	const way = isRigid ? wayThrough(now, ends) : wayThroughChanging(before, now, ends);
	// Without a turn every place goes equally far in the zone's own space.
	const slides = isRigid && before.rotate.every((angle, k) => angle === now.rotate[k]);
	place0(p, 0, 0, 0);
	place1(q, 0, 0, 0);
	const slide = between(p, q);
	return (n, out, x, y, z) => {
		for (let i = 0; i < n; i++) {
			pollAt(i);
			place0(p, x[i], y[i], z[i]);
			// A distance falls no faster than the place moves: what is further off than that is not reached.
			if (slides && way.off(0) > slide + margin) {
				out[i] = 0;
				continue;
			}
			place1(q, x[i], y[i], z[i]);
			out[i] = Math.max(way.weight(0), way.weight(1));
			if (out[i] === 1) continue;
			const far = between(p, q);
			if (far === 0 && isRigid) continue;
			if (isRigid && way.off(0) + way.off(1) > far + margin) continue;
			out[i] = Math.max(out[i], way.weight(nearest(way)));
		}
	};
}

function between(a: readonly number[], b: readonly number[]): number {
	const [dx, dy, dz] = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
	return Math.sqrt(dx * dx + dy * dy + dz * dz);
}

/** What a zone swept between two frames, where both values are that and nothing else; null otherwise. */
export function sweptBetween(before: Varying, now: Varying): Varying | null {
	const [a, b] = [before.field, now.field];
	if (a?.kind !== 'zone' || b?.kind !== 'zone' || before.op !== 'field' || now.op !== 'field') return null;
	const [from, to] = [a.data.zone as Zone, b.data.zone as Zone];
	const isSamePlace = before.args[0]?.hash === now.args[0]?.hash;
	return isSamePlace && from.shape === to.shape ? fieldAt(sweptField(from, to), now.args[0]) : null;
}
