/** The way that one branch grows: from a start and a direction, bent towards something, wobbling, kept off the ground. */
import { PI, acos, cos, exp, mix, quaternion, sin, toUnit } from '../math/index.ts';
import type { BoxTree } from './box-tree.ts';

export interface Bending {
	/** A direction in which it is drawn, or a place; null where nothing draws. */
	towards: readonly number[] | null;
	isPlace: boolean;
	/** 1 leaves a third of the angle at the end of a branch; negative turns away. */
	strength: number;
	/** How much of that at a share of the way. */
	share: (t: number) => number;
}

export interface Way {
	length: number;
	segments: number;
	bending: Bending;
	/** Radians that it turns to the sides, and over how many metres. */
	wobble: number;
	wave: number;
	/** Two words that make its wobble its own. */
	words: readonly [number, number];
	/** It stays above this height; null where it need not. */
	ground: number | null;
	/** It ends where it would come nearer to this than `distance`. */
	obstacle: { tree: BoxTree; distance: number } | null;
}

/** Where a branch is, and how it is turned: a direction and a vector at right angles to it. */
export interface Front {
	p: Float64Array;
	d: Float64Array;
	n: Float64Array;
}

export const front = (): Front => ({
	p: new Float64Array(3),
	d: new Float64Array(3),
	n: new Float64Array(3)
});

/**
 * Grows a branch from its front, and calls `put` at its start and after every segment.
 * @returns how many segments it has: fewer than wanted where it met something.
 */
export function growWay(at: Front, way: Way, put: (t: number) => void): number {
	const step = way.length / way.segments;
	put(0);
	for (let s = 0; s < way.segments; s++) {
		const middle = (s + 0.5) / way.segments;
		wobbleFront(at, {
			most: way.wobble,
			from: (s * step) / way.wave,
			to: ((s + 1) * step) / way.wave,
			words: way.words
		});
		bendFront(at, way.bending, middle, way.segments);
		if (way.ground !== null) keepAbove(at, way.ground, step);
		if (way.obstacle && meets(at, step, way.obstacle)) return s;
		for (let k = 0; k < 3; k++) at.p[k] += step * at.d[k];
		put((s + 1) / way.segments);
	}
	return way.segments;
}

/** Turns the front by an angle about an axis of length 1. */
function turnFront({ d, n }: Front, axis: ArrayLike<number>, angle: number): void {
	if (!angle) return;
	const q = turnAbout(axis, angle);
	quaternion.rotate(d, 0, q[0], q[1], q[2], q[3], d[0], d[1], d[2]);
	quaternion.rotate(n, 0, q[0], q[1], q[2], q[3], n[0], n[1], n[2]);
}

const Q = [0, 0, 0, 1];
function turnAbout(axis: ArrayLike<number>, angle: number): number[] {
	const sine = sin(angle / 2);
	for (let k = 0; k < 3; k++) Q[k] = axis[k] * sine;
	Q[3] = cos(angle / 2);
	return Q;
}

const AXIS = new Float64Array(3);
const GOAL = new Float64Array(3);

/** Turns a front towards what draws it, by its share of one of so many steps. */
export function bendFront(
	at: Front,
	{ towards, isPlace, strength, share }: Bending,
	t: number,
	segments: number
): void {
	if (!towards || strength === 0) return;
	for (let k = 0; k < 3; k++) GOAL[k] = isPlace ? towards[k] - at.p[k] : towards[k];
	if (!(normalise(GOAL) > 0)) return;
	const pull = (strength * share(t)) / segments;
	const cosine = Math.max(-1, Math.min(1, dot(at.d, GOAL)));
	const angle = acos(cosine);
	cross(at.d, GOAL, AXIS);
	// Straight away from it there is no nearer side: it turns about its own normal.
	if (!(normalise(AXIS) > 1e-9)) {
		if (cosine > 0) return;
		AXIS.set(at.n);
	}
	const turn = pull >= 0 ? angle * (1 - exp(-pull)) : -Math.min(PI - angle, angle * (exp(-pull) - 1));
	turnFront(at, AXIS, turn);
	settle(at);
}

/** A way along which something wobbles: how far at most, in radians, from where to where in wave lengths. */
export interface Wobbling {
	most: number;
	from: number;
	to: number;
	words: readonly [number, number];
	/** The fourth place of the noise: while it changes, what wobbles sways. */
	drift?: NoiseDrift;
}

/** How far a noise on a line has drifted, and after how many whole numbers it is as before; 0: never. */
export interface NoiseDrift {
	w: number;
	period: number;
}

const STILL: NoiseDrift = { w: 0, period: 0 };

/**
 * Turns a front to both sides by what its noise gains on the way. Where it is turned against its beginning is said by where
 * it is on the way alone, in a disc of `most`: so it never turns further, and the same with more steps. To add up small
 * turns to either side, as was tried, went up to 2.8 times as far.
 */
export function wobbleFront(at: Front, { most, from, to, words, drift = STILL }: Wobbling): void {
	if (!(most > 0)) return;
	wobbleAt(from, most, words, drift, BEFORE);
	wobbleAt(to, most, words, drift, AFTER);
	// Back to where it would be without, and to the new place: in the axes of the front, n, d × n and d.
	for (let k = 0; k < 3; k++) BEFORE[k] = -BEFORE[k];
	quaternion.multiply(
		AFTER,
		0,
		BEFORE[0],
		BEFORE[1],
		BEFORE[2],
		BEFORE[3],
		AFTER[0],
		AFTER[1],
		AFTER[2],
		AFTER[3]
	);
	cross(at.d, at.n, AXIS);
	for (let k = 0; k < 3; k++) Q[k] = AFTER[0] * at.n[k] + AFTER[1] * AXIS[k] + AFTER[2] * at.d[k];
	Q[3] = AFTER[3];
	const { d, n } = at;
	quaternion.rotate(d, 0, Q[0], Q[1], Q[2], Q[3], d[0], d[1], d[2]);
	quaternion.rotate(n, 0, Q[0], Q[1], Q[2], Q[3], n[0], n[1], n[2]);
	settle(at);
}
const BEFORE = [0, 0, 0, 1],
	AFTER = [0, 0, 0, 1];

/** The turn at a place on the way, about n and d × n, as a quaternion: of any two noises from −1 to 1 within the disc. */
function wobbleAt(
	x: number,
	most: number,
	words: readonly [number, number],
	drift: NoiseDrift,
	out: number[]
): void {
	const [a, b] = words.map((word) => driftingNoise(word, x, drift));
	// The square of both, drawn into a disc.
	const u = a * Math.sqrt(1 - (b * b) / 2),
		v = b * Math.sqrt(1 - (a * a) / 2);
	const far = Math.sqrt(u * u + v * v);
	const sine = far > 0 ? sin((most * far) / 2) / far : 0;
	out[0] = u * sine;
	out[1] = v * sine;
	out[2] = 0;
	out[3] = cos((most * far) / 2);
}

/** Noise on a line that changes from one line of noise to the next; at 0 it is `smoothNoise` of the seed. */
function driftingNoise(seed: number, x: number, { w, period }: NoiseDrift): number {
	const whole = Math.floor(w);
	const t = w - whole;
	const lineOf = (layer: number) => {
		const k = period >= 1 ? layer - period * Math.floor(layer / period) : layer;
		return k === 0 ? seed : mix(mix(seed, 0x6c61), k | 0);
	};
	const below = smoothNoise(lineOf(whole), x);
	if (t === 0) return below;
	return below + (smoothNoise(lineOf(whole + 1), x) - below) * t * t * (3 - 2 * t);
}

/** Noise on a line, −1 to 1: 0 where it begins, and smooth between random numbers at the whole ones after that. */
function smoothNoise(seed: number, x: number): number {
	const whole = Math.floor(x);
	const t = x - whole;
	const ease = t * t * (3 - 2 * t);
	const at = (place: number): number => (place === 0 ? 0 : 2 * toUnit(mix(seed, place | 0)) - 1);
	const a = at(whole),
		b = at(whole + 1);
	return a + (b - a) * ease;
}

/** Where the next step would go below the ground, it runs along it. */
function keepAbove(at: Front, ground: number, step: number): void {
	const least = (ground - at.p[1]) / step;
	if (at.d[1] >= least) return;
	const rise = Math.max(-1, Math.min(1, least));
	const flat = Math.sqrt(at.d[0] * at.d[0] + at.d[2] * at.d[2]);
	const wide = Math.sqrt(Math.max(0, 1 - rise * rise));
	// Straight down there is no way along the ground but that of its normal.
	const [x, z] = flat > 1e-9 ? [at.d[0] / flat, at.d[2] / flat] : flatOf(at.n);
	at.d[0] = x * wide;
	at.d[1] = rise;
	at.d[2] = z * wide;
	settle(at);
}

function flatOf(n: Float64Array): [number, number] {
	const flat = Math.sqrt(n[0] * n[0] + n[2] * n[2]);
	return flat > 1e-9 ? [n[0] / flat, n[2] / flat] : [1, 0];
}

function meets(at: Front, step: number, { tree, distance }: { tree: BoxTree; distance: number }): boolean {
	// At its start it may stand on what it must not touch.
	for (const share of [0.5, 1]) {
		const s = share * step;
		const found = tree.nearest(at.p[0] + s * at.d[0], at.p[1] + s * at.d[1], at.p[2] + s * at.d[2]);
		if (found.primitive >= 0 && found.distance < distance) return true;
	}
	return false;
}

/** Makes the direction 1 long again, and the normal at right angles to it. */
export function settle({ d, n }: Front): void {
	normalise(d);
	const along = dot(d, n);
	for (let k = 0; k < 3; k++) n[k] -= along * d[k];
	if (normalise(n) > 1e-9) return;
	// Any vector at right angles does.
	const least =
		Math.abs(d[0]) <= Math.abs(d[1]) && Math.abs(d[0]) <= Math.abs(d[2])
			? 0
			: Math.abs(d[1]) <= Math.abs(d[2])
				? 1
				: 2;
	n.fill(0);
	n[least] = 1;
	const off = dot(d, n);
	for (let k = 0; k < 3; k++) n[k] -= off * d[k];
	normalise(n);
}

export const dot = (a: ArrayLike<number>, b: ArrayLike<number>): number =>
	a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
export function cross(a: ArrayLike<number>, b: ArrayLike<number>, out: Float64Array): void {
	const x = a[1] * b[2] - a[2] * b[1],
		y = a[2] * b[0] - a[0] * b[2];
	out[2] = a[0] * b[1] - a[1] * b[0];
	out[0] = x;
	out[1] = y;
}
/** @returns the length that it had. */
export function normalise(v: Float64Array): number {
	const length = Math.sqrt(dot(v, v));
	if (length > 0) for (let k = 0; k < 3; k++) v[k] /= length;
	return length;
}
