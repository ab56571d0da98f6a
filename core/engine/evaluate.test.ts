import assert from 'node:assert/strict';
import { test } from 'node:test';
import { areaOf, boundsOf, digestOf, lengthOf, volumeOf } from '../geometry/index.ts';
import type { Geometry } from '../geometry/index.ts';
import { evaluateAll, generator } from '../testing/index.ts';
import type { Row } from '../testing/index.ts';
import { Stopped } from '../math/index.ts';
import { ownerIfAny, setOwner } from '../geometry/owner.ts';
import { Evaluator, copyNodes, pasteNodes, withSetting } from './index.ts';

const close = (a: number, b: number, tolerance: number, what = '') =>
	assert.ok(Math.abs(a - b) <= tolerance, `${what} ${a} against ${b}`);
const positions = (g: Geometry) => g.points!.points.columns.get('position')!.data as Float32Array;

test('primitives have the areas and volumes of the textbook, and face outward', () => {
	const run = evaluateAll(
		generator([
			['grid', 'grid', { width: 4, depth: 3 }],
			['box', 'box', { size: [1, 2, 3], cellsX: 3 }],
			['cylinder', 'cone', { radius: 1, topRadius: 0, height: 3, segments: 512 }],
			['sphere', 'ball', { radius: 2, segments: 256, rows: 128 }],
			['torus', 'ring', { radius: 2, thickness: 0.5, segments: 256, sectionSegments: 64 }],
			['disc', 'washer', { radius: 2, innerRadius: 1, segments: 512 }],
			['box', 'cut', { size: [1, 1, 1], edge: 'chamfered', bevel: 0.1 }],
			['box', 'round', { size: [1, 1, 1], edge: 'rounded', bevel: 0.5, bevelSegments: 32 }]
		])
	);
	const area = (name: string) => areaOf(run.geometry(name));
	const volume = (name: string) => volumeOf(run.geometry(name).mesh!);
	close(area('grid'), 12, 1e-5, 'grid');
	close(area('box'), 22, 1e-4, 'box');
	close(volume('box'), 6, 1e-5, 'box');
	close(volume('cone'), Math.PI, 1e-3, 'cone');
	close(volume('ball'), (32 / 3) * Math.PI, 0.02, 'ball');
	close(volume('ring'), 2 * Math.PI ** 2 * 2 * 0.25, 0.02, 'torus');
	close(area('ring'), 4 * Math.PI ** 2 * 2 * 0.5, 0.05, 'torus');
	close(area('washer'), 3 * Math.PI, 1e-3, 'washer');
	// Twelve edges lose a prism of half a square each, less where they meet in the corners.
	close(volume('cut'), 1 - 12 * 0.005 * 0.8 - 8 * (0.001 - 0.001 / 6), 1e-4, 'chamfered box');
	close(volume('round'), Math.PI / 6, 2e-3, 'a box rounded all the way is a ball');
});

test('a resampled circle keeps its length, and fitted pieces come out even', () => {
	const run = evaluateAll(
		generator([
			['circle', 'circle', { radius: 2, points: 400 }],
			['resample-curve', 'fitted', { by: 'fitted', spacing: 0.37 }, { curve: 'circle.curve' }],
			['line', 'line', { from: [0, 0, 0], to: [0, 0, 10], points: 7 }],
			['resample-curve', 'pieces', { by: 'spacing', spacing: 3 }, { curve: 'line.curve' }],
			['points-along-curve', 'places', { by: 'fitted', spacing: 0.7 }, { curve: 'line.curve' }]
		])
	);
	close(lengthOf(run.geometry('fitted')), 4 * Math.PI, 0.02);
	assert.equal(run.geometry('fitted').curves!.points.count, Math.round((4 * Math.PI) / 0.37));
	const z = run
		.geometry('pieces')
		.curves!.points.columns.get('position')!
		.data.filter((_, i) => i % 3 === 2);
	assert.deepEqual([...z], [0, 3, 6, 9, 10]);
	const p = positions(run.geometry('places'));
	assert.equal(p[2], 0);
	assert.equal(p[p.length - 1], 10);
	for (let i = 3; i < p.length; i += 3) close(p[i + 2] - p[i - 1], 10 / 14, 1e-5, 'spacing');
});

test('raising a count keeps the earlier points where they were', () => {
	const sown = (count: number) =>
		positions(
			evaluateAll(
				generator([
					['grid', 'grid'],
					['sow-points', 'sow', { by: 'count', count }, { surface: 'grid.mesh' }]
				])
			).geometry('sow')
		);
	const few = sown(500),
		many = sown(1000);
	assert.equal(many.length, 3000);
	assert.deepEqual([...few], [...many.subarray(0, 1500)]);
});

test('two random ranges, two sowings and two seeds share nothing', () => {
	const range = (stream: string) => ({ low: 0, high: 1, stream });
	const n = 100_000;
	const rows: Row[] = [
		['grid', 'ground'],
		['sow-points', 'one', { by: 'count', count: n / 2 }, { surface: 'ground.mesh' }],
		['sow-points', 'two', { by: 'count', count: n / 2 }, { surface: 'ground.mesh' }],
		['merge', 'both', {}, { geometry: ['one.points', 'two.points'] }],
		['box', 'box'],
		[
			'place-copies',
			'copies',
			{ rotation: [range('a'), range('b'), range('c')], scale: [range('d'), 1, 1] },
			{ points: 'both.geometry', source: 'box.mesh' }
		],
		['write-attribute', 'first', { name: 'p', value: range('e') }, { geometry: 'both.geometry' }],
		['write-attribute', 'second', { name: 'q', value: range('f') }, { geometry: 'first.geometry' }]
	];
	const run = evaluateAll(generator(rows));
	const columns = run.geometry('second').points!.points.columns;
	const p = columns.get('p')!.data,
		q = columns.get('q')!.data;
	const correlation = (a: ArrayLike<number>, b: ArrayLike<number>, count: number) => {
		let sa = 0,
			sb = 0,
			sab = 0,
			saa = 0,
			sbb = 0;
		for (let i = 0; i < count; i++) {
			sa += a[i];
			sb += b[i];
			sab += a[i] * b[i];
			saa += a[i] * a[i];
			sbb += b[i] * b[i];
		}
		return (count * sab - sa * sb) / Math.sqrt((count * saa - sa * sa) * (count * sbb - sb * sb));
	};
	// Five standard deviations of the correlation of independent samples.
	const limit = (count: number) => 5 / Math.sqrt(count);
	assert.ok(Math.abs(correlation(p, q, n)) < limit(n), 'two ranges');
	assert.ok(
		Math.abs(correlation(p.subarray(0, n / 2), p.subarray(n / 2), n / 2)) < limit(n / 2),
		'two sowings, one range'
	);
	const places = positions(run.geometry('both'));
	assert.ok(
		Math.abs(correlation(places.subarray(0, 1.5 * n), places.subarray(1.5 * n), 1.5 * n)) < limit(n),
		'two sowings'
	);
	assert.ok(Math.abs(correlation(p, p.subarray(1), n - 1)) < limit(n), 'neighbours');
	const scales = run
		.geometry('copies')
		.copies!.copies.columns.get('scale')!
		.data.filter((_, i) => i % 3 === 0);
	assert.ok(Math.abs(correlation(scales, p, n)) < limit(n), 'a range on copies against one on points');
	const again = evaluateAll(generator(rows, 2)).geometry('second').points!.points.columns.get('p')!.data;
	assert.ok(Math.abs(correlation(p, again, n)) < limit(n), 'two seeds');
});

test('a shared stream gives the same numbers, and whole numbers come equally often', () => {
	const shared = { low: 0, high: 1, stream: 'wind' };
	const run = evaluateAll(
		generator([
			['points-from-values', 'points', { count: 60_000 }],
			['write-attribute', 'a', { name: 'a', value: shared }, { geometry: 'points.points' }],
			['write-attribute', 'b', { name: 'b', value: shared }, { geometry: 'a.geometry' }],
			['random-number', 'die', { low: 1, high: 6, whole: true }],
			['write-attribute', 'c', { name: 'c' }, { geometry: 'b.geometry', value: 'die.value' }]
		])
	);
	const { columns } = run.geometry('c').points!.points;
	assert.deepEqual(columns.get('a')!.data, columns.get('b')!.data);
	const counts = [0, 0, 0, 0, 0, 0];
	for (const x of columns.get('c')!.data) counts[x - 1]++;
	const chiSquare = counts.reduce((sum, n) => sum + (n - 10_000) ** 2 / 10_000, 0);
	assert.ok(chiSquare < 25, `chi-square ${chiSquare} with 5 degrees of freedom`);
});

test('changing the last setting before Result in a long graph runs one node', () => {
	const rows: Row[] = [['grid', 'n0']];
	for (let i = 1; i < 199; i++)
		rows.push([
			'transform',
			`n${i}`,
			{ move: [0.01, 0, 0] },
			{ geometry: `n${i - 1}.${i === 1 ? 'mesh' : 'geometry'}` }
		]);
	rows.push(['result', 'result', {}, { geometry: 'n198.geometry' }]);
	const document = generator(rows);
	const evaluator = new Evaluator();
	const target = document.graphs.main.nodes.at(-1)!.id;
	assert.equal(evaluator.evaluate(document, [target]).ran.length, 200);
	const last = document.graphs.main.nodes.at(-2)!.id;
	const changed = {
		...document,
		graphs: { main: withSetting(document.graphs.main, last, 'move', [1, 0, 0]) }
	};
	// Result runs too, but it only hands through; what works is one node.
	assert.deepEqual(
		evaluator.evaluate(changed, [target]).ran.filter((id) => id !== target),
		[last]
	);
	assert.equal(evaluator.evaluate(document, [target]).ran.length, 0, 'going back costs nothing');
});

test('nodes leave their inputs as they were', () => {
	const document = generator([
		['grid', 'grid'],
		['displace', 'moved', { amount: 2 }, { geometry: 'grid.mesh' }],
		['transform', 'turned', { rotation: [0, 30, 0], scale: [-1, 1, 1] }, { geometry: 'moved.geometry' }],
		['material', 'painted', {}, { geometry: 'turned.geometry' }],
		['write-attribute', 'named', { elements: 'face' }, { geometry: 'painted.geometry' }]
	]);
	const evaluator = new Evaluator();
	const alone = evaluateAll({
		...document,
		graphs: { main: { ...document.graphs.main, nodes: document.graphs.main.nodes.slice(0, 1), wires: [] } }
	});
	const all = evaluateAll(document, {}, evaluator);
	assert.equal(digestOf(all.geometry('grid')), digestOf(alone.geometry('grid')));
	close(
		volumeOf(all.geometry('turned').mesh!),
		volumeOf(all.geometry('moved').mesh!),
		1e-4,
		'a mirror keeps faces outward'
	);
});

test('formulas refer to settings of other nodes, and circles are refused with their path', () => {
	const sound = evaluateAll(
		generator([
			['box', 'wall', { size: [1, 3, 1], cellsX: 2 }],
			['grid', 'floor', { width: { formula: 'wall.cellsX * 4 + wall.size.y', streams: [] }, depth: 1 }]
		])
	);
	close(areaOf(sound.geometry('floor')), 11, 1e-5);
	const circle = evaluateAll(
		generator([
			['grid', 'a', { width: { formula: 'b.width + 1', streams: [] } }],
			['grid', 'b', { width: { formula: 'a.width + 1', streams: [] } }]
		])
	);
	assert.match(circle.error('a')!, /circle: a\.width → b\.width → a\.width/);
});

test('errors are sentences, and nodes further down say for whom they wait', () => {
	const run = evaluateAll(
		generator([
			['line', 'line'],
			['sow-points', 'sow', {}, { surface: 'line.curve' }],
			['result', 'result', {}, { geometry: 'sow.points' }],
			['grid', 'grid', { width: { formula: 'widht + 1', streams: [] } }],
			['grid', 'ground'],
			['sow-points', 'endless', { density: 1e10 }, { surface: 'ground.mesh' }],
			['box', 'box'],
			['place-copies', 'copies', {}, { points: 'ground.mesh', source: 'box.mesh' }],
			['sow-points', 'onCopies', {}, { surface: 'copies.copies' }]
		])
	);
	assert.equal(run.error('sow'), '“Surface” needs a mesh; curves came.');
	assert.equal(run.error('result'), 'Waits for sow.');
	assert.match(run.error('grid')!, /no “widht” is known here/);
	assert.equal(
		run.error('endless'),
		'This would make 1,000,000,000,000 points; 16,000,000 fit. Lower “Density”.'
	);
	assert.match(
		run.error('onCopies')!,
		/needs a mesh; 441 copies came\. Make a mesh of them with “Copies to mesh”\./
	);
});

test('division by zero becomes a warning with a count, and no NaN', () => {
	const run = evaluateAll(
		generator([
			['points-from-values', 'points', { count: 10 }],
			[
				'write-attribute',
				'set',
				{ name: 'v', value: { formula: '1 / (index % 2)', streams: [] } },
				{ geometry: 'points.points' }
			]
		])
	);
	assert.deepEqual(
		[...run.geometry('set').points!.points.columns.get('v')!.data],
		[0, 1, 0, 1, 0, 1, 0, 1, 0, 1]
	);
	assert.match(run.warnings('set')[0], /^For 5 values of 10 /);
});

test('what lies beyond all numbers is an error of the node that put it there, with a way out', () => {
	const run = evaluateAll(
		generator([
			['box', 'box'],
			['transform', 'far', { scale: [1e30, 1, 1] }, { geometry: 'box.mesh' }],
			['transform', 'farther', { scale: [1e30, 1, 1] }, { geometry: 'far.geometry' }],
			['subdivide', 'after', {}, { geometry: 'farther.geometry' }]
		])
	);
	assert.equal(run.error('far'), null);
	assert.match(run.error('farther')!, /no number says: beyond .* Lower the sizes/);
	assert.equal(run.error('after'), 'Waits for farther.');
});

test('a random range that is drawn once for all copies is pointed out', () => {
	const run = evaluateAll(
		generator([
			['row-of-points', 'row', { count: 5 }],
			['cylinder', 'post', { height: { low: 1, high: 2, stream: 'h' } }],
			['place-copies', 'posts', {}, { points: 'row.points', source: 'post.mesh' }]
		])
	);
	assert.match(run.warnings('posts')[0], /random range of “Height” in post is drawn once/);
});

test('copies stay copies, and written out they have the same bounds and their number of faces', () => {
	const run = evaluateAll(
		generator([
			['ring-of-points', 'ring', { count: 12, radius: 3 }],
			['cylinder', 'post', { segments: 8 }],
			[
				'place-copies',
				'posts',
				{ scale: { low: 0.5, high: 1.5, stream: 's' } },
				{ points: 'ring.points', source: 'post.mesh' }
			],
			['transform', 'turned', { rotation: [0, 20, 0], scale: [1, 2, 1] }, { geometry: 'posts.copies' }],
			['copies-to-mesh', 'real', {}, { copies: 'turned.geometry' }],
			[
				'chain-of-copies',
				'stair',
				{ count: 20, move: [0, 0.2, 0], rotation: [0, 18, 0] },
				{ source: 'post.mesh' }
			]
		])
	);
	assert.equal(run.geometry('posts').copies!.copies.count, 12);
	assert.equal(run.geometry('real').mesh!.faces.count, 120);
	const a = boundsOf(run.geometry('real'))!,
		b = boundsOf(run.geometry('turned'))!;
	// The box of a copy is that of its source turned: it holds the real one, and touches it in height.
	for (let k = 0; k < 3; k++) assert.ok(b.low[k] <= a.low[k] + 1e-5 && b.high[k] >= a.high[k] - 1e-5);
	close(a.high[1], b.high[1], 1e-5);
	const stair = run.geometry('stair').copies!.copies.columns.get('position')!.data;
	close(stair[3 * 19 + 1], 3.8, 1e-5, 'height of the last step');
});

test('a stop ends the evaluation, and the next one works', () => {
	const document = generator([
		['grid', 'grid'],
		['sow-points', 'sow', { by: 'count', count: 200_000 }, { surface: 'grid.mesh' }]
	]);
	let polls = 0;
	const evaluator = new Evaluator({
		poll() {
			if (++polls === 5) throw new Stopped();
		}
	});
	assert.throws(() => evaluateAll(document, {}, evaluator), Stopped);
	assert.equal(evaluateAll(document, {}, evaluator).geometry('sow').points!.points.count, 200_000);
});

test('memory is charged before it is taken', () => {
	const document = generator([['grid', 'grid', { columns: 2000, rows: 2000 }]]);
	const run = evaluateAll(document, { memory: 1e6 });
	assert.match(run.error('grid')!, /needs .* of memory; 1 MB are allowed/);
});

test('two passes of a pasted set are not correlated over 100,000 elements', () => {
	const n = 100_000;
	const { graphs, ...rest } = generator([
		['grid', 'ground'],
		['sow-points', 'sown', { by: 'count', count: n }, { surface: 'ground.mesh' }],
		[
			'write-attribute',
			'tall',
			{ name: 'height', value: { low: 0, high: 1, stream: 'tall' } },
			{ geometry: 'sown.points' }
		]
	]);
	const set = new Set(graphs.main.nodes.slice(1).map((node) => node.id));
	const { graph } = pasteNodes(graphs.main, copyNodes(graphs.main, set), [0, 200]);
	const run = evaluateAll({ ...rest, graphs: { main: graph } });
	const read = (short: string, name: string) => run.geometry(short).points!.points.columns.get(name)!.data;
	const correlation = (a: ArrayLike<number>, b: ArrayLike<number>, step: number) => {
		const mean = (x: ArrayLike<number>) =>
			Array.from({ length: n }, (_, i) => x[i * step]).reduce((s, v) => s + v / n, 0);
		const [ma, mb] = [mean(a), mean(b)];
		let [ab, aa, bb] = [0, 0, 0];
		for (let i = 0; i < n; i++) {
			const [p, q] = [a[i * step] - ma, b[i * step] - mb];
			ab += p * q;
			aa += p * p;
			bb += q * q;
		}
		return ab / Math.sqrt(aa * bb);
	};
	const limit = 5 / Math.sqrt(n);
	assert.ok(Math.abs(correlation(read('tall', 'height'), read('tall2', 'height'), 1)) < limit, 'heights');
	assert.ok(Math.abs(correlation(read('tall', 'position'), read('tall2', 'position'), 3)) < limit, 'places');
	assert.ok(
		Math.abs(correlation(read('tall', 'height'), read('tall', 'height'), 1)) > 0.99,
		'the test itself'
	);
});

test('every heavy kernel asks often whether to stop', () => {
	const many = { columns: 400, rows: 400 };
	const cases: Record<string, Row[]> = {
		grid: [['grid', 'end', many]],
		sphere: [['sphere', 'end', { segments: 400, rows: 400 }]],
		transform: [
			['grid', 'g', many],
			['transform', 'end', { move: [1, 0, 0] }, { geometry: 'g.mesh' }]
		],
		merge: [
			['grid', 'g', many],
			['merge', 'end', {}, { geometry: ['g.mesh', 'g.mesh'] }]
		],
		resample: [
			['circle', 'c', { points: 100 }],
			['resample-curve', 'end', { by: 'count', count: 160_000 }, { curve: 'c.curve' }]
		],
		tube: [
			['circle', 'c', { points: 20_000 }],
			['tube', 'end', { segments: 8 }, { curve: 'c.curve' }]
		],
		sow: [
			['grid', 'g'],
			['sow-points', 'end', { by: 'count', count: 160_000 }, { surface: 'g.mesh' }]
		]
	};
	for (const [name, rows] of Object.entries(cases)) {
		const document = generator(rows);
		const end = document.graphs.main.nodes.at(-1)!.id;
		let polls = 0;
		const evaluator = new Evaluator({ poll: () => void polls++ });
		const { results } = evaluator.evaluate(document, [end]);
		assert.equal(results.get(end)!.state, 'fresh', `${name}: ${results.get(end)!.error?.message}`);
		assert.ok(polls >= 20, `${name} polled ${polls} times for 160,000 elements`);
	}
});

test('bounds that are asked for after the work are worked out with the evaluator’s own memory', () => {
	const document = generator([
		['grid', 'flat', { width: 20, depth: 20 }],
		['sow-points', 'sown', { by: 'count', count: 3000 }, { surface: 'flat.mesh' }],
		['sphere', 'ball', { radius: 0.2, segments: 120 }],
		[
			'place-copies',
			'balls',
			{ rotation: [{ low: 0, high: 360, stream: 'a' }, 0, { low: 0, high: 360, stream: 'b' }] },
			{ points: 'sown.points', source: 'ball.mesh' }
		]
	]);
	const { id } = document.graphs.main.nodes.at(-1)!;
	const result = new Evaluator().begin(document, {}).pull([id]).results.get(id)!;
	assert.equal(result.error, null, result.error?.message);
	const own = ownerIfAny();
	setOwner(null);
	try {
		const { low, high } = result.bounds!;
		for (let k = 0; k < 3; k++) assert.ok(high[k] - low[k] > 0.35 && high[k] - low[k] < 20.5);
	} finally {
		setOwner(own);
	}
});
