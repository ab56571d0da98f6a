/** Files saved by version 1: the samples as they were, and one with every kind of node, with what each node gave then. */
import assert from 'node:assert/strict';
import { readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { test } from 'node:test';
import { unpackGenerator } from '../formats/index.ts';
import { digestOf } from '../geometry/index.ts';
import type { Geometry } from '../geometry/index.ts';
import { nodeKinds } from '../nodes/index.ts';
import { evaluateAll } from '../testing/index.ts';
import { VERSION, inputOf, openDocument, openRaw, readClip } from './index.ts';
import type { GeneratorDocument } from './index.ts';

const FOLDER = 'core/engine/older-files';
const hashes = JSON.parse(readFileSync(`${FOLDER}/hashes.json`, 'utf8')) as Record<
	string,
	Record<string, string>
>;

/** The digests of all geometry that each node gives, or its state where it gives none. */
function whatEachGives(document: GeneratorDocument, assets: ReadonlyMap<string, Uint8Array>) {
	const asset = (hash: string) => {
		const bytes = assets.get(hash);
		return bytes ? { hash, bytes, name: hash } : null;
	};
	const { evaluation } = evaluateAll(document, { seconds: 60, asset });
	return Object.fromEntries(
		document.graphs.main.nodes.map(({ id, short }) => {
			const { state, outputs } = evaluation.results.get(id)!;
			const digests = [...outputs.values()].map((value) =>
				'materials' in value ? digestOf(value as Geometry) : ''
			);
			return [short, state === 'fresh' ? digests.filter(Boolean).join(' ') || 'values' : state];
		})
	);
}

/** After a change of results that is meant: EMBRELL_NEW_HASHES=1 writes them down anew, and says which nodes give others. */
function writeNew(file: string, given: Record<string, string>) {
	const changed = Object.keys(given).filter((short) => given[short] !== hashes[file]?.[short]);
	if (changed.length) console.log(`${file}: ${changed.join(', ')}`);
	hashes[file] = given;
	writeFileSync(`${FOLDER}/hashes.json`, `${JSON.stringify(hashes, null, '\t')}\n`);
}

for (const file of readdirSync(FOLDER).filter((name) => name.includes('.embrell.')))
	test(`${file} of version 1 opens whole, and every node gives the same`, () => {
		const { text, assets } = unpackGenerator(new Uint8Array(readFileSync(`${FOLDER}/${file}`)), file);
		const { document, leftOut } = openDocument(text);
		assert.deepEqual(leftOut, []);
		assert.equal(document.version, VERSION);
		for (const node of document.graphs.main.nodes)
			for (const name of Object.keys(node.settings))
				assert.ok(inputOf(node, name), `${node.short} keeps a setting “${name}” that its kind does not have`);
		const given = whatEachGives(document, assets);
		if (process.env.EMBRELL_NEW_HASHES) return void writeNew(file, given);
		assert.deepEqual(given, hashes[file]);
	});

test('the file of every kind has every kind, under the name it had', () => {
	const raw = JSON.parse(readFileSync(`${FOLDER}/every-kind.embrell.json`, 'utf8')) as GeneratorDocument;
	const then = new Set(raw.graphs.main.nodes.map((node) => node.kind));
	for (const id of [
		'colour-ramp',
		'set-material',
		'set-attribute',
		'random-value',
		'trim-curve',
		'blend-shapes'
	])
		assert.ok(then.has(id) && !nodeKinds.has(id), id);
	const now = new Set(openRaw(raw).document.graphs.main.nodes.map((node) => node.kind));
	for (const id of then) assert.ok(now.has(id) || !nodeKinds.has(id), id);
});

const node = (id: string, kind: string, short: string, settings: object, more: object = {}) => ({
	id,
	kind,
	short,
	at: [0, 0],
	settings,
	stream: id,
	...more
});
const VERSION_1 = {
	format: 'embrell',
	version: 1,
	name: 'Old',
	seed: 1,
	unit: 'm',
	view: {},
	graphs: {
		main: {
			nodes: [
				node('a', 'ribbon', 'strip', {
					across: 3,
					turn: { formula: 'across * 10 + roll + segments' },
					width: 1
				}),
				node(
					'b',
					'relax',
					'soft',
					{ times: { formula: 'strip.across + strip.width' } },
					{ pinned: ['times'] }
				),
				node('c', 'formula', 'sum', { formula: 'strip.turn + strip.turnip + soft.times' }),
				node('d', 'transform', 'moved', { rotate: [0, { formula: 'moved.rotate.x + rotate.y' }, 0] }),
				node('e', 'combine-weights', 'both', { how: 'higher' })
			],
			wires: [{ from: ['c', 'value'], to: ['a', 'turn'] }],
			notes: []
		}
	}
};

test('inputs take their new names in settings, pins, wires and formulas, and nothing else does', () => {
	const { document, leftOut } = openRaw(structuredClone(VERSION_1));
	assert.deepEqual(leftOut, []);
	const { nodes, wires } = document.graphs.main;
	const [strip, soft, sum, moved, both] = nodes;
	assert.deepEqual(Object.keys(strip.settings).sort(), ['roll', 'segments', 'width']);
	// “roll” and “segments” were attributes then.
	assert.deepEqual(strip.settings.roll, {
		formula: 'segments * 10 + attribute.roll + attribute.segments',
		streams: []
	});
	assert.deepEqual(soft.settings, { iterations: { formula: 'strip.segments + strip.width', streams: [] } });
	assert.deepEqual(soft.pinned, ['iterations']);
	assert.equal(sum.settings.formula, 'strip.roll + strip.turnip + soft.iterations');
	assert.deepEqual((moved.settings.rotation as unknown[])[1], {
		formula: 'moved.rotation.x + rotation.y',
		streams: []
	});
	assert.equal(both.settings.operation, 'maximum');
	assert.deepEqual(wires, [{ from: ['c', 'value'], to: ['a', 'roll'] }]);
});

test('a clipboard of version 1 is read in the names of today', () => {
	const { nodes, wires } = VERSION_1.graphs.main;
	const read = readClip(JSON.stringify({ format: 'embrell-nodes', nodes, wires, outer: [] }))!;
	assert.deepEqual(read.leftOut, []);
	assert.equal(read.clip.nodes[1].settings.iterations !== undefined, true);
	assert.deepEqual(read.clip.wires, [{ from: ['c', 'value'], to: ['a', 'roll'] }]);
});

test('junk of version 1 is opened as far as it can be', () => {
	for (const main of [
		null,
		7,
		{ nodes: 'x' },
		{ nodes: [null, 3, { kind: 'relax', settings: 4, pinned: 2 }], wires: [null, { to: 5 }] }
	])
		assert.equal(openRaw({ ...VERSION_1, graphs: { main } }).document.graphs.main.nodes.length <= 1, true);
	assert.equal(openRaw({ ...VERSION_1, graphs: null }).document.graphs.main.nodes.length, 0);
});

test('a kind that got another name since version 3 is read by its former one, in bodies too', () => {
	const colours = { nodes: [node('a', 'colour-ramp', 'tint', {})], wires: [], notes: [] };
	const uses = { nodes: [node('u', 'subgraph', 'use', { body: 'b1' })], wires: [], notes: [] };
	const graphs = { main: { ...uses, nodes: [...uses.nodes, ...colours.nodes] }, b1: colours };
	const { document, leftOut } = openRaw({ ...VERSION_1, version: 3, graphs });
	assert.deepEqual(leftOut, []);
	for (const id of ['main', 'b1'])
		assert.ok(
			document.graphs[id].nodes.some(({ kind }) => kind === 'colour-from-ramp'),
			id
		);
});
