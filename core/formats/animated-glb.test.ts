import assert from 'node:assert/strict';
import test from 'node:test';
import fc from 'fast-check';
import * as THREE from 'three';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';
import validator from 'gltf-validator';
import { Evaluator, isGeometry, momentAt } from '../engine/index.ts';
import type { GeneratorDocument, Setting } from '../engine/index.ts';
import type { Geometry } from '../geometry/index.ts';
import { expand, floats, tableOf } from '../geometry/index.ts';
import { generator } from '../testing/index.ts';
import type { Row } from '../testing/index.ts';
import { AnimatedGlb } from './animated-glb.ts';

const formula = (text: string): Setting => ({ formula: text, streams: [] });
const by = new Evaluator();
function at(document: GeneratorDocument, frame: number): Geometry {
	const { id } = document.graphs.main.nodes.at(-1)!;
	const result = by.begin(document, { frame }).pull([id]).results.get(id)!;
	assert.equal(result.error, null, result.error?.message);
	return [...result.outputs.values()].find(isGeometry)!;
}
function written(document: GeneratorDocument, frames: number): Uint8Array {
	const glb = new AnimatedGlb({ step: momentAt(document, 1).step, frames, name: document.name });
	for (let frame = 1; frame <= frames; frame++) glb.add(at(document, frame));
	return glb.bytes();
}
async function check(bytes: Uint8Array): Promise<void> {
	const { issues } = await validator.validateBytes(bytes);
	assert.equal(issues.numErrors, 0, JSON.stringify(issues.messages.slice(0, 3)));
	assert.equal(issues.numWarnings, 0, JSON.stringify(issues.messages.slice(0, 3)));
}

/** What an independent reader makes of a file, at any second. */
async function played(bytes: Uint8Array) {
	const buffer = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer;
	const gltf = await new Promise<{ scene: THREE.Group; animations: THREE.AnimationClip[] }>((done, failed) =>
		new GLTFLoader().parse(buffer, '', done, failed)
	);
	const mixer = new THREE.AnimationMixer(gltf.scene);
	const actions = gltf.animations.map((clip) => mixer.clipAction(clip).setLoop(THREE.LoopOnce, 1));
	/** The places of all vertices in the world; hidden things are left out. */
	return (seconds: number): number[][] => {
		for (const action of actions) {
			// One that has come to its end begins anew.
			action.reset().play();
			action.clampWhenFinished = true;
		}
		mixer.setTime(seconds);
		gltf.scene.updateMatrixWorld(true);
		const out: number[][] = [];
		gltf.scene.traverse((one) => {
			if (!(one instanceof THREE.Mesh || one instanceof THREE.Line)) return;
			if (Math.abs(one.matrixWorld.determinant()) < 1e-9) return;
			const { attributes, morphAttributes } = one.geometry as THREE.BufferGeometry;
			const targets = morphAttributes.position ?? [];
			for (let i = 0; i < attributes.position.count; i++) {
				const p = new THREE.Vector3().fromBufferAttribute(attributes.position as THREE.BufferAttribute, i);
				targets.forEach((target, t) => {
					const way = new THREE.Vector3().fromBufferAttribute(target as THREE.BufferAttribute, i);
					p.addScaledVector(way, one.morphTargetInfluences![t]);
				});
				out.push(p.applyMatrix4(one.matrixWorld).toArray());
			}
		});
		return out;
	};
}

/** Places as a set that two ways of writing share: rounded, each once, sorted. */
const places = (all: Iterable<readonly number[]>): string[] =>
	[
		...new Set([...all].map((p) => p.map((x) => (Math.round(x * 500) / 500 + 0).toFixed(3)).join(' ')))
	].sort();
/** Whether every place of one list lies near one of the other. */
function near(found: readonly (readonly number[])[], wanted: readonly (readonly number[])[], what: string) {
	const far = (a: readonly number[], all: readonly (readonly number[])[]) =>
		Math.min(...all.map((b) => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2])));
	const a = found.reduce((most, one) => Math.max(most, far(one, wanted)), 0);
	const b = wanted.reduce((most, one) => Math.max(most, far(one, found)), 0);
	assert.ok(a < 1e-4 && b < 1e-4, `${what}: ${a} and ${b} m away`);
}
function placesOf(geometry: Geometry): number[][] {
	const out: number[][] = [];
	for (const { geometry: one, matrices, count } of expand(geometry)) {
		const p = (['mesh', 'curves', 'points'] as const).flatMap((part) => {
			const table = tableOf(one, part, 'point');
			return table?.count ? [...floats(table, 'position')] : [];
		});
		for (let i = 0; i < (matrices ? count : 1); i++) {
			const m = matrices ? new THREE.Matrix4().fromArray(matrices, 16 * i) : new THREE.Matrix4();
			for (let k = 0; k < p.length; k += 3)
				out.push(new THREE.Vector3(p[k], p[k + 1], p[k + 2]).applyMatrix4(m).toArray());
		}
	}
	return out;
}

const ROW: Row[] = [
	['line', 'line', { from: [0, 0, 0], to: [6, 0, 0], points: 7 }],
	['box', 'post', { size: [0.2, 1, 0.3] }],
	['place-copies', 'posts', {}, { points: 'line.curve', source: 'post.mesh' }]
];

test('copies move as nodes: the same places at three frames and between two, for another reader', async () => {
	await fc.assert(
		fc.asyncProperty(
			fc.constantFrom('sine', 'triangle', 'steps'),
			fc.double({ min: 0.2, max: 2, noNaN: true }),
			fc.integer({ min: -170, max: 170 }),
			async (sway, rate, turn) => {
				const document = generator([
					...ROW,
					[
						'transform',
						'moved',
						{ about: 'own', move: [0, 1, 0.3], rotation: [turn, 0, 20], sway, rate, scale: [1.3, 0.8, 1] },
						{ geometry: 'posts.copies' }
					]
				]);
				const bytes = written(document, 30);
				await check(bytes);
				const shown = await played(bytes);
				for (const frame of [1, 12, 30])
					near(shown((frame - 1) / 24), placesOf(at(document, frame)), `${sway} ${frame}`);
			}
		),
		{ numRuns: 30 }
	);
});

test('an animation lasts as long as its frames, also where everything rests at the end', async () => {
	const document = generator([
		...ROW,
		['transform', 'moved', { move: [0, formula('min(frame, 5)'), 0] }, { geometry: 'posts.copies' }]
	]);
	const bytes = written(document, 30);
	await check(bytes);
	const { animations } = await new Promise<{ animations: THREE.AnimationClip[] }>((done, failed) =>
		new GLTFLoader().parse(bytes.buffer as ArrayBuffer, '', done, failed)
	);
	assert.ok(Math.abs(animations[0].duration - 29 / 24) < 1e-6, `${animations[0].duration} s`);
	const shown = await played(bytes);
	for (const frame of [2, 5, 30]) near(shown((frame - 1) / 24), placesOf(at(document, frame)), `${frame}`);
});

test('what is hidden has the scale 0, and keys stand only where something changes', async () => {
	const document = generator([
		...ROW,
		['hide-where', 'some', { weight: formula('index >= frame - 10') }, { copies: 'posts.copies' }],
		[
			'transform',
			'moved',
			{ move: [0, formula('frame > 15 and frame <= 20'), 0] },
			{ geometry: 'some.copies' }
		]
	]);
	const bytes = written(document, 40);
	await check(bytes);
	const shown = await played(bytes);
	for (const frame of [1, 11, 13, 14, 18, 40]) {
		const wanted = placesOf(at(document, frame));
		const found = shown((frame - 1) / 24);
		assert.equal(places(found).length, places(wanted).length, `frame ${frame}`);
		if (wanted.length) near(found, wanted, `frame ${frame}`);
	}
	const text = new TextDecoder().decode(
		bytes.subarray(20, 20 + new DataView(bytes.buffer).getUint32(12, true))
	);
	const { animations, accessors, nodes } = JSON.parse(text);
	const keys = animations[0].channels.map(
		({ target, sampler }: { target: { path: string }; sampler: number }) => [
			target.path,
			accessors[animations[0].samplers[sampler].input].count
		]
	);
	// Seven copies that never turn; each comes or goes once, and rises and sinks with a key before and after.
	assert.equal(nodes.length, 7);
	assert.ok(keys.every(([path]: [string]) => path !== 'rotation'));
	assert.ok(
		keys.every(([path, n]: [string, number]) => (path === 'scale' ? n === 2 : n <= 7)),
		String(keys)
	);
});

test('a mesh that bends has a morph target for each of its states; curves and points too', async () => {
	for (const [kind, settings, out] of [
		['grid', { width: 4, depth: 4, columns: 5, rows: 5 }, 'mesh'],
		['line', { to: [0, 3, 0], points: 9 }, 'curve']
	] as const) {
		const document = generator([
			[kind, 'ground', settings],
			['displace-by-noise', 'waves', { along: 'every', speed: 2, hold: 3 }, { geometry: `ground.${out}` }]
		]);
		const bytes = written(document, 24);
		await check(bytes);
		const shown = await played(bytes);
		for (const frame of [1, 10, 24]) near(shown((frame - 1) / 24), placesOf(at(document, frame)), `${frame}`);
		const text = new TextDecoder().decode(
			bytes.subarray(20, 20 + new DataView(bytes.buffer).getUint32(12, true))
		);
		assert.equal(JSON.parse(text).meshes[0].primitives[0].targets.length, 7);
	}
});

test('copies of a source that bends bend; copies within copies go along', async () => {
	const document = generator([
		['line', 'line', { from: [0, 0, 0], to: [6, 0, 0], points: 4 }],
		['line', 'short', { from: [0, 0, 0], to: [0, 2, 0], points: 3 }],
		['box', 'knot', { size: [0.1, 0.2, 0.3] }],
		['place-copies', 'string', {}, { points: 'short.curve', source: 'knot.mesh' }],
		['place-copies', 'strings', {}, { points: 'line.curve', source: 'string.copies' }],
		[
			'transform',
			'moved',
			{ about: 'own', rotation: [0, 40, 10], sway: 'sine', rate: 1 },
			{ geometry: 'strings.copies' }
		]
	]);
	const bytes = written(document, 12);
	await check(bytes);
	const shown = await played(bytes);
	for (const frame of [1, 6, 12]) near(shown((frame - 1) / 24), placesOf(at(document, frame)), `${frame}`);

	const bending = generator([
		['line', 'line', { from: [0, 0, 0], to: [6, 0, 0], points: 4 }],
		['box', 'post', { size: [0.2, 1, 0.3] }],
		['bend', 'bent', { angle: formula('10 * frame') }, { geometry: 'post.mesh' }],
		['place-copies', 'posts', {}, { points: 'line.curve', source: 'bent.geometry' }]
	]);
	const bent = written(bending, 6);
	await check(bent);
	const seen = await played(bent);
	for (const frame of [1, 4, 6]) near(seen((frame - 1) / 24), placesOf(at(bending, frame)), `${frame}`);
});

test('what a GLB cannot follow is told of, with a way out', () => {
	const growing = generator([
		['line', 'line', { from: [0, 0, 0], to: [6, 0, 0], points: formula('frame + 2') }],
		['tube', 'pipe', {}, { curve: 'line.curve' }]
	]);
	assert.throws(() => written(growing, 3), /other points at frame 2 of these.*Write a file for each frame/);
	const many = generator([
		['grid-of-points', 'field', { countX: 200, countZ: 150 }],
		['box', 'post', {}],
		['place-copies', 'posts', {}, { points: 'field.points', source: 'post.mesh' }]
	]);
	assert.throws(() => written(many, 2), /More than 20,000 copies move.*Copies to mesh/);
});

/** Nodes, meshes and shapes of a file. */
function contents(bytes: Uint8Array) {
	const json = JSON.parse(
		new TextDecoder().decode(bytes.subarray(20, 20 + new DataView(bytes.buffer).getUint32(12, true)))
	) as {
		nodes: { name?: string; mesh?: number }[];
		meshes: { primitives: { targets?: unknown[] }[] }[];
		animations?: { channels: { target: { path: string } }[] }[];
	};
	const paths = json.animations?.flatMap(({ channels }) => channels.map(({ target }) => target.path)) ?? [];
	return { ...json, paths, targets: json.meshes.map(({ primitives }) => primitives[0].targets?.length ?? 0) };
}

test('what only moves, turns and grows is a node that does, however many frames; it is where it should be in each', async () => {
	const sizes = fc.constantFrom(0.001, 1, 10_000);
	const angles = fc.tuple(...[0, 1, 2].map(() => fc.integer({ min: -170, max: 170 })));
	for (const [size, [x, y, z]] of fc.sample(fc.tuple(sizes, angles), { numRuns: 6, seed: 5 })) {
		const document = generator([
			['sphere', 'buoy', { radius: size }],
			['box', 'quay', { size: [4 * size, size, size] }],
			[
				'transform',
				'drifts',
				{
					move: [formula(`${size} * (3 + sin(time * 2))`), formula(`${size} * time`), 0],
					rotation: [formula(`${x} * time`), formula(`${y} * time`), formula(`${z} * time`)],
					scale: formula('1 + time / 10')
				},
				{ geometry: 'buoy.mesh' }
			],
			['merge', 'all', {}, { geometry: ['quay.mesh', 'drifts.geometry'] }]
		]);
		const frames = 200;
		const bytes = written(document, frames);
		await check(bytes);
		const { targets, paths } = contents(bytes);
		assert.deepEqual(targets, [0, 0], `${size}`);
		assert.deepEqual(paths.sort(), ['rotation', 'scale', 'translation']);
		const seen = await played(bytes);
		for (const frame of [1, 60, 200]) {
			const wanted = at(document, frame).mesh!.points;
			const p = floats(wanted, 'position');
			const all = Array.from({ length: wanted.count }, (_, i) =>
				[...p.subarray(3 * i, 3 * i + 3)].map((one) => one / size)
			);
			const found = seen((frame - 1) / 24).map((place) => place.map((one) => one / size));
			near(found, all, `size ${size} at frame ${frame}`);
		}
	}
});

test('a wheel that turns where it is stays where it is between two frames too', async () => {
	const document = generator([
		['cylinder', 'wheel', { radius: 1, height: 0.2 }],
		['transform', 'turns', { rotation: [0, 0, formula('frame * 20')] }, { geometry: 'wheel.mesh' }],
		['transform', 'far', { move: [50, 0, 0] }, { geometry: 'turns.geometry' }]
	]);
	const seen = await played(written(document, 24));
	for (const seconds of [0, 0.5 / 24, 3.5 / 24, 7.25 / 24])
		for (const [x, y] of seen(seconds)) {
			assert.ok(Math.hypot(x - 50, y) <= 1.0051, `${x} ${y} at ${seconds}`);
		}
});

test('of a whole in which pieces drift together, bend, and stand still, each is told apart', async () => {
	const document = generator([
		['box', 'quay', { size: [6, 1, 1] }],
		['sphere', 'buoy', {}],
		['cylinder', 'cork', {}],
		['transform', 'beside', { move: [0, 3, 0] }, { geometry: 'cork.mesh' }],
		['merge', 'both', {}, { geometry: ['buoy.mesh', 'beside.geometry'] }],
		[
			'transform',
			'drifts',
			{ move: [formula('time'), 0, 4], rotation: [0, formula('time * 90'), 0] },
			{ geometry: 'both.geometry' }
		],
		['grid', 'sail', { columns: 4, rows: 4 }],
		[
			'displace',
			'blown',
			{ amount: formula('sin(time + position.x)'), along: 'direction' },
			{ geometry: 'sail.mesh' }
		],
		['merge', 'all', {}, { geometry: ['quay.mesh', 'drifts.geometry', 'blown.geometry'] }]
	]);
	const bytes = written(document, 10);
	await check(bytes);
	const { targets, paths } = contents(bytes);
	assert.deepEqual(targets, [0, 9, 0]);
	assert.deepEqual(paths.sort(), ['rotation', 'translation', 'weights']);
	const seen = await played(bytes);
	for (const frame of [1, 5, 10]) {
		const p = floats(at(document, frame).mesh!.points, 'position');
		const all = Array.from({ length: p.length / 3 }, (_, i) => [...p.subarray(3 * i, 3 * i + 3)]);
		near(seen((frame - 1) / 24), all, `frame ${frame}`);
	}
	// What is mirrored, or stretched in one direction alone, does not move as a whole.
	const stretched = generator([
		['sphere', 'buoy', {}],
		['transform', 'long', { scale: [formula('1 + time'), 1, 1] }, { geometry: 'buoy.mesh' }]
	]);
	assert.deepEqual(contents(written(stretched, 5)).targets, [4]);
});
