import assert from 'node:assert/strict';
import { readFileSync } from 'node:fs';
import test from 'node:test';
import fc from 'fast-check';
import { openDocument } from '../engine/index.ts';
import { varied, variationsOf } from './variations.ts';

const { document } = openDocument(readFileSync('samples/drying-rack.embrell.json', 'utf8'));
const valueOf = (of: typeof document, key: string) =>
	of.dials.find((dial) => dial.key === key)!.value as number;

test('a sheet has as many variations as asked for, each with a seed of its own, the same each time', () => {
	fc.assert(
		fc.property(fc.constantFrom(12, 24, 36, 60), fc.nat(4294967295), (count, from) => {
			const wanted = {
				count,
				from,
				dials: [
					{ key: 'skins', low: 2, high: 6 },
					{ key: 'height', low: 1.5, high: 3 }
				]
			};
			const list = variationsOf(document, wanted);
			assert.equal(new Set(list.map(({ seed }) => seed)).size, count);
			for (const { seed, values } of list) {
				assert.ok(seed >= 0 && seed <= 4294967295);
				assert.ok(
					Number.isInteger(values.skins) && (values.skins as number) >= 2 && (values.skins as number) <= 6
				);
				assert.ok((values.height as number) >= 1.5 && (values.height as number) <= 3);
			}
			assert.deepEqual(variationsOf(document, wanted), list);
		}),
		{ numRuns: 40 }
	);
});

test('the dials of a sheet vary independently, and over all of their range', () => {
	const list = variationsOf(document, {
		count: 4000,
		from: 1,
		dials: [
			{ key: 'height', low: 0, high: 1 },
			{ key: 'lowest', low: 0, high: 1 }
		]
	});
	const [a, b] = ['height', 'lowest'].map((key) => list.map(({ values }) => values[key] as number));
	const mean = (x: number[]) => x.reduce((sum, one) => sum + one, 0) / x.length;
	const [ma, mb] = [mean(a), mean(b)];
	assert.ok(Math.abs(ma - 0.5) < (3 * 0.2887) / Math.sqrt(4000), `mean ${ma}`);
	const covariance = mean(a.map((x, i) => (x - ma) * (b[i] - mb)));
	assert.ok(Math.abs(covariance * 12) < 3 / Math.sqrt(4000), `correlation ${covariance * 12}`);
	for (const x of [a, b]) assert.ok(Math.min(...x) < 0.01 && Math.max(...x) > 0.99);
});

test('one dial at listed values has a place for each, and a value that is none is told of', () => {
	const list = variationsOf(document, {
		count: 12,
		from: 4,
		listed: { key: 'skins', values: ['1', '3', '8'] }
	});
	assert.deepEqual(
		list.map(({ label, seed }) => [label, seed]),
		[
			['Skins to a bar 1', 4],
			['Skins to a bar 3', 4],
			['Skins to a bar 8', 4]
		]
	);
	assert.throws(
		() => variationsOf(document, { count: 12, from: 4, listed: { key: 'skins', values: ['many'] } }),
		/“Skins to a bar” takes a number/
	);
});

test('a variation has its seed and its dials, and what hangs from them', () => {
	const made = varied(document, { seed: 9, values: { height: 3 }, label: '' });
	assert.equal(made.seed, 9);
	assert.equal(valueOf(made, 'height'), 3);
	assert.equal(made.graphs.main.nodes.find(({ short }) => short === 'tall')!.settings.value, 3);
	assert.equal(varied(document, { seed: document.seed, values: {}, label: '' }), document);
});
