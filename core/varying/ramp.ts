/** Ramps: numbers or colours at stops from 0 to 1, and how the way from one stop to the next goes. */

export const EASINGS = ['linear', 'smooth', 'held', 'bezier'] as const;
export type Easing = (typeof EASINGS)[number];

export interface RampStop {
	/** From 0 to 1. */
	at: number;
	value: number;
	/** Linear red, green and blue, in ramps of colours. */
	colour?: readonly [number, number, number];
	/** How it goes on from here to the next stop. */
	easing: Easing;
	/** The two handles of a Bézier easing, each as shares of the way along and of the way up: x1, y1, x2, y2. */
	handles?: readonly [number, number, number, number];
}

export interface Ramp {
	readonly stops: readonly RampStop[];
}

/** A ramp as it flows on a wire. */
export interface WiredRamp extends Ramp {
	readonly kind: 'ramp';
}

/** Handles that start and end level. @public */
export const SOFT_HANDLES: readonly [number, number, number, number] = [0.4, 0, 0.6, 1];

/** A ramp from pairs of place and value. */
export const rampOf = (easing: Easing, ...pairs: readonly (readonly [number, number])[]): Ramp => ({
	stops: pairs.map(([at, value]) => ({ at, value, easing }))
});

/** Starting shapes, by name. */
export const RAMP_SHAPES: readonly { name: string; ramp: Ramp }[] = [
	{ name: 'Linear', ramp: rampOf('linear', [0, 0], [1, 1]) },
	{ name: 'Soft', ramp: rampOf('smooth', [0, 0], [1, 1]) },
	{ name: 'Hill', ramp: rampOf('smooth', [0, 0], [0.5, 1], [1, 0]) },
	{ name: 'Valley', ramp: rampOf('smooth', [0, 1], [0.5, 0], [1, 1]) },
	{ name: 'Plateau', ramp: rampOf('smooth', [0, 0], [0.25, 1], [0.75, 1], [1, 0]) },
	{ name: 'Steps', ramp: rampOf('held', [0, 0], [0.25, 0.33], [0.5, 0.67], [0.75, 1]) },
	{
		name: 'Slow start',
		ramp: {
			stops: [
				{ at: 0, value: 0, easing: 'bezier', handles: [0.5, 0, 0.9, 0.5] },
				{ at: 1, value: 1, easing: 'linear' }
			]
		}
	}
];

/** The ramp with its two ends changed over. Easings go with their stretch, handles turned round. */
export function flipRamp({ stops }: Ramp): Ramp {
	const sorted = sortedStops(stops);
	return {
		stops: sorted
			.map((stop, i): RampStop => {
				const before = sorted[i - 1];
				const { handles: _, ...rest } = stop;
				const flipped = { ...rest, at: 1 - stop.at, easing: before?.easing ?? stop.easing };
				const h = before?.handles;
				return h && before.easing === 'bezier'
					? { ...flipped, handles: [1 - h[2], 1 - h[3], 1 - h[0], 1 - h[1]] }
					: flipped;
			})
			.reverse()
	};
}

/** In the order of their places; stops at one place keep theirs, so that they make a jump. @public */
export function sortedStops(stops: readonly RampStop[]): RampStop[] {
	return stops
		.map((stop, i) => ({ stop, i }))
		.sort((a, b) => a.stop.at - b.stop.at || a.i - b.i)
		.map(({ stop }) => stop);
}

/** Numbers a stop in a table: place, easing, four handles, then the values. */
const HEAD = 6;

/** A ramp as a flat table, for loops and hashes. `width` is 1 for numbers, 3 for colours. */
export function tableOfRamp(ramp: Ramp, width: 1 | 3): Float64Array {
	const stops = sortedStops(ramp.stops);
	const out = new Float64Array(stops.length * (HEAD + width));
	stops.forEach((stop, i) => {
		const o = i * (HEAD + width);
		out[o] = stop.at;
		out[o + 1] = EASINGS.indexOf(stop.easing);
		out.set(stop.handles ?? SOFT_HANDLES, o + 2);
		if (width === 1) out[o + HEAD] = stop.value;
		else out.set(stop.colour ?? [stop.value, stop.value, stop.value], o + HEAD);
	});
	return out;
}

/** Reads a table at `n` places `x`. Before the first stop and after the last the ramp goes on level; no stops give 0. */
export function readRamp(
	table: Float64Array,
	width: 1 | 3,
	n: number,
	x: Float64Array,
	outs: readonly Float64Array[]
): void {
	const stride = HEAD + width;
	const count = table.length / stride;
	if (count === 0) {
		for (const out of outs) out.fill(0, 0, n);
		return;
	}
	const last = (count - 1) * stride;
	// Near elements often lie in the same stretch: the search starts where the last one ended.
	let o = 0;
	for (let i = 0; i < n; i++) {
		const t = x[i];
		if (!(t > table[0])) {
			// The last of several stops at the first place holds from there on; before it, the first.
			o = 0;
			if (t === table[0]) while (o < last && table[o + stride] <= t) o += stride;
			for (let k = 0; k < width; k++) outs[k][i] = table[o + HEAD + k];
			continue;
		}
		if (table[o] > t) o = 0;
		while (o < last && table[o + stride] <= t) o += stride;
		if (o === last) {
			for (let k = 0; k < width; k++) outs[k][i] = table[o + HEAD + k];
			continue;
		}
		let s = (t - table[o]) / (table[o + stride] - table[o]);
		const easing = table[o + 1];
		if (easing === 1) s = s * s * (3 - 2 * s);
		else if (easing === 2) s = 0;
		else if (easing === 3) s = bezierAt(s, table[o + 2], table[o + 3], table[o + 4], table[o + 5]);
		for (let k = 0; k < width; k++) {
			const from = table[o + HEAD + k];
			outs[k][i] = from + (table[o + stride + HEAD + k] - from) * s;
		}
	}
}

/** How far up a Bézier easing is at a share of its way along; the handles' x lie from 0 to 1, so that it never turns back. */
function bezierAt(x: number, x1: number, y1: number, x2: number, y2: number): number {
	let low = 0,
		high = 1,
		t = x;
	for (let i = 0; i < 40; i++) {
		const u = 1 - t;
		const at = 3 * u * u * t * x1 + 3 * u * t * t * x2 + t * t * t;
		if (Math.abs(at - x) < 1e-9) break;
		if (at < x) low = t;
		else high = t;
		const slope = 3 * u * u * x1 + 6 * u * t * (x2 - x1) + 3 * t * t * (1 - x2);
		const next = slope > 1e-6 ? t - (at - x) / slope : low;
		t = next > low && next < high ? next : (low + high) / 2;
	}
	const u = 1 - t;
	return 3 * u * u * t * y1 + 3 * u * t * t * y2 + t * t * t;
}

/** The ramp's value at one place. */
export function rampAt(ramp: Ramp, x: number): number {
	const out = new Float64Array(1);
	readRamp(tableOfRamp(ramp, 1), 1, 1, Float64Array.of(x), [out]);
	return out[0];
}
