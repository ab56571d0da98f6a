#!/usr/bin/env node
// Runs the command line that was bundled when the application was built.
import { existsSync } from 'node:fs';
import { CLI_BUNDLE, loadCli } from './load.mjs';

// Whoever reads the output may have seen enough, as `head` has.
process.stdout.on('error', (error) => {
	if (error.code === 'EPIPE') process.exit();
	throw error;
});

if (existsSync(CLI_BUNDLE)) process.exitCode = loadCli().main(process.argv.slice(2));
else {
	console.error('The command line is not built yet: run “npm run build” once.');
	process.exitCode = 2;
}
