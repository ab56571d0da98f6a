// Compiles core/wasm/assembly into core/wasm/binaries.ts. Run by hand when the sources change: a test compares what they were
// compiled from, and under EMBRELL_THOROUGH=1 compiles again.
import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const MODULES = ['formulas', 'sowing', 'nearest'];

const SOURCES = 'core/wasm/assembly';

/** What binaries are made of, as a hash: the sources, this script with its options, and the compiler. */
export function madeFrom() {
	const hash = createHash('sha256');
	for (const file of readdirSync(SOURCES).sort()) hash.update(file).update(readFileSync(join(SOURCES, file)));
	hash.update(readFileSync('scripts/make-wasm.mjs'));
	hash.update(JSON.parse(readFileSync('node_modules/assemblyscript/package.json', 'utf8')).version);
	return hash.digest('hex');
}

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
		`/** Compiled from ./assembly by scripts/make-wasm.mjs, in base64. Not written by hand. */\n${constants.join('\n')}\nexport const MADE_FROM = '${madeFrom()}';\n`
	);
}
