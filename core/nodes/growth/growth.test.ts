/** What grows: copies on copies, branches on branches, leaves, whorls and strands, measured on what comes of them. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { Places, curveCount, digestOf, floats, lengthsAlong, positionsOf } from '../../geometry/index.ts';
import type { Curves, Geometry } from '../../geometry/index.ts';
import { evaluateAll, generator } from '../../testing/index.ts';
import type { Row } from '../../testing/index.ts';
import { runs } from '../../testing/runs.ts';
import { progressOf } from '../../kernels/grown-elements.ts';

const plain = (formula: string) => ({ formula, streams: [] });
const range = (low: number, high: number, stream: string) => ({ low, high, stream });
const grown = (settings: Record<string, unknown>, more: Row[] = [], wires: Record<string, string> = {}) =>
	evaluateAll(
		generator([...more, ['grow-branches', 'plant', { towards: 'none', leafSpacing: 0, ...settings }, wires]])
	);
const curvesOf = (run: ReturnType<typeof grown>): Curves => run.geometry('plant').curves!;
const column = (curves: Curves, name: string): ArrayLike<number> => curves.curves.columns.get(name)!.data;
/** Where a curve begins and the direction of its first piece. */
const beginning = (curves: Curves, c: number): { at: number[]; way: number[] } => {
	const p = positionsOf(curves);
	const o = 3 * curves.starts[c];
	const way = [0, 1, 2].map((k) => p[o + 3 + k] - p[o + k]);
	const length = Math.hypot(...way);
	return { at: [0, 1, 2].map((k) => p[o + k]), way: way.map((x) => x / length) };
};
const degrees = (cosine: number): number => (Math.acos(Math.max(-1, Math.min(1, cosine))) * 180) / Math.PI;
const near = (a: number, b: number, by: number, what = '') =>
	assert.ok(Math.abs(a - b) <= by, `${what} ${a} is not ${b} within ${by}`);

const branching = (levels: number, settings: Record<string, unknown> = {}) =>
	evaluateAll(
		generator([
			['box', 'stick', { size: [0.1, 1, 0.1] }],
			[
				'branching-copies',
				'tree',
				{ levels, move: [0, 1, 0], rotation: [0, 0, plain('(sibling - 0.5) * 50')], scale: 0.7, ...settings },
				{ source: 'stick.mesh' }
			]
		])
	);

test('2 children and 16 levels are 131,071 copies, each where the closed form says', () => {
	const { copies, sources } = branching(16).geometry('tree').copies!;
	assert.equal(copies.count, 131_071);
	assert.equal(sources.length, 1);
	const places = new Places(copies);
	const parent = copies.columns.get('parent')!.data,
		sibling = copies.columns.get('sibling')!.data,
		level = copies.columns.get('level')!.data;
	const progress = floats(copies, 'progress');
	for (const row of [0, 1, 2, 5, 1000, 65_535, 131_070]) {
		// All turns are about z, so they add up; the way back to the root says them all.
		const way: number[] = [];
		for (let at = row; parent[at] >= 0; at = parent[at]) way.unshift(sibling[at]);
		assert.equal(way.length, level[row]);
		near(progress[row], (level[row] + 1) / 17, 1e-6);
		let [x, y, turn, size] = [0, 0, 0, 1];
		for (const one of way) {
			x += -Math.sin(turn) * size;
			y += Math.cos(turn) * size;
			turn += ((one - 0.5) * 50 * Math.PI) / 180;
			size *= 0.7;
		}
		near(places.position[3 * row], x, 1e-5, `x of ${row}`);
		near(places.position[3 * row + 1], y, 1e-5, `y of ${row}`);
		near(places.scale[3 * row], size, 1e-5);
		near(Math.abs(places.orientation[4 * row + 2]), Math.abs(Math.sin(turn / 2)), 1e-5);
	}
});

test('one level more keeps the earlier copies to the bit, whatever they draw by chance', () => {
	const settings = {
		rotation: [0, range(0, 360, 'spin'), plain('(sibling - 0.5) * 50')],
		scale: range(0.5, 0.9, 'size')
	};
	const [fewer, more] = [6, 7].map((levels) => branching(levels, settings).geometry('tree').copies!.copies);
	for (const name of ['position', 'orientation', 'scale', 'parent', 'sibling']) {
		const [a, b] = [fewer, more].map((table) => table.columns.get(name)!.data);
		assert.deepEqual(a, b.subarray(0, a.length), name);
	}
	assert.deepEqual(fewer.ids, more.ids!.subarray(0, fewer.ids!.length));
});

test('40 levels are refused at once, with how many fit; a condition ends branches early', () => {
	assert.match(branching(40).error('tree')!, /would make .* copies; 2,000,000 fit. 19 levels fit/);
	const ended = branching(40, { continues: plain('level < 3 and sibling == 0') }).geometry('tree').copies!;
	// The root and each first child carry two; the second carries none.
	assert.equal(ended.copies.count, 1 + 2 + 2 + 2);
	const bare = branching(40, { continues: false }).geometry('tree').copies!;
	assert.equal(bare.copies.count, 1, 'plainly no: the source alone');
	assert.match(
		branching(40, { children: 20, continues: plain('level < 100') }).error('tree')!,
		/At level 5 there would be/
	);
});

test('places on a wire say where children stand, and each level may have a source of its own', () => {
	const run = evaluateAll(
		generator([
			['box', 'a', {}],
			['sphere', 'b', {}],
			['ring-of-points', 'ring', { count: 3, radius: 2 }],
			[
				'branching-copies',
				'tree',
				{ levels: 2, move: [0, 0, 0], rotation: [0, 0, 0], scale: 0.5 },
				{ source: ['a.mesh', 'b.mesh'], places: 'ring.points' }
			]
		])
	);
	const { copies } = run.geometry('tree').copies!;
	assert.equal(copies.count, 1 + 3 + 9);
	assert.deepEqual([...copies.columns.get('source')!.data], [0, ...Array<number>(12).fill(1)]);
	const { position } = new Places(copies);
	near(Math.hypot(position[3], position[5]), 2, 1e-6);
	near(Math.hypot(position[12] - position[3], position[14] - position[5]), 1, 1e-6);
});

test('branches stand at their insertion and divergence angles, as long and as thick as is set', () => {
	const run = grown({
		levels: 1,
		count: 40,
		start: 0.2,
		end: 0.9,
		angle: 37,
		divergence: 137.508,
		length: 0.5,
		lengthRamp: { stops: [] },
		radius: 0.4,
		taper: { stops: [] },
		stemLength: 4,
		stemRadius: 0.2,
		segments: 10
	});
	const curves = curvesOf(run);
	assert.equal(curveCount(curves), 41);
	const { lengths } = lengthsAlong(curves);
	const radius = floats(curves.points, 'radius');
	const rounds: number[] = [];
	for (let c = 1; c <= 40; c++) {
		const { at, way } = beginning(curves, c);
		near(degrees(way[1]), 37, 1e-3, 'insertion');
		near(at[1], 4 * (0.2 + (0.7 * (c - 1)) / 39), 1e-5, 'place');
		near(lengths[c], 2, 1e-4, 'length');
		near(radius[curves.starts[c]], 0.08, 1e-6, 'radius');
		rounds.push((Math.atan2(way[0], way[2]) * 180) / Math.PI);
	}
	for (let i = 1; i < 40; i++) {
		const between = (((rounds[i] - rounds[i - 1]) % 360) + 360) % 360;
		near(Math.min(between, 360 - between), 137.508, 1e-2, 'divergence');
	}
});

test('internodes are as far apart as is set, opposite and whorled places bear as many as they say', () => {
	const spaced = curvesOf(
		grown({ levels: 1, by: 'spacing', spacing: 0.25, start: 0, end: 1, stemLength: 2 })
	);
	assert.equal(curveCount(spaced), 1 + 9);
	for (let c = 2; c < 10; c++) near(beginning(spaced, c).at[1] - beginning(spaced, c - 1).at[1], 0.25, 1e-5);
	assert.equal(curveCount(curvesOf(grown({ levels: 1, count: 5, arrangement: 'opposite' }))), 1 + 10);
	const whorled = curvesOf(grown({ levels: 1, count: 4, arrangement: 'whorled', whorl: 5, angle: 90 }));
	assert.equal(curveCount(whorled), 1 + 20);
	// The directions of a whorl cancel out.
	for (const axis of [0, 2]) {
		const sum = [1, 2, 3, 4, 5].reduce((total, c) => total + beginning(whorled, c).way[axis], 0);
		near(sum, 0, 1e-5);
	}
});

test('of a whole range from 3 to 8 each count comes equally often over 10,000 stems, and chance means what it says', () => {
	const run = grown(
		{
			levels: 1,
			count: range(3, 8, 'many'),
			angle: range(30, 60, 'angle'),
			length: 0.3,
			lengthRamp: { stops: [] },
			segments: 1,
			stemLength: 1
		},
		[['grid-of-points', 'roots', { countX: 100, countY: 1, countZ: 100, spacing: [2, 2, 2] }]],
		{ from: 'roots.points' }
	);
	const curves = curvesOf(run);
	const level = column(curves, 'level'),
		parent = column(curves, 'parent');
	const stems = [...Array(curveCount(curves)).keys()].filter((c) => level[c] === 0).length;
	assert.equal(stems, 10_000);
	const counts = new Int32Array(stems);
	let angles = 0;
	for (let c = stems; c < curveCount(curves); c++) {
		counts[parent[c]]++;
		angles += degrees(beginning(curves, c).way[1]);
	}
	const often = [3, 4, 5, 6, 7, 8].map((n) => counts.filter((one) => one === n).length);
	assert.equal(
		often.reduce((a, b) => a + b),
		10_000
	);
	const wanted = 10_000 / 6;
	const chiSquare = often.reduce((sum, n) => sum + (n - wanted) ** 2 / wanted, 0);
	assert.ok(chiSquare < 20.5, `${often.join()} are not equally often`);
	const branches = curveCount(curves) - stems;
	near(angles / branches, 45, (3 * 30) / Math.sqrt(12 * branches), 'mean angle');
});

test('where areas are kept, all tips together have the section of the stem', () => {
	fc.assert(
		fc.property(
			fc.integer({ min: 1, max: 3 }),
			fc.integer({ min: 1, max: 5 }),
			fc.double({ min: 0.1, max: 0.44, noNaN: true }),
			(levels, count, radius) => {
				const curves = curvesOf(
					grown({ levels, count, radius, keepsArea: true, stemRadius: 0.3, segments: 4, end: 0.8 })
				);
				const radii = floats(curves.points, 'radius');
				let area = 0;
				for (let c = 0; c < curveCount(curves); c++) area += radii[curves.starts[c + 1] - 1] ** 2;
				near(Math.sqrt(area), 0.3, 1e-4);
			}
		),
		{ numRuns: 30 }
	);
});

test('no branch goes under the ground, or into an obstacle, where that is forbidden', () => {
	const low = (run: ReturnType<typeof grown>) =>
		Math.min(...positionsOf(curvesOf(run)).filter((_, i) => i % 3 === 1));
	const drooping = { levels: 2, count: 8, towards: 'down', pull: 4, start: 0.1, length: 1.2, wobble: 30 };
	assert.ok(low(grown(drooping)) < -0.2, 'without, some do');
	assert.ok(low(grown({ ...drooping, aboveGround: true })) > -1e-5);
	const walled = grown(
		{ levels: 1, count: 30, length: 1, angle: 80, obstacle: undefined },
		[
			['box', 'wall', { size: [0.1, 20, 20] }],
			['transform', 'aside', { move: [1, 0, 0] }, { geometry: 'wall.mesh' }]
		],
		{ obstacle: 'aside.geometry' }
	);
	const right = Math.max(...positionsOf(curvesOf(walled)).filter((_, i) => i % 3 === 0));
	assert.ok(right < 0.95 && right > 0.4, `${right}`);
});

test('what is drawn up turns up, by a third of the angle left at a pull of 1, whatever the segments', () => {
	for (const segments of [4, 40]) {
		const p = positionsOf(
			curvesOf(
				grown(
					{ levels: 0, towards: 'up', pull: 1, segments, stemLength: 1 },
					[['whorl-of-points', 'one', { count: 1, angle: 60 }]],
					{ from: 'one.points' }
				)
			)
		);
		const end = p.length - 3;
		const way = [0, 1, 2].map((k) => p[end + k] - p[end - 3 + k]);
		near(degrees(way[1] / Math.hypot(...way)), 60 * Math.exp(-1), 1e-2);
	}
});

test('levels differ by formulas, and each knows its parent', () => {
	const curves = curvesOf(
		grown({
			levels: 2,
			count: 3,
			length: plain('choose(level == 1, 0.5, 0.25 * parent.length)'),
			lengthRamp: { stops: [] },
			stemLength: 4
		})
	);
	const { lengths } = lengthsAlong(curves);
	const level = column(curves, 'level');
	for (let c = 0; c < curveCount(curves); c++)
		near(lengths[c], [4, 2, 2 * 0.25 * 2][level[c]], 1e-4, `level ${level[c]}`);
	assert.deepEqual(
		[...new Set(floats(curves.curves, 'progress'))].map((x) => Math.round(x * 3)),
		[1, 2, 3]
	);
});

test('more levels keep the branches that were there; the same seed grows the same', () => {
	const settings = {
		count: range(2, 5, 'many'),
		angle: range(20, 70, 'angle'),
		wobble: 20,
		length: range(0.4, 0.7, 'long')
	};
	const [two, three] = [2, 3].map((levels) => curvesOf(grown({ levels, ...settings })));
	const p = positionsOf(two);
	assert.deepEqual(p, positionsOf(three).subarray(0, p.length));
	assert.equal(
		digestOf(grown({ levels: 2, ...settings }).geometry('plant')),
		digestOf(grown({ levels: 2, ...settings }).geometry('plant'))
	);
});

test('too many branches are foreseen level by level, and nothing hangs: bad numbers grow nothing', () => {
	assert.match(
		grown({ levels: 9, count: 100 }).error('plant')!,
		/At level 3 there would be .* branches .* 2 levels fit/
	);
	for (const bad of [
		{ stemLength: 0 },
		{ length: 0 },
		{ radius: 5 },
		{ angle: plain('0/0') },
		{ divergence: plain('0/0') },
		{ count: 0 }
	]) {
		const run = grown({ levels: 2, ...bad });
		const said = run.error('plant');
		if (said) assert.match(said, /[.]$/);
		else assert.ok(positionsOf(curvesOf(run)).every(Number.isFinite), JSON.stringify(bad));
	}
});

test('places for leaves stand along the branches that bear them, a spacing apart from the tip', () => {
	const run = evaluateAll(
		generator([
			[
				'grow-branches',
				'plant',
				{
					levels: 1,
					count: 4,
					towards: 'none',
					leafLevel: 1,
					leafSpacing: 0.1,
					leafStart: 0,
					leafAngle: 50,
					lengthRamp: { stops: [] },
					stemLength: 2,
					length: 0.5
				}
			]
		])
	);
	const result = [...run.evaluation.results.values()][0];
	const leaves = (result.outputs.get('leaves') as Geometry).points!.points;
	assert.equal(leaves.count, 4 * 11);
	assert.deepEqual([...new Set(leaves.columns.get('level')!.data)], [1]);
	const tips = (result.outputs.get('tips') as Geometry).points!.points;
	assert.equal(tips.count, 5);
});

test('a leaf is as long and as wide as is set, its edges fold, its face looks to z', () => {
	const of = (settings: Record<string, unknown>) =>
		evaluateAll(
			generator([
				[
					'leaf',
					'leaf',
					{ length: 0.2, width: 0.08, bend: 0, fold: 0, curl: 0, along: 10, across: 2, ...settings }
				]
			])
		).geometry('leaf');
	const size = (geometry: Geometry, k: number) => {
		const values = positionsOf(geometry.mesh!).filter((_, i) => i % 3 === k);
		return Math.max(...values) - Math.min(...values);
	};
	const flat = of({});
	near(size(flat, 1), 0.2, 1e-6);
	near(size(flat, 0), 0.08, 1e-3);
	near(size(flat, 2), 0, 1e-9);
	near(size(of({ fold: 30 }), 2), 0.04 * 0.5, 1e-3);
	near(size(of({ curl: 90 }), 0), (2 * 0.04) / (Math.PI / 2), 1e-3);
	assert.ok(size(of({ bend: 90 }), 1) < 0.2 * 0.75);
	assert.ok(flat.materials[0].twoSided);
	const { topology } = flat.mesh!;
	const uses = new Set(topology.cornerPoints);
	assert.equal(uses.size, topology.pointCount, 'no loose points');
});

test('a whorl puts so many points about each, leaning out by the angle; chance turns each ring by itself', () => {
	const run = evaluateAll(
		generator([
			['row-of-points', 'row', { count: 50, spacing: 1 }],
			[
				'whorl-of-points',
				'whorl',
				{ count: range(3, 7, 'n'), radius: 0.2, angle: 60, turn: range(0, 360, 't') },
				{ about: 'row.points' }
			]
		])
	);
	const { points } = run.geometry('whorl').points!;
	const whorl = points.columns.get('whorl')!.data;
	const counts = [...Array(50).keys()].map((w) => whorl.filter((one) => one === w).length);
	assert.deepEqual([...new Set(counts)].sort(), [3, 4, 5, 6, 7]);
	const q = floats(points, 'orientation');
	for (let i = 0; i < points.count; i++) {
		const up = 1 - 2 * (q[4 * i] ** 2 + q[4 * i + 2] ** 2);
		near(degrees(up), 60, 1e-2);
	}
});

test('strands are as long as set where nothing bends them, and every number differs from strand to strand', () => {
	const run = evaluateAll(
		generator([
			['grid-of-points', 'roots', { countX: 200, countY: 1, countZ: 100 }],
			[
				'grow-strands',
				'strands',
				{
					length: range(0.2, 0.6, 'l'),
					lean: range(0, 40, 'a'),
					bend: 0,
					direction: range(0, 360, 'd'),
					width: range(0.01, 0.02, 'w'),
					segments: 8
				},
				{ from: 'roots.points' }
			]
		])
	);
	const curves = run.geometry('strands').curves!;
	assert.equal(curveCount(curves), 20_000);
	const { lengths } = lengthsAlong(curves);
	const width = floats(curves.points, 'width');
	const n = curveCount(curves);
	const columns = [
		[...lengths],
		Array.from({ length: n }, (_, c) => degrees(beginning(curves, c).way[1])),
		Array.from({ length: n }, (_, c) => width[curves.starts[c]])
	];
	near(columns[0].reduce((a, b) => a + b) / n, 0.4, (3 * 0.4) / Math.sqrt(12 * n));
	for (let a = 0; a < 3; a++)
		for (let b = 0; b < a; b++)
			assert.ok(Math.abs(correlation(columns[a], columns[b])) < 0.03, `${a} and ${b}`);
});

function correlation(x: number[], y: number[]): number {
	const mean = (values: number[]) => values.reduce((a, b) => a + b) / values.length;
	const [mx, my] = [mean(x), mean(y)];
	const sum = (f: (i: number) => number) => x.reduce((total, _, i) => total + f(i), 0);
	return (
		sum((i) => (x[i] - mx) * (y[i] - my)) /
		Math.sqrt(sum((i) => (x[i] - mx) ** 2) * sum((i) => (y[i] - my) ** 2))
	);
}

test('a strand is as long as set, however it leans, bends, droops and curls, in any number of pieces', () => {
	const angle = fc.double({ min: -180, max: 180, noNaN: true });
	const share = fc.double({ min: 0, max: 1, noNaN: true });
	fc.assert(
		fc.property(
			fc.tuple(angle, angle, share, share, angle),
			// One piece alone may begin and end at the root.
			fc.integer({ min: 2, max: 40 }),
			fc.constantFrom(0.001, 0.5, 1, 10_000),
			([lean, bend, place, droop, direction], segments, length) => {
				const curl = { curl: 2 * place, curlWidth: 0.2 * droop };
				const run = evaluateAll(
					generator([
						['row-of-points', 'row', { count: 3 }],
						[
							'grow-strands',
							'strands',
							{ length, lean, bend, bendAt: place, droop, direction, segments, ...curl },
							{ from: 'row.points' }
						]
					])
				);
				const { points, starts } = run.geometry('strands').curves!;
				const p = floats(points, 'position');
				for (let s = 0; s < 3; s++) {
					let long = 0;
					for (let i = starts[s]; i + 1 < starts[s + 1]; i++)
						long += Math.hypot(...[0, 1, 2].map((k) => p[3 * i + 3 + k] - p[3 * i + k]));
					// The three roots lie within two metres: places are kept to seven digits of that.
					assert.ok(Math.abs(long - length) < 2e-5 * length + 2e-6 * segments, `${long} of ${length}`);
				}
			}
		),
		{ numRuns: runs(300) }
	);
});

test('combed, clumped and bent strands keep their lengths or their roots; trimmed ones end at the object', () => {
	const run = evaluateAll(
		generator([
			['grid-of-points', 'roots', { countX: 20, countY: 1, countZ: 20, spacing: [0.1, 0.1, 0.1] }],
			[
				'grow-strands',
				'strands',
				{ length: 1, lean: range(0, 30, 'a'), direction: range(0, 360, 'd') },
				{ from: 'roots.points' }
			],
			['comb', 'combed', { direction: [1, 0, 0], amount: 1 }, { strands: 'strands.strands' }],
			['clump', 'clumped', { amount: 1 }, { strands: 'strands.strands' }],
			['bend-towards', 'bent', { towards: 'down', pull: 2 }, { curve: 'strands.strands' }],
			['wobble', 'crooked', { wobble: 40, wave: 0.3 }, { curve: 'strands.strands' }],
			['box', 'lid', { size: [10, 1, 10] }],
			['transform', 'above', { move: [0, 1, 0] }, { geometry: 'lid.mesh' }],
			['trim-by-object', 'cut', {}, { strands: 'strands.strands', object: 'above.geometry' }]
		])
	);
	const before = run.geometry('strands').curves!;
	const whole = [...lengthsAlong(before).lengths];
	for (const short of ['combed', 'bent', 'crooked']) {
		const after = run.geometry(short).curves!;
		lengthsAlong(after).lengths.forEach((length, c) => near(length, whole[c], 1e-4, short));
		for (let c = 0; c < 400; c++) assert.deepEqual(beginning(after, c).at, beginning(before, c).at, short);
	}
	const combed = run.geometry('combed').curves!;
	const p = positionsOf(combed);
	for (let c = 0; c < 400; c++) {
		const [a, b] = [3 * combed.starts[c], 3 * (combed.starts[c + 1] - 1)];
		near(p[b + 1], p[a + 1], 1e-4, 'combed flat');
		assert.ok(p[b] > p[a] + 0.5);
	}
	const clumped = positionsOf(run.geometry('clumped').curves!);
	const ends = new Set(
		Array.from({ length: 400 }, (_, c) =>
			[...clumped.subarray(3 * (before.starts[c + 1] - 1), 3 * before.starts[c + 1])]
				.map((x) => x.toFixed(4))
				.join()
		)
	);
	assert.ok(ends.size < 80 && ends.size > 10, `${ends.size} clumps`);
	const cut = run.geometry('cut').curves!;
	const high = Math.max(...positionsOf(cut).filter((_, i) => i % 3 === 1));
	near(high, 0.5, 1e-5);
	assert.equal(curveCount(cut), 400);
});

test('with three materials by number each level gets the one that its progress says, and none past the last', () => {
	const run = evaluateAll(
		generator([
			['grow-branches', 'plant', { levels: 2, towards: 'none' }],
			['tube', 'bark', { radius: plain('radius') }, { curve: 'plant.branches' }],
			[
				'material',
				'aged',
				{
					rows: 3,
					name: 'old',
					name2: 'grown',
					name3: 'young',
					choose: 'number',
					number: plain('ceil(progress * 3) - 1')
				},
				{ geometry: 'bark.mesh' }
			]
		])
	);
	const { mesh, materials } = run.geometry('aged');
	const level = mesh!.faces.columns.get('level')!.data,
		material = mesh!.faces.columns.get('material')!.data;
	assert.equal(materials.length, 3);
	for (let f = 0; f < level.length; f++) assert.equal(material[f], level[f], `face ${f}`);
	assert.deepEqual(
		materials.map(({ name }) => name),
		['old', 'grown', 'young']
	);
});

test('copies know their level and whose children they are', () => {
	const { copies } = branching(2).geometry('tree').copies!;
	assert.deepEqual([...copies.columns.get('level')!.data], [0, 1, 1, 2, 2, 2, 2]);
	assert.deepEqual([...copies.columns.get('parent')!.data], [-1, 0, 0, 1, 1, 2, 2]);
});

test('the progress of every level names its own material, of however many', () => {
	for (let n = 1; n <= 300; n++)
		for (let level = 0; level < n; level++) {
			const progress = progressOf(level, n - 1);
			assert.equal(Math.fround(progress), progress);
			assert.equal(Math.ceil(progress * n) - 1, level, `${level} of ${n}`);
		}
});

test('copies that are sized otherwise on one axis stand where those of one size would, one level further on too', () => {
	const even = branching(5, { scale: [0.8, 0.8, 0.8] }).geometry('tree').copies!.copies;
	// A hair’s breadth of difference takes the way by matrices.
	const odd = branching(5, { scale: [0.8, 0.8, plain('choose(level < 3, 0.8, 0.80001)')] }).geometry('tree')
		.copies!.copies;
	const [a, b] = [even, odd].map((table) => new Places(table));
	for (let i = 0; i < even.count; i++) {
		for (let k = 0; k < 3; k++) near(a.position[3 * i + k], b.position[3 * i + k], 1e-4, `copy ${i}`);
		const [m, n] = [a.affine(i), b.affine(i)];
		for (let k = 0; k < 9; k++) near(m[k], n[k], 1e-4, `axes of ${i}`);
	}
});

test('a collar widens a branch where it leaves its parent, in a quarter of a circle, and no further', () => {
	const settings = {
		levels: 1,
		count: 3,
		angle: 90,
		stemLength: 3,
		stemRadius: 0.2,
		radius: 0.5,
		length: 0.4,
		taper: { stops: [] },
		lengthRamp: { stops: [] },
		pull: 0,
		segments: 5
	};
	const [plainly, collared] = [0, 0.8].map((collar) => curvesOf(grown({ ...settings, collar })));
	const radius = floats(collared.points, 'radius');
	const { along } = lengthsAlong(collared);
	assert.equal(collared.starts[1], plainly.starts[1], 'stems have none');
	// The parent is 0.2 thick, the branch 0.1: its rounding has a radius of 0.08.
	for (let c = 1; c <= 3; c++) {
		for (let i = collared.starts[c]; i < collared.starts[c + 1]; i++) {
			const beyond = along[i] - 0.2;
			const left = Math.max(0, 0.08 - Math.max(0, beyond));
			const wider = beyond < 0 ? (0.08 * along[i]) / 0.2 : 0.08 - Math.sqrt(0.08 ** 2 - left ** 2);
			near(radius[i], 0.1 + wider, 1e-4, `at ${along[i]}`);
		}
		assert.equal(collared.starts[c + 1] - collared.starts[c], 6 + 4);
	}
	const thick = curvesOf(grown({ ...settings, radius: 1, collar: 2 }));
	near(Math.max(...floats(thick.points, 'radius')), 0.2, 1e-6, 'no wider than its parent');
});

test('stems that begin level with the ground against a strong pull are warned of, with the mending', () => {
	const level = (settings: Record<string, unknown>) =>
		grown(
			{ levels: 0, towards: 'up', ...settings },
			[['whorl-of-points', 'roots', { count: 4, angle: 90, radius: 0.2 }]],
			{ from: 'roots.points' }
		);
	const turned = level({ pull: 2 });
	assert.match(turned.warnings('plant')[0], /4 do so here/);
	const [warned] = [...turned.evaluation.results.values()].flatMap(({ warnings }) => warnings);
	assert.deepEqual(warned.fixes?.[0].set, { setting: 'upright', value: true });
	assert.deepEqual(level({ pull: 0.5 }).warnings('plant'), []);
	const mended = level({ pull: 2, upright: true });
	assert.deepEqual(mended.warnings('plant'), []);
	near(beginning(curvesOf(mended), 0).way[1], 1, 1e-6, 'straight up');
});

test('a leaf keeps its outline at each level of detail, with half as many faces', () => {
	const leafAt = (detail: number, settings: Record<string, unknown> = {}) =>
		evaluateAll(
			generator([['leaf', 'leaf', { along: 8, across: 2, bend: 0, fold: 0, detail, ...settings }]])
		).meshOf('leaf')!;
	const faces = [0, 1, 2].map((detail) => leafAt(detail).faces.count);
	assert.ok(faces[0] > 1.8 * faces[1] && faces[1] > 1.8 * faces[2] && faces[2] > 0, String(faces));
	const wide = (detail: number) => {
		const p = positionsOf(leafAt(detail));
		return Math.max(...p.filter((_, i) => i % 3 === 1)) - Math.min(...p.filter((_, i) => i % 3 === 1));
	};
	for (const detail of [1, 2]) near(wide(detail), wide(0), 1e-6, 'as long');
	assert.ok(
		leafAt(2, { along: 1, across: 1 }).faces.count > 0,
		'one piece of a pointed leaf is still a leaf'
	);
});

test('strands keep the numbers that differ from one to the next, each its own; the others they do not', () => {
	const run = (keep: boolean) =>
		evaluateAll(
			generator([
				['row-of-points', 'row', { count: 20 }],
				[
					'grow-strands',
					'reeds',
					{ length: range(0.5, 2, 'l'), lean: plain('index * 3'), bend: 30, droop: 0.2, segments: 40, keep },
					{ from: 'row.points' }
				]
			])
		);
	const curves = run(true).geometry('reeds').curves!;
	const own = ['length', 'lean', 'direction', 'bend', 'droop', 'width'].filter((name) =>
		curves.curves.columns.has(name)
	);
	assert.deepEqual(own, ['length', 'lean']);
	lengthsAlong(curves).lengths.forEach((length, c) => near(length, column(curves, 'length')[c], 1e-5));
	assert.deepEqual(
		[...(column(curves, 'lean') as Float32Array)],
		Array.from({ length: 20 }, (_, i) => 3 * i)
	);
	const plainly = run(false).geometry('reeds').curves!;
	assert.deepEqual(positionsOf(plainly), positionsOf(curves));
	assert.equal(plainly.curves.columns.has('length'), false);
});

test('what wobbles turns no further to the sides than set, and uses most of that; twice the points turn the same', () => {
	const wobbled = (degrees_: number, seed: number, points: number) =>
		evaluateAll(
			generator(
				[
					['line', 'stem', { to: [0, 6, 0], points }],
					['wobble', 'crooked', { wobble: degrees_, wave: 0.5 }, { curve: 'stem.curve' }]
				],
				seed
			)
		).geometry('crooked').curves!;
	const turnsOf = (curves: Curves): number[] => {
		const p = positionsOf(curves);
		return Array.from({ length: p.length / 3 - 1 }, (_, i) => {
			const way = [0, 1, 2].map((k) => p[3 * i + 3 + k] - p[3 * i + k]);
			return degrees(way[1] / Math.hypot(...way));
		});
	};
	let most = 0;
	fc.assert(
		fc.property(fc.integer({ min: 1, max: 90 }), fc.nat(10_000), (set, seed) => {
			const turns = turnsOf(wobbled(set, seed, 200));
			const far = Math.max(...turns);
			assert.ok(far <= set + 0.05, `${far} of ${set}`);
			most = Math.max(most, far / set);
		}),
		{ numRuns: 60 }
	);
	assert.ok(most > 0.85, `${most}`);
	// Branches too, where nothing draws them.
	const branches = curvesOf(grown({ levels: 0, length: 4, segments: 300, wobble: 20, wave: 0.3 }));
	for (const turn of turnsOf(branches)) assert.ok(turn <= 20.05, `${turn}`);
	const end = (points: number) => [...positionsOf(wobbled(40, 7, points)).slice(-3)];
	const [rough, fine] = [end(201), end(801)];
	rough.forEach((x, k) => near(x, fine[k], 0.05));
});
