import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { areaOf, digestOf, edgesOf, volumeOf } from '../geometry/index.ts';
import type { Geometry } from '../geometry/index.ts';
import { readGlb, writeGlb, writeObj } from '../formats/index.ts';
import { evaluateAll, generator } from '../testing/index.ts';
import type { Row } from '../testing/index.ts';
import { flipRamp, rampAt, rampOf, RAMP_SHAPES } from '../varying/index.ts';

const close = (a: number, b: number, tolerance = 1e-6, what = '') =>
	assert.ok(Math.abs(a - b) <= tolerance, `${what} ${a} against ${b}`);

/** A row of eleven points along x from 0 to 10, with a weight stored on them. */
const weigh = (
	rows: Row[],
	wire: string,
	points: Row = ['row-of-points', 'row', { by: 'spacing', count: 11, spacing: 1, direction: [1, 0, 0] }]
) => {
	const run = evaluateAll(
		generator([
			['line', 'line', { from: [0, 0, 0], to: [10, 0, 0], points: 11 }],
			points,
			...rows,
			['write-attribute', 'held', { name: 'w' }, { geometry: 'line.curve', value: wire }]
		])
	);
	const found = run.geometry('held').curves!.points.columns.get('w')!.data;
	return [...found].map((x) => Math.round(x * 1e4) / 1e4);
};

test('ramps: easings, ends, jumps, flips, and stops at one place', () => {
	close(rampAt(rampOf('linear', [0, 0], [1, 2]), 0.25), 0.5);
	close(rampAt(rampOf('smooth', [0, 0], [1, 1]), 0.25), 0.15625);
	close(rampAt(rampOf('held', [0, 0.3], [0.5, 0.8]), 0.49), 0.3);
	close(rampAt(rampOf('linear', [0.2, 3], [0.8, 5]), -1), 3);
	close(rampAt(rampOf('linear', [0.2, 3], [0.8, 5]), 9), 5);
	const jump = rampOf('linear', [0, 0], [0.5, 0], [0.5, 1], [1, 1]);
	assert.deepEqual([rampAt(jump, 0.4999), rampAt(jump, 0.5), rampAt(jump, 0.7)], [0, 1, 1]);
	assert.equal(rampAt({ stops: [] }, 0.5), 0);
	assert.equal(rampAt(rampOf('linear', [0.5, 7], [0.5, 7]), 0.5), 7);
	const bezier = {
		stops: [
			{ at: 0, value: 0, easing: 'bezier' as const, handles: [0.42, 0, 0.58, 1] as const },
			{ at: 1, value: 1, easing: 'linear' as const }
		]
	};
	close(rampAt(bezier, 0.5), 0.5);
	close(rampAt(bezier, 0.25), 0.1292, 1e-3);
	fc.assert(
		fc.property(
			fc.double({ min: 0, max: 1, noNaN: true }),
			fc.constantFrom(...RAMP_SHAPES.filter(({ name }) => name !== 'Steps')),
			(x, { ramp }) => close(rampAt(flipRamp(ramp), x), rampAt(ramp, 1 - x), 1e-6)
		)
	);
});

test('the weight along a curve follows it, flips, goes through its ramp, and falls away from it', () => {
	const curve: Row = ['line', 'c', { from: [0, 0, 0], to: [10, 0, 0] }];
	const tenth = [0, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1];
	const along = (settings: Record<string, unknown>, extra: Row[] = [], wires = {}) =>
		weigh(
			[curve, ...extra, ['weight-along-curve', 'w', settings, { curve: 'c.curve', ...wires }]],
			'w.weight'
		);
	assert.deepEqual(along({}), tenth);
	assert.deepEqual(along({ reverse: true }), [...tenth].reverse());
	assert.deepEqual(
		weigh(
			[
				curve,
				['reverse-curve', 'r', {}, { curve: 'c.curve' }],
				['weight-along-curve', 'w', {}, { curve: 'r.curve' }]
			],
			'w.weight'
		),
		[...tenth].reverse()
	);
	assert.deepEqual(along({ rampAlong: rampOf('held', [0, 0], [0.5, 1]) }), [0, 0, 0, 0, 0, 1, 1, 1, 1, 1, 1]);
	const high = rampOf('linear', [0, 1], [1, 1]);
	assert.deepEqual(
		along({}, [['ramp', 'shared', { ramp: high }]], { rampAlong: 'shared.ramp' }),
		new Array(11).fill(1)
	);
	const beside = weigh(
		[
			['line', 'c', { from: [0, 3, 0], to: [10, 3, 0] }],
			[
				'weight-along-curve',
				'w',
				{ rampAlong: high, limitDistance: true, reach: 6, rampAround: rampOf('linear', [0, 1], [1, 0]) },
				{ curve: 'c.curve' }
			]
		],
		'w.weight'
	);
	assert.deepEqual(beside, new Array(11).fill(0.5));
});

test('zones, distances, heights, order and combinations give the numbers that they say', () => {
	const zone = (settings: Record<string, unknown>) => weigh([['weight-in-zone', 'w', settings]], 'w.weight');
	assert.deepEqual(
		zone({ centre: [5, 0, 0], size: [4, 4, 4], inner: 0, outer: 2 }),
		[0, 0, 0.5, 1, 1, 1, 1, 1, 0.5, 0, 0]
	);
	assert.deepEqual(
		zone({ shape: 'box', centre: [5, 0, 0], size: [4, 4, 4], inner: 0, outer: 2, power: 2 }),
		[0, 0, 0.25, 1, 1, 1, 1, 1, 0.25, 0, 0]
	);
	assert.deepEqual(
		zone({ shape: 'half-space', centre: [5, 0, 0], rotation: [0, 0, -90], inner: 0, outer: 0 }),
		[1, 1, 1, 1, 1, 1, 0, 0, 0, 0, 0]
	);
	const near = weigh(
		[
			['box', 'b', { size: [2, 2, 2] }],
			['weight-near-object', 'w', { fullUpTo: 0, noneFrom: 4 }, { object: 'b.mesh' }]
		],
		'w.weight'
	);
	// The box sits on its base about the origin: its side is at x = 1, its top is 1 or 2 above.
	assert.deepEqual(near.slice(1, 6), [1, 0.75, 0.5, 0.25, 0]);
	assert.deepEqual(
		weigh([['weight-by-height', 'w', { from: 0, to: 10, direction: [1, 0, 0] }]], 'w.weight')[5],
		0.5
	);
	assert.deepEqual(
		weigh([['weight-by-order', 'w', { progress: 0.5, soft: 0 }]], 'w.weight'),
		[1, 1, 1, 1, 1, 0, 0, 0, 0, 0, 0]
	);
	for (const progress of [0, 1])
		assert.deepEqual(
			weigh([['weight-by-order', 'w', { progress, soft: 0.3 }]], 'w.weight'),
			new Array(11).fill(progress)
		);
	const a: Row = ['weight-by-height', 'a', { from: 0, to: 10, direction: [1, 0, 0] }];
	const both = (how: string) =>
		weigh(
			[a, ['combine-weights', 'w', { operation: how, second: 0.5 }, { first: 'a.weight' }]],
			'w.weight'
		)[8];
	assert.deepEqual(
		['multiply', 'soft-union', 'maximum', 'minimum', 'difference', 'add'].map(both),
		[0.4, 0.9, 0.8, 0.5, 0.3, 1]
	);
	const shaped = weigh(
		[a, ['shape-weight', 'w', { invert: true, contrast: 2 }, { weight: 'a.weight' }]],
		'w.weight'
	);
	assert.deepEqual(shaped, [1, 1, 1, 0.9, 0.7, 0.5, 0.3, 0.1, 0, 0, 0]);
});

test('at random each element drops out at its own moment', () => {
	const at = (share: number) => weigh([['weight-at-random', 'w', { share }]], 'w.weight');
	let before = at(1);
	assert.deepEqual(before, new Array(11).fill(1));
	for (let share = 0.9; share >= 0; share -= 0.1) {
		const now = at(share);
		now.forEach((w, i) => assert.ok(w <= before[i], 'who is out stays out'));
		before = now;
	}
	assert.deepEqual(at(0), new Array(11).fill(0));
});

test('openness: nothing above is 1, under a roof 0', () => {
	const roof: Row[] = [
		['grid', 'g', { width: 4, depth: 4 }],
		['transform', 'roof', { move: [5, 2, 0] }, { geometry: 'g.mesh' }],
		['weight-by-openness', 'w', { coneAngle: 0 }, { object: 'roof.geometry' }]
	];
	assert.deepEqual(weigh(roof, 'w.weight'), [1, 1, 1, 0, 0, 0, 0, 0, 1, 1, 1]);
});

test('a bend keeps lengths, a twist keeps volume, a taper scales, and what has no weight stays to the bit', () => {
	const beam: Row[] = [['box', 'beam', { size: [0.2, 4, 0.2], cellsX: 4, cellsY: 80, cellsZ: 4 }]];
	const run = evaluateAll(
		generator([
			...beam,
			['bend', 'bent', { angle: 90 }, { geometry: 'beam.mesh' }],
			['twist', 'twisted', { angle: 180 }, { geometry: 'beam.mesh' }],
			['taper', 'tapered', { start: 1, end: 0 }, { geometry: 'beam.mesh' }],
			[
				'bend',
				'upper',
				{ angle: 90, weight: { formula: 'choose(position.y > 0.5, 1, 0)', streams: [] } },
				{ geometry: 'beam.mesh' }
			]
		])
	);
	const volume = volumeOf(run.geometry('beam').mesh!);
	close(volumeOf(run.geometry('bent').mesh!), volume, volume * 2e-3, 'bent');
	close(volumeOf(run.geometry('twisted').mesh!), volume, volume * 2e-3, 'twisted');
	close(volumeOf(run.geometry('tapered').mesh!), volume / 3, volume * 1e-3, 'tapered to a point');
	const p = run.geometry('beam').mesh!.points.columns.get('position')!.data,
		q = run.geometry('upper').mesh!.points.columns.get('position')!.data;
	let moved = 0;
	for (let i = 0; i < p.length; i += 3)
		if (p[i + 1] <= 0.5) assert.deepEqual([q[i], q[i + 1], q[i + 2]], [p[i], p[i + 1], p[i + 2]]);
		else moved += q[i + 2] !== p[i + 2] ? 1 : 0;
	assert.ok(moved > 100, `${moved} moved`);
});

test('a groove lies at its distance from the curve, inward only, and leaves the rest as it was', () => {
	const rows = (height: number): Row[] => [
		['grid', 'ground', { width: 4, depth: 4, columns: 160, rows: 160 }],
		['line', 'rope', { from: [-3, height, 0.013], to: [3, height, 0.013] }],
		[
			'displace',
			'groove',
			{ along: 'distance', distance: 0.3, inward: true },
			{ geometry: 'ground.mesh', object: 'rope.curve' }
		]
	];
	const run = evaluateAll(generator(rows(0.1)));
	const p = run.geometry('ground').mesh!.points.columns.get('position')!.data,
		q = run.geometry('groove').mesh!.points.columns.get('position')!.data;
	let moved = 0;
	for (let i = 0; i < p.length; i += 3) {
		if (q[i] === p[i] && q[i + 1] === p[i + 1] && q[i + 2] === p[i + 2]) continue;
		moved++;
		close(Math.hypot(q[i + 1] - 0.1, q[i + 2] - 0.013), 0.3, 4e-4, 'distance to the rope');
		assert.ok(q[i + 1] < 0, 'down into the ground');
	}
	assert.ok(moved > 1000, `${moved} moved`);
	const below = evaluateAll(generator(rows(-0.1)));
	assert.equal(
		digestOf(below.geometry('groove')),
		digestOf(below.geometry('ground')),
		'a rope below makes no ridge'
	);
});

test('hidden copies keep their numbers, deleted faces take their points, shapes blend by weight', () => {
	const half = { formula: 'choose(index < 5, 1, 0)', streams: [] };
	const beyond = { formula: 'choose(position.x > 50, 1, 0)', streams: [] };
	const run = evaluateAll(
		generator([
			['box', 'box'],
			['row-of-points', 'row', { count: 10 }],
			['place-copies', 'copies', {}, { points: 'row.points', source: 'box.mesh' }],
			['hide-where', 'hidden', { weight: half }, { copies: 'copies.copies' }],
			['hide-where', 'weak', { weight: half, strength: 0.4 }, { copies: 'copies.copies' }],
			['transform', 'far', { move: [100, 0, 0] }, { geometry: 'copies.copies' }],
			['hide-where', 'now', { weight: beyond }, { copies: 'far.geometry' }],
			['hide-where', 'then', { weight: beyond }, { copies: 'far.geometry', weightAt: 'copies.copies' }],
			['grid', 'g', { columns: 10, rows: 1 }],
			['hide-where', 'faces', { elements: 'face', weight: half }, { copies: 'g.mesh' }],
			['delete-where', 'fewer', { weight: half }, { geometry: 'g.mesh' }],
			['transform', 'up', { move: [0, 2, 0] }, { geometry: 'g.mesh' }],
			['morph', 'between', { weight: 0.25 }, { geometry: 'g.mesh', target: 'up.geometry' }],
			['morph', 'wrong', {}, { geometry: 'g.mesh', target: 'box.mesh' }]
		])
	);
	const { copies } = run.geometry('hidden').copies!;
	assert.equal(copies.count, 10);
	assert.deepEqual([...copies.columns.get('shown')!.data], [0, 0, 0, 0, 0, 1, 1, 1, 1, 1]);
	const left = (name: string) =>
		Array.from(run.geometry(name).copies!.copies.columns.get('shown')!.data).filter((one) => one).length;
	// Too weak for the threshold; where they are now; where they were further up.
	assert.deepEqual([left('weak'), left('now'), left('then')], [10, 0, 10]);
	assert.equal(run.geometry('faces').mesh!.faces.count, 10);
	assert.equal(
		readGlb(writeGlb(run.geometry('faces')), 'x.glb').geometry.mesh!.faces.count,
		10,
		'five quads as triangles'
	);
	assert.equal(writeObj(run.geometry('faces'), 'x.mtl').obj.match(/^f /gm)!.length, 5);
	const fewer = run.geometry('fewer').mesh!;
	assert.deepEqual([fewer.faces.count, fewer.points.count], [5, 12]);
	assert.equal(run.geometry('between').mesh!.points.columns.get('position')!.data[1], 0.5);
	assert.match(run.error('wrong')!, /has 8 points where 22 are blended/);
	const whole = (g: Geometry) => digestOf(g);
	assert.notEqual(whole(run.geometry('hidden')), whole(run.geometry('copies')));
});

test('a cut lies on its plane, loses no area, leaves no crack and blends attributes', () => {
	const run = evaluateAll(
		generator([
			['sphere', 'ball', { radius: 2, segments: 48, rows: 24 }],
			[
				'write-attribute',
				'named',
				{ name: 'h', value: { formula: 'position.y', streams: [] } },
				{ geometry: 'ball.mesh' }
			],
			[
				'cut-at-value',
				'cut',
				{ value: { formula: 'position.y', streams: [] }, threshold: 0.731 },
				{ geometry: 'named.geometry' }
			],
			[
				'delete-where',
				'cap',
				{ weight: { formula: 'attribute.side', streams: [] }, invert: true },
				{ geometry: 'cut.geometry' }
			],
			[
				'delete-where',
				'bowl',
				{ weight: { formula: 'attribute.side', streams: [] } },
				{ geometry: 'cut.geometry' }
			]
		])
	);
	const ball = run.geometry('ball'),
		cut = run.geometry('cut');
	close(areaOf(cut), areaOf(ball), areaOf(ball) * 1e-6, 'area');
	close(
		areaOf(run.geometry('cap')) + areaOf(run.geometry('bowl')),
		areaOf(ball),
		areaOf(ball) * 1e-6,
		'both sides'
	);
	assert.equal(edgesOf(cut.mesh!.topology).uses.filter((uses) => uses !== 2).length, 0, 'closed');
	const old = ball.mesh!.points.count;
	const p = cut.mesh!.points.columns.get('position')!.data,
		h = cut.mesh!.points.columns.get('h')!.data;
	assert.ok(cut.mesh!.points.count > old + 40, 'points were added');
	for (let i = old; i < cut.mesh!.points.count; i++) {
		close(p[3 * i + 1], 0.731, 2e-6, 'on the plane');
		close(h[i], 0.731, 2e-6, 'blended');
	}
	for (let k = 0; k < 3 * old; k++) assert.equal(p[k], ball.mesh!.points.columns.get('position')!.data[k]);
	const low = run.geometry('cap').mesh!.points.columns.get('position')!.data;
	for (let i = 1; i < low.length; i += 3) assert.ok(low[i] > 0.731 - 1e-5, `${low[i]} is below the cut`);
});

test('what is laid along a curve keeps its length or fills it, and repeats close without gaps at a right angle', () => {
	const path: Row = [
		'draw-curve',
		'path',
		{ type: 'straight', path: { path: [{ at: [0, 0, 0] }, { at: [5.3, 0, 0] }, { at: [5.3, 0, 4.1] }] } }
	];
	const run = evaluateAll(
		generator([
			path,
			['line', 'straight', { from: [0, 0, 0], to: [2, 0, 0], points: 200 }],
			[
				'lay-along-curve',
				'kept',
				{ length: 'keep', start: 1 },
				{ geometry: 'straight.curve', path: 'path.curve' }
			],
			['lay-along-curve', 'filled', {}, { geometry: 'straight.curve', path: 'path.curve' }],
			['grid', 'mesh', { width: 1, depth: 0.4, columns: 8, rows: 2 }],
			['transform', 'upright', { rotation: [90, 0, 0] }, { geometry: 'mesh.mesh' }],
			['lay-along-curve', 'net', { length: 'repeat' }, { geometry: 'upright.geometry', path: 'path.curve' }]
		])
	);
	const ends = (name: string) => {
		const p = run.geometry(name).curves!.points.columns.get('position')!.data;
		return [...p.slice(0, 3), ...p.slice(-3)].map((x) => Math.round(x * 1e4) / 1e4);
	};
	assert.deepEqual(ends('kept'), [1, 0, 0, 3, 0, 0]);
	assert.deepEqual(ends('filled'), [0, 0, 0, 5.3, 0, 4.1]);
	// Nine pieces of a net: where one ends the next begins.
	const net = run.geometry('net').mesh!;
	assert.equal(net.faces.count, 9 * 16);
	const p = net.points.columns.get('position')!.data;
	const each = net.points.count / 9;
	let gaps = 0;
	for (let i = 0; i < 8; i++)
		for (let r = 0; r < 3; r++) {
			const a = 3 * (i * each + r * 9 + 8),
				b = 3 * ((i + 1) * each + r * 9);
			if (Math.hypot(p[a] - p[b], p[a + 1] - p[b + 1], p[a + 2] - p[b + 2]) > 1e-4) gaps++;
		}
	assert.equal(gaps, 0);
});

test('a lattice moves what lies in it: its corners exactly, the rest between, and nothing when nothing was moved', () => {
	const rows = (how: string): Row[] => [
		['box', 'box', { size: [2, 2, 2], standing: false, cellsX: 4, cellsY: 4, cellsZ: 4 }],
		['grid-of-points', 'rest', { countX: 3, countY: 3, countZ: 3, by: 'size', size: [2, 2, 2] }],
		[
			'displace',
			'moved',
			{
				along: 'vector',
				amount: 1,
				vector: { formula: 'vec(0, choose(position.y > 0.5, 1, 0), 0)', streams: [] }
			},
			{ geometry: 'rest.points' }
		],
		[
			'bend-lattice',
			'bent',
			{ interpolation: how },
			{ geometry: 'box.mesh', rest: 'rest.points', moved: 'moved.geometry' }
		],
		[
			'bend-lattice',
			'same',
			{ interpolation: how },
			{ geometry: 'box.mesh', rest: 'rest.points', moved: 'rest.points' }
		],
		[
			'bend-lattice',
			'wrong',
			{ countX: 5 },
			{ geometry: 'box.mesh', rest: 'rest.points', moved: 'rest.points' }
		]
	];
	for (const how of ['smooth', 'straight']) {
		const run = evaluateAll(generator(rows(how)));
		const p = run.geometry('box').mesh!.points.columns.get('position')!.data,
			q = run.geometry('bent').mesh!.points.columns.get('position')!.data;
		for (let i = 1; i < p.length; i += 3) {
			const t = (p[i] + 1) / 2;
			// The uppermost of three points counts by t² when smooth, and only in the upper half when straight.
			close(q[i] - p[i], how === 'smooth' ? t * t : Math.max(0, 2 * t - 1), 1e-6, how);
		}
		assert.deepEqual([...run.geometry('same').mesh!.points.columns.get('position')!.data], [...p]);
		assert.match(run.error('wrong')!, /5 × 3 × 3 are 45 control points; “Box” has 27/);
	}
});
