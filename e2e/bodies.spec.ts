/** Bodies as an artist uses them: into a subgraph and out by keys, a repeat made of nodes, its passes stepped through. */
import { expect, test } from '@playwright/test';
import { addNode, evaluated, foot, node, openEmpty, select, setNumber } from './helpers';

const graph = (page: import('@playwright/test').Page) => page.getByRole('region', { name: 'Graph' });
const path = (page: import('@playwright/test').Page) => page.getByRole('navigation', { name: 'Path of subgraphs' });

test('nodes become a subgraph; into it and out by keys; a setting brought out is set from outside', async ({ page }) => {
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
	await expect(path(page).getByRole('button', { name: 'subgraph', exact: true })).toHaveAttribute('aria-current', 'page');
	await expect(node(page, 'transform')).toBeVisible();
	await expect(foot(page, 'box')).toHaveText(/6 faces/);
	// A setting of the box becomes one of the subgraph.
	await select(page, 'box');
	await page.getByRole('button', { name: 'Width: how it is set' }).or(page.getByRole('button', { name: 'Size: how it is set' })).first().click();
	await evaluated(page, () => page.getByRole('menuitem', { name: /^Bring out to/ }).click());
	await expect(node(page, 'size')).toBeVisible();
	await graph(page).focus();
	await evaluated(page, () => page.keyboard.press('Shift+Enter'));
	await expect(path(page)).toBeHidden();
	await expect(page.getByRole('textbox', { name: 'Name of the node' })).toHaveValue('subgraph');
	await expect(page.getByTestId('size')).toHaveText('1.00 × 1.00 × 1.00 m');
	await setNumber(page, 'Size x', '3');
	await expect(page.getByTestId('size')).toHaveText('3.00 × 1.00 × 1.00 m');
	// One step back each: the size, the setting brought out, the subgraph.
	await graph(page).focus();
	await evaluated(page, () => page.keyboard.press('Control+z'));
	await evaluated(page, () => page.keyboard.press('Control+z'));
	await evaluated(page, () => page.keyboard.press('Control+z'));
	await expect(node(page, 'transform')).toBeVisible();
	await expect(page.getByTestId('size')).toHaveText('1.00 × 1.00 × 1.00 m');
});

test('a repeat is made of nodes, and its passes are stepped through', async ({ page }) => {
	await openEmpty(page);
	await addNode(page, 'box');
	await addNode(page, 'transform');
	await setNumber(page, 'Move x', '2');
	await evaluated(page, () => page.getByRole('button', { name: 'Make a repeat' }).or(graph(page)).first().focus());
});
