/** The benchmark: ratios of medians, against a library or a hand-written loop in the same process. */
import { spawnSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { BufferAttribute, BufferGeometry, Mesh as ThreeMesh, Vector3 } from 'three';
import { MeshSurfaceSampler } from 'three/examples/jsm/math/MeshSurfaceSampler.js';
import { MeshBVH } from 'three-mesh-bvh';
import { createNoise3D } from 'simplex-noise';
import * as varying from '../core/varying/index.ts';
import { Evaluator, withSetting } from '../core/engine/index.ts';
import { writeGlb } from '../core/formats/index.ts';
import {
	Places,
	boundsOf,
	column,
	cornerNormals,
	geometryOf,
	makePoints,
	makeTable,
	matrix,
	positionsOf,
	trianglesOf,
	withColumns,
	Ledger
} from '../core/geometry/index.ts';
import type { Geometry } from '../core/geometry/index.ts';
import { makeGrid } from '../core/kernels/grid.ts';
import { BoxTree } from '../core/kernels/box-tree.ts';
import { keepApart } from '../core/kernels/keep-apart.ts';
import { sowPoints } from '../core/kernels/sow-points.ts';
import { Packer } from '../core/session/packets.ts';
import { sortRows } from '../core/session/series.ts';
import { generator, withBodies } from '../core/testing/index.ts';
import type { Row as GraphRow } from '../core/testing/index.ts';

interface Row {
	name: string;
	ours: number;
	theirs: number | null;
	value: number;
	hold: number;
	unit: string;
}
const rows: Row[] = [];
const wanted = process.argv[2] ?? '';

/** Milliseconds of one run. */
function timed(run: () => unknown, collects: boolean): number {
	if (collects) (globalThis as { gc?: () => void }).gc?.();
	const start = performance.now();
	run();
	return performance.now() - start;
}

/** What a ribbon's mesh is made of, written as plainly as one would: frames from differences, two points for each. */
function ribbonsByHand(p: Float32Array, each: number): Float32Array[] {
	const count = p.length / 3;
	const out = new Float32Array(6 * count);
	const faces = (count / each) * (each - 1);
	const corners = new Uint32Array(4 * faces);
	const uv = new Float32Array(8 * faces);
	for (let i = 0, f = 0; i < count; i++) {
		const at = i % each;
		const a = at > 0 ? i - 1 : i,
			b = at < each - 1 ? i + 1 : i;
		const x = p[3 * b] - p[3 * a],
			z = p[3 * b + 2] - p[3 * a + 2];
		const flat = Math.sqrt(x * x + z * z) || 1;
		const half = 0.005 * (1 - at / (each - 1));
		for (let k = 0; k < 2; k++) {
			const side = k ? half : -half;
			out[6 * i + 3 * k] = p[3 * i] + (side * z) / flat;
			out[6 * i + 3 * k + 1] = p[3 * i + 1];
			out[6 * i + 3 * k + 2] = p[3 * i + 2] - (side * x) / flat;
		}
		if (at === each - 1) continue;
		corners.set([2 * i, 2 * i + 1, 2 * i + 3, 2 * i + 2], 4 * f);
		uv.set([0, at, 1, at, 1, at + 1, 0, at + 1], 8 * f++);
	}
	return [out, uv, corners as never];
}

const middle = (times: number[]): number => times.sort((a, b) => a - b)[times.length >> 1];

/**
 * Milliseconds of the middle run.
 * @param collects whether memory is tidied before each, so that no run pays for another. Not for runs of a few
 * milliseconds that an artist's hand repeats: after a full tidying the engine finds nothing where it was (110 µs a node
 * instead of 30).
 */
function median(run: () => unknown, times = 9, collects = true): number {
	for (let i = 0; i < 3; i++) run();
	return middle(Array.from({ length: times }, () => timed(run, collects)));
}

/** Milliseconds of the middle runs of two, which take turns, so that what else goes on in the machine meets both alike. */
function inTurns(one: () => unknown, other: () => unknown, times: number): [number, number] {
	for (let i = 0; i < 3; i++) {
		one();
		other();
	}
	const a: number[] = [],
		b: number[] = [];
	for (let i = 0; i < times; i++) {
		a.push(timed(one, true));
		b.push(timed(other, true));
	}
	return [middle(a), middle(b)];
}

/** Ours against theirs, as a ratio of times. */
function compare(name: string, hold: number, ours: () => unknown, theirs: () => unknown, times = 9): void {
	if (!name.includes(wanted)) return;
	const [own, other] = inTurns(ours, theirs, times);
	rows.push({ name, ours: own, theirs: other, value: own / other, hold, unit: 'ratio' });
}

/** A time in milliseconds. */
function within(name: string, hold: number, unit: string, value: () => number): void {
	if (!name.includes(wanted)) return;
	const measured = value();
	rows.push({ name, ours: measured, theirs: null, value: measured, hold, unit });
}

const N = 1_000_000;
const t = Float32Array.from({ length: N }, (_, i) => (i % 6283) / 1000);
const vectors = Float32Array.from({ length: 3 * N }, (_, i) => ((i * 7919) % 1000) / 500 - 1);
const cloud = geometryOf({
	points: { points: withColumns(makePoints(vectors).points, { t: column('float', 'plain', t) }) }
});
const elements = varying.elementsOf(cloud, 'points', 'point');
const scope: varying.Names = {
	lookUp: () => null,
	names: () => [],
	attributes: true,
	stream: () => [1, 2],
	noiseSeed: 7
};
const bind = (text: string) => varying.bindFormula(varying.parseFormula(text), scope, text);
const out = new Float32Array(N);
const out3 = new Float32Array(3 * N);

{
	const formula = bind('cos(t) * t');
	compare(
		'cos(t)*t, 1,000,000',
		1.5,
		() => varying.run(formula, elements, 1, out),
		() => {
			for (let i = 0; i < N; i++) out[i] = Math.cos(t[i]) * t[i];
		}
	);
}
{
	const formula = bind('((((t * 0.5 + 1) * t - 2) * t + 3) * t - 4) * t + 5');
	compare(
		'polynomial of 10 cheap steps, 1,000,000',
		2.5,
		() => varying.run(formula, elements, 1, out),
		() => {
			for (let i = 0; i < N; i++) {
				const x = t[i];
				out[i] = ((((x * 0.5 + 1) * x - 2) * x + 3) * x - 4) * x + 5;
			}
		}
	);
}
{
	const formula = bind('normalize(position) * 0.5 + vec(1, 2, 3)');
	compare(
		'vec3 normalise, scale, add, 1,000,000',
		3,
		() => varying.run(formula, elements, 3, out3),
		() => {
			for (let i = 0; i < 3 * N; i += 3) {
				const x = vectors[i],
					y = vectors[i + 1],
					z = vectors[i + 2];
				const s = 0.5 / Math.sqrt(x * x + y * y + z * z);
				out3[i] = x * s + 1;
				out3[i + 1] = y * s + 2;
				out3[i + 2] = z * s + 3;
			}
		}
	);
}
within('a formula on 20 elements', 20, 'µs', () => {
	const formula = bind('normalize(position) * sin(t) + vec(index / count, 2, random(0, 1))');
	const small = varying.elementsOf(
		geometryOf({
			points: {
				points: withColumns(makePoints(vectors.slice(0, 60)).points, {
					t: column('float', 'plain', t.slice(0, 20))
				})
			}
		}),
		'points',
		'point'
	);
	const result = new Float32Array(60);
	for (let i = 0; i < 5000; i++) varying.run(formula, small, 3, result);
	return median(() => {
		for (let i = 0; i < 1000; i++) varying.run(formula, small, 3, result);
	});
});

const ground = makeGrid(100, 100, 223, 224);
const { corners } = trianglesOf(ground);
const triangleCount = corners.length / 3;
const p = positionsOf(ground);
cornerNormals(ground);
{
	const flat = new Float32Array(corners.length * 3);
	for (let i = 0; i < corners.length; i++)
		flat.set(
			p.subarray(
				3 * ground.topology.cornerPoints[corners[i]],
				3 * ground.topology.cornerPoints[corners[i]] + 3
			),
			3 * i
		);
	const three = new BufferGeometry();
	three.setAttribute('position', new BufferAttribute(flat, 3));
	three.computeVertexNormals();
	const place = new Vector3(),
		normal = new Vector3();
	// What is made from the mesh alone is made once on both sides, as when a count or a seed is dragged.
	const sampler = new MeshSurfaceSampler(new ThreeMesh(three)).build();
	const theirs = (withNormal: boolean) => () => {
		for (let i = 0; i < N; i++) {
			sampler.sample(place, withNormal ? normal : undefined);
			out3[3 * i] = place.x;
			out3[3 * i + 1] = place.y;
			out3[3 * i + 2] = place.z;
		}
	};
	compare(
		`sow 1,000,000 points on ${triangleCount} triangles: position and face`,
		1 / 12,
		() => sowPoints(ground, { count: N, stream: [1, 2], weights: null, ids: false }),
		theirs(false),
		5
	);
	compare(
		'the same with normals',
		1 / 5,
		() =>
			sowPoints(ground, {
				count: N,
				stream: [1, 2],
				weights: null,
				normals: cornerNormals(ground),
				ids: false
			}),
		theirs(true),
		5
	);
	const document = generator([
		['grid', 'ground', { width: 100, depth: 100, columns: 223, rows: 224 }],
		['sow-points', 'sow', { by: 'count', count: N }, { surface: 'ground.mesh' }]
	]);
	const evaluator = new Evaluator({ memory: 8e9 });
	let seed = 0;
	const id = document.graphs.main.nodes[1].id;
	compare(
		'the same by the node, with ids, orientations and UVs too',
		1 / 5,
		() => evaluator.evaluate(document, [id], ++seed),
		theirs(true),
		5
	);
}
{
	const darts = sowPoints(ground, { count: 140_000, stream: [1, 2], weights: null }).positions;
	const distance = 0.12;
	const kept = keepApart(darts, distance).length;
	compare(
		`least-distance sowing, ${kept} kept`,
		0.5,
		() => keepApart(darts, distance),
		() => {
			const cells = new Map<string, { x: number; y: number; z: number }[]>();
			const keeps: { x: number; y: number; z: number }[] = [];
			for (let i = 0; i < darts.length; i += 3) {
				const dart = { x: darts[i], y: darts[i + 1], z: darts[i + 2] };
				const [cx, cy, cz] = [dart.x, dart.y, dart.z].map((v) => Math.floor(v / distance));
				let free = true;
				for (let a = -1; a <= 1 && free; a++)
					for (let b = -1; b <= 1 && free; b++)
						for (let c = -1; c <= 1 && free; c++)
							for (const other of cells.get(`${cx + a},${cy + b},${cz + c}`) ?? [])
								if (
									(other.x - dart.x) ** 2 + (other.y - dart.y) ** 2 + (other.z - dart.z) ** 2 <
									distance * distance
								)
									free = false;
				if (!free) continue;
				keeps.push(dart);
				const key = `${cx},${cy},${cz}`;
				if (!cells.has(key)) cells.set(key, []);
				cells.get(key)!.push(dart);
			}
			return keeps;
		},
		5
	);
}
{
	const data = Float32Array.from({ length: N }, (_, i) => Math.sin(i * 12.9898) * 43758.5453);
	const rows = Uint32Array.from({ length: N }, (_, i) => i);
	const column = { key: 'x', name: 'x', part: '', type: 'float', width: 1, offset: 0, data } as const;
	compare(
		'1,000,000 rows of a table sorted by a column, against a plain sort of it',
		3,
		() => sortRows(rows, column, false),
		() => data.slice().sort()
	);
}
{
	const noise = createNoise3D(() => 0.5);
	const fractal = bind('fractal(position, 4)');
	compare(
		'fractal noise, 4 octaves, 1,000,000',
		1,
		() => varying.run(fractal, elements, 1, out),
		() => {
			for (let i = 0, o = 0; i < N; i++, o += 3) {
				let sum = 0,
					strength = 1,
					x = vectors[o],
					y = vectors[o + 1],
					z = vectors[o + 2];
				for (let k = 0; k < 4; k++) {
					sum += strength * noise(x, y, z);
					strength *= 0.5;
					x *= 2;
					y *= 2;
					z *= 2;
				}
				out[i] = sum / 1.875;
			}
		},
		5
	);
}
{
	// A hilly sheet of 100,000 triangles, and questions within its height.
	const hilly = makeGrid(100, 100, 223, 224);
	const h = positionsOf(hilly);
	for (let i = 0; i < h.length; i += 3) h[i + 1] = 3 * Math.sin(h[i] / 4) * Math.cos(h[i + 2] / 5);
	const tris = trianglesOf(hilly).corners;
	const flat = new Float32Array(tris.length * 3);
	for (let i = 0; i < tris.length; i++)
		for (let k = 0; k < 3; k++) flat[3 * i + k] = h[3 * hilly.topology.cornerPoints[tris[i]] + k];
	const three = new BufferGeometry();
	three.setAttribute('position', new BufferAttribute(flat, 3));
	const asked = Float32Array.from(
		{ length: 300_000 },
		(_, i) => (((i * 7919) % 10_007) / 10_007 - 0.5) * (i % 3 === 1 ? 8 : 100)
	);
	const tree = new BoxTree(flat, 3);
	const bvh = new MeshBVH(three.clone());
	const place = new Vector3();
	const target = { point: new Vector3(), distance: 0, faceIndex: 0 };
	let sum = 0;
	compare(
		'nearest point, 100,000 questions near 100,000 triangles',
		0.3,
		() => {
			for (let i = 0; i < asked.length; i += 3)
				sum += tree.nearest(asked[i], asked[i + 1], asked[i + 2]).distance;
		},
		() => {
			for (let i = 0; i < asked.length; i += 3)
				sum += bvh.closestPointToPoint(place.set(asked[i], asked[i + 1], asked[i + 2]), target)!.distance;
		},
		5
	);
	compare(
		'nearest point, building the tree',
		1.2,
		() => new BoxTree(flat, 3),
		() => new MeshBVH(three.clone()),
		5
	);
	if (sum < 0) throw new Error();
}
{
	const chain = (cells: number) =>
		generator([
			['grid', 'n0', { columns: cells, rows: cells }],
			...Array.from(
				{ length: 199 },
				(_, i) =>
					[
						'transform',
						`n${i + 1}`,
						{ move: [0.01, 0, 0] },
						{ geometry: `n${i}.${i === 0 ? 'mesh' : 'geometry'}` }
					] as const
			)
		]);
	const document = chain(200);
	const evaluator = new Evaluator({ memory: 8e9 });
	const { nodes } = document.graphs.main;
	const target = nodes.at(-1)!.id;
	evaluator.evaluate(document, [target]);
	let x = 0;
	const change = (id: string) => ({
		...document,
		graphs: { main: withSetting(document.graphs.main, id, 'move', [++x, 0, 0]) }
	});
	const alone = generator([
		['grid', 'n0', { columns: 200, rows: 200 }],
		['transform', 'n1', {}, { geometry: 'n0.mesh' }]
	]);
	const single = new Evaluator();
	const lone = alone.graphs.main.nodes[1].id;
	const last = () => evaluator.evaluate(change(target), [target]);
	const thatNode = () =>
		single.evaluate(
			{ ...alone, graphs: { main: withSetting(alone.graphs.main, lone, 'move', [++x, 0, 0]) } },
			[lone]
		);
	within('last setting of a 200-node graph, beyond 1.1 of that node alone', 1, 'ms', () => {
		const [whole, kernel] = inTurns(last, thatNode, 21);
		return Math.max(0, whole - 1.1 * kernel);
	});
	const cheap = chain(1);
	const quick = new Evaluator();
	const end = cheap.graphs.main.nodes.at(-1)!.id,
		middle = cheap.graphs.main.nodes[99].id;
	const changeMiddle = () =>
		quick.evaluate(
			{ ...cheap, graphs: { main: withSetting(cheap.graphs.main, middle, 'move', [++x, 0, 0]) } },
			[end]
		);
	// Warm, as in the middle of a drag.
	for (let i = 0; i < 150; i++) changeMiddle();
	within(
		'a middle setting with 100 cheap nodes after it, a node',
		50,
		'µs',
		() => (median(changeMiddle, 61, false) * 1000) / 100
	);
}
{
	// A million points bent by a weight that goes through a ramp: the node alone, against the same loops by hand.
	const ramp = { stops: [0, 0.3, 0.7, 1].map((at, i) => ({ at, value: i % 2, easing: 'smooth' })) };
	const document = generator([
		['grid', 'sheet', { width: 10, depth: 10, columns: 999, rows: 999 }],
		['weight-by-height', 'across', { from: -5, to: 5, direction: [1, 0, 0] }],
		['shape-weight', 'shaped', { ramp }, { weight: 'across.weight' }],
		['bend', 'bent', { axis: 'z', angle: 90 }, { geometry: 'sheet.mesh', weight: 'shaped.weight' }]
	]);
	const evaluator = new Evaluator({ memory: 8e9 });
	const bent = document.graphs.main.nodes[3].id;
	let angle = 10;
	const own = () => {
		const graph = withSetting(document.graphs.main, bent, 'angle', ++angle);
		return evaluator.evaluate({ ...document, graphs: { main: graph } }, [bent]);
	};
	const sheet = makeGrid(10, 10, 999, 999);
	const from = positionsOf(sheet);
	const byHand = () => {
		const to = new Float32Array(from.length);
		const turnOfAll = (++angle * Math.PI) / 180;
		for (let i = 0; i < from.length; i += 3) {
			const x = from[i],
				h = from[i + 2] + 5;
			let t = (x + 5) / 10;
			t = t < 0 ? 0 : t > 1 ? 1 : t;
			let stop = 0;
			while (stop < 2 && ramp.stops[stop + 1].at <= t) stop++;
			const a = ramp.stops[stop],
				b = ramp.stops[stop + 1];
			let s = (t - a.at) / (b.at - a.at);
			s = s * s * (3 - 2 * s);
			const turn = turnOfAll * (a.value + (b.value - a.value) * s);
			if (Math.abs(turn) < 1e-9) {
				to[i] = x;
				to[i + 1] = from[i + 1];
				to[i + 2] = from[i + 2];
				continue;
			}
			const radius = 10 / turn;
			const theta = h / radius;
			to[i] = radius - (radius - x) * Math.cos(theta);
			to[i + 1] = from[i + 1];
			to[i + 2] = (radius - x) * Math.sin(theta) - 5;
		}
		return to;
	};
	compare('a million points bent by a ramped weight', 2.5, own, byHand, 5);
}
{
	const position = vectors,
		orientation = new Float32Array(4 * N),
		scale = new Float32Array(3 * N).fill(1);
	for (let i = 0; i < N; i++) orientation[4 * i + 3] = 1;
	const copies = makeTable(N, {
		position: column('vec3', 'position', position),
		orientation: column('vec4', 'orientation', orientation),
		scale: column('vec3', 'plain', scale),
		source: column('int', 'id', new Int32Array(N))
	});
	const geometry: Geometry = geometryOf({
		copies: { copies, sources: [geometryOf({ mesh: makeGrid(1, 1, 1, 1) })] }
	});
	compare(
		'1,000,000 copies to GLB',
		3,
		() => writeGlb(geometry),
		() => {
			const bytes = new Uint8Array(40 * N + 1000);
			bytes.set(new Uint8Array(position.buffer), 500);
			bytes.set(new Uint8Array(orientation.buffer), 500 + 12 * N);
			bytes.set(new Uint8Array(scale.buffer), 500 + 28 * N);
			return bytes;
		}
	);
	const turned = orientation.map((_, i) => Math.sin(i * 12.9898));
	for (let i = 0; i < 4 * N; i += 4) {
		const size = Math.hypot(turned[i], turned[i + 1], turned[i + 2], turned[i + 3]);
		for (let k = 0; k < 4; k++) turned[i + k] /= size;
	}
	const reeds = makeTable(N, {
		...Object.fromEntries(copies.columns),
		orientation: column('vec4', 'orientation', turned)
	});
	const reed = geometryOf({ mesh: makeGrid(0.05, 2, 2, 30) });
	const place = matrix.identity();
	compare(
		'bounds of 1,000,000 copies turned every way, against reading their places',
		2,
		() => boundsOf(geometryOf({ copies: { copies: reeds, sources: [reed] } })),
		() => {
			const places = new Places(reeds);
			let sum = 0;
			for (let i = 0; i < N; i++) sum += places.affine(i, place)[9];
			return sum;
		}
	);
	// What the page does with a packet: it puts the shared array into an attribute.
	const packet = new Packer(new Ledger({ limit: 8e9, shared: true })).pack(
		[{ node: 'n', geometry, ghost: false }],
		false
	);
	within('1,000,000 copies, the packet on the page', 10, 'ms', () =>
		median(
			() => new Map(packet.draws.map((draw) => [draw.matricesKey, new BufferAttribute(draw.matrices!, 16)]))
		)
	);
	within('1,000,000 copies, the packet in the worker (not held)', 1000, 'ms', () =>
		median(
			() =>
				new Packer(new Ledger({ limit: 8e9, shared: true })).pack(
					[{ node: 'n', geometry: { ...geometry }, ghost: false }],
					false
				),
			3
		)
	);
}
{
	const document = generator([
		['grid', 'ground'],
		['sow-points', 'sow', { by: 'count', count: 1_000_000 }, { surface: 'ground.mesh' }],
		['box', 'box'],
		[
			'place-copies',
			'copies',
			{ rotation: [0, { low: 0, high: 360, stream: 'a' }, 0] },
			{ points: 'sow.points', source: 'box.mesh' }
		]
	]);
	within('peak bytes of an evaluation, against its result', 2.5, '×', () => {
		const evaluator = new Evaluator({ memory: 8e9 });
		const id = document.graphs.main.nodes.at(-1)!.id;
		const { results } = evaluator.evaluate(document, [id]);
		void results;
		return evaluator.ledger.peak / evaluator.ledger.held;
	});
}

{
	const model = generator([['number', 'n0', { value: { low: 0, high: 1, stream: 'a' } }]]);
	const [first] = model.graphs.main.nodes;
	const chain = (count: number, text: (before: string) => string) => ({
		...model,
		graphs: {
			main: {
				...model.graphs.main,
				nodes: Array.from({ length: count }, (_, i) => ({
					...first,
					id: `n${i}`,
					short: `n${i}`,
					settings: i ? { value: { formula: text(`n${i - 1}.value`), streams: [] } } : first.settings
				}))
			}
		}
	});
	const evaluated = (document: typeof model, last: string) => {
		const run = () =>
			new Evaluator().evaluate({ ...document, graphs: { main: { ...document.graphs.main } } }, [last]);
		// As in use, where it is the thousandth edit and not the first.
		for (let i = 0; i < 20; i++) run();
		return median(run, 9, false);
	};
	const long = chain(2000, (before) => `${before} + 1`);
	within('2,000 references in a chain', 20, 'ms', () => evaluated(long, 'n1999'));
	const doubling = chain(31, (before) => `${before} + ${before}`);
	within('30 numbers that refer twice to the one before', 20, 'ms', () => evaluated(doubling, 'n30'));
}
{
	// Copies on copies, against the same number of small geometries.
	const tree = (levels: number) =>
		generator([
			['box', 'stick', {}],
			[
				'branching-copies',
				'tree',
				{ levels, rotation: [0, 0, { formula: '(sibling - 0.5) * 50', streams: [] }] },
				{ source: 'stick.mesh' }
			]
		]);
	const deep = tree(16);
	const { id } = deep.graphs.main.nodes[1];
	const small = () => Array.from({ length: 65_536 }, (_, i) => makeGrid(1 + (i & 7), 1, 4, 4));
	compare('131,071 branching copies', 1 / 20, () => new Evaluator().evaluate(deep, [id]), small, 3);
}
{
	// Strands of 8 pieces to ribbons, against the same loops by hand.
	const strands = generator([
		['grid-of-points', 'roots', { countX: 500, countY: 1, countZ: 400 }],
		[
			'grow-strands',
			'strands',
			{ lean: { low: 0, high: 30, stream: 'a' }, bend: { low: 0, high: 60, stream: 'b' } },
			{ from: 'roots.points' }
		],
		[
			'ribbon',
			'ribbons',
			{ width: { formula: 'attribute.width * (1 - u)', streams: [] } },
			{ curve: 'strands.strands' }
		]
	]);
	const ids = strands.graphs.main.nodes.map(({ id }) => id);
	const evaluator = new Evaluator();
	const { results } = evaluator.evaluate(strands, [ids[1]]);
	const p = positionsOf((results.get(ids[1])!.outputs.get('strands') as Geometry).curves!);
	let width = 0.01;
	const ours = () =>
		evaluator.evaluate(
			{ ...strands, graphs: { main: withSetting(strands.graphs.main, ids[2], 'roll', (width += 0.001)) } },
			[ids[2]]
		);
	compare('200,000 strands of 8 to ribbons', 3, ours, () => ribbonsByHand(p, 9), 3);
}
{
	// A body of 20 cheap nodes, evaluated with 1,000 different values.
	const body: GraphRow[] = [
		['input', 'height', { name: 'height', carries: 'number', default: 1 }],
		['box', 'n0', { size: [1, { formula: 'height.value', streams: [] }, 1] }]
	];
	for (let i = 1; i < 20; i++)
		body.push([
			'transform',
			`n${i}`,
			{ move: [0.01, 0, 0] },
			{ geometry: i > 1 ? `n${i - 1}.geometry` : 'n0.mesh' }
		]);
	body.push(['output', 'end', { name: 'shape', carries: 'geometry' }, { value: 'n19.geometry' }]);
	const document = (shift: number) =>
		withBodies(
			[
				['row-of-points', 'row', { count: 1000 }],
				[
					'vary-each-copy',
					'all',
					{ body: 'part', rounding: 'none', height: { formula: `index / 1000 + ${shift}`, streams: [] } },
					{ points: 'row.points' }
				]
			],
			{ part: body }
		);
	let shift = 1;
	const evaluator = new Evaluator();
	const once = () => evaluator.evaluate(document(shift++), ['all']);
	within(
		'a body of 20 cheap nodes, evaluated 1,000 times, a node',
		50,
		'µs',
		() => median(once, 5, false) / 20
	);
}
/** Milliseconds from one played frame to the next of copies that sway, drift, are passed by a zone, latched, and follow. */
function aFrame(side: number): number {
	const document = generator([
		['grid-of-points', 'field', { countX: side, countZ: side }],
		['box', 'post', {}],
		['place-copies', 'posts', {}, { points: 'field.points', source: 'post.mesh' }],
		['transform', 'sway', { about: 'own', rotation: [0, 0, 20], sway: 'sine' }, { geometry: 'posts.copies' }],
		['displace-by-noise', 'drift', { along: 'direction', speed: 0.5 }, { geometry: 'sway.geometry' }],
		[
			'weight-in-zone',
			'zone',
			{ centre: [{ formula: 'time * 10 - 20', streams: [] }, 0, 0], size: [8, 8, 8] }
		],
		[
			'transform',
			'lift',
			{ about: 'own', move: [0, 2, 0] },
			{ geometry: 'drift.geometry', weight: 'zone.weight' }
		],
		['latch', 'latch', { elements: 'copy' }, { geometry: 'lift.geometry', when: 'zone.weight' }],
		['damped-follow', 'late', {}, { geometry: 'latch.geometry' }]
	]);
	const { id } = document.graphs.main.nodes.at(-1)!;
	const evaluator = new Evaluator();
	let frame = 0;
	const play = () => evaluator.begin(document, { frame: ++frame }).pull([id]);
	// In the middle of playing, two seconds after it began.
	for (let i = 0; i < 48; i++) play();
	return median(play, 60, false);
}
{
	let small = 0;
	within(
		'a played frame of 10,000 copies that sway, drift, latch and follow',
		12,
		'ms',
		() => (small = aFrame(100))
	);
	within('a played frame of 100,000 of them, against 10,000', 10, 'times', () => aFrame(316) / small);
}
{
	const start = (args: string[]) =>
		median(() => spawnSync(process.execPath, args, { stdio: 'ignore' }), 5, false) / 1000;
	within('start of the command line', 0.3, 's', () =>
		start(['bin/embrell.mjs', 'check', 'samples/reed-bed.embrell.json'])
	);
}

const width = Math.max(...rows.map((row) => row.name.length));
for (const row of rows) {
	const shown = row.unit === 'ratio' ? `${row.value.toFixed(3)}` : `${row.value.toFixed(2)} ${row.unit}`;
	console.log(
		`${row.name.padEnd(width)}  ${shown.padStart(10)}  hold ${row.hold < 1 && row.unit === 'ratio' ? row.hold.toFixed(3) : row.hold}  ${row.value <= row.hold ? 'held' : 'NOT HELD'}${row.theirs === null ? '' : `  (${row.ours.toFixed(1)} ms against ${row.theirs.toFixed(1)} ms)`}`
	);
}
writeFileSync('bench.json', JSON.stringify(rows, null, '\t'));
