/**
 * Gradient noise in 3-D, its fractal sums, and cellular noise; from -1 to 1 (cellular: -1 at a point to 1). Each in 4-D
 * too, where the fourth number lets it change in place: at 0 that is the very noise in 3-D.
 * Method: Ken Perlin, “Improving Noise”, 2002; cells: Steven Worley, “A Cellular Texture Basis Function”, 1996.
 *
 * Arguments: `n` elements; the register written to; the address of a pattern (its permutation of 0 … 255, twice); then
 * registers: the place, in 4-D the fourth number and the period after which it comes back (below 1: never), octaves,
 * lacunarity, gain.
 */

// Twelve directions to the edges of a cube, four of them twice: sixteen, so that four bits choose. Four numbers each.
// prettier-ignore
const DIRECTIONS = memory.data<f64>([
	1, 1, 0, 0, -1, 1, 0, 0, 1, -1, 0, 0, -1, -1, 0, 0, 1, 0, 1, 0, -1, 0, 1, 0, 1, 0, -1, 0, -1, 0, -1, 0,
	0, 1, 1, 0, 0, -1, 1, 0, 0, 1, -1, 0, 0, -1, -1, 0, 1, 1, 0, 0, -1, 1, 0, 0, 0, -1, 1, 0, 0, -1, -1, 0
], 16);

// prettier-ignore
@inline function direction(hash: u32): usize { return DIRECTIONS + ((<usize>(hash & 15)) << 5); }
// prettier-ignore
@inline function byte(at: usize, i: i32): i32 { return <i32>load<u8>(at + <usize>i); }
/** The cell of a whole number, 0 … 255. */
// prettier-ignore
@inline function cell(whole: f64): i32 { return <i32>(<i64>whole) & 255; }

/** Products of two gradients with the ways to two corners that differ in y. */
@inline
function dots(first: i32, second: i32, x: v128, y: v128, z: v128): v128 {
	const p = direction(first),
		q = direction(second);
	const gx = v128.load64_lane(q, v128.load64_zero(p), 1),
		gy = v128.load64_lane(q, v128.load64_zero(p, 8), 1, 8),
		gz = v128.load64_lane(q, v128.load64_zero(p, 16), 1, 16);
	return f64x2.add(f64x2.add(f64x2.mul(gx, x), f64x2.mul(gy, y)), f64x2.mul(gz, z));
}

// prettier-ignore
@inline function blend(a: v128, b: v128, t: v128): v128 { return f64x2.add(a, f64x2.mul(t, f64x2.sub(b, a))); }

/** The fade 6t⁵ - 15t⁴ + 10t³. */
@inline
function fade(t: v128): v128 {
	const inner = f64x2.add(
		f64x2.mul(t, f64x2.sub(f64x2.mul(t, f64x2.splat(6)), f64x2.splat(15))),
		f64x2.splat(10)
	);
	return f64x2.mul(f64x2.mul(f64x2.mul(t, t), t), inner);
}

@inline
function noiseAt(order: usize, x: f64, y: f64, z: f64): f64 {
	const fx = Math.floor(x),
		fy = Math.floor(y),
		fz = Math.floor(z);
	const ax = cell(fx),
		ay = cell(fy),
		az = cell(fz);
	x -= fx;
	y -= fy;
	z -= fz;
	const p = byte(order, ax) + ay,
		q = byte(order, ax + 1) + ay;
	const pp = byte(order, p & 255) + az,
		pq = byte(order, (p + 1) & 255) + az,
		qp = byte(order, q & 255) + az,
		qq = byte(order, (q + 1) & 255) + az;
	const uv = fade(f64x2.replace_lane(f64x2.splat(x), 1, y));
	const w = fade(f64x2.splat(z));
	const u = v128.shuffle<f64>(uv, uv, 0, 0),
		v = v128.shuffle<f64>(uv, uv, 1, 1);
	const x0 = f64x2.splat(x),
		x1 = f64x2.splat(x - 1),
		ys = f64x2.replace_lane(f64x2.splat(y), 1, y - 1),
		z0 = f64x2.splat(z),
		z1 = f64x2.splat(z - 1);
	const below = blend(
		dots(byte(order, pp), byte(order, pq), x0, ys, z0),
		dots(byte(order, qp), byte(order, qq), x1, ys, z0),
		u
	);
	const above = blend(
		dots(byte(order, pp + 1), byte(order, pq + 1), x0, ys, z1),
		dots(byte(order, qp + 1), byte(order, qq + 1), x1, ys, z1),
		u
	);
	const levels = blend(v128.shuffle<f64>(below, above, 0, 2), v128.shuffle<f64>(below, above, 1, 3), v);
	return f64x2.extract_lane(blend(levels, v128.shuffle<f64>(levels, levels, 1, 1), w), 0);
}

/** One feature to the metre. */
export function noise(n: i32, o: usize, order: usize, x: usize, y: usize, z: usize): void {
	for (const end = o + ((<usize>n) << 3); o < end; o += 8) {
		store<f64>(o, noiseAt(order, load<f64>(x), load<f64>(y), load<f64>(z)));
		x += 8;
		y += 8;
		z += 8;
	}
}

/** How many octaves a number asks for: 1 … 12. */
// prettier-ignore
@inline function octavesOf(wanted: f64): i32 { return wanted >= 12 ? 12 : wanted >= 1 ? <i32>wanted : 1; }

/**
 * Octaves of noise, each `lacunarity` times finer and `gain` times weaker, scaled back to -1 … 1. Ridged ones have
 * crests where plain noise crosses zero.
 */
@inline
function octavesOn(
	isRidged: bool,
	n: i32,
	o: usize,
	order: usize,
	x: usize,
	y: usize,
	z: usize,
	octaves: usize,
	lacunarity: usize,
	gain: usize
): void {
	for (let at: usize = 0; at < (<usize>n) << 3; at += 8) {
		let px = load<f64>(x + at),
			py = load<f64>(y + at),
			pz = load<f64>(z + at);
		const finer = load<f64>(lacunarity + at),
			weaker = load<f64>(gain + at);
		let sum = 0.0,
			strength = 1.0,
			total = 0.0;
		for (let i = octavesOf(load<f64>(octaves + at)); i > 0; i--) {
			const value = noiseAt(order, px, py, pz);
			if (isRidged) {
				const crest = 1 - Math.abs(value);
				sum += strength * crest * crest;
			} else sum += strength * value;
			total += strength;
			strength *= weaker;
			// A step aside keeps the octaves' lattice points from meeting at the origin.
			px = px * finer + 19.19;
			py = py * finer + 7.31;
			pz = pz * finer + 31.7;
		}
		if (isRidged) store<f64>(o + at, total > 0 ? (2 * sum) / total - 1 : 0);
		else store<f64>(o + at, total > 0 ? sum / total : 0);
	}
}

// prettier-ignore
export function fractal(
	n: i32, o: usize, order: usize, x: usize, y: usize, z: usize, octaves: usize, lacunarity: usize, gain: usize
): void {
	octavesOn(false, n, o, order, x, y, z, octaves, lacunarity, gain);
}

// prettier-ignore
export function ridged(
	n: i32, o: usize, order: usize, x: usize, y: usize, z: usize, octaves: usize, lacunarity: usize, gain: usize
): void {
	octavesOn(true, n, o, order, x, y, z, octaves, lacunarity, gain);
}

/** Distance to the nearest of one random point in every unit cell, brought to -1 (at a point) … 1. */
export function cells(n: i32, o: usize, order: usize, x: usize, y: usize, z: usize): void {
	for (let at: usize = 0; at < (<usize>n) << 3; at += 8) {
		const px = load<f64>(x + at),
			py = load<f64>(y + at),
			pz = load<f64>(z + at);
		const fx = Math.floor(px),
			fy = Math.floor(py),
			fz = Math.floor(pz);
		const cx = cell(fx),
			cy = cell(fy),
			cz = cell(fz);
		let nearest = Infinity;
		for (let i = -1; i <= 1; i++)
			for (let j = -1; j <= 1; j++)
				for (let k = -1; k <= 1; k++) {
					const row = byte(order, (cx + i) & 255) + cy + j;
					const column = byte(order, row & 255) + cz + k;
					const h = byte(order, column & 255);
					const dx = fx + <f64>i + <f64>byte(order, h) / 256 - px,
						dy = fy + <f64>j + <f64>byte(order, h + 85) / 256 - py,
						dz = fz + <f64>k + <f64>byte(order, h + 170) / 256 - pz;
					const square = dx * dx + dy * dy + dz * dz;
					if (square < nearest) nearest = square;
				}
		const value = Math.sqrt(nearest) * 2 - 1;
		store<f64>(o + at, value < 1 ? value : 1);
	}
}

/** The layers of the fourth number about a place, and how far it lies beyond the first of them. */
let layerBelow: i32 = 0;
let layerAbove: i32 = 0;
let beyond: f64 = 0;

/** Sets the layers; `finer` is how much finer this octave is than the first. A period is a whole number of layers. */
@inline
function setLayers(w: f64, period: f64, finer: f64): void {
	if (!(period >= 1)) {
		const whole = Math.floor(w * finer);
		beyond = w * finer - whole;
		layerBelow = cell(whole);
		layerAbove = (layerBelow + 1) & 255;
		return;
	}
	const layers = Math.max(1, Math.floor(period * finer + 0.5));
	const at = (w / period) * layers;
	const whole = Math.floor(at);
	beyond = at - whole;
	const first = whole - layers * Math.floor(whole / layers);
	layerBelow = cell(first);
	layerAbove = first + 1 >= layers ? 0 : cell(first + 1);
}

/** 0 … 255: in the first layer a corner has what it has in 3-D. */
const ITSELF = memory.data(256);
for (let i = 0; i < 256; i++) store<u8>(ITSELF + i, <u8>i);

/** The pattern by which corners of a layer have theirs. */
// prettier-ignore
@inline function patternIn(order: usize, layer: i32): usize { return layer == 0 ? ITSELF : order; }
/** What a corner has in a layer, from what it has in the first. */
// prettier-ignore
@inline function inLayer(pattern: usize, corner: i32, layer: i32): i32 { return byte(pattern, (corner + layer) & 255); }
/** The gradient's fourth part, forwards or backwards: the fifth bit is the sign. */
// prettier-ignore
@inline function onwards(hash: i32, by: f64): f64 {
	return reinterpret<f64>(reinterpret<u64>(by) ^ ((<u64>(~hash & 16)) << 59));
}

/** Products of two gradients in 4-D with the ways to two corners that differ in y. */
@inline
function dotsIn(pattern: usize, layer: i32, first: i32, second: i32, x: v128, y: v128, z: v128, by: f64): v128 {
	const p = inLayer(pattern, first, layer),
		q = inLayer(pattern, second, layer);
	return f64x2.add(
		dots(p, q, x, y, z),
		f64x2.replace_lane(f64x2.splat(onwards(p, by)), 1, onwards(q, by))
	);
}

/** Noise between two layers that are set. */
function noiseBetween(order: usize, x: f64, y: f64, z: f64): f64 {
	const fx = Math.floor(x),
		fy = Math.floor(y),
		fz = Math.floor(z);
	const ax = cell(fx),
		ay = cell(fy),
		az = cell(fz);
	x -= fx;
	y -= fy;
	z -= fz;
	const p = byte(order, ax) + ay,
		q = byte(order, ax + 1) + ay;
	const pp = byte(order, p & 255) + az,
		pq = byte(order, (p + 1) & 255) + az,
		qp = byte(order, q & 255) + az,
		qq = byte(order, (q + 1) & 255) + az;
	const uv = fade(f64x2.replace_lane(f64x2.splat(x), 1, y));
	const zw = fade(f64x2.replace_lane(f64x2.splat(z), 1, beyond));
	const u = v128.shuffle<f64>(uv, uv, 0, 0),
		v = v128.shuffle<f64>(uv, uv, 1, 1);
	const x0 = f64x2.splat(x),
		x1 = f64x2.splat(x - 1),
		ys = f64x2.replace_lane(f64x2.splat(y), 1, y - 1),
		z0 = f64x2.splat(z),
		z1 = f64x2.splat(z - 1);
	let first = 0.0,
		value = 0.0;
	for (let k = 0; k < 2; k++) {
		const layer = k == 0 ? layerBelow : layerAbove;
		const pattern = patternIn(order, layer);
		const by = beyond - <f64>k;
		const below = blend(
			dotsIn(pattern, layer, byte(order, pp), byte(order, pq), x0, ys, z0, by),
			dotsIn(pattern, layer, byte(order, qp), byte(order, qq), x1, ys, z0, by),
			u
		);
		const above = blend(
			dotsIn(pattern, layer, byte(order, pp + 1), byte(order, pq + 1), x0, ys, z1, by),
			dotsIn(pattern, layer, byte(order, qp + 1), byte(order, qq + 1), x1, ys, z1, by),
			u
		);
		const levels = blend(
			v128.shuffle<f64>(below, above, 0, 2),
			v128.shuffle<f64>(below, above, 1, 3),
			v
		);
		const low = f64x2.extract_lane(levels, 0);
		value = low + f64x2.extract_lane(zw, 0) * (f64x2.extract_lane(levels, 1) - low);
		if (k == 0) first = value;
	}
	value = first + f64x2.extract_lane(zw, 1) * (value - first);
	return Math.max(-1, Math.min(1, value));
}

@inline
function octavesBetween(
	isRidged: bool,
	n: i32,
	o: usize,
	order: usize,
	x: usize,
	y: usize,
	z: usize,
	w: usize,
	period: usize,
	octaves: usize,
	lacunarity: usize,
	gain: usize
): void {
	for (let at: usize = 0; at < (<usize>n) << 3; at += 8) {
		let px = load<f64>(x + at),
			py = load<f64>(y + at),
			pz = load<f64>(z + at);
		const pw = load<f64>(w + at),
			after = load<f64>(period + at);
		const finer = load<f64>(lacunarity + at),
			weaker = load<f64>(gain + at);
		let sum = 0.0,
			strength = 1.0,
			total = 0.0,
			scale = 1.0;
		for (let i = octavesOf(load<f64>(octaves + at)); i > 0; i--) {
			setLayers(pw, after, scale);
			const value = noiseBetween(order, px, py, pz);
			if (isRidged) {
				const crest = 1 - Math.abs(value);
				sum += strength * crest * crest;
			} else sum += strength * value;
			total += strength;
			strength *= weaker;
			// The same steps aside as in 3-D; none along the fourth number, so that 0 stays 0.
			px = px * finer + 19.19;
			py = py * finer + 7.31;
			pz = pz * finer + 31.7;
			scale *= finer;
		}
		if (isRidged) store<f64>(o + at, total > 0 ? (2 * sum) / total - 1 : 0);
		else store<f64>(o + at, total > 0 ? sum / total : 0);
	}
}

// prettier-ignore
export function fractal4(
	n: i32, o: usize, order: usize, x: usize, y: usize, z: usize, w: usize, period: usize, octaves: usize,
	lacunarity: usize, gain: usize
): void {
	octavesBetween(false, n, o, order, x, y, z, w, period, octaves, lacunarity, gain);
}

// prettier-ignore
export function ridged4(
	n: i32, o: usize, order: usize, x: usize, y: usize, z: usize, w: usize, period: usize, octaves: usize,
	lacunarity: usize, gain: usize
): void {
	octavesBetween(true, n, o, order, x, y, z, w, period, octaves, lacunarity, gain);
}

/** Between two places in a cell of 1. */
// prettier-ignore
@inline function inCell(order: usize, below: i32, above: i32, share: f64): f64 {
	const a = <f64>byte(order, below) / 256,
		b = <f64>byte(order, above) / 256;
	return a + share * (b - a);
}

/** The cells whose points wander, each within its own unit cell, from one random place to the next. */
// prettier-ignore
export function cells4(
	n: i32, o: usize, order: usize, x: usize, y: usize, z: usize, w: usize, period: usize
): void {
	for (let at: usize = 0; at < (<usize>n) << 3; at += 8) {
		const px = load<f64>(x + at),
			py = load<f64>(y + at),
			pz = load<f64>(z + at);
		setLayers(load<f64>(w + at), load<f64>(period + at), 1);
		const share = f64x2.extract_lane(fade(f64x2.splat(beyond)), 0);
		const below = patternIn(order, layerBelow),
			above = patternIn(order, layerAbove);
		const fx = Math.floor(px),
			fy = Math.floor(py),
			fz = Math.floor(pz);
		const cx = cell(fx),
			cy = cell(fy),
			cz = cell(fz);
		let nearest = Infinity;
		for (let i = -1; i <= 1; i++)
			for (let j = -1; j <= 1; j++)
				for (let k = -1; k <= 1; k++) {
					const row = byte(order, (cx + i) & 255) + cy + j;
					const column = byte(order, row & 255) + cz + k;
					const h = byte(order, column & 255);
					const a = inLayer(below, h, layerBelow),
						b = inLayer(above, h, layerAbove);
					const dx = fx + <f64>i + inCell(order, a, b, share) - px,
						dy = fy + <f64>j + inCell(order, a + 85, b + 85, share) - py,
						dz = fz + <f64>k + inCell(order, a + 170, b + 170, share) - pz;
					const square = dx * dx + dy * dy + dz * dz;
					if (square < nearest) nearest = square;
				}
		const value = Math.sqrt(nearest) * 2 - 1;
		store<f64>(o + at, value < 1 ? value : 1);
	}
}
