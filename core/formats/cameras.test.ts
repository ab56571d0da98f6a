/** Cameras and moving parts as other programs read them from a GLB and a USD. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import * as THREE from 'three';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';
import { USDAParser } from 'three/examples/jsm/loaders/usd/USDAParser.js';
import validator from 'gltf-validator';
import { writeDocument } from '../engine/index.ts';
import type { GeneratorDocument, Setting } from '../engine/index.ts';
import { exportAnimation, openFile, runJob } from '../session/index.ts';
import { floats } from '../geometry/index.ts';
import { generator } from '../testing/index.ts';

const formula = (text: string): Setting => ({ formula: text, streams: [] });
const scene = (camera: Record<string, unknown>): GeneratorDocument => ({
	...generator([
		['box', 'hull', {}],
		[
			'transform',
			'drifts',
			{ move: [formula('frame'), 0, 0], rotation: [0, formula('frame * 10'), 0] },
			{ geometry: 'hull.mesh' }
		],
		['camera', 'lookout', camera],
		['result', 'result', {}, { geometry: 'drifts.geometry' }]
	]),
	name: 'Quay'
});
const opened = (document: GeneratorDocument) =>
	openFile(new TextEncoder().encode(writeDocument(document)), 'quay.embrell.json');
const wanted = (format: 'glb' | 'usda') => ({ format, flatten: false, attributes: [], name: 'Quay' });

async function gltfOf(bytes: Uint8Array) {
	const { issues } = await validator.validateBytes(bytes);
	assert.deepEqual(
		[issues.numErrors, issues.numWarnings],
		[0, 0],
		JSON.stringify(issues.messages.slice(0, 3))
	);
	return new Promise<{ scene: THREE.Group; cameras: THREE.Camera[]; animations: THREE.AnimationClip[] }>(
		(done, failed) => new GLTFLoader().parse(bytes.slice().buffer, '', done, failed)
	);
}

test('a GLB’s camera stands where it should, looks at its target with y up, and sees as high', async () => {
	const place = fc.tuple(...[0, 1, 2].map(() => fc.integer({ min: -20, max: 20 })));
	await fc.assert(
		fc.asyncProperty(
			place,
			place,
			fc.integer({ min: 5, max: 140 }),
			fc.boolean(),
			async (from, to, angle, isLens) => {
				fc.pre(from.some((x, k) => x !== to[k]));
				const lens = isLens ? { lens: 'lens', angle } : { lens: 'straight', height: angle / 10 };
				const [{ bytes }] = runJob(opened(scene({ place: from, target: to, ...lens }))).write!(wanted('glb'));
				const { cameras, scene: all } = await gltfOf(bytes);
				all.updateMatrixWorld(true);
				const [camera] = cameras;
				assert.ok([camera.name, camera.parent?.name].includes('lookout'));
				const at = new THREE.Vector3().setFromMatrixPosition(camera.matrixWorld);
				assert.ok(at.distanceTo(new THREE.Vector3(...from)) < 1e-5);
				const way = new THREE.Vector3(0, 0, -1).transformDirection(camera.matrixWorld);
				const should = new THREE.Vector3(...to).sub(new THREE.Vector3(...from)).normalize();
				assert.ok(way.distanceTo(should) < 1e-5, `${way.toArray()} is not ${should.toArray()}`);
				const right = new THREE.Vector3(1, 0, 0).transformDirection(camera.matrixWorld);
				assert.ok(Math.abs(right.y) < 1e-5);
				if (isLens) assert.ok(Math.abs((camera as THREE.PerspectiveCamera).fov - angle) < 1e-4);
				else assert.ok(Math.abs((camera as THREE.OrthographicCamera).top - angle / 20) < 1e-6);
			}
		),
		{ numRuns: 30 }
	);
});

test('a camera moves with the frames, in both formats; what drifts does so by its node', async () => {
	const document = scene({ place: [formula('frame'), 3, 8], target: [0, 0, 0] });
	const frames = { first: 1, last: 12 };
	const glb = await gltfOf(exportAnimation(opened(document), frames, {}, wanted('glb')));
	const [camera] = glb.cameras;
	const mixer = new THREE.AnimationMixer(glb.scene);
	for (const frame of [1, 6, 12]) {
		for (const clip of glb.animations) {
			const action = mixer.clipAction(clip).setLoop(THREE.LoopOnce, 1).reset().play();
			action.clampWhenFinished = true;
		}
		mixer.setTime((frame - 1) / 24);
		glb.scene.updateMatrixWorld(true);
		const at = new THREE.Vector3().setFromMatrixPosition(camera.matrixWorld);
		assert.ok(at.distanceTo(new THREE.Vector3(frame, 3, 8)) < 1e-4, `${frame}: ${at.toArray()}`);
	}
	const text = new TextDecoder().decode(exportAnimation(opened(document), frames, {}, wanted('usda')));
	const { specsByPath } = new USDAParser().parseData(text) as {
		specsByPath: Record<
			string,
			{ fields: { default?: unknown; timeSamples?: { times: number[]; values: number[][] } } }
		>;
	};
	const sampled = (path: string, frame: number): number[] => {
		const { timeSamples, default: only } = specsByPath[path].fields;
		return (
			[timeSamples ? timeSamples.values[timeSamples.times.indexOf(frame)] : only].flat(5) as number[]
		).filter((x) => !Number.isNaN(x));
	};
	assert.equal(specsByPath['/Quay/lookout.projection'].fields.default, 'perspective');
	const focal = sampled('/Quay/lookout.focalLength', 1)[0],
		aperture = sampled('/Quay/lookout.verticalAperture', 1)[0];
	assert.ok(Math.abs((2 * Math.atan(aperture / 2 / focal) * 180) / Math.PI - 40) < 1e-4);
	// The mesh is written once; its part's place brings it to where it is at each frame.
	const points = specsByPath['/Quay/Part_1/Surface.points'].fields;
	assert.equal(points.timeSamples, undefined);
	const own = (points.default as number[]).flat(5);
	for (const frame of [1, 7, 12]) {
		const near = sampled('/Quay/lookout.xformOp:translate', frame);
		assert.deepEqual(near, [frame, 3, 8]);
		const at = new THREE.Vector3(
			...(sampled('/Quay/Part_1.xformOp:translate', frame) as [number, number, number])
		);
		const q = new THREE.Quaternion(
			...(sampled('/Quay/Part_1.xformOp:orient', frame) as [number, number, number, number])
		);
		const report = runJob(opened(document), { frame });
		const p = floats(report.geometry!.mesh!.points, 'position');
		for (let i = 0; i < p.length; i += 3) {
			const found = new THREE.Vector3(own[i], own[i + 1], own[i + 2]).applyQuaternion(q).add(at);
			assert.ok(found.distanceTo(new THREE.Vector3(p[i], p[i + 1], p[i + 2])) < 1e-4, `frame ${frame}`);
		}
	}
});

test('a camera that sees nothing is left out, and one that is bypassed', async () => {
	const none = scene({ place: [1, 1, 1], target: [1, 1, 1] });
	const [{ bytes }] = runJob(opened(none)).write!(wanted('glb'));
	assert.equal((await gltfOf(bytes)).cameras.length, 0);
});
