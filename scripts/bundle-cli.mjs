// Bundles the command line into build/: it then needs Node alone, and starts without translating anything.
import { build } from 'esbuild';

export const CLI_BUNDLE = 'build/embrell.mjs';

export const bundleCli = () =>
	build({
		entryPoints: ['cli/embrell.ts'],
		outfile: CLI_BUNDLE,
		bundle: true,
		platform: 'node',
		format: 'esm',
		target: 'node20',
		minifySyntax: true,
		minifyWhitespace: true,
		legalComments: 'none',
		logLevel: 'error'
	});
