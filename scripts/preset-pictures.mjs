// Takes the pictures of the samples' presets and kept variations from the built application:
// npx vite build && node scripts/preset-pictures.mjs [Drying rack …]
import { existsSync, writeFileSync } from 'node:fs';
import { chromium } from '@playwright/test';
import { zipSync } from 'fflate';
import { serve } from './server.mjs';
import { chromium as executablePath } from './setup.mjs';

const { server, port } = await serve(4399, '127.0.0.1');
const browser = await chromium.launch({
	executablePath,
	args: ['--no-sandbox', '--use-angle=swiftshader', '--enable-unsafe-swiftshader']
});
const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
const only = process.argv.slice(2);

const evaluated = async (act) => {
	const before = await page.locator('[data-evaluations]').getAttribute('data-evaluations');
	await act();
	await page.waitForFunction(
		(count) => {
			const screen = document.querySelector('[data-evaluations]');
			return screen.dataset.evaluations !== count && screen.dataset.working === 'false';
		},
		before,
		{ timeout: 120_000 }
	);
};

await page.goto(`http://127.0.0.1:${port}/`);
await page
	.getByRole('button', { name: /^Open / })
	.first()
	.waitFor();
const names = await page
	.getByRole('button', { name: /^Open / })
	.evaluateAll((cards) => cards.map((card) => card.getAttribute('aria-label').slice('Open '.length)));
for (const name of names) {
	if (only.length && !only.includes(name)) continue;
	await page.goto(`http://127.0.0.1:${port}/`);
	await page.getByRole('button', { name: `Open ${name}` }).click();
	await page.waitForURL(/build/);
	await page.waitForFunction(
		() => Number(document.querySelector('[data-evaluations]')?.dataset.evaluations) > 0
	);
	const pictures = {};
	for (const [region, kind] of [
		['Presets', 'preset'],
		['Kept variations', 'kept']
	]) {
		const cards = page.getByRole('region', { name: region }).getByRole('button', { name: /^Use / });
		const labels = await cards.evaluateAll((all) => all.map((one) => one.getAttribute('aria-label')));
		for (const [i, label] of labels.entries()) {
			const card = page.getByRole('region', { name: region }).getByRole('button', { name: label });
			// The one that stands already would change nothing.
			if ((await card.getAttribute('aria-pressed')) !== 'true') await evaluated(() => card.click());
			const bytes = await page.evaluate(async () => {
				const blob = await window.embrellView.picture({
					...{ width: 240, height: 156, fitted: true, transparent: true, type: 'image/webp', samples: 32 }
				});
				return Array.from(new Uint8Array(await blob.arrayBuffer()));
			});
			pictures[`${kind}${i + 1}.webp`] = Uint8Array.from(bytes);
		}
	}
	// A sample's file is called by its name, or by the first word of it.
	const plain = name.toLowerCase().replace(/[^a-z]+/g, '-');
	const file =
		existsSync(`samples/${plain}.embrell.json`) || existsSync(`samples/${plain}.embrell.zip`)
			? plain
			: plain.split('-')[0];
	writeFileSync(
		`static/samples/${file}-presets.zip`,
		zipSync(pictures, { level: 0, mtime: new Date(2000, 0, 1) })
	);
	console.log(name, Object.keys(pictures).length);
}
await browser.close();
server.close();
process.exit(0);
