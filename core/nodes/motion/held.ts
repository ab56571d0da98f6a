/** Time that stands still for some frames at a time, as in a film made by hand. */
import type { Moment } from '../define.ts';

/** Frames since the first; whole ones to the bit. */
export function frameOn({ time, step }: Moment, hold = 1): number {
	const on = time / step;
	const near = Math.round(on);
	const exact = Math.abs(on - near) < 1e-9 * Math.max(1, Math.abs(near)) ? near : on;
	return hold > 1 ? Math.floor(exact / hold) * hold : exact;
}

/** Seconds since the first frame. */
export const heldTime = (moment: Moment, hold: number): number =>
	hold > 1 ? frameOn(moment, hold) * moment.step : moment.time;
