/** Dress, as a modeler uses a generator that somebody else has made. */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { expect, test } from './test';
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
	await evaluated(page, () => kept(page).getByRole('button', { name: 'Use Before the rain' }).click());
	await expect(page.getByRole('spinbutton', { name: 'Seed' })).toHaveValue('52');
	await evaluated(page, () => presets(page).getByRole('button', { name: 'Use Low and sparse' }).click());
	await expect(page.getByRole('spinbutton', { name: 'Skins to a bar, as a number' })).toHaveValue('9');
	await evaluated(page, () => page.getByRole('slider', { name: 'Skins to a bar' }).fill('5'));
	await expect(presets(page)).toContainText('Changed since “Low and sparse”: Skins to a bar');
	await evaluated(page, () => presets(page).getByRole('button', { name: 'Reset', exact: true }).click());
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
			...['--preset', 'Low and sparse', '--seed', '52', '--slot', `Path=${svg}`]
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
	await evaluated(page, () => page.getByRole('slider', { name: 'Height of the trestles' }).fill('3'));
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
	await expect(page.getByRole('spinbutton', { name: 'Height of the trestles, as a number' })).toHaveValue(
		'3 m'
	);
	// A second placement begins as the generator is; undo works in each.
	await page.getByRole('button', { name: 'Add one' }).click();
	await settled(page);
	await expect(page.getByRole('spinbutton', { name: 'Height of the trestles, as a number' })).toHaveValue(
		'2.3 m'
	);
	await evaluated(page, () => page.getByRole('slider', { name: 'Height of the trestles' }).fill('4'));
	await evaluated(page, () => page.getByRole('button', { name: /^Undo/ }).click());
	await expect(page.getByRole('spinbutton', { name: 'Height of the trestles, as a number' })).toHaveValue(
		'2.3 m'
	);
	await page.getByRole('link', { name: 'Build' }).click();
	await page.waitForURL(/\/build\//);
	await settled(page);
	await expect(page.getByRole('spinbutton', { name: 'Height of the trestles, as a number' })).toHaveValue(
		'2.3 m'
	);
});

test('a file that is none of a slot’s is told of, and nothing changes', async ({ page }) => {
	await toDress(page, 'Drying rack');
	const before = await hash(page);
	await page.getByLabel('File for Path').setInputFiles({
		name: 'post.obj',
		mimeType: 'text/plain',
		buffer: Buffer.from('v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n')
	});
	await expect(page.getByText('The slot “Path” takes a curve; Import mesh is not one.')).toBeVisible();
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
	await expect(sheet.getByRole('button', { name: 'Make the sheet' })).toBeVisible();
	await evaluated(page, () => sheet.getByRole('button', { name: 'Use Seed 5' }).click());
	await expect(page.getByRole('spinbutton', { name: 'Seed' })).toHaveValue('5');
	await sheet.getByRole('button', { name: 'Keep Seed 5' }).click();
	await expect(kept(page).getByRole('button', { name: 'Use Seed 5' })).toBeVisible();
	// One dial at listed values, each with its own place.
	await sheet.getByLabel('What varies').click();
	await page.getByRole('option', { name: 'One dial, at values' }).click();
	await sheet.getByRole('textbox', { name: 'Its values' }).fill('1, 3');
	await sheet.getByRole('button', { name: 'Make the sheet' }).click();
	await expect(sheet.getByRole('listitem')).toHaveCount(2);
	await expect(sheet.getByText('Plants 3')).toBeVisible();
	await expect(sheet.getByRole('status')).toHaveText('2 drawn', { timeout: 30_000 });
	await evaluated(page, () => sheet.getByRole('button', { name: 'Use Plants 3' }).click());
	await expect(page.getByRole('spinbutton', { name: 'Plants, as a number' })).toHaveValue('3');
});

test('two variations stand side by side under one camera, and the other one is taken', async ({ page }) => {
	await toDress(page, 'Lantern post');
	const before = await hash(page);
	await kept(page).getByRole('button', { name: 'What to do with Nearly level' }).click();
	await page.getByRole('menuitem', { name: 'Compare side by side' }).click();
	const beside = page.getByRole('region', { name: 'Compared: Nearly level' });
	await expect(beside).toHaveAttribute('data-working', 'false');
	await expect(beside).not.toHaveAttribute('data-hash', before!);
	const [left, right] = [
		page.getByLabel('Picture of the result').first(),
		beside.getByLabel('Picture of the result')
	];
	await expect(right).toBeVisible();
	// Turning one turns the other.
	const places = () =>
		page.evaluate(() =>
			[...document.querySelectorAll('canvas[aria-label="Picture of the result"]')].map((canvas) => {
				const { cameraState } = (canvas as unknown as { embrellView: { cameraState: object } }).embrellView;
				return JSON.stringify(cameraState);
			})
		);
	const [first, second] = await places();
	expect(first).toEqual(second);
	const box = (await left.boundingBox())!;
	await page.mouse.move(box.x + 100, box.y + 200);
	await page.mouse.down();
	await page.mouse.move(box.x + 180, box.y + 220, { steps: 4 });
	await page.mouse.up();
	await expect.poll(async () => (await places())[0]).not.toEqual(first);
	await expect.poll(async () => new Set(await places()).size).toBe(1);
	const compared = await beside.getAttribute('data-hash');
	await evaluated(page, () => beside.getByRole('button', { name: 'Use it' }).click());
	await expect(beside).toBeHidden();
	expect(await hash(page)).toBe(compared);
	await expect(page.getByRole('spinbutton', { name: 'Seed' })).toHaveValue('35');
	// Its picture is replaced by one of one's own.
	const asked = page.waitForEvent('filechooser');
	await kept(page).getByRole('button', { name: 'What to do with Nearly level' }).click();
	const picture = kept(page).getByRole('button', { name: 'Use Nearly level' }).locator('img');
	const old = await picture.getAttribute('src');
	await page.getByRole('menuitem', { name: 'A picture of one’s own' }).click();
	await (await asked).setFiles('static/samples/reed-bed.webp');
	await expect(picture).not.toHaveAttribute('src', old!);
});

test('a yes hangs a cluster, its number is shown only then, and a tie moves the arm with the post', async ({
	page
}) => {
	await toDress(page, 'Lantern post');
	await expect(page.getByRole('slider', { name: 'How many, from' })).toBeHidden();
	await evaluated(page, () => page.getByRole('checkbox', { name: 'A cluster of lanterns' }).click());
	await expect(page.getByRole('slider', { name: 'How many, from' })).toBeVisible();
	const size = await page.getByTestId('size').textContent();
	await evaluated(page, () => page.getByRole('slider', { name: 'Height of the post' }).fill('4'));
	await expect(page.getByTestId('size')).not.toHaveText(size!);
	await evaluated(page, () => page.getByLabel('The panes, colour').fill('#b02010'));
	await expect(presets(page)).toContainText('Changed since “At the stairs”');
});

test('a slot takes a curve of another generator, and a preset of one’s own holds it', async ({ page }) => {
	// A generator with a drawn curve, kept because something in it was changed.
	await openSample(page, 'Drying rack');
	await evaluated(page, () => page.getByRole('slider', { name: 'Height of the trestles' }).fill('3'));
	await expect(page.getByTestId('saved')).toHaveText('Saved');
	await toDress(page, 'Rope rail');
	const own = await hash(page);
	await page.getByRole('button', { name: 'Course: from the library' }).click();
	await evaluated(page, () => page.getByRole('option', { name: /course/ }).click());
	await expect.poll(() => hash(page)).not.toBe(own);
	const other = await hash(page);
	// A preset of this user's own holds the footprint too.
	await presets(page).getByRole('button', { name: 'Save as a preset' }).click();
	await page.getByRole('textbox', { name: 'Name of the preset' }).fill('Along the rack');
	await page.keyboard.press('Enter');
	await presets(page).getByRole('button', { name: 'What to do with Along the rack' }).click();
	await page.getByRole('menuitemcheckbox', { name: 'Keep what is in slots' }).click();
	await page.keyboard.press('Escape');
	await evaluated(page, () => page.getByRole('button', { name: 'Course: the generator’s own' }).click());
	await expect(presets(page)).toContainText('Changed since “Along the rack”: Course');
	expect(await hash(page)).toBe(own);
	await evaluated(page, () => presets(page).getByRole('button', { name: 'Reset', exact: true }).click());
	expect(await hash(page)).toBe(other);
});
