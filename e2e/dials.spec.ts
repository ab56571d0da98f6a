/** Dials and ties, as the maker of a generator makes them and tries them. */
import type { Page } from '@playwright/test';
import { expect, test } from './test';
import { addNode, evaluated, node, openEmpty, select, setNumber, setting } from './helpers';

test.use({ together: true });

const graph = (page: Page) => page.getByRole('region', { name: 'Graph' });
const dials = (page: Page) => page.getByRole('region', { name: 'Dials' });
const size = (page: Page) => page.getByTestId('size');

/** From the menu of a setting. */
async function makeDial(page: Page, label: string): Promise<void> {
	await page.getByRole('button', { name: `${label}: how it is set` }).click();
	await page.getByRole('menuitem', { name: 'Make it a dial' }).click();
}
/** Selects nothing, so that the generator's own settings stand in Settings. */
async function selectNothing(page: Page): Promise<void> {
	await graph(page).focus();
	await page.keyboard.press('Escape');
	await expect(dials(page)).toBeVisible();
}

test('settings become dials, are named and grouped, turned as a user will, and moved', async ({ page }) => {
	await openEmpty(page);
	await addNode(page, 'cylinder');
	await setNumber(page, 'Lower radius', '1');
	await setNumber(page, 'Upper radius', '1');
	await setNumber(page, 'Height', '2');
	await makeDial(page, 'Height');
	await makeDial(page, 'Caps');
	await selectNothing(page);
	await page.getByRole('button', { name: 'Height: about the dial' }).click();
	await page.getByRole('textbox', { name: 'Name of the dial', exact: true }).fill('Mast height');
	await page.getByLabel('Group of the dial').fill('Mast');
	await page.getByRole('textbox', { name: 'Slider to, of the dial' }).fill('8');
	await page.keyboard.press('Tab');
	await expect(dials(page).getByRole('heading', { name: 'Mast' })).toBeVisible();
	const slider = page.getByRole('slider', { name: 'Mast height' });
	await expect(slider).toHaveValue('2');
	await expect(size(page)).toHaveText('2.00 × 2.00 × 2.00 m');
	await evaluated(page, () => slider.fill('5'));
	await expect(size(page)).toHaveText('2.00 × 5.00 × 2.00 m');
	// Its place in the graph is one click away, and the other way round.
	await page.getByRole('button', { name: 'cylinder.height' }).click();
	await expect(setting(page, 'Height')).toHaveValue('5 m');
	await evaluated(page, () => setNumber(page, 'Height', '3'));
	await page.getByRole('button', { name: 'Height: the dial Mast height' }).click();
	await expect(slider).toHaveValue('3');
	// By keys a dial goes to another place.
	const names = () =>
		dials(page)
			.locator('[data-dial]')
			.evaluateAll((all) => all.map((one) => (one as HTMLElement).dataset.dial));
	expect(await names()).toEqual(['height', 'caps']);
	await page.getByRole('button', { name: 'Mast height: move' }).press('ArrowDown');
	await expect.poll(names).toEqual(['caps', 'height']);
	await graph(page).focus();
	await page.keyboard.press('Control+z');
	await expect.poll(names).toEqual(['height', 'caps']);
});

test('a label dropped on another ties both; either end moves the other, an uneven pair says so, and undo takes back both', async ({
	page
}) => {
	await openEmpty(page);
	await addNode(page, 'box');
	await page.keyboard.press('Escape');
	await addNode(page, 'cylinder');
	await setNumber(page, 'Height', '2');
	const label = (name: string) =>
		page.getByRole('region', { name: 'Settings' }).locator('[data-setting]').getByText(name, { exact: true });
	await label('Height').hover();
	await page.mouse.down();
	const rest = (await node(page, 'box').boundingBox())!;
	await page.mouse.move(rest.x + 60, rest.y + 12, { steps: 6 });
	await expect(page.getByRole('textbox', { name: 'Name of the node' })).toHaveValue('box');
	const place = (await setting(page, 'Size y').boundingBox())!;
	await page.mouse.move(place.x + 8, place.y + 8, { steps: 6 });
	await page.mouse.up();
	await evaluated(page, () => page.getByRole('menuitem', { name: 'Tie both ways' }).click());
	const slip = page.getByTestId('tie');
	const there = slip.getByRole('textbox', { name: 'Size y of box, where x is Height of cylinder' });
	const back = slip.getByRole('textbox', { name: 'Height of cylinder, where x is Size y of box' });
	await expect(there).toHaveValue('0.5 * x');
	await expect(back).toHaveValue('x / 0.5');
	await evaluated(page, () => setNumber(page, 'Size y', '3'));
	await select(page, 'cylinder');
	await expect(setting(page, 'Height')).toHaveValue('6 m');
	await evaluated(page, () => setNumber(page, 'Height', '4'));
	await graph(page).focus();
	await evaluated(page, () => page.keyboard.press('Control+z'));
	await expect(setting(page, 'Height')).toHaveValue('6 m');
	await select(page, 'box');
	await expect(setting(page, 'Size y')).toHaveValue('3 m');
	// Another equation turns the other one round; one by itself makes an uneven pair.
	await there.fill('3 * x + 1');
	await there.press('Enter');
	await expect(back).toHaveValue('(x - 1) / 3');
	await back.fill('x');
	await back.press('Enter');
	await expect(slip).toContainText('The two disagree');
	// Either equation is offered turned round.
	await expect(slip.getByRole('button', { name: 'Make Size y of box = x' })).toBeVisible();
	await evaluated(page, () =>
		slip.getByRole('button', { name: 'Make Height of cylinder = (x - 1) / 3' }).click()
	);
	await expect(slip).not.toContainText('The two disagree');
	await back.fill('x');
	await evaluated(page, () => back.press('Enter'));
	await evaluated(page, () => setNumber(page, 'Size y', '5'));
	await expect(page.getByTestId('saved')).toHaveText('Saved');
	await page.reload();
	await select(page, 'cylinder');
	await expect(setting(page, 'Height')).toHaveValue('5 m');
});

test('settings of a node are kept under a name, and used in another generator', async ({ page }) => {
	await openEmpty(page);
	await addNode(page, 'cylinder');
	await setNumber(page, 'Height', '2.5');
	await setNumber(page, 'Segments', '7');
	await page.getByRole('button', { name: 'Saved settings' }).click();
	await page.getByRole('textbox', { name: 'Name for these settings' }).fill('Mooring post');
	await page.keyboard.press('Enter');
	await expect(page.getByRole('button', { name: 'Mooring post', exact: true })).toBeVisible();
	await page.keyboard.press('Escape');
	await openEmpty(page);
	await addNode(page, 'cylinder');
	await expect(setting(page, 'Segments')).not.toHaveValue('7');
	await page.getByRole('button', { name: 'Saved settings' }).click();
	await evaluated(page, () => page.getByRole('button', { name: 'Mooring post', exact: true }).click());
	await expect(setting(page, 'Segments')).toHaveValue('7');
	await expect(setting(page, 'Height')).toHaveValue('2.5 m');
	await expect(size(page)).toHaveText(/× 2\.50 ×/);
});

test('an export says what it will weigh, and begins as the last one ended', async ({ page }) => {
	await openEmpty(page);
	await addNode(page, 'cylinder');
	const open = () => page.getByRole('button', { name: 'Export', exact: true }).click();
	await open();
	await expect(page.getByTestId('weight')).toHaveText(/File size: [\d.]+ kB\./);
	await page.getByRole('radio', { name: /^OBJ/ }).check();
	await page.getByLabel('Unit').click();
	await page.getByRole('option', { name: 'Centimetres' }).click();
	const [download] = await Promise.all([
		page.waitForEvent('download'),
		page.getByRole('button', { name: 'Export OBJ' }).click()
	]);
	expect(download.suggestedFilename()).toMatch(/\.(obj|mtl)$/);
	await open();
	await expect(page.getByRole('radio', { name: /^OBJ/ })).toBeChecked();
	await expect(page.getByRole('dialog').getByLabel('Unit')).toContainText('Centimetres');
});

test('a whole generator becomes a node in another, with its dials as settings', async ({ page }) => {
	await openEmpty(page);
	await addNode(page, 'cylinder');
	await setNumber(page, 'Height', '2');
	await makeDial(page, 'Height');
	await page.getByRole('textbox', { name: 'Name of the generator' }).fill('Mooring mast');
	await page.keyboard.press('Enter');
	await selectNothing(page);
	await page.getByRole('button', { name: 'Put the generator on the shelf' }).click();
	await expect(page.getByText('“Mooring mast” lies on your shelf')).toBeVisible();
	await openEmpty(page);
	await graph(page).focus();
	await page.keyboard.press('/');
	await page.getByRole('combobox', { name: 'Find a node' }).fill('mooring');
	await evaluated(page, () => page.getByRole('option', { name: /Mooring mast/ }).click());
	await expect(size(page)).toHaveText(/× 2\.00 ×/);
	await evaluated(page, () => setNumber(page, 'Height', '6'));
	await expect(size(page)).toHaveText(/× 6\.00 ×/);
});

test('a setting is tied from its menu and by its name; the tie is drawn, and says where it has no answer', async ({
	page
}) => {
	await openEmpty(page);
	await addNode(page, 'box');
	await page.keyboard.press('Escape');
	await addNode(page, 'cylinder');
	const panel = page.getByRole('region', { name: 'Settings' });
	await panel.getByRole('button', { name: 'Height: how it is set' }).click();
	await page.getByRole('menuitem', { name: 'Tie to another setting …' }).click();
	await page.getByPlaceholder('What it is tied to …').fill('box.size.z');
	await evaluated(page, () => page.keyboard.press('Enter'));
	const slip = page.getByTestId('tie');
	await expect(
		slip.getByRole('textbox', { name: 'Size z of box, where x is Height of cylinder' })
	).toHaveValue('x');
	const equation = slip.getByRole('textbox', { name: 'Size z of box, where x is Height of cylinder' });
	await equation.fill('sqrt(x) + 1');
	await evaluated(page, () => equation.press('Enter'));
	await setNumber(page, 'Height', '4');
	await expect(page.getByTestId('size')).toContainText('m');
	await page.getByRole('button', { name: 'References' }).click();
	await expect(page.getByRole('list', { name: 'Ties' })).toContainText('Height of cylinder ↔ Size z of box');
	await select(page, 'box');
	await expect(setting(page, 'Size z')).toHaveValue('3 m');
	// By its name, from the list of commands.
	await page.keyboard.press('Control+k');
	await page.getByPlaceholder('What do you want to do?').fill('tie box.size.x');
	await page.keyboard.press('Enter');
	await page.getByPlaceholder('What it is tied to …').fill('cylinder.radius');
	await evaluated(page, () => page.keyboard.press('Enter'));
	await expect(page.getByTestId('tie')).toHaveCount(2);
});
