/** Bodies as an artist uses them: into a subgraph and out by keys, a repeat made of nodes, its passes stepped through. */
import type { Page } from '@playwright/test';
import { expect, test } from './test';
import {
	addNode,
	evaluated,
	fitGraph,
	foot,
	node,
	noticesGone,
	openEmpty,
	output,
	select,
	setFormula,
	setNumber
} from './helpers';

test.use({ together: true });

const graph = (page: Page) => page.getByRole('region', { name: 'Graph' });
const path = (page: Page) => page.getByRole('navigation', { name: 'Path of subgraphs' });
const size = (page: Page) => page.getByTestId('size');

test('nodes become a subgraph; into it and out by keys; a setting brought out is set from outside', async ({
	page
}) => {
	await openEmpty(page);
	await addNode(page, 'box');
	await addNode(page, 'transform');
	await expect(foot(page, 'transform')).toHaveText(/6 faces/);
	await graph(page).focus();
	await page.keyboard.press('Control+a');
	await evaluated(page, () => page.getByRole('button', { name: 'Make a subgraph' }).click());
	await expect(foot(page, 'subgraph')).toHaveText(/6 faces/);
	await graph(page).focus();
	await evaluated(page, () => page.keyboard.press('Enter'));
	await expect(path(page).getByRole('button', { name: 'subgraph', exact: true })).toHaveAttribute(
		'aria-current',
		'page'
	);
	await expect(foot(page, 'box')).toHaveText(/6 faces/);
	// A setting of the box becomes one of the subgraph.
	await select(page, 'box');
	await page.getByRole('button', { name: 'Size x: how it is set' }).click();
	await evaluated(page, () => page.getByRole('menuitem', { name: /^Bring out to/ }).click());
	await expect(node(page, 'size')).toBeVisible();
	await graph(page).focus();
	await evaluated(page, () => page.keyboard.press('Shift+Enter'));
	await expect(path(page)).toBeHidden();
	await expect(page.getByRole('textbox', { name: 'Name of the node' })).toHaveValue('subgraph');
	await expect(size(page)).toHaveText('1.00 × 1.00 × 1.00 m');
	await setNumber(page, 'Size x', '3');
	await expect(size(page)).toHaveText('3.00 × 1.00 × 1.00 m');
	// One step back each: the size, the setting brought out, the subgraph.
	await graph(page).focus();
	for (let step = 0; step < 3; step++) await evaluated(page, () => page.keyboard.press('Control+z'));
	await expect(node(page, 'transform')).toBeVisible();
	await expect(size(page)).toHaveText('1.00 × 1.00 × 1.00 m');
});

test('a repeat is made of a node, and its passes are stepped through', async ({ page }) => {
	await openEmpty(page);
	await addNode(page, 'box');
	await addNode(page, 'transform');
	await setNumber(page, 'Move x', '2');
	await graph(page).focus();
	await page.keyboard.press('Control+k');
	await page.getByRole('combobox', { name: 'Commands' }).fill('Make a repeat');
	await evaluated(page, () => page.keyboard.press('Enter'));
	await expect(page.getByRole('textbox', { name: 'Name of the node' })).toHaveValue('repeat');
	await setNumber(page, 'Passes', '5');
	await graph(page).focus();
	await evaluated(page, () => page.keyboard.press('Enter'));
	const pass = path(page).getByRole('spinbutton', { name: 'Pass' });
	await expect(pass).toHaveValue('0');
	await select(page, 'transform');
	await setFormula(page, 'Move y', 'pass * 10');
	await evaluated(page, () => path(page).getByRole('button', { name: 'Pass after' }).click());
	await evaluated(page, () => path(page).getByRole('button', { name: 'Pass after' }).click());
	await expect(pass).toHaveValue('2');
	// The formula is looked at in the pass at hand.
	await page.getByRole('textbox', { name: 'Move y, formula' }).click();
	await expect(page.getByRole('region', { name: 'Settings' })).toContainText('20');
	await graph(page).focus();
	await evaluated(page, () => page.keyboard.press('Shift+Enter'));
	await expect(path(page)).toBeHidden();
});

test('copies that all show the same source are varied by one click, and say so no more', async ({ page }) => {
	await openEmpty(page);
	await addNode(page, 'row of points');
	await addNode(page, 'place copies');
	await graph(page).focus();
	await page.keyboard.press('Escape');
	await addNode(page, 'leaf');
	await page.getByRole('button', { name: 'Length: how it is set' }).click();
	await evaluated(page, () => page.getByRole('menuitem', { name: 'Random: low to high' }).click());
	await select(page, 'placeCopies');
	await page.getByRole('button', { name: 'Connect Source' }).click();
	await evaluated(page, () => page.getByRole('option', { name: 'leaf, Mesh' }).click());
	await evaluated(page, () => page.getByRole('button', { name: 'Vary each copy' }).click());
	await expect(page.getByText('Vary each copy').first()).toBeVisible();
	await expect(page.getByText(/drawn once/)).toBeHidden();
});

test('a stem grows a whorl and leaves, and one level more by one number', async ({ page }) => {
	await openEmpty(page);
	await addNode(page, 'grow branches');
	await setNumber(page, 'Levels', '1');
	await expect(foot(page, 'growBranches')).toHaveText(/7 curves/);
	await setNumber(page, 'Levels', '2');
	await expect(foot(page, 'growBranches')).toHaveText(/43 curves/);
	await addNode(page, 'tube');
	await expect(foot(page, 'tube')).toHaveText(/faces/);
});

test('a wire dropped on the edge of a body makes a port; a body on the shelf is used in another generator', async ({
	page
}) => {
	await openEmpty(page);
	await addNode(page, 'subgraph');
	await graph(page).focus();
	await evaluated(page, () => page.keyboard.press('Enter'));
	await addNode(page, 'sphere');
	// The end of a wire, let go of at the right edge.
	await fitGraph(page);
	const from = (await output(page, 'sphere', 'Mesh').boundingBox())!;
	const pane = (await graph(page).boundingBox())!;
	await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
	await page.mouse.down();
	await page.mouse.move(pane.x + pane.width - 60, pane.y + 300, { steps: 6 });
	await page.mouse.move(pane.x + pane.width - 20, pane.y + 320, { steps: 4 });
	await evaluated(page, () => page.mouse.up());
	await expect(node(page, 'mesh')).toBeVisible();
	await graph(page).focus();
	await page.keyboard.press('Escape');
	await page.getByRole('textbox', { name: 'Name of the subgraph' }).fill('Mooring ball');
	await page.getByRole('textbox', { name: 'Name of the subgraph' }).press('Enter');
	await page.getByRole('textbox', { name: 'Words that find it' }).fill('buoy');
	await page.getByRole('button', { name: 'Put on the shelf' }).click();
	await expect(page.getByText(/“Mooring ball” is on your shelf/)).toBeVisible();
	await openEmpty(page);
	await evaluated(page, async () => {
		await graph(page).focus();
		await page.keyboard.press('/');
		await page.getByRole('combobox', { name: 'Find a node' }).fill('buoy');
		await page.getByRole('option', { name: /Mooring ball/ }).click();
	});
	await expect(foot(page, 'subgraph')).toHaveText(/faces/);
	await expect(page.getByRole('group', { name: 'Body' })).toContainText('Mooring ball');
	// Changed there and put on the shelf anew, it is offered, not taken.
	await graph(page).focus();
	await evaluated(page, () => page.keyboard.press('Enter'));
	await select(page, 'sphere');
	await setNumber(page, 'Radius', '2');
	await graph(page).focus();
	await page.keyboard.press('Escape');
	await noticesGone(page);
	await page.getByRole('button', { name: 'Put the new one on the shelf' }).click();
	await expect(page.getByText(/is on your shelf/)).toBeVisible();
});

test('a draft value stands in while something is dragged, the View says so, and at rest all of it is there', async ({
	page
}) => {
	await openEmpty(page);
	await addNode(page, 'sphere');
	await setNumber(page, 'Segments', '64');
	await expect(foot(page, 'sphere')).toHaveText(/1,024 faces/);
	await page.getByRole('button', { name: 'Segments: how it is set' }).click();
	await page.getByRole('menuitem', { name: 'Draft value while dragging' }).click();
	await setNumber(page, 'Segments, draft value', '8');
	const counts = page.getByTestId('counts');
	await expect(counts).toHaveText(/^1,024 faces/);
	const radius = page.getByRole('spinbutton', { name: 'Radius' });
	const box = (await radius.boundingBox())!;
	await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
	await page.mouse.down();
	await page.mouse.move(box.x + box.width / 2 + 30, box.y + box.height / 2, { steps: 4 });
	await expect(page.getByTestId('draft')).toHaveText('draft while dragging');
	await expect(counts).toHaveText(/^128 faces/);
	await page.mouse.up();
	await expect(counts).toHaveText(/^1,024 faces/);
	await expect(page.getByTestId('draft')).toBeHidden();
	await page.getByRole('button', { name: 'Segments: no draft value' }).click();
	await expect(page.getByRole('spinbutton', { name: 'Segments, draft value' })).toBeHidden();
});

test('an export writes all levels of detail, each as a file', async ({ page }) => {
	await openEmpty(page);
	await addNode(page, 'cylinder');
	await addNode(page, 'level of detail');
	await select(page, 'cylinder');
	await addNode(page, 'result');
	await select(page, 'cylinder');
	await setFormula(page, 'Segments', '32 / 2 ^ levelOfDetail.level');
	await expect(foot(page, 'result')).toHaveText(/34 faces/);
	await page.getByRole('button', { name: 'Export' }).first().click();
	await page.getByRole('dialog').getByLabel('All levels of detail').check();
	const files: string[] = [];
	page.on('download', (download) => files.push(download.suggestedFilename()));
	await page.getByRole('button', { name: 'Export GLB' }).click();
	await expect
		.poll(() => files.map((name) => name.replace(/^.*(-detail)/, '$1')).sort())
		.toEqual(['-detail-0.glb', '-detail-1.glb', '-detail-2.glb']);
});
