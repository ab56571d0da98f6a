import assert from 'node:assert/strict';
import { test } from 'node:test';
import { NO_ANSWER, answerTabs, askTab } from './tabs.ts';
import type { TabRequest } from './tabs.ts';

test('only the tab that has the generator open answers, and only once it has done as asked', async () => {
	const heard: TabRequest[] = [];
	let isDone = false;
	const stop = answerTabs('reeds', async (request) => {
		heard.push(request);
		await new Promise((done) => setTimeout(done, 20));
		isDone = true;
		return null;
	});
	const others = answerTabs('walk', () => assert.fail('asked of another generator'));
	assert.equal(await askTab('reeds', { want: 'rename', name: 'Reeds by the weir' }), null);
	assert.deepEqual([heard, isDone], [[{ want: 'rename', name: 'Reeds by the weir' }], true]);
	stop();
	others();
});

test('a tab that gives the right to write away, and listens no more, is heard at once', async () => {
	const stop = answerTabs('reeds', async () => {
		stop();
		return null;
	});
	assert.equal(await askTab('reeds', { want: 'release' }, 500), null);
});

test('a tab that does not answer is not waited for longer than said', async () => {
	assert.equal(await askTab('nobody', { want: 'flush' }, 30), NO_ANSWER);
	const stop = answerTabs('full', async () => 'The disk is full.');
	assert.equal(await askTab('full', { want: 'release' }), 'The disk is full.');
	stop();
});
