/**
 * Bundles unit tests into `.tests/`, so that a process that runs them starts in a moment: what they share lies in pieces that
 * are read once. A loader that compiles as it goes took 2.1 s of a processor for each file before its first line, this takes
 * 3 s for all 145 files together.
 */
import { readFile } from 'node:fs/promises';
import { rmSync } from 'node:fs';
import { build } from 'esbuild';
import { compile, compileModule } from 'svelte/compiler';
import { FOLDER } from './names.mjs';

/** Files with runes go through Svelte's compiler, as in the application. */
const runes = {
	name: 'runes',
	setup({ onLoad, esbuild }) {
		onLoad({ filter: /\.svelte\.[jt]s$/ }, async ({ path }) => {
			const text = await readFile(path, 'utf8');
			const { code } = await esbuild.transform(text, { loader: 'ts', target: 'es2022', sourcefile: path });
			return {
				contents: compileModule(code, { filename: path, generate: 'client' }).js.code,
				loader: 'js'
			};
		});
		// Packages bring components with them, such as the list of notices.
		onLoad({ filter: /\.svelte$/ }, async ({ path }) => {
			const { js } = compile(await readFile(path, 'utf8'), {
				filename: path,
				generate: 'client',
				css: 'external'
			});
			return { contents: js.code, loader: 'ts' };
		});
	}
};

/** @param {readonly string[]} files tests and programs that they start, from the project's root */
export async function bundleUnits(files) {
	rmSync(FOLDER, { recursive: true, force: true });
	await build({
		entryPoints: [...files],
		outdir: FOLDER,
		outbase: '.',
		outExtension: { '.js': '.mjs' },
		bundle: true,
		splitting: true,
		format: 'esm',
		platform: 'node',
		target: 'node20',
		// Svelte's own modules come as the browser gets them: effects run.
		conditions: ['browser', 'svelte'],
		// What is built is tested as it is built.
		external: ['../build/handler.js'],
		alias: { $core: './core', $lib: './src/lib', $samples: './samples' },
		// Packages in the older form of modules ask for others as they run.
		banner: {
			js: "import { createRequire as requireOf } from 'node:module';\nconst require = requireOf(import.meta.url);"
		},
		plugins: [runes],
		sourcemap: 'linked',
		logLevel: 'error'
	});
}
