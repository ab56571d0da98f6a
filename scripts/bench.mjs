// npm run bench: each case against what a team would otherwise use, in one process. Prints a table, writes bench.json.
import { mkdtempSync } from 'node:fs';
import { installPackages, run } from './setup.mjs';

installPackages();
// Bundled, as the application is: the loader for single files wraps every function to keep its name, which costs.
const bundle = `${mkdtempSync('node_modules/.bench-')}/run.mjs`;
run('npx', [
	'esbuild',
	'bench/run.ts',
	'--bundle',
	'--platform=node',
	'--format=esm',
	`--outfile=${bundle}`,
	'--log-level=error'
]);
run(process.execPath, ['--expose-gc', bundle, ...process.argv.slice(2)]);
