/** Fields and maps of space: zones, pictures, lattices, orientations. Each against what geometry says it must be. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { quaternion } from '../math/index.ts';
import type { Field } from '../varying/index.ts';
import { readerOf } from '../varying/index.ts';
import { dice } from '../testing/index.ts';
import { latticeMap } from './lattice.ts';
import type { Lattice } from './lattice.ts';
import { pictureField } from './picture-field.ts';
import { standOff } from './stand-off.ts';
import { zoneField } from './zone.ts';
import type { Zone } from './zone.ts';

type Place = readonly number[];
const read = (field: Field, places: readonly Place[]): number[] => {
	const [x, y, z] = [0, 1, 2].map((k) => Float64Array.from(places, (place) => place[k]));
	const out = new Float64Array(places.length);
	readerOf(field)(places.length, out, x, y, z);
	return [...out];
};
const near = (a: number, b: number, within: number, what = '') =>
	assert.ok(Math.abs(a - b) <= within, `${what}: ${a} against ${b}`);

const zone = (more: Partial<Zone> = {}): Zone => ({
	shape: 'sphere',
	centre: [0, 0, 0],
	rotate: [0, 0, 0],
	size: [2, 2, 2],
	inner: 0,
	outer: 1,
	power: 1,
	...more
});
const SHAPES = ['sphere', 'box', 'cylinder', 'half-space'] as const;
const coordinate = fc.integer({ min: -40, max: 40 }).map((n) => n / 8);
const place = fc.tuple(coordinate, coordinate, coordinate);
const angle = fc.integer({ min: -180, max: 180 });

test('a sphere’s weight is 1 up to its radius, 0 from the outer bound, and falls evenly between', () => {
	const [within, edge, half, beyond] = read(
		zoneField(zone()),
		[0.5, 1, 1.5, 2.5].map((r) => [0, r, 0])
	);
	assert.deepEqual([within, edge, half, beyond], [1, 1, 0.5, 0]);
	const [steep] = read(zoneField(zone({ power: 2 })), [[1.5, 0, 0]]);
	near(steep, 0.25, 1e-12, 'a power of 2 squares it');
	const [hard, outside] = read(zoneField(zone({ outer: 0 })), [
		[0.99, 0, 0],
		[1.01, 0, 0]
	]);
	assert.deepEqual([hard, outside], [1, 0], 'without a way between the bounds it is a step');
});

test('a box, a cylinder and a half-space are measured from their surfaces', () => {
	const at = (shape: Zone['shape'], places: Place[]) =>
		read(zoneField(zone({ shape, size: [4, 2, 6], outer: 2 })), places);
	// Metres outside: 1 along x, 1 along y, the corner by Pythagoras, and inside.
	const box = at('box', [
		[3, 0, 0],
		[0, 2, 0],
		[2 + 0.6, 1 + 0.8, 0],
		[1.9, 0.9, 2.9]
	]);
	for (const [i, wanted] of [0.5, 0.5, 0.5, 1].entries()) near(box[i], wanted, 1e-12, `box ${i}`);
	const cylinder = read(zoneField(zone({ shape: 'cylinder', size: [2, 4, 2], outer: 2 })), [
		[2, 0, 0],
		[0, 3, 0],
		[0, 2.8, 1.6],
		[0, 0, 0]
	]);
	for (const [i, wanted] of [0.5, 0.5, 0.5, 1].entries()) near(cylinder[i], wanted, 1e-12, `cylinder ${i}`);
	const half = at('half-space', [
		[70, 1, -9],
		[0, -5, 0],
		[0, 2, 0]
	]);
	assert.deepEqual(half, [0.5, 1, 0]);
});

test('a zone that is moved and turned weighs a place as one at home weighs the place brought home', () => {
	fc.assert(
		fc.property(
			fc.constantFrom(...SHAPES),
			place,
			fc.tuple(angle, angle, angle),
			place,
			(shape, centre, rotate, point) => {
				const q = [0, 0, 0, 1];
				quaternion.fromAngles(q, 0, ...rotate);
				const moved = [0, 0, 0];
				quaternion.rotate(moved, 0, q[0], q[1], q[2], q[3], ...point);
				const size = [3, 2, 5] as const;
				const [home] = read(zoneField(zone({ shape, size, outer: 3 })), [point]);
				const [away] = read(zoneField(zone({ shape, size, outer: 3, centre, rotate })), [
					moved.map((x, k) => x + centre[k])
				]);
				near(away, home, 1e-9, `${shape} at ${point}`);
			}
		)
	);
});

test('farther out from the middle a weight never grows; it stays between 0 and 1', () => {
	fc.assert(
		fc.property(fc.constantFrom(...SHAPES), place, (shape, direction) => {
			const field = zoneField(zone({ shape, size: [1, 2, 3], inner: -0.2, outer: 1.5 }));
			const ray = Array.from({ length: 40 }, (_, i) => direction.map((x) => (x * i) / 20));
			// A half-space ends at its plane only: below it everything is inside.
			const up = shape === 'half-space' && direction[1] < 0 ? ray.toReversed() : ray;
			const weights = read(field, up);
			for (const [i, w] of weights.entries()) {
				assert.ok(w >= 0 && w <= 1);
				assert.ok(i === 0 || w <= weights[i - 1] + 1e-9, `${shape} along ${direction}`);
			}
		})
	);
});

test('a picture is read between its pixels, from the bottom up, and once or again and again', () => {
	// Two wide and two high: the upper row is 0 and 1, the lower 0.5 and 0.25.
	const picture = { width: 2, height: 2, data: Float32Array.of(0, 1, 0.5, 0.25) };
	const once = pictureField(picture, false, 'tide');
	const middles = read(once, [
		[0.25, 0.75, 0],
		[0.75, 0.75, 0],
		[0.25, 0.25, 0],
		[0.75, 0.25, 0],
		[0.5, 0.5, 9],
		[-0.01, 0.5, 0],
		[0.5, 1.01, 0],
		[NaN, 0.5, 0]
	]);
	assert.deepEqual(middles, [0, 1, 0.5, 0.25, 0.4375, 0, 0, 0]);
	assert.deepEqual(
		read(once, [
			[0, 1, 0],
			[1, 1, 0],
			[0, 0, 0]
		]),
		[0, 1, 0.5],
		'its edges are its outer pixels'
	);
	const again = pictureField(picture, true, 'tide');
	const roll = dice(4);
	const places = Array.from({ length: 200 }, () => [roll(), roll(), 0]);
	const inside = read(again, places);
	for (const [dx, dy] of [
		[1, 0],
		[-3, 2],
		[7, -5]
	]) {
		const shifted = read(
			again,
			places.map(([x, y]) => [x + dx, y + dy, 0])
		);
		for (const [i, value] of shifted.entries()) near(value, inside[i], 1e-9, `${places[i]}`);
	}
	near(read(again, [[0, 0.75, 0]])[0], 0.5, 1e-12, 'across the seam the two outer pixels meet');
	assert.notEqual(once.key, again.key);
});

const lattice = (counts: [number, number, number], smooth: boolean, move: (p: Place) => Place): Lattice => {
	const box = { low: [0, 0, 0], high: [2, 3, 4] } as never;
	const size = [2, 3, 4];
	const moves: number[] = [];
	for (let y = 0; y < counts[1]; y++)
		for (let z = 0; z < counts[2]; z++)
			for (let x = 0; x < counts[0]; x++)
				moves.push(...move([x, y, z].map((i, k) => (size[k] * i) / (counts[k] - 1))));
	return { counts, box, moves: Float32Array.from(moves), smooth };
};
const bent = (form: Lattice, places: readonly Place[], strength = 1): Float64Array => {
	const out = new Float64Array(3 * places.length);
	latticeMap(form)(Float64Array.from(places.flat()), new Float32Array(places.length).fill(strength), out);
	return out;
};
const roll = dice(21);
const inBox = Array.from({ length: 100 }, () => [2 * roll(), 3 * roll(), 4 * roll()]);

for (const smooth of [true, false])
	test(`a lattice whose points are moved evenly moves all that is in it so (${smooth ? 'smooth' : 'straight'})`, () => {
		// Any sum of straight parts: such a map is kept by both ways of blending.
		const even = ([x, y, z]: Place) => [0.5 * x - y + 1, 0.25 * z, 0.1 * x + 0.2 * y - 0.3 * z];
		const out = bent(lattice([3, 4, 5], smooth, even), inBox);
		for (const [i, p] of inBox.entries())
			for (const [k, move] of even(p).entries()) near(out[3 * i + k], p[k] + move, 2e-6, `${p}`);
		const still = bent(
			lattice([2, 2, 2], smooth, () => [0, 0, 0]),
			inBox
		);
		assert.deepEqual(still, Float64Array.from(inBox.flat()));
		const halved = bent(lattice([3, 4, 5], smooth, even), inBox, 0.5);
		for (const [i, p] of inBox.entries()) near(halved[3 * i] - p[0], (out[3 * i] - p[0]) / 2, 2e-6);
	});

test('beyond the box a lattice moves as its side does, and its corners go where their points go', () => {
	const random = dice(5);
	const own = new Map<string, Place>();
	const move = (p: Place): Place => {
		const known = own.get(`${p}`);
		if (known) return known;
		const made = [random() - 0.5, random() - 0.5, random() - 0.5];
		own.set(`${p}`, made);
		return made;
	};
	for (const smooth of [true, false]) {
		const form = lattice([3, 3, 3], smooth, move);
		const corners = [0, 2].flatMap((x) => [0, 3].flatMap((y) => [0, 4].map((z) => [x, y, z])));
		const out = bent(form, corners);
		for (const [i, p] of corners.entries())
			for (const [k, d] of move(p).entries()) near(out[3 * i + k], p[k] + d, 1e-6);
		const [side, far] = [bent(form, [[2, 1, 1]]), bent(form, [[9, 1, 1]])];
		for (const k of [0, 1, 2]) near(far[k] - [9, 1, 1][k], side[k] - [2, 1, 1][k], 1e-6);
	}
});

test('orientations of whole columns are those made one by one: y on the normal, z as near the world’s as may be', () => {
	const random = dice(12);
	const normals: number[] = [0, 1, 0, 0, -1, 0, 0, 0, 1, 0, 0, -1, 1, 0, 0, -1, 0, 0];
	for (let i = 0; i < 3000; i++) {
		// Some of them lie nearly along an axis, where digits are lost first.
		const tiny = i % 3 === 0 ? 1e-4 : 1;
		const v = [random() - 0.5, (random() - 0.5) * tiny, (random() - 0.5) * (i % 2 ? tiny : 1)];
		const size = Math.sqrt(v[0] * v[0] + v[1] * v[1] + v[2] * v[2]);
		normals.push(...v.map((x) => x / size));
	}
	const columns = Float32Array.from(normals);
	const count = columns.length / 3;
	const out = new Float32Array(4 * count);
	standOff(out, columns);
	const [up, wanted, forward] = [
		[0, 0, 0],
		[0, 0, 0, 0],
		[0, 0, 0]
	];
	for (let i = 0; i < count; i++) {
		const [x, y, z, w] = out.subarray(4 * i, 4 * i + 4);
		near(x * x + y * y + z * z + w * w, 1, 1e-6, 'it is a rotation');
		quaternion.rotate(up, 0, x, y, z, w, 0, 1, 0);
		for (const k of [0, 1, 2]) near(up[k], columns[3 * i + k], 1e-5, `normal ${i}`);
		const [nx, ny, nz] = columns.subarray(3 * i, 3 * i + 3);
		quaternion.lookAlong(wanted, 0, nx, ny, nz, 0, 0, 1);
		const alike = Math.abs(x * wanted[0] + y * wanted[1] + z * wanted[2] + w * wanted[3]);
		near(alike, 1, 1e-5, `rotation ${i}`);
		quaternion.rotate(forward, 0, x, y, z, w, 0, 0, 1);
		assert.ok(forward[2] >= -1e-6, 'z looks the world’s way');
	}
});
