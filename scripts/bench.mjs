// npm run bench: each case against what a team would otherwise use, in one process (writes bench.json), and how long each
// kind of node goes without asking whether to stop (writes polls.json). `npm run bench -- memory` drags a large mesh;
// `-- polls` and `-- run WORD` do one of the others alone.
import { mkdirSync } from 'node:fs';
import { installPackages, run } from './setup.mjs';

installPackages();
const { buildSync } = await import('esbuild');
const folder = 'node_modules/.cache';
mkdirSync(folder, { recursive: true });
const [wanted = '', ...rest] = process.argv.slice(2);

/** Runs a file bundled, as the application is: the loader for single files wraps every function to keep its name, which costs. */
function bundled(name, flags, args) {
	const outfile = `${folder}/${name}.mjs`;
	const options = { bundle: true, platform: 'node', format: 'esm', logLevel: 'error', external: ['esbuild'] };
	buildSync({ entryPoints: [`bench/${name}.ts`], outfile, ...options });
	run(process.execPath, [...flags, outfile, ...args]);
}

if (wanted === 'memory') bundled('memory', ['--expose-gc'], rest);
else {
	if (wanted !== 'polls') bundled('run', ['--expose-gc'], wanted === 'run' ? rest : []);
	if (wanted !== 'run') bundled('polls', [], wanted === 'polls' ? rest : []);
}
