/**
 * The loops of formulas over registers of doubles, two lanes at a time. Compiled by `node scripts/make-wasm.mjs`; the
 * result is kept in `../binaries.ts`. Every operation is one that IEEE 754 fixes to the bit, in the order in which it is
 * written, so that every engine gives the same. Registers lie at multiples of 16 bytes and may be written to the next
 * multiple of four elements.
 *
 * Arguments: `n` elements; addresses of registers, the one written to first.
 */

// prettier-ignore
@inline function one(): v128 { return f64x2.splat(1); }

export function add(n: i32, o: usize, a: usize, b: usize): void {
	for (const end = o + ((<usize>n) << 3); o < end; o += 32) {
		v128.store(o, f64x2.add(v128.load(a), v128.load(b)));
		v128.store(o, f64x2.add(v128.load(a, 16), v128.load(b, 16)), 16);
		a += 32;
		b += 32;
	}
}

export function subtract(n: i32, o: usize, a: usize, b: usize): void {
	for (const end = o + ((<usize>n) << 3); o < end; o += 32) {
		v128.store(o, f64x2.sub(v128.load(a), v128.load(b)));
		v128.store(o, f64x2.sub(v128.load(a, 16), v128.load(b, 16)), 16);
		a += 32;
		b += 32;
	}
}

export function multiply(n: i32, o: usize, a: usize, b: usize): void {
	for (const end = o + ((<usize>n) << 3); o < end; o += 32) {
		v128.store(o, f64x2.mul(v128.load(a), v128.load(b)));
		v128.store(o, f64x2.mul(v128.load(a, 16), v128.load(b, 16)), 16);
		a += 32;
		b += 32;
	}
}

/** a·b + c in two roundings, as the two steps would be. */
export function multiplyAdd(n: i32, o: usize, a: usize, b: usize, c: usize): void {
	for (const end = o + ((<usize>n) << 3); o < end; o += 32) {
		v128.store(o, f64x2.add(f64x2.mul(v128.load(a), v128.load(b)), v128.load(c)));
		v128.store(o, f64x2.add(f64x2.mul(v128.load(a, 16), v128.load(b, 16)), v128.load(c, 16)), 16);
		a += 32;
		b += 32;
		c += 32;
	}
}

export function divide(n: i32, o: usize, a: usize, b: usize): void {
	for (const end = o + ((<usize>n) << 3); o < end; o += 32) {
		v128.store(o, f64x2.div(v128.load(a), v128.load(b)));
		v128.store(o, f64x2.div(v128.load(a, 16), v128.load(b, 16)), 16);
		a += 32;
		b += 32;
	}
}

export function negate(n: i32, o: usize, a: usize): void {
	for (const end = o + ((<usize>n) << 3); o < end; o += 32) {
		v128.store(o, f64x2.neg(v128.load(a)));
		v128.store(o, f64x2.neg(v128.load(a, 16)), 16);
		a += 32;
	}
}

export function sqrt(n: i32, o: usize, a: usize): void {
	for (const end = o + ((<usize>n) << 3); o < end; o += 32) {
		v128.store(o, f64x2.sqrt(v128.load(a)));
		v128.store(o, f64x2.sqrt(v128.load(a, 16)), 16);
		a += 32;
	}
}

export function abs(n: i32, o: usize, a: usize): void {
	for (const end = o + ((<usize>n) << 3); o < end; o += 32) {
		v128.store(o, f64x2.abs(v128.load(a)));
		v128.store(o, f64x2.abs(v128.load(a, 16)), 16);
		a += 32;
	}
}

export function floor(n: i32, o: usize, a: usize): void {
	for (const end = o + ((<usize>n) << 3); o < end; o += 32) {
		v128.store(o, f64x2.floor(v128.load(a)));
		v128.store(o, f64x2.floor(v128.load(a, 16)), 16);
		a += 32;
	}
}

export function ceil(n: i32, o: usize, a: usize): void {
	for (const end = o + ((<usize>n) << 3); o < end; o += 32) {
		v128.store(o, f64x2.ceil(v128.load(a)));
		v128.store(o, f64x2.ceil(v128.load(a, 16)), 16);
		a += 32;
	}
}

/** Halves go up. */
export function round(n: i32, o: usize, a: usize): void {
	for (const end = o + ((<usize>n) << 3); o < end; o += 32) {
		v128.store(o, f64x2.floor(f64x2.add(v128.load(a), f64x2.splat(0.5))));
		v128.store(o, f64x2.floor(f64x2.add(v128.load(a, 16), f64x2.splat(0.5))), 16);
		a += 32;
	}
}

export function fract(n: i32, o: usize, a: usize): void {
	for (const end = o + ((<usize>n) << 3); o < end; o += 32) {
		v128.store(o, fractOf(v128.load(a)));
		v128.store(o, fractOf(v128.load(a, 16)), 16);
		a += 32;
	}
}

export function sign(n: i32, o: usize, a: usize): void {
	for (const end = o + ((<usize>n) << 3); o < end; o += 32) {
		v128.store(o, signOf(v128.load(a)));
		v128.store(o, signOf(v128.load(a, 16)), 16);
		a += 32;
	}
}

/** The floored remainder: it has the sign of the divisor. */
export function mod(n: i32, o: usize, a: usize, b: usize): void {
	for (const end = o + ((<usize>n) << 3); o < end; o += 32) {
		v128.store(o, modOf(v128.load(a), v128.load(b)));
		v128.store(o, modOf(v128.load(a, 16), v128.load(b, 16)), 16);
		a += 32;
		b += 32;
	}
}

export function min(n: i32, o: usize, a: usize, b: usize): void {
	for (const end = o + ((<usize>n) << 3); o < end; o += 32) {
		v128.store(o, f64x2.min(v128.load(a), v128.load(b)));
		v128.store(o, f64x2.min(v128.load(a, 16), v128.load(b, 16)), 16);
		a += 32;
		b += 32;
	}
}

export function max(n: i32, o: usize, a: usize, b: usize): void {
	for (const end = o + ((<usize>n) << 3); o < end; o += 32) {
		v128.store(o, f64x2.max(v128.load(a), v128.load(b)));
		v128.store(o, f64x2.max(v128.load(a, 16), v128.load(b, 16)), 16);
		a += 32;
		b += 32;
	}
}

export function clamp(n: i32, o: usize, a: usize, b: usize, c: usize): void {
	for (const end = o + ((<usize>n) << 3); o < end; o += 32) {
		v128.store(o, clampOf(v128.load(a), v128.load(b), v128.load(c)));
		v128.store(o, clampOf(v128.load(a, 16), v128.load(b, 16), v128.load(c, 16)), 16);
		a += 32;
		b += 32;
		c += 32;
	}
}

export function mix(n: i32, o: usize, a: usize, b: usize, c: usize): void {
	for (const end = o + ((<usize>n) << 3); o < end; o += 32) {
		v128.store(o, mixOf(v128.load(a), v128.load(b), v128.load(c)));
		v128.store(o, mixOf(v128.load(a, 16), v128.load(b, 16), v128.load(c, 16)), 16);
		a += 32;
		b += 32;
		c += 32;
	}
}

export function step(n: i32, o: usize, a: usize, b: usize): void {
	for (const end = o + ((<usize>n) << 3); o < end; o += 32) {
		v128.store(o, v128.andnot(one(), f64x2.lt(v128.load(b), v128.load(a))));
		v128.store(o, v128.andnot(one(), f64x2.lt(v128.load(b, 16), v128.load(a, 16))), 16);
		a += 32;
		b += 32;
	}
}

export function smoothstep(n: i32, o: usize, a: usize, b: usize, c: usize): void {
	for (const end = o + ((<usize>n) << 3); o < end; o += 32) {
		v128.store(o, smoothstepOf(v128.load(a), v128.load(b), v128.load(c)));
		v128.store(o, smoothstepOf(v128.load(a, 16), v128.load(b, 16), v128.load(c, 16)), 16);
		a += 32;
		b += 32;
		c += 32;
	}
}

export function less(n: i32, o: usize, a: usize, b: usize): void {
	for (const end = o + ((<usize>n) << 3); o < end; o += 32) {
		v128.store(o, v128.and(one(), f64x2.lt(v128.load(a), v128.load(b))));
		v128.store(o, v128.and(one(), f64x2.lt(v128.load(a, 16), v128.load(b, 16))), 16);
		a += 32;
		b += 32;
	}
}

export function atMost(n: i32, o: usize, a: usize, b: usize): void {
	for (const end = o + ((<usize>n) << 3); o < end; o += 32) {
		v128.store(o, v128.and(one(), f64x2.le(v128.load(a), v128.load(b))));
		v128.store(o, v128.and(one(), f64x2.le(v128.load(a, 16), v128.load(b, 16))), 16);
		a += 32;
		b += 32;
	}
}

export function equal(n: i32, o: usize, a: usize, b: usize): void {
	for (const end = o + ((<usize>n) << 3); o < end; o += 32) {
		v128.store(o, v128.and(one(), f64x2.eq(v128.load(a), v128.load(b))));
		v128.store(o, v128.and(one(), f64x2.eq(v128.load(a, 16), v128.load(b, 16))), 16);
		a += 32;
		b += 32;
	}
}

export function and(n: i32, o: usize, a: usize, b: usize): void {
	for (const end = o + ((<usize>n) << 3); o < end; o += 32) {
		v128.store(o, v128.and(one(), v128.and(isSet(v128.load(a)), isSet(v128.load(b)))));
		v128.store(o, v128.and(one(), v128.and(isSet(v128.load(a, 16)), isSet(v128.load(b, 16)))), 16);
		a += 32;
		b += 32;
	}
}

export function or(n: i32, o: usize, a: usize, b: usize): void {
	for (const end = o + ((<usize>n) << 3); o < end; o += 32) {
		v128.store(o, v128.and(one(), v128.or(isSet(v128.load(a)), isSet(v128.load(b)))));
		v128.store(o, v128.and(one(), v128.or(isSet(v128.load(a, 16)), isSet(v128.load(b, 16)))), 16);
		a += 32;
		b += 32;
	}
}

export function not(n: i32, o: usize, a: usize): void {
	for (const end = o + ((<usize>n) << 3); o < end; o += 32) {
		v128.store(o, v128.andnot(one(), isSet(v128.load(a))));
		v128.store(o, v128.andnot(one(), isSet(v128.load(a, 16))), 16);
		a += 32;
	}
}

export function choose(n: i32, o: usize, a: usize, b: usize, c: usize): void {
	for (const end = o + ((<usize>n) << 3); o < end; o += 32) {
		v128.store(o, v128.bitselect(v128.load(b), v128.load(c), isSet(v128.load(a))));
		v128.store(o, v128.bitselect(v128.load(b, 16), v128.load(c, 16), isSet(v128.load(a, 16))), 16);
		a += 32;
		b += 32;
		c += 32;
	}
}

/** √(a² + b² + c²). */
export function length3(n: i32, o: usize, a: usize, b: usize, c: usize): void {
	for (const end = o + ((<usize>n) << 3); o < end; o += 32) {
		v128.store(o, lengthOf(v128.load(a), v128.load(b), v128.load(c)));
		v128.store(o, lengthOf(v128.load(a, 16), v128.load(b, 16), v128.load(c, 16)), 16);
		a += 32;
		b += 32;
		c += 32;
	}
}

// prettier-ignore
@inline function isSet(a: v128): v128 { return f64x2.ne(a, f64x2.splat(0)); }
// prettier-ignore
@inline function fractOf(a: v128): v128 { return f64x2.sub(a, f64x2.floor(a)); }
// prettier-ignore
@inline function modOf(a: v128, b: v128): v128 { return f64x2.sub(a, f64x2.mul(b, f64x2.floor(f64x2.div(a, b)))); }
// prettier-ignore
@inline function mixOf(a: v128, b: v128, c: v128): v128 { return f64x2.add(a, f64x2.mul(f64x2.sub(b, a), c)); }

@inline
function signOf(a: v128): v128 {
	const zero = f64x2.splat(0);
	return v128.or(
		v128.and(f64x2.gt(a, zero), one()),
		v128.and(f64x2.lt(a, zero), f64x2.splat(-1))
	);
}

@inline
function clampOf(a: v128, low: v128, high: v128): v128 {
	const below = v128.bitselect(high, a, f64x2.gt(a, high));
	return v128.bitselect(low, below, f64x2.lt(a, low));
}

@inline
function smoothstepOf(a: v128, b: v128, c: v128): v128 {
	const width = f64x2.sub(b, a);
	const jump = v128.andnot(one(), f64x2.lt(c, a));
	const even = f64x2.div(f64x2.sub(c, a), width);
	const t = clampOf(v128.bitselect(jump, even, f64x2.eq(width, f64x2.splat(0))), f64x2.splat(0), one());
	return f64x2.mul(f64x2.mul(t, t), f64x2.sub(f64x2.splat(3), f64x2.mul(f64x2.splat(2), t)));
}

@inline
function lengthOf(a: v128, b: v128, c: v128): v128 {
	return f64x2.sqrt(f64x2.add(f64x2.add(f64x2.mul(a, a), f64x2.mul(b, b)), f64x2.mul(c, c)));
}

/** Vectors of length 1; one without length stays without. */
export function normalize(
	n: i32,
	ox: usize,
	oy: usize,
	oz: usize,
	x: usize,
	y: usize,
	z: usize
): void {
	for (let i: usize = 0; i < (<usize>n) << 3; i += 16) {
		const a = v128.load(x + i),
			b = v128.load(y + i),
			c = v128.load(z + i);
		const length = lengthOf(a, b, c);
		const size = v128.bitselect(one(), length, f64x2.eq(length, f64x2.splat(0)));
		v128.store(ox + i, f64x2.div(a, size));
		v128.store(oy + i, f64x2.div(b, size));
		v128.store(oz + i, f64x2.div(c, size));
	}
}

/** Singles, side by side at `from`, into a register. */
export function loadFloats(n: i32, from: usize, o: usize): void {
	for (const end = o + ((<usize>n) << 3); o < end; o += 32) {
		v128.store(o, f64x2.promote_low_f32x4(v128.load64_zero(from)));
		v128.store(o, f64x2.promote_low_f32x4(v128.load64_zero(from, 8)), 16);
		from += 16;
	}
}

/** Vectors of three singles at `from` into three registers. */
export function loadVectors(n: i32, from: usize, x: usize, y: usize, z: usize): void {
	for (let i: usize = 0; i < (<usize>n) << 3; i += 16) {
		const low = v128.load(from),
			high = v128.load64_zero(from, 16);
		// x y z x | y z
		v128.store(x + i, f64x2.promote_low_f32x4(v128.shuffle<f32>(low, high, 0, 3, 0, 3)));
		v128.store(y + i, f64x2.promote_low_f32x4(v128.shuffle<f32>(low, high, 1, 4, 1, 4)));
		v128.store(z + i, f64x2.promote_low_f32x4(v128.shuffle<f32>(low, high, 2, 5, 2, 5)));
		from += 24;
	}
}

/**
 * A register into singles at `to`; what is no finite number becomes 0.
 * @returns how many those were.
 */
export function storeFloats(n: i32, to: usize, a: usize): i32 {
	let finite = f64x2.splat(-1);
	finite = v128.not(v128.xor(finite, finite));
	const first = to;
	for (let i: i32 = 0; i < n; i += 2) {
		const pair = v128.load(a);
		const single = f32x4.demote_f64x2_zero(pair);
		finite = v128.and(finite, isFiniteSingle(single));
		v128.store64_lane(to, single, 0);
		a += 16;
		to += 8;
	}
	return v128.any_true(v128.not(finite)) ? clear(first, n, 1) : 0;
}

/** As `storeFloats`, for three registers into vectors. */
export function storeVectors(n: i32, to: usize, x: usize, y: usize, z: usize): i32 {
	let finite = f64x2.splat(-1);
	finite = v128.not(v128.xor(finite, finite));
	const first = to;
	for (let i: usize = 0; i < (<usize>n) << 3; i += 16) {
		const a = f32x4.demote_f64x2_zero(v128.load(x + i)),
			b = f32x4.demote_f64x2_zero(v128.load(y + i)),
			c = f32x4.demote_f64x2_zero(v128.load(z + i));
		finite = v128.and(finite, v128.and(isFiniteSingle(a), v128.and(isFiniteSingle(b), isFiniteSingle(c))));
		const xy = v128.shuffle<f32>(a, b, 0, 4, 1, 5);
		// x y z x | y z
		v128.store(to, v128.shuffle<f32>(xy, c, 0, 1, 4, 2));
		v128.store64_lane(to, v128.shuffle<f32>(xy, c, 3, 5, 3, 5), 0, 16);
		to += 24;
	}
	return v128.any_true(v128.not(finite)) ? clear(first, n, 3) : 0;
}

// prettier-ignore
@inline function isFiniteSingle(a: v128): v128 { return f32x4.eq(f32x4.sub(a, a), f32x4.splat(0)); }

/** Writes 0 for what is not finite and counts it. */
function clear(at: usize, n: i32, width: i32): i32 {
	let broken = 0;
	for (let i = 0; i < n * width; i++, at += 4) {
		const x = load<f32>(at);
		if (x - x != 0) {
			store<f32>(at, 0);
			broken++;
		}
	}
	return broken;
}
