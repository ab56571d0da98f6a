/** Attributes and colours of points come back from a file as they went out. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { Ledger, column, geometryOf, makeMesh, withColumns } from '../geometry/index.ts';
import { readPly } from './ply.ts';
import { readGlb } from './read-glb.ts';
import { writeGlb } from './write-glb.ts';

const ply = (properties: readonly string[], rows: readonly string[]) =>
	new TextEncoder().encode(
		[
			'ply',
			'format ascii 1.0',
			`element vertex ${rows.length}`,
			...properties.map((name) => `property float ${name}`),
			'element face 1',
			'property list uchar int vertex_indices',
			'end_header',
			...rows,
			'3 0 1 2',
			''
		].join('\n')
	);

test('of a file’s own columns those are kept that every point has once, and no more than 32', () => {
	const twice = readPly(ply(['x', 'y', 'z', 'age', 'age'], ['0 0 0 1 2', '1 0 0 1 2', '0 1 0 1 2']), 'a.ply');
	assert.deepEqual([...twice.geometry.mesh!.points.columns.keys()], ['position']);
	const many = Array.from({ length: 50 }, (_, k) => `v${k}`);
	const row = (place: string) => `${place} ${many.map((_, k) => k).join(' ')}`;
	const wide = readPly(ply(['x', 'y', 'z', ...many], ['0 0 0', '1 0 0', '0 1 0'].map(row)), 'b.ply');
	const { columns } = wide.geometry.mesh!.points;
	assert.equal(columns.size, 33);
	assert.deepEqual([...columns.get('v7')!.data], [7, 7, 7]);
});

const number = fc.float({ min: -1e6, max: 1e6, noNaN: true });
const share = fc.float({ min: 0, max: 1, noNaN: true });
const places = Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0);

test('a number, a vector and a colour at each point go through a GLB unchanged', () => {
	fc.assert(
		fc.property(
			fc.array(number, { minLength: 3, maxLength: 3 }),
			fc.array(number, { minLength: 9, maxLength: 9 }),
			fc.array(share, { minLength: 9, maxLength: 9 }),
			(heights, winds, colours) => {
				const mesh = makeMesh(places, Uint32Array.of(0, 3), Uint32Array.of(0, 1, 2));
				const points = withColumns(mesh.points, {
					time: column('float', 'plain', Float32Array.from(heights)),
					wind: column('vec3', 'plain', Float32Array.from(winds)),
					colour: column('vec3', 'colour', Float32Array.from(colours))
				});
				const bytes = new Ledger().work(() =>
					writeGlb(geometryOf({ mesh: { ...mesh, points } }), {
						attributes: ['time', 'wind'].map((name) => ({ name, as: name }))
					})
				);
				const { columns } = new Ledger().work(() => readGlb(bytes, 'tide.glb')).geometry.mesh!.points;
				const back = (name: string, width: number) => {
					const position = columns.get('position')!.data;
					const { data } = columns.get(name)!;
					// Points may come in another order: each is known by its place.
					return [0, 1, 2].flatMap((i) => {
						const at = [0, 1, 2].find((row) =>
							[0, 1, 2].every((k) => position[3 * row + k] === places[3 * i + k])
						)!;
						// A negative zero is zero.
						return [...data.subarray(width * at, width * (at + 1))].map((x) => x + 0);
					});
				};
				assert.deepEqual(
					back('time', 1),
					[...Float32Array.from(heights)].map((x) => x + 0)
				);
				assert.deepEqual(
					back('wind', 3),
					[...Float32Array.from(winds)].map((x) => x + 0)
				);
				const told = back('colour', 3);
				told.forEach((x, i) =>
					assert.ok(Math.abs(x - Math.fround(colours[i])) <= 1 / 65_535 + 1e-7, `${x}, ${colours[i]}`)
				);
			}
		)
	);
});
