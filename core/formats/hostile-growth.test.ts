/**
 * Files of each sort that once took quadratic time, at one, two and four times a size: the steps that readers count grow no
 * faster than the files. Seconds are not measured here; whoever brings back a slow way will wait.
 */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { Ledger, cornerNormals, edgesOf, trianglesOf } from '../geometry/index.ts';
import { openDocument } from '../engine/index.ts';
import { readGlb, readMesh, readSvg } from './index.ts';

const text = (words: string) => new TextEncoder().encode(words);
const lines = (n: number, line: (i: number) => string): string =>
	Array.from({ length: n }, (_, i) => line(i)).join('\n') + '\n';
const mesh = (name: string, words: string) => readMesh({ name, bytes: text(words) }).geometry.mesh!;

/** What polls is counted, and what memory is taken; what is refused is refused at any size. */
function stepsOf(work: () => unknown): { steps: number; said: string } {
	let polls = 0;
	let said = '';
	const ledger = new Ledger({ limit: 4e9, poll: () => void polls++ });
	try {
		ledger.work(work);
	} catch (error) {
		said = (error as Error).message;
	}
	return { steps: polls, said };
}

function glb(json: object): Uint8Array {
	const words = JSON.stringify(json);
	const described = text(words + ' '.repeat((4 - (words.length % 4)) % 4));
	const out = new Uint8Array(20 + described.length);
	const view = new DataView(out.buffer);
	[0x46546c67, 2, out.length, described.length, 0x4e4f534a].forEach((word, i) =>
		view.setUint32(4 * i, word, true)
	);
	out.set(described, 20);
	return out;
}
const GLTF = {
	asset: { version: '2.0' },
	scenes: [{ nodes: [0] }],
	meshes: [{ primitives: [{ attributes: { POSITION: 0 } }] }]
};
const svg = (inner: string) => text(`<svg xmlns="http://www.w3.org/2000/svg">${inner}</svg>`);

/** Makes a file of a size, reads it, and does what an import does with it. */
const SORTS: Record<string, [size: number, read: (n: number) => unknown]> = {
	'an OBJ of continued lines': [50_000, (n) => mesh('a.obj', `v 0 0 0\nf ${'\\\n'.repeat(n)}1 1 1\n`)],
	'an OBJ of a fan': [
		15_000,
		(n) => {
			const spokes = lines(n + 1, (i) => `v ${Math.cos(i / n)} ${Math.sin(i / n)} 0`);
			const fan = mesh('a.obj', `v 0 0 0\n${spokes}${lines(n, (i) => `f 1 ${i + 2} ${i + 3}`)}`);
			cornerNormals(fan);
			edgesOf(fan.topology);
		}
	],
	'an OBJ of one large face': [
		5_000,
		(n) => {
			const corner = (i: number) => {
				const [r, a] = [1 + (i & 1), (i / n) * 2 * Math.PI];
				return `v ${r * Math.cos(a)} ${r * Math.sin(a)} 0`;
			};
			const face = Array.from({ length: n }, (_, i) => i + 1).join(' ');
			trianglesOf(mesh('a.obj', `${lines(n, corner)}f ${face}\n`));
		}
	],
	'a PLY of many empty elements': [
		500,
		(n) => mesh('a.ply', `ply\nformat ascii 1.0\n${lines(n, (i) => `element e${i} 9`)}end_header\n`)
	],
	'a PLY whose header never ends': [
		5_000,
		(n) => mesh('a.ply', `ply\nformat ascii 1.0\n${'comment tide\n'.repeat(n)}`)
	],
	'a GLB of zeros': [
		10e6,
		(n) =>
			readGlb(
				glb({ ...GLTF, nodes: [{ mesh: 0 }], accessors: [{ componentType: 5126, count: n, type: 'VEC3' }] }),
				'a.glb'
			)
	],
	'a GLB of nodes that double': [
		10,
		(n) =>
			readGlb(
				glb({
					...GLTF,
					nodes: [...Array.from({ length: n }, (_, i) => ({ children: [i + 1, i + 1] })), { mesh: 0 }],
					accessors: [{ componentType: 5126, count: 3, type: 'VEC3' }]
				}),
				'a.glb'
			)
	],
	'an SVG of a long word': [
		50_000,
		(n) => readSvg(svg(`<path transform="${'a'.repeat(n)}" d="M0 0L1 1"/>`), 'a.svg', 8)
	],
	'an SVG of an open bracket': [
		25_000,
		(n) => readSvg(svg(`<path transform="rotate(${'1 '.repeat(n)}" d="M0 0L1 1"/>`), 'a.svg', 8)
	],
	'an SVG of a long length': [
		50_000,
		(n) => readSvg(text(`<svg width="${'1'.repeat(n)}"><path d="M0 0L1 1"/></svg>`), 'a.svg', 8)
	],
	'an SVG of very many curves': [
		20_000,
		(n) => readSvg(svg(`<path d="M0 0${'c1 1 2 2 3 3'.repeat(n)}"/>`), 'a.svg', 500)
	],
	'a generator of bad settings': [
		20_000,
		(n) => {
			const settings = Object.fromEntries(Array.from({ length: n }, (_, i) => [`s${i}`, { a: [i] }]));
			const node = { id: 'a', kind: 'box', short: 'box', at: [0, 0], settings, stream: 'a' };
			const main = { nodes: [node], wires: [], notes: [] };
			openDocument(JSON.stringify({ format: 'embrell', version: 3, name: 'x', graphs: { main } }));
		}
	]
};

for (const [sort, [size, read]] of Object.entries(SORTS))
	test(`${sort} takes steps in keeping with its size, or is refused`, () => {
		const [one, two, four] = [1, 2, 4].map((times) => stepsOf(() => read(times * size)));
		// A few steps are taken whatever the size.
		for (const [times, { steps }] of [
			[2, two],
			[4, four]
		] as const)
			assert.ok(steps <= 1.1 * times * one.steps + 16, `${one.steps}, ${two.steps}, ${four.steps} steps`);
		for (const { said } of [one, two, four]) assert.match(said, /^$|[.?]$/);
	});
