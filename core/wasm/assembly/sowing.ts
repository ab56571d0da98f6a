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

/** Ids of the points from number `from`: two words each. */
export function name(n: i32, ids: usize, first: i32, second: i32, from: i32): void {
	let numbers = i32x4.add(i32x4.splat(from), i32x4(0, 1, 2, 3));
	for (let i = 0; i < n; i += 4) {
		const a = mixNumbers(first, numbers),
			b = mixNumbers(second, numbers);
		v128.store(ids, v128.shuffle<i32>(a, b, 0, 4, 1, 5));
		v128.store(ids, v128.shuffle<i32>(a, b, 2, 6, 3, 7), 16);
		ids += 32;
		numbers = i32x4.add(numbers, i32x4.splat(4));
	}
}

/**
 * The slot of each point, words, from the first word of its id. Room for the next multiple of four is written.
 * @param count slots in all.
 */
export function draw(n: i32, slots: usize, first: i32, from: i32, count: i32): void {
	const counts = i32x4.splat(count);
	let numbers = i32x4.add(i32x4.splat(from), i32x4(0, 1, 2, 3));
	for (let i = 0; i < n; i += 4) {
		const words = mix(mixNumbers(first, numbers), 1);
		const low = i64x2.extmul_low_i32x4_u(words, counts),
			high = i64x2.extmul_high_i32x4_u(words, counts);
		v128.store(slots, v128.shuffle<i32>(low, high, 1, 3, 5, 7));
		slots += 16;
		numbers = i32x4.add(numbers, i32x4.splat(4));
	}
}

/** A word of the ids of four points. */
@inline
function mixNumbers(word: i32, numbers: v128): v128 {
	return scramble(
		i32x4.add(i32x4.splat(word * <i32>STATE + <i32>START), i32x4.mul(numbers, i32x4.splat(<i32>WORD)))
	);
}

/**
 * Points with their slots, as pairs of words, by the upper bits of the slot. So what is read for one point lies near
 * what was read for the one before it, in tables that are far larger than the near cache. Up to the next multiple of
 * four, points of no use are added.
 * @param starts room for a word for each of the upper bits’ values, all 0.
 */
export function sort(n: i32, pairs: usize, slots: usize, starts: usize, values: i32, shift: i32): void {
	for (let i = 0; i < n; i++) {
		const at = starts + ((<usize>(load<u32>(slots + (<usize>i << 2)) >> shift)) << 2);
		store<u32>(at, load<u32>(at) + 1);
	}
	let sum: u32 = 0;
	for (let i = 0; i < values; i++) {
		const at = starts + (<usize>i << 2);
		const here = load<u32>(at);
		store<u32>(at, sum);
		sum += here;
	}
	for (let i = 0; i < n; i++) {
		const slot = load<u32>(slots + (<usize>i << 2));
		const at = starts + ((<usize>(slot >> shift)) << 2);
		const to = load<u32>(at);
		store<u32>(at, to + 1);
		store<u64>(pairs + ((<usize>to) << 3), ((<u64>slot) << 32) | (<u64>(<u32>i)));
	}
	for (let i = n; (i & 3) != 0; i++) store<u64>(pairs + (<usize>i << 3), <u64>(<u32>i));
}

/**
 * For points in pairs with their slots: the triangle instead of the slot, by one look into slots of equal chance; and
 * the shares of the second and third corner, singles, even over the triangle: half of the square is folded over.
 *
 * A slot is two words: a limit of the chance, in units of 2⁻³², and the triangle beyond it.
 */
export function settle(
	n: i32,
	pairs: usize,
	seconds: usize,
	thirds: usize,
	slots: usize,
	first: i32,
	second: i32,
	from: i32
): void {
	for (let i = 0; i < n; i += 4) {
		const numbers = i32x4.add(
			i32x4.splat(from),
			v128.shuffle<i32>(v128.load(pairs), v128.load(pairs, 16), 0, 2, 4, 6)
		);
		const chances = mixNumbers(second, numbers);
		settleOne(pairs, i32x4.extract_lane(chances, 0), slots);
		settleOne(pairs + 8, i32x4.extract_lane(chances, 1), slots);
		settleOne(pairs + 16, i32x4.extract_lane(chances, 2), slots);
		settleOne(pairs + 24, i32x4.extract_lane(chances, 3), slots);
		const ids = mixNumbers(first, numbers);
		const u = mix(ids, 2),
			v = mix(ids, 3);
		// In units of 2⁻³² the sum is above 1 when it overflows and something is left.
		const sum = i32x4.add(u, v);
		const fold = v128.andnot(i32x4.lt_u(sum, u), i32x4.eq(sum, i32x4.splat(0)));
		const unitSingle = f32x4.splat(<f32>UNIT);
		v128.store(
			seconds,
			f32x4.mul(f32x4.convert_i32x4_u(i32x4.sub(v128.xor(u, fold), fold)), unitSingle)
		);
		v128.store(thirds, f32x4.mul(f32x4.convert_i32x4_u(i32x4.sub(v128.xor(v, fold), fold)), unitSingle));
		pairs += 32;
		seconds += 16;
		thirds += 16;
	}
}

@inline
function settleOne(pair: usize, chance: u32, slots: usize): void {
	const slot = load<u32>(pair, 4);
	const at = slots + ((<usize>slot) << 3);
	store<u32>(pair, select<u32>(slot, load<u32>(at, 4), chance < load<u32>(at)), 4);
}

/** Triangles of points in pairs, each to the place of its point. */
export function tell(n: i32, triangles: usize, pairs: usize): void {
	for (let i = 0; i < n; i++) {
		store<u32>(triangles + ((<usize>load<u32>(pairs)) << 2), load<u32>(pairs, 4));
		pairs += 8;
	}
}

/**
 * Values blended across triangles, each to the place of its point: at the first corner, and the shares of the ways from
 * it to the others. Room for the next multiple of four points is written.
 *
 * Rows are four words for each triangle: its three records, by number, and one that is copied. Records may be read to
 * 12 bytes beyond their end.
 * @param fourths where the last words of the rows go, with values of three numbers; 0 if they are not wanted.
 * @param width numbers of each value, 1 … 4.
 * @param records where the first record’s value begins.
 * @param stride bytes of a record; all records are less than 4 GB.
 */
export function blend(
	n: i32,
	out: usize,
	fourths: usize,
	width: i32,
	pairs: usize,
	seconds: usize,
	thirds: usize,
	rows: usize,
	records: usize,
	stride: usize
): void {
	if (width == 3) {
		if (fourths) blendSome(n, out, fourths, 3, pairs, seconds, thirds, rows, records, stride);
		else blendSome(n, out, 0, 3, pairs, seconds, thirds, rows, records, stride);
	} else if (width == 2) blendSome(n, out, 0, 2, pairs, seconds, thirds, rows, records, stride);
	else if (width == 1) blendSome(n, out, 0, 1, pairs, seconds, thirds, rows, records, stride);
	else blendSome(n, out, 0, 4, pairs, seconds, thirds, rows, records, stride);
}

/** Two points at a time: their third numbers share one register. */
@inline
function blendSome(
	n: i32,
	out: usize,
	fourths: usize,
	width: usize,
	pairs: usize,
	seconds: usize,
	thirds: usize,
	rows: usize,
	records: usize,
	stride: usize
): void {
	for (let i = 0; i < n; i += 2) {
		const row = rows + ((<usize>load<u32>(pairs, 4)) << 4),
			nextRow = rows + ((<usize>load<u32>(pairs, 12)) << 4);
		const a = v128.load(records + <usize>load<u32>(row) * stride),
			nextA = v128.load(records + <usize>load<u32>(nextRow) * stride);
		const b = f32x4.sub(v128.load(records + <usize>load<u32>(row, 4) * stride), a),
			nextB = f32x4.sub(v128.load(records + <usize>load<u32>(nextRow, 4) * stride), nextA);
		const c = f32x4.sub(v128.load(records + <usize>load<u32>(row, 8) * stride), a),
			nextC = f32x4.sub(v128.load(records + <usize>load<u32>(nextRow, 8) * stride), nextA);
		const s = f64x2.promote_low_f32x4(v128.load64_zero(seconds)),
			t = f64x2.promote_low_f32x4(v128.load64_zero(thirds));
		const point = <usize>load<u32>(pairs),
			nextPoint = <usize>load<u32>(pairs, 8);
		if (fourths) {
			store<u32>(fourths + (point << 2), load<u32>(row, 12));
			store<u32>(fourths + (nextPoint << 2), load<u32>(nextRow, 12));
		}
		const to = out + point * (width << 2),
			nextTo = out + nextPoint * (width << 2);
		if (width == 1) {
			const both = blendTwo(besides(a, nextA, 0), besides(b, nextB, 0), besides(c, nextC, 0), s, t);
			v128.store32_lane(to, both, 0);
			v128.store32_lane(nextTo, both, 1);
		} else {
			const s0 = v128.shuffle<i64>(s, s, 0, 0),
				t0 = v128.shuffle<i64>(t, t, 0, 0),
				s1 = v128.shuffle<i64>(s, s, 1, 1),
				t1 = v128.shuffle<i64>(t, t, 1, 1);
			v128.store64_lane(to, blendTwo(a, b, c, s0, t0), 0);
			v128.store64_lane(nextTo, blendTwo(nextA, nextB, nextC, s1, t1), 0);
			if (width == 3) {
				const both = blendTwo(besides(a, nextA, 2), besides(b, nextB, 2), besides(c, nextC, 2), s, t);
				v128.store32_lane(to, both, 0, 8);
				v128.store32_lane(nextTo, both, 1, 8);
			} else if (width == 4) {
				v128.store64_lane(to, blendTwo(upper(a), upper(b), upper(c), s0, t0), 0, 8);
				v128.store64_lane(nextTo, blendTwo(upper(nextA), upper(nextB), upper(nextC), s1, t1), 0, 8);
			}
		}
		pairs += 16;
		seconds += 8;
		thirds += 8;
	}
}

/** Number `lane` of both. */
@inline
function besides(a: v128, b: v128, lane: u8): v128 {
	return lane == 0 ? v128.shuffle<f32>(a, b, 0, 4, 0, 4) : v128.shuffle<f32>(a, b, 2, 6, 2, 6);
}

@inline
function blendTwo(a: v128, b: v128, c: v128, s: v128, t: v128): v128 {
	const way = f64x2.add(f64x2.promote_low_f32x4(a), f64x2.mul(s, f64x2.promote_low_f32x4(b)));
	return f32x4.demote_f64x2_zero(f64x2.add(way, f64x2.mul(t, f64x2.promote_low_f32x4(c))));
}

/** Makes vectors of three singles 1 long, two at a time; one without length stays. Room for an even number is written. */
export function normalize(n: i32, at: usize): void {
	const zero = f64x2.splat(0),
		one = f64x2.splat(1);
	for (let i = 0; i < n; i += 2) {
		const low = v128.load(at),
			high = v128.load64_zero(at, 16);
		const x = f64x2.promote_low_f32x4(v128.shuffle<f32>(low, high, 0, 3, 0, 3)),
			y = f64x2.promote_low_f32x4(v128.shuffle<f32>(low, high, 1, 4, 1, 4)),
			z = f64x2.promote_low_f32x4(v128.shuffle<f32>(low, high, 2, 5, 2, 5));
		const square = f64x2.add(f64x2.add(f64x2.mul(x, x), f64x2.mul(y, y)), f64x2.mul(z, z));
		const size = v128.bitselect(one, f64x2.sqrt(square), f64x2.eq(square, zero));
		const a = f32x4.demote_f64x2_zero(f64x2.div(x, size)),
			b = f32x4.demote_f64x2_zero(f64x2.div(y, size)),
			c = f32x4.demote_f64x2_zero(f64x2.div(z, size));
		const ab = v128.shuffle<f32>(a, b, 0, 4, 1, 5);
		v128.store(at, v128.shuffle<f32>(ab, c, 0, 1, 4, 2));
		v128.store64_lane(at, v128.shuffle<f32>(ab, c, 3, 5, 3, 5), 0, 16);
		at += 24;
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
		half = f64x2.splat(0.5),
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
		const tiltCos = f64x2.sqrt(f64x2.mul(f64x2.add(one, flat), half));
		const tiltSin = f64x2.div(z, f64x2.mul(two, tiltCos));
		const root = f64x2.sqrt(f64x2.mul(f64x2.add(one, f64x2.abs(c)), half));
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
