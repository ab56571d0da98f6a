import assert from 'node:assert/strict';
import { test } from 'node:test';
import validator from 'gltf-validator';
import { areaOf, boundsOf, countsOf } from '../geometry/index.ts';
import { evaluateAll, generator } from '../testing/index.ts';
import {
	hashBytes,
	packGenerator,
	readGlb,
	readMesh,
	readObj,
	unpackGenerator,
	writeGlb,
	writeObj
} from './index.ts';

const bytes = (text: string) => new TextEncoder().encode(text);
const read = (name: string, text: string | Uint8Array) =>
	readMesh({ name, bytes: typeof text === 'string' ? bytes(text) : text });
const OBJ =
	'mtllib x.mtl\nv 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 1 1\nvt 0 1\nusemtl Bark\nf 1/1 2/2 3/3 4/4\nusemtl Leaf\nf -4 -2 -1\n';
const scene = () =>
	evaluateAll(
		generator([
			['box', 'box', { size: [1, 2, 3] }],
			['material', 'red', { name: 'Red', colour: [1, 0, 0], twoSided: true }, { geometry: 'box.mesh' }],
			['grid', 'grid', { columns: 5, rows: 5 }],
			[
				'place-copies',
				'copies',
				{ rotation: [0, { low: 0, high: 360, stream: 'r' }, 0] },
				{ points: 'grid.mesh', source: 'red.geometry' }
			],
			[
				'write-attribute',
				'named',
				{ elements: 'copy', name: 'height', value: { formula: 'index * 2', streams: [] } },
				{ geometry: 'copies.copies' }
			],
			['circle', 'circle'],
			['row-of-points', 'row'],
			['merge', 'all', {}, { geometry: ['named.geometry', 'circle.curve', 'row.points', 'grid.mesh'] }]
		])
	).geometry('all');

test('a GLB has no error and no warning, with copies and flattened, and reads back at its size', async () => {
	const geometry = scene();
	for (const flatten of [false, true]) {
		const glb = writeGlb(geometry, { flatten, attributes: [{ name: 'height', as: 'height' }] });
		const report = await validator.validateBytes(glb);
		assert.deepEqual(
			[report.issues.numErrors, report.issues.numWarnings],
			[0, 0],
			JSON.stringify(report.issues.messages.slice(0, 3))
		);
		const back = readGlb(glb, 'out.glb');
		assert.equal(countsOf(back.geometry).faces, 36 * 12 + 50);
		const a = boundsOf(back.geometry)!,
			b = boundsOf({ ...geometry, curves: null, points: null })!;
		// Boxes of turned copies hold the real bounds; heights are exact.
		assert.ok(Math.abs(a.high[1] - b.high[1]) < 1e-5 && a.high[0] <= b.high[0] + 1e-5);
		assert.equal(back.geometry.materials.find((m) => m.name === 'Red')?.twoSided, true);
	}
});

test('copies are written as instancing with chosen attributes under chosen names', () => {
	const glb = writeGlb(scene(), { attributes: [{ name: 'height', as: 'tall' }] });
	const json = JSON.parse(
		new TextDecoder().decode(glb.subarray(20, 20 + new DataView(glb.buffer).getUint32(12, true)))
	);
	const node = json.nodes.find((one: { extensions?: object }) => one.extensions);
	const { attributes } = node.extensions.EXT_mesh_gpu_instancing;
	assert.deepEqual(Object.keys(attributes), ['TRANSLATION', 'ROTATION', 'SCALE', '_TALL']);
	assert.equal(json.accessors[attributes._TALL].count, 36);
});

test('attributes of faces and curves are written too: vertices part where faces differ', async () => {
	const step = (on: string) => ({ elements: on, name: 'step', value: { formula: 'index', streams: [] } });
	const run = evaluateAll(
		generator([
			['grid', 'grid', { columns: 2, rows: 1 }],
			['write-attribute', 'faces', step('face'), { geometry: 'grid.mesh' }],
			['circle', 'circle', { points: 8 }],
			['write-attribute', 'curves', step('curve'), { geometry: 'circle.curve' }],
			['merge', 'all', {}, { geometry: ['faces.geometry', 'curves.geometry'] }]
		])
	);
	const glb = writeGlb(run.geometry('all'), { attributes: [{ name: 'step', as: 'step' }] });
	assert.equal((await validator.validateBytes(glb)).issues.numErrors, 0);
	const view = new DataView(glb.buffer);
	const json = JSON.parse(new TextDecoder().decode(glb.subarray(20, 20 + view.getUint32(12, true))));
	const read = (place: number): number[] => {
		const accessor = json.accessors[place];
		const start = 20 + view.getUint32(12, true) + 8 + json.bufferViews[accessor.bufferView].byteOffset;
		return Array.from({ length: accessor.count }, (_, i) => view.getFloat32(start + 4 * i, true));
	};
	const [faces, lines] = json.meshes[0].primitives;
	// Two quads would share two of six points; their values keep them apart.
	assert.deepEqual(read(faces.attributes._STEP).sort(), [0, 0, 0, 0, 1, 1, 1, 1]);
	assert.deepEqual(read(lines.attributes._STEP), new Array(8).fill(0));
});

test('OBJ keeps faces, UVs and materials, and what is written reads back', () => {
	const { geometry } = read('sign.obj', OBJ);
	assert.deepEqual([countsOf(geometry).points, countsOf(geometry).faces], [4, 2]);
	assert.deepEqual(
		geometry.materials.map((m) => m.name),
		['Bark', 'Leaf']
	);
	assert.deepEqual([...geometry.mesh!.faces.columns.get('material')!.data], [0, 1]);
	assert.ok(Math.abs(areaOf(geometry) - 1.5) < 1e-6);
	const { obj, mtl } = writeObj(scene(), 'scene.mtl');
	const back = readObj(bytes(obj), 'back.obj').geometry;
	assert.equal(countsOf(back).faces, 36 * 6 + 25);
	assert.match(mtl, /newmtl Red\nKd 1 0 0/);
});

test('PLY is read as text and in both byte orders, STL as text and binary', () => {
	const header = (format: string) =>
		`ply\nformat ${format} 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n`;
	const corners = [0, 0, 0, 2, 0, 0, 0, 2, 0];
	const asText = header('ascii') + '0 0 0\n2 0 0\n0 2 0\n3 0 1 2\n';
	const asBytes = (little: boolean) => {
		const head = bytes(header(little ? 'binary_little_endian' : 'binary_big_endian'));
		const out = new Uint8Array(head.length + 36 + 13);
		out.set(head);
		const view = new DataView(out.buffer, head.length);
		corners.forEach((x, i) => view.setFloat32(4 * i, x, little));
		view.setUint8(36, 3);
		[0, 1, 2].forEach((p, i) => view.setInt32(37 + 4 * i, p, little));
		return out;
	};
	const stl = new Uint8Array(84 + 50);
	new DataView(stl.buffer).setUint32(80, 1, true);
	corners.forEach((x, i) => new DataView(stl.buffer).setFloat32(96 + 4 * i, x, true));
	const stlText = `solid a\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 2 0 0\nvertex 0 2 0\nendloop\nendfacet\nendsolid a\n`;
	for (const [name, data] of [
		['a.ply', asText],
		['b.ply', asBytes(true)],
		['c.ply', asBytes(false)],
		['d.stl', stl],
		['e.stl', stlText]
	] as const) {
		const { geometry } = read(name, data);
		assert.deepEqual(
			[countsOf(geometry).points, countsOf(geometry).faces, areaOf(geometry)],
			[3, 1, 2],
			name
		);
	}
});

test('bad files are refused with a sentence that says what and where', () => {
	const glb = writeGlb(scene());
	const cases: [string, string | Uint8Array, RegExp][] = [
		['a.obj', '', /a\.obj has 0 bytes/],
		['b.obj', 'v 0 0 0\nv 1 0 nan\n', /b\.obj, line 2: a point has “nan”/],
		['c.obj', 'v 0 0 0\nv 1 0 0\nv 1 1 0\nf 1 2 7\n', /line 4: face 1 names point 7, but there are only 3/],
		['d.obj', 'v 0 0 0\nv 1 0 0\n', /has no faces/],
		['e.obj', 'v 0 0 0\nf 1 1\n', /line 2: a face needs three points/],
		['f.ply', 'ply\nformat ascii 1.0\nelement vertex 3\n', /cut off: its header never ends/],
		[
			'g.ply',
			'ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nend_header\n0 0 0\n1 1',
			/cut off: it ends within vertex 2/
		],
		[
			'h.ply',
			'ply\nformat ascii 1.0\nelement vertex 9999999999\nproperty float x\nproperty float y\nproperty float z\nend_header\n',
			/says it has 9,999,999,999/
		],
		['i.stl', new Uint8Array(200).fill(7), /i\.stl is cut off or no STL/],
		['j.glb', glb.slice(0, glb.length - 100), /cut off: it says it has/],
		['k.glb', bytes('hello'), /does not begin with “glTF”/],
		['l.xyz', 'hello', /of a kind that is not read/],
		[
			'm.obj',
			new Uint8Array(256_000_001),
			/m\.obj has 256 MB; at most 256 MB are read. Reduce the mesh first/
		]
	];
	for (const [name, data, message] of cases) assert.throws(() => read(name, data), message, name);
});

test('a generator with assets is packed and unpacked, and broken archives are refused', () => {
	const asset = { hash: hashBytes(bytes(OBJ)), name: 'x.obj', bytes: bytes(OBJ) };
	const packed = packGenerator('{"format":"embrell"}', [asset]);
	const back = unpackGenerator(packed, 'x.embrell.json');
	assert.equal(back.text, '{"format":"embrell"}');
	assert.deepEqual(back.assets.get(asset.hash), asset.bytes);
	assert.deepEqual(back.leftOut, []);
	assert.throws(() => unpackGenerator(packed.slice(0, 60), 'x'), /broken or cut off/);
	// A stranger's file under the name of another's is left out, so that it cannot take its place.
	const forged = unpackGenerator(packGenerator('{}', [{ ...asset, bytes: bytes('other') }]), 'x');
	assert.equal(forged.assets.size, 0);
	assert.match(forged.leftOut[0], /not the one it says it is/);
});
