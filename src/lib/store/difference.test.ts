import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { runs } from '$core/testing/runs.ts';
import { changedBy, differenceOf } from './difference.ts';

/** Plain data as a file of text holds it: no negative zero. */
const plain = fc.jsonValue({ maxDepth: 4 }).map((value): unknown => JSON.parse(JSON.stringify(value)));

test('a difference, written out and read again, leads from any state to any other', () => {
	fc.assert(
		fc.property(plain, plain, (before, after) => {
			const difference = differenceOf(before, after);
			if (!difference) return assert.deepEqual(before, after);
			assert.deepEqual(changedBy(before, JSON.parse(JSON.stringify(difference))), after);
		}),
		{ numRuns: runs(2000, 500) }
	);
});

test('states that share most of their parts, rows put in, taken out and changed among them', () => {
	const row = fc.record({ id: fc.nat(50), settings: fc.dictionary(fc.string(), plain) });
	const edit = fc.record({ at: fc.nat(30), drop: fc.nat(3), put: fc.array(row, { maxLength: 3 }) });
	fc.assert(
		fc.property(fc.array(row, { maxLength: 20 }), fc.array(edit, { maxLength: 4 }), (rows, edits) => {
			const after = [...rows];
			for (const { at, drop, put } of edits) after.splice(at, drop, ...put);
			const [a, b] = [
				{ nodes: rows, name: 'Reeds' },
				{ nodes: after, name: 'Reeds' }
			].map((one) => JSON.parse(JSON.stringify(one)) as unknown);
			const difference = differenceOf(a, b);
			assert.deepEqual(difference ? changedBy(a, JSON.parse(JSON.stringify(difference))) : a, b);
		}),
		{ numRuns: runs(2000, 500) }
	);
});

test('one number among a thousand rows makes a difference of a few letters', () => {
	const rows = Array.from({ length: 1000 }, (_, i) => ({ id: `n${i}`, settings: { width: i } }));
	const after = rows.map((row, i) => (i === 700 ? { ...row, settings: { width: 5 } } : row));
	const difference = differenceOf({ rows }, { rows: after });
	assert.ok(JSON.stringify(difference).length < 150);
	assert.deepEqual(differenceOf({ heat: ['a'], frame: 1 }, { heat: undefined, frame: 1 }), {
		of: [],
		gone: ['heat']
	});
	const without = rows.filter((_, i) => i !== 400);
	assert.deepEqual(differenceOf(rows, without), { from: 400, drop: 1, put: [], of: [] });
});

test('what does not belong together is refused', () => {
	assert.throws(() => changedBy(3, { of: [], gone: [] }), /object/);
	assert.throws(() => changedBy({}, { from: 0, drop: 0, put: [], of: [] }), /list/);
	assert.throws(() => changedBy([1], { from: 0, drop: 0, put: [], of: [[4, { now: 1 }]] }), /longer/);
});
