/** What is fitted fills the picture but for a rim, from a height that suits its shape. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import * as THREE from 'three';
import type { Direction } from './cameras.ts';
import { Cameras } from './cameras.ts';

type Triple = [number, number, number];
const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });
const boxes = fc
	.tuple(
		fc.tuple(number(-50, 50), number(-5, 20), number(-50, 50)),
		fc.tuple(number(0.1, 40), number(0.1, 40), number(0.1, 40))
	)
	.map(([low, size]) => ({ low: low as Triple, high: low.map((x, k) => x + size[k]) as Triple }));

/** How far to the rims the corners of a box reach, from −1 to 1 both ways. */
function seen(cameras: Cameras, { low, high }: { low: Triple; high: Triple }) {
	cameras.active.updateMatrixWorld();
	cameras.active.updateProjectionMatrix();
	const corners = [low[0], high[0]].flatMap((x) =>
		[low[1], high[1]].flatMap((y) =>
			[low[2], high[2]].map((z) => new THREE.Vector3(x, y, z).project(cameras.active))
		)
	);
	const of = (axis: 'x' | 'y') => {
		const all = corners.map((corner) => corner[axis]);
		return [Math.min(...all), Math.max(...all)];
	};
	return { x: of('x'), y: of('y') };
}

test('a box that is fitted leaves 8 % free on each side, touches that rim on two of them, and stands in the middle', () => {
	fc.assert(
		fc.property(
			boxes,
			number(0.5, 2.5),
			fc.constantFrom<Direction>('perspective', 'top', 'front', 'east'),
			(box, aspect, direction) => {
				const cameras = new Cameras();
				cameras.aspect = aspect;
				cameras.look(direction);
				cameras.fit(box);
				const { x, y } = seen(cameras, box);
				for (const [low, high] of [x, y]) {
					assert.ok(low > -0.85 && high < 0.85, `from ${low} to ${high}`);
					assert.ok(Math.abs(low + high) < 0.03, `${low} and ${high} are not as far from the middle`);
				}
				assert.ok(Math.max(x[1], y[1]) > 0.83, `it could be larger: ${x[1]}, ${y[1]}`);
			}
		),
		{ numRuns: 60 }
	);
});

test('points of a round thing are fitted nearer than the corners of its box', () => {
	const points = Float32Array.from(
		Array.from({ length: 600 }, (_, i) => {
			const up = 1 - (2 * i + 1) / 600,
				flat = Math.sqrt(1 - up * up);
			return [flat * Math.cos(i * 2.4), up, flat * Math.sin(i * 2.4)];
		}).flat()
	);
	const box = { low: [-1, -1, -1] as Triple, high: [1, 1, 1] as Triple };
	const [round, square] = [new Cameras(), new Cameras()];
	round.fit(box, points);
	square.fit(box);
	assert.ok(round.distance < 0.8 * square.distance, `${round.distance} and ${square.distance}`);
});

test('what is flat is looked down on, what is tall is seen from nearly level', () => {
	const heightOf = (high: Triple) => {
		const cameras = new Cameras();
		const box = { low: [0, 0, 0] as Triple, high };
		cameras.raise(box);
		cameras.fit(box);
		const way = cameras.active.position.clone().sub(cameras.target).normalize();
		return THREE.MathUtils.radToDeg(Math.asin(way.y));
	};
	const [flat, even, tall] = [heightOf([10, 0.1, 10]), heightOf([2, 2, 2]), heightOf([1, 8, 1])];
	assert.ok(
		flat > 30 && flat < 40 && tall > 5 && tall < 15 && even > tall && even < flat,
		`${flat}, ${even}, ${tall}`
	);
});

test('a straight camera shows its height in a picture of any shape, and no other view takes its lens over', () => {
	const cameras = new Cameras();
	const seen = { position: [3, 4, 5], target: [0, 1, 0], half: 2.5, angle: 95 };
	cameras.see(seen);
	for (const aspect of [0.5, 1, 2.4]) {
		cameras.aspect = aspect;
		assert.equal(cameras.seen.half, 2.5);
		assert.ok(Math.abs(cameras.flat.right - 2.5 * aspect) < 1e-9);
	}
	// A picture that is fitted for a card leaves all as it was.
	const restore = cameras.keep();
	cameras.fit({ low: [0, 0, 0], high: [9, 9, 9] });
	restore();
	assert.equal(cameras.seen.half, 2.5);
	cameras.reset();
	assert.deepEqual([cameras.seen.half, cameras.seen.angle], [null, 40]);
});
