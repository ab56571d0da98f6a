/** Work for the card goes on a piece at a time, what is awaited first. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { Pace } from './pace.ts';
import type { Job } from './turns.ts';
import { Turns } from './turns.ts';

/** A card that has done each piece after it was asked a few times. */
function card(asks = 2) {
	const state = { left: 0, lost: false, fences: 0 };
	const gl = {
		SYNC_GPU_COMMANDS_COMPLETE: 1,
		SYNC_STATUS: 2,
		SIGNALED: 3,
		fenceSync: () => ((state.left = asks), state.fences++, {}),
		flush() {},
		getSyncParameter: () => (state.left-- > 0 ? 0 : 3),
		deleteSync() {},
		isContextLost: () => state.lost
	};
	return { gl: gl as unknown as WebGL2RenderingContext, state };
}
const LOAD = { triangles: 10, pixels: 10 };
/** A job of some pieces that writes down each. */
function* job(name: string, pieces: number, done: string[]): Job {
	for (let i = 0; i < pieces; i++) {
		done.push(`${name}${i}`);
		yield LOAD;
	}
}

test('a job is done piece by piece, and says when it has come to its end', async () => {
	const { gl, state } = card();
	const turns = new Turns(gl, new Pace());
	const done: string[] = [];
	assert.equal(await turns.run(job('a', 3, done), 'seen'), true);
	assert.deepEqual(done, ['a0', 'a1', 'a2']);
	assert.equal(state.fences, 3, 'each piece was waited for');
	assert.ok(!turns.busy);
});

test('what is awaited comes before what is seen, and that before what is for later, also where that has begun', async () => {
	const { gl } = card();
	const turns = new Turns(gl, new Pace());
	const done: string[] = [];
	const all = [
		turns.run(job('later', 2, done), 'later'),
		turns.run(job('seen', 2, done), 'seen'),
		turns.run(job('awaited', 2, done), 'awaited')
	];
	await Promise.all(all);
	assert.deepEqual(done, ['later0', 'awaited0', 'awaited1', 'seen0', 'seen1', 'later1']);
});

test('a job that is dropped is not gone on with, and the next one is', async () => {
	const { gl } = card();
	const turns = new Turns(gl, new Pace());
	const done: string[] = [];
	const dropped = job('dropped', 50, done);
	const first = turns.run(dropped, 'seen');
	const second = turns.run(job('next', 1, done), 'later');
	turns.drop(dropped);
	assert.equal(await first, false);
	assert.equal(await second, true);
	assert.deepEqual(done, ['dropped0', 'next0']);
});

test('while it is held nothing is begun; closed, it lets go of all', async () => {
	const { gl } = card();
	const turns = new Turns(gl, new Pace());
	const done: string[] = [];
	turns.held = true;
	const waiting = turns.run(job('a', 1, done), 'seen');
	assert.deepEqual(done, []);
	turns.held = false;
	assert.equal(await waiting, true);
	turns.held = true;
	const never = turns.run(job('b', 1, done), 'seen');
	turns.close();
	assert.equal(await never, false);
	assert.deepEqual(done, ['a0']);
});

test('graphics that are gone are not waited for', async () => {
	const { gl, state } = card(1e9);
	const turns = new Turns(gl, new Pace());
	const waiting = turns.finished(LOAD);
	assert.ok(turns.busy);
	state.lost = true;
	await waiting;
	assert.ok(!turns.busy);
});
