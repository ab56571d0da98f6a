/** Saving, in every order in which writes can fail and end: the newest state is the one that stays. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { WriteQueue } from './write-queue.ts';

/** A store whose writes end when they are told to, well or badly. */
function store() {
	const open: { state: number; end: (isGood: boolean) => void }[] = [];
	const written: number[] = [];
	return {
		open,
		written,
		write: (state: number) =>
			new Promise<void>((done, failed) =>
				open.push({
					state,
					end(isGood) {
						if (isGood) written.push(state);
						if (isGood) done();
						else failed(new Error('no room'));
					}
				})
			)
	};
}
const turn = () => new Promise((done) => setImmediate(done));

test('whatever writes fail, in any order with new states: never an older over a newer, and the newest in the end', async () => {
	const act = fc.oneof(
		fc.constant('note' as const),
		fc.constant('good' as const),
		fc.constant('bad' as const),
		fc.constant('flush' as const)
	);
	await fc.assert(
		fc.asyncProperty(fc.array(act, { minLength: 1, maxLength: 40 }), async (acts) => {
			const { open, written, write } = store();
			const queue = new WriteQueue<number>({ write, waits: 0, triesAgain: 1e6 });
			let newest = -1;
			for (const one of acts) {
				if (one === 'note') queue.note(++newest);
				else if (one === 'flush') void queue.flush();
				else open.shift()?.end(one === 'good');
				await turn();
				assert.ok(open.length <= 1, 'one write at a time');
			}
			const done = queue.flush();
			for (let i = 0; i < 5 && queue.hasUnwritten; i++) {
				open.shift()?.end(true);
				await turn();
			}
			queue.close();
			await done;
			assert.deepEqual(
				written,
				[...written].sort((a, b) => a - b)
			);
			if (newest >= 0) {
				if (queue.hasUnwritten) {
					// A failure ended that flush: the next one writes what is newest.
					const again = queue.flush();
					await turn();
					open.shift()?.end(true);
					await again;
					queue.close();
				}
				assert.equal(written.at(-1), newest);
				assert.equal(queue.hasUnwritten, false);
			}
		}),
		{ numRuns: 300 }
	);
});

test('a failed write is tried again by itself, with the newest state, and the trouble is over then', async () => {
	const { open, written, write } = store();
	const queue = new WriteQueue<number>({ write, waits: 0, triesAgain: 5 });
	queue.note(1);
	await turn();
	open.shift()!.end(false);
	await turn();
	assert.match(queue.trouble!.message, /no room/);
	queue.note(2);
	while (!open.length) await new Promise((done) => setTimeout(done, 2));
	assert.equal(open[0].state, 2);
	open.shift()!.end(true);
	await turn();
	assert.deepEqual([written, queue.trouble, queue.hasUnwritten], [[2], null, false]);
	queue.close();
});

test('states that follow quickly are written together, the last of them', async () => {
	const { open, written, write } = store();
	const queue = new WriteQueue<number>({ write, waits: 10_000 });
	for (let state = 1; state <= 100; state++) queue.note(state);
	const done = queue.flush();
	while (open.length) {
		open.shift()!.end(true);
		await turn();
	}
	await done;
	assert.deepEqual(written, [1, 100]);
	queue.close();
});
