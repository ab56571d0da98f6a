import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { everyNth, outermost } from './outermost.ts';

test('every so-manieth, from the first', () => {
	assert.deepEqual(everyNth(7, 3), [0, 3, 6]);
	assert.deepEqual(everyNth(0, 3), []);
});

test('the box of the outermost places is the box of all', () => {
	const place = fc.array(fc.float({ min: -100, max: 100, noNaN: true }), { minLength: 5, maxLength: 5 });
	fc.assert(
		fc.property(fc.array(place, { minLength: 1, maxLength: 60 }), (rows) => {
			const found = outermost(Float32Array.from(rows.flat()), 5, 1);
			assert.ok(found.length <= 14);
			for (const k of [1, 2, 3]) {
				const all = rows.map((row) => row[k]);
				const some = found.map((i) => rows[i][k]);
				assert.equal(Math.min(...some), Math.min(...all));
				assert.equal(Math.max(...some), Math.max(...all));
			}
		})
	);
});
