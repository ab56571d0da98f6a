import assert from 'node:assert/strict';
import { test } from 'node:test';
import { areaOf, boundsOf, lengthOf } from '../geometry/index.ts';
import type { Geometry } from '../geometry/index.ts';
import { evaluateAll, generator } from '../testing/index.ts';
import type { Row } from '../testing/index.ts';
import { nodeKinds } from './index.ts';

const run = (rows: Row[], seed = 1) => evaluateAll(generator(rows, seed));
const close = (a: number, b: number, tolerance = 1e-5, what = '') =>
	assert.ok(Math.abs(a - b) <= tolerance, `${what}: ${a} against ${b}`);
const points = (g: Geometry) => g.points!.points;
const column = (g: Geometry, name: string) => points(g).columns.get(name)!.data;

test('every kind has a unique name, an id from its name, and help everywhere', () => {
	const names = new Set<string>();
	for (const [id, kind] of nodeKinds) {
		assert.equal(id, kind.name.toLowerCase().replaceAll(' ', '-'));
		assert.ok(!names.has(kind.name));
		names.add(kind.name);
	}
});

test('a formula node reads its inputs, the element, and attributes', () => {
	const document = generator([
		['number', 'three', { value: 3 }],
		['formula', 'sum', { formula: 'x * 10 + index + attribute.weight' }, { x: 'three.value' }],
		['points-from-values', 'row', { count: 4 }],
		['write-attribute', 'weigh', { name: 'weight', value: 0.5 }, { geometry: 'row.points' }],
		['write-attribute', 'use', { name: 'result' }, { geometry: 'weigh.geometry', value: 'sum.value' }]
	]);
	assert.deepEqual([...column(evaluateAll(document).geometry('use'), 'result')], [30.5, 31.5, 32.5, 33.5]);
});

test('lists become points, and repeat with a note where they are too short', () => {
	const made = run([
		['even-steps', 'steps', { from: 0, to: 2, count: 5 }],
		['points-from-values', 'line', { y: { formula: 'index * 2', streams: [] } }, { list: 'steps.list' }],
		['count-up', 'pair', { start: 7, step: 1, count: 2 }],
		['write-attribute', 'set', { name: 'v' }, { geometry: 'line.points', value: 'pair.list' }]
	]);
	assert.deepEqual(
		[...column(made.geometry('line'), 'position')],
		[0, 0, 0, 0.5, 2, 0, 1, 4, 0, 1.5, 6, 0, 2, 8, 0]
	);
	assert.deepEqual([...column(made.geometry('set'), 'v')], [7, 8, 7, 8, 7]);
	assert.match(made.warnings('set')[0], /2 values repeated over 5 points/);
});

test('grids of points know their places, and a staggered one has rows half a step aside', () => {
	const made = run([
		[
			'grid-of-points',
			'hex',
			{ countX: 3, countZ: 4, stagger: 0.5, spacing: [1, 1, 0.8660254], centred: false }
		],
		['row-of-points', 'row', { by: 'length', length: 9, count: 4, direction: [0, 0, 2] }],
		['ring-of-points', 'ring', { count: 6, radius: 2 }]
	]);
	const p = column(made.geometry('hex'), 'position');
	// In a hexagonal grid every neighbour is one step away.
	close(Math.hypot(p[9] - p[0], p[11] - p[2]), 1, 1e-5, 'neighbour in the next row');
	assert.deepEqual([...column(made.geometry('hex'), 'row')].slice(0, 4), [0, 0, 0, 1]);
	assert.equal(column(made.geometry('row'), 'position')[11], 9);
	const r = column(made.geometry('ring'), 'position');
	for (let i = 0; i < 18; i += 3) close(Math.hypot(r[i], r[i + 2]), 2);
});

test('points from a mesh: edge middles know their length, face centres their size', () => {
	const made = run([
		['box', 'box', { size: [2, 2, 2] }],
		['points-from-mesh', 'edges', { from: 'edges' }, { mesh: 'box.mesh' }],
		['points-from-mesh', 'faces', { from: 'faces' }, { mesh: 'box.mesh' }]
	]);
	assert.equal(points(made.geometry('edges')).count, 12);
	assert.ok(column(made.geometry('edges'), 'length').every((length) => length === 2));
	assert.equal(points(made.geometry('faces')).count, 6);
	assert.ok(column(made.geometry('faces'), 'area').every((area) => Math.abs(area - 4) < 1e-5));
	const p = column(made.geometry('faces'), 'position'),
		n = column(made.geometry('faces'), 'normal');
	for (let i = 0; i < p.length; i++)
		close(p[i], n[i], 1e-5, 'a unit normal of a cube of 2 m points at its centre');
});

test('measured values flow on wires', () => {
	const made = run([
		['grid', 'ground', { width: 6, depth: 4, columns: 3, rows: 2 }],
		['measure', 'facts', {}, { geometry: 'ground.mesh' }],
		['formula', 'wide', { formula: 'x.x + 1' }, { x: 'facts.cell' }],
		['grid', 'next', { depth: 1 }, { width: 'wide.value', columns: 'facts.faces' }]
	]);
	close(areaOf(made.geometry('next')), 3);
	assert.equal(made.geometry('next').mesh!.faces.count, 6 * 20);
});

test('a tapering tube is a cone, and a displaced sphere grows by the amount', () => {
	const made = run([
		['line', 'line', { from: [0, 0, 0], to: [0, 2, 0], points: 20 }],
		[
			'tube',
			'cone',
			{ radius: { formula: '1 - u', streams: [] }, segments: 200, caps: true },
			{ curve: 'line.curve' }
		],
		['sphere', 'ball', { radius: 1, segments: 64, rows: 32 }],
		['displace', 'grown', { amount: 0.5 }, { geometry: 'ball.mesh' }],
		[
			'displace',
			'lifted',
			{ along: 'vector', vector: { formula: 'vec(0, 1, 0)', streams: [] }, amount: 3 },
			{ geometry: 'ball.mesh' }
		]
	]);
	// Side π·r·s plus the base π·r².
	close(areaOf(made.geometry('cone')), Math.PI * Math.sqrt(5) + Math.PI, 0.02, 'cone');
	close(boundsOf(made.geometry('grown'))!.high[1], 1.5, 1e-3, 'pole');
	assert.deepEqual(
		[boundsOf(made.geometry('lifted'))!.low[1], boundsOf(made.geometry('lifted'))!.high[1]],
		[2, 4]
	);
	close(lengthOf(made.geometry('line')), 2);
});

test('materials go to the faces chosen, and merging keeps one of each', () => {
	const made = run([
		['grid', 'grid', { columns: 4, rows: 1, width: 4 }],
		['material', 'all', { name: 'Mud' }, { geometry: 'grid.mesh' }],
		[
			'material',
			'half',
			{ name: 'Sand', where: { formula: 'position.x > 0', streams: [] } },
			{ geometry: 'all.geometry' }
		],
		['merge', 'twice', {}, { geometry: ['half.geometry', 'all.geometry'] }]
	]);
	assert.deepEqual([...made.geometry('half').mesh!.faces.columns.get('material')!.data], [0, 0, 1, 1]);
	assert.deepEqual(
		made.geometry('twice').materials.map((material) => material.name),
		['Mud', 'Sand']
	);
	assert.deepEqual(
		[...made.geometry('twice').mesh!.faces.columns.get('material')!.data],
		[0, 0, 1, 1, 0, 0, 0, 0]
	);
});

test('copies choose their sources by share, in turn and by number', () => {
	const rows = (settings: Record<string, unknown>): Row[] => [
		['points-from-values', 'points', { count: 9000, x: { formula: 'index', streams: [] } }],
		['box', 'a'],
		['sphere', 'b'],
		['place-copies', 'copies', settings, { points: 'points.points', source: ['a.mesh', 'b.mesh'] }]
	];
	const sources = (settings: Record<string, unknown>) => [
		...run(rows(settings)).geometry('copies').copies!.copies.columns.get('source')!.data
	];
	const second = sources({ pick: 'share', shares: '2, 1' }).reduce((sum, s) => sum + s, 0);
	assert.ok(Math.abs(second - 3000) < 250, `${second} of 9,000 show the source with a third of the shares`);
	assert.deepEqual(sources({ pick: 'turn' }).slice(0, 4), [0, 1, 0, 1]);
	assert.deepEqual(
		[...sources({ pick: 'number', number: { formula: 'index / 3', streams: [] } }).slice(0, 8)],
		[0, 0, 1, 1, 1, 0, 0, 0]
	);
	assert.match(run(rows({ shares: '0, 0' })).error('copies')!, /All shares are 0/);
});

test('noise reads the place, another seed gives another landscape, and low and high bound it', () => {
	const heights = (seed: number) =>
		column(
			run([
				['grid', 'grid'],
				['noise-value', 'noise', { low: 2, high: 5, seed }],
				['points-from-mesh', 'points', {}, { mesh: 'grid.mesh' }],
				['write-attribute', 'set', { name: 'h' }, { geometry: 'points.points', value: 'noise.value' }]
			]).geometry('set'),
			'h'
		);
	const one = heights(0);
	assert.ok(one.every((h) => h >= 2 && h <= 5));
	assert.ok(Math.max(...one) - Math.min(...one) > 0.8);
	assert.notDeepEqual(one, heights(1));
	assert.deepEqual(one, heights(0));
});
