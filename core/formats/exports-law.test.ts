/** Whatever a generator makes is written so that the official validator and our own readers find nothing wrong. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import validator from 'gltf-validator';
import type { Geometry } from '../geometry/index.ts';
import {
	areaOf,
	attributeNames,
	boundsOf,
	column,
	countsOf,
	floats,
	geometryOf,
	makePoints,
	tableOf,
	trianglesOf,
	withColumns
} from '../geometry/index.ts';
import { meshOfCopies } from '../kernels/mesh-of-copies.ts';
import { evaluateAll, generator } from '../testing/index.ts';
import type { Row } from '../testing/index.ts';
import { PLYLoader } from 'three/examples/jsm/loaders/PLYLoader.js';
import { readGlb, readObj, writeGlb, writeObj, writePly } from './index.ts';
import { readPly } from './ply.ts';

const ROWS: Row[] = [
	['grid', 'sheet', { width: 3, depth: 2, columns: 5, rows: 4 }],
	['sphere', 'ball', { segments: 9, rows: 6 }],
	['box', 'crate', { size: [1, 2, 3] }],
	['cylinder', 'post', { radius: 0.3, topRadius: 0 }],
	['torus', 'buoy', {}],
	['disc', 'lid', {}],
	['helix', 'spring', { turns: 2 }],
	['star', 'star', {}],
	['text-outline', 'letters', { text: 'B8' }],
	['fill-outline', 'filled', {}, { outline: 'letters.curve' }],
	['extrude', 'block', {}, { outline: 'letters.curve' }],
	['tube', 'hose', { radius: { formula: '0.1 * (1 - u)', streams: [] } }, { curve: 'spring.curve' }],
	['grid', 'nothing', { width: 0, depth: 0, columns: 2, rows: 2 }],
	['row-of-points', 'row', { count: 5 }],
	[
		'material',
		'glass',
		{ name: 'Gläss “8”', colour: [0.2, 0.9, 0.4], twoSided: true },
		{ geometry: 'ball.mesh' }
	],
	['subdivide', 'round', {}, { geometry: 'crate.mesh' }],
	[
		'displace',
		'waves',
		{ amount: { formula: '0.3 * noise(position * 2)', streams: [] } },
		{ geometry: 'sheet.mesh' }
	],
	[
		'write-attribute',
		'named',
		{ elements: 'face', name: 'wetSide', value: { formula: 'index % 2', streams: [] } },
		{ geometry: 'waves.geometry' }
	],
	['sow-points', 'sown', { by: 'count', count: 30 }, { surface: 'named.geometry' }],
	[
		'place-copies',
		'copies',
		{
			rotation: [0, { low: 0, high: 360, stream: 'a' }, 20],
			scale: [1, { low: 0.2, high: 3, stream: 'b' }, 1]
		},
		{ points: 'sown.points', source: ['glass.geometry', 'post.mesh', 'spring.curve'] }
	],
	// A copy without size, one turned inside out, copies of copies, and copies that shear.
	['place-copies', 'flatCopies', { scale: [1, 0, -1] }, { points: 'row.points', source: 'crate.mesh' }],
	['place-copies', 'nested', { rotation: [0, 30, 0] }, { points: 'row.points', source: 'copies.copies' }],
	['transform', 'sheared', { scale: [1, 3, 1], rotation: [0, 0, 40] }, { geometry: 'nested.copies' }],
	['chain-of-copies', 'chain', {}, { source: 'lid.mesh' }],
	['hide-where', 'hidden', { weight: { formula: 'index % 2', streams: [] } }, { copies: 'copies.copies' }],
	[
		'merge',
		'all',
		{},
		{
			geometry: [
				'copies.copies',
				'glass.geometry',
				'named.geometry',
				'spring.curve',
				'row.points',
				'hose.mesh'
			]
		}
	]
];
const run = evaluateAll(generator(ROWS));
const shorts = ROWS.map(([, short]) => short);

const geometryOfNode = (short: string): Geometry | null => {
	assert.equal(run.error(short), null, `${short}: ${run.error(short)}`);
	return run.geometry(short);
};
const facesOf = (geometry: Geometry) => (geometry.mesh ? trianglesOf(geometry.mesh).faces.length : 0);

for (const short of shorts)
	for (const flatten of [false, true])
		test(`${short}, ${flatten ? 'flattened' : 'with copies'}: no error, no warning, and it reads back at its size`, async () => {
			const geometry = geometryOfNode(short)!;
			const attributes = [...attributeNames(geometry).keys()].map((name) => ({ name, as: name }));
			const glb = writeGlb(geometry, { flatten, attributes, name: short });
			const { issues } = await validator.validateBytes(glb);
			assert.deepEqual(
				[issues.numErrors, issues.numWarnings],
				[0, 0],
				JSON.stringify(issues.messages.slice(0, 3))
			);
			const whole = meshOfCopies(geometry);
			if (!facesOf(whole)) return;
			const back = readGlb(glb, 'out.glb').geometry;
			assert.equal(facesOf(meshOfCopies(back)), facesOf(whole));
			const [was, is] = [{ ...whole, curves: null, points: null }, back].map((one) => boundsOf(one)!);
			const size = Math.max(...was.high.map((high, k) => high - was.low[k]), 1e-3);
			for (let k = 0; k < 3; k++) {
				assert.ok(Math.abs(was.low[k] - is.low[k]) < 1e-5 * size + 1e-6, `${was.low} became ${is.low}`);
				assert.ok(Math.abs(was.high[k] - is.high[k]) < 1e-5 * size + 1e-6, `${was.high} became ${is.high}`);
			}
		});

for (const short of shorts)
	test(`${short} as OBJ: the same faces, places and names of materials`, () => {
		const geometry = geometryOfNode(short)!;
		const whole = meshOfCopies(geometry);
		const { obj } = writeObj(geometry, 'x.mtl');
		assert.doesNotMatch(obj, /NaN|undefined|e[+-]\d/);
		if (!whole.mesh?.faces.count) return;
		const back = readObj(new TextEncoder().encode(obj), 'x.obj').geometry;
		assert.equal(back.mesh!.faces.count, whole.mesh.faces.count);
		assert.equal(countsOf(back).faces, countsOf(whole).faces);
		// Lines and loose points are written too, and their places stand among those of the mesh.
		const [was, is] = [whole, back].map((one) => boundsOf(one)!);
		for (let k = 0; k < 3; k++)
			assert.ok(Math.abs(was.high[k] - is.high[k]) < 2e-5, `${was.high}, ${is.high}`);
	});

for (const short of shorts)
	test(`${short} as PLY: the same points, faces and area, to us and to another reader`, () => {
		const geometry = geometryOfNode(short)!;
		const whole = meshOfCopies(geometry);
		const ply = writePly(geometry);
		const points = (['mesh', 'curves', 'points'] as const).reduce(
			(sum, part) => sum + (tableOf(whole, part, 'point')?.count ?? 0),
			0
		);
		const other = new PLYLoader().parse(ply.buffer as ArrayBuffer);
		assert.equal(other.attributes.position.count, points);
		if (!whole.mesh?.faces.count) return;
		const back = readPly(ply, 'x.ply').geometry;
		assert.equal(back.mesh!.faces.count, countsOf(whole).faces);
		const [was, is] = [{ ...whole, curves: null, points: null }, back].map((one) => areaOf(one));
		assert.ok(Math.abs(was - is) <= 1e-4 * was, `${was} became ${is}`);
	});

test('colours of points come back from a PLY within half a step of a byte', () => {
	const colours = Float32Array.from({ length: 300 }, (_, i) => ((i * 37) % 300) / 299);
	const points = makePoints(Float32Array.from({ length: 300 }, (_, i) => i));
	const table = withColumns(points.points, { colour: column('vec3', 'colour', colours) });
	const back = readPly(writePly(geometryOf({ points: { points: table } })), 'c.ply').geometry;
	const found = floats(tableOf(back, 'points', 'point') ?? tableOf(back, 'mesh', 'point')!, 'colour');
	const step = (x: number) => Math.max(0.5 / 255 / 12.92, (0.5 / 255) * 2.4 * x ** 0.58) * 1.1;
	found.forEach((x, i) =>
		assert.ok(Math.abs(x - colours[i]) <= step(colours[i]) + 1e-5, `${colours[i]}: ${x}`)
	);
});
