/** Settings in rows: several attributes, several materials; what each row gives is what a node of its own would give. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { digestOf, faceNormals } from '../geometry/index.ts';
import { nodeKinds, MOST_ROWS, rowsIn } from './index.ts';
import { evaluateAll, generator } from '../testing/index.ts';
import type { Row } from '../testing/index.ts';
import { withRow, withSetting, withWire, withoutRow } from '../engine/index.ts';

const formula = (text: string) => ({ formula: text, streams: ['one', 'two', 'three'] });
const ROCK: Row = ['sphere', 'rock', { segments: 24, rows: 12 }];

test('attributes in rows are those of nodes one after another: a row reads those above it', () => {
	const rows = generator([
		['grid', 'flat', { columns: 6, rows: 4 }],
		[
			'write-attribute',
			'all',
			{
				rows: 3,
				name: 'height',
				value: formula('index / 10'),
				name2: 'half',
				value2: formula('height / 2'),
				name3: 'tint',
				type3: 'colour',
				value3: formula('hsl(half, 1, 0.5)')
			},
			{ geometry: 'flat.mesh' }
		]
	]);
	const chain = generator([
		['grid', 'flat', { columns: 6, rows: 4 }],
		['write-attribute', 'one', { name: 'height', value: formula('index / 10') }, { geometry: 'flat.mesh' }],
		['write-attribute', 'two', { name: 'half', value: formula('height / 2') }, { geometry: 'one.geometry' }],
		[
			'write-attribute',
			'all',
			{ name: 'tint', type: 'colour', value: formula('hsl(half, 1, 0.5)') },
			{ geometry: 'two.geometry' }
		]
	]);
	assert.equal(digestOf(evaluateAll(rows).geometry('all')), digestOf(evaluateAll(chain).geometry('all')));
});

test('what is wrong in a row is told of its own setting', () => {
	const run = evaluateAll(
		generator([
			['grid', 'flat', {}],
			[
				'write-attribute',
				'all',
				{ rows: 2, name2: 'b', value2: formula('wobble') },
				{ geometry: 'flat.mesh' }
			]
		])
	);
	const error = [...run.evaluation.results.values()].at(-1)!.error!;
	assert.equal(error.input, 'value2');
});

test('a row taken out leaves the others as they were, wires too', () => {
	const document = generator([
		['grid', 'flat', {}],
		['number', 'one', {}],
		['write-attribute', 'all', { rows: 1 }, { geometry: 'flat.mesh' }]
	]);
	const [, one, all] = document.graphs.main.nodes;
	fc.assert(
		fc.property(fc.integer({ min: 2, max: MOST_ROWS }), fc.nat(7), fc.nat(7), (count, gone, wired) => {
			let graph = document.graphs.main;
			for (let r = 1; r < count; r++) graph = withRow(graph, all.id);
			const name = (row: number) => (row ? `name${row + 1}` : 'name');
			for (let r = 0; r < count; r++) graph = withSetting(graph, all.id, name(r), `row ${r}`);
			const at = wired % count;
			graph = withWire(graph, { from: [one.id, 'value'], to: [all.id, at ? `value${at + 1}` : 'value'] });
			const after = withoutRow(graph, all.id, gone % count);
			const node = after.nodes.find(({ id }) => id === all.id)!;
			assert.equal(rowsIn(node.settings), count - 1);
			assert.deepEqual(
				Array.from({ length: count - 1 }, (_, r) => node.settings[name(r)]),
				Array.from({ length: count }, (_, r) => `row ${r}`).filter((_, r) => r !== gone % count)
			);
			assert.equal(Object.keys(node.settings).filter((key) => key === name(count - 1)).length, 0);
			const wire = after.wires.find(({ from }) => from[0] === one.id);
			const where = at - (at > gone % count ? 1 : 0);
			assert.equal(wire?.to[1], at === gone % count ? undefined : where ? `value${where + 1}` : 'value');
		})
	);
	assert.equal(withoutRow(document.graphs.main, all.id, 0), document.graphs.main, 'the last one stays');
});

test('words of a list become words on elements, repeated where there are more', () => {
	const run = evaluateAll(
		generator([
			['grid', 'flat', { columns: 2, rows: 2 }],
			['list-from-text', 'kinds', { text: 'oyster, whelk, cockle' }],
			['write-attribute', 'all', { name: 'kind' }, { geometry: 'flat.mesh', value: 'kinds.list' }]
		])
	);
	const { data, words } = run.meshOf('all')!.points.columns.get('kind')!;
	assert.deepEqual(
		[...data].map((place) => words![place]),
		Array.from({ length: 9 }, (_, i) => ['oyster', 'whelk', 'cockle'][i % 3])
	);
	assert.match(run.warnings('all')[0], /3 words repeated over 9 points/);
});

const painted = (settings: Record<string, unknown>) => {
	const run = evaluateAll(
		generator([
			ROCK,
			[
				'material',
				'paint',
				{ name: 'mud', name2: 'moss', name3: 'barnacle', rows: 3, ...settings },
				{ geometry: 'rock.mesh' }
			]
		])
	);
	const mesh = run.meshOf('paint')!;
	const names = run.geometry('paint').materials.map(({ name }) => name);
	return { mesh, names: Array.from(mesh.faces.columns.get('material')!.data, (place) => names[place]) };
};

test('a material for each face by number, from the first again after the last', () => {
	const { names } = painted({ choose: 'number', number: formula('index') });
	names.forEach((name, i) => assert.equal(name, ['mud', 'moss', 'barnacle'][i % 3]));
});

test('by weight the greatest wins: moss where a face looks up, barnacles where it looks down', () => {
	const { mesh, names } = painted({
		choose: 'weight',
		weight: 0.2,
		weight2: formula('normal.y'),
		weight3: formula('-normal.y')
	});
	const normals = faceNormals(mesh);
	names.forEach((name, f) => {
		const up = normals[3 * f + 1];
		if (Math.abs(Math.abs(up) - 0.2) > 1e-6)
			assert.equal(name, up > 0.2 ? 'moss' : up < -0.2 ? 'barnacle' : 'mud');
	});
});

test('by a value through a ramp: thirds of its height, low to high', () => {
	const { names } = painted({ choose: 'ramp', value: formula('index / count') });
	names.forEach((name, i) =>
		assert.equal(name, ['mud', 'moss', 'barnacle'][Math.floor((3 * i) / names.length)])
	);
});

test('by share, each comes as often as its share, within three deviations', () => {
	const run = evaluateAll(
		generator([
			['grid', 'flat', { columns: 300, rows: 300 }],
			[
				'material',
				'paint',
				{ rows: 3, share: 5, share2: 3, share3: 0, choose: 'share' },
				{ geometry: 'flat.mesh' }
			]
		])
	);
	const { data } = run.meshOf('paint')!.faces.columns.get('material')!;
	const counts = [0, 1, 2].map((place) => Array.from(data).filter((one) => one === place).length);
	assert.equal(counts[2], 0);
	const n = data.length;
	assert.ok(Math.abs(counts[0] - (n * 5) / 8) < 3 * Math.sqrt((n * 15) / 64), `${counts}`);
});

test('where all shares are 0 the first is taken, and it is said', () => {
	const { names } = painted({ choose: 'share', share: 0, share2: 0, share3: 0 });
	assert.ok(names.every((name) => name === 'mud'));
});

test('where it does not hold, faces keep what they have', () => {
	const run = evaluateAll(
		generator([
			ROCK,
			['material', 'base', { name: 'base' }, { geometry: 'rock.mesh' }],
			[
				'material',
				'paint',
				{ rows: 2, name: 'a', name2: 'b', number: formula('index'), where: formula('index % 2 == 0') },
				{ geometry: 'base.geometry' }
			]
		])
	);
	const names = run.geometry('paint').materials.map(({ name }) => name);
	const { data } = run.meshOf('paint')!.faces.columns.get('material')!;
	Array.from(data, (place) => names[place]).forEach((name, i) => assert.equal(name, i % 2 ? 'base' : 'a'));
});

test('every node with rows has the same inputs in each of them', () => {
	for (const kind of nodeKinds.values()) {
		if (!kind.rows) continue;
		for (const name of kind.rows.inputs)
			for (let r = 2; r <= MOST_ROWS; r++)
				assert.ok(Object.hasOwn(kind.inputs, `${name}${r}`), `${kind.id} ${name}${r}`);
	}
});
