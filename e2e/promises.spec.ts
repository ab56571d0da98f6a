import { execFile } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { PICTURES, expect, test } from './test';
import {
	fitGraph,
	evaluated,
	foot,
	openSample,
	select,
	setNumber,
	setting,
	settled,
	toLibrary
} from './helpers';

test.use({ together: true });

const folder = mkdtempSync(join(tmpdir(), 'embrell-promises-'));

/** The hashes of a sample's results at a seed and the next one, as the command line makes them, in Node. */
async function hashesInNode(file: string, seed: number): Promise<string[]> {
	const { stdout } = await promisify(execFile)(
		process.execPath,
		[
			...['bin/embrell.mjs', 'export', `samples/${file}`, '--out', join(folder, `${file}.glb`)],
			...['--seed', `${seed}..${seed + 1}`, '--json']
		],
		{ maxBuffer: 1e8 }
	);
	return stdout
		.trim()
		.split('\n')
		.map((line) => (JSON.parse(line) as { hash: string }).hash);
}

/** Samples by name, and the files of those whose hashes are compared. */
const SAMPLES: readonly (readonly [name: string, file?: string])[] = [
	['Reed bed', 'reed-bed.embrell.json'],
	['Boardwalk', 'boardwalk.embrell.json'],
	['Rope rail', 'rope-rail.embrell.json'],
	['Worn bollard', 'worn-bollard.embrell.json'],
	['Drying net', 'drying-net.embrell.json'],
	['Glasswort', 'glasswort.embrell.json'],
	['Mangrove', 'mangrove.embrell.json'],
	['Shingled roof', 'shingled-roof.embrell.json'],
	['Painted sign', 'painted-sign.embrell.zip'],
	['Drying rack'],
	['Float line'],
	['Lantern post'],
	['Lantern string'],
	['Oyster plots'],
	['Sea lavender'],
	['Sedge tussock'],
	['Shell drift'],
	['Stilt platform'],
	['Thatch that lays itself'],
	['Tide organ']
];

test('the Library shows these samples, and no others', async ({ page }) => {
	await toLibrary(page);
	const cards = page.getByRole('region', { name: 'Samples' }).getByRole('button', { name: /^Open / });
	const names = await cards.evaluateAll((all) => all.map((one) => one.getAttribute('aria-label')!.slice(5)));
	expect(names.sort()).toEqual(SAMPLES.map(([name]) => name).sort());
});

for (const [name, file] of SAMPLES)
	test(`${name} opens and shows its result${file ? ', with the same hash in the browser and in Node' : ''}`, async ({
		page
	}) => {
		await openSample(page, name);
		await expect(page.getByTestId('size')).toContainText(' m');
		await expect(page.getByText(/without an owner|fault of ours/)).toBeHidden();
		if (!file) return;
		const field = page.getByRole('spinbutton', { name: 'Seed' }).first();
		const seed = Number(await field.inputValue());
		const [own, next] = await hashesInNode(file, seed);
		await expect(page.locator('[data-hash]')).toHaveAttribute('data-hash', own);
		await evaluated(page, async () => {
			await field.fill(String(seed + 1));
			await page.keyboard.press('Enter');
		});
		await expect(page.locator('[data-hash]')).toHaveAttribute('data-hash', next);
		// There and back makes the hash anew from a warm cache.
		await page.keyboard.press('Tab');
		await evaluated(page, () => page.getByRole('button', { name: /^Undo/ }).click());
		await expect(page.locator('[data-hash]')).toHaveAttribute('data-hash', own);
	});

test('the first visit loads at most 450 kB of compressed script before the Library stands', async ({
	page
}) => {
	// What Build needs is fetched afterwards, while the Library is looked at: the page itself says when it stood.
	await page.addInitScript(() => {
		const looks = new MutationObserver(() => {
			if (!document.querySelector('section[aria-label="Samples"] button')) return;
			performance.mark('stands');
			looks.disconnect();
		});
		looks.observe(document, { childList: true, subtree: true });
	});
	await page.goto('/');
	await expect(page.getByRole('button', { name: 'Open Boardwalk' })).toBeVisible();
	const bytes = await page.evaluate(() => {
		const [{ startTime: stood }] = performance.getEntriesByName('stands');
		const scripts = performance.getEntriesByType('resource') as PerformanceResourceTiming[];
		return scripts
			.filter(({ name, startTime }) => /\.js(\?|$)/.test(name) && startTime < stood)
			.reduce((sum, { encodedBodySize }) => sum + encodedBodySize, 0);
	});
	console.log(`first visit: ${Math.round(bytes / 1000)} kB of compressed script`);
	expect(bytes).toBeGreaterThan(10_000);
	expect(bytes).toBeLessThan(450_000);
});

test(
	'while a setting is dragged on 20,000 reeds, pictures follow, and the drag is one step of undo',
	{ tag: PICTURES },
	async ({ page }) => {
		// Without a graphics card a picture of 20,000 reeds takes most of a second. How long scripts took is printed, not
		// asserted: no test is timed.
		await page.setViewportSize({ width: 1100, height: 560 });
		await openSample(page, 'Reed bed');
		await select(page, 'sowing');
		await setNumber(page, 'Minimum distance', '0');
		await setNumber(page, 'Density', '500');
		await expect(foot(page, 'sowing')).toHaveText(/^(19|2\d),\d+ points/);
		await fitGraph(page);
		await select(page, 'reeds');
		const field = setting(page, 'Offset y');
		await field.scrollIntoViewIfNeeded();
		const box = (await field.boundingBox())!;
		// Long tasks of script only: frames in which the software renderer draws are no work of ours, so scripts are read from
		// the browser's own attribution of long animation frames.
		// The picture that selecting draws comes first: it compiles shaders.
		await page.evaluate(
			() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)))
		);
		await page.evaluate(() => {
			const found = { scripts: [] as number[] };
			(window as unknown as { found: typeof found }).found = found;
			new PerformanceObserver((list) => {
				for (const entry of list.getEntries() as (PerformanceEntry & {
					scripts: { duration: number; invokerType: string; invoker: string }[];
				})[])
					for (const script of entry.scripts) found.scripts.push(Math.round(script.duration));
			}).observe({ type: 'long-animation-frame' });
		});
		const count = () =>
			page.evaluate(() => (window as unknown as { embrellView: { pictures: number } }).embrellView.pictures);
		const before = await count();
		const evaluations = Number(await page.locator('[data-evaluations]').getAttribute('data-evaluations'));
		await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
		await page.mouse.down();
		for (let i = 1; i <= 12; i++) {
			await page.mouse.move(box.x + box.width / 2 + 8 * i, box.y + box.height / 2);
			await page.evaluate(() => new Promise((done) => requestAnimationFrame(done)));
		}
		await page.mouse.up();
		await settled(page);
		const scripts = await page.evaluate(
			() => (window as unknown as { found: { scripts: number[] } }).found.scripts
		);
		const pictures = (await count()) - before;
		const finished =
			Number(await page.locator('[data-evaluations]').getAttribute('data-evaluations')) - evaluations;
		console.log(
			`drag of 12 steps: ${pictures} pictures, ${finished} evaluations, long scripts: ${scripts.join(', ') || 'none'}`
		);
		expect(finished).toBeGreaterThan(3);
		expect(pictures).toBeGreaterThan(3);
		await expect(setting(page, 'Offset y')).not.toHaveValue('0 m');
		await page.getByRole('button', { name: /^Undo: Change Offset/ }).click();
		await expect(setting(page, 'Offset y')).toHaveValue('0 m');
	}
);
