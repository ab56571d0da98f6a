/**
 * One loop for each operation, over registers of doubles. A fixed table: nothing is generated. Every register is a
 * Float64Array, so that no loop ever meets two kinds of array (which would halve its speed). The cheap ones are unrolled
 * by four; `n` is the count of elements in the block, and registers are long enough to be written to the next multiple
 * of four.
 */
import { PI, acos, asin, atan, atan2, cos, exp, log, pow, sin, tan } from '../math/index.ts';

type R = Float64Array;
/** Writes `o` from up to three registers. */
export type Loop = (n: number, o: R, a: R, b: R, c: R) => void;

const unary =
	(f: (x: number) => number): Loop =>
	(n, o, a) => {
		for (let i = 0; i < n; i++) o[i] = f(a[i]);
	};

const remainder = (x: number, y: number): number => x - y * Math.floor(x / y);

/** Loops by name; a vector operation is made of these, one for each part, by the planner. */
export const LOOPS: Readonly<Record<string, Loop>> = Object.assign(
	Object.create(null) as Record<string, Loop>,
	{
		add(n: number, o: R, a: R, b: R) {
			for (let i = 0; i < n; i += 4) {
				o[i] = a[i] + b[i];
				o[i + 1] = a[i + 1] + b[i + 1];
				o[i + 2] = a[i + 2] + b[i + 2];
				o[i + 3] = a[i + 3] + b[i + 3];
			}
		},
		subtract(n: number, o: R, a: R, b: R) {
			for (let i = 0; i < n; i += 4) {
				o[i] = a[i] - b[i];
				o[i + 1] = a[i + 1] - b[i + 1];
				o[i + 2] = a[i + 2] - b[i + 2];
				o[i + 3] = a[i + 3] - b[i + 3];
			}
		},
		multiply(n: number, o: R, a: R, b: R) {
			for (let i = 0; i < n; i += 4) {
				o[i] = a[i] * b[i];
				o[i + 1] = a[i + 1] * b[i + 1];
				o[i + 2] = a[i + 2] * b[i + 2];
				o[i + 3] = a[i + 3] * b[i + 3];
			}
		},
		/** a·b + c in two roundings, as the two steps would be. */
		multiplyAdd(n: number, o: R, a: R, b: R, c: R) {
			for (let i = 0; i < n; i += 4) {
				o[i] = a[i] * b[i] + c[i];
				o[i + 1] = a[i + 1] * b[i + 1] + c[i + 1];
				o[i + 2] = a[i + 2] * b[i + 2] + c[i + 2];
				o[i + 3] = a[i + 3] * b[i + 3] + c[i + 3];
			}
		},
		divide(n: number, o: R, a: R, b: R) {
			for (let i = 0; i < n; i += 4) {
				o[i] = a[i] / b[i];
				o[i + 1] = a[i + 1] / b[i + 1];
				o[i + 2] = a[i + 2] / b[i + 2];
				o[i + 3] = a[i + 3] / b[i + 3];
			}
		},
		negate(n: number, o: R, a: R) {
			for (let i = 0; i < n; i += 4) {
				o[i] = -a[i];
				o[i + 1] = -a[i + 1];
				o[i + 2] = -a[i + 2];
				o[i + 3] = -a[i + 3];
			}
		},
		sqrt(n: number, o: R, a: R) {
			for (let i = 0; i < n; i++) o[i] = Math.sqrt(a[i]);
		},
		abs(n: number, o: R, a: R) {
			for (let i = 0; i < n; i++) o[i] = Math.abs(a[i]);
		},
		floor(n: number, o: R, a: R) {
			for (let i = 0; i < n; i++) o[i] = Math.floor(a[i]);
		},
		ceil(n: number, o: R, a: R) {
			for (let i = 0; i < n; i++) o[i] = Math.ceil(a[i]);
		},
		/** Halves go up. */
		round(n: number, o: R, a: R) {
			for (let i = 0; i < n; i++) o[i] = Math.floor(a[i] + 0.5);
		},
		fract(n: number, o: R, a: R) {
			for (let i = 0; i < n; i++) o[i] = a[i] - Math.floor(a[i]);
		},
		sign(n: number, o: R, a: R) {
			for (let i = 0; i < n; i++) o[i] = a[i] > 0 ? 1 : a[i] < 0 ? -1 : 0;
		},
		radians(n: number, o: R, a: R) {
			for (let i = 0; i < n; i++) o[i] = (a[i] * PI) / 180;
		},
		degrees(n: number, o: R, a: R) {
			for (let i = 0; i < n; i++) o[i] = (a[i] * 180) / PI;
		},
		cos(n: number, o: R, a: R) {
			for (let i = 0; i < n; i++) o[i] = cos(a[i]);
		},
		sin(n: number, o: R, a: R) {
			for (let i = 0; i < n; i++) o[i] = sin(a[i]);
		},
		tan: unary(tan),
		asin: unary(asin),
		acos: unary(acos),
		exp: unary(exp),
		log: unary(log),
		atan: unary(atan),
		atan2(n: number, o: R, a: R, b: R) {
			for (let i = 0; i < n; i++) o[i] = atan2(a[i], b[i]);
		},
		pow(n: number, o: R, a: R, b: R) {
			for (let i = 0; i < n; i++) o[i] = pow(a[i], b[i]);
		},
		/** The floored remainder: it has the sign of the divisor. */
		mod(n: number, o: R, a: R, b: R) {
			for (let i = 0; i < n; i++) o[i] = remainder(a[i], b[i]);
		},
		min(n: number, o: R, a: R, b: R) {
			for (let i = 0; i < n; i++) o[i] = b[i] < a[i] ? b[i] : a[i];
		},
		max(n: number, o: R, a: R, b: R) {
			for (let i = 0; i < n; i++) o[i] = b[i] > a[i] ? b[i] : a[i];
		},
		clamp(n: number, o: R, a: R, b: R, c: R) {
			for (let i = 0; i < n; i++) o[i] = a[i] < b[i] ? b[i] : a[i] > c[i] ? c[i] : a[i];
		},
		mix(n: number, o: R, a: R, b: R, c: R) {
			for (let i = 0; i < n; i++) o[i] = a[i] + (b[i] - a[i]) * c[i];
		},
		step(n: number, o: R, a: R, b: R) {
			for (let i = 0; i < n; i++) o[i] = b[i] < a[i] ? 0 : 1;
		},
		smoothstep(n: number, o: R, a: R, b: R, c: R) {
			for (let i = 0; i < n; i++) {
				const width = b[i] - a[i];
				let t = width === 0 ? (c[i] < a[i] ? 0 : 1) : (c[i] - a[i]) / width;
				t = t < 0 ? 0 : t > 1 ? 1 : t;
				o[i] = t * t * (3 - 2 * t);
			}
		},
		less(n: number, o: R, a: R, b: R) {
			for (let i = 0; i < n; i++) o[i] = a[i] < b[i] ? 1 : 0;
		},
		atMost(n: number, o: R, a: R, b: R) {
			for (let i = 0; i < n; i++) o[i] = a[i] <= b[i] ? 1 : 0;
		},
		equal(n: number, o: R, a: R, b: R) {
			for (let i = 0; i < n; i++) o[i] = a[i] === b[i] ? 1 : 0;
		},
		and(n: number, o: R, a: R, b: R) {
			for (let i = 0; i < n; i++) o[i] = a[i] !== 0 && b[i] !== 0 ? 1 : 0;
		},
		or(n: number, o: R, a: R, b: R) {
			for (let i = 0; i < n; i++) o[i] = a[i] !== 0 || b[i] !== 0 ? 1 : 0;
		},
		not(n: number, o: R, a: R) {
			for (let i = 0; i < n; i++) o[i] = a[i] === 0 ? 1 : 0;
		},
		choose(n: number, o: R, a: R, b: R, c: R) {
			for (let i = 0; i < n; i++) o[i] = a[i] !== 0 ? b[i] : c[i];
		},
		/** √(a² + b² + c²). */
		length3(n: number, o: R, a: R, b: R, c: R) {
			for (let i = 0; i < n; i++) o[i] = Math.sqrt(a[i] * a[i] + b[i] * b[i] + c[i] * c[i]);
		}
	}
);

/** Vectors of length 1; one without length stays without. In one loop, because it has three results. */
export function normalize(n: number, ox: R, oy: R, oz: R, x: R, y: R, z: R): void {
	for (let i = 0; i < n; i++) {
		const square = x[i] * x[i] + y[i] * y[i] + z[i] * z[i];
		const size = square === 0 ? 1 : Math.sqrt(square);
		ox[i] = x[i] / size;
		oy[i] = y[i] / size;
		oz[i] = z[i] / size;
	}
}
