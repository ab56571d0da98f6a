import assert from 'node:assert/strict';
import test from 'node:test';
import fc from 'fast-check';
import { USDAParser } from 'three/examples/jsm/loaders/usd/USDAParser.js';
import { USDLoader } from 'three/examples/jsm/loaders/USDLoader.js';
import * as THREE from 'three';
import { Evaluator, isGeometry } from '../engine/index.ts';
import type { GeneratorDocument, Setting } from '../engine/index.ts';
import type { Geometry } from '../geometry/index.ts';
import { floats, idsOf, tableOf, trianglesOf } from '../geometry/index.ts';
import { generator } from '../testing/index.ts';
import type { Row } from '../testing/index.ts';
import { UsdaFile } from './usda.ts';

const formula = (text: string): Setting => ({ formula: text, streams: [] });
const by = new Evaluator();
function at(document: GeneratorDocument, frame: number): Geometry {
	const { id } = document.graphs.main.nodes.at(-1)!;
	const result = by.begin(document, { frame }).pull([id]).results.get(id)!;
	assert.equal(result.error, null, result.error?.message);
	return [...result.outputs.values()].find(isGeometry)!;
}
function written(document: GeneratorDocument, frames: readonly number[]): string {
	const file = new UsdaFile({ rate: 24, name: document.name });
	for (const frame of frames) file.add(at(document, frame), frame);
	return [...file.text()].join('');
}
const upTo = (last: number) => Array.from({ length: last }, (_, i) => i + 1);

interface Spec {
	fields: { default?: unknown; timeSamples?: { times: number[]; values: unknown[] }; typeName?: string };
}
/** What an independent reader finds for an attribute at a frame. */
function reader(text: string) {
	const { specsByPath } = new USDAParser().parseData(text) as { specsByPath: Record<string, Spec> };
	return (path: string, frame: number): number[] => {
		const spec = specsByPath[path];
		assert.ok(spec, `${path} of ${Object.keys(specsByPath).join(' ')}`);
		const { timeSamples, default: only } = spec.fields;
		const flat = (value: unknown) => [value].flat(9).map(Number);
		if (!timeSamples) return flat(only);
		const { times, values } = timeSamples;
		const k = times.findLastIndex((time) => time <= frame);
		const [a, b] = [flat(values[k]), flat(values[Math.min(k + 1, values.length - 1)])];
		if (times[k] === frame || a.length !== b.length) return a;
		const share = k + 1 < times.length ? (frame - times[k]) / (times[k + 1] - times[k]) : 0;
		return a.map((x, i) => x + share * (b[i] - x));
	};
}
const close = (found: readonly number[], wanted: ArrayLike<number>, what: string, within = 2e-6) => {
	assert.equal(found.length, wanted.length, what);
	found.forEach((x, i) =>
		assert.ok(
			Math.abs(x - wanted[i]) <= within * Math.max(1, Math.abs(x)),
			`${what} ${i}: ${x}, ${wanted[i]}`
		)
	);
};

const ROW: Row[] = [
	['line', 'line', { from: [0, 0, 0], to: [6, 0, 0], points: 7 }],
	['box', 'post', { size: [0.2, 1, 0.3] }],
	['place-copies', 'posts', {}, { points: 'line.curve', source: 'post.mesh' }]
];
const COPIES = '/Generator/Copies';

test('copies: the same counts, places, rotations, sizes and visibility at every frame, to another reader', () => {
	fc.assert(
		fc.property(
			fc.constantFrom('sine', 'steps'),
			fc.integer({ min: -170, max: 170 }),
			fc.integer({ min: 0, max: 12 }),
			(sway, turn, from) => {
				const document = generator([
					...ROW,
					['hide-where', 'some', { weight: formula(`index >= frame - ${from}`) }, { copies: 'posts.copies' }],
					[
						'transform',
						'moved',
						{ about: 'own', move: [0, 1, 0.3], rotation: [turn, 0, 20], sway, scale: [1.3, 0.8, 1], rate: 2 },
						{ geometry: 'some.copies' }
					]
				]);
				const read = reader(written({ ...document, name: '' }, upTo(20)));
				for (const frame of [1, 9, 20]) {
					const { copies } = at(document, frame).copies!;
					close(read(`${COPIES}.positions`, frame), floats(copies, 'position'), 'places');
					close(read(`${COPIES}.scales`, frame), floats(copies, 'scale'), 'sizes');
					// The reader has the real part last, as we do.
					const q = floats(copies, 'orientation');
					close(read(`${COPIES}.orientationsf`, frame), q, 'rotations');
					close(read(`${COPIES}.orientations`, frame), q, 'rotations');
					close(read(`${COPIES}.protoIndices`, frame), new Array(7).fill(0), 'sources');
					const ids = idsOf(copies);
					const shown = copies.columns.get('shown')?.data;
					const hidden = [0, 1, 2, 3, 4, 5, 6].filter((i) => shown && !shown[i]);
					close(
						read(`${COPIES}.invisibleIds`, frame).filter((x) => !Number.isNaN(x)),
						hidden.map((i) => ids[2 * i]),
						'hidden'
					);
				}
			}
		),
		{ numRuns: 30 }
	);
});

test('a mesh that bends, grows or goes has samples of what changes, and only of that', () => {
	const document = generator([
		['grid', 'ground', { width: 4, depth: 4, columns: 5, rows: 4 }],
		['displace-by-noise', 'waves', { along: 'every', speed: 2 }, { geometry: 'ground.mesh' }]
	]);
	const text = written({ ...document, name: '' }, upTo(8));
	assert.match(text, /startTimeCode = 1\n\tendTimeCode = 8\n\ttimeCodesPerSecond = 24/);
	assert.doesNotMatch(text, /faceVertexIndices\.timeSamples/);
	const read = reader(text);
	for (const frame of [1, 4, 8]) {
		const { mesh } = at(document, frame);
		close(read('/Generator/Surface.points', frame), floats(mesh!.points, 'position'), 'points');
		close(read('/Generator/Surface.faceVertexCounts', frame), new Array(20).fill(4), 'faces');
		close(read('/Generator/Surface.faceVertexIndices', frame), mesh!.topology.cornerPoints, 'corners');
	}
	const growing = generator([
		['grid', 'ground', { columns: formula('2 + frame'), rows: 2 }],
		['displace', 'same', {}, { geometry: 'ground.mesh' }]
	]);
	const grown = reader(written({ ...growing, name: '' }, upTo(3)));
	assert.deepEqual(
		[1, 2, 3].map((frame) => grown('/Generator/Surface.faceVertexCounts', frame).length),
		[6, 8, 10]
	);
});

test('what stays and then changes does so at its frame, not on the way there', () => {
	const document = generator([
		...ROW,
		['transform', 'moved', { move: [0, formula('frame > 6'), 0] }, { geometry: 'posts.copies' }]
	]);
	const read = reader(written({ ...document, name: '' }, upTo(9)));
	assert.deepEqual(
		[1, 5, 6, 7, 9].map((frame) => read(`${COPIES}.positions`, frame)[1]),
		[0, 0, 0, 1, 1]
	);
});

test('another program opens it: the same triangles and places, materials too', () => {
	const document = generator([
		['cylinder', 'post', { segments: 7 }],
		[
			'material',
			'wood',
			{ name: 'Old wood', colour: [0.4, 0.2, 0.1], roughness: 0.8 },
			{ geometry: 'post.mesh' }
		]
	]);
	const geometry = at(document, 1);
	const group = new USDLoader().parse(written({ ...document, name: 'Tide post 2' }, [1])) as THREE.Group;
	const meshes: THREE.Mesh[] = [];
	group.traverse((one) => void (one instanceof THREE.Mesh && meshes.push(one)));
	assert.equal(meshes.length, 1);
	const { geometry: found, material } = meshes[0];
	const triangles = (found.index?.count ?? found.attributes.position.count) / 3;
	assert.equal(triangles, trianglesOf(geometry.mesh!).faces.length);
	const box = new THREE.Box3().setFromBufferAttribute(found.attributes.position as THREE.BufferAttribute);
	const p = floats(tableOf(geometry, 'mesh', 'point')!, 'position');
	const own = new THREE.Box3().setFromArray(Array.from(p));
	assert.ok(box.min.distanceTo(own.min) < 1e-5 && box.max.distanceTo(own.max) < 1e-5);
	assert.ok(Math.abs((material as THREE.MeshStandardMaterial).roughness - 0.8) < 1e-6);
});
