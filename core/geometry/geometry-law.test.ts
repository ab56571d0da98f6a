/** Laws of geometry: of maps, of merging, of carrying values between elements, and of copies. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { quaternion } from '../math/index.ts';
import { meshOfCopies } from '../kernels/mesh-of-copies.ts';
import { evaluateAll, generator } from '../testing/index.ts';
import type { Row } from '../testing/index.ts';
import {
	areaOf,
	boundsOf,
	column,
	convertColumn,
	cornerNormals,
	countsOf,
	digestOf,
	edgesOf,
	expand,
	idsOf,
	lengthOf,
	makeMesh,
	matrix,
	mergeGeometries,
	positionsOf,
	splitLinear,
	tableOf,
	textColumn,
	transformGeometry,
	volumeOf,
	withColumns
} from './index.ts';
import type { Column, Geometry, Kind } from './index.ts';

const number = fc.integer({ min: -40, max: 40 }).map((n) => n / 8);
const nine = fc.array(number, { minLength: 9, maxLength: 9 });
const angles = fc.tuple(...[0, 1, 2].map(() => fc.integer({ min: -180, max: 180 })));
const ratio = fc.constantFrom(-2, -1, -0.25, 0.1, 0.5, 1, 3);

function turned([x, y, z]: number[]): number[] {
	const q = [0, 0, 0, 1];
	quaternion.fromAngles(q, 0, x, y, z);
	return q;
}
const mapOf = (move: number[], angle: number[], scale: number[]) =>
	matrix.compose(move, turned(angle), scale);
const near = (a: ArrayLike<number>, b: ArrayLike<number>, within: number, what = '') => {
	for (let i = 0; i < a.length; i++)
		assert.ok(Math.abs(a[i] - b[i]) <= within, `${what} ${[...Array.from(a)]} against ${[...Array.from(b)]}`);
};
const times = (a: readonly number[], b: readonly number[]): number[] =>
	[0, 3, 6].flatMap((c) => [0, 1, 2].map((k) => a[k] * b[c] + a[3 + k] * b[c + 1] + a[6 + k] * b[c + 2]));
const transposed = (m: readonly number[]) => [0, 1, 2].flatMap((c) => [0, 1, 2].map((k) => m[3 * k + c]));
const IDENTITY = [1, 0, 0, 0, 1, 0, 0, 0, 1];

test('any linear map is a rotation, a scale and a rotation, flat and empty ones too', () => {
	fc.assert(
		fc.property(nine, fc.boolean(), (m, flat) => {
			// A map that squeezes all into a plane or a line.
			if (flat) for (let k = 0; k < 3; k++) m[6 + k] = m[k] * 2 - m[3 + k];
			const { u, v, scale } = splitLinear(m);
			near(times(u, transposed(u)), IDENTITY, 1e-9, 'outer');
			near(times(v, transposed(v)), IDENTITY, 1e-9, 'inner');
			assert.ok(matrix.determinant(u) > 0 && matrix.determinant(v) > 0, 'both turn, neither mirrors');
			const scaled = [...scale.keys()].flatMap((c) => [0, 1, 2].map((k) => u[3 * c + k] * scale[c]));
			near(times(scaled, transposed(v)), m, 1e-6, 'the whole');
		}),
		{ numRuns: 500 }
	);
});

test('a move, rotation and scale come back from their map, with no size along one axis too', () => {
	fc.assert(
		fc.property(angles, fc.tuple(...[0, 1, 2].map(() => fc.oneof(ratio, fc.constant(0)))), (angle, scale) => {
			const map = mapOf([1, 2, 3], angle, scale);
			const parts = matrix.decompose(map)!;
			assert.ok(parts, 'rotation and scale shear nothing');
			const size = Math.sqrt(parts.q.reduce((sum, x) => sum + x * x, 0));
			assert.ok(Math.abs(size - 1) < 1e-9, `a rotation of size ${size}`);
			near(matrix.compose([1, 2, 3], parts.q, parts.scale), map, 1e-9);
		}),
		{ numRuns: 500 }
	);
});

const ROWS: Row[] = [
	['box', 'crate', { size: [1, 2, 3] }],
	['material', 'wood', { name: 'Wood', colour: [0.5, 0.3, 0.1] }, { geometry: 'crate.mesh' }],
	['sphere', 'ball', { segments: 12, rows: 8 }],
	['material', 'glass', { name: 'Glass' }, { geometry: 'ball.mesh' }],
	['grid', 'bare', { columns: 3, rows: 2 }],
	['helix', 'spring', {}],
	['row-of-points', 'row', { count: 4 }],
	[
		'place-copies',
		'copies',
		{ scale: { low: 0.5, high: 2, stream: 's' } },
		{ points: 'row.points', source: ['wood.geometry', 'glass.geometry'] }
	]
];
const run = evaluateAll(generator(ROWS));
const [crate, wood, glass, bare, spring, row, copies] = [
	'crate',
	'wood',
	'glass',
	'bare',
	'spring',
	'row',
	'copies'
].map(run.geometry);

test('moving in two steps is moving by their product; rotation keeps areas and lengths, scale multiplies them', () => {
	const all = mergeGeometries([wood, spring, row]);
	fc.assert(
		fc.property(fc.array(number, { minLength: 3, maxLength: 3 }), angles, ratio, (move, angle, scale) => {
			const a = mapOf(move, angle, [scale, scale, scale]),
				b = mapOf([1, -2, 0.5], [20, 40, 60], [1, 1, 1]);
			const steps = transformGeometry(transformGeometry(all, a), b),
				once = transformGeometry(all, matrix.product(b, a));
			near(positionsOf(steps.mesh!), positionsOf(once.mesh!), 1e-4);
			near(positionsOf(steps.points!), positionsOf(once.points!), 1e-4);
			assert.ok(Math.abs(areaOf(once) / areaOf(all) / scale ** 2 - 1) < 1e-5);
			assert.ok(Math.abs(lengthOf(once) / lengthOf(all) / Math.abs(scale) - 1) < 1e-5);
			// Mirrored faces are turned round, so that what was outside stays outside.
			assert.ok(Math.abs(volumeOf(once.mesh!) / volumeOf(all.mesh!) / Math.abs(scale) ** 3 - 1) < 1e-5);
		}),
		{ numRuns: 100 }
	);
});

/** The colour that each face is drawn with. */
const coloursOf = ({ mesh, materials }: Geometry): string[] => {
	const index = mesh!.faces.columns.get('material')?.data;
	return Array.from({ length: mesh!.faces.count }, (_, f) => {
		const place = index ? index[f] : materials.length ? 0 : -1;
		return place < 0 ? 'none' : materials[place].name;
	});
};

test('under any map normals stay square to what lies in the face, and directions stay in it', () => {
	fc.assert(
		fc.property(nine, (linear) => {
			const m = Float64Array.of(...linear, 1, 2, 3);
			const det =
				m[0] * (m[4] * m[8] - m[5] * m[7]) -
				m[3] * (m[1] * m[8] - m[2] * m[7]) +
				m[6] * (m[1] * m[5] - m[2] * m[4]);
			fc.pre(Math.abs(det) > 0.01);
			const { count } = bare.mesh!.points;
			// A direction and a normal that are square to one another, the same at each point.
			const filled = (role: 'direction' | 'normal', v: number[]): Column =>
				column(
					'vec3',
					role,
					Float32Array.from({ length: 3 * count }, (_, i) => v[i % 3])
				);
			const points = withColumns(bare.mesh!.points, {
				along: filled('direction', [1, 2, 0]),
				out: filled(
					'normal',
					[-0.8, 0.4, 0.2].map((x) => x / Math.sqrt(0.84))
				)
			});
			const moved = transformGeometry({ ...bare, mesh: { ...bare.mesh!, points } }, m).mesh!.points;
			const [along, out] = ['along', 'out'].map((name) => moved.columns.get(name)!.data.subarray(0, 3));
			const wanted = [0, 1, 2].map((k) => m[k] + 2 * m[3 + k]);
			near(along, wanted, 1e-4, 'the direction goes with the map, without its move');
			const size = Math.sqrt(out[0] * out[0] + out[1] * out[1] + out[2] * out[2]);
			assert.ok(Math.abs(size - 1) < 1e-5, 'the normal is 1 long');
			const length = Math.sqrt(wanted.reduce((sum, x) => sum + x * x, 0));
			const square = Array.from(along).reduce((sum, x, k) => sum + x * out[k], 0) / (length || 1);
			assert.ok(Math.abs(square) < 1e-4, `square to the face: ${square}`);
		})
	);
});

test('merging keeps every element, its material and its place; ids stay apart; the same material is listed once', () => {
	const parts = [wood, bare, glass, wood, spring, row, copies];
	const whole = mergeGeometries(parts);
	for (const what of ['points', 'faces', 'curves', 'copies'] as const)
		assert.equal(
			countsOf(whole)[what],
			parts.reduce((sum, part) => sum + countsOf(part)[what], 0),
			what
		);
	assert.ok(Math.abs(areaOf(whole) - parts.reduce((sum, part) => sum + areaOf(part), 0)) < 1e-4);
	assert.deepEqual(coloursOf(whole), [wood, bare, glass, wood].flatMap(coloursOf));
	assert.equal(whole.materials.length, 2);
	const ids = idsOf(whole.mesh!.points);
	const names = new Set(Array.from({ length: ids.length / 2 }, (_, i) => `${ids[2 * i]} ${ids[2 * i + 1]}`));
	assert.equal(names.size, whole.mesh!.points.count);
	for (const k of [0, 1, 2]) {
		assert.equal(boundsOf(whole)!.low[k], Math.min(...parts.map((part) => boundsOf(part)!.low[k])));
		assert.equal(boundsOf(whole)!.high[k], Math.max(...parts.map((part) => boundsOf(part)!.high[k])));
	}
});

test('an attribute that only one side has takes its default on the other', () => {
	const wet: Column = {
		...column('float', 'plain', new Float32Array(crate.mesh!.points.count).fill(0.75)),
		default: [0.25]
	};
	const marked = { ...crate, mesh: { ...crate.mesh!, points: withColumns(crate.mesh!.points, { wet }) } };
	const { data } = mergeGeometries([bare, marked]).mesh!.points.columns.get('wet')!;
	const first = bare.mesh!.points.count;
	assert.ok(
		data.subarray(0, first).every((x) => x === 0.25) && data.subarray(first).every((x) => x === 0.75)
	);
});

test('texts that only one side has are empty on the other, whichever comes first; words stay what they were', () => {
	const { count } = crate.mesh!.points;
	const words = Array.from({ length: count }, (_, i) => ['oak', 'reed', ''][i % 3]);
	const marked = {
		...crate,
		mesh: { ...crate.mesh!, points: withColumns(crate.mesh!.points, { stuff: textColumn(words) }) }
	};
	const textsOf = (geometry: Geometry): string[] => {
		const { data, words: known } = geometry.mesh!.points.columns.get('stuff')!;
		return Array.from(data, (place) => known![place]);
	};
	const empty = Array<string>(bare.mesh!.points.count).fill('');
	assert.deepEqual(textsOf(mergeGeometries([bare, marked])), [...empty, ...words]);
	assert.deepEqual(textsOf(mergeGeometries([marked, bare])), [...words, ...empty]);
	assert.deepEqual(textsOf(mergeGeometries([marked, marked])), [...words, ...words]);
});

const MESH_KINDS: Kind[] = ['point', 'edge', 'face', 'corner'];

test('values carried between elements of a mesh stay between the least and the most; what is the same stays the same', () => {
	const mesh = mergeGeometries([glass, bare]);
	for (const from of MESH_KINDS)
		for (const to of [...MESH_KINDS, 'whole' as const]) {
			const { count } = tableOf(mesh, 'mesh', from)!;
			const same = column('float', 'plain', new Float32Array(count).fill(3));
			assert.ok(
				convertColumn(mesh, 'mesh', same, from, to).data.every((x) => x === 3),
				`${from} to ${to}`
			);
			const varied = column(
				'float',
				'plain',
				Float32Array.from({ length: count }, (_, i) => (i * 7) % 11)
			);
			const { data } = convertColumn(mesh, 'mesh', varied, from, to);
			assert.ok(
				data.every((x) => x >= 0 && x <= 10),
				`${from} to ${to}`
			);
			// Names never blend: each is one that was there.
			const named = column(
				'int',
				'id',
				Int32Array.from({ length: count }, (_, i) => 100 + 2 * i)
			);
			const carried = convertColumn(mesh, 'mesh', named, from, to).data;
			assert.ok(
				carried.every((x) => x >= 100 && x % 2 === 0 && x < 100 + 2 * count),
				`${from} to ${to}`
			);
		}
});

test('heights of points become heights of the middles of their edges and faces', () => {
	const p = positionsOf(wood.mesh!);
	const heights = column(
		'float',
		'plain',
		Float32Array.from({ length: p.length / 3 }, (_, i) => p[3 * i + 1])
	);
	const onFaces = [...convertColumn(wood, 'mesh', heights, 'point', 'face').data].sort((a, b) => a - b);
	assert.deepEqual(
		onFaces,
		[-1, 0, 0, 0, 0, 1].map((y) => onFaces[0] + 1 + y)
	);
	const onEdges = convertColumn(wood, 'mesh', heights, 'point', 'edge').data;
	assert.equal(onEdges.filter((y) => y === onFaces[1]).length, 4, 'four edges stand upright');
});

test('rotations are the same with either sign, so they do not cancel out where they meet', () => {
	const { count } = bare.mesh!.corners;
	const q = turned([0, 70, 0]);
	const data = Float32Array.from({ length: 4 * count }, (_, i) => ((i >> 2) % 2 ? -1 : 1) * q[i % 4]);
	const met = convertColumn(bare, 'mesh', column('vec4', 'orientation', data), 'corner', 'point').data;
	for (let i = 0; i < met.length; i += 4) {
		const along = [0, 1, 2, 3].reduce((sum, k) => sum + met[i + k] * q[k], 0);
		assert.ok(Math.abs(Math.abs(along) - 1) < 1e-6, `${met.subarray(i, i + 4)}`);
	}
});

test('copies written out have the areas, lengths and bounds of what they show', () => {
	const placed = expand(copies);
	assert.equal(
		placed.reduce((sum, { count }) => sum + count, 0),
		4
	);
	const scales = copies.copies!.copies.columns.get('scale')!.data;
	const sources = copies.copies!.copies.columns.get('source')!.data;
	let area = 0;
	for (let i = 0; i < 4; i++) area += scales[3 * i] ** 2 * areaOf(copies.copies!.sources[sources[i]]);
	const written = meshOfCopies(copies);
	assert.ok(Math.abs(areaOf(written) / area - 1) < 1e-5);
	const nested: Geometry = {
		...copies,
		copies: { ...row2(), sources: [copies] }
	};
	assert.equal(countsOf(meshOfCopies(nested)).faces, 2 * countsOf(written).faces);
});

/** Two places, five metres apart. */
function row2() {
	const { copies: table } = copies.copies!;
	const two = (name: string, width: number) => table.columns.get(name)!.data.slice(0, 2 * width);
	return {
		copies: {
			count: 2,
			ids: null,
			columns: new Map([
				['position', column('vec3', 'position', Float32Array.of(0, 0, 0, 5, 0, 0))],
				['orientation', column('vec4', 'orientation', two('orientation', 4) as Float32Array)],
				['scale', column('vec3', 'plain', Float32Array.of(1, 1, 1, 1, 1, 1))],
				['source', column('int', 'id', Int32Array.of(0, 0))]
			])
		}
	};
}

test('a digest follows what is there, not the order in which columns were added', () => {
	const a = column('float', 'plain', new Float32Array(row.points!.points.count).fill(1)),
		b = column('float', 'plain', new Float32Array(row.points!.points.count).fill(2));
	const made = (changes: Record<string, Column>) =>
		digestOf({ ...row, points: { points: withColumns(row.points!.points, changes) } });
	assert.equal(made({ a, b }), made({ b, a }));
	assert.notEqual(made({ a, b }), made({ a: b, b: a }));
	assert.notEqual(made({ a }), made({ b: a }));
	const wrong = a.data.slice();
	wrong[2] = -0;
	assert.notEqual(made({ a }), made({ a: { ...a, data: wrong } as Column }));
});

test('a fan of 100,000 faces: every edge once, normals as of a few faces, in time that grows with its size', () => {
	const fan = (n: number) => {
		const p = new Float32Array(3 * (n + 2));
		const corners = new Uint32Array(3 * n);
		for (let i = 0; i <= n; i++) {
			const turn = (2 * Math.PI * i) / n;
			p.set([Math.cos(turn), Math.sin(turn), -1], 3 * (i + 1));
			if (i < n) corners.set([0, i + 1, i + 2], 3 * i);
		}
		return makeMesh(
			p,
			Uint32Array.from({ length: n + 1 }, (_, i) => 3 * i),
			corners
		);
	};
	const large = fan(100_000);
	const { points, uses } = edgesOf(large.topology);
	// Spokes and rims; the first and the last spoke have one face each.
	assert.equal(uses.length, 200_001);
	assert.equal(
		uses.reduce((sum, x) => sum + x, 0),
		300_000
	);
	assert.equal(points.length, 400_002);
	// A cone of 45°: its tip is round, so each face's own direction is mixed with those within the angle of an edge.
	const [normals, few] = [cornerNormals(large), cornerNormals(fan(200))];
	for (const share of [0, 0.25, 0.7]) {
		const [a, b] = [3 * 3 * Math.round(share * 100_000 - 0.5), 3 * 3 * Math.round(share * 200 - 0.5)].map(
			(x) => Math.max(0, x)
		);
		for (let k = 0; k < 3; k++)
			assert.ok(
				Math.abs(normals[a + k] - few[b + k]) < 0.08,
				`${share} ${k}: ${normals[a + k]}, ${few[b + k]}`
			);
		assert.ok(Math.abs(Math.hypot(normals[a], normals[a + 1], normals[a + 2]) - 1) < 1e-5);
	}
});
