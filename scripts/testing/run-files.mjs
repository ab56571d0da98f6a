/**
 * A process that runs test files as they are handed to it, one after another: what they share is read and compiled once.
 * It is told `{ file }` or `{ end }` by whoever started it; what came of each test is told by the reporter `tell.mjs`.
 */
import { resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import test from 'node:test';
import fc from 'fast-check';
import { MARK, bundleOf } from './names.mjs';

// One seed for all laws of a run: fast-check keeps it where every copy of it looks.
fc.configureGlobal({ seed: Number(process.env.EMBRELL_SEED) });

process.on('message', async ({ file, end }) => {
	if (end) return process.disconnect();
	try {
		await import(pathToFileURL(resolve(bundleOf(file))).href);
	} catch (error) {
		test(`${file} can be read`, () => {
			throw error;
		});
	}
	// Tests run in the order in which they were met: when this one is through, so are those of the file.
	test(MARK + file, () => {});
});
