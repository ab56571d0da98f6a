// npm run bench: each case against what a team would otherwise use, in one process. Prints a table, writes bench.json.
import { mkdtempSync } from 'node:fs';
import { installPackages, run } from './setup.mjs';

installPackages();
// Bundled, as the application is: the loader for single files wraps every function to keep its name, which costs.
const bundle = `${mkdtempSync('node_modules/.bench-')}/run.mjs`;
const { buildSync } = await import('esbuild');
buildSync({
	entryPoints: ['bench/run.ts'],
	bundle: true,
	platform: 'node',
	format: 'esm',
	outfile: bundle,
	logLevel: 'error'
});
run(process.execPath, ['--expose-gc', bundle, ...process.argv.slice(2)]);
