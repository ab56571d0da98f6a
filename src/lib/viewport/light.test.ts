import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import {
	FEW_SAMPLES,
	SAMPLES,
	ofSky,
	ofSun,
	USUAL_LIGHT,
	jitterOf,
	overSky,
	overSun,
	sunWay,
	turnOf
} from './light.ts';
import type { Way } from './light.ts';

const OF_SUN = ofSun(SAMPLES),
	OF_SKY = ofSky(SAMPLES);
const dot = (a: Way, b: Way): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const near = (a: number, b: number, within: number, what = '') =>
	assert.ok(Math.abs(a - b) <= within, `${what} ${a} is not ${b}`);
const all = <T>(count: number, make: (i: number) => T): T[] =>
	Array.from({ length: count }, (_, i) => make(i));
const light = fc.record({
	height: fc.double({ min: 5, max: 90, noNaN: true }),
	direction: fc.double({ min: 0, max: 360, noNaN: true })
});

test('the sun stands where a compass and its height say', () => {
	for (const [direction, x, z] of [
		[0, 0, -1],
		[90, 1, 0],
		[180, 0, 1],
		[270, -1, 0]
	]) {
		const way = sunWay({ height: 0, direction });
		near(way[0], x, 1e-12);
		near(way[2], z, 1e-12);
	}
	near(sunWay({ height: 30, direction: 77 })[1], 0.5, 1e-12);
});

test('the pictures look evenly over the pixel, the first through its middle', () => {
	assert.deepEqual(jitterOf(0), [0, 0]);
	const places = all(SAMPLES, jitterOf);
	for (const axis of [0, 1]) {
		assert.ok(places.every((p) => p[axis] >= -0.5 && p[axis] < 0.5));
		near(places.reduce((sum, p) => sum + p[axis], 0) / SAMPLES, 0, 0.02);
		// Each eighth of the pixel is met about as often.
		for (let k = 0; k < 8; k++) {
			const met = places.filter((p) => Math.floor((p[axis] + 0.5) * 8) === k).length;
			assert.ok(met >= 6 && met <= 10, `${met} of ${SAMPLES} in an eighth`);
		}
	}
});

test('ways to the sun are as long as one, lie within five degrees and a bit of its middle, and have it as their mean', () => {
	fc.assert(
		fc.property(light, (where) => {
			const middle = sunWay(where);
			const ways = all(OF_SUN, (i) => overSun(where, i, OF_SUN));
			for (const way of ways) {
				near(dot(way, way), 1, 1e-9);
				assert.ok(dot(way, middle) >= Math.cos((5.201 * Math.PI) / 180));
			}
			const mean = [0, 1, 2].map(
				(k) => ways.reduce((sum, way) => sum + way[k], 0) / OF_SUN
			) as unknown as Way;
			near(dot(mean, middle), 1, 0.006);
		})
	);
});

test('the sky lights a face as much as a whole even dome would, whichever way it looks', () => {
	// A dome of evenly bright sky gives a face that is tilted by t the share (1 + cos t) / 2 of what it gives a level one.
	const ways = all(OF_SKY, (i) => overSky(i, OF_SKY));
	assert.ok(ways.every((way) => way[1] > 0));
	fc.assert(
		fc.property(
			fc.double({ min: 0, max: 100, noNaN: true }),
			fc.double({ min: 0, max: 360, noNaN: true }),
			(tilt, turn) => {
				const t = (tilt * Math.PI) / 180,
					a = (turn * Math.PI) / 180;
				const normal: Way = [Math.sin(t) * Math.cos(a), Math.cos(t), Math.sin(t) * Math.sin(a)];
				const gathered = (2 / OF_SKY) * ways.reduce((sum, way) => sum + Math.max(0, dot(way, normal)), 0);
				near(gathered, (1 + Math.cos(t)) / 2, 0.03);
			}
		)
	);
});

test('any first few ways to the sky are spread over it, so that an unfinished picture is near the finished one', () => {
	for (const first of [4, 8, 16]) {
		const mean = all(first, (i) => overSky(i, OF_SKY)[1]).reduce((sum, up) => sum + up, 0) / first;
		near(mean, 0.5, 0.16, `${first}:`);
	}
	assert.ok(USUAL_LIGHT.shadow);
});

test('every picture has its light, and every piece of the sun and of the sky its picture, each once', () => {
	for (const samples of [FEW_SAMPLES, SAMPLES])
		for (const [sun, count] of [
			[true, ofSun(samples)],
			[false, ofSky(samples)]
		] as const)
			assert.deepEqual(
				all(samples, turnOf)
					.filter((turn) => turn.sun === sun)
					.map(({ nth }) => nth),
				all(count, (i) => i)
			);
	// Also of the first few pictures as many are lit by the sun as should be.
	for (const first of [8, 16, 24])
		assert.equal(all(first, turnOf).filter(({ sun }) => sun).length, (first * OF_SUN) / SAMPLES);
});
