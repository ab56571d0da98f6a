/** Time in Build: frames, keys and what moves, as an artist sets them. */
import { expect, test } from '@playwright/test';
import type { Page } from '@playwright/test';
import { addNode, evaluated, openEmpty, select, setting, settled } from './helpers';

const timeline = (page: Page) => page.getByRole('region', { name: 'Drawer' });
const playhead = (page: Page) => page.getByRole('slider', { name: 'Playhead' });
const size = (page: Page) => page.getByTestId('size');

async function withBox(page: Page): Promise<void> {
	await openEmpty(page);
	await addNode(page, 'box');
	await page.getByRole('button', { name: 'Timeline', exact: true }).click();
}
const menuOf = (page: Page, label: string) =>
	page.getByRole('region', { name: 'Settings' }).getByRole('button', { name: `${label}: how it is set` });

test('keys at two frames move a setting; one set elsewhere evaluates nothing; the playhead, the table and undo follow', async ({
	page
}) => {
	await withBox(page);
	await select(page, 'box');
	await menuOf(page, 'Size x').click();
	await page.getByRole('menuitem', { name: 'Set a key at frame 1', exact: true }).click();
	await expect(timeline(page).getByRole('button', { name: 'Key at frame 1', exact: true })).toBeVisible();
	await menuOf(page, 'Size x').click();
	await page.getByRole('menuitem', { name: 'Set a key at frame …' }).click();
	await page.getByRole('spinbutton', { name: 'Size: a key at frame' }).fill('41');
	await evaluated(page, () => page.keyboard.press('Enter'));
	await expect(timeline(page).getByRole('button', { name: 'Key at frame 41' })).toBeVisible();
	await expect(page.locator('[data-ran]')).toHaveAttribute('data-ran', '0');
	// At frame 41 it is made wider; in between it is in between.
	await evaluated(page, () => playhead(page).fill('41'));
	await evaluated(page, async () => {
		await setting(page, 'Size x').fill('3');
		await page.keyboard.press('Enter');
	});
	await expect(size(page)).toContainText('3.00');
	await evaluated(page, () => playhead(page).fill('21'));
	await expect(size(page)).toContainText('2.00');
	await expect(page.getByRole('img', { name: 'box moves: “Size” has keys.' })).toBeVisible();
	// The key is moved by the keyboard, and taken back.
	await timeline(page).getByRole('button', { name: 'Key at frame 41' }).focus();
	await evaluated(page, () => page.keyboard.press('ArrowLeft'));
	await expect(timeline(page).getByRole('button', { name: 'Key at frame 40' })).toBeVisible();
	await page.keyboard.press('Control+z');
	await expect(timeline(page).getByRole('button', { name: 'Key at frame 41' })).toBeVisible();
	// As a table: an easing, and what comes after the last key.
	await timeline(page).getByRole('button', { name: 'box.size' }).click();
	const table = page.getByRole('table', { name: 'Keys of box.size' });
	await expect(table.getByRole('row')).toHaveCount(3);
	await timeline(page).getByLabel('From the key at 1 to the next').click();
	await evaluated(page, () => page.getByRole('option', { name: 'Held' }).click());
	await expect(size(page)).toContainText('1.00 × 1.00');
	// It is there again after a reload.
	await expect(page.getByTestId('saved')).toHaveText('Saved');
	await page.reload();
	await settled(page);
	await page.getByRole('button', { name: 'Timeline', exact: true }).click();
	await expect(timeline(page).getByRole('button', { name: 'Key at frame 41' })).toBeVisible();
});

test('it plays, edits show while it does, and frames that cannot be are told of', async ({ page }) => {
	await withBox(page);
	await select(page, 'box');
	await menuOf(page, 'Size x').click();
	await page.getByRole('menuitem', { name: 'Formula', exact: true }).click();
	const formula = page.getByRole('textbox', { name: 'Formula' });
	await formula.click();
	await page.keyboard.press('Control+a');
	await page.keyboard.type('1 + frame / 10');
	await evaluated(page, () => page.keyboard.press('Enter'));
	await expect(size(page)).toContainText('1.10');
	await page.getByRole('region', { name: 'Graph' }).focus();
	await page.keyboard.press('End');
	await expect(size(page)).toContainText('13.00');
	await page.keyboard.press('Home');
	await expect(size(page)).toContainText('1.10');
	await page.keyboard.press('Space');
	await expect(timeline(page).getByRole('button', { name: 'Pause' })).toBeVisible();
	await expect.poll(() => playhead(page).inputValue().then(Number)).toBeGreaterThan(4);
	// An edit while it plays is in the next frame.
	await page
		.getByRole('region', { name: 'Settings' })
		.getByRole('spinbutton', { name: 'Size y', exact: true })
		.fill('5');
	await page.keyboard.press('Enter');
	await expect(size(page)).toContainText('× 5.00 ×');
	await page.getByRole('region', { name: 'Graph' }).focus();
	await page.keyboard.press('Space');
	await expect(timeline(page).getByRole('button', { name: 'Play' })).toBeVisible();
	await timeline(page).getByRole('spinbutton', { name: 'Last frame' }).fill('0');
	await page.keyboard.press('Enter');
	await expect(page.getByText('The last frame, 0, lies before the first, 1.')).toBeVisible();
	await expect(timeline(page).getByRole('spinbutton', { name: 'Last frame' })).toHaveValue('120');
});
