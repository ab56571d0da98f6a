import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { Ledger } from '../geometry/index.ts';
import { firstOfEach } from './first-of-each.ts';
import { sortNumbers } from './sort-numbers.ts';

const within = <Value>(make: () => Value): Value => new Ledger().work(make);
const odd = fc.oneof(fc.constantFrom(0, -0, NaN, Infinity, -Infinity, 1e-320), fc.double());

test('many numbers are sorted as few are, bit for bit, zeros of both signs and what is no number too', () => {
	fc.assert(
		fc.property(
			fc.array(odd, { minLength: 1, maxLength: 40 }),
			fc.integer({ min: 1, max: 200_000 }),
			(some, n) => {
				// The same few again and again, in an order that is neither theirs nor sorted.
				const numbers = Float64Array.from(
					{ length: n },
					(_, i) => some[(i * 7919) % some.length] * (1 + (i % 3))
				);
				const wanted = Float64Array.from(numbers).sort();
				const sorted = within(() => sortNumbers(numbers));
				assert.equal(sorted.length, n);
				for (let i = 0; i < n; i++)
					if (!Object.is(sorted[i], wanted[i])) assert.fail(`${sorted[i]} at ${i} instead of ${wanted[i]}`);
			}
		),
		{ numRuns: 30 }
	);
});

test('each value has one place, where it comes first, and is counted as often as it comes', () => {
	fc.assert(
		fc.property(
			fc.array(odd, { maxLength: 60 }),
			fc.constantFrom(1, 3),
			fc.nat(9000),
			(some, width, more) => {
				const rows = Math.floor(some.length / width);
				const data = [
					...some.slice(0, rows * width),
					// So many others that the table grows.
					...Array.from({ length: more * width }, (_, i) => Math.floor(i / width / 2))
				];
				const known = new Map<string, number>();
				const [firsts, times]: number[][] = [[], []];
				const places = Array.from({ length: data.length / width }, (_, row) => {
					const key = data.slice(row * width, (row + 1) * width).join();
					if (!known.has(key)) {
						known.set(key, firsts.push(row) - 1);
						times.push(0);
					}
					times[known.get(key)!]++;
					return known.get(key)!;
				});
				const found = within(() => firstOfEach(Float64Array.from(data), width));
				assert.deepEqual([...found.firsts], firsts);
				assert.deepEqual([...found.places], places);
				assert.deepEqual([...found.times], times);
			}
		),
		{ numRuns: 60 }
	);
});
