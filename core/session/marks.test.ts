/** Marks on elements: order, directions and groups, drawn where the elements are and as they point. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { evaluateAll, generator } from '../testing/index.ts';
import type { MarkName } from './messages.ts';
import { marksOf } from './marks.ts';

const run = evaluateAll(
	generator([
		['circle', 'ring', { radius: 3 }],
		['sphere', 'buoy', { radius: 2, segments: 16, rows: 8 }],
		['row-of-points', 'row', { count: 12 }],
		['box', 'post', {}],
		['place-copies', 'posts', { rotation: [0, 90, 0] }, { points: 'row.points', source: 'post.mesh' }]
	])
);
const ends = (short: string, name: MarkName) => marksOf(run.geometry(short), [name], '').lines[0].ends;
const lines = (short: string, name: MarkName) => {
	const all = ends(short, name);
	return Array.from({ length: all.length / 6 }, (_, i) => {
		const [ax, ay, az, bx, by, bz] = all.subarray(6 * i, 6 * i + 6);
		const d = [bx - ax, by - ay, bz - az];
		const long = Math.sqrt(d[0] ** 2 + d[1] ** 2 + d[2] ** 2);
		return { from: [ax, ay, az], to: [bx, by, bz], d: d.map((x) => x / long), long };
	});
};
const near = (a: number, b: number) => assert.ok(Math.abs(a - b) < 1e-3, `${a} is not ${b}`);

test('order lines go from each point to the next', () => {
	const all = lines('row', 'order');
	assert.equal(all.length, 11);
	all.slice(1).forEach(({ from }, i) => assert.deepEqual(from, all[i].to));
});

test('normals of a ball point away from its middle, tangents of a ring lie along it, all of one length', () => {
	for (const { from, d, long } of lines('buoy', 'normals')) {
		const r = Math.sqrt(from[0] ** 2 + from[1] ** 2 + from[2] ** 2);
		assert.ok((from[0] * d[0] + from[1] * d[1] + from[2] * d[2]) / r > 0.95);
		near(long, lines('buoy', 'normals')[0].long);
	}
	for (const { from, d } of lines('ring', 'tangents')) near(from[0] * d[0] + from[2] * d[2], 0);
	assert.equal(ends('ring', 'normals').length, 0, 'curves lie on no surface');
	assert.equal(ends('row', 'tangents').length, 0);
});

test('own axes of copies are turned as they are', () => {
	for (const { d } of lines('posts', 'x')) [0, 0, -1].forEach((wanted, k) => near(d[k], wanted));
	for (const { d } of lines('posts', 'y')) [0, 1, 0].forEach((wanted, k) => near(d[k], wanted));
});

test('a group is told by a condition; one that means nothing here is told in a sentence', () => {
	const { dots, found, trouble } = marksOf(run.geometry('row'), [], 'index % 3 == 0');
	assert.deepEqual([dots.length, found, trouble], [12, 4, '']);
	const none = marksOf(run.geometry('row'), [], 'barnacles > 2');
	assert.equal(none.found, 0);
	assert.match(none.trouble, /There is no “barnacles” here/);
	assert.match(marksOf(run.geometry('row'), [], 'index %').trouble, /value is missing/);
});
