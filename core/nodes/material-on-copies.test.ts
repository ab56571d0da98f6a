/** A material paints copies as it paints faces: one each, by what they know of themselves, and it is written so. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { Ledger, digestOf } from '../geometry/index.ts';
import { paintCopies } from '../kernels/paint-copies.ts';
import type { Geometry } from '../geometry/index.ts';
import { readGlb, writeGlb } from '../formats/index.ts';
import { evaluateAll, generator } from '../testing/index.ts';
import type { Row } from '../testing/index.ts';

const formula = (text: string) => ({ formula: text, streams: [] });
const posts = (count: number, settings: Record<string, unknown>): Row[] => [
	['row-of-points', 'places', { count, by: 'spacing', spacing: 2 }],
	['box', 'post', {}],
	['material', 'own', { name: 'Own', colour: [0, 0, 1] }, { geometry: 'post.mesh' }],
	['place-copies', 'posts', {}, { points: 'places.points', source: 'own.geometry' }],
	['material', 'painted', settings, { geometry: 'posts.copies' }]
];
/** The name of the material that all faces of a copy's shape have. */
function nameOf(geometry: Geometry, copy: number): string {
	const { copies, sources } = geometry.copies!;
	const shape = sources[copies.columns.get('source')!.data[copy]];
	const faces = new Set(shape.mesh!.faces.columns.get('material')!.data);
	assert.equal(faces.size, 1);
	return shape.materials[[...faces][0]].name;
}

test('copies take the material, those that are meant, or one of several by what they are', () => {
	fc.assert(
		fc.property(fc.integer({ min: 1, max: 30 }), fc.integer({ min: 0, max: 30 }), (count, from) => {
			const all = evaluateAll(generator(posts(count, { name: 'Tar' }))).geometry('painted');
			const some = evaluateAll(
				generator(posts(count, { name: 'Tar', where: formula(`index >= ${from}`) }))
			).geometry('painted');
			const turns = evaluateAll(
				generator(
					posts(count, { name: 'Tar', rows: 2, name2: 'Lime', choose: 'number', number: formula('index') })
				)
			).geometry('painted');
			for (let i = 0; i < count; i++) {
				assert.equal(nameOf(all, i), 'Tar');
				assert.equal(nameOf(some, i), i >= from ? 'Tar' : 'Own');
				assert.equal(nameOf(turns, i), i % 2 ? 'Lime' : 'Tar');
			}
			assert.ok(turns.copies!.sources.length <= 2, 'a shape for each material, not for each copy');
		}),
		{ numRuns: 30 }
	);
});

test('shapes within shapes are painted, faces beside copies too, and files have it so', () => {
	const run = evaluateAll(
		generator([
			...posts(3, { name: 'Tar', colour: [1, 0, 0] }),
			['row-of-points', 'rows', { count: 2, direction: [0, 0, 1], spacing: 4 }],
			['place-copies', 'nested', {}, { points: 'rows.points', source: 'posts.copies' }],
			['sphere', 'ball', {}],
			['merge', 'both', {}, { geometry: ['nested.copies', 'ball.mesh'] }],
			['material', 'red', { name: 'Tar', colour: [1, 0, 0] }, { geometry: 'both.geometry' }]
		])
	);
	const read = readGlb(writeGlb(run.geometry('red')), 'red.glb').geometry;
	assert.deepEqual(
		read.materials.map(({ name }) => name),
		['Tar']
	);
	// What stood before stays what it was.
	const again = evaluateAll(generator(posts(3, { name: 'Tar', colour: [1, 0, 0] })));
	assert.equal(digestOf(again.geometry('posts')), digestOf(run.geometry('posts')));
	assert.equal(nameOf(run.geometry('posts'), 0), 'Own');
});

test('shapes that share shapes are painted once each, however deep', () => {
	// Each level shows the one before twice: painted one by one they would be 2⁴⁰.
	const rows: Row[] = [
		['box', 'box', {}],
		['row-of-points', 'two', { count: 2 }]
	];
	const shape = { geometry: evaluateAll(generator(rows)).geometry('box') };
	const copies = evaluateAll(
		generator([...rows, ['place-copies', 'both', {}, { points: 'two.points', source: 'box.mesh' }]])
	).geometry('both').copies!;
	let deep: Geometry = { ...shape.geometry };
	for (let level = 0; level < 40; level++)
		deep = { ...shape.geometry, mesh: null, copies: { copies: copies.copies, sources: [deep, deep] } };
	const red = { name: 'Red', colour: [1, 0, 0, 1], roughness: 1, metallic: 0, twoSided: false } as const;
	const painted = new Ledger().work(() => paintCopies(deep.copies!, [red], Int32Array.of(0, 0)));
	let at: Geometry = painted.sources[0];
	for (let level = 1; level < 40; level++) {
		assert.equal(at.copies!.sources[0], at.copies!.sources[1]);
		at = at.copies!.sources[0];
	}
	assert.equal(at.materials[0].name, 'Red');
});
