/** However fast is asked, one question is under way, and the last one asked is answered last. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { Newest } from './newest.ts';

test('of questions that come meanwhile only the newest is asked, also after one that failed', async () => {
	await fc.assert(
		fc.asyncProperty(
			fc.array(fc.tuple(fc.nat(3), fc.boolean()), { minLength: 1, maxLength: 30 }),
			async (asks) => {
				let open = 0;
				const asked: number[] = [];
				const newest = new Newest<number>(async (n) => {
					assert.equal(++open, 1, 'one at a time');
					asked.push(n);
					await new Promise<void>((done) => setImmediate(done));
					open--;
					if (asks[n][1]) throw new Error('The evaluation was stopped.');
				});
				for (let n = 0; n < asks.length; n++) {
					newest.ask(n);
					for (let k = 0; k < asks[n][0]; k++) await new Promise<void>((done) => setImmediate(done));
				}
				while (open || asked.at(-1) !== asks.length - 1)
					await new Promise<void>((done) => setImmediate(done));
				assert.equal(asked[0], 0);
				assert.deepEqual(
					asked,
					[...asked].sort((a, b) => a - b),
					'none is asked out of turn or twice'
				);
				assert.equal(new Set(asked).size, asked.length);
			}
		),
		{ numRuns: 60 }
	);
});
