/** Bounds are those of every point, wherever copies show it. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import '../testing/index.ts';
import { quaternion } from '../math/index.ts';
import {
	PlacesMade,
	boundsOf,
	column,
	geometryOf,
	makeMesh,
	makePoints,
	makeTable,
	matrix
} from './index.ts';
import type { Affine, Bounds, Geometry } from './index.ts';

/** A source of numbers between −1 and 1 that repeats. */
function numbersFrom(seed: number): () => number {
	let state = seed >>> 0 || 1;
	return () => {
		state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
		return state / 0x80000000 - 1;
	};
}

const SHAPES: Readonly<Record<string, (next: () => number) => number[]>> = {
	cloud: (next) => [next(), next(), next()],
	ball(next) {
		const p = [next(), next(), next()];
		const size = Math.sqrt(p.reduce((sum, x) => sum + x * x, 0)) || 1;
		return p.map((x) => x / size);
	},
	disc: (next) => [next(), 0, next()],
	line(next) {
		const t = next();
		return [t, 2 * t, -t];
	},
	point: () => [0.5, -2, 3],
	reed(next) {
		const t = next();
		return [0.1 * t * t, 4 * t, 0.02 * next()];
	}
};

function source(shape: string, count: number, size: number, next: () => number): Geometry {
	const p = Float32Array.from(
		Array.from({ length: count }, () => SHAPES[shape](next).map((x) => x * size)).flat()
	);
	return count % 2
		? geometryOf({ points: makePoints(p) })
		: geometryOf({ mesh: makeMesh(p, Uint32Array.of(0), new Uint32Array(0)) });
}

/** Copies everywhere, turned, of several sizes, mirrored and sheared; every seventh is hidden. */
function copies(
	sources: readonly Geometry[],
	count: number,
	far: number,
	kind: string,
	next: () => number
): Geometry {
	const made = new PlacesMade(count);
	for (let i = 0; i < count; i++) {
		const q = [next(), next(), next(), next() || 1];
		const size = Math.sqrt(q.reduce((sum, x) => sum + x * x, 0));
		// Upright ones of one size all reach equally high.
		if (kind === 'upright') quaternion.fromAngles(q, 0, 0, 180 * next(), 0);
		const m: Affine = matrix.compose(
			[far * next(), kind === 'upright' ? 0 : far * next(), far * next()],
			kind === 'upright' ? q : q.map((x) => x / size),
			kind === 'upright' ? [1, 1, 1] : [next(), 1 + next(), 1]
		);
		if (kind === 'sheared') m[3] += m[0] * next();
		made.set(i, m);
	}
	const columns = made.columns();
	return geometryOf({
		copies: {
			copies: makeTable(count, {
				...Object.fromEntries(Object.entries(columns).flatMap(([name, c]) => (c ? [[name, c]] : []))),
				source: column(
					'int',
					'id',
					Int32Array.from({ length: count }, (_, i) => i % sources.length)
				),
				shown: column(
					'bool',
					'plain',
					Uint8Array.from({ length: count }, (_, i) => (i % 7 === 6 ? 0 : 1))
				)
			}),
			sources
		}
	});
}

/** Every point of a geometry moved in double precision, one after another. */
function bruteForce(geometry: Geometry, place: Affine, low: number[], high: number[]): void {
	const out = [0, 0, 0];
	for (const part of [geometry.mesh, geometry.curves, geometry.points]) {
		const p = part?.points.columns.get('position')!.data ?? [];
		for (let i = 0; i < p.length; i += 3) {
			matrix.apply(out, 0, place, p[i], p[i + 1], p[i + 2]);
			for (let k = 0; k < 3; k++) {
				low[k] = Math.min(low[k], out[k]);
				high[k] = Math.max(high[k], out[k]);
			}
		}
	}
	if (!geometry.copies) return;
	const { columns, count } = geometry.copies.copies;
	const read = (name: string) => columns.get(name)?.data;
	const [position, orientation, scale] = ['position', 'orientation', 'scale'].map((name) => read(name)!);
	const axes = ['axisX', 'axisY', 'axisZ'].map(read);
	for (let i = 0; i < count; i++) {
		if (!read('shown')![i]) continue;
		const m = matrix.compose(position, orientation, scale, matrix.identity(), 3 * i, 4 * i, 3 * i);
		if (axes[0]) axes.forEach((axis, c) => m.set(axis!.subarray(3 * i, 3 * i + 3), 3 * c));
		bruteForce(geometry.copies.sources[read('source')![i]], matrix.product(place, m), low, high);
	}
}

const shape = fc.constantFrom(...Object.keys(SHAPES));
const size = fc.constantFrom(1e-3, 0.1, 1, 70, 1e4);

test('bounds of copies, sheared, hidden and within one another, are those of every point, from a millimetre to 10 km', () => {
	fc.assert(
		fc.property(
			fc.array(fc.tuple(shape, fc.constantFrom(1, 2, 9, 600, 1500)), { minLength: 1, maxLength: 3 }),
			size,
			fc.constantFrom(0, 0.01, 1, 30),
			fc.constantFrom('turned', 'upright', 'sheared'),
			fc.constantFrom(1, 3, 80, 300),
			fc.constantFrom(0, 1, 4),
			fc.integer(),
			(shapes, metres, spread, kind, count, outer, seed) => {
				const next = numbersFrom(seed);
				const sources = shapes.map(([name, points]) => source(name, points, metres, next));
				let whole = copies(sources, count, metres * spread, kind, next);
				if (outer)
					whole = {
						...copies([whole, sources[0]], outer, metres * spread * 3, kind, next),
						points: sources[0].points
					};
				const low = [Infinity, Infinity, Infinity],
					high = [-Infinity, -Infinity, -Infinity];
				bruteForce(whole, matrix.identity(), low, high);
				const found = boundsOf(whole);
				if (low[0] > high[0]) return assert.equal(found, null);
				const within = 1e-6 * Math.max(...high.map((x, k) => x - low[k]), metres);
				(['low', 'high'] as const).forEach((end) =>
					(found as Bounds)[end].forEach((x, k) =>
						assert.ok(
							Math.abs(x - [low, high][end === 'low' ? 0 : 1][k]) <= within,
							`${end} ${'xyz'[k]} is ${x}, not ${[low, high][end === 'low' ? 0 : 1][k]}`
						)
					)
				);
			}
		),
		{ numRuns: 150 }
	);
});

test('a ball, turned, is as wide as before, and a box on its corner as its diagonals', () => {
	const ball = source('ball', 4000, 1, numbersFrom(7));
	const one = copies([ball], 1, 0, 'turned', () => 0.5);
	one.copies!.copies.columns.get('scale')!.data.set([1, 1, 1]);
	const { low, high } = boundsOf(one)!;
	for (let k = 0; k < 3; k++) assert.ok(high[k] - low[k] > 1.98 && high[k] - low[k] <= 2 + 1e-6);

	const corners = [0, 1, 2, 3, 4, 5, 6, 7].flatMap((c) => [c & 1, (c >> 1) & 1, (c >> 2) & 1]);
	const cube = geometryOf({ points: makePoints(Float32Array.from(corners)) });
	const turned = copies([cube], 1, 0, 'turned', () => 0.5);
	const q = [0, 0, 0, 1];
	quaternion.fromAngles(q, 0, 0, 45, 0);
	turned.copies!.copies.columns.get('orientation')!.data.set(q);
	turned.copies!.copies.columns.get('scale')!.data.set([1, 1, 1]);
	const box = boundsOf(turned)!;
	const widths = box.high.map((x, k) => x - box.low[k]);
	[Math.SQRT2, 1, Math.SQRT2].forEach((width, k) => assert.ok(Math.abs(widths[k] - width) < 1e-6));
});
