#!/usr/bin/env node
// Runs the command line that was bundled when the application was built.
import { existsSync } from 'node:fs';

const bundle = new URL('../build/embrell.mjs', import.meta.url);

// Whoever reads the output may have seen enough, as `head` has.
process.stdout.on('error', (error) => {
	if (error.code === 'EPIPE') process.exit();
	throw error;
});

if (existsSync(bundle)) {
	const { main } = await import(bundle.href);
	process.exitCode = main(process.argv.slice(2));
} else {
	console.error('The command line is not built yet: run “npm run build” once.');
	process.exitCode = 2;
}
