/** Drawing one of many, each as often as it weighs, in one look. */
import { scratch, pollAt } from '../geometry/index.ts';

/**
 * Slots of equal chance: each holds one triangle up to a limit, and another beyond it; two words, the limit in units of
 * 2⁻³². One look decides a triangle, where a search in the sums takes many: the alias method (Michael D. Vose, “A Linear
 * Algorithm for Generating Random Numbers with a Given Distribution”, 1991).
 */
export function writeSlots(slots: Uint32Array, sums: Float64Array): void {
	const n = sums.length;
	const limits = scratch('double', n);
	// Small ones from the front, large ones from the back.
	const waiting = scratch('index', n);
	let smalls = 0,
		larges = n;
	for (let t = 0; t < n; t++) {
		pollAt(t);
		limits[t] = ((sums[t] - (t ? sums[t - 1] : 0)) / sums[n - 1]) * n;
		if (limits[t] < 1) waiting[smalls++] = t;
		else waiting[--larges] = t;
	}
	let closed = 0;
	const close = (t: number, limit: number, other: number) => {
		pollAt(++closed);
		const word = Math.ceil(limit * 4294967296);
		slots[2 * t] = word;
		slots[2 * t + 1] = word > 4294967295 ? t : other;
	};
	while (smalls && larges < n) {
		const s = waiting[--smalls],
			l = waiting[larges];
		close(s, limits[s], l);
		limits[l] -= 1 - limits[s];
		if (limits[l] < 1) {
			larges++;
			waiting[smalls++] = l;
		}
	}
	// What is left is 1 but for rounding; a triangle without area must still never be drawn.
	while (larges < n) close(waiting[larges++], 1, 0);
	while (smalls) {
		const s = waiting[--smalls];
		close(s, limits[s] > 0.5 ? 1 : limits[s], 0);
	}
}
