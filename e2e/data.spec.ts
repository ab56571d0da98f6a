import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { expect, test } from './test';
import {
	addNode,
	evaluated,
	fitGraph,
	input,
	openEmpty,
	openSample,
	output,
	select,
	setFormula,
	setNumber,
	settled,
	wire
} from './helpers';

test.use({ together: true });

const table = (page: Page) => page.getByRole('table');
const status = (page: Page) => page.getByRole('region', { name: 'Drawer' }).getByRole('status').first();
/** The cells of the first rows in sight, by column. */
const cells = async (page: Page, count: number): Promise<string[][]> => {
	const rows = table(page).getByRole('row');
	const found: string[][] = [];
	for (let i = 1; i <= count; i++) found.push(await rows.nth(i).getByRole('cell').allTextContents());
	return found;
};
async function openData(page: Page): Promise<void> {
	await page.getByRole('button', { name: 'Data', exact: true }).click();
	await expect(table(page).getByRole('row').nth(1)).toBeVisible();
}

test('the table of a node follows the selection and the settings, is sorted, filtered, and a row is marked in the View', async ({
	page
}) => {
	await openSample(page, 'Boardwalk');
	await select(page, 'plankPlaces');
	await openData(page);
	const total = Number((await status(page).textContent())!.replace(/\D/g, ''));
	expect(total).toBeGreaterThan(10);
	await table(page).getByRole('button', { name: 'position x', exact: false }).click();
	await expect(table(page).getByRole('columnheader', { name: /position x/ })).toHaveAttribute(
		'aria-sort',
		'ascending'
	);
	await expect
		.poll(async () => {
			const rising = (await cells(page, 5)).map(([x]) => Number(x));
			return rising.every((x, i) => i === 0 || x >= rising[i - 1]);
		})
		.toBe(true);
	await page.getByRole('textbox', { name: 'Filter rows' }).fill('index < 3');
	await expect(status(page)).toHaveText(`3 of ${total.toLocaleString('en')} rows`);
	await page.getByRole('textbox', { name: 'Filter rows' }).fill('positon.x < 3');
	await expect(status(page)).toContainText('There is no “positon” here. Did you mean “position”?');
	await page.getByRole('textbox', { name: 'Filter rows' }).fill('');
	await table(page).getByRole('row').nth(2).click();
	await expect(table(page).getByRole('row').nth(2)).toHaveAttribute('aria-selected', 'true');
	await page.keyboard.press('ArrowDown');
	await page.keyboard.press('ArrowDown');
	await expect(table(page).getByRole('row').nth(4)).toHaveAttribute('aria-selected', 'true');
	// A click in the View brings the row that stands nearest into sight.
	await table(page).getByRole('row', { selected: true }).click();
	await expect(table(page).getByRole('row', { selected: true })).toHaveCount(0);
	await page.getByLabel('Picture of the result').click();
	await expect(table(page).getByRole('row', { selected: true })).toBeInViewport();
	await page.getByRole('combobox', { name: 'Colour the View by' }).selectOption('position.z');
	await expect(page.getByRole('group', { name: 'Heat map' })).toContainText('position.z');
	await expect(page.getByTestId('heat')).toContainText(' to ');
	await page.getByRole('button', { name: 'Hide the heat map' }).click();
	await expect(page.getByRole('group', { name: 'Heat map' })).toBeHidden();
	const [saved] = await Promise.all([
		page.waitForEvent('download'),
		page.getByRole('button', { name: 'Save CSV' }).click()
	]);
	const lines = readFileSync(await saved.path(), 'utf8')
		.trim()
		.split('\r\n');
	expect(lines).toHaveLength(total + 1);
	expect(lines[0]).toMatch(/^index,position.x,position.y,position.z/);
});

test('a million rows: the end is reached, and they are sorted and filtered', async ({ page }) => {
	await openEmpty(page);
	await addNode(page, 'row of points');
	await setNumber(page, 'Count', '1000000');
	await openData(page);
	await expect(status(page)).toHaveText('1,000,000 rows');
	await table(page).evaluate((element) => (element.scrollTop = element.scrollHeight));
	await expect(table(page).getByRole('rowheader', { name: '999999', exact: true })).toBeVisible();
	await table(page).evaluate((element) => (element.scrollTop = 0));
	await table(page)
		.getByRole('button', { name: /position x/ })
		.click();
	await table(page)
		.getByRole('button', { name: /position x/ })
		.click();
	await expect(table(page).getByRole('rowheader').first()).toHaveText('999999');
	await page.getByRole('textbox', { name: 'Filter rows' }).fill('index % 1000 == 7');
	await expect(status(page)).toHaveText('1,000 of 1,000,000 rows');
	await expect(table(page).getByRole('rowheader').first()).toHaveText('999007');
});

test('a correlated pair is found from the chart, told in a sentence, and mended', async ({ page }) => {
	await openEmpty(page);
	await addNode(page, 'row of points');
	await setNumber(page, 'Count', '2000');
	await addNode(page, 'write attribute');
	await page.getByRole('region', { name: 'Settings' }).getByRole('combobox', { name: 'Name' }).fill('bend');
	await setFormula(page, 'Value', 'random(0, 1, reed)');
	await addNode(page, 'write attribute');
	await page.getByRole('region', { name: 'Settings' }).getByRole('combobox', { name: 'Name' }).fill('turn');
	await setFormula(page, 'Value', 'random(0, 90, reed)');
	await openData(page);
	await page.getByRole('button', { name: 'Charts' }).click();
	const charts = page.getByRole('region', { name: 'Charts' });
	await charts.getByRole('combobox', { name: 'Column', exact: true }).selectOption('bend');
	await charts.getByRole('combobox', { name: 'Other column' }).selectOption('turn');
	await expect(charts.getByRole('status')).toContainText('The same numbers: r = 1.00');
	await evaluated(page, async () => {
		const field = page.getByRole('textbox', { name: 'Value, formula' });
		await field.fill('random(0, 90)');
		await field.press('Enter');
	});
	await expect(charts.getByRole('status')).toContainText('Independent');
});

test('a newcomer’s walk: numbers, two formulas, points with their numbers, a rhythm, cells; a slip is mended from its message', async ({
	page
}) => {
	await openEmpty(page);
	await addNode(page, 'count up');
	await setNumber(page, 'Count', '40');
	await addNode(page, 'points from values');
	await setFormula(page, 'x', 'index * 0.3');
	await setFormula(page, 'z', 'sin(indx / 4)');
	await expect(page.getByRole('region', { name: 'Settings' })).toContainText('Did you mean “index”?');
	await evaluated(page, () => page.getByRole('button', { name: 'Write “index”' }).first().click());
	await expect(page.getByRole('textbox', { name: 'z, formula' })).toHaveText('sin(index / 4)');
	await page.getByRole('button', { name: 'Fit all' }).click();
	await page.getByRole('button', { name: 'Marks on elements' }).click();
	await page.getByRole('checkbox', { name: 'Numbers' }).click();
	await page.keyboard.press('Escape');
	await expect(
		page.getByRole('group', { name: 'Numbers of points' }).getByText('39', { exact: true })
	).toBeVisible();
	await addNode(page, 'keep in rhythm');
	await setNumber(page, 'Keep', '3');
	await setNumber(page, 'Skip', '2');
	await expect(page.locator('[data-node-id]').last().getByTestId('foot')).toHaveText(/^24 points( ·|$)/);
	await addNode(page, 'voronoi cells');
	await expect(page.locator('[data-node-id]').last().getByTestId('foot')).toHaveText(/^24 curves( ·|$)/);
	await openData(page);
	await expect(status(page)).toHaveText('24 rows');
});

test('why is it so: a click on a copy tells its attributes and the nodes that it passed through, and leads to its row', async ({
	page
}) => {
	await openEmpty(page);
	await addNode(page, 'row of points');
	await addNode(page, 'write attribute');
	await page.getByRole('region', { name: 'Settings' }).getByRole('combobox', { name: 'Name' }).fill('tall');
	await setFormula(page, 'Value', 'index * 2');
	await addNode(page, 'place copies');
	await page.keyboard.press('Escape');
	await addNode(page, 'box');
	await fitGraph(page);
	await evaluated(page, () => wire(page, output(page, 'box', 'Mesh'), input(page, 'placeCopies', 'Source')));
	await settled(page);
	await page.getByRole('button', { name: 'Fit all' }).click();
	await page.getByRole('button', { name: 'Why is it so?' }).click();
	const slip = page.getByRole('region', { name: 'Why is it so?' });
	await expect(async () => {
		const place = await page.evaluate(() => {
			const view = (
				window as unknown as {
					embrellView: {
						canvas: HTMLCanvasElement;
						place(x: number, y: number, z: number): { x: number; y: number } | null;
					};
				}
			).embrellView;
			const box = view.canvas.getBoundingClientRect();
			const at = view.place(0, 0.3, 0)!;
			return { x: box.left + at.x, y: box.top + at.y };
		});
		await page.mouse.click(place.x, place.y);
		await expect(slip.getByRole('heading')).toContainText(/Copy\s+\d+/, { timeout: 1000 });
	}).toPass();
	const row = Number(/Copy\s+(\d+)/.exec((await slip.getByRole('heading').textContent())!)![1]);
	await expect(slip.getByRole('list', { name: 'How it came about' }).getByRole('listitem')).toHaveText([
		new RegExp(`is in placeCopies\\s+copy ${row}`),
		new RegExp(`stands on writeAttribute\\s+point ${row}`),
		new RegExp(`made by rowOfPoints\\s+point ${row}`)
	]);
	await expect(slip.locator('dl')).toContainText(`tall ${row * 2}`);
	await slip.getByRole('button', { name: `Point ${row} of writeAttribute in the table` }).click();
	await expect(table(page).locator('[aria-selected="true"]')).toContainText(String(row * 2));
});
