import assert from 'node:assert/strict';
import { spawnSync } from 'node:child_process';
import { test } from 'node:test';
import { fileURLToPath } from 'node:url';

/** Bundled beside this test. */
const PROGRAM = fileURLToPath(new URL('./extremes.child.mjs', import.meta.url));

/** All cases together take a quarter of this; what runs on past it hangs. */
const MOST_MILLISECONDS = 240_000;

test('no number of any node, however large, small or negative, hangs the program or ends in a fault of ours', () => {
	const child = spawnSync(process.execPath, [PROGRAM], {
		encoding: 'utf8',
		timeout: MOST_MILLISECONDS,
		maxBuffer: 1e8
	});
	const lines = child.stdout.trim().split('\n');
	assert.equal(lines.at(-1), '{"done":true}', `it ended with ${lines.at(-1)} ${child.stderr.slice(0, 500)}`);
	let told = 0;
	for (const line of lines) {
		const { message } = JSON.parse(line) as { message?: string };
		if (!message) continue;
		told++;
		assert.match(message, /^.{8,400}[.?]$/su, `“${message}” is no sentence`);
		assert.doesNotMatch(message, /undefined|NaN|\[object|Infinity|is not a function|fault of ours/);
	}
	// Most extremes mean something, or are taken as the nearest value that does; some must be refused.
	assert.ok(told > 30 && lines.length > 500, `${told} messages in ${lines.length} lines`);
});
