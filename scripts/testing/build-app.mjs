/** Builds the application, unless nothing that it is made of has changed since it was built here. */
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { programOf, ran } from './steps.mjs';

const MADE_OF = [
	'core',
	'cli',
	'src',
	'samples',
	'static',
	'scripts/bundle-cli.mjs',
	'vite.config.ts',
	'svelte.config.js',
	'package-lock.json'
];
const STAMP = 'build/made-of.txt';

export async function buildApp() {
	const made = madeOf();
	if (existsSync(STAMP) && readFileSync(STAMP, 'utf8') === made) return { isWell: true };
	const built = await ran([programOf('vite'), 'build', '--logLevel', 'warn']);
	if (built.isWell) writeFileSync(STAMP, made);
	return built;
}

function madeOf() {
	const hash = createHash('sha256');
	const take = (path) => {
		hash.update(path).update(readFileSync(path));
	};
	const visit = (folder) => {
		for (const entry of readdirSync(folder, { withFileTypes: true })) {
			const path = join(folder, entry.name);
			if (entry.isDirectory()) visit(path);
			else if (!/\.test\.ts$/.test(entry.name)) take(path);
		}
	};
	for (const one of MADE_OF)
		if (/\.\w+$/.test(one)) take(one);
		else visit(one);
	return hash.digest('hex');
}
