/** What nodes do by themselves, where an artist would have had to say it. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { areaOf, boundsOf, digestOf, edgesOf } from '../geometry/index.ts';
import { constantNumber } from '../varying/index.ts';
import { evaluateAll, generator } from '../testing/index.ts';
import type { Row } from '../testing/index.ts';

test('cells, triangles and hulls lie in the plane in which the points lie: as large and as many in each', () => {
	for (const [rotation, plane] of [
		[[0, 0, 0], 'ground'],
		[[90, 0, 0], 'front'],
		[[0, 0, 90], 'side']
	] as const)
		for (const size of [0.001, 1, 10_000]) {
			const rows = (of: string): Row[] => [
				['grid-of-points', 'spots', { countX: 5, countZ: 4, spacing: [size, 1, size], stagger: 0.3 }],
				['transform', 'stood', { rotation: [...rotation] }, { geometry: 'spots.points' }],
				['voronoi-cells', 'cells', { plane: of, margin: size, as: 'faces' }, { points: 'stood.geometry' }],
				['delaunay-triangles', 'tin', { plane: of }, { points: 'stood.geometry' }],
				['hull', 'around', { method: 'plane', plane: of }, { points: 'stood.geometry' }]
			];
			const run = evaluateAll(generator(rows('own')));
			const flat = evaluateAll(
				generator([
					['grid-of-points', 'spots', { countX: 5, countZ: 4, spacing: [size, 1, size], stagger: 0.3 }],
					['delaunay-triangles', 'tin', {}, { points: 'spots.points' }]
				])
			);
			assert.equal(run.geometry('cells').mesh!.faces.count, 20, `${plane} ${size}`);
			const [own, level] = [areaOf(run.geometry('tin')), areaOf(flat.geometry('tin'))];
			assert.ok(Math.abs(own - level) < 1e-4 * level, `${plane} ${size}: ${own} of ${level}`);
			assert.ok(run.geometry('around').curves!.points.count >= 4);
			const named = evaluateAll(generator(rows(plane)));
			for (const short of ['cells', 'tin', 'around'])
				assert.equal(digestOf(run.geometry(short)), digestOf(named.geometry(short)), `${short} of ${plane}`);
		}
});

test('edges become curves: those of the border, and all where there is none', () => {
	const run = evaluateAll(
		generator([
			['grid', 'open', { columns: 3, rows: 3 }],
			['box', 'closed', {}],
			['edges-to-curves', 'rim', {}, { mesh: 'open.mesh' }],
			['edges-to-curves', 'all', {}, { mesh: 'closed.mesh' }]
		])
	);
	assert.equal(run.geometry('rim').curves!.points.count, 12);
	const pieces = run.geometry('all').curves!;
	let edges = 0;
	for (let c = 0; c + 1 < pieces.starts.length; c++)
		edges += pieces.starts[c + 1] - pieces.starts[c] - 1 + pieces.curves.columns.get('closed')!.data[c];
	assert.equal(edges, 12);
});

test('edge middles of a triangulated box are its twelve edges, without the diagonals of its sides', () => {
	const run = evaluateAll(
		generator([
			['box', 'crate', { size: [2, 3, 4] }],
			['points-from-mesh', 'corners', {}, { mesh: 'crate.mesh' }],
			['hull', 'cut', {}, { points: 'corners.points' }],
			['points-from-mesh', 'all', { from: 'edges' }, { mesh: 'cut.hull' }],
			['points-from-mesh', 'sharp', { from: 'edges', flat: false }, { mesh: 'cut.hull' }]
		])
	);
	assert.equal(
		run.geometry('all').points!.points.count,
		edgesOf(run.geometry('cut').mesh!.topology).uses.length
	);
	const { points } = run.geometry('sharp').points!;
	assert.equal(points.count, 12);
	const lengths = [...points.columns.get('length')!.data].map((length) => Math.round(length)).sort();
	assert.deepEqual(lengths, [2, 2, 2, 2, 3, 3, 3, 3, 4, 4, 4, 4]);
});

test('so many are laid along a curve as are asked for, and they fill it', () => {
	fc.assert(
		fc.property(
			fc.integer({ min: 1, max: 40 }),
			fc.double({ min: 0.01, max: 500, noNaN: true }),
			(count, length) => {
				const run = evaluateAll(
					generator([
						['box', 'plank', { size: [0.3, 0.1, 0.1] }],
						['line', 'way', { from: [0, 0, 0], to: [length, 0, 0] }],
						[
							'lay-along-curve',
							'laid',
							{ length: 'repeat', count },
							{ geometry: 'plank.mesh', path: 'way.curve' }
						]
					])
				);
				const laid = run.geometry('laid');
				assert.equal(laid.mesh!.faces.count, 6 * count);
				const { low, high } = boundsOf(laid)!;
				assert.ok(Math.abs(low[0]) < 1e-4 * length && Math.abs(high[0] - length) < 1e-4 * length);
			}
		),
		{ numRuns: 30 }
	);
});

test('checks, stripes and dots move with their centre', () => {
	for (const pattern of ['checks', 'stripes', 'dots']) {
		const weighed = (centre: number[], at: string) => {
			const run = evaluateAll(
				generator([
					['grid', 'flat', { width: 4, depth: 4, columns: 32, rows: 32 }],
					['transform', 'put', { move: [0.21, 0, 0.37] }, { geometry: 'flat.mesh' }],
					['weight-by-pattern', 'tiles', { pattern, width: 0.7, height: 0.9, centre, soft: 0.2 }],
					['write-attribute', 'told', { name: 'w' }, { geometry: `${at}`, value: 'tiles.weight' }]
				])
			);
			return [...run.geometry('told').mesh!.points.columns.get('w')!.data];
		};
		const [still, moved] = [weighed([0, 0, 0], 'flat.mesh'), weighed([0.21, 0, 0.37], 'put.geometry')];
		for (const [i, w] of still.entries())
			assert.ok(Math.abs(w - moved[i]) < 1e-4, `${pattern} ${i}: ${w}, ${moved[i]}`);
		assert.notDeepEqual(still, weighed([0.21, 0, 0.37], 'flat.mesh'));
	}
});

test('a value goes through a ramp from one range to another: as the ramp says, evenly where it is straight', () => {
	const ramp = (...stops: [number, number][]) => ({
		stops: stops.map(([at, value]) => ({ at, value, easing: 'linear' }))
	});
	fc.assert(
		fc.property(
			fc.double({ min: -50, max: 50, noNaN: true }),
			fc.double({ min: -50, max: 50, noNaN: true }),
			fc.double({ min: 0, max: 1, noNaN: true }),
			(low, high, t) => {
				const of = (more: Record<string, unknown>) => {
					const run = evaluateAll(
						generator([
							['remap', 'r', { value: 3 + 4 * t, fromLow: 3, fromHigh: 7, toLow: low, toHigh: high, ...more }]
						])
					);
					return constantNumber([...run.evaluation.results.values()][0].outputs.get('value') as never);
				};
				const through = of({ between: 'ramp', ramp: ramp([0, 0], [1, 1]) });
				assert.ok(Math.abs(through - (low + t * (high - low))) < 1e-5 * (1 + Math.abs(high - low)));
				const turned = of({ between: 'ramp', ramp: ramp([0, 1], [1, 0]) });
				assert.ok(Math.abs(turned - (high + t * (low - high))) < 1e-5 * (1 + Math.abs(high - low)));
				assert.ok(Math.abs(of({}) - through) < 1e-5 * (1 + Math.abs(high - low)));
			}
		),
		{ numRuns: 40 }
	);
});
