import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import '../testing/index.ts';
import { copyOf, filled, firstOf, setInPieces } from './allocate.ts';
import { counting, grouped } from './grouped.ts';
import { Ledger } from './ledger.ts';

test('every row stands in its own group, in its order, and in no other', () => {
	fc.assert(
		fc.property(fc.integer({ min: 1, max: 9 }), fc.array(fc.nat(8), { maxLength: 60 }), (count, raw) => {
			const groupOf = Uint32Array.from(raw, (g) => g % count);
			const { starts, items } = grouped(count, groupOf);
			assert.equal(starts.length, count + 1);
			assert.equal(starts[count], groupOf.length);
			for (let g = 0; g < count; g++) {
				const members = [...items.subarray(starts[g], starts[g + 1])];
				assert.deepEqual(
					members,
					[...groupOf.keys()].filter((row) => groupOf[row] === g)
				);
			}
			const named = grouped(count, groupOf, (row) => 3 * row);
			assert.deepEqual(
				[...named.items],
				Array.from(items, (row) => 3 * row)
			);
		})
	);
});

test('numbers are counted from 0', () => {
	assert.deepEqual([...counting(5)], [0, 1, 2, 3, 4]);
	assert.equal(counting(0).length, 0);
});

const PIECE = 1 << 20;
const asking = () => {
	let polls = 0;
	const ledger = new Ledger({ limit: Infinity, poll: () => void polls++ });
	return { polls: () => polls, work: <R>(make: () => R) => ledger.work(make) };
};

test('what is long is written a piece at a time, and asked about between', () => {
	for (const length of [0, 1, PIECE - 1, PIECE, PIECE + 1, 3 * PIECE + 7]) {
		const pieces = Math.ceil(length / PIECE);
		const one = asking();
		const sevens = one.work(() => filled('byte', length, 7));
		assert.ok(sevens.every((x) => x === 7));
		assert.ok(one.polls() >= pieces);
		const two = asking();
		const copy = two.work(() => copyOf(sevens));
		assert.ok(copy !== sevens && copy.length === length && copy.every((x) => x === 7));
		assert.ok(two.polls() >= pieces);
	}
});

test('a copy may begin anywhere, and the first numbers are an array of their own', () => {
	fc.assert(
		fc.property(fc.array(fc.nat(255), { maxLength: 40 }), fc.nat(20), fc.nat(40), (numbers, at, length) => {
			const source = Uint8Array.from(numbers);
			const target = new Uint8Array(source.length + at);
			setInPieces(target, source, at);
			assert.deepEqual([...target.subarray(at)], numbers);
			assert.ok(target.subarray(0, at).every((x) => x === 0));
			const first = firstOf(source, Math.min(length, source.length));
			assert.deepEqual([...first], numbers.slice(0, length));
			if (length < source.length && length > 0) assert.notEqual(first.buffer, source.buffer);
		})
	);
});
