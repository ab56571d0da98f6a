/** An OBJ with the materials beside it, dropped together or in an archive; and its normals, as other programs read them. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { strToU8, zipSync } from 'fflate';
import { MTLLoader } from 'three/examples/jsm/loaders/MTLLoader.js';
import { OBJLoader } from 'three/examples/jsm/loaders/OBJLoader.js';
import { Vector3 } from 'three';
import type { BufferAttribute, Mesh } from 'three';
import type { Geometry, Material } from '../geometry/index.ts';
import { Ledger, column, geometryOf, makeMesh, withColumns } from '../geometry/index.ts';
import { evaluateAll, generator } from '../testing/index.ts';
import { readGlb, readObj, writeObj } from './index.ts';
import { holdsObj, unpackObj } from './obj-package.ts';
import { namesInZip } from './zip-names.ts';

const within = <Made>(work: () => Made): Made => new Ledger().work(work);
const share = fc.integer({ min: 0, max: 100 }).map((x) => x / 100);
const material = fc.record({
	name: fc.constantFrom('Tarred rope', 'Cork', 'Sail'),
	colour: fc.tuple(share, share, share, share),
	roughness: share,
	metallic: share,
	twoSided: fc.constant(false)
});
function twoFaces(materials: readonly Material[]): Geometry {
	const positions = Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1);
	const mesh = makeMesh(positions, Uint32Array.of(0, 3, 6), Uint32Array.of(0, 1, 2, 0, 2, 3));
	const faces = withColumns(mesh.faces, { material: column('int', 'plain', Int32Array.of(0, 1)) });
	return geometryOf({ mesh: { ...mesh, faces }, materials: [...materials] });
}

test('materials go out and in again as they were, where the MTL comes along; without it they have names, and it is said', () => {
	fc.assert(
		fc.property(material, material, (a, b) => {
			const materials = [{ ...a }, { ...b, name: `${b.name} 2` }] as Material[];
			const { obj, mtl } = within(() => writeObj(twoFaces(materials), 'net.mtl'));
			const both = within(() => readObj(strToU8(`${obj}\n${mtl}`), 'net.obj'));
			assert.deepEqual(
				both.geometry.materials.map(({ name, ...rest }) => ({ name: name.replaceAll('_', ' '), ...rest })),
				materials
			);
			assert.deepEqual(both.warnings, []);
			const alone = within(() => readObj(strToU8(obj), 'net.obj'));
			assert.match(alone.warnings.join(' '), /stands in net\.mtl\. Drop the OBJ and its MTL together/);
			// Another program reads the same colours.
			const read = new MTLLoader().parse(mtl, '').materialsInfo;
			for (const one of Object.values(read)) assert.equal(one.kd?.length, 3);
		}),
		{ numRuns: 60 }
	);
});

test('what an MTL says in other ways is read: a highlight’s exponent, transparency, numbers that are none', () => {
	const obj = 'v 0 0 0\nv 1 0 0\nv 0 1 0\nusemtl A\nf 1 2 3\n';
	const read = (mtl: string) => within(() => readObj(strToU8(obj + mtl), 'a.obj'));
	assert.equal(read('newmtl A\nNs 0\n').geometry.materials[0].roughness, 1);
	assert.ok(read('newmtl A\nNs 1000\n').geometry.materials[0].roughness < 0.05);
	assert.ok(Math.abs(read('newmtl A\nTr 0.25\n').geometry.materials[0].colour[3] - 0.75) < 1e-9);
	assert.deepEqual(read('newmtl A\nKd x 2 -1\nPr nan\n').geometry.materials[0].colour, [0.6, 1, 0, 1]);
	assert.match(read('newmtl A\nmap_Kd bark.png\n').warnings.join(), /Pictures on materials/);
	assert.equal(read('Kd 1 0 0\n').geometry.materials[0].colour[0], 0.6);
});

test('an archive of an OBJ and its MTL is that OBJ; one without, or with several, says so', async () => {
	const obj = 'mtllib a.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nusemtl A\nf 1 2 3\n';
	const files = {
		'net/a.obj': strToU8(obj),
		'net/a.mtl': strToU8('newmtl A\nKd 1 0 0\n'),
		'__MACOSX/net/._a.obj': strToU8('x')
	};
	const zip = zipSync(files, { mtime: new Date(2000, 0, 1) });
	const names = await namesInZip(new Blob([zip]));
	assert.deepEqual(names.sort(), Object.keys(files).sort());
	assert.ok(holdsObj(names));
	assert.equal(holdsObj(['document.json', 'assets/a.obj']), false);
	assert.equal(holdsObj(['__MACOSX/net/._a.obj']), false);
	const read = within(() => unpackObj(zip, 'net.zip'))!;
	assert.equal(read.name, 'a.obj');
	assert.deepEqual(within(() => readObj(read.bytes, read.name)).geometry.materials[0].colour, [1, 0, 0, 1]);
	assert.equal(unpackObj(strToU8(obj), 'a.obj'), null);
	const packed = (of: Record<string, Uint8Array>) => zipSync(of, { mtime: new Date(2000, 0, 1) });
	assert.throws(() => within(() => unpackObj(packed({ 'a.txt': strToU8('x') }), 'a.zip')), /without an OBJ/);
	assert.throws(
		() => within(() => unpackObj(packed({ 'a.obj': strToU8(obj), 'b.obj': strToU8(obj) }), 'a.zip')),
		/holds 2 OBJs: a\.obj, b\.obj/
	);
	// Whatever is behind the last byte, or missing, nothing hangs.
	for (let cut = 0; cut < zip.length; cut += 7) await namesInZip(new Blob([zip.subarray(0, cut)]));
});

test('normals are written: outwards on turned, stretched and mirrored copies, smooth where they were', () => {
	const angle = fc.integer({ min: -170, max: 170 });
	const size = fc.constantFrom(-2, -1, 0.5, 1, 3);
	fc.assert(
		fc.property(angle, angle, fc.tuple(size, size, size), (x, y, scale) => {
			const run = evaluateAll(
				generator([
					['sphere', 'float', { radius: 1 }],
					['row-of-points', 'two', { count: 2 }],
					['place-copies', 'floats', {}, { points: 'two.points', source: 'float.mesh' }],
					['transform', 'turned', { about: 'own', rotation: [x, y, 0], scale }, { geometry: 'floats.copies' }]
				])
			);
			const { obj } = within(() => writeObj(run.geometry('turned'), 'a.mtl'));
			for (const child of new OBJLoader().parse(obj).children) {
				const { attributes } = (child as Mesh).geometry;
				const [p, n] = [attributes.position, attributes.normal] as BufferAttribute[];
				const middle = new Vector3();
				for (let i = 0; i < p.count; i++) middle.add(new Vector3().fromBufferAttribute(p, i));
				middle.divideScalar(p.count);
				for (let i = 0; i < p.count; i += 3) {
					const corner = new Vector3().fromBufferAttribute(p, i).sub(middle);
					const normal = new Vector3().fromBufferAttribute(n, i);
					assert.ok(Math.abs(normal.length() - 1) < 1e-4);
					assert.ok(normal.dot(corner) > 0, `${normal.toArray()} at ${corner.toArray()}`);
				}
			}
			assert.equal(
				within(() => readObj(strToU8(obj), 'a.obj')).geometry.mesh!.corners.columns.has('normal'),
				true
			);
		}),
		{ numRuns: 30 }
	);
});

test('an animation in a GLB is not read, and that is said', () => {
	const json = (more: object) => {
		const text = JSON.stringify({ asset: { version: '2.0' }, ...more });
		const padded = text + ' '.repeat((4 - (text.length % 4)) % 4);
		const out = new Uint8Array(20 + padded.length);
		const view = new DataView(out.buffer);
		[0x46546c67, 2, out.length, padded.length, 0x4e4f534a].forEach((word, i) =>
			view.setUint32(4 * i, word, true)
		);
		out.set(strToU8(padded), 20);
		return out;
	};
	const warnings = (more: object) => within(() => readGlb(json(more), 'a.glb')).warnings.join(' ');
	assert.match(
		warnings({ animations: [{ name: 'Sway', channels: [], samplers: [] }] }),
		/“Sway”.*as it stands in the file/
	);
	assert.match(
		warnings({
			animations: [
				{ channels: [], samplers: [] },
				{ channels: [], samplers: [] }
			]
		}),
		/2 animations/
	);
	assert.equal(warnings({}), '');
});
