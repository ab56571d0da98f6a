/**
 * Elementary functions that give the same bits in every JavaScript engine.
 *
 * `Math.sin` and its kin may differ in the last bit from engine to engine. These use only `+ - * /`, `Math.sqrt`,
 * `Math.floor`, `Math.abs`, `%` and bit patterns, all of which the language defines exactly. Polynomials and argument
 * reduction follow Sun Microsystems' freely distributable library of 1993 (error below 1 ulp for moderate arguments).
 */

const scratch = new Float64Array(1);
const words = new Uint32Array(scratch.buffer);
scratch[0] = 1;
/** Index of the word that holds sign and exponent. */
const HIGH = words[1] === 0x3ff00000 ? 1 : 0;

export const PI = 3.141592653589793;
export const TAU = 6.283185307179586;
export const GOLDEN = 1.618033988749895;
/** The golden angle in radians, TAU / GOLDEN². */
export const GOLDEN_ANGLE = 2.399963229728653;
const HALF_PI = 1.5707963267948966;
const HALF_PI_LOW = 6.123233995736766e-17;
const TWO_OVER_PI = 0.6366197723675814;
// π/2 in three parts of 33 bits, so that k·part is exact for |k| < 2^20.
const HALF_PI_1 = 1.57079632673412561417;
const HALF_PI_2 = 6.0771005063039659766e-11;
const HALF_PI_3 = 2.02226624879595063154e-21;
const LN2_HIGH = 6.9314718036912381649e-1;
const LN2_LOW = 1.90821492927058770002e-10;
const INVERSE_LN2 = 1.442695040888963387;

/** Above this the plain reduction loses bits; the argument is first brought near by the exact remainder `%`. */
const LARGE_ANGLE = 1e6;

function sinKernel(x: number): number {
	const z = x * x;
	const r =
		8.33333333332248946124e-3 +
		z *
			(-1.98412698298579493134e-4 +
				z * (2.75573137070700676789e-6 + z * (-2.50507602534068634195e-8 + z * 1.58969099521155010221e-10)));
	return x + z * x * (-1.66666666666666324348e-1 + z * r);
}

function cosKernel(x: number): number {
	const z = x * x;
	const r =
		z *
		(4.16666666666666019037e-2 +
			z *
				(-1.38888888888741095749e-3 +
					z *
						(2.48015872894767294178e-5 +
							z *
								(-2.75573143513906633035e-7 +
									z * (2.0875723212981748279e-9 + z * -1.13596475577881948265e-11)))));
	return 1 - (0.5 * z - z * r);
}

/** Sine of `x` in radians. NaN for infinities. */
export function sin(x: number): number {
	if (x > LARGE_ANGLE || x < -LARGE_ANGLE) x = x % TAU;
	const k = Math.floor(x * TWO_OVER_PI + 0.5);
	const r = x - k * HALF_PI_1 - k * HALF_PI_2 - k * HALF_PI_3;
	switch (k & 3) {
		case 0:
			return sinKernel(r);
		case 1:
			return cosKernel(r);
		case 2:
			return -sinKernel(r);
		default:
			return x - x !== 0 ? NaN : -cosKernel(r);
	}
}

/** Cosine of `x` in radians. NaN for infinities. */
export function cos(x: number): number {
	if (x > LARGE_ANGLE || x < -LARGE_ANGLE) x = x % TAU;
	const k = Math.floor(x * TWO_OVER_PI + 0.5);
	const r = x - k * HALF_PI_1 - k * HALF_PI_2 - k * HALF_PI_3;
	switch (k & 3) {
		case 0:
			return cosKernel(r);
		case 1:
			return -sinKernel(r);
		case 2:
			return -cosKernel(r);
		default:
			return sinKernel(r);
	}
}

/** Tangent of `x` in radians. */
export const tan = (x: number): number => sin(x) / cos(x);

const ATAN_HIGH = [4.63647609000806093515e-1, 7.85398163397448278999e-1, 9.82793723247329054082e-1, HALF_PI];
const ATAN_LOW = [
	2.26987774529616870924e-17,
	3.06161699786838301793e-17,
	1.39033110312309984516e-17,
	HALF_PI_LOW
];

/** Arc tangent of `x`, in radians from -π/2 to π/2. */
export function atan(x: number): number {
	if (x !== x) return NaN;
	let t = Math.abs(x);
	const negative = x < 0 || (x === 0 && 1 / x < 0);
	if (t > 1e17) return negative ? -HALF_PI : HALF_PI;
	let part = -1;
	if (t >= 0.4375) {
		if (t < 0.6875) {
			part = 0;
			t = (2 * t - 1) / (2 + t);
		} else if (t < 1.1875) {
			part = 1;
			t = (t - 1) / (t + 1);
		} else if (t < 2.4375) {
			part = 2;
			t = (t - 1.5) / (1 + 1.5 * t);
		} else {
			part = 3;
			t = -1 / t;
		}
	}
	const z = t * t;
	const w = z * z;
	const odd =
		z *
		(3.33333333333329318027e-1 +
			w *
				(1.42857142725034663711e-1 +
					w *
						(9.09088713343650656196e-2 +
							w *
								(6.66107313738753120669e-2 +
									w * (4.97687799461593236017e-2 + w * 1.62858201153657823623e-2)))));
	const even =
		w *
		(-1.99999999998764832476e-1 +
			w *
				(-1.1111110405462355788e-1 +
					w *
						(-7.69187620504482999495e-2 + w * (-5.83357013379057348645e-2 + w * -3.6531572744216915527e-2))));
	const result = part < 0 ? t - t * (odd + even) : ATAN_HIGH[part] - (t * (odd + even) - ATAN_LOW[part] - t);
	return negative ? -result : result;
}

/** Angle of the point (x, y) in radians, from -π to π. 0 at the origin. */
export function atan2(y: number, x: number): number {
	if (x !== x || y !== y) return NaN;
	if (y === 0) return x < 0 || (x === 0 && 1 / x < 0) ? (1 / y < 0 ? -PI : PI) : y;
	if (x === 0) return y > 0 ? HALF_PI : -HALF_PI;
	const infinite = Math.abs(x) === Infinity && Math.abs(y) === Infinity;
	const a = infinite ? PI / 4 : atan(Math.abs(y / x));
	const b = x < 0 ? PI - (a - 1.2246467991473532e-16) : a;
	return y < 0 ? -b : b;
}

/** Arc sine in radians. NaN outside -1 to 1. */
export const asin = (x: number): number => (x > 1 || x < -1 ? NaN : atan2(x, Math.sqrt((1 - x) * (1 + x))));

/** Arc cosine in radians. NaN outside -1 to 1. */
export const acos = (x: number): number => (x > 1 || x < -1 ? NaN : atan2(Math.sqrt((1 - x) * (1 + x)), x));

/** 2 to the whole power `k`, from its bit pattern; `k` from -1022 to 1023. */
function powerOfTwo(k: number): number {
	words[1 - HIGH] = 0;
	words[HIGH] = (k + 1023) << 20;
	return scratch[0];
}

/** e to the power `x`. */
export function exp(x: number): number {
	if (x !== x) return NaN;
	if (x > 709.782712893384) return Infinity;
	if (x < -745.1332191019411) return 0;
	const k = Math.floor(x * INVERSE_LN2 + 0.5);
	const high = x - k * LN2_HIGH;
	const low = k * LN2_LOW;
	const r = high - low;
	const t = r * r;
	const c =
		r -
		t *
			(1.66666666666666019037e-1 +
				t *
					(-2.77777777770155933842e-3 +
						t *
							(6.61375632143793436117e-5 + t * (-1.6533902205465251539e-6 + t * 4.13813679705723846039e-8))));
	const y = 1 - (low - (r * c) / (2 - c) - high);
	if (k >= -1021 && k <= 1023) return y * powerOfTwo(k);
	return k > 0 ? y * 2 * powerOfTwo(k - 1) : y * powerOfTwo(k + 1000) * powerOfTwo(-1000);
}

/** Natural logarithm. -Infinity at 0, NaN below. */
export function log(x: number): number {
	if (!(x > 0)) return x === 0 ? -Infinity : NaN;
	if (x === Infinity) return x;
	let k = 0;
	if (x < 2.2250738585072014e-308) {
		k = -54;
		x *= 18014398509481984;
	}
	scratch[0] = x;
	let high = words[HIGH];
	k += (high >> 20) - 1023;
	high &= 0x000fffff;
	const i = (high + 0x95f64) & 0x100000;
	words[HIGH] = high | (i ^ 0x3ff00000);
	k += i >> 20;
	const f = scratch[0] - 1;
	const s = f / (2 + f);
	const z = s * s;
	const w = z * z;
	const even = w * (3.999999999940941908e-1 + w * (2.222219843214978396e-1 + w * 1.531383769920937332e-1));
	const odd =
		z *
		(6.66666666666673513e-1 +
			w * (2.857142874366239149e-1 + w * (1.818357216161805012e-1 + w * 1.479819860511658591e-1)));
	const half = 0.5 * f * f;
	return k * LN2_HIGH - (half - (s * (half + even + odd) + k * LN2_LOW) - f);
}

/** `x` to the power `y`. Whole powers are exact products; NaN for a negative `x` with a broken `y`. */
export function pow(x: number, y: number): number {
	if (y === 0) return 1;
	if (y === 0.5 && x >= 0) return Math.sqrt(x);
	if (y === Math.floor(y) && y <= 64 && y >= -64) {
		let n = Math.abs(y);
		let base = x;
		let result = 1;
		while (n > 0) {
			if (n & 1) result *= base;
			base *= base;
			n >>= 1;
		}
		return y < 0 ? 1 / result : result;
	}
	if (x > 0) return exp(y * log(x));
	if (x === 0) return y > 0 ? 0 : Infinity;
	if (y !== Math.floor(y)) return NaN;
	const size = exp(y * log(-x));
	return y % 2 === 0 ? size : -size;
}
