/** Dress, as a modeler uses a generator that somebody else has made. */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { expect, test } from '@playwright/test';
import { evaluated, openSample, settled } from './helpers';

const folder = mkdtempSync(join(tmpdir(), 'embrell-dress-'));
const presets = (page: Page) => page.getByRole('region', { name: 'Presets' });
const kept = (page: Page) => page.getByRole('region', { name: 'Kept variations' });
const hash = (page: Page) => page.locator('[data-hash]').getAttribute('data-hash');

async function toDress(page: Page, sample: string): Promise<void> {
	await openSample(page, sample);
	await page.getByRole('link', { name: 'Dress' }).click();
	await page.waitForURL(/\/dress\//);
	await settled(page);
}

test('a preset, a variation and a curve of one’s own; what is exported equals what the command line makes', async ({
	page
}) => {
	await toDress(page, 'Drying rack');
	await evaluated(page, () => kept(page).getByRole('button', { name: 'Take Before the rain' }).click());
	await expect(page.getByRole('spinbutton', { name: 'Seed' })).toHaveValue('52');
	await evaluated(page, () => presets(page).getByRole('button', { name: 'Take Low and wide' }).click());
	await expect(page.getByRole('spinbutton', { name: 'Crossbars, as a number' })).toHaveValue('3');
	await evaluated(page, () => page.getByRole('slider', { name: 'Crossbars' }).fill('5'));
	await expect(presets(page)).toContainText('Changed since “Low and wide”: Crossbars');
	await evaluated(page, () => presets(page).getByRole('button', { name: 'Revert' }).click());
	await expect(presets(page)).not.toContainText('Changed since');
	const svg = join(folder, 'pier.svg');
	writeFileSync(
		svg,
		'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 600 200"><path d="M0 0 L300 40 L600 0" fill="none" stroke="black"/></svg>'
	);
	const before = await hash(page);
	await evaluated(page, () => page.getByLabel('File for Path').setInputFiles(svg));
	await expect(page.getByText('pier.svg')).toBeVisible();
	expect(await hash(page)).not.toBe(before);
	await page.getByRole('button', { name: 'Export', exact: true }).click();
	const [download] = await Promise.all([
		page.waitForEvent('download'),
		page.getByRole('button', { name: 'Export GLB' }).click()
	]);
	const out = join(folder, 'rack.glb');
	const made = spawnSync(
		process.execPath,
		[
			...['bin/embrell.mjs', 'export', 'samples/drying-rack.embrell.json', '--out', out, '--json'],
			...['--preset', 'Low and wide', '--seed', '52', '--slot', `Path=${svg}`]
		],
		{ encoding: 'utf8' }
	);
	expect(made.stderr).toBe('');
	expect((JSON.parse(made.stdout) as { hash: string }).hash).toBe(await hash(page));
	expect(readFileSync(await download.path()).equals(readFileSync(out)), 'the files are the same').toBe(true);
});

test('a curve is drawn in the slot’s place; the generator stays as it is, and the placement is there again', async ({
	page
}) => {
	await toDress(page, 'Drying rack');
	await evaluated(page, () => page.getByRole('slider', { name: 'Height' }).fill('3'));
	await page.getByRole('button', { name: 'Draw', exact: true }).click();
	const before = await page.getByTestId('size').textContent();
	const points = page.getByRole('button', { name: /^Point \d/ });
	await expect(points.first()).toBeVisible();
	await points.first().focus();
	await evaluated(page, () => page.keyboard.press('Shift+ArrowLeft'));
	await expect(page.getByTestId('size')).not.toHaveText(before!);
	const drawn = await page.getByTestId('size').textContent();
	await page.getByRole('button', { name: 'Done', exact: true }).click();
	await page.getByRole('textbox', { name: 'Name of the placement' }).fill('By the pier');
	await page.keyboard.press('Enter');
	await expect(page.getByTestId('saved')).toHaveText('Saved');
	await page.reload();
	await settled(page);
	await expect(page.getByRole('textbox', { name: 'Name of the placement' })).toHaveValue('By the pier');
	await expect(page.getByTestId('size')).toHaveText(drawn!);
	await expect(page.getByRole('spinbutton', { name: 'Height, as a number' })).toHaveValue('3 m');
	// A second placement begins as the generator is; undo works in each.
	await page.getByRole('button', { name: 'Add one' }).click();
	await settled(page);
	await expect(page.getByRole('spinbutton', { name: 'Height, as a number' })).toHaveValue('2.3 m');
	await evaluated(page, () => page.getByRole('slider', { name: 'Height' }).fill('4'));
	await evaluated(page, () => page.getByRole('button', { name: /^Undo/ }).click());
	await expect(page.getByRole('spinbutton', { name: 'Height, as a number' })).toHaveValue('2.3 m');
	await page.getByRole('link', { name: 'Build' }).click();
	await page.waitForURL(/\/build\//);
	await settled(page);
	await expect(page.getByRole('spinbutton', { name: 'Height, as a number' })).toHaveValue('2.3 m');
});

test('a file that is none of a slot’s is told of, and nothing changes', async ({ page }) => {
	await toDress(page, 'Drying rack');
	const before = await hash(page);
	await page.getByLabel('File for Path').setInputFiles({
		name: 'post.obj',
		mimeType: 'text/plain',
		buffer: Buffer.from('v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n')
	});
	await expect(page.getByText('The slot “Path” takes a curve; Import mesh is none.')).toBeVisible();
	expect(await hash(page)).toBe(before);
});

test('a specimen sheet comes picture by picture, is stopped at once, and a variation is taken and kept', async ({
	page
}) => {
	await toDress(page, 'Sea lavender');
	await page.getByRole('button', { name: 'Specimen sheet', exact: true }).click();
	const sheet = page.getByRole('region', { name: 'Specimen sheet' });
	await expect(sheet.getByRole('listitem')).toHaveCount(24);
	await expect(sheet.getByRole('listitem').nth(1).locator('img')).toBeVisible({ timeout: 30_000 });
	await sheet.getByRole('button', { name: 'Stop' }).click();
	await expect(sheet.getByRole('button', { name: 'Draw it' })).toBeVisible();
	await evaluated(page, () => sheet.getByRole('button', { name: 'Take Seed 5' }).click());
	await expect(page.getByRole('spinbutton', { name: 'Seed' })).toHaveValue('5');
	await sheet.getByRole('button', { name: 'Keep Seed 5' }).click();
	await expect(kept(page).getByRole('button', { name: 'Take Seed 5' })).toBeVisible();
	// One dial at listed values, each with its own place.
	await sheet.getByLabel('What varies').click();
	await page.getByRole('option', { name: 'One dial, at values' }).click();
	await sheet.getByRole('textbox', { name: 'Its values' }).fill('1, 3');
	await sheet.getByRole('button', { name: 'Draw it' }).click();
	await expect(sheet.getByRole('listitem')).toHaveCount(2);
	await expect(sheet.getByText('Plants 3')).toBeVisible();
	await expect(sheet.getByRole('status')).toHaveText('2 drawn', { timeout: 30_000 });
	await evaluated(page, () => sheet.getByRole('button', { name: 'Take Plants 3' }).click());
	await expect(page.getByRole('spinbutton', { name: 'Plants, as a number' })).toHaveValue('3');
});
