#!/usr/bin/env node
// Runs the command line from its TypeScript source; tsx comes with the project's packages.
import { tsImport } from 'tsx/esm/api';

// Whoever reads the output may have seen enough, as `head` has.
process.stdout.on('error', (error) => {
	if (error.code === 'EPIPE') process.exit();
	throw error;
});

const { main } = await tsImport('../cli/embrell.ts', import.meta.url);
process.exitCode = main(process.argv.slice(2));
