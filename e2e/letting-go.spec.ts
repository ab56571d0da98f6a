/** The browser lets go of a page: what was on the screen is there when it comes back. And files that are dropped anywhere. */
import type { Page } from '@playwright/test';
import { expect, test } from './test';
import { addNode, foot, node, noticesGone, openEmpty, openSample, select, setting, settled } from './helpers';

test('what was changed, or only typed, a moment before a reload is there after it', async ({ page }) => {
	await openEmpty(page);
	await addNode(page, 'box');
	await expect(page.getByTestId('saved')).toHaveText('Saved');
	const field = setting(page, 'Size x');
	for (const [value, how] of [
		['2 m', 'Enter'],
		['3 m', null],
		['4 m', 'Enter'],
		['5 m', null]
	] as const) {
		await select(page, 'box');
		// Two quick changes: the first is being written while the second is made.
		await field.fill('9');
		await field.press('Enter');
		await field.fill(value);
		if (how) await field.press(how);
		await page.reload();
		await settled(page);
		await select(page, 'box');
		await expect(field).toHaveValue(value);
	}
	// Away and back within the application, as quickly.
	await field.fill('6');
	await field.press('Enter');
	await page.getByRole('link', { name: 'Back to the Library' }).click();
	await page.goBack();
	await settled(page);
	await select(page, 'box');
	await expect(field).toHaveValue('6 m');
	await expect(page.getByTestId('saved')).toHaveText('Saved');
});

test('a dial turned in Dress a moment before a reload is where it was', async ({ page }) => {
	await openSample(page, 'Boardwalk');
	await page.getByRole('link', { name: 'Dress' }).click();
	await page.waitForURL(/dress/);
	await settled(page);
	const seed = page.getByRole('spinbutton', { name: 'Seed' });
	for (const value of ['31', '32']) {
		await seed.fill(value);
		await seed.press('Enter');
		await page.reload();
		await settled(page);
		await expect(seed).toHaveValue(value);
	}
});

/** Drops a file on something, as from the desk. */
async function drop(page: Page, on: string, name: string, text: string): Promise<void> {
	const data = await page.evaluateHandle(
		([name, text]) => {
			const data = new DataTransfer();
			data.items.add(new File([text], name));
			return data;
		},
		[name, text]
	);
	const target = page.locator(on).first();
	await target.dispatchEvent('dragover', { dataTransfer: data });
	await target.dispatchEvent('drop', { dataTransfer: data });
}
const OBJ = 'v 0 0 0\nv 2 0 0\nv 0 0 2\nf 1 2 3\n';

test('files dropped on the View, the settings or the header are taken, or it is said what can be done with them', async ({
	page
}) => {
	await openEmpty(page);
	for (const [i, place] of ['[aria-label="View"]', '[aria-label="Settings"]', 'header'].entries()) {
		await drop(page, place, `landing${i}.obj`, OBJ);
		await expect(page.locator('.svelte-flow__node')).toHaveCount(i + 1);
	}
	await expect(foot(page, 'importMesh')).toHaveText(/1 face/);
	// None lies on another.
	const boxes = await Promise.all(
		['importMesh', 'importMesh2', 'importMesh3'].map(async (name) => (await node(page, name).boundingBox())!)
	);
	boxes.sort((a, b) => a.y - b.y);
	expect(boxes[0].y + boxes[0].height).toBeLessThanOrEqual(boxes[1].y);
	expect(boxes[1].y + boxes[1].height).toBeLessThanOrEqual(boxes[2].y);
	const address = page.url();
	await drop(page, '[aria-label="View"]', 'notes.txt', 'low tide at six');
	await expect(
		page.getByText(
			'Embrell reads meshes (OBJ with its MTL, GLB, PLY, STL), drawings (SVG), pictures (PNG, JPEG) and generators'
		)
	).toBeVisible();
	await noticesGone(page);
	const other = JSON.stringify({
		format: 'embrell',
		version: 1,
		name: 'Mud bank',
		seed: 1,
		unit: 'm',
		graphs: { main: { nodes: [], wires: [], notes: [] } },
		view: {}
	});
	await drop(page, 'header', 'bank.embrell.json', other);
	expect(page.url()).toBe(address);
	await page.getByRole('button', { name: 'Open it' }).click();
	await expect(page.getByRole('textbox', { name: 'Name of the generator' })).toHaveValue('Mud bank');
});

test('without storage a generator is made all the same, and leaving it asks', async ({ page }) => {
	await page.addInitScript(() => {
		indexedDB.open = () => {
			throw new DOMException('Denied', 'SecurityError');
		};
	});
	await openEmpty(page);
	await expect(page.getByText('It is kept only as long as this page is open')).toBeVisible();
	await noticesGone(page);
	await addNode(page, 'box');
	await expect(foot(page, 'box')).toHaveText(/^6 faces/);
	await expect(page.getByTestId('saved')).toHaveText('Not saved');
	await expect(page.getByRole('alert').filter({ hasText: 'lets the page keep nothing' })).toBeVisible();
	const asked = page.waitForEvent('dialog');
	const leaving = page.close({ runBeforeUnload: true });
	const dialog = await asked;
	expect(dialog.type()).toBe('beforeunload');
	await dialog.dismiss();
	await leaving;
	await expect(foot(page, 'box')).toHaveText(/^6 faces/);
});

test('the store is emptied under an open page: it goes on by itself, and all is there again', async ({
	page
}) => {
	await openEmpty(page);
	await drop(page, '[aria-label="View"]', 'landing.obj', OBJ);
	await expect(foot(page, 'importMesh')).toHaveText(/1 face/);
	await expect(page.getByTestId('saved')).toHaveText('Saved');
	const session = await page.context().newCDPSession(page);
	await session.send('Storage.clearDataForOrigin', {
		origin: new URL(page.url()).origin,
		storageTypes: 'indexeddb'
	});
	await addNode(page, 'box');
	await expect(page.getByTestId('saved')).toHaveText('Saved');
	await page.reload();
	await settled(page);
	await expect(foot(page, 'importMesh')).toHaveText(/1 face/);
	await expect(foot(page, 'box')).toHaveText(/^6 faces/);
});
