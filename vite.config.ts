import { sveltekit } from '@sveltejs/kit/vite';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'vite';
import type { Plugin } from 'vite';
import { bundleCli } from './scripts/bundle-cli.mjs';

// With these a page may use shared memory, so that columns reach it uncopied.
const headers = {
	'Cross-Origin-Opener-Policy': 'same-origin',
	'Cross-Origin-Embedder-Policy': 'require-corp'
};

/** The command line is bundled beside the application, once the adapter has cleared its folder. */
const commandLine: Plugin = {
	name: 'command-line',
	apply: 'build',
	enforce: 'post',
	closeBundle: { order: 'post', sequential: true, handler: async () => void (await bundleCli()) }
};

/** Pages are drawn in the browser (`ssr = false`), so that the server needs none of their components: half of the build. */
const drawnInBrowser: Plugin = {
	name: 'drawn-in-browser',
	apply: 'build',
	enforce: 'pre',
	load: (id, options) => (options?.ssr && /\/src\/.*\.svelte$/.test(id) ? '' : null)
};

export default defineConfig({
	plugins: [drawnInBrowser, tailwindcss(), sveltekit(), commandLine],
	worker: { format: 'es' },
	server: { headers },
	preview: { headers },
	build: { chunkSizeWarningLimit: 2000, assetsInlineLimit: 0 }
});
