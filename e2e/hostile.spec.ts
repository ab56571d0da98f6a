/** Strangers' files in the browser: nothing hangs the page, nothing runs, and the next file is read. */
import { expect, test } from './test';
import type { Page } from '@playwright/test';
import { zipSync } from 'fflate';
import { addNode, foot, openEmpty } from './helpers';

test.use({ together: true });

const GENERATORS = 'Generator files';
const give = (page: Page, label: string, name: string, bytes: Uint8Array | string) =>
	page.getByLabel(label).setInputFiles({
		name,
		mimeType: 'application/octet-stream',
		buffer: Buffer.from(bytes as string)
	});
const sound = (name: string) =>
	JSON.stringify({
		format: 'embrell',
		version: 3,
		name,
		graphs: { main: { nodes: [], wires: [], notes: [] } }
	});
/** The longest that the page stood still while something was done, milliseconds. */
async function stoodStill(page: Page, act: () => Promise<unknown>): Promise<number> {
	await page.evaluate(() => {
		const w = window as unknown as { longest: number; last: number; watching: boolean };
		[w.longest, w.last, w.watching] = [0, performance.now(), true];
		const look = () => {
			const now = performance.now();
			w.longest = Math.max(w.longest, now - w.last);
			w.last = now;
			if (w.watching) setTimeout(look);
		};
		look();
	});
	await act();
	return page.evaluate(() => {
		const w = window as unknown as { longest: number; watching: boolean };
		w.watching = false;
		return w.longest;
	});
}
const readers = (page: Page): number =>
	page.workers().filter((worker) => worker.url().includes('reading')).length;

test('archives that swell and generators of nothing but faults end with a sentence, while the page goes on', async ({
	page
}) => {
	await page.goto('/');
	await give(page, GENERATORS, 'first.embrell.json', sound('Plain shed'));
	await expect(page.getByText('“Plain shed” was imported.')).toBeVisible();
	const swelling = zipSync({ 'document.json': new Uint8Array(60e6) });
	const still = await stoodStill(page, async () => {
		await give(page, GENERATORS, 'swelling.embrell.zip', swelling);
		await expect(
			page.getByText(/^swelling\.embrell\.zip has \d+ kB and unpacks to more than 20 MB\./)
		).toBeVisible();
	});
	// A processor draws in place of a graphics card; what was read on the page took forty seconds.
	expect(still).toBeLessThan(1500);
	const node = (n: number) => ({
		...{ id: `n${n}`, kind: 'box', short: `n${n}`, at: [0, 0], stream: 's' },
		settings: Object.fromEntries(Array.from({ length: 400 }, (_, i) => [`wrong${i}`, { formula: i }]))
	});
	const nodes = Array.from({ length: 700 }, (_, n) => node(n));
	const bad = JSON.stringify({
		...{ format: 'embrell', version: 3, name: 'Bad' },
		graphs: { main: { nodes, wires: [], notes: [] } }
	});
	await give(page, GENERATORS, 'faults.embrell.json', bad);
	await expect(page.getByText(/^faults\.embrell\.json: .*things in this file are wrong/)).toBeVisible();
	await give(page, GENERATORS, 'next.embrell.json', sound('Next shed'));
	await expect(page.getByText('“Next shed” was imported.')).toBeVisible();
	expect(readers(page)).toBe(0);
});

test('a large mesh says that it is read, can be stopped, and its reader ends when the page is left', async ({
	page
}) => {
	await openEmpty(page);
	await addNode(page, 'import mesh');
	const choose = () =>
		page.getByLabel('File', { exact: true }).evaluate((input: HTMLInputElement) => {
			const lines: string[] = [];
			for (let i = 0; i < 900_000; i++) lines.push(`v ${i % 1000} ${i / 7} ${i % 13}`);
			for (let i = 1; i < 900_000 - 2; i++) lines.push(`f ${i} ${i + 1} ${i + 2}`);
			const files = new DataTransfer();
			files.items.add(new File([lines.join('\n')], 'breakwater.obj'));
			input.files = files.files;
			input.dispatchEvent(new Event('change', { bubbles: true }));
		});
	await choose();
	await expect(page.getByText('breakwater.obj is being read …')).toBeVisible();
	await page.getByRole('button', { name: 'Stop', exact: true }).click();
	await expect(page.getByText('The reading of breakwater.obj was stopped.')).toBeVisible();
	await expect(page.getByText('breakwater.obj is being read …')).toHaveCount(0);
	await expect(foot(page, 'importMesh')).not.toHaveText(/face/);
	await expect.poll(() => readers(page)).toBe(0);
	await choose();
	await expect(page.getByText('breakwater.obj is being read …')).toBeVisible();
	await page.getByRole('link', { name: 'Library' }).click();
	await page.waitForURL(/\/$/);
	await expect.poll(() => readers(page)).toBe(0);
	await expect(page.getByText('breakwater.obj is being read …')).toHaveCount(0);
});

test('markup in names, notes, attributes, materials and files is text wherever it is shown', async ({
	page
}) => {
	const markup = '<img src=x onerror="window.ran=1"><b>reed</b>';
	const text = (short: string, kind: string, settings: object, at: number) => ({
		id: short,
		kind,
		short,
		at: [at, 100],
		stream: short,
		settings
	});
	const document = {
		format: 'embrell',
		version: 3,
		name: markup,
		graphs: {
			main: {
				nodes: [
					text('box', 'box', {}, 0),
					text('red', 'material', { name: markup }, 200),
					text('wet', 'write-attribute', { name: markup }, 400),
					text('result', 'result', {}, 600)
				],
				wires: [
					{ from: ['box', 'mesh'], to: ['red', 'geometry'] },
					{ from: ['red', 'geometry'], to: ['wet', 'geometry'] },
					{ from: ['wet', 'geometry'], to: ['result', 'geometry'] }
				],
				notes: [{ id: 'n', text: markup, at: [0, 0], width: 300 }]
			}
		}
	};
	await page.goto('/');
	await give(
		page,
		GENERATORS,
		`${markup.replaceAll('"', '').replaceAll('/', '')}.embrell.json`,
		JSON.stringify(document)
	);
	const close = page.getByRole('button', { name: /^Close/ });
	await expect(page.getByText(markup).first()).toBeVisible();
	if (await page.getByRole('dialog').isVisible()) await close.click();
	await page.getByRole('link', { name: /^Open <img/ }).click();
	await page.waitForURL(/build/);
	await expect(page.getByRole('textbox', { name: 'Name of the generator' })).toHaveValue(markup);
	await expect(page.getByText(markup).first()).toBeVisible();
	await page.getByRole('button', { name: 'Data', exact: true }).click();
	await page.getByRole('button', { name: 'Export', exact: true }).click();
	await expect(page.getByRole('dialog')).toBeVisible();
	expect(await page.evaluate(() => (window as { ran?: number }).ran)).toBeUndefined();
	expect(await page.locator('img[src="x"]').count()).toBe(0);
});
