/** One part of a vector by itself, and dials that move: as an artist sets them from an empty generator. */
import { expect, test } from './test';
import type { Page } from '@playwright/test';
import { addNode, evaluated, noticesGone, openEmpty, select, setNumber, setting, settled } from './helpers';

test.use({ together: true });

const panel = (page: Page) => page.getByRole('region', { name: 'Settings' });
const menuOf = (page: Page, label: string) =>
	panel(page).getByRole('button', { name: `${label}: how it is set` });
const entry = (page: Page, name: string) => page.getByRole('menuitem', { name, exact: true });
const playhead = (page: Page) => page.getByRole('slider', { name: 'Playhead' });
const size = (page: Page) => page.getByTestId('size');

async function withBoxAndNumber(page: Page): Promise<void> {
	await openEmpty(page);
	await addNode(page, 'number');
	await page.keyboard.press('Escape');
	await addNode(page, 'box');
	await select(page, 'number');
	await setNumber(page, 'Value', '3');
	await select(page, 'box');
}

test('one part of a vector is wired, let go, keyed and made a dial; the others stay as they are', async ({
	page
}) => {
	await withBoxAndNumber(page);
	await menuOf(page, 'Size y').click();
	await entry(page, 'From a wire …').click();
	await evaluated(page, () => page.getByRole('option', { name: /^number, Value/ }).click());
	await expect(size(page)).toContainText('1.00 × 3.00 × 1.00');
	await expect(page.getByLabel('Input Size y of box', { exact: true })).toBeVisible();
	await expect(setting(page, 'Size x')).toHaveValue('1 m');
	await expect(setting(page, 'Size y')).toHaveCount(0);
	await evaluated(page, () =>
		panel(page)
			.getByRole('button', { name: /^Disconnect number/ })
			.click()
	);
	await expect(setting(page, 'Size y')).toHaveValue('1 m');
	await evaluated(page, () => page.keyboard.press('Control+z'));
	await expect(size(page)).toContainText('1.00 × 3.00 × 1.00');
	await evaluated(page, () => page.keyboard.press('Control+Shift+z'));

	await menuOf(page, 'Size z').click();
	await entry(page, 'Make it a dial').click();
	await expect(panel(page).getByRole('button', { name: 'Size z: the dial Size z' })).toBeVisible();
	await evaluated(page, () =>
		setting(page, 'Size x')
			.fill('5')
			.then(() => page.keyboard.press('Enter'))
	);
	await expect(size(page)).toContainText('5.00 × 1.00 × 1.00');
	await page.keyboard.press('Escape');
	await page.getByRole('region', { name: 'Graph' }).focus();
	await page.keyboard.press('Escape');
	await evaluated(page, async () => {
		await page.getByRole('spinbutton', { name: 'Size z, as a number' }).fill('2');
		await page.keyboard.press('Enter');
	});
	await expect(size(page)).toContainText('5.00 × 1.00 × 2.00');
});

test('a label dropped on one part fills that part', async ({ page }) => {
	await withBoxAndNumber(page);
	await select(page, 'number');
	const label = panel(page).getByText('Value', { exact: true });
	await label.hover();
	await page.mouse.down();
	const other = (await page.locator('[data-node-id]').filter({ hasText: 'box' }).first().boundingBox())!;
	await page.mouse.move(other.x + 40, other.y + 12, { steps: 6 });
	await expect(panel(page).getByRole('textbox', { name: 'Name of the node' })).toHaveValue('box');
	const part = (await panel(page).locator('[data-setting="size.z"]').boundingBox())!;
	await page.mouse.move(part.x + 40, part.y + part.height / 2, { steps: 6 });
	await expect(page.getByText('“Size z” of box follows number.value.')).toBeVisible();
	await page.mouse.up();
	await evaluated(page, () => page.getByRole('menuitem', { name: /^It follows/ }).click());
	await expect(size(page)).toContainText('1.00 × 1.00 × 3.00');
	await expect(panel(page).getByRole('textbox', { name: 'Size z, formula' })).toBeVisible();
	await expect(setting(page, 'Size x')).toHaveValue('1 m');
});

test('a dial has keys: turned while Record is on, in Build and in Dress; the playhead stays where it was left', async ({
	page
}) => {
	await withBoxAndNumber(page);
	await menuOf(page, 'Size x').click();
	await entry(page, 'Make it a dial').click();
	await noticesGone(page);
	// A key on the setting is a key of the dial that has it in hand.
	await page.getByRole('button', { name: 'Timeline', exact: true }).click();
	await menuOf(page, 'Size x').click();
	await entry(page, 'Set a key at frame 1').click();
	const drawer = page.getByRole('region', { name: 'Drawer' });
	const row = drawer.getByRole('group', { name: 'Keys of Size x' });
	await expect(row.getByRole('button', { name: 'Key at frame 1', exact: true })).toBeVisible();
	await expect(panel(page).getByRole('button', { name: 'Size x: the dial Size x' })).toBeVisible();
	await evaluated(page, () => playhead(page).fill('41'));
	await page.getByRole('region', { name: 'Graph' }).focus();
	await page.keyboard.press('Escape');
	await evaluated(page, async () => {
		await page.getByRole('spinbutton', { name: 'Size x, as a number' }).fill('5');
		await page.keyboard.press('Enter');
	});
	await expect(row.getByRole('button', { name: 'Key at frame 41' })).toBeVisible();
	await evaluated(page, () => playhead(page).fill('21'));
	await expect(size(page)).toContainText('3.00 × 1.00 × 1.00');
	await expect(page.getByRole('spinbutton', { name: 'Size x, as a number' })).toHaveValue('3 m');
	await expect(page.getByTestId('saved')).toHaveText('Saved');
	await page.reload();
	await settled(page);
	await page.getByRole('button', { name: 'Timeline', exact: true }).click();
	await expect(playhead(page)).toHaveValue('21');
	await expect(size(page)).toContainText('3.00 × 1.00 × 1.00');

	// Whoever uses it sees the same, and sets keys of their own.
	await page.getByRole('link', { name: 'Dress' }).click();
	await page.waitForURL(/\/dress\//);
	await settled(page);
	await page.getByRole('button', { name: 'Timeline', exact: true }).click();
	await evaluated(page, () => playhead(page).fill('41'));
	await expect(size(page)).toContainText('5.00 × 1.00 × 1.00');
	await page.getByRole('button', { name: 'Record' }).click();
	await evaluated(page, () => playhead(page).fill('61'));
	await evaluated(page, async () => {
		await page.getByRole('spinbutton', { name: 'Size x, as a number' }).fill('2');
		await page.keyboard.press('Enter');
	});
	const keys = page.getByRole('group', { name: 'Keys of Size x' });
	await expect(keys.getByRole('button')).toHaveCount(3);
	await page.getByRole('button', { name: 'Size x: take the key away at frame 61' }).click();
	await expect(keys.getByRole('button')).toHaveCount(2);
	await evaluated(page, () => page.keyboard.press('Control+z'));
	await expect(keys.getByRole('button')).toHaveCount(3);
	await expect(page.getByTestId('saved')).toHaveText('Saved');
	await page.reload();
	await settled(page);
	await page.getByRole('button', { name: 'Timeline', exact: true }).click();
	await expect(playhead(page)).toHaveValue('61');
	await expect(keys.getByRole('button')).toHaveCount(3);
	await expect(size(page)).toContainText('2.00 × 1.00 × 1.00');
});
