/** Meshes put together face by face, and arrays that grow: against maps and lists. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { Growing, positionsOf } from '../geometry/index.ts';
import '../testing/index.ts';
import { MeshBuilder } from './mesh-builder.ts';

const key = fc.oneof(
	fc.integer({ min: -5, max: 20 }),
	fc.integer({ min: 0, max: 2 ** 40 }),
	fc.constantFrom(4294967296, 4294967297, 8589934592)
);

test('a point of a key is made once, whatever the keys', () => {
	fc.assert(
		fc.property(fc.array(key, { maxLength: 3000 }), (keys) => {
			const builder = new MeshBuilder();
			const known = new Map<number, number>();
			for (const one of keys) {
				const place = builder.keyed(one, () => [known.size, one % 1000, 0]);
				if (!known.has(one)) known.set(one, known.size);
				assert.equal(place, known.get(one));
			}
			const mesh = builder.mesh();
			assert.equal(mesh.points.count, known.size);
			const p = positionsOf(mesh);
			for (const place of known.values()) assert.equal(p[3 * place], place);
		}),
		{ numRuns: 60 }
	);
});

test('points that repeat in a face are taken once, and fewer than three make none', () => {
	fc.assert(
		fc.property(fc.array(fc.array(fc.nat(4), { minLength: 1, maxLength: 7 }), { maxLength: 40 }), (faces) => {
			const builder = new MeshBuilder();
			for (let i = 0; i < 5; i++) builder.point(i, 0, 0);
			const wanted = faces
				.map((face) => face.filter((p, i) => p !== face[(i + face.length - 1) % face.length]))
				.filter((face) => face.length >= 3);
			for (const face of faces)
				builder.face(
					face,
					face.map((p, i): [number, number] => [p, i])
				);
			const { topology, corners } = builder.mesh();
			assert.deepEqual([...topology.cornerPoints], wanted.flat());
			assert.equal(topology.faceStarts.length, wanted.length + 1);
			const uv = corners.columns.get('uv')!.data;
			assert.deepEqual(
				Array.from({ length: uv.length / 2 }, (_, i) => uv[2 * i]),
				wanted.flat(),
				'each corner has the UV that came with its point'
			);
		})
	);
});

test('an array that grows holds what was put in, and can be emptied and filled again', () => {
	fc.assert(
		fc.property(fc.array(fc.array(fc.nat(1e9), { maxLength: 2000 }), { maxLength: 4 }), (fills) => {
			const array = new Growing('index');
			for (const fill of fills) {
				array.clear();
				fill.forEach((x) => array.push(x));
				assert.equal(array.length, fill.length);
				assert.deepEqual([...array.take()], fill);
				assert.deepEqual([...array.view()], fill);
				if (fill.length) assert.equal(array.at(fill.length - 1), fill.at(-1));
			}
		}),
		{ numRuns: 60 }
	);
});
