/** Labels, fields and dialogs as an artist's hands meet them. */
import { expect, test } from './test';
import { addNode, evaluated, openEmpty } from './helpers';

test.use({ together: true });

test('a label reads from cause to effect: inputs, pinned settings, outputs above the foot', async ({
	page
}) => {
	await openEmpty(page);
	await addNode(page, 'grid');
	await addNode(page, 'displace');
	await page.getByRole('button', { name: 'Amount: how it is set' }).click();
	await page.getByRole('menuitem', { name: 'Show on the node' }).click();
	const label = page.locator('[data-node-id]').filter({ hasText: 'displace' }).first();
	const top = async (name: string) => (await label.getByLabel(name, { exact: true }).boundingBox())!.y;
	const [input, pinned, output] = [
		await top('Input Geometry of displace'),
		await top('displace, Amount'),
		await top('Output Geometry of displace')
	];
	const foot = (await label.getByTestId('foot').boundingBox())!.y;
	expect(input).toBeLessThan(pinned);
	expect(pinned).toBeLessThan(output);
	expect(output).toBeLessThan(foot);
	// It is set where it stands.
	const field = label.getByLabel('displace, Amount', { exact: true });
	await evaluated(page, async () => {
		await field.click();
		await page.keyboard.type('0.35');
		await page.keyboard.press('Enter');
	});
	await expect(
		page.getByRole('region', { name: 'Settings' }).getByRole('spinbutton', { name: 'Amount' })
	).toHaveValue('0.35 m');
});

test('a click or Tab into a field selects all of it, and what a program fills in stands there alone', async ({
	page
}) => {
	await openEmpty(page);
	await addNode(page, 'grid');
	const width = page
		.getByRole('region', { name: 'Settings' })
		.getByRole('spinbutton', { name: 'Width', exact: true });
	await width.click();
	await page.keyboard.type('110');
	await page.keyboard.press('Enter');
	await expect(width).toHaveValue('110 m');
	await width.click();
	await page.keyboard.type('500');
	await page.keyboard.press('Tab');
	await expect(width).toHaveValue('500 m');
	// The next field was entered by Tab.
	await width.focus();
	await page.keyboard.type('7');
	await page.keyboard.press('Enter');
	await expect(width).toHaveValue('7 m');
	await width.fill('0.05');
	await width.press('Enter');
	await expect(width).toHaveValue('0.05 m');
	// Shift is finer, with arrows as with a drag.
	const before = 0.05;
	await width.press('Shift+ArrowUp');
	const fine = Number((await width.inputValue()).replace(' m', '')) - before;
	await width.press('ArrowUp');
	const plain = Number((await width.inputValue()).replace(' m', '')) - before - fine;
	expect(Math.abs(plain / fine - 10)).toBeLessThan(0.5);
	const name = page.getByRole('textbox', { name: 'Name of the node' });
	await name.click();
	await page.keyboard.type('flat');
	await page.keyboard.press('Enter');
	await expect(name).toHaveValue('flat');
});

test('what was left out of an opened file is a table of what, where and why, with the original at hand', async ({
	page
}) => {
	await page.goto('/');
	const file = {
		format: 'embrell',
		version: 2,
		name: 'Broken',
		seed: 1,
		unit: 'm',
		view: { background: 'plaid' },
		graphs: {
			main: {
				nodes: [{ id: 'a', kind: 'whirl', short: 'odd', at: [0, 0], settings: {}, stream: 's' }],
				wires: [],
				notes: []
			}
		}
	};
	await page.getByLabel('Generator files').setInputFiles({
		name: 'broken.embrell.json',
		mimeType: 'application/json',
		buffer: Buffer.from(JSON.stringify(file))
	});
	const dialog = page.getByRole('dialog', { name: /things were left out of “broken.embrell.json”/ });
	await expect(dialog.getByRole('row')).toHaveCount(3);
	await expect(dialog.getByRole('cell', { name: 'There is no kind of node “whirl”.' })).toBeVisible();
	const saved = page.waitForEvent('download');
	await dialog.getByRole('button', { name: 'Save the original' }).click();
	expect((await saved).suggestedFilename()).toBe('broken.embrell.json');
	await dialog.getByRole('button', { name: 'Go on' }).click();
	await expect(dialog).toBeHidden();
	await expect(page.getByRole('link', { name: 'Open Broken' })).toBeVisible();
});
