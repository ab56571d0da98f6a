import assert from 'node:assert/strict';
import { mock, test } from 'node:test';
import { askAway } from './away.ts';

/** A worker that says what the test has it say. */
class Puppet {
	onmessage: ((event: { data: unknown }) => void) | null = null;
	onerror: (() => void) | null = null;
	asked: unknown[] = [];
	ended = false;
	postMessage(request: unknown): void {
		this.asked.push(request);
	}
	terminate(): void {
		this.ended = true;
	}
	say(data: unknown): void {
		this.onmessage?.({ data });
	}
}
const ask = (puppet: Puppet, signal?: AbortSignal): Promise<unknown> =>
	askAway(puppet as unknown as Worker, 'read', { name: 'tide.glb', signal });

test('what a worker answers is handed on, and the worker is ended', async () => {
	const puppet = new Puppet();
	const answer = ask(puppet);
	assert.deepEqual([puppet.asked, puppet.ended], [['read'], false]);
	puppet.say('beat');
	puppet.say({ kind: 'node' });
	assert.deepEqual(await answer, { kind: 'node' });
	assert.ok(puppet.ended);
});

test('one that says nothing for 10 s is ended with a sentence, one that gets on is not', async () => {
	mock.timers.enable({ apis: ['setTimeout'] });
	try {
		const puppet = new Puppet();
		const answer = ask(puppet).catch((error: Error) => error.message);
		for (let i = 0; i < 5; i++) {
			mock.timers.tick(9_900);
			puppet.say('beat');
		}
		assert.equal(puppet.ended, false);
		mock.timers.tick(10_001);
		assert.match(String(await answer), /^tide\.glb was read for 10 s without getting on, and was given up\./);
		assert.ok(puppet.ended);
	} finally {
		mock.timers.reset();
	}
});

test('one that breaks off says so; one that nobody wants any more is ended at once', async () => {
	const broken = new Puppet();
	const answer = ask(broken);
	broken.onerror!();
	await assert.rejects(answer, /tide\.glb could not be read: it takes more memory than there is/);
	assert.ok(broken.ended);

	const left = new AbortController();
	const puppet = new Puppet();
	void ask(puppet, left.signal);
	left.abort();
	assert.ok(puppet.ended);
	// Left before it was asked: it is not asked at all.
	const late = new Puppet();
	void ask(late, left.signal);
	assert.deepEqual([late.ended, late.asked], [true, []]);
});
