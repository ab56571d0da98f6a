// Loads the bundled command line, with what the engine made of it at the last build where that is still good.
import { existsSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { fileURLToPath } from 'node:url';
import { Script } from 'node:vm';

export const CLI_BUNDLE = fileURLToPath(new URL('../build/embrell.cjs', import.meta.url));
export const CLI_COMPILED = `${CLI_BUNDLE}.bin`;

/** The command line’s `main`, and a function that gives what the engine made of the script. */
export function loadCli() {
	const source = readFileSync(CLI_BUNDLE, 'utf8');
	const script = new Script(`(function (module, exports, require) {${source}\n})`, {
		filename: CLI_BUNDLE,
		// Made by another Node it is refused, and the script is read as usual.
		...(existsSync(CLI_COMPILED) && { cachedData: readFileSync(CLI_COMPILED) })
	});
	const module = { exports: {} };
	script.runInThisContext()(module, module.exports, createRequire(CLI_BUNDLE));
	return { main: module.exports.main, compiled: () => script.createCachedData() };
}
