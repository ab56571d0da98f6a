/** Names that formulas keep for themselves: files that used them open, and mean the same. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { KEPT_SHORTS } from '../varying/index.ts';
import { evaluateAll, generator } from '../testing/index.ts';
import { freeShort, openRaw } from './index.ts';
import { positionsOf } from '../geometry/index.ts';

const node = (id: string, kind: string, short: string, settings: object, more: object = {}) => ({
	id,
	kind,
	version: 1,
	short,
	at: [0, 0],
	settings,
	stream: `s-${id}`,
	...more
});
const formula = (text: string) => ({ formula: text, streams: [] });

test('a file of version 2 whose nodes have kept names opens with others, and gives what it gave', () => {
	const { document, leftOut } = openRaw({
		format: 'embrell',
		version: 2,
		name: 'Tides',
		seed: 1,
		unit: 'm',
		graphs: {
			main: {
				nodes: [
					node('n1', 'number', 'time', { value: 3 }),
					node('n2', 'number', 'time2', { value: 100 }),
					node('n3', 'grid', 'side', { width: formula('time.value + 1'), columns: 2, rows: 2 }),
					node('n4', 'write-attribute', 'mark', {
						name: 'level',
						elements: 'point',
						value: formula('index')
					}),
					node('n5', 'displace', 'raised', {
						along: 'direction',
						amount: formula('level + side.width + time2.value')
					}),
					node('n6', 'formula', 'own', { formula: 'pass * 2' }, { inputs: [{ name: 'pass', value: 7 }] })
				],
				wires: [
					{ from: ['n3', 'mesh'], to: ['n4', 'geometry'] },
					{ from: ['n4', 'geometry'], to: ['n5', 'geometry'] }
				]
			}
		},
		view: {}
	});
	assert.deepEqual(leftOut, []);
	const byId = new Map(document.graphs.main.nodes.map((one) => [one.id, one]));
	assert.equal(byId.get('n1')!.short, 'time3');
	assert.equal(byId.get('n3')!.short, 'side2');
	assert.deepEqual(byId.get('n3')!.settings.width, formula('time3.value + 1'));
	assert.deepEqual(byId.get('n5')!.settings.amount, formula('attribute.level + side2.width + time2.value'));
	assert.equal(byId.get('n6')!.settings.formula, 'pass * 2', 'an input of the artist’s own comes first');
	const { geometry, error } = evaluateAll(document);
	const p = positionsOf(geometry('raised').mesh!);
	assert.equal(error('own'), null);
	for (let i = 0; i < p.length / 3; i++) assert.equal(p[3 * i + 1], i + 4 + 100);
});

test('no node gets a kept name, and a formula that uses one is told what to write', () => {
	const { graphs } = generator([['grid', 'grid']]);
	for (const name of KEPT_SHORTS) assert.equal(freeShort(graphs.main, name), `${name}2`);
	const { error } = evaluateAll(
		generator([
			['grid', 'grid'],
			['displace', 'moved', { along: 'direction', amount: formula('storey * 2') }, { geometry: 'grid.mesh' }],
			['number', 'far', { value: formula('dial.height') }]
		])
	);
	assert.match(error('moved')!, /“storey” is a name that formulas keep for themselves.*attribute\.storey/);
	assert.match(error('far')!, /“dial\.height” is not known here/);
});
