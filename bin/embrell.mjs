#!/usr/bin/env node
// Runs the command line that was bundled when the application was built: in a thread, so that a file that was made to hang
// or to fill the memory ends with a sentence.
import { existsSync } from 'node:fs';
import { CLI_BUNDLE } from './load.mjs';
import { runWatched } from './watch.mjs';

// Whoever reads the output may have seen enough, as `head` has.
process.stdout.on('error', (error) => {
	if (error.code === 'EPIPE') process.exit();
	throw error;
});

if (existsSync(CLI_BUNDLE)) {
	const { code, told } = await runWatched(new URL('./run.mjs', import.meta.url), process.argv.slice(2), {
		silentFor: 10,
		mostMemory: 4096
	});
	if (told) console.error(told);
	process.exitCode = code;
} else {
	console.error('The command line is not built yet: run “npm run build” once.');
	process.exitCode = 2;
}
