import assert from 'node:assert/strict';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { test } from 'node:test';
import { pathToFileURL } from 'node:url';
import { runWatched } from '../bin/watch.mjs';

const folder = mkdtempSync(join(tmpdir(), 'embrell-'));
let made = 0;

/** A thread that runs this, with `args`, `beats` and `begins` at hand. */
function thread(body: string): URL {
	const path = join(folder, `${made++}.mjs`);
	writeFileSync(
		path,
		`import { parentPort, workerData } from 'node:worker_threads';
const { args, beats } = workerData;
const begins = (work) => parentPort.postMessage(work);
const until = Date.now() + 700;
${body}`
	);
	return pathToFileURL(path);
}
const run = (body: string, args: string[] = [], silentFor = 0.3) =>
	runWatched(thread(body), args, { silentFor, mostMemory: 64 });

test('a thread gives its exit code', async () => {
	assert.deepEqual(await run('process.exitCode = args.length;', ['a', 'b']), { code: 2, told: null });
});

test('one that hangs in what it does is ended with a sentence; one that gets on, or may take its time, is not', async () => {
	assert.deepEqual(await run("begins('The reading of tide.glb'); for (;;);"), {
		code: 1,
		told: 'The reading of tide.glb did not get on for 0.3 s and was ended. The file is damaged, or made to be slow.'
	});
	for (const slow of [
		"begins('The reading of tide.glb'); while (Date.now() < until) Atomics.add(beats, 0, 1);",
		"begins('The reading of tide.glb'); begins(null); while (Date.now() < until);"
	])
		assert.deepEqual(await run(slow), { code: 0, told: null });
});

test('an evaluation that hangs is no damaged file', async () => {
	const { code, told } = await run("begins('The evaluation of Quay'); for (;;);");
	assert.equal(code, 1);
	assert.match(told!, /^The evaluation of Quay did not get on for 0\.3 s and was ended\. A node hangs/);
});

test('one that fills the memory is ended with a sentence', async () => {
	const { code, told } = await run(
		"begins('The reading of tide.glb'); const all = []; for (;;) { Atomics.add(beats, 0, 1); all.push({ at: [all.length] }); }",
		[],
		60
	);
	assert.equal(code, 1);
	assert.match(told!, /^The reading of tide\.glb took more than 64 MB of memory and was ended\./);
});
