// Compiles core/wasm/assembly into core/wasm/binaries.ts. Run by hand when the sources change; a test compiles again and
// compares.
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const MODULES = ['formulas', 'sowing', 'nearest'];

/** The bytes of a module, compiled from its source. */
export function compile(name) {
	const folder = mkdtempSync(join(tmpdir(), 'embrell-wasm-'));
	const out = join(folder, 'out.wasm');
	execFileSync('node_modules/.bin/asc', [
		`core/wasm/assembly/${name}.ts`,
		`--outFile=${out}`,
		'-O3',
		'--enable=simd',
		'--runtime=stub',
		'--noAssert',
		'--importMemory'
	]);
	const bytes = readFileSync(out);
	rmSync(folder, { recursive: true });
	return bytes;
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
	const constants = MODULES.map(
		(name) => `export const ${name.toUpperCase()} =\n\t'${compile(name).toString('base64')}';\n`
	);
	writeFileSync(
		'core/wasm/binaries.ts',
		`/** Compiled from ./assembly by scripts/make-wasm.mjs, in base64. Not written by hand. */\n${constants.join('\n')}`
	);
}
