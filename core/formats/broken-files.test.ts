/** Files that were damaged on the way, or made to do harm: every reader answers with a mesh or a sentence, and soon. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { encode as encodePng } from 'fast-png';
import fc from 'fast-check';
import { encode as encodeJpeg } from 'jpeg-js';
import type { Geometry } from '../geometry/index.ts';
import { WIDTH, digestOf } from '../geometry/index.ts';
import { NodeError } from '../math/index.ts';
import { evaluateAll, generator, tablesOf } from '../testing/index.ts';
import {
	hashBytes,
	packGenerator,
	readGlb,
	readMesh,
	readObj,
	readPicture,
	readSvg,
	unpackGenerator,
	writeGlb,
	writeObj
} from './index.ts';

const text = (words: string) => new TextEncoder().encode(words);

const shape = evaluateAll(
	generator([
		['box', 'box', { size: [1, 2, 3] }],
		['material', 'red', { name: 'Red' }, { geometry: 'box.mesh' }],
		['row-of-points', 'row', {}],
		['place-copies', 'copies', {}, { points: 'row.points', source: 'red.geometry' }],
		['merge', 'all', {}, { geometry: ['copies.copies', 'red.geometry'] }]
	])
).geometry('all');

/** A cube of triangles in the binary form that slicing programs write. */
function binaryStl(): Uint8Array {
	const bytes = new Uint8Array(84 + 50 * 2);
	const view = new DataView(bytes.buffer);
	view.setUint32(80, 2, true);
	for (let t = 0; t < 2; t++)
		for (let k = 0; k < 9; k++) view.setFloat32(84 + 50 * t + 12 + 4 * k, (k * (t + 1)) % 4, true);
	return bytes;
}

const PLY = `ply
format ascii 1.0
element vertex 4
property float x
property float y
property float z
property float nx
property float ny
property float nz
property float wet
property uchar red
element face 2
property list uchar int vertex_indices
end_header
0 0 0 0 0 1 0.5 255
1 0 0 0 0 1 1.5 10
1 1 0 0 0 1 2.5 20
0 1 0 0 0 1 3.5 30
3 0 1 2
3 0 2 3
`;

/** All that a point may carry. */
const OBJ = `v 0 0 0 1 0.5 0.2
v 1 0 0 0 0 1
v 1 1 0 1 1 1
v 0 1 0 0 0 0
vn 0 0 1
vn 0.1 0.2 1
vt 0 0
vt 1 0.5
f 1/1/1 2/2/1 3/2/2 4/1/2
`;

const FILES: [string, Uint8Array][] = [
	['a.glb', writeGlb(shape)],
	['b.obj', text(writeObj(shape, 'b.mtl').obj)],
	['f.obj', text(OBJ)],
	['c.ply', text(PLY)],
	['d.stl', binaryStl()],
	[
		'e.stl',
		text(
			'solid x\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 0 1 0\nendloop\nendfacet\nendsolid x\n'
		)
	]
];

/** Runs of each law; 10,000 were tried by hand. */
const RUNS = 400;

/** Numbers that are none, or nearly, as words and as the four bytes of a single. */
const ODD_WORDS = ['nan', 'inf', '-inf', '1e999', '4e38', '1e-320', '0', '-0', '99999999999'];
const ODD_NUMBERS = [NaN, Infinity, -Infinity, 3e38, 1e-40, 0];

/** One way in which a file goes wrong. */
const share = fc.noBias(fc.integer({ min: 0, max: 999_999 })).map((n) => n / 1e6);
const oddWord = fc.record({
	kind: fc.constant('word' as const),
	at: share,
	word: fc.constantFrom(...ODD_WORDS)
});
const oddNumber = fc.record({
	kind: fc.constant('number' as const),
	at: share,
	value: fc.constantFrom(...ODD_NUMBERS)
});
const damage = fc.oneof(
	fc.record({ kind: fc.constant('cut' as const), at: fc.double({ min: 0, max: 1, noNaN: true }) }),
	fc.record({
		kind: fc.constant('write' as const),
		at: fc.double({ min: 0, max: 1, noNaN: true }),
		byte: fc.constantFrom(0, 1, 9, 10, 32, 45, 46, 48, 57, 101, 127, 128, 255)
	}),
	fc.record({ kind: fc.constant('repeat' as const), at: fc.double({ min: 0, max: 1, noNaN: true }) }),
	oddWord,
	oddNumber
);
type Damage = typeof damage extends fc.Arbitrary<infer T> ? T : never;

function damaged(bytes: Uint8Array, all: readonly Damage[]): Uint8Array {
	let out = bytes.slice();
	for (const one of all) {
		if (!out.length) break;
		const at = Math.floor(one.at * (out.length - 1));
		if (one.kind === 'cut') out = out.slice(0, at);
		else if (one.kind === 'write') out[at] = one.byte;
		else if (one.kind === 'number') {
			if ((at & ~3) + 4 <= out.length) new DataView(out.buffer).setFloat32(at & ~3, one.value, true);
		} else if (one.kind === 'word') out = withWord(out, at, one.word);
		else {
			const twice = new Uint8Array(out.length + Math.min(64, out.length - at));
			twice.set(out.subarray(0, at));
			twice.set(out.subarray(at, at + twice.length - out.length), at);
			twice.set(out.subarray(at), at + twice.length - out.length);
			out = twice;
		}
	}
	return out;
}

/** The word that stands somewhere in a text in place of another. */
function withWord(bytes: Uint8Array, at: number, word: string): Uint8Array<ArrayBuffer> {
	const isGap = (i: number) => [10, 32, 47].includes(bytes[i]);
	let [from, to] = [at, at];
	while (from > 0 && !isGap(from - 1)) from--;
	while (to < bytes.length && !isGap(to)) to++;
	return Uint8Array.from([...bytes.subarray(0, from), ...text(word), ...bytes.subarray(to)]);
}

/** Runs a reader; anything but a result or a sentence is a fault. */
function answers(name: string, read: () => unknown): void {
	try {
		read();
	} catch (error) {
		assert.ok(error instanceof NodeError, `${name}: ${(error as Error).stack}`);
		assert.match(error.message, /^.{8,400}[.?)]$/su, `${name}: “${error.message}” is no sentence`);
		assert.doesNotMatch(error.message, /undefined|NaN|\[object/, name);
	}
}

for (const [name, bytes] of FILES)
	test(`${name} damaged anywhere is read or refused, and what is read is sound`, () => {
		fc.assert(
			fc.property(fc.array(damage, { minLength: 1, maxLength: 6 }), (all) => {
				answers(name, () => {
					const { geometry } = readMesh({ name, bytes: damaged(bytes, all) });
					assertSound(geometry);
				});
			}),
			{ numRuns: RUNS, seed: 8 }
		);
	});

for (const [name, bytes] of FILES)
	test(`${name} with numbers that are none in it is read without them, or refused`, () => {
		const odd: fc.Arbitrary<Damage> = /obj|ply|e\.stl/.test(name) ? oddWord : oddNumber;
		let read = 0;
		fc.assert(
			fc.property(fc.array(odd, { minLength: 1, maxLength: 3 }), (all) => {
				answers(name, () => {
					assertSound(readMesh({ name, bytes: damaged(bytes, all) }).geometry);
					read++;
				});
			}),
			{ numRuns: RUNS, seed: 9 }
		);
		assert.ok(read > RUNS / 100, `only ${read} of ${RUNS} were read`);
	});

/** Faces of points that are there, and nothing that is not a number; materials are what they can be. */
function assertSound(geometry: Geometry): void {
	const { topology, points } = geometry.mesh!;
	assert.ok(topology.cornerPoints.every((point) => point < points.count));
	for (const [path, table] of tablesOf(geometry))
		for (const [column, { data, type }] of table.columns) {
			assert.equal(data.length, table.count * WIDTH[type], `${path}, ${column}`);
			assert.ok(data.every(Number.isFinite), `${path}, ${column}`);
		}
	for (const { colour, metallic, roughness } of geometry.materials)
		for (const share of [...colour, metallic, roughness]) assert.ok(share >= 0 && share <= 1, `${share}`);
}

test('the description of a GLB may lie: every number in it, one after another, made huge, negative or missing', () => {
	const glb = writeGlb(shape);
	const view = new DataView(glb.buffer, glb.byteOffset);
	const jsonLength = view.getUint32(12, true);
	const json = new TextDecoder().decode(glb.subarray(20, 20 + jsonLength));
	const rest = glb.subarray(20 + jsonLength);
	const numbers = [...json.matchAll(/-?\d+(\.\d+)?/g)];
	assert.ok(numbers.length > 40);
	for (const { index, 0: found } of numbers)
		for (const lie of ['4294967295', '-1', '1e300', 'null', '[]', '"x"', '0.5']) {
			let changed = json.slice(0, index) + lie + json.slice(index + found.length);
			changed += ' '.repeat((4 - (text(changed).length % 4)) % 4);
			const words = text(changed);
			const out = new Uint8Array(20 + words.length + rest.length);
			out.set(glb.subarray(0, 20));
			out.set(words, 20);
			out.set(rest, 20 + words.length);
			new DataView(out.buffer).setUint32(8, out.length, true);
			new DataView(out.buffer).setUint32(12, words.length, true);
			answers(`${found} at ${index} became ${lie}`, () => readGlb(out, 'lie.glb'));
		}
});

const SVG = text(
	'<svg viewBox="0 0 10 10" width="10cm"><g transform="rotate(30) scale(2)"><path d="M0 0 C 1 2 3 4 5 6 A 2 3 30 1 0 8 9 z"/><rect x="1" y="2" width="3" height="4" rx="1"/></g></svg>'
);
const PIXELS = Uint8Array.from({ length: 16 * 16 * 4 }, (_, i) => (i * 37) & 255);
const ASSET = text('v 0 0 0');
const PACKED = packGenerator('{"format":"embrell"}', [
	{ hash: hashBytes(ASSET), name: 'tide.obj', bytes: ASSET }
]);
/** Readers of what is no mesh, each with a sound file; what they give holds only numbers. */
const OTHERS: Record<string, [Uint8Array, (bytes: Uint8Array) => Iterable<number>]> = {
	drawing: [SVG, (bytes) => readSvg(bytes, 'x.svg', 3).outlines.flatMap(({ points }) => [...points])],
	'PNG picture': [
		encodePng({ width: 16, height: 16, channels: 4, depth: 8, data: PIXELS }),
		(bytes) => readPicture({ name: 'x.png', bytes }, 'brightness').data
	],
	'JPEG picture': [
		new Uint8Array(encodeJpeg({ width: 16, height: 16, data: PIXELS }, 70).data),
		(bytes) => readPicture({ name: 'x.jpg', bytes }, 'brightness').data
	],
	archive: [PACKED, (bytes) => [unpackGenerator(bytes, 'x.zip').text.length]]
};
for (const [what, [sound, read]] of Object.entries(OTHERS))
	test(`a ${what} with damage is read or refused, and what is read is numbers`, () => {
		assert.ok([...read(sound)].length, 'without damage it is read');
		fc.assert(
			fc.property(fc.array(damage, { minLength: 1, maxLength: 5 }), (all) => {
				answers(what, () => {
					for (const number of read(damaged(sound, all))) assert.ok(Number.isFinite(number));
				});
			}),
			{ numRuns: RUNS, seed: 4 }
		);
	});

test('what a stranger makes large on purpose takes no more than its bytes say', () => {
	const bytesOf = (of: string) => new TextEncoder().encode(of);
	const glb = (json: object): Uint8Array => {
		const head = bytesOf(JSON.stringify({ asset: { version: '2.0' }, ...json }).padEnd(4096, ' '));
		const length = Math.ceil(head.length / 4) * 4;
		const out = new Uint8Array(20 + length + 8 + 36);
		const view = new DataView(out.buffer);
		view.setUint32(0, 0x46546c67, true);
		view.setUint32(4, 2, true);
		view.setUint32(8, out.length, true);
		view.setUint32(12, length, true);
		view.setUint32(16, 0x4e4f534a, true);
		out.fill(32, 20, 20 + length).set(head, 20);
		view.setUint32(20 + length, 36, true);
		view.setUint32(24 + length, 0x004e4942, true);
		return out;
	};
	const triangle = {
		meshes: [{ primitives: [{ attributes: { POSITION: 0 } }] }],
		accessors: [{ bufferView: 0, componentType: 5126, count: 3, type: 'VEC3' }],
		bufferViews: [{ buffer: 0, byteLength: 36 }],
		buffers: [{ byteLength: 36 }]
	};
	// Thirty nodes that each hold the next one twice would be a thousand million.
	const doubling = Array.from({ length: 30 }, (_, i) => ({ children: [i + 1, i + 1] }));
	assert.throws(
		() => readGlb(glb({ ...triangle, scenes: [{ nodes: [0] }], nodes: [...doubling, { mesh: 0 }] }), 'a.glb'),
		/in a glTF each stands once/
	);
	const roots = Array.from({ length: 300 }, () => 0);
	assert.throws(
		() => readGlb(glb({ ...triangle, scenes: [{ nodes: roots }], nodes: [{ mesh: 0 }] }), 'a.glb'),
		/in a glTF each stands once/
	);
	// A face written over 100,000 lines is the same as on one.
	const corners = 'v 0 0 0\nv 1 0 0\nv 0 1 0\n';
	const long = readObj(bytesOf(`${corners}f ${'\\\n'.repeat(100_000)}1 2 3\n`), 'a.obj').geometry;
	assert.equal(digestOf(long), digestOf(readObj(bytesOf(`${corners}f 1 2 3\n`), 'a.obj').geometry));
});
