/**
 * Sowing points over triangles, a block at a time, and values blended across them. Operations and their order are those
 * that IEEE 754 fixes, so every engine gives the same bits. `mix` and `scramble` are those of core/math/mix.ts.
 *
 * Arguments: `n` points; addresses. Arrays of the block are written to the next multiple of four points.
 */

const STATE = 0x9e3779b1,
	WORD = 0x85ebca6b,
	START = 0x6a09e667;
/** 2⁻³² */
const UNIT = 2.3283064365386963e-10;

@inline
function scramble(x: v128): v128 {
	x = v128.xor(x, i32x4.shr_u(x, 16));
	x = i32x4.mul(x, i32x4.splat(0x21f0aaad));
	x = v128.xor(x, i32x4.shr_u(x, 15));
	x = i32x4.mul(x, i32x4.splat(0x735a2d97));
	return v128.xor(x, i32x4.shr_u(x, 15));
}

/** Mixes one word, the same for all, into four states. */
@inline
function mix(states: v128, word: i32): v128 {
	return scramble(
		i32x4.add(i32x4.mul(states, i32x4.splat(<i32>STATE)), i32x4.splat(word * <i32>WORD + <i32>START))
	);
}

/** The two lower words as numbers from 0 up to, but never reaching, 1. */
// prettier-ignore
@inline function unit(words: v128): v128 { return f64x2.mul(f64x2.convert_low_i32x4_u(words), f64x2.splat(UNIT)); }
// prettier-ignore
@inline function upper(words: v128): v128 { return v128.shuffle<i32>(words, words, 2, 3, 2, 3); }
// prettier-ignore
@inline function firsts(low: v128, high: v128): v128 { return v128.shuffle<i32>(low, high, 0, 2, 4, 6); }
// prettier-ignore
@inline function seconds(low: v128, high: v128): v128 { return v128.shuffle<i32>(low, high, 1, 3, 5, 7); }

/** Ids of the points from number `from`: two words each. */
export function name(n: i32, ids: usize, first: i32, second: i32, from: i32): void {
	let numbers = i32x4.add(i32x4.splat(from), i32x4(0, 1, 2, 3));
	const one = i32x4.splat(first * <i32>STATE + <i32>START),
		two = i32x4.splat(second * <i32>STATE + <i32>START);
	for (let i = 0; i < n; i += 4) {
		const word = i32x4.mul(numbers, i32x4.splat(<i32>WORD));
		const a = scramble(i32x4.add(one, word)),
			b = scramble(i32x4.add(two, word));
		v128.store(ids, v128.shuffle<i32>(a, b, 0, 4, 1, 5));
		v128.store(ids, v128.shuffle<i32>(a, b, 2, 6, 3, 7), 16);
		ids += 32;
		numbers = i32x4.add(numbers, i32x4.splat(4));
	}
}

/**
 * The triangle of each point, by one look into slots of equal chance. A slot is two words: a limit of the chance, in
 * units of 2⁻³², and the triangle beyond it.
 */
export function choose(n: i32, triangles: usize, ids: usize, slots: usize, count: f64): void {
	const counts = f64x2.splat(count);
	for (let i = 0; i < n; i += 4) {
		const low = v128.load(ids),
			high = v128.load(ids, 16);
		const words = mix(firsts(low, high), 1);
		const a = i32x4.trunc_sat_f64x2_u_zero(f64x2.mul(unit(words), counts)),
			b = i32x4.trunc_sat_f64x2_u_zero(f64x2.mul(unit(upper(words)), counts));
		chooseOne(triangles, i32x4.extract_lane(a, 0), i32x4.extract_lane(low, 1), slots);
		chooseOne(triangles + 4, i32x4.extract_lane(a, 1), i32x4.extract_lane(low, 3), slots);
		chooseOne(triangles + 8, i32x4.extract_lane(b, 0), i32x4.extract_lane(high, 1), slots);
		chooseOne(triangles + 12, i32x4.extract_lane(b, 1), i32x4.extract_lane(high, 3), slots);
		ids += 32;
		triangles += 16;
	}
}

@inline
function chooseOne(triangle: usize, slot: u32, chance: u32, slots: usize): void {
	const at = slots + ((<usize>slot) << 3);
	store<u32>(triangle, select<u32>(slot, load<u32>(at, 4), chance < load<u32>(at)));
}

/** Shares of the second and third corner, singles, even over the triangle: half of the square is folded over. */
export function share(n: i32, shares: usize, ids: usize): void {
	for (let i = 0; i < n; i += 4) {
		const first = firsts(v128.load(ids), v128.load(ids, 16));
		const a = mix(first, 2),
			b = mix(first, 3);
		shareTwo(shares, unit(a), unit(b));
		shareTwo(shares + 16, unit(upper(a)), unit(upper(b)));
		ids += 32;
		shares += 32;
	}
}

@inline
function shareTwo(shares: usize, u: v128, v: v128): void {
	const one = f64x2.splat(1);
	const fold = v128.and(f64x2.gt(f64x2.add(u, v), one), one);
	const s = f32x4.demote_f64x2_zero(f64x2.abs(f64x2.sub(fold, u))),
		t = f32x4.demote_f64x2_zero(f64x2.abs(f64x2.sub(fold, v)));
	v128.store(shares, v128.shuffle<f32>(s, t, 0, 4, 1, 5));
}

/** Points whose records are fetched together, before any is used. */
const AHEAD = 32;

/**
 * Where the records of each point's corners lie, as four words: three addresses, and one word that is copied.
 *
 * Rows are four words for each triangle: its three records, by number, and the word to be copied. Rows and records lie
 * anywhere in large tables; short loops that only fetch them keep many slow reads under way at once, where blending
 * alone would wait for one after another.
 * @param stride bytes of a record; all records are less than 4 GB, and may be read to 12 bytes beyond their end.
 * @returns a number without meaning, so that no fetch is left out.
 */
export function locate(
	n: i32,
	corners: usize,
	fourths: usize,
	triangles: usize,
	rows: usize,
	records: usize,
	stride: i32
): i32 {
	const strides = i32x4(stride, stride, stride, 1),
		starts = i32x4(<i32>records, <i32>records, <i32>records, 0);
	let touched = 0;
	for (let first = 0; first < n; first += AHEAD) {
		const some = <usize>min(AHEAD, n - first);
		for (let i: usize = 0; i < some; i++) {
			const row = v128.load(rows + ((<usize>load<u32>(triangles + (i << 2))) << 4));
			v128.store(corners + (i << 4), i32x4.add(i32x4.mul(row, strides), starts));
			v128.store32_lane(fourths + (i << 2), row, 3);
		}
		for (let i: usize = 0; i < some; i++) {
			touched |= load<i32>(<usize>load<u32>(corners + (i << 4)));
			touched |= load<i32>(<usize>load<u32>(corners + (i << 4), 4));
			touched |= load<i32>(<usize>load<u32>(corners + (i << 4), 8));
		}
		corners += some << 4;
		triangles += some << 2;
		fourths += some << 2;
	}
	return touched;
}

/**
 * Values blended across triangles: at the first corner, and the shares of the ways from it to the others.
 * @param width numbers of each value, 1 … 4; they begin `offset` bytes into each record.
 */
export function blend(n: i32, out: usize, width: i32, corners: usize, shares: usize, offset: usize): void {
	if (width == 3) blendSome(n, out, 3, corners, shares, offset);
	else if (width == 2) blendSome(n, out, 2, corners, shares, offset);
	else if (width == 1) blendSome(n, out, 1, corners, shares, offset);
	else blendSome(n, out, 4, corners, shares, offset);
}

@inline
function blendSome(n: i32, out: usize, width: usize, corners: usize, shares: usize, offset: usize): void {
	for (let i = 0; i < n; i++) {
		const a = v128.load(<usize>load<u32>(corners) + offset);
		const b = f32x4.sub(v128.load(<usize>load<u32>(corners, 4) + offset), a),
			c = f32x4.sub(v128.load(<usize>load<u32>(corners, 8) + offset), a);
		const s = f64x2.promote_low_f32x4(v128.load32_splat(shares)),
			t = f64x2.promote_low_f32x4(v128.load32_splat(shares, 4));
		const low = blendTwo(a, b, c, s, t);
		if (width == 1) v128.store32_lane(out, low, 0);
		else v128.store64_lane(out, low, 0);
		if (width == 3) v128.store32_lane(out, blendTwo(upper(a), upper(b), upper(c), s, t), 0, 8);
		else if (width == 4) v128.store64_lane(out, blendTwo(upper(a), upper(b), upper(c), s, t), 0, 8);
		out += width << 2;
		corners += 16;
		shares += 8;
	}
}

@inline
function blendTwo(a: v128, b: v128, c: v128, s: v128, t: v128): v128 {
	const way = f64x2.add(f64x2.promote_low_f32x4(a), f64x2.mul(s, f64x2.promote_low_f32x4(b)));
	return f32x4.demote_f64x2_zero(f64x2.add(way, f64x2.mul(t, f64x2.promote_low_f32x4(c))));
}

/** Makes vectors of three singles 1 long; one without length stays. */
export function normalize(n: i32, at: usize): void {
	for (let i = 0; i < n; i++) {
		const xy = f64x2.promote_low_f32x4(v128.load64_zero(at));
		const x = f64x2.extract_lane(xy, 0),
			y = f64x2.extract_lane(xy, 1),
			z = <f64>load<f32>(at, 8);
		const length = Math.sqrt(x * x + y * y + z * z);
		const size = length == 0 ? 1 : length;
		v128.store64_lane(at, f32x4.demote_f64x2_zero(f64x2.div(xy, f64x2.splat(size))), 0);
		store<f32>(at, <f32>(z / size), 8);
		at += 12;
	}
}

/**
 * Rotations that take y to the normals and keep z near the world’s z, as `standOff` of core/kernels/stand-off.ts does,
 * two at a time.
 * @returns whether some normal lies so near to z that this has no answer; what was written for it is of no use.
 */
export function standOff(n: i32, out: usize, normals: usize): bool {
	const one = f64x2.splat(1),
		two = f64x2.splat(2),
		zero = f64x2.splat(0);
	let unfit = i64x2.splat(0);
	for (let i = 0; i < n; i += 2) {
		const low = v128.load(normals),
			high = v128.load64_zero(normals, 16);
		const x = f64x2.promote_low_f32x4(v128.shuffle<f32>(low, high, 0, 3, 0, 3)),
			y = f64x2.promote_low_f32x4(v128.shuffle<f32>(low, high, 1, 4, 1, 4)),
			z = f64x2.promote_low_f32x4(v128.shuffle<f32>(low, high, 2, 5, 2, 5));
		const flat = f64x2.sqrt(f64x2.add(f64x2.mul(x, x), f64x2.mul(y, y)));
		// The second of the last pair may lie beyond the end.
		if (i + 1 < n) unfit = v128.or(unfit, f64x2.le(flat, f64x2.splat(1e-5)));
		else if (f64x2.extract_lane(flat, 0) <= 1e-5) unfit = i64x2.splat(-1);
		const c = f64x2.div(y, flat),
			s = f64x2.div(f64x2.neg(x), flat);
		const tiltCos = f64x2.sqrt(f64x2.div(f64x2.add(one, flat), two));
		const tiltSin = f64x2.div(z, f64x2.mul(two, tiltCos));
		const root = f64x2.sqrt(f64x2.div(f64x2.add(one, f64x2.abs(c)), two));
		const upright = f64x2.ge(c, zero);
		const small = f64x2.div(v128.bitselect(s, f64x2.abs(s), upright), f64x2.mul(two, root));
		const turnCos = v128.bitselect(root, small, upright),
			turnSin = v128.bitselect(
				small,
				v128.bitselect(f64x2.neg(root), root, f64x2.lt(s, zero)),
				upright
			);
		const a = f32x4.demote_f64x2_zero(f64x2.mul(turnCos, tiltSin)),
			b = f32x4.demote_f64x2_zero(f64x2.mul(turnSin, tiltSin)),
			d = f32x4.demote_f64x2_zero(f64x2.mul(turnSin, tiltCos)),
			e = f32x4.demote_f64x2_zero(f64x2.mul(turnCos, tiltCos));
		const ab = v128.shuffle<f32>(a, b, 0, 4, 1, 5),
			de = v128.shuffle<f32>(d, e, 0, 4, 1, 5);
		v128.store(out, v128.shuffle<f32>(ab, de, 0, 1, 4, 5));
		v128.store(out, v128.shuffle<f32>(ab, de, 2, 3, 6, 7), 16);
		normals += 24;
		out += 32;
	}
	return v128.any_true(unfit);
}
