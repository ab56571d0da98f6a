/** Transforms of SVG, as attribute and as CSS, and how a window fits its contents. */
import { PI, cos, sin, tan } from '../math/index.ts';
import type { Window } from './svg-lengths.ts';
import { readAngle, readFactor, readLength } from './svg-lengths.ts';

/** A plane map: a c e / b d f, as SVG's matrix(a b c d e f). */
export type Map6 = readonly [number, number, number, number, number, number];
export const IDENTITY: Map6 = [1, 0, 0, 1, 0, 0];
const moving = (x: number, y: number): Map6 => [1, 0, 0, 1, x, y];

/** First `n`, then `m`. */
export const product = (m: Map6, n: Map6): Map6 => [
	m[0] * n[0] + m[2] * n[1],
	m[1] * n[0] + m[3] * n[1],
	m[0] * n[2] + m[2] * n[3],
	m[1] * n[2] + m[3] * n[3],
	m[0] * n[4] + m[2] * n[5] + m[4],
	m[1] * n[4] + m[3] * n[5] + m[5]
];

const ONE = /([a-z0-9]+)\s*\(([^()]*)\)/iy;

/** A list of transforms as one map; null where any of them is not known, or takes other numbers. */
export function readTransform(text: string, window: Window): Map6 | null {
	let map = IDENTITY;
	let at = 0;
	for (;;) {
		while (at < text.length && /[\s,]/.test(text[at])) at++;
		if (at === text.length) return map;
		ONE.lastIndex = at;
		const found = ONE.exec(text);
		const one = found && mapOf(found[1], found[2].split(/[\s,]+/).filter(Boolean), window);
		if (!one) return null;
		map = product(map, one);
		at = ONE.lastIndex;
	}
}

function mapOf(name: string, words: readonly string[], window: Window): Map6 | null {
	if (words.length < 1 || words.length > 6) return null;
	const x = (i: number) => readLength(words[i] ?? '0', 'x', window);
	const y = (i: number) => readLength(words[i] ?? '0', 'y', window);
	const angle = (i: number) => {
		const degrees = readAngle(words[i] ?? '0');
		return degrees === null ? null : (degrees * PI) / 180;
	};
	const factor = (i: number) => readFactor(words[i]);
	const made = (numbers: readonly (number | null)[], most: number, make: (n: number[]) => Map6) =>
		words.length > most || numbers.includes(null) ? null : make(numbers as number[]);
	switch (name) {
		case 'matrix':
			return words.length < 6
				? null
				: made(
						words.map((word) => readLength(word, 'x', { width: null, height: null })),
						6,
						(n) => n as unknown as Map6
					);
		case 'translate':
			return made([x(0), y(1)], 2, ([a, b]) => moving(a, b));
		case 'translateX':
			return made([x(0)], 1, ([a]) => moving(a, 0));
		case 'translateY':
			return made([y(0)], 1, ([b]) => moving(0, b));
		case 'scale':
			return made([factor(0), words.length > 1 ? factor(1) : factor(0)], 2, ([a, b]) => [a, 0, 0, b, 0, 0]);
		case 'scaleX':
			return made([factor(0)], 1, ([a]) => [a, 0, 0, 1, 0, 0]);
		case 'scaleY':
			return made([factor(0)], 1, ([b]) => [1, 0, 0, b, 0, 0]);
		case 'rotate':
			if (words.length === 2) return null;
			return made([angle(0), x(1), y(2)], 3, ([turn, cx, cy]) =>
				product(
					product(moving(cx, cy), [cos(turn), sin(turn), -sin(turn), cos(turn), 0, 0]),
					moving(-cx, -cy)
				)
			);
		case 'skew':
			return made([angle(0), angle(1)], 2, ([a, b]) => [1, tan(b), tan(a), 1, 0, 0]);
		case 'skewX':
			return made([angle(0)], 1, ([a]) => [1, 0, tan(a), 1, 0, 0]);
		case 'skewY':
			return made([angle(0)], 1, ([b]) => [1, tan(b), 0, 1, 0, 0]);
		default:
			return null;
	}
}

const NAMED: Readonly<Record<string, string>> = {
	left: '0%',
	top: '0%',
	center: '50%',
	right: '100%',
	bottom: '100%'
};

/** A map about another place than the origin, as `transform-origin` says; null where that cannot be read. */
export function about(
	map: Map6,
	origin: string,
	[left, top]: readonly number[],
	window: Window
): Map6 | null {
	let [first, second = 'center'] = origin.trim().toLowerCase().split(/\s+/);
	if (first === 'top' || first === 'bottom' || second === 'left' || second === 'right')
		[first, second] = [second, first];
	const place = (word: string, along: 'x' | 'y', start: number) => {
		const text = Object.hasOwn(NAMED, word) ? NAMED[word] : word;
		const length = readLength(text, along, window);
		// Shares are counted from the window's edge, lengths from the origin.
		return length === null ? null : text.endsWith('%') ? start + length : length;
	};
	const x = place(first, 'x', left),
		y = place(second, 'y', top);
	if (x === null || y === null) return null;
	return product(product(moving(x, y), map), moving(-x, -y));
}

/** Takes a `viewBox` into a window at the origin, as `preserveAspectRatio` says: fitted into its middle where nothing is said. */
export function fitted(
	[left, top, wide, high]: readonly number[],
	width: number,
	height: number,
	preserve: string
): Map6 {
	const words = preserve.trim().split(/\s+/);
	const sx = width / wide,
		sy = height / high;
	if (words[0] === 'none') return [sx, 0, 0, sy, -left * sx, -top * sy];
	const scale = words[1] === 'slice' ? Math.max(sx, sy) : Math.min(sx, sy);
	const found = /^x(Min|Mid|Max)Y(Min|Mid|Max)$/.exec(words[0]);
	const share = { Min: 0, Mid: 0.5, Max: 1 };
	const [ax, ay] = found ? [found[1], found[2]].map((word) => share[word as keyof typeof share]) : [0.5, 0.5];
	return [
		scale,
		0,
		0,
		scale,
		ax * (width - wide * scale) - left * scale,
		ay * (height - high * scale) - top * scale
	];
}
