/** Colours stay with the faces, corners and points that have them, and materials with their faces, in every format. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { OBJLoader } from 'three/examples/jsm/loaders/OBJLoader.js';
import { PLYLoader } from 'three/examples/jsm/loaders/PLYLoader.js';
import type { Geometry, Material } from '../geometry/index.ts';
import {
	Ledger,
	areaOf,
	column,
	floats,
	geometryOf,
	makeMesh,
	trianglesOf,
	withColumns
} from '../geometry/index.ts';
import { readGlb, readObj, writeGlb, writeObj, writePly } from './index.ts';
import { UsdaFile } from './usda.ts';

const RED: Material = { name: 'Red', colour: [1, 0, 0, 1], roughness: 0.5, metallic: 0, twoSided: false };

/** A strip of squares of one metre along x; each face may be given a number of a material, and a colour. */
function strip(materialOf: readonly number[], colours?: readonly number[]): Geometry {
	const n = materialOf.length;
	const positions = Float32Array.from({ length: 6 * (n + 1) }, (_, i) => {
		const [place, k] = [Math.floor(i / 3), i % 3];
		return k === 0 ? Math.floor(place / 2) : k === 2 ? place % 2 : 0;
	});
	const starts = Uint32Array.from({ length: n + 1 }, (_, i) => 4 * i);
	const corners = Uint32Array.from({ length: n }, (_, i) => i).reduce<number[]>(
		(all, i) => [...all, 2 * i, 2 * i + 1, 2 * i + 3, 2 * i + 2],
		[]
	);
	const mesh = makeMesh(positions, starts, Uint32Array.from(corners));
	const faces = withColumns(mesh.faces, {
		material: column('int', 'plain', Int32Array.from(materialOf)),
		...(colours && { colour: column('vec3', 'colour', Float32Array.from(colours)) })
	});
	return geometryOf({ mesh: { ...mesh, faces }, materials: [RED] });
}
const within = <Made>(work: () => Made): Made => new Ledger().work(work);
const materials = fc.array(fc.constantFrom(-1, 0), { minLength: 1, maxLength: 12 });

test('OBJ: faces without a material do not take that of the faces before them', () => {
	fc.assert(
		fc.property(materials, (given) => {
			const { obj } = within(() => writeObj(strip(given), 'strip.mtl'));
			const back = within(() => readObj(new TextEncoder().encode(obj), 'strip.obj')).geometry;
			const found = back.mesh!.faces.columns.get('material')?.data ?? given.map(() => -1);
			assert.deepEqual([...found], given);
			// Another program's reader agrees on how many are red.
			const red = new OBJLoader()
				.parse(obj)
				.children.flatMap((child) => {
					const { geometry, material } = child as unknown as {
						geometry: {
							groups: { count: number; materialIndex: number }[];
							attributes: { position: { count: number } };
						};
						material: { name: string } | { name: string }[];
					};
					const all = [material].flat();
					return geometry.groups.length
						? geometry.groups.map((one) => (all[one.materialIndex].name === 'Red' ? one.count : 0))
						: [all[0].name === 'Red' ? geometry.attributes.position.count : 0];
				})
				.reduce((sum, count) => sum + count, 0);
			assert.equal(red, 6 * given.filter((one) => one === 0).length);
		})
	);
});

test('OBJ: places keep nine digits, from a millimetre to ten kilometres', () => {
	for (const size of [1e-7, 1e-3, 1, 10_000]) {
		const mesh = makeMesh(
			Float32Array.of(0, 0, 0, size, 0, 0, size / 3, size / 7, 0),
			Uint32Array.of(0, 3),
			Uint32Array.of(0, 1, 2)
		);
		const { obj } = within(() => writeObj(geometryOf({ mesh }), 'x.mtl'));
		const back = within(() => readObj(new TextEncoder().encode(obj), 'x.obj')).geometry.mesh!;
		assert.deepEqual(floats(back.points, 'position'), floats(mesh.points, 'position'));
	}
});

test('USD: a material on some faces is bound to those', () => {
	fc.assert(
		fc.property(materials, (given) => {
			const file = new UsdaFile({ rate: 24, name: 'Strip' });
			within(() => file.add(strip(given), 1));
			const text = within(() => [...file.text()].join(''));
			const bound = [...text.matchAll(/int\[\] indices = \[([\d, ]*)\]/g)].flatMap(([, list]) =>
				list.split(',').map(Number)
			);
			const red = given.flatMap((one, face) => (one === 0 ? [face] : []));
			if (red.length === given.length) assert.match(text, /rel material:binding/);
			else assert.deepEqual(bound, red);
			if (!red.length) assert.doesNotMatch(text, /material:binding/);
		})
	);
});

const share = fc.float({ min: 0, max: 1, noNaN: true });
const facesColoured = fc
	.array(fc.tuple(share, share, share), { minLength: 1, maxLength: 8 })
	.map((rows) => [rows.map(() => -1), rows.flat()] as const);

test('GLB: each face keeps its colour, and the area of each colour', () => {
	fc.assert(
		fc.property(facesColoured, ([given, colours]) => {
			const geometry = strip(given, colours);
			const back = within(() =>
				readGlb(
					within(() => writeGlb(geometry, {})),
					'strip.glb'
				)
			).geometry;
			const mesh = back.mesh!;
			const p = floats(mesh.points, 'position');
			const own = floats(mesh.points, 'colour');
			const { corners } = within(() => trianglesOf(mesh));
			for (const corner of corners) {
				const point = mesh.topology.cornerPoints[corner];
				// A vertex stands at one of the ends of its square.
				const near = [p[3 * point] - 1, p[3 * point]].filter((face) => face >= 0 && face < given.length);
				assert.ok(
					near.some((face) =>
						[0, 1, 2].every((k) => own[3 * point + k] === Math.fround(colours[3 * face + k]))
					)
				);
			}
			assert.ok(Math.abs(within(() => areaOf(back)) - given.length) < 1e-5);
		})
	);
});

test('PLY: faces keep their colours as bytes, and the points between them the mean', () => {
	const loader = new PLYLoader();
	const bytes = within(() => writePly(strip([-1, -1], [1, 0, 0, 0, 0, 1])));
	const read = loader.parse(bytes.slice().buffer);
	const colours = read.getAttribute('color');
	// The reader spreads faces' colours over triangles of their own, as linear light.
	const seen = new Set(
		Array.from({ length: colours.count }, (_, i) =>
			[colours.getX(i), colours.getY(i), colours.getZ(i)].join()
		)
	);
	assert.deepEqual(seen, new Set(['1,0,0', '0,0,1']));
	assert.match(new TextDecoder().decode(bytes.subarray(0, 400)), /element face 2\n.*\nproperty uchar red/);
});
