import { defineConfig } from '@playwright/test';
import { freePort } from './scripts/free-port.mjs';
import { chromium } from './scripts/setup.mjs';

// The workers of a run read this file too, and must find the port that the first one chose.
const port = (process.env.EMBRELL_TEST_PORT ??= String(await freePort(4399)));

export default defineConfig({
	testDir: 'e2e',
	// A shared machine may give its processors to others for a while: a state is waited for as long as it may take then.
	timeout: 240_000,
	expect: { timeout: 40_000 },
	workers: Number(process.env.EMBRELL_BROWSERS ?? 1),
	// On a machine whose processors work for others as well a page can stall for a minute; a test that needs its second go is named.
	retries: process.env.CI ? 1 : 0,
	reporter: process.env.PLAYWRIGHT_JSON_OUTPUT_FILE ? [['line'], ['json']] : [['list']],
	use: {
		baseURL: `http://127.0.0.1:${port}`,
		actionTimeout: 60_000,
		viewport: { width: 1280, height: 800 },
		contextOptions: { reducedMotion: 'reduce' },
		// A processor draws here: pictures stay plain where a test is not about them (see light.spec.ts).
		storageState: {
			cookies: [],
			origins: [
				{ origin: `http://127.0.0.1:${port}`, localStorage: [{ name: 'embrell-refine', value: 'off' }] }
			]
		},
		launchOptions: {
			executablePath: chromium,
			args: [
				'--no-sandbox',
				'--use-angle=swiftshader',
				'--enable-unsafe-swiftshader',
				// The page itself is put together without the emulated card, in half the time.
				'--disable-gpu-compositing',
				'--disable-gpu-rasterization',
				'--no-first-run',
				'--disable-background-networking',
				'--disable-component-update',
				'--disable-sync',
				'--disable-quic'
			]
		}
	},
	projects: [
		{ name: 'logic', grepInvert: /@pictures/, use: { drawn: false } },
		{ name: 'pictures', grep: /@pictures/ }
	],
	webServer: {
		command: 'node scripts/server.mjs',
		env: { PORT: port },
		url: `http://127.0.0.1:${port}/api/health`,
		reuseExistingServer: false
	}
});
