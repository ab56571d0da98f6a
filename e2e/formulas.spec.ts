/** Formulas as they are written, and settings that follow others by a gesture. */
import { expect, test } from './test';
import { addNode, evaluated, node, openEmpty, select, setFormula, setNumber, setting } from './helpers';

test.use({ together: true });

test('a formula is written with proposals and their help, a mistake is underlined, and what it comes to stands below', async ({
	page
}) => {
	await openEmpty(page);
	await addNode(page, 'grid');
	await addNode(page, 'displace');
	await setFormula(page, 'Amount', '0');
	const field = page.getByRole('textbox', { name: 'Amount, formula' });
	await field.click();
	await page.keyboard.press('Control+a');
	await page.keyboard.type('0.2 * noi');
	const proposals = page.getByRole('listbox', { name: 'Completions' });
	await expect(proposals.getByRole('option', { name: 'noise(p)' })).toBeVisible();
	await expect(page.getByText('Smooth noise at a place')).toBeVisible();
	await page.keyboard.press('Enter');
	await expect(field).toHaveText('0.2 * noise()');
	await page.keyboard.type('positon');
	await expect(proposals.getByRole('option', { name: 'position' })).toBeVisible();
	await page.keyboard.press('Escape');
	const row = page.locator('[data-setting="amount"]');
	await expect(row.getByRole('alert')).toContainText('Did you mean “position”?');
	await expect(row.locator('.cm-mistake')).toHaveText('positon');
	await evaluated(page, () => row.getByRole('button', { name: 'Write position' }).click());
	await expect(field).toHaveText('0.2 * noise(position)');
	await field.click();
	await expect(row.getByRole('status')).toContainText(/^441 points: −?-?0\.\d+ to 0\.\d+ · first /);
	// While it is typed, nothing of the generator changes; Escape brings back what stood there.
	await page.keyboard.press('Control+a');
	await page.keyboard.type('sqrt(index - 5)');
	await expect(row.getByRole('status')).toContainText('5 have no answer, 0 is used');
	await page.keyboard.press('Escape');
	await expect(field).toHaveText('0.2 * noise(position)');
	await expect(page.getByRole('textbox', { name: 'Amount, formula' })).toHaveAttribute(
		'aria-label',
		/Amount/
	);
});

test('a label dragged onto another makes it follow, a whole vector at once; a circle is refused with its path', async ({
	page
}) => {
	await openEmpty(page);
	await addNode(page, 'box');
	await page.keyboard.press('Escape');
	await addNode(page, 'cylinder');
	const label = (name: string) =>
		page.getByRole('region', { name: 'Settings' }).locator('[data-setting]').getByText(name, { exact: true });
	const dragTo = async (name: string, other: string, target: string) => {
		await label(name).hover();
		await page.mouse.down();
		const rest = (await node(page, other).boundingBox())!;
		await page.mouse.move(rest.x + 60, rest.y + 12, { steps: 6 });
		await expect(page.getByRole('textbox', { name: 'Name of the node' })).toHaveValue(other);
		const place = (await label(target).boundingBox())!;
		await page.mouse.move(place.x + 8, place.y + 8, { steps: 6 });
	};
	await setNumber(page, 'Height', '3.5');
	await dragTo('Height', 'box', 'Size');
	await expect(page.getByText('“Size” of box follows cylinder.height.')).toBeVisible();
	await page.mouse.up();
	await evaluated(page, () => page.getByRole('menuitem', { name: 'It follows' }).click());
	await expect(page.getByRole('textbox', { name: 'Size, formula' })).toHaveText('cylinder.height');
	await page.keyboard.press('Escape');
	await page.getByRole('button', { name: 'References' }).click();
	await expect(page.getByRole('list', { name: 'References' })).toHaveText('Size follows Height');
	await select(page, 'box');
	await dragTo('Size', 'cylinder', 'Height');
	await expect(page.getByText('circle: cylinder.height → box.size → cylinder.height')).toBeVisible();
	await page.mouse.up();
	await expect(setting(page, 'Height')).toHaveValue('3.5 m');
	// From the menu, by keys.
	await page.getByRole('button', { name: 'Lower radius: how it is set' }).press('Enter');
	await page.getByRole('menuitem', { name: 'Follow another setting' }).press('Enter');
	await page.getByRole('combobox', { name: 'Which setting it follows' }).fill('upper');
	await evaluated(page, () => page.keyboard.press('Enter'));
	await expect(page.getByRole('textbox', { name: 'Lower radius, formula' })).toHaveText(/upperRadius|top/i);
});

test('a read-out shows the values on a wire, and follows what changes them', async ({ page }) => {
	await openEmpty(page);
	await addNode(page, 'count up');
	await setNumber(page, 'Count', '20');
	await addNode(page, 'read-out');
	const values = page.getByRole('group', { name: 'Values of readOut' });
	await expect(values).toHaveText(/20\s+values\s*0 to 19\s*0, 1, 2, 3 … 18, 19/);
	await select(page, 'countUp');
	await setNumber(page, 'Count', '3');
	await expect(values).toHaveText(/3\s+values\s*0 to 2\s*0, 1, 2$/);
});

test('a random range shows the numbers that it draws, and names who draws the same', async ({ page }) => {
	await openEmpty(page);
	await addNode(page, 'row of points');
	await setNumber(page, 'Count', '400');
	await addNode(page, 'write attribute');
	await page.getByRole('button', { name: 'Value: how it is set' }).click();
	await evaluated(page, () => page.getByRole('menuitem', { name: 'Random: low to high' }).click());
	await expect(
		page.getByRole('img', {
			name: /^400 points: from 0\.9\d* to 1\.1$|^400 points: from 0\.9\d* to 1\.0\d*$|^400 points: from/
		})
	).toBeVisible();
	// A second attribute in the same node, by its button.
	await evaluated(page, () => page.getByRole('button', { name: 'Add an attribute' }).click());
	await expect(page.getByRole('heading', { name: 'Second attribute' })).toBeVisible();
	await evaluated(page, () => page.getByRole('button', { name: 'Remove: Second attribute' }).click());
	await expect(page.getByRole('heading', { name: 'Second attribute' })).toBeHidden();
});

test('rows stay where they are while something in Settings is pressed, also where a formula is left by it', async ({
	page
}) => {
	await openEmpty(page);
	await addNode(page, 'grid');
	await addNode(page, 'displace');
	await setFormula(page, 'Amount', '0.2 * position.x');
	await page.getByRole('textbox', { name: 'Amount, formula' }).click();
	await expect(page.locator('[data-setting="amount"]').getByRole('status')).toContainText('441 points');
	const below = page.locator('[data-setting="amount"]').locator('xpath=following::*[@data-setting][1]');
	const before = (await below.boundingBox())!;
	const menu = (await below.getByRole('button', { name: /how it is set$/ }).boundingBox())!;
	await page.mouse.move(menu.x + 8, menu.y + 8);
	await page.mouse.down();
	await expect(page.getByRole('menu')).toBeVisible();
	expect((await below.boundingBox())!.y).toBe(before.y);
	await page.mouse.up();
	await expect(page.getByRole('menu')).toBeVisible();
	await expect.poll(async () => (await below.boundingBox())!.y).toBeLessThan(before.y);
});
