/** What is said to artists is said as they would say it. */
import assert from 'node:assert/strict';
import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { test } from 'node:test';

function* sources(folder: string): Generator<string> {
	for (const entry of readdirSync(folder, { withFileTypes: true })) {
		const path = join(folder, entry.name);
		if (entry.isDirectory()) yield* sources(path);
		else if (/\.(ts|svelte)$/.test(entry.name) && !/\.test\.ts$/.test(entry.name)) yield path;
	}
}
/** Texts of a source, without its comments. */
const textsIn = (source: string): string[] =>
	source
		.replace(/\/\*[\s\S]*?\*\//g, '')
		.split('\n')
		.filter((line) => !/^\s*\/\//.test(line))
		.flatMap((line) => line.match(/(['"`])(?:(?!\1).)*\1|>[^<>{}]+</g) ?? []);

test('no sentence says of a thing that it “is none” or “is no” such', () => {
	let texts = 0;
	const wrong: string[] = [];
	for (const folder of ['core', 'cli', 'src'])
		for (const path of sources(folder))
			for (const text of textsIn(readFileSync(path, 'utf8'))) {
				texts++;
				if (/\bis none[.,;!]|(?<![Tt]here )\bis no (?!longer\b|more\b)/.test(text))
					wrong.push(`${path}: ${text}`);
			}
	assert.ok(texts > 10_000);
	assert.deepEqual(wrong, []);
});
