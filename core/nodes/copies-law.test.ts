/** Copies against the same shapes written out as points: whatever moves both by the same rule keeps them together. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import type { Geometry } from '../geometry/index.ts';
import { Places, matrix, positionsOf, shears } from '../geometry/index.ts';
import type { Row } from '../testing/index.ts';
import { evaluateAll, generator } from '../testing/index.ts';

const run = (rows: Row[]) => evaluateAll(generator(rows));
const number = (low: number, high: number) =>
	fc.integer({ min: Math.round(low * 100), max: Math.round(high * 100) }).map((x) => x / 100);
const three = (low: number, high: number) =>
	fc.tuple(number(low, high), number(low, high), number(low, high));

/** Where the corners of all faces are, in their order. */
const atCorners = ({ mesh }: Geometry): number[] =>
	[...mesh!.topology.cornerPoints].flatMap((o) => [...positionsOf(mesh!).subarray(3 * o, 3 * o + 3)]);

/** One step of a chain, as it is on copies and on points: both tell the same copy by `tag`. */
interface Step {
	kind: string;
	settings: Record<string, unknown>;
}
const transform = fc
	.record({
		move: three(-3, 3),
		rotation: three(-180, 180),
		scale: three(0.3, 2),
		pivot: three(-2, 2),
		strength: fc.constantFrom(1, 0.5, -0.4),
		weight: fc.constantFrom<unknown>(1, { formula: 'fract(tag * 0.37)', streams: [] }, 0.6)
	})
	.map((settings): Step => ({ kind: 'transform', settings }));
const thinning = fc
	.constantFrom('fract(tag * 0.31) < 0.4', 'tag == 3')
	.map((formula): Step => ({ kind: 'delete-where', settings: { weight: { formula, streams: [] } } }));

function chain(kind: 'copies' | 'points', steps: readonly Step[], before: readonly Row[]): Geometry {
	const rows: Row[] = [...before];
	let last = 'tagged.geometry';
	if (kind === 'points') {
		rows.push(['copies-to-mesh', 'written', {}, { copies: last }]);
		last = 'written.mesh';
	}
	steps.forEach(({ kind: node, settings }, i) => {
		const own = node === 'delete-where' ? { elements: kind === 'copies' ? 'copy' : 'face' } : {};
		rows.push([node, `s${i}`, { ...settings, ...own }, { geometry: last }]);
		last = `s${i}.geometry`;
	});
	if (kind === 'copies') rows.push(['copies-to-mesh', 'end', {}, { copies: last }]);
	else rows.push(['merge', 'end', {}, { geometry: last }]);
	return run(rows).geometry('end');
}

const sources = (scale: readonly number[]): Row[] => [
	['box', 'hut', { size: [1, 2, 0.5] }],
	['grid', 'flat', { columns: 2, rows: 2, width: 6, depth: 6 }],
	['place-copies', 'huts', { scale: [...scale] }, { points: 'flat.mesh', source: 'hut.mesh' }],
	// Turned unevenly first, so that some of them come to shear.
	['transform', 'leaning', { about: 'own', rotation: [20, 40, 10] }, { geometry: 'huts.copies' }],
	[
		'write-attribute',
		'tagged',
		{ name: 'tag', elements: 'copy', value: { formula: 'index', streams: [] } },
		{ geometry: 'leaning.geometry' }
	]
];

test('after any chain of moves and thinnings copies stand where their points stand that went the same way', () => {
	fc.assert(
		fc.property(
			fc.array(fc.oneof({ weight: 3, arbitrary: transform }, { weight: 1, arbitrary: thinning }), {
				minLength: 1,
				maxLength: 5
			}),
			three(0.5, 2),
			(steps, scale) => {
				const before = sources(scale);
				const copies = chain('copies', steps, before);
				const points = chain('points', steps, before);
				const [a, b] = [atCorners(copies), atCorners(points)];
				assert.equal(a.length, b.length);
				const size = Math.max(1, ...a.map(Math.abs));
				for (let i = 0; i < a.length; i++)
					assert.ok(Math.abs(a[i] - b[i]) < 2e-5 * size, `${i}: ${a[i]} for ${b[i]} of ${size}`);
			}
		),
		{ numRuns: 60 }
	);
});

const shearing = (more: readonly Row[]): Row[] => [
	...sources([1, 1, 1]),
	['transform', 'sheared', { scale: [1, 3, 1], rotation: [0, 0, 30] }, { geometry: 'tagged.geometry' }],
	...more
];

test('copies that shear are turned and sized on their own as those that do not: about their axes, by as much', () => {
	fc.assert(
		fc.property(three(-90, 90), three(0.3, 2), (rotation, scale) => {
			const { geometry } = run(
				shearing([['transform', 'own', { about: 'own', rotation, scale }, { geometry: 'sheared.geometry' }]])
			);
			const [before, after] = ['sheared', 'own'].map((short) => geometry(short).copies!.copies);
			assert.ok(shears(before) && shears(after));
			const [was, now] = [new Places(before), new Places(after)];
			for (let i = 0; i < before.count; i++) {
				const [a, b] = [was.affine(i), now.affine(i)];
				const volume = matrix.determinant(b) / matrix.determinant(a);
				assert.ok(
					Math.abs(volume / (scale[0] * scale[1] * scale[2]) - 1) < 1e-4,
					'the volume goes by the sizes'
				);
				for (let k = 0; k < 3; k++) {
					const length = (m: Float64Array) =>
						Math.sqrt(m[3 * k] ** 2 + m[3 * k + 1] ** 2 + m[3 * k + 2] ** 2);
					assert.ok(Math.abs(length(b) / length(a) / scale[k] - 1) < 1e-5, 'each axis by its own');
					assert.ok(Math.abs(b[9 + k] - a[9 + k]) < 1e-6, 'it stays where it stands');
				}
			}
		}),
		{ numRuns: 40 }
	);
});

test('replaced all the way, a copy shears no more: it has the rotation and size that are asked for', () => {
	const { geometry } = run(
		shearing([
			[
				'transform',
				'plain',
				{ about: 'own', rotation: [10, 20, 30], scale: [2, 3, 4], onCopies: 'replace' },
				{ geometry: 'sheared.geometry' }
			]
		])
	);
	const places = new Places(geometry('plain').copies!.copies);
	const wanted = matrix.affineFrom([0, 0, 0], [10, 20, 30], [2, 3, 4]);
	for (let i = 0; i < 9; i++)
		places
			.affine(i)
			.subarray(0, 9)
			.forEach((x, k) => assert.ok(Math.abs(x - wanted[k]) < 1e-5));
});

test('a size that is written to copies that shear counts: they shear no more', () => {
	const { geometry } = run(
		shearing([
			[
				'write-attribute',
				'sized',
				{ name: 'scale', elements: 'copy', type: 'vec3', value: 2 },
				{ geometry: 'sheared.geometry' }
			]
		])
	);
	const { copies } = geometry('sized').copies!;
	assert.ok(!shears(copies));
	const m = new Places(copies).affine(0);
	for (let c = 0; c < 3; c++)
		assert.ok(Math.abs(Math.hypot(m[3 * c], m[3 * c + 1], m[3 * c + 2]) - 2) < 1e-5);
});

/** The settings of deformations that turn things, none of them with a kink. */
const DEFORMS: Record<string, Record<string, unknown>> = {
	bend: { angle: 70, towards: 25, axis: 'y' },
	twist: { angle: 130, axis: 'y' },
	taper: { axis: 'y' }
};

for (const [kind, settings] of Object.entries(DEFORMS))
	test(`${kind} turns copies as it turns the space around them, from a millimetre to ten kilometres`, () => {
		fc.assert(
			fc.property(fc.constantFrom(1e-3, 0.02, 1, 100, 5e3, 1e4), three(-60, 60), (size, rotation) => {
				// A tower of places, each with four others a little way off along its own axes, found by hand.
				const tower: Row[] = [
					[
						'grid-of-points',
						'places',
						{ countX: 3, countY: 5, countZ: 3, spacing: [size / 3, size / 4, size / 3] }
					],
					['box', 'hut', { size: [size / 50, size / 50, size / 50] }],
					['place-copies', 'huts', { rotation }, { points: 'places.points', source: 'hut.mesh' }],
					['copies-to-mesh', 'walls', {}, { copies: 'huts.copies' }],
					[kind, 'bentHuts', settings, { geometry: 'huts.copies' }],
					[kind, 'bentWalls', settings, { geometry: 'walls.mesh' }]
				];
				const { geometry } = run(tower);
				const copies = new Places(geometry('bentHuts').copies!.copies);
				const p = positionsOf(geometry('bentWalls').mesh!);
				const source = positionsOf(geometry('hut').mesh!);
				const each = source.length / 3;
				// The direction of the box's own y axis after the deformation, from the middles of its two ends.
				for (let i = 0; i < copies.position.length / 3; i++) {
					const way = [0, 0, 0];
					for (let v = 0; v < each; v++)
						for (let k = 0; k < 3; k++) way[k] += Math.sign(source[3 * v + 1]) * p[3 * (i * each + v) + k];
					const length = Math.sqrt(way.reduce((sum, x) => sum + x * x, 0));
					const m = copies.affine(i);
					const y = [m[3], m[4], m[5]];
					const long = Math.sqrt(y.reduce((sum, x) => sum + x * x, 0));
					const along = way.reduce((sum, x, k) => sum + x * y[k], 0) / (length * long);
					// A box a fiftieth as large as the whole bends a little itself.
					assert.ok(along > 0.9995, `copy ${i} of ${size} m: ${along}`);
				}
			}),
			{ numRuns: 30 }
		);
	});

test('what is hidden hides nothing that it is merged with, copies or faces, in either order', () => {
	for (const elements of ['copy', 'face'] as const)
		for (const order of [
			['hidden.copies', 'other'],
			['other', 'hidden.copies']
		]) {
			const [first, second] = elements === 'copy' ? ['a.copies', 'b.copies'] : ['post.mesh', 'knot.mesh'];
			const run = evaluateAll(
				generator([
					['row-of-points', 'row', { count: 3 }],
					['box', 'post', {}],
					['sphere', 'knot', {}],
					['place-copies', 'a', {}, { points: 'row.points', source: 'post.mesh' }],
					['place-copies', 'b', {}, { points: 'row.points', source: 'knot.mesh' }],
					['hide-where', 'hidden', { weight: 1, elements }, { copies: first }],
					['merge', 'all', {}, { geometry: order.map((one) => (one === 'other' ? second : one)) }]
				])
			);
			const all = run.geometry('all');
			const table = elements === 'copy' ? all.copies!.copies : all.mesh!.faces;
			const shown = table.columns.get('shown')!.data;
			const alone = run.geometry(elements === 'copy' ? 'b' : 'knot');
			const count = elements === 'copy' ? 3 : alone.mesh!.faces.count;
			assert.equal([...shown].filter((x) => x === 1).length, count, `${elements}, ${order}`);
			assert.equal(shown.length - count, elements === 'copy' ? 3 : 6);
		}
});
