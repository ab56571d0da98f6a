import assert from 'node:assert/strict';
import test from 'node:test';
import fc from 'fast-check';
import type { Setting } from '../engine/index.ts';
import { digestOf, floats, tableOf } from '../geometry/index.ts';
import { evaluateAll, generator } from '../testing/index.ts';
import type { Row } from '../testing/index.ts';

const formula = (text: string): Setting => ({ formula: text, streams: [] });
const number = (low: number, high: number) => fc.double({ min: low, max: high, noNaN: true });
const vector = (low: number, high: number) =>
	fc.tuple(number(low, high), number(low, high), number(low, high));
const SCENE: Row[] = [
	['grid-of-points', 'field', { countX: 5, countY: 2, countZ: 5 }],
	['box', 'post', { size: [0.2, 0.4, 0.3] }],
	['place-copies', 'posts', {}, { points: 'field.points', source: 'post.mesh' }],
	['line', 'rope', { from: [-2, 0, 0], to: [2, 1, 0], points: 9 }],
	['merge', 'all', {}, { geometry: ['posts.copies', 'post.mesh', 'rope.curve'] }]
];

test('what follows wholly goes as a Transform about the marker’s rest would move it', () => {
	fc.assert(
		fc.property(
			vector(-3, 3),
			vector(-3, 3),
			vector(-170, 170),
			vector(0.3, 2),
			(place, rest, rotation, scale) => {
				const run = evaluateAll(
					generator([
						...SCENE,
						['marker', 'pull', { place, rest, rotation, scale }],
						['follow-marker', 'led', { who: 'all' }, { geometry: 'all.geometry', marker: 'pull.marker' }],
						[
							'transform',
							'moved',
							{
								move: place.map((x, k) => x - rest[k]),
								rotation,
								scale,
								pivot: rest,
								weight: formula('1 + 0 * index')
							},
							{ geometry: 'all.geometry' }
						]
					])
				);
				for (const part of ['copies', 'mesh', 'curves'] as const) {
					const kind = part === 'copies' ? 'copy' : 'point';
					const [a, b] = ['led', 'moved'].map((short) =>
						floats(tableOf(run.geometry(short), part, kind)!, 'position')
					);
					a.forEach((x, k) => assert.ok(Math.abs(x - b[k]) < 1e-3, `${part} ${k}: ${x}, ${b[k]}`));
				}
			}
		),
		{ numRuns: 30 }
	);
});

test('beyond its reach nothing moves, to the bit; at its rest the whole way, and less in between', () => {
	fc.assert(
		fc.property(number(0.5, 2.4), vector(-1, 1), (reach, way) => {
			const run = evaluateAll(
				generator([
					['row-of-points', 'row', { count: 21, spacing: 0.25, centred: true }],
					['marker', 'pull', { place: way, rest: [0, 0, 0], reach }],
					['follow-marker', 'led', {}, { geometry: 'row.points', marker: 'pull.marker' }]
				])
			);
			const [was, is] = ['row', 'led'].map((short) => floats(run.geometry(short).points!.points, 'position'));
			const long = Math.hypot(...way);
			let before = Infinity;
			for (let i = 10; i < 21; i++) {
				const gone = Math.hypot(
					is[3 * i] - was[3 * i],
					is[3 * i + 1] - was[3 * i + 1],
					is[3 * i + 2] - was[3 * i + 2]
				);
				if (i === 10) assert.ok(Math.abs(gone - long) < 1e-5, 'the middle goes along');
				if (was[3 * i] >= reach) assert.equal(gone, 0);
				assert.ok(gone <= before + 1e-6, 'less towards the rim');
				before = gone;
			}
		}),
		{ numRuns: 40 }
	);
});

test('two markers act one after another on what arrives; what is no marker is told of', () => {
	const run = evaluateAll(
		generator([
			['row-of-points', 'row', { count: 9, spacing: 1, centred: true }],
			['marker', 'left', { place: [-3, 1, 0], rest: [-3, 0, 0], reach: 1.5 }],
			['marker', 'right', { place: [3, 2, 0], rest: [3, 0, 0], reach: 1.5 }],
			['merge', 'both', {}, { geometry: ['left.marker', 'right.marker'] }],
			['follow-marker', 'led', {}, { geometry: 'row.points', marker: 'both.geometry' }],
			['follow-marker', 'none', {}, { geometry: 'row.points', marker: 'row.points' }]
		])
	);
	const p = floats(run.geometry('led').points!.points, 'position');
	assert.deepEqual([p[3 + 1], p[3 * 4 + 1], p[3 * 7 + 1]], [1, 0, 2]);
	assert.match(run.warnings('none')[0], /no markers.*Wire the “Marker”/);
	assert.equal(digestOf(run.geometry('none')), digestOf(run.geometry('row')));
});

test('a marker’s axes are its rotation’s, and its numbers go to other settings', () => {
	const run = evaluateAll(
		generator([
			['marker', 'pull', { place: [1, 2, 3], rotation: [0, 90, 0], scale: [2, 2, 2] }],
			['row-of-points', 'out', { count: 4 }],
			['write-attribute', 'x', { name: 'x', type: 'vector' }, { geometry: 'out.points', value: 'pull.x' }],
			['write-attribute', 'z', { name: 'z', type: 'vector' }, { geometry: 'x.geometry', value: 'pull.z' }],
			['box', 'there', {}],
			['transform', 'put', {}, { geometry: 'there.mesh', move: 'pull.place', scale: 'pull.scale' }]
		])
	);
	const { points } = run.geometry('z').points!;
	const close = (a: Float32Array, b: number[]) => b.forEach((x, k) => assert.ok(Math.abs(a[k] - x) < 1e-6));
	// A quarter turn about y brings x to where −z was, and z to x.
	close(floats(points, 'x'), [0, 0, -1]);
	close(floats(points, 'z'), [1, 0, 0]);
	const p = floats(run.geometry('put').mesh!.points, 'position');
	assert.deepEqual(
		[Math.min(...p.filter((_, k) => k % 3 === 0)), Math.max(...p.filter((_, k) => k % 3 === 0))],
		[0, 2]
	);
});
