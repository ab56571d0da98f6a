// npm test: every check, in the order in which they fail fastest.
import { readdirSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { installChromium, installPackages, run, runPackage } from './setup.mjs';

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

if (wants('format')) runPackage('prettier', ['--check', '--log-level', 'warn', '.']);
if (wants('types')) {
	runPackage('@sveltejs/kit', ['sync'], 'svelte-kit');
	runPackage('typescript', ['-p', 'core'], 'tsc');
	runPackage('svelte-check', ['--tsconfig', './tsconfig.json', '--fail-on-warnings']);
}
if (wants('lint')) {
	runPackage('eslint', ['.']);
	// No file, export or package that nobody uses.
	runPackage('knip', []);
}
if (wants('unit')) {
	// The command line is tested as it is installed: bundled.
	const { bundleCli } = await import('./bundle-cli.mjs');
	await bundleCli();
	// As many at once as there are processors: by itself it leaves one idle.
	const atOnce = `--test-concurrency=${availableParallelism()}`;
	run(process.execPath, ['--import', 'tsx', '--test', atOnce, ...['core', 'cli', 'src'].flatMap(testsIn)]);
}
if (wants('interface')) {
	runPackage('vite', ['build', '--logLevel', 'warn']);
	runPackage('@playwright/test', ['test'], 'playwright');
}
