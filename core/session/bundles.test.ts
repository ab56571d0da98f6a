/** Very many shapes are drawn as a few meshes that look the same. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { Ledger, expand } from '../geometry/index.ts';
import type { Geometry } from '../geometry/index.ts';
import { evaluateAll, generator, withBodies } from '../testing/index.ts';
import { bundlesOf } from './bundles.ts';
import type { Packet } from './messages.ts';
import { Packer } from './packets.ts';

const formula = (text: string) => ({ formula: text, streams: [] });
/** Copies on a row, each a box of its own size, turned, sheared by scale and, every third, mirrored. */
const varied = (count: number, more: Record<string, unknown> = {}): Geometry =>
	evaluateAll(
		withBodies(
			[
				['row-of-points', 'row', { count, spacing: 3 }],
				[
					'vary-each-copy',
					'posts',
					{
						body: 'post',
						rounding: 'none',
						tall: formula('1 + index / 100'),
						rotation: [0, formula('index * 17'), formula('index * 5')],
						scale: [formula('1 - 2 * (index % 3 == 0)'), 1, 1.5],
						...more
					},
					{ points: 'row.points' }
				]
			],
			{
				post: [
					['input', 'tall', { name: 'tall', carries: 'number', default: 1 }],
					['box', 'box', { size: [1, formula('tall.value'), 1] }],
					['material', 'red', { name: 'Red' }, { geometry: 'box.mesh' }],
					['output', 'end', { name: 'shape', carries: 'geometry' }, { value: 'red.geometry' }]
				]
			}
		)
	).geometry('posts');

/** Six numbers a triangle that say where it lies and how it faces, in any order; of copies at their places. */
function trianglesOf({ objects, draws }: Packet): string[] {
	const out: string[] = [];
	for (const draw of draws) {
		const { positions, index } = objects.find(({ key }) => key === draw.object)!;
		for (let i = 0; i < draw.count; i++) {
			const m = draw.matrices?.subarray(16 * i, 16 * i + 16) ?? null;
			const at = (v: number) => {
				const p = [0, 1, 2].map((k) => positions[3 * v + k]);
				return m ? [0, 1, 2].map((k) => m[k] * p[0] + m[4 + k] * p[1] + m[8 + k] * p[2] + m[12 + k]) : p;
			};
			const isMirrored =
				m &&
				m[0] * (m[5] * m[10] - m[9] * m[6]) -
					m[4] * (m[1] * m[10] - m[9] * m[2]) +
					m[8] * (m[1] * m[6] - m[5] * m[2]) <
					0;
			for (let t = 0; t < index!.length; t += 3) {
				const [a, b, c] = [0, 1, 2].map((k) => at(index![t + k]));
				const [u, v] = [b, c].map((one) => one.map((x, k) => x - a[k]));
				const turn = isMirrored ? -1 : 1;
				const normal = [0, 1, 2].map(
					(k) => turn * (u[(k + 1) % 3] * v[(k + 2) % 3] - u[(k + 2) % 3] * v[(k + 1) % 3])
				);
				const middle = [0, 1, 2].map((k) => (a[k] + b[k] + c[k]) / 3);
				out.push([...middle, ...normal].map((x) => (Math.round(x * 200) / 200 + 0).toFixed(2)).join(' '));
			}
		}
	}
	return out.sort();
}
const packed = (geometry: Geometry) =>
	new Packer(new Ledger()).pack([{ node: 'a', geometry, ghost: false }], false);
/** Drawn one by one: an edge to be seen keeps them apart. */
const oneByOne = (geometry: Geometry) =>
	new Packer(new Ledger()).pack([{ node: 'a', geometry, ghost: false }], true);

test('a thousand shapes are a few meshes, with the same triangles at the same places, facing the same way', () => {
	const geometry = varied(1000);
	const [few, many] = [packed(geometry), oneByOne(geometry)];
	assert.equal(many.draws.length, 1000);
	assert.ok(few.draws.length < 20, `${few.draws.length} meshes`);
	assert.equal(few.triangles, many.triangles);
	assert.equal(few.triangles, 12_000);
	const [a, b] = [trianglesOf(few), trianglesOf(many)];
	assert.equal(a.length, b.length);
	// Singles round once more on their way: a hundredth apart at most.
	const numbers = (all: string[]) => all.flatMap((one) => one.split(' ').map(Number));
	const [x, y] = [numbers(a).sort((p, q) => p - q), numbers(b).sort((p, q) => p - q)];
	x.forEach((value, i) => assert.ok(Math.abs(value - y[i]) < 0.011));
	for (const { normals, index, positions } of few.objects)
		for (let t = 0; t < index!.length; t += 3) {
			const [p, q, r] = [0, 1, 2].map((k) => [
				...positions.subarray(3 * index![t + k], 3 * index![t + k] + 3)
			]);
			const [u, v] = [q, r].map((one) => one.map((value, k) => value - p[k]));
			const cross = [0, 1, 2].map((k) => u[(k + 1) % 3] * v[(k + 2) % 3] - u[(k + 2) % 3] * v[(k + 1) % 3]);
			const dot = [0, 1, 2].reduce((sum, k) => sum + cross[k] * normals![3 * index![t] + k], 0);
			assert.ok(dot > 0.99 * Math.hypot(...cross), 'a normal faces as its triangle does');
		}
	const shares = few.draws.map(({ share }) => share!);
	assert.equal(
		shares.reduce((sum, { count }) => sum + count, 0),
		1000
	);
	assert.ok(
		shares.every(
			({ of, from, count }, i) =>
				of === 1000 && from === (i ? shares[i - 1].from + shares[i - 1].count : 0) && count > 0
		)
	);
	assert.deepEqual(
		[...new Set(few.objects.flatMap(({ groups }) => groups!.map(({ material }) => material!.name)))],
		['Red']
	);
});

test('a few shapes, shapes that are placed often, and those with colours are drawn as copies', () => {
	assert.equal(packed(varied(499)).draws.length, 499);
	assert.ok(
		packed(varied(1000, { rounding: 'steps', roundingSteps: 70 })).draws.every(
			({ matrices }) => matrices !== null
		)
	);
	const dyed = evaluateAll(
		generator([
			['row-of-points', 'row', { count: 80 }],
			[
				'write-attribute',
				'told',
				{ name: 'colour', type: 'colour', value: [1, 0, 0] },
				{ geometry: 'row.points' }
			],
			['box', 'box', {}],
			['place-copies', 'posts', {}, { points: 'told.geometry', source: 'box.mesh' }]
		])
	).geometry('posts');
	const { alone, bundles } = bundlesOf(expand(dyed), () => assert.fail('none is made'));
	assert.equal(bundles.length, 0);
	assert.equal(alone.length, expand(dyed).length);
});

test('whatever is shown again is sent once', () => {
	const geometry = varied(600);
	const packer = new Packer(new Ledger());
	const first = packer.pack([{ node: 'a', geometry, ghost: false }], false);
	const again = packer.pack([{ node: 'a', geometry, ghost: false }], false);
	assert.ok(first.objects.length > 0 && again.objects.length === 0);
	assert.deepEqual(
		again.draws.map(({ object }) => object),
		first.draws.map(({ object }) => object)
	);
});
