// Bundles the command line into build/: it then needs Node alone. What the engine makes of the script is kept beside it, so
// that a start does not read 1.5 MB of script anew (0.10 of 0.25 s).
import { writeFileSync } from 'node:fs';
import { build } from 'esbuild';
import { CLI_BUNDLE, CLI_COMPILED, loadCli } from '../bin/load.mjs';

export async function bundleCli() {
	await build({
		entryPoints: ['cli/embrell.ts'],
		outfile: CLI_BUNDLE,
		bundle: true,
		platform: 'node',
		format: 'cjs',
		target: 'node20',
		minifySyntax: true,
		minifyWhitespace: true,
		legalComments: 'none',
		logLevel: 'error'
	});
	const { main, compiled } = loadCli();
	// What a usual start runs is compiled too.
	const { log } = console;
	console.log = () => {};
	main(['check', 'samples/reed-bed.embrell.json']);
	console.log = log;
	writeFileSync(CLI_COMPILED, compiled());
}
