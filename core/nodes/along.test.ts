import assert from 'node:assert/strict';
import { test } from 'node:test';
import { positionsOf } from '../geometry/index.ts';
import { evaluateAll, generator } from '../testing/index.ts';
import type { Row } from '../testing/index.ts';

const near = (a: number, b: number, most: number, what: string) =>
	assert.ok(Math.abs(a - b) <= most, `${what}: ${a} against ${b}`);
const vectors = (data: ArrayLike<number>) =>
	Array.from({ length: data.length / 3 }, (_, i) => [data[3 * i], data[3 * i + 1], data[3 * i + 2]]);
const apart = (a: number[], b: number[]) => Math.hypot(...a.map((x, k) => x - b[k]));
const drawn = (name: string, places: number[][], settings = {}): Row => [
	'draw-curve',
	name,
	{ type: 'straight', path: { path: places.map((at) => ({ at })) }, ...settings }
];

test('fitted points on open and closed curves of awkward length are evenly spaced, the first and last at the ends', () => {
	const run = evaluateAll(
		generator([
			drawn('open', [
				[0.1, 0, 0.3],
				[Math.PI, 0.7, 1 / 3],
				[4.7, -1.1, 5.3]
			]),
			['circle', 'round', { radius: 1.2345, points: 360 }],
			['points-along-curve', 'a', { by: 'fitted', spacing: 0.137 }, { curve: 'open.curve' }],
			['points-along-curve', 'b', { by: 'fitted', spacing: 0.0917 }, { curve: 'round.curve' }]
		])
	);
	const a = vectors(positionsOf(run.geometry('a').points!));
	assert.deepEqual(a[0], [0.1, 0, 0.3].map(Math.fround));
	assert.deepEqual(a.at(-1), [4.7, -1.1, 5.3].map(Math.fround));
	const u = run.geometry('a').points!.points.columns.get('u')!.data;
	const length = run.geometry('a').points!.points.columns.get('length')!.data[0];
	for (let i = 1; i < u.length; i++)
		near((u[i] - u[i - 1]) * length, length / (u.length - 1), 1e-5, `open, ${i}`);
	const b = vectors(positionsOf(run.geometry('b').points!));
	const steps = b.map((place, i) => apart(place, b[(i + 1) % b.length]));
	for (const step of steps) near(step, steps[0], 1e-5, 'closed');
});

test('between leaves ends and corners free, and fits each stretch by itself', () => {
	const corners = [
		[0, 0, 0],
		[3, 0, 0],
		[3, 0, 1],
		[0, 0, 1]
	];
	const run = evaluateAll(
		generator([
			drawn('open', corners),
			drawn('closed', corners, { closed: true }),
			['circle', 'round', { radius: 1, points: 64 }],
			...(['open', 'closed', 'round'] as const).flatMap((name): Row[] => [
				['points-along-curve', `${name}-posts`, { by: 'corners' }, { curve: `${name}.curve` }],
				['points-along-curve', `${name}-rods`, { by: 'between', spacing: 0.3 }, { curve: `${name}.curve` }],
				[
					'points-along-curve',
					`${name}-middles`,
					{ by: 'between', spacing: 0.3, putAt: 'middles' },
					{ curve: `${name}.curve` }
				]
			])
		])
	);
	const places = (name: string) => vectors(positionsOf(run.geometry(name).points!));
	// Stretches of 3, 1 and 3 m: ten, three and ten pieces; the closed one has 1 m more.
	assert.equal(places('open-rods').length, 9 + 2 + 9);
	assert.equal(places('closed-rods').length, 9 + 2 + 9 + 2);
	assert.equal(places('open-middles').length, 10 + 3 + 10);
	assert.equal(places('round-posts').length, 0);
	assert.equal(places('round-rods').length, 20);
	for (const name of ['open', 'closed']) {
		for (const rod of places(`${name}-rods`))
			for (const post of places(`${name}-posts`))
				assert.ok(apart(rod, post) > 0.29, `${rod} stands on the post at ${post}`);
		const { tangent, u } = Object.fromEntries(run.geometry(`${name}-rods`).points!.points.columns);
		vectors(tangent.data).forEach((way) => near(Math.hypot(...way), 1, 1e-6, 'a tangent'));
		// Beside a corner the way is that of the stretch, not a blend with the next one.
		assert.deepEqual([...tangent.data.slice(0, 3)], [1, 0, 0]);
		assert.ok(
			u.data.every((x, i) => i === 0 || x > u.data[i - 1]),
			'in order along the curve'
		);
	}
});

test('points stand upright, off the curve, or in between by a share', () => {
	const up = (settings: object) => {
		const run = evaluateAll(
			generator([
				drawn('slope', [
					[0, 0, 0],
					[1, 1, 0]
				]),
				['points-along-curve', 'p', { by: 'count', count: 3, ...settings }, { curve: 'slope.curve' }]
			])
		);
		return [...run.geometry('p').points!.points.columns.get('normal')!.data.slice(0, 3)];
	};
	assert.deepEqual(up({ up: 'world' }), [0, 1, 0]);
	const lean = (normal: number[]) => (Math.atan2(-normal[0], normal[1]) * 180) / Math.PI;
	near(lean(up({ up: 'curve' })), 45, 1e-4, 'off the curve');
	near(lean(up({ up: 'mix', lean: 0.5 })), 22.5, 1e-4, 'half');
	assert.deepEqual(up({ up: 'mix', lean: 0 }), [0, 1, 0]);
});

test('in the space of a curve things move along it, turn about it and grow away from it', () => {
	const R = 5;
	const moved = (settings: object, at: number[]) => {
		const run = evaluateAll(
			generator([
				['circle', 'ring', { radius: R, points: 2000 }],
				drawn('thing', [at, [0, 9, 0]]),
				['transform', 't', { about: 'curve', ...settings }, { geometry: 'thing.curve', curve: 'ring.curve' }]
			])
		);
		return vectors(positionsOf(run.geometry('t').curves!))[0];
	};
	const start = [R + 0.5, 0.25, 0];
	const same = moved({ rotation: [0, 0, 1e-9] }, start);
	near(apart(same, start), 0, 1e-5, 'nothing asked, nothing moved');
	// A quarter of the way round, at the same distance and height.
	const quarter = moved({ move: [0, 0, (Math.PI * R) / 2] }, start);
	near(Math.hypot(quarter[0], quarter[2]), R + 0.5, 1e-4, 'distance from the middle');
	near(quarter[1], 0.25, 1e-6, 'height');
	near(Math.abs(quarter[2]), R + 0.5, 1e-3, 'a quarter round');
	// Half a turn about the curve: to its other side.
	const across = moved({ rotation: [0, 0, 180] }, start);
	near(apart(across, [R - 0.5, -0.25, 0]), 0, 1e-4, 'the other side');
	const away = moved({ scale: [3, 2, 1] }, start);
	near(apart(away, [R + 1.5, 0.5, 0]), 0, 1e-4, 'farther away');
	near(apart(moved({ scale: [3, 2, 1], weight: 0 }, start), start), 0, 1e-6, 'without weight');
	const none = evaluateAll(
		generator([
			['line', 'l'],
			['transform', 't', { about: 'curve' }, { geometry: 'l.curve' }]
		])
	);
	assert.match(none.error('t')!, /Wire one to “Curve”/);
});
