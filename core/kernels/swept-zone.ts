/** The most that a zone weighs at a place while it moves from one frame to the next. */
import { pollAt } from '../geometry/index.ts';
import type { Field, Varying } from '../varying/index.ts';
import { defineField, fieldAt } from '../varying/index.ts';
import type { Zone } from './zone.ts';
import { distanceInZone, ownPlace, weightOfZone } from './zone.ts';

/** Steps in which the nearest moment is looked for; each makes what is left of the time 0.618 times as long. */
const STEPS = 44;
const GOLDEN = (Math.sqrt(5) - 1) / 2;

const sweptField = (before: Zone, now: Zone): Field =>
	makeField(JSON.stringify([before, now]), { before, now });

const makeField = defineField('swept zone', ({ before, now }: { before: Zone; now: Zone }) => {
	const place0 = ownPlace(before);
	const place1 = ownPlace(now);
	const mix = (a: number, b: number, t: number) => a + (b - a) * t;
	return (n, out, x, y, z) => {
		const [p, q] = [
			[0, 0, 0],
			[0, 0, 0]
		];
		for (let i = 0; i < n; i++) {
			pollAt(i);
			place0(p, x[i], y[i], z[i]);
			place1(q, x[i], y[i], z[i]);
			// In the zone's own space the place moves along a straight line: how far off it is falls, then rises.
			const zoneAt = (t: number): Zone => ({
				...now,
				size: now.size.map((s, k) => mix(before.size[k], s, t)) as unknown as Zone['size'],
				inner: mix(before.inner, now.inner, t),
				outer: mix(before.outer, now.outer, t),
				power: mix(before.power, now.power, t)
			});
			const off = (t: number): number => {
				const zone = zoneAt(t);
				return (
					distanceInZone(zone, mix(p[0], q[0], t), mix(p[1], q[1], t), mix(p[2], q[2], t)) -
					Math.max(zone.outer, zone.inner)
				);
			};
			let [low, high] = [0, 1];
			let [c, d] = [high - GOLDEN, GOLDEN];
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
			let most = 0;
			for (const t of [0, (low + high) / 2, 1]) {
				const zone = zoneAt(t);
				const at = distanceInZone(zone, mix(p[0], q[0], t), mix(p[1], q[1], t), mix(p[2], q[2], t));
				most = Math.max(most, weightOfZone(zone, at));
			}
			out[i] = most;
		}
	};
});

/** What a zone swept between two frames, where both values are that and nothing else; null otherwise. */
export function sweptBetween(before: Varying, now: Varying): Varying | null {
	const [a, b] = [before.field, now.field];
	if (a?.kind !== 'zone' || b?.kind !== 'zone' || before.op !== 'field' || now.op !== 'field') return null;
	const [from, to] = [a.data.zone as Zone, b.data.zone as Zone];
	const isSamePlace = before.args[0]?.hash === now.args[0]?.hash;
	return isSamePlace && from.shape === to.shape ? fieldAt(sweptField(from, to), now.args[0]) : null;
}
