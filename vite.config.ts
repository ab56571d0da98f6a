import { sveltekit } from '@sveltejs/kit/vite';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'vite';

// With these a page may use shared memory, so that columns reach it uncopied.
const headers = {
	'Cross-Origin-Opener-Policy': 'same-origin',
	'Cross-Origin-Embedder-Policy': 'require-corp'
};

export default defineConfig({
	plugins: [tailwindcss(), sveltekit()],
	worker: { format: 'es' },
	server: { headers },
	preview: { headers },
	build: { chunkSizeWarningLimit: 2000, assetsInlineLimit: 0 }
});
