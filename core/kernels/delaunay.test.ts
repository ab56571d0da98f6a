import assert from 'node:assert/strict';
import { test } from 'node:test';
import Delaunator from 'delaunator';
import fc from 'fast-check';
import { Ledger } from '../geometry/index.ts';
import { mix, toUnit } from '../math/index.ts';
import { delaunay } from './delaunay.ts';

const places = (count: number): Float64Array =>
	Float64Array.from({ length: 2 * count }, (_, i) => 1000 * toUnit(mix(7, i)));

test('the triangles are the library’s, and its work asks many times whether to stop', () => {
	fc.assert(
		fc.property(fc.array(fc.integer({ min: -9, max: 9 }), { maxLength: 60 }), (numbers) => {
			const given = Float64Array.from(numbers.slice(0, 2 * Math.floor(numbers.length / 2)));
			const { triangles, hull } = new Ledger().work(() => delaunay(given));
			const plain = new Delaunator(given);
			assert.deepEqual([...triangles], [...plain.triangles]);
			assert.deepEqual([...hull], [...plain.hull]);
		})
	);
	let asked = 0;
	new Ledger({ poll: () => void asked++ }).work(() => delaunay(places(100_000)));
	assert.ok(asked >= 40, `asked ${asked} times`);
});

test('it stops where it is told to, and works again afterwards', () => {
	let asked = 0;
	const ledger = new Ledger({
		poll: () => {
			if (++asked > 5) throw new Error('stop');
		}
	});
	assert.throws(() => ledger.work(() => delaunay(places(100_000))), /stop/);
	assert.ok(new Ledger().work(() => delaunay(places(1000))).triangles.length > 3000);
});
