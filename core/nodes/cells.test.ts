/** Cells, triangles, neighbours and hulls of points, and values taken from what lies near: against a search through all. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import type { Geometry } from '../geometry/index.ts';
import { areaOf, boundsOf, edgesOf, lengthOf, positionsOf, volumeOf } from '../geometry/index.ts';
import { hullInPlane, hullInSpace } from '../kernels/hull.ts';
import { PointTree } from '../kernels/point-tree.ts';
import { dice, evaluateAll, generator } from '../testing/index.ts';
import type { Row } from '../testing/index.ts';

function made(rows: readonly Row[]): { geometry: Geometry; warnings: string[]; error: string | null } {
	const run = evaluateAll(generator(rows));
	const short = rows.at(-1)![1];
	const error = run.error(short);
	return { geometry: error ? (null as never) : run.geometry(short), warnings: run.warnings(short), error };
}
const random = (low: number, high: number, stream: string) => ({ low, high, stream });
/** Points all over a square of ten metres, at their own heights, with a value each. */
const cloud = (count: number, seed: number): Row[] => [
	[
		'points-from-values',
		'spread',
		{ count, x: random(-5, 5, `x${seed}`), y: random(0, 2, `y${seed}`), z: random(-5, 5, `z${seed}`) }
	],
	[
		'write-attribute',
		'valued',
		{ name: 'salt', value: { formula: 'index * 2', streams: [] } },
		{ geometry: 'spread.points' }
	]
];
const near = (a: number, b: number, within: number, what = '') =>
	assert.ok(Math.abs(a - b) <= within, `${what} ${a} for ${b}`);

test('cells as faces tile their rectangle in every plane, look its way, and have the values of their points', () => {
	fc.assert(
		fc.property(
			fc.integer({ min: 1, max: 80 }),
			fc.nat(99),
			fc.constantFrom('ground', 'front', 'side'),
			(count, seed, plane) => {
				const { geometry, warnings } = made([
					...cloud(count, seed),
					[
						'voronoi-cells',
						'cells',
						{ plane, bounds: 'rectangle', width: 12, height: 14, as: 'faces' },
						{ points: 'valued.geometry' }
					]
				]);
				assert.deepEqual(warnings, []);
				near(areaOf(geometry), 168, 168 * 1e-5);
				const mesh = geometry.mesh!;
				assert.deepEqual(
					[...mesh.faces.columns.get('salt')!.data],
					Array.from({ length: count }, (_, i) => 2 * i)
				);
				const p = positionsOf(mesh);
				// Counter-clockwise as seen from above, the front or the right.
				const axis = { ground: 1, front: 2, side: 0 }[plane]!;
				const [u, v] = [(axis + 1) % 3, (axis + 2) % 3];
				let around = 0;
				for (let f = 0; f < count; f++)
					for (let c = mesh.topology.faceStarts[f]; c < mesh.topology.faceStarts[f + 1]; c++) {
						const d = c + 1 < mesh.topology.faceStarts[f + 1] ? c + 1 : mesh.topology.faceStarts[f];
						around += p[3 * c + u] * p[3 * d + v] - p[3 * d + u] * p[3 * c + v];
					}
				near(around / 2, 168, 168 * 1e-5, 'looks its way');
			}
		),
		{ numRuns: 30 }
	);
});

test('cells in a closed curve with a hole tile what it encloses; round corners and insets take from them', () => {
	const ring: Row[] = [
		['circle', 'outer', { radius: 6, points: 96 }],
		['circle', 'inner', { radius: 2, points: 48 }],
		['combine-outlines', 'ring', { operation: 'difference' }, { first: 'outer.curve', second: 'inner.curve' }]
	];
	const cells = (settings: Record<string, unknown>) =>
		made([
			...ring,
			...cloud(60, 3),
			[
				'voronoi-cells',
				'cells',
				{ bounds: 'curve', ...settings },
				{ points: 'valued.geometry', outline: 'ring.curve' }
			],
			['fill-outline', 'filled', {}, { outline: 'cells.cells' }]
		]).geometry;
	const ngon = (r: number, n: number) => (n / 2) * r * r * Math.sin((2 * Math.PI) / n);
	const whole = ngon(6, 96) - ngon(2, 48);
	// The library rounds to a millionth of a metre.
	near(areaOf(cells({})), whole, 1e-3);
	const [inset, round, both] = [
		areaOf(cells({ inset: 0.1 })),
		areaOf(cells({ radius: 0.3 })),
		areaOf(cells({ inset: 0.1, radius: 0.3 }))
	];
	assert.ok(inset < whole - 5 && round < whole - 1 && both < inset);
	assert.match(
		made([...cloud(5, 1), ['voronoi-cells', 'c', { bounds: 'curve' }, { points: 'valued.geometry' }]]).error!,
		/Connect closed curves/
	);
});

test('a hole that lies wholly in one cell stays a hole, in curves and in faces', () => {
	const ngon = (r: number, n: number) => (n / 2) * r * r * Math.sin((2 * Math.PI) / n);
	for (const count of [1, 2, 3]) {
		const rows = (as: string): Row[] => [
			['circle', 'outer', { radius: 6, points: 96 }],
			['circle', 'pool', { radius: 0.5, points: 24 }],
			['transform', 'inner', { move: [2, 0, 1] }, { geometry: 'pool.curve' }],
			[
				'combine-outlines',
				'ring',
				{ operation: 'difference' },
				{ first: 'outer.curve', second: 'inner.geometry' }
			],
			['points-from-values', 'some', { count, x: { formula: '2 - 4 * index', streams: [] }, z: 1 }],
			['voronoi-cells', 'cells', { bounds: 'curve', as }, { points: 'some.points', outline: 'ring.curve' }]
		];
		const whole = ngon(6, 96) - ngon(0.5, 24);
		near(areaOf(made(rows('faces')).geometry), whole, 1e-3);
		const filled: Row = ['fill-outline', 'filled', {}, { outline: 'cells.cells' }];
		near(areaOf(made([...rows('curves'), filled]).geometry), whole, 1e-3);
	}
});

test('triangles cover the hull of their points, each side twice inside and once on the rim', () => {
	fc.assert(
		fc.property(fc.integer({ min: 3, max: 120 }), fc.nat(99), (count, seed) => {
			const { geometry } = made([
				...cloud(count, seed),
				['delaunay-triangles', 'net', {}, { points: 'valued.geometry' }],
				['transform', 'flat', { scale: [1, 0, 1] }, { geometry: 'net.mesh' }]
			]);
			const mesh = geometry.mesh!;
			const p = positionsOf(mesh);
			const flat = Float64Array.from({ length: 2 * count }, (_, i) => p[3 * (i >> 1) + (i % 2 ? 2 : 0)]);
			const rim = hullInPlane(flat);
			let area = 0;
			rim.forEach((a, i) => {
				const b = rim[(i + 1) % rim.length];
				area += (flat[2 * a] * flat[2 * b + 1] - flat[2 * b] * flat[2 * a + 1]) / 2;
			});
			near(areaOf(geometry), area, 1e-5 * area);
			assert.equal(mesh.faces.count, 2 * count - 2 - rim.length);
			assert.ok(edgesOf(mesh.topology).uses.every((uses) => uses === 1 || uses === 2));
			assert.deepEqual(
				[...mesh.points.columns.get('salt')!.data],
				Array.from({ length: count }, (_, i) => 2 * i)
			);
		}),
		{ numRuns: 30 }
	);
	const line: Row[] = [
		['row-of-points', 'row', { count: 9 }],
		['delaunay-triangles', 'net', {}, { points: 'row.points' }]
	];
	assert.match(made(line).warnings[0], /lie on one line/);
});

test('the tree of points answers as a search through all of them does', () => {
	fc.assert(
		fc.property(
			fc.integer({ min: 1, max: 200 }),
			fc.nat(1e6),
			fc.constantFrom(2, 3),
			fc.boolean(),
			(count, seed, width, coarse) => {
				const roll = dice(seed);
				const places = Float64Array.from({ length: width * count }, () =>
					coarse ? Math.floor(roll() * 4) : roll()
				);
				const tree = new PointTree(places, width as 2 | 3);
				const at = [roll(), roll(), width === 3 ? roll() : 0];
				const square = (i: number) => {
					let sum = 0;
					for (let k = 0; k < width; k++)
						sum += (places[width * i + k] - at[k]) * (places[width * i + k] - at[k]);
					return sum;
				};
				const order = Array.from({ length: count }, (_, i) => i).sort(
					(a, b) => square(a) - square(b) || a - b
				);
				assert.equal(tree.nearest(at[0], at[1], at[2]), order[0]);
				assert.deepEqual(tree.kNearest(at[0], at[1], at[2], 7), order.slice(0, 7));
				assert.equal(tree.nearest(at[0], at[1], at[2], order[0]), order[1] ?? -1);
			}
		)
	);
});

test('neighbours are joined once a pair, the nearest ones, and no further than a distance', () => {
	const { geometry } = made([
		...cloud(80, 2),
		['nearest-neighbours', 'web', { count: 3 }, { points: 'valued.geometry' }]
	]);
	const { curves } = geometry.curves!;
	const [first, second, lengths] = ['first', 'second', 'length'].map(
		(name) => curves.columns.get(name)!.data
	);
	const pairs = new Set(Array.from(first, (a, l) => `${a} ${second[l]}`));
	assert.equal(pairs.size, curves.count);
	assert.ok(curves.count >= 120 && curves.count <= 240);
	near(
		lengthOf(geometry),
		Array.from(lengths).reduce((sum, x) => sum + x, 0),
		1e-4
	);
	const close = made([
		...cloud(80, 2),
		[
			'nearest-neighbours',
			'web',
			{ method: 'distance', distance: 1.5, most: 80 },
			{ points: 'valued.geometry' }
		]
	]).geometry.curves!;
	const p = positionsOf(made(cloud(80, 2)).geometry.points!);
	let wanted = 0;
	for (let i = 0; i < 80; i++)
		for (let j = 0; j < i; j++)
			if (Math.hypot(p[3 * i] - p[3 * j], p[3 * i + 1] - p[3 * j + 1], p[3 * i + 2] - p[3 * j + 2]) <= 1.5)
				wanted++;
	assert.equal(close.curves.count, wanted);
	assert.match(
		made([...cloud(3, 2), ['nearest-neighbours', 'web', { count: 9 }, { points: 'valued.geometry' }]])
			.warnings[0],
		/3 points have 2 neighbours at most/
	);
});

test('a hull in space is closed, has no dents and holds every point, from a millimetre to 10 km', () => {
	fc.assert(
		fc.property(
			fc.integer({ min: 4, max: 300 }),
			fc.nat(1e6),
			fc.constantFrom(1e-3, 1, 1e4),
			fc.constantFrom('cloud', 'ball', 'grid'),
			(count, seed, size, kind) => {
				const roll = dice(seed);
				const p = Float32Array.from(
					Array.from({ length: count }, () => {
						const place = [roll() - 0.5, roll() - 0.5, roll() - 0.5].map((x) =>
							kind === 'grid' ? Math.round(x * 4) / 4 : x
						);
						const far = kind === 'ball' ? Math.hypot(...place) || 1 : 1;
						return place.map((x) => (x / far) * size);
					}).flat()
				);
				const hull = hullInSpace(p);
				if (!hull) return assert.equal(kind, 'grid');
				const sides = new Map<string, number>();
				let volume = 0;
				for (let t = 0; t < hull.length; t += 3) {
					const [a, b, c] = hull.slice(t, t + 3);
					for (const [i, j] of [
						[a, b],
						[b, c],
						[c, a]
					])
						sides.set(`${i} ${j}`, (sides.get(`${i} ${j}`) ?? 0) + 1);
					const at = (i: number) => [p[3 * i], p[3 * i + 1], p[3 * i + 2]];
					const [A, B, C] = [at(a), at(b), at(c)];
					const u = B.map((x, k) => x - A[k]),
						v = C.map((x, k) => x - A[k]);
					const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
					const long = Math.hypot(...n);
					volume += (n[0] * A[0] + n[1] * A[1] + n[2] * A[2]) / 6;
					if (long < 1e-9 * size * size) continue;
					for (let i = 0; i < count; i++) {
						const over =
							(n[0] * (p[3 * i] - A[0]) + n[1] * (p[3 * i + 1] - A[1]) + n[2] * (p[3 * i + 2] - A[2])) / long;
						assert.ok(over < 2e-6 * size, `${over} over a face`);
					}
				}
				for (const [side, times] of sides) {
					assert.equal(times, 1);
					assert.equal(sides.get(side.split(' ').reverse().join(' ')), 1, 'closed');
				}
				assert.ok(volume > 0);
			}
		),
		{ numRuns: 150 }
	);
	const box = made([
		['box', 'hut', { size: [2, 3, 4] }],
		['hull', 'around', {}, { points: 'hut.mesh' }]
	]).geometry;
	near(volumeOf(box.mesh!), 24, 1e-5);
	const { low, high } = boundsOf(box)!;
	[2, 3, 4].forEach((size, k) => assert.equal(high[k] - low[k], size));
});

test('values are taken from the nearest point, within a radius, and from the surface as it runs between its points', () => {
	const ground: Row[] = [
		['grid', 'ground', { width: 10, depth: 10, columns: 6, rows: 6 }],
		[
			'write-attribute',
			'slope',
			{ name: 'rise', value: { formula: 'position.x * 2 + position.z', streams: [] } },
			{ geometry: 'ground.mesh' }
		]
	];
	const take = (settings: Record<string, unknown>) =>
		made([
			...ground,
			...cloud(50, 4),
			[
				'take-from-nearest',
				'taken',
				{ names: 'rise', ...settings },
				{ geometry: 'valued.geometry', source: 'slope.geometry' }
			]
		]).geometry.points!;
	const { points } = take({ method: 'surface' });
	const p = positionsOf({ points });
	const rise = points.columns.get('rise')!.data;
	for (let i = 0; i < 50; i++) near(rise[i], 2 * p[3 * i] + p[3 * i + 2], 1e-4, 'a plane is taken exactly');
	const nearest = take({ method: 'point' }).points.columns.get('rise')!.data;
	const grid = Array.from({ length: 7 }, (_, i) => -5 + (10 * i) / 6);
	const snap = (x: number) => grid.reduce((best, g) => (Math.abs(g - x) < Math.abs(best - x) ? g : best));
	for (let i = 0; i < 50; i++) near(nearest[i], 2 * snap(p[3 * i]) + snap(p[3 * i + 2]), 1e-4);
	const within = take({ method: 'within', radius: 0.01 });
	assert.ok([...within.points.columns.get('rise')!.data].every((x) => x === 0));
	const all = take({ method: 'within', radius: 50 }).points.columns.get('rise')!.data;
	for (const x of all) near(x, 0, 1e-4, 'the mean of all');
});

test('smoothing keeps what is even, lowers the extremes, and leaves what has no weight', () => {
	const smooth = (formula: string, settings: Record<string, unknown> = {}) =>
		made([
			['grid', 'ground', { columns: 8, rows: 8 }],
			[
				'write-attribute',
				'rough',
				{ name: 'rough', value: { formula, streams: [] } },
				{ geometry: 'ground.mesh' }
			],
			['smooth-attribute', 'soft', { name: 'rough', ...settings }, { geometry: 'rough.geometry' }]
		]).geometry.mesh!.points.columns.get('rough')!.data;
	assert.ok([...smooth('3')].every((x) => x === 3));
	const waves = smooth('index % 2');
	assert.ok(Math.max(...waves) < 1 && Math.min(...waves) > 0);
	assert.deepEqual(
		[...smooth('index % 2', { weight: 0 })],
		Array.from({ length: 81 }, (_, i) => i % 2)
	);
});
