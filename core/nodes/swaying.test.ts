import assert from 'node:assert/strict';
import test from 'node:test';
import fc from 'fast-check';
import { Evaluator, isGeometry, whatMoves } from '../engine/index.ts';
import type { GeneratorDocument, Setting } from '../engine/index.ts';
import { digestOf, floats, tableOf } from '../geometry/index.ts';
import type { Geometry } from '../geometry/index.ts';
import { generator } from '../testing/index.ts';
import type { Row } from '../testing/index.ts';

const formula = (text: string): Setting => ({ formula: text, streams: [] });
const by = new Evaluator();
function shownAt(document: GeneratorDocument, frame = 1): Geometry {
	const { id } = document.graphs.main.nodes.at(-1)!;
	const result = by.begin(document, { frame }).pull([id]).results.get(id)!;
	assert.equal(result.error, null, result.error?.message);
	return [...result.outputs.values()].find(isGeometry)!;
}
/** Eleven boxes in a row along x, a metre apart, changed by a Transform. */
const ROW: Row[] = [
	['line', 'line', { from: [0, 0, 0], to: [10, 0, 0], points: 11 }],
	['box', 'post', { size: [0.1, 1, 0.1] }],
	['place-copies', 'posts', {}, { points: 'line.curve', source: 'post.mesh' }]
];
const changed = (settings: Record<string, unknown>, wires: Record<string, string> = {}) =>
	generator([...ROW, ['transform', 'moved', settings, { geometry: 'posts.copies', ...wires }]]);
const heights = (geometry: Geometry): number[] => {
	const p = floats(tableOf(geometry, 'copies', 'copy')!, 'position');
	return [...p].filter((_, k) => k % 3 === 1);
};
const UP = { about: 'own', move: [0, 2, 0] };

/** The waves by their textbook definitions, over turns. */
const WAVES: Record<string, (turns: number) => number> = {
	sine: (t) => Math.sin(2 * Math.PI * t),
	triangle: (t) => (2 / Math.PI) * Math.asin(Math.sin(2 * Math.PI * t)),
	steps: (t) => (Math.sin(2 * Math.PI * t) >= 0 ? 1 : -1)
};

test('a sway is its wave: by place it runs towards its direction, by number, by a value, or all together', () => {
	fc.assert(
		fc.property(
			fc.constantFrom('sine', 'triangle', 'steps'),
			fc.constantFrom('none', 'position', 'index', 'value'),
			fc.double({ min: 0.1, max: 3, noNaN: true }),
			fc.double({ min: 0.7, max: 30, noNaN: true }),
			fc.integer({ min: 1, max: 120 }),
			(sway, phaseBy, rate, wide, frame) => {
				const document = changed({
					...UP,
					sway,
					phaseBy,
					rate,
					wavelength: wide,
					elements: wide,
					later: formula('index * 0.13')
				});
				const time = (frame - 1) / 24;
				heights(shownAt(document, frame)).forEach((y, i) => {
					const late = { none: 0, position: i / wide, index: i / wide, value: i * 0.13 }[phaseBy]!;
					const turns = rate * time - late;
					// At its jumps a step may fall to either side.
					const nearJump = Math.abs(2 * turns - Math.round(2 * turns)) < 1e-4;
					if (sway === 'steps' && nearJump) return;
					assert.ok(Math.abs(y - 2 * WAVES[sway](turns)) < 1e-4, `${sway} ${phaseBy} ${i}: ${y}`);
				});
			}
		),
		{ numRuns: 120 }
	);
});

test('steps stop at as many places as they are told, evenly from one end to the other', () => {
	for (const steps of [2, 3, 5]) {
		const document = changed({ ...UP, sway: 'steps', steps, phaseBy: 'none', rate: 1 });
		const seen = new Set<number>();
		for (let frame = 1; frame <= 48; frame++)
			seen.add(Math.round(heights(shownAt(document, frame))[0] * 1e4) / 1e4);
		const wanted = Array.from(
			{ length: steps },
			(_, k) => Math.round((-2 + (4 * k) / (steps - 1)) * 1e4) / 1e4
		);
		assert.deepEqual(
			[...seen].sort((a, b) => a - b),
			wanted
		);
	}
});

test('weight and strength times the sway; without one nothing moves by itself', () => {
	const half = changed({ ...UP, sway: 'sine', phaseBy: 'none', weight: 0.5, strength: -0.5 });
	assert.ok(Math.abs(heights(shownAt(half, 13))[3] - 2 * -0.25 * Math.sin(Math.PI / 2)) < 1e-6);
	assert.deepEqual([...whatMoves(half, 'main').values()], ['“Sway” moves it.']);
	assert.equal(whatMoves(changed(UP), 'main').size, 0);
});

test('amounts share the move, the rotation and the scale out, each for itself, for points and copies', () => {
	const whole = { move: [0, 3, 0], rotation: [0, 40, 0], scale: [2, 2, 2] };
	for (const about of ['pivot', 'own']) {
		const split = changed({
			about,
			...whole,
			moveAmount: 0.5,
			turnAmount: formula('index / 10'),
			sizeAmount: 0
		});
		const geometry = shownAt(split);
		const copies = tableOf(geometry, 'copies', 'copy')!;
		assert.ok(
			[...floats(copies, 'scale')].every((x) => Math.abs(x - 1) < 1e-6),
			'no scale'
		);
		assert.ok(
			heights(geometry).every((y) => Math.abs(y - 1.5) < 1e-5),
			'half of the move'
		);
		const q = floats(copies, 'orientation');
		// From the first, which is not turned: the product's last number is the cosine of half the angle.
		for (let i = 0; i < 11; i++) {
			const cosine = [0, 1, 2, 3].reduce((sum, k) => sum + q[k] * q[4 * i + k], 0);
			const angle = 2 * Math.acos(Math.min(1, Math.abs(cosine)));
			assert.ok(Math.abs(angle - ((i / 10) * (40 * Math.PI)) / 180) < 1e-3, `${about} ${i}: ${angle}`);
		}
	}
	// Taken all at once they are what they were without any.
	const plain = (more: Record<string, unknown>) =>
		generator([
			['box', 'body', { size: [1, 2, 1] }],
			['transform', 'moved', { ...whole, weight: 0.7, ...more }, { geometry: 'body.mesh' }]
		]);
	const one = formula('1');
	assert.equal(
		digestOf(shownAt(plain({}))),
		digestOf(shownAt(plain({ moveAmount: one, turnAmount: one, sizeAmount: one })))
	);
	// No move, no rotation: a scale about the box’s middle, the origin, by 1 + 0.7.
	const grown = shownAt(plain({ moveAmount: 0, turnAmount: 0 }));
	assert.ok(Math.abs(Math.max(...floats(grown.mesh!.points, 'position')) - 1.7) < 1e-5);
});

const turnWeights = (settings: Record<string, unknown>, more: Row[] = [], wires = {}) => {
	const document = generator([
		['line', 'line', { from: [0, 0, 0], to: [10, 0, 0], points: 11 }],
		...more,
		['weight-in-turn', 'turn', settings, wires],
		['write-attribute', 'held', { name: 'w' }, { geometry: 'line.curve', value: 'turn.weight' }]
	]);
	return [...floats(tableOf(shownAt(document), 'curves', 'point')!, 'w')];
};

test('in turn: nobody before 0, everybody at 1, each goes only up, and by itself', () => {
	fc.assert(
		fc.property(
			fc.constantFrom('index', 'random', 'distance', 'value'),
			fc.double({ min: 0, max: 1, noNaN: true }),
			fc.double({ min: 0, max: 1, noNaN: true }),
			fc.boolean(),
			(order, spread, disorder, reverse) => {
				const settings = { order, spread, disorder, reverse, rank: formula('fract(index * 0.37)') };
				const ways = [0, 0.2, 0.5, 0.8, 1].map((progress) => turnWeights({ ...settings, progress }));
				assert.deepEqual(ways[0], new Array(11).fill(0));
				assert.deepEqual(ways[4], new Array(11).fill(1));
				for (let k = 1; k < ways.length; k++)
					ways[k].forEach((w, i) => assert.ok(w >= ways[k - 1][i] - 1e-6 && w >= 0 && w <= 1));
			}
		),
		{ numRuns: 60 }
	);
});

test('in turn: one by one along the row, from its end, and from what is nearest', () => {
	const ramp = {
		stops: [
			{ at: 0, value: 0, easing: 'linear' },
			{ at: 1, value: 1, easing: 'linear' }
		]
	};
	// Half of the way is for beginning: the first begins at 0, the last at 0.5, and each takes 0.5.
	const even = turnWeights({ progress: 0.5, spread: 0.5, ramp });
	even.forEach((w, i) => assert.ok(Math.abs(w - (1 - i / 10)) < 1e-6, `${i}: ${w}`));
	assert.deepEqual(turnWeights({ progress: 0.5, spread: 0.5, ramp, reverse: true }), [...even].reverse());
	const jump = turnWeights({ progress: 0.45, spread: 1 });
	assert.deepEqual(jump, [1, 1, 1, 1, 1, 0, 0, 0, 0, 0, 0]);
	const near = turnWeights(
		{ order: 'distance', reach: 5, progress: 0.3, spread: 1 },
		[['line', 'pole', { from: [5, 0, 0], to: [5, 3, 0], points: 9 }]],
		{ object: 'pole.curve' }
	);
	assert.deepEqual(near, [0, 0, 0, 0, 1, 1, 1, 0, 0, 0, 0]);
});
