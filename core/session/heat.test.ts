/** The heat map’s numbers are the values on what is shown, and its colours follow the scale. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import * as varying from '../varying/index.ts';
import { isVarying } from '../engine/index.ts';
import { evaluateAll, generator } from '../testing/index.ts';
import { HEAT_SCALE, Heat, coloursOf } from './heat.ts';

const run = evaluateAll(
	generator([
		['grid', 'flat', { width: 4, depth: 2, columns: 4, rows: 2 }],
		['weight-by-height', 'high', { from: 0, to: 1 }],
		['formula', 'along', { formula: '(position.x + 2) / 4' }],
		['formula', 'missing', { formula: 'barnacles' }],
		['row-of-points', 'row', { count: 3 }],
		['box', 'hut'],
		['place-copies', 'huts', {}, { points: 'row.points', source: 'hut.mesh' }],
		['merge', 'all', {}, { geometry: ['flat.mesh', 'huts.copies'] }]
	])
);
function heatOf(short: string): Heat {
	const result = [...run.evaluation.results.values()].find(({ id }) => id === idOf(short))!;
	const value = [...result.outputs.values()][0];
	assert.ok(isVarying(value));
	return new Heat(value as varying.Varying);
}
const idOf = (short: string) => `n${['flat', 'high', 'along', 'missing'].indexOf(short) + 1}`;

test('values on the points of a mesh and on copies, with the least, the most and the mean', () => {
	const heat = heatOf('along');
	const all = run.geometry('all');
	const ofPoints = heat.read(all, 'mesh')!.data;
	assert.equal(ofPoints.length, 15);
	assert.deepEqual([Math.min(...ofPoints), Math.max(...ofPoints)], [0, 1]);
	const ofCopies = heat.read(all, 'copies')!.data;
	assert.equal(ofCopies.length, 3);
	const facts = heat.facts([all]);
	assert.equal(facts.count, 18);
	assert.equal(facts.of, 'points and copies');
	const sum = [...ofPoints, ...ofCopies].reduce((total, x) => total + x, 0);
	assert.ok(Math.abs(facts.mean - sum / 18) < 1e-9);
	assert.equal(facts.trouble, undefined);
	assert.equal(heat.read(all, 'curves'), null, 'there are no curves');
	assert.equal(heat.read(all, 'mesh')!.data, ofPoints, 'worked out once');
});

test('where a value cannot be worked out the reason is told, and nothing is coloured', () => {
	const heat = heatOf('missing');
	assert.equal(heat.read(run.geometry('flat'), 'mesh'), null);
	const facts = heat.facts([run.geometry('flat')]);
	assert.equal(facts.count, 0);
	assert.match(facts.trouble!, /There is no “barnacles” here/);
	assert.match(heatOf('along').facts([]).trouble!, /Nothing is shown/);
});

test('colours go from sand through teal to ink, and stay there beyond the ends', () => {
	const numbers = Float32Array.of(0, 0.5, 1, -3, 7, 0.25, NaN);
	const colours = coloursOf({ data: numbers, width: 1 }, null, new Uint8Array(21));
	const [sand, teal, ink] = HEAT_SCALE;
	const at = (i: number) => [...colours.subarray(3 * i, 3 * i + 3)];
	assert.deepEqual(
		[at(0), at(1), at(2), at(3), at(4)],
		[sand, teal, ink, sand, ink].map((one) => [...one])
	);
	for (const [k, x] of at(5).entries()) assert.ok(Math.abs(x - (sand[k] + teal[k]) / 2) <= 1);
	assert.deepEqual(at(6), [...sand], 'no number is as 0');
	const rows = coloursOf({ data: numbers, width: 1 }, [2, 0, 2], new Uint8Array(9));
	assert.deepEqual([...rows], [...ink, ...sand, ...ink]);
});

test('fitted, the scale runs from the least to the greatest of what is shown, and says so', () => {
	const heat = new Heat(varying.parseCondition('position.x * 10 + 3', []));
	const flat = run.geometry('flat');
	const plain = heat.key;
	heat.fit([flat]);
	assert.notEqual(heat.key, plain, 'what is drawn anew has another name');
	assert.deepEqual(heat.facts([flat]).ends, [-17, 23]);
	const numbers = heat.read(flat, 'mesh')!.data;
	assert.deepEqual([Math.min(...numbers), Math.max(...numbers)], [0, 1]);
	const even = new Heat(varying.parseCondition('4', []));
	even.fit([flat]);
	assert.ok(even.read(flat, 'mesh')!.data.every((x) => x === 0));
});

test('three numbers are red, green and blue, each from its least to its greatest', () => {
	const heat = new Heat(varying.parseCondition('vec(position.x * 10, 3, position.z)', []));
	const flat = run.geometry('flat');
	heat.fit([flat]);
	assert.deepEqual(heat.facts([flat]).parts, [
		[-20, 20],
		[3, 3],
		[-1, 1]
	]);
	const colours = coloursOf(heat.read(flat, 'mesh')!, null, new Uint8Array(45));
	const places = flat.mesh!.points.columns.get('position')!.data;
	for (let i = 0; i < 15; i++)
		[0, 1, 2].forEach((k) => {
			const wanted = k === 1 ? 0 : (places[3 * i + k] / (k ? 1 : 2) + 1) / 2;
			assert.ok(Math.abs(colours[3 * i + k] - 255 * wanted) <= 1);
		});
});
