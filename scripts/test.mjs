// npm test: every check, in the order in which they fail fastest.
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { installChromium, installPackages, run } from './setup.mjs';

installPackages();
installChromium();
const only = process.argv.slice(2);
const wants = (step) => only.length === 0 || only.includes(step);

const testsIn = (folder) =>
	readdirSync(folder, { withFileTypes: true }).flatMap((entry) =>
		entry.isDirectory()
			? testsIn(join(folder, entry.name))
			: entry.name.endsWith('.test.ts')
				? [join(folder, entry.name)]
				: []
	);

if (wants('format')) run('npx', ['prettier', '--check', '--log-level', 'warn', '.']);
if (wants('types')) {
	run('npx', ['svelte-kit', 'sync']);
	run('npx', ['tsc', '-p', 'core']);
	run('npx', ['svelte-check', '--tsconfig', './tsconfig.json', '--fail-on-warnings']);
}
if (wants('lint')) run('npx', ['eslint', '.']);
if (wants('unit'))
	run(process.execPath, ['--import', 'tsx', '--test', ...['core', 'cli', 'src'].flatMap(testsIn)]);
if (wants('interface')) {
	run('npx', ['vite', 'build', '--logLevel', 'warn']);
	run('npx', ['playwright', 'test']);
}
