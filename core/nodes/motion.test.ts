import assert from 'node:assert/strict';
import test from 'node:test';
import fc from 'fast-check';
import { Evaluator, isGeometry } from '../engine/index.ts';
import type { GeneratorDocument, Setting } from '../engine/index.ts';
import type { Geometry } from '../geometry/index.ts';
import { digestOf, floats, tableOf } from '../geometry/index.ts';
import type { KeysSetting } from '../engine/document.ts';
import { settingAt } from '../engine/keys.ts';
import { withFrames } from '../engine/time.ts';
import { progressOf } from '../kernels/grown-elements.ts';
import { springStep } from '../kernels/spring.ts';
import { distanceIn, ownPlace } from '../kernels/zone.ts';
import type { Zone } from '../kernels/zone.ts';
import { generator, withBodies } from '../testing/index.ts';
import { runs } from '../testing/runs.ts';

const keys = (...of: [number, Setting][]): KeysSetting => ({
	keys: of.map(([at, value]) => ({ at, value: value as number, easing: 'linear' }))
});
const formula = (text: string): Setting => ({ formula: text, streams: [] });
const shortOf = (document: GeneratorDocument, short: string) =>
	document.graphs.main.nodes.find((node) => node.short === short)!.id;
function at(document: GeneratorDocument, short: string, frame: number, by = new Evaluator()): Geometry {
	const id = shortOf(document, short);
	const result = by.begin(document, { frame }).pull([id]).results.get(id)!;
	assert.equal(result.error, null, result.error?.message);
	return [...result.outputs.values()].find(isGeometry)!;
}
const numbers = (geometry: Geometry, name: string): Float32Array =>
	floats((tableOf(geometry, 'points', 'point') ?? tableOf(geometry, 'copies', 'copy'))!, name);

/** The way of a mass to a target, by the textbook's three cases. */
function closedForm(k: number, c: number, m: number, t: number): number {
	const natural = Math.sqrt(k / m);
	const ratio = c / (2 * Math.sqrt(k * m));
	if (Math.abs(ratio - 1) < 1e-9) return 1 - Math.exp(-natural * t) * (1 + natural * t);
	if (ratio < 1) {
		const damped = natural * Math.sqrt(1 - ratio * ratio);
		return (
			1 -
			Math.exp(-ratio * natural * t) *
				(Math.cos(damped * t) + ((ratio * natural) / damped) * Math.sin(damped * t))
		);
	}
	const root = natural * Math.sqrt(ratio * ratio - 1);
	const [a, b] = [-ratio * natural + root, -ratio * natural - root];
	return 1 - (a * Math.exp(b * t) - b * Math.exp(a * t)) / (a - b);
}

test('a spring’s step is the closed form in all three cases of damping, at 24, 30 and 60 frames a second', () => {
	for (const rate of [24, 30, 60])
		for (const [k, c, m] of [
			[100, 4, 1],
			[100, 20, 1],
			[100, 60, 1],
			[37, 1.3, 2.5],
			[1000, 63.3, 1]
		]) {
			const { yy, yv, vy, vv } = springStep({ stiffness: k, damping: c, mass: m }, 1 / rate);
			let [y, v] = [-1, 0];
			for (let frame = 1; frame <= 3 * rate; frame++) {
				[y, v] = [yy * y + yv * v, vy * y + vv * v];
				assert.ok(Math.abs(1 + y - closedForm(k, c, m, frame / rate)) < 1e-6, `${k} ${c} ${m} ${frame}`);
			}
		}
});

test('a spring never grows, however stiff it is, however strongly damped, however long the step', () => {
	const wide = (low: number, high: number) => fc.double({ min: low, max: high, noNaN: true });
	fc.assert(
		fc.property(wide(-3, 9), wide(-6, 6), wide(-3, 6), wide(-3, 1), (k, c, m, h) => {
			const spring = { stiffness: 10 ** k, damping: 10 ** c, mass: 10 ** m };
			const { yy, yv, vy, vv } = springStep(spring, 10 ** h);
			let [y, v] = [1, 0];
			const energy = () => spring.stiffness * y * y + spring.mass * v * v;
			const before = energy();
			for (let i = 0; i < 50; i++) {
				[y, v] = [yy * y + yv * v, vy * y + vv * v];
				assert.ok(energy() <= before * (1 + 1e-6), `${JSON.stringify(spring)} ${10 ** h}`);
			}
		}),
		{ numRuns: 300 }
	);
});

/** Points that jump at frame 5, followed. */
const jumping = (more: Record<string, Setting>): GeneratorDocument =>
	generator([
		['grid-of-points', 'field', { countX: 5, countY: 1, countZ: 5 }],
		[
			'transform',
			'moved',
			{ move: [formula('choose(frame >= 5, 1, 0)'), 0, 0] },
			{ geometry: 'field.points' }
		],
		['damped-follow', 'late', more, { geometry: 'moved.geometry' }]
	]);

test('positions follow a jump as the closed form says, at each rate', () => {
	for (const rate of [24, 60]) {
		const document = withFrames(jumping({ stiffness: 80, damping: 3, mass: 1 }), {
			rate,
			first: 1,
			last: 200
		});
		const still = numbers(at(document, 'field', 1), 'position');
		for (const frame of [4, 5, 9, 40]) {
			const moved = numbers(at(document, 'late', frame), 'position');
			// What it is drawn to goes straight from frame 4 to frame 5: as many small jumps, one after another.
			const steps = Array.from({ length: 400 }, (_, i) => (i + 0.5) / 400 / rate);
			const since = (frame - 4) / rate;
			const way =
				frame < 5 ? 0 : steps.reduce((sum, s) => sum + closedForm(80, 3, 1, since - s), 0) / steps.length;
			for (let i = 0; i < moved.length; i += 3) assert.ok(Math.abs(moved[i] - still[i] - way) < 1e-5);
		}
	}
});

test('a target that moves evenly is followed the same at every rate, and one that swings nearly so', () => {
	const swinging = (rate: number, way: string): number[] => {
		const document = withFrames(
			generator([
				['grid-of-points', 'field', { countX: 1, countY: 1, countZ: 1 }],
				['transform', 'moved', { move: [formula(way), 0, 0] }, { geometry: 'field.points' }],
				['damped-follow', 'late', { stiffness: 60, damping: 4 }, { geometry: 'moved.geometry' }]
			]),
			{ rate, first: 1, last: 2 * rate + 1 }
		);
		const by = new Evaluator();
		return [0.5, 1, 1.5, 2].map((time) => numbers(at(document, 'late', 1 + time * rate, by), 'position')[0]);
	};
	const apart = (way: string, rate: number): number => {
		const [coarse, fine] = [swinging(rate, way), swinging(240, way)];
		return Math.max(...coarse.map((x, i) => Math.abs(x - fine[i])));
	};
	assert.ok(apart('time * 3', 24) < 1e-5);
	assert.ok(apart('time * 3', 10) < 1e-5);
	// It was 0.19 m behind.
	assert.ok(apart('sin(time * 6.283185307)', 24) < 0.02);
});

test('of a pass and its progress each tells the other, in numbers of 32 bits too', () => {
	for (let levels = 0; levels < 1500; levels++)
		for (let level = 0; level <= levels; level += 1 + (levels >> 6)) {
			const progress = progressOf(level, levels);
			assert.equal(Math.fround(progress), progress);
			assert.equal(Math.ceil(progress * (levels + 1)) - 1, level);
			assert.ok(progress <= 1 && (level < levels || progress === 1));
		}
});

test('frame 40 is the same whether it is played to, jumped to, scrubbed back to, or asked of a new evaluator', () => {
	const document = jumping({ damping: 1 });
	const alone = digestOf(at(document, 'late', 40));
	const by = new Evaluator();
	for (let frame = 1; frame <= 40; frame++) at(document, 'late', frame, by);
	assert.equal(digestOf(at(document, 'late', 40, by)), alone);
	at(document, 'late', 90, by);
	assert.equal(digestOf(at(document, 'late', 40, by)), alone);
	// With little memory, so that what was remembered has gone, too.
	const poor = new Evaluator({ memory: 3e5 });
	at(document, 'late', 90, poor);
	assert.equal(digestOf(at(document, 'late', 40, poor)), alone);
	assert.notEqual(digestOf(at(document, 'late', 41)), alone);
});

test('an edit begins the fold anew, and when it is undone what was remembered is there again', () => {
	const document = jumping({ damping: 1 });
	const by = new Evaluator();
	const before = digestOf(at(document, 'late', 60, by));
	const edited = jumping({ damping: 2 });
	const { begun } = by.states;
	assert.notEqual(digestOf(at(edited, 'late', 60, by)), before);
	assert.equal(by.states.begun, begun + 1);
	const ran = by.begin(document, { frame: 61 }).pull([shortOf(document, 'late')]).ran;
	assert.ok(ran.length < 10, `${ran.length} nodes ran`);
	assert.equal(by.states.begun, begun + 1, 'it went on from what was remembered');
	assert.equal(digestOf(at(document, 'late', 60, by)), before);
});

test('elements are told apart by id: more of them keep the way of those that were there', () => {
	const sown = (count: number): GeneratorDocument =>
		generator([
			['grid', 'mud', { width: 4, depth: 4 }],
			['sow-points', 'sown', { by: 'count', count, minimumDistance: 0 }, { surface: 'mud.mesh' }],
			['transform', 'up', { move: [0, formula('sin(5 * time)'), 0] }, { geometry: 'sown.points' }],
			['damped-follow', 'late', {}, { geometry: 'up.geometry' }]
		]);
	const [few, many] = [sown(40), sown(90)].map((document) => numbers(at(document, 'late', 20), 'position'));
	assert.equal(few.length, 120);
	for (let i = 0; i < few.length; i++) assert.equal(few[i], many[i]);
});

/** How finely a sweep is tried that a latch must agree with. */
const STEPS = 4000;

test('a latch holds exactly what a zone swept between two frames, as a sweep in 4,000 steps finds it', () => {
	const end = fc.tuple(...[0, 1].map(() => fc.double({ min: -6, max: 6, noNaN: true })));
	fc.assert(
		fc.property(
			end,
			end,
			fc.constantFrom('sphere', 'box', 'cylinder'),
			fc.double({ min: 0.2, max: 3, noNaN: true }),
			([x0, z0], [x1, z1], shape, size) => {
				const zone = { shape, size: [size, 2, size * 1.5], inner: 0, outer: 0, rotation: [0, 30, 0] };
				const centre = keys([1, [x0, 0, z0]], [2, [x1, 0, z1]]);
				const document = generator([
					['grid-of-points', 'field', { countX: 13, countY: 1, countZ: 13, spacing: [0.7, 1, 0.7] }],
					['weight-in-zone', 'zone', { ...zone, centre } as never],
					['latch', 'held', { threshold: 0.5 }, { geometry: 'field.points', when: 'zone.weight' }]
				]);
				const held = numbers(at(document, 'held', 2), 'latched');
				const p = numbers(at(document, 'field', 1), 'position');
				const stopAt = (s: number) => {
					const [cx, cy, cz] = settingAt(centre, 1 + s / STEPS) as number[];
					return { ...zone, rotate: [0, 30, 0], centre: [cx, cy, cz], power: 1 } as unknown as Zone;
				};
				const places: ReturnType<typeof ownPlace>[] = [];
				const distance = distanceIn(stopAt(0));
				const own = [0, 0, 0];
				// No stop is further from the next than this: those at which the zone cannot have come near are passed over.
				const step = Math.hypot(x1 - x0, z1 - z0) / STEPS + 1e-9;
				for (let i = 0; i < held.length; i++) {
					let nearest = Infinity;
					for (let s = 0; s <= STEPS && nearest > -2e-5;) {
						(places[s] ??= ownPlace(stopAt(s)))(own, p[3 * i], p[3 * i + 1], p[3 * i + 2]);
						const here = distance(own[0], own[1], own[2]);
						nearest = Math.min(nearest, here);
						s += Math.max(1, Math.floor((0.9 * here) / step));
					}
					// On the very edge the sweep's own steps decide nothing.
					if (Math.abs(nearest) > 2e-5)
						assert.equal(held[i], nearest < 0 ? 1 : 0, `${shape} ${i} ${nearest}`);
				}
			}
		),
		{ numRuns: 30 }
	);
});

test('a zone that turns between two frames latches what it swept, and nothing else', () => {
	fc.assert(
		fc.property(
			fc.double({ min: -180, max: 180, noNaN: true }),
			fc.double({ min: 0, max: 3, noNaN: true }),
			(turn, along) => {
				const zone = { shape: 'box', size: [9, 2, 0.4], inner: 0, outer: 0 };
				const [centre, rotate] = [
					keys([1, [0, 0, 0]], [2, [along, 0, 0]]),
					keys([1, [0, 0, 0]], [2, [0, turn, 0]])
				];
				const document = generator([
					['grid-of-points', 'field', { countX: 15, countY: 1, countZ: 15, spacing: [0.7, 1, 0.7] }],
					['weight-in-zone', 'zone', { ...zone, centre, rotation: rotate } as never],
					['latch', 'held', { threshold: 0.5 }, { geometry: 'field.points', when: 'zone.weight' }]
				]);
				const held = numbers(at(document, 'held', 2), 'latched');
				const p = numbers(at(document, 'field', 1), 'position');
				const nearest = new Float64Array(held.length).fill(Infinity);
				const own = [0, 0, 0];
				for (let s = 0; s <= 400; s++) {
					const stop = {
						...{ ...zone, power: 1 },
						centre: [(along * s) / 400, 0, 0],
						rotate: [0, (turn * s) / 400, 0]
					} as unknown as Zone;
					const [place, distance] = [ownPlace(stop), distanceIn(stop)];
					for (let i = 0; i < held.length; i++) {
						place(own, p[3 * i], p[3 * i + 1], p[3 * i + 2]);
						nearest[i] = Math.min(nearest[i], distance(own[0], own[1], own[2]));
					}
				}
				// A piece of 5° errs by 5 mm at a radius of 5 m, and so do these stops.
				for (let i = 0; i < held.length; i++)
					if (Math.abs(nearest[i]) > 0.03)
						assert.equal(held[i], nearest[i] < 0 ? 1 : 0, `${i} ${nearest[i]}`);
			}
		),
		{ numRuns: 30 }
	);
});

test('a latch stays, fades after a time, and is let go; in steps it sees what passed between two frames', () => {
	const latched = (settings: Record<string, Setting>, when = 'choose(frame >= 3 and frame < 4, 1, 0)') => {
		const document = withFrames(
			generator([
				['row-of-points', 'row', { count: 3 }],
				['latch', 'held', { when: formula(when), ...settings }, { geometry: 'row.points' }]
			]),
			{ rate: 10, first: 1, last: 100 }
		);
		const by = new Evaluator();
		return (frame: number) => numbers(at(document, 'held', frame, by), 'latched')[0];
	};
	const stays = latched({});
	assert.deepEqual([1, 2, 3, 50].map(stays), [0, 0, 1, 1]);
	const fades = latched({ fades: true, fadeAfter: 1, fadeOver: 0.5 });
	// Last reached just before frame 4; it was looked at in quarters of a frame.
	assert.ok(fades(13) === 1 && fades(19) < fades(16) && fades(30) === 0);
	const letGo = latched({ release: formula('frame > 7') });
	assert.deepEqual([7, 8, 9].map(letGo), [1, 0, 0]);
	// Reached only between frames 5 and 6.
	const quick = 'choose(frame > 5.4 and frame < 5.6, 1, 0)';
	assert.deepEqual([5, 6].map(latched({ between: 2 }, quick)), [0, 1]);
	assert.deepEqual([5, 6].map(latched({ between: 1 }, quick)), [0, 0]);
	const most = latched({ keeps: 'most' }, 'choose(frame < 5, frame / 10, 0)');
	assert.ok(Math.abs(most(20) - 0.475) < 1e-6);
});

test('an earlier value is what it was so many frames ago; a motion path goes through where things were', () => {
	const document = generator([
		['row-of-points', 'row', { count: 4 }],
		['transform', 'up', { move: [0, formula('frame * 0.5'), 0] }, { geometry: 'row.points' }],
		['earlier-value', 'was', { frames: 7, value: formula('position') }, { geometry: 'up.geometry' }],
		['motion-path', 'path', { frames: 10, step: 5 }, { geometry: 'up.geometry' }]
	]);
	const by = new Evaluator();
	const earlier = numbers(at(document, 'was', 20, by), 'earlier');
	assert.ok(Math.abs(earlier[1] - 6.5) < 1e-6);
	// Before the first frame there was nothing.
	assert.ok(Math.abs(numbers(at(document, 'was', 3, by), 'earlier')[1] - 0.5) < 1e-6);
	const path = at(document, 'path', 20, by);
	assert.equal(path.curves!.starts.length, 5);
	const places = floats(path.curves!.points, 'position');
	assert.deepEqual(
		[1, 4, 7].map((k) => places[k]),
		[5, 7.5, 10]
	);
});

test('what remembers stands in a subgraph too, and in two uses each by itself; in a repeat it says that it cannot', () => {
	const document = withBodies(
		[
			['row-of-points', 'row', { count: 3 }],
			['transform', 'up', { move: [0, formula('frame'), 0] }, { geometry: 'row.points' }],
			['subgraph', 'soft', { body: 'follow', damping: 9 }, { geometry: 'up.geometry' }],
			['damped-follow', 'plain', { damping: 9 }, { geometry: 'up.geometry' }],
			['repeat', 'again', { body: 'follow', passes: 2 }, { geometry: 'up.geometry' }]
		],
		{
			follow: [
				['input', 'inner', { name: 'geometry', role: 'carried' }],
				['input', 'damping', { name: 'damping', carries: 'number', default: 2 }],
				['damped-follow', 'late', {}, { geometry: 'inner.value', damping: 'damping.value' }],
				['output', 'out', { name: 'geometry' }, { value: 'late.geometry' }]
			]
		}
	);
	const by = new Evaluator();
	for (const frame of [30, 31, 12])
		assert.deepEqual(
			numbers(at(document, 'soft', frame, by), 'position'),
			numbers(at(document, 'plain', frame, by), 'position')
		);
	const id = shortOf(document, 'again');
	const { error } = by.begin(document, { frame: 3 }).pull([id]).results.get(id)!;
	assert.match(error!.message, /nothing is remembered from frame to frame. Put this node outside/);
});

test('targets that are no numbers, and frames before the first, are met with a sentence or the first state', () => {
	const document = jumping({});
	assert.equal(digestOf(at(document, 'late', -20)), digestOf(at(document, 'late', 1)));
	const broken = generator([
		['row-of-points', 'row', { count: 3 }],
		[
			'write-attribute',
			'heat',
			{ name: 'heat', value: formula('0 / (index - 1)') },
			{ geometry: 'row.points' }
		],
		['damped-follow', 'late', { follows: 'attribute', name: 'heat' }, { geometry: 'heat.geometry' }]
	]);
	const id = shortOf(broken, 'late');
	const result = new Evaluator().begin(broken, { frame: 2 }).pull([id]).results.get(id)!;
	if (result.error) assert.match(result.error.message, /no number|heat/);
	else assert.ok([...numbers(at(broken, 'late', 2), 'heat')].every(Number.isFinite));
});

test('what a zone sweeps is never less than what it weighs at a moment between, whatever else of it changes', () => {
	const place = fc.tuple(...[0, 1, 2].map(() => fc.double({ min: -5, max: 5, noNaN: true })));
	const width = fc.double({ min: 0.4, max: 4, noNaN: true });
	fc.assert(
		fc.property(
			place,
			place,
			width,
			width,
			fc.constantFrom('sphere', 'box', 'cylinder', 'half-space'),
			fc.double({ min: 0.1, max: 2, noNaN: true }),
			(from, to, wide, wider, shape, outer) => {
				const [first, second] = [wide, wider].map((x) => [x, x, x]);
				const zone = (centre: Setting, of: Setting) =>
					generator([
						['grid-of-points', 'field', { countX: 5, countY: 5, countZ: 5 }],
						['weight-in-zone', 'zone', { shape, centre, size: of, inner: 0, outer }],
						['latch', 'held', { keeps: 'most' }, { geometry: 'field.points', when: 'zone.weight' }]
					]);
				const moving = zone(
					keys([1, from as never], [2, to as never]),
					keys([1, first as never], [2, second as never])
				);
				const held = numbers(at(moving, 'held', 2), 'latched');
				for (const t of [0, 0.31, 0.5, 0.77, 1]) {
					const mix = (a: readonly number[], b: readonly number[]) =>
						a.map((x, k) => x + (b[k] - x) * t) as unknown as Setting;
					const still = numbers(at(zone(mix(from, to), mix(first, second)), 'held', 1), 'latched');
					for (let i = 0; i < held.length; i++)
						assert.ok(held[i] >= still[i] - 1e-3, `${shape} ${t}: ${held[i]} < ${still[i]}`);
				}
			}
		),
		{ numRuns: 30 }
	);
});

test('a zone that did not move holds what it weighs; copies are latched by their places', () => {
	const document = generator([
		['grid-of-points', 'field', { countX: 9, countY: 1, countZ: 9 }],
		['box', 'box', {}],
		['place-copies', 'copies', {}, { points: 'field.points', source: 'box.mesh' }],
		['weight-in-zone', 'zone', { size: [6, 6, 6], inner: -1, outer: 1 }],
		[
			'latch',
			'held',
			{ keeps: 'most', elements: 'copy' },
			{ geometry: 'copies.copies', when: 'zone.weight' }
		],
		[
			'write-attribute',
			'asIs',
			{ name: 'weight', elements: 'copy' },
			{ geometry: 'copies.copies', value: 'zone.weight' }
		]
	]);
	const by = new Evaluator();
	const plain = floats(at(document, 'asIs', 1, by).copies!.copies, 'weight');
	for (const frame of [1, 2, 9])
		assert.deepEqual(floats(at(document, 'held', frame, by).copies!.copies, 'latched'), plain);
	assert.ok(plain.some((x) => x === 1) && plain.some((x) => x === 0) && plain.some((x) => x > 0 && x < 1));
});

test('rotations go the shorter way round, and stay turns; scales and attributes follow too', () => {
	const turning = (follows: string, more: Record<string, Setting> = {}) =>
		generator([
			['row-of-points', 'row', { count: 3 }],
			['box', 'box', {}],
			[
				'place-copies',
				'copies',
				{
					rotation: [0, formula('choose(frame < 3, 0, 350)'), 0],
					scale: formula('choose(frame < 3, 1, 3)'),
					follow: false
				},
				{ points: 'row.points', source: 'box.mesh' }
			],
			[
				'write-attribute',
				'heat',
				{ name: 'heat', elements: 'copy', value: formula('choose(frame < 3, 0, 10)') },
				{ geometry: 'copies.copies' }
			],
			[
				'damped-follow',
				'late',
				{ follows, stiffness: 50, damping: 14.2, ...more },
				{ geometry: 'heat.geometry' }
			]
		]);
	const turned = at(turning('rotation'), 'late', 6).copies!.copies;
	const q = floats(turned, 'orientation');
	for (let i = 0; i < 12; i += 4) {
		const length = Math.hypot(q[i], q[i + 1], q[i + 2], q[i + 3]);
		assert.ok(Math.abs(length - 1) < 1e-6);
		// From 0° to 350° is ten degrees back, and never the long way.
		const angle = 2 * Math.acos(Math.min(1, Math.abs(q[i + 3]))) * (180 / Math.PI);
		assert.ok(angle > 0.5 && angle < 10, `${angle}°`);
	}
	const scales = floats(at(turning('scale'), 'late', 6).copies!.copies, 'scale');
	assert.ok(scales.every((x) => x > 1.2 && x < 3));
	const heat = floats(at(turning('attribute', { name: 'heat' }), 'late', 6).copies!.copies, 'heat');
	assert.ok(heat.every((x) => x > 1 && x < 10));
	assert.deepEqual(
		floats(at(turning('attribute', { name: 'heat' }), 'late', 200).copies!.copies, 'heat').map(Math.round),
		Float32Array.of(10, 10, 10)
	);
});

test('a fold through very many frames holds what one step needs, not all of them', () => {
	const document = withFrames(
		generator([
			['grid-of-points', 'field', { countX: 40, countY: 1, countZ: 40 }],
			['transform', 'moved', { move: [formula('sin(time)'), 0, 0] }, { geometry: 'field.points' }],
			['damped-follow', 'late', {}, { geometry: 'moved.geometry' }]
		]),
		{ rate: 24, first: 1, last: 5000 }
	);
	// Each frame's points take 19 kB and more: a thousand of them would be far above this.
	const poor = new Evaluator({ memory: 4e6 });
	const once = digestOf(at(document, 'late', 1000, poor));
	assert.ok(poor.ledger.held <= 4e6, `${poor.ledger.held} bytes`);
	assert.equal(digestOf(at(document, 'late', 1000)), once);
	// Played on, as much is held as before.
	const levels = [1100, 1300, 1500].map((frame) => (at(document, 'late', frame, poor), poor.ledger.held));
	assert.ok(Math.max(...levels) <= 4e6, levels.join());
});

test('what remembers inside of a body that is looked into leaves all of the body standing', () => {
	const document = withBodies(
		[
			['row-of-points', 'row', { count: 3 }],
			['transform', 'up', { move: [0, formula('frame'), 0] }, { geometry: 'row.points' }],
			['subgraph', 'soft', { body: 'follow' }, { geometry: 'up.geometry' }]
		],
		{
			follow: [
				['input', 'inner', { name: 'geometry' }],
				['damped-follow', 'late', {}, { geometry: 'inner.value' }],
				['transform', 'aside', {}, { geometry: 'inner.value' }],
				['output', 'out', { name: 'geometry' }, { value: 'late.geometry' }]
			]
		}
	);
	const use = shortOf(document, 'soft');
	const by = new Evaluator();
	for (const frame of [1, 9, 4]) {
		const run = by.begin(document, { frame, into: [{ node: use, place: 0 }] });
		assert.equal(run.pull([use]).results.get(use)!.error, null);
		const { scope } = run.inside()!;
		const states = document.graphs.follow.nodes.map(({ id }) => scope.results.get(id)?.state);
		assert.deepEqual(states, ['fresh', 'fresh', 'fresh', 'fresh'], `frame ${frame}`);
	}
});

test('over very many frames the memory that is held stays level', () => {
	const last = runs(5000, 1000);
	const document = withFrames(
		generator([
			['row-of-points', 'row', { count: 200 }],
			['box', 'box', {}],
			['place-copies', 'copies', {}, { points: 'row.points', source: 'box.mesh' }],
			['weight-in-zone', 'zone', { centre: [formula('fract(time / 10) * 200'), 0, 0], size: [4, 4, 4] }],
			[
				'transform',
				'moved',
				{ about: 'own', move: [0, formula('sin(time)'), 0] },
				{ geometry: 'copies.copies' }
			],
			['latch', 'latched', { elements: 'copy' }, { geometry: 'moved.geometry', when: 'zone.weight' }],
			['damped-follow', 'late', {}, { geometry: 'latched.geometry' }]
		]),
		{ rate: 24, first: 1, last }
	);
	const { id } = document.graphs.main.nodes.at(-1)!;
	const limit = 4800 * last;
	const evaluator = new Evaluator({ memory: limit });
	const held: number[] = [];
	for (let frame = 1; frame <= last; frame++) {
		evaluator.begin(document, { frame }).pull([id]);
		if (frame % (last / 10) === 0) held.push(evaluator.ledger.held);
	}
	assert.ok(
		held.every((bytes) => bytes <= limit),
		String(held)
	);
	// Once what may be kept is full, it neither grows nor falls.
	const late = held.slice(4);
	assert.ok(Math.max(...late) - Math.min(...late) < 0.1 * limit, String(held));
});
