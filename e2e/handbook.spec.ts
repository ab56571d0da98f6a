/** The Handbook: every node can be found, read about and tried. */
import { expect, test } from './test';
import { addNode, evaluated, openEmpty, settled } from './helpers';

test('a node is found by what it does, its example is changed in place, and opened in Build', async ({
	page
}) => {
	await page.goto('/');
	await page.getByRole('link', { name: 'Handbook' }).click();
	await page.getByRole('searchbox', { name: 'Find in the Handbook' }).fill('scatter');
	await page.keyboard.press('Enter');
	await expect(page.getByRole('heading', { name: 'Sow points', level: 1 })).toBeVisible();
	await expect(page.getByText('With nothing connected it waits for “Surface”.')).toBeVisible();
	await settled(page);
	const example = page.getByRole('region', { name: 'Example' });
	const foot = example.getByRole('status').last();
	await expect(foot).toHaveText(/^\d+ points/);
	const before = /^\d+ points/.exec((await foot.textContent())!)![0];
	await evaluated(page, async () => {
		await example.getByRole('spinbutton', { name: 'Density' }).fill('2');
		await page.keyboard.press('Enter');
	});
	await expect(foot).not.toContainText(before);
	await example.getByRole('button', { name: 'Reset' }).click();
	await expect(foot).toContainText(before);
	await example.getByRole('button', { name: 'Open in Build' }).click();
	await page.waitForURL(/\/build\//);
	await settled(page);
	await expect(page.getByRole('textbox', { name: 'Name of the generator' })).toHaveValue('About Sow points');
	// Looking and trying alone keeps nothing.
	await page.goto('/');
	await expect(page.getByRole('region', { name: 'Your generators' }).getByRole('listitem')).toHaveCount(1);
});

test('a node’s help says what comes in and goes out, what it does with nothing connected, and leads to its page', async ({
	page,
	context
}) => {
	await openEmpty(page);
	await addNode(page, 'place copies');
	const settings = page.getByRole('region', { name: 'Settings' });
	await settings.getByText('In and out').click();
	await expect(settings).toContainText('Source comes in: geometry, several wires');
	await expect(settings).toContainText('With nothing connected it waits for “Points” and “Source”.');
	const opened = context.waitForEvent('page');
	await settings.getByRole('link', { name: 'Place copies in the Handbook' }).click();
	await expect((await opened).getByRole('heading', { name: 'Place copies', level: 1 })).toBeVisible();
});

test('an unknown page says so, and nothing is found where nothing is', async ({ page }) => {
	await page.goto('/handbook/no-such-node');
	await expect(page.getByRole('alert')).toContainText('There is no node “no-such-node”');
	await page.getByRole('searchbox', { name: 'Find in the Handbook' }).fill('qqqq');
	await expect(page.getByRole('navigation')).toContainText('Nothing is called “qqqq”');
});
