/**
 * The loops that call our elementary functions, over registers of doubles. The cheap operations run in WebAssembly (see
 * ../wasm), and the registers lie in its memory. Nothing is generated; every register is a Float64Array, so that no loop
 * ever meets two kinds of array (which would halve its speed).
 */
import { PI, acos, asin, atan, atan2, cos, exp, log, pow, sin, tan } from '../math/index.ts';

type R = Float64Array;
/** Writes the `n` first numbers of `o` from up to two registers. */
export type Loop = (n: number, o: R, a: R, b: R) => void;

const unary =
	(f: (x: number) => number): Loop =>
	(n, o, a) => {
		for (let i = 0; i < n; i++) o[i] = f(a[i]);
	};

/** Loops by name; a vector operation is made of these, one for each part, by the planner. */
export const LOOPS: Readonly<Record<string, Loop>> = Object.assign(
	Object.create(null) as Record<string, Loop>,
	{
		radians: unary((x) => (x * PI) / 180),
		degrees: unary((x) => (x * 180) / PI),
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
		}
	}
);
