/**
 * Gradient noise in 3-D, its fractal sums, and cellular noise; from -1 to 1 (cellular: 0 to about 1).
 * Method: Ken Perlin, “Improving Noise”, 2002; cells: Steven Worley, “A Cellular Texture Basis Function”, 1996.
 * The table of permutations comes from the seed, with the own mixing, so that a seed is a pattern.
 */
import { mix } from '../math/index.ts';

/** A pattern: its permutations of 0 … 255, twice, and a gradient for each of them. */
export interface Pattern {
	readonly order: Uint8Array;
	/** Three numbers for each of 256 gradients, unit length times a factor that fills -1 … 1. */
	readonly gradients: Float64Array;
}

// Twelve directions to the edges of a cube, four of them twice: sixteen, so that four bits choose.
const DIRECTIONS = [
	1, 1, 0, -1, 1, 0, 1, -1, 0, -1, -1, 0, 1, 0, 1, -1, 0, 1, 1, 0, -1, -1, 0, -1, 0, 1, 1, 0, -1, 1, 0, 1, -1,
	0, -1, -1, 1, 1, 0, -1, 1, 0, 0, -1, 1, 0, -1, -1
];
const kept = new Map<number, Pattern>();

/** The pattern of a seed, a 32-bit word. */
export function patternOf(seed: number): Pattern {
	seed >>>= 0;
	let pattern = kept.get(seed);
	if (!pattern) {
		const order = new Uint8Array(512);
		for (let i = 0; i < 256; i++) order[i] = i;
		for (let i = 255; i > 0; i--) {
			const j = (mix(mix(seed, 0x6e01), i) >>> 0) % (i + 1);
			const swap = order[i];
			order[i] = order[j];
			order[j] = swap;
		}
		order.copyWithin(256, 0, 256);
		const gradients = new Float64Array(768);
		for (let i = 0; i < 256; i++)
			for (let k = 0; k < 3; k++) gradients[3 * i + k] = DIRECTIONS[3 * (i & 15) + k];
		pattern = { order, gradients };
		if (kept.size > 64) kept.clear();
		kept.set(seed, pattern);
	}
	return pattern;
}

/** Gradient noise at a place; one feature to the metre. */
export function noise3({ order, gradients }: Pattern, x: number, y: number, z: number): number {
	const fx = Math.floor(x),
		fy = Math.floor(y),
		fz = Math.floor(z);
	const ax = fx & 255,
		ay = fy & 255,
		az = fz & 255;
	x -= fx;
	y -= fy;
	z -= fz;
	const u = x * x * x * (x * (x * 6 - 15) + 10);
	const v = y * y * y * (y * (y * 6 - 15) + 10);
	const w = z * z * z * (z * (z * 6 - 15) + 10);
	const p = order[ax] + ay,
		q = order[ax + 1] + ay;
	const pp = order[p & 255] + az,
		pq = order[(p + 1) & 255] + az,
		qp = order[q & 255] + az,
		qq = order[(q + 1) & 255] + az;
	const x1 = x - 1,
		y1 = y - 1,
		z1 = z - 1;
	let g = 3 * order[pp];
	const a = gradients[g] * x + gradients[g + 1] * y + gradients[g + 2] * z;
	g = 3 * order[qp];
	const b = gradients[g] * x1 + gradients[g + 1] * y + gradients[g + 2] * z;
	g = 3 * order[pq];
	const c = gradients[g] * x + gradients[g + 1] * y1 + gradients[g + 2] * z;
	g = 3 * order[qq];
	const d = gradients[g] * x1 + gradients[g + 1] * y1 + gradients[g + 2] * z;
	g = 3 * order[pp + 1];
	const e = gradients[g] * x + gradients[g + 1] * y + gradients[g + 2] * z1;
	g = 3 * order[qp + 1];
	const f = gradients[g] * x1 + gradients[g + 1] * y + gradients[g + 2] * z1;
	g = 3 * order[pq + 1];
	const h = gradients[g] * x + gradients[g + 1] * y1 + gradients[g + 2] * z1;
	g = 3 * order[qq + 1];
	const k = gradients[g] * x1 + gradients[g + 1] * y1 + gradients[g + 2] * z1;
	const ab = a + u * (b - a),
		cd = c + u * (d - c),
		ef = e + u * (f - e),
		hk = h + u * (k - h);
	const low = ab + v * (cd - ab),
		high = ef + v * (hk - ef);
	return low + w * (high - low);
}

/** Octaves of noise, each `lacunarity` times finer and `gain` times weaker, scaled back to -1 … 1. */
export function fractal3(
	pattern: Pattern,
	x: number,
	y: number,
	z: number,
	octaves: number,
	lacunarity: number,
	gain: number
): number {
	let sum = 0,
		strength = 1,
		total = 0;
	for (let i = 0; i < octaves; i++) {
		sum += strength * noise3(pattern, x, y, z);
		total += strength;
		strength *= gain;
		// A step aside keeps the octaves' lattice points from meeting at the origin.
		x = x * lacunarity + 19.19;
		y = y * lacunarity + 7.31;
		z = z * lacunarity + 31.7;
	}
	return total > 0 ? sum / total : 0;
}

/** Ridged octaves: crests where plain noise crosses zero; from -1 to 1. */
export function ridged3(
	pattern: Pattern,
	x: number,
	y: number,
	z: number,
	octaves: number,
	lacunarity: number,
	gain: number
): number {
	let sum = 0,
		strength = 1,
		total = 0;
	for (let i = 0; i < octaves; i++) {
		const crest = 1 - Math.abs(noise3(pattern, x, y, z));
		sum += strength * crest * crest;
		total += strength;
		strength *= gain;
		x = x * lacunarity + 19.19;
		y = y * lacunarity + 7.31;
		z = z * lacunarity + 31.7;
	}
	return total > 0 ? (2 * sum) / total - 1 : 0;
}

/** Distance to the nearest of one random point in every unit cell, brought to -1 (at a point) … 1. */
export function cells3({ order }: Pattern, x: number, y: number, z: number): number {
	const fx = Math.floor(x),
		fy = Math.floor(y),
		fz = Math.floor(z);
	let nearest = Infinity;
	for (let i = -1; i <= 1; i++)
		for (let j = -1; j <= 1; j++)
			for (let k = -1; k <= 1; k++) {
				const h = order[(order[(order[(fx + i) & 255] + fy + j) & 255] + fz + k) & 255];
				const dx = fx + i + order[h] / 256 - x,
					dy = fy + j + order[h + 85] / 256 - y,
					dz = fz + k + order[h + 170] / 256 - z;
				const square = dx * dx + dy * dy + dz * dz;
				if (square < nearest) nearest = square;
			}
	return Math.min(1, Math.sqrt(nearest) * 2 - 1);
}
