import { expect, test } from './test';
import {
	addNode,
	evaluated,
	fitGraph,
	foot,
	input,
	node,
	openEmpty,
	openSample,
	output,
	select,
	settled,
	wire
} from './helpers';
import type { Page } from '@playwright/test';

test.use({ together: true });

const graph = (page: Page) => page.getByRole('region', { name: 'Graph' });
const wires = (page: Page) =>
	page
		.locator('.svelte-flow__edge')
		.evaluateAll((all) => all.map((one) => one.getAttribute('aria-label')).sort());
/** A place of bare ground, in the graph's corner below. */
async function ground(page: Page): Promise<{ x: number; y: number }> {
	const box = (await graph(page).boundingBox())!;
	return { x: box.x + 60, y: box.y + box.height - 60 };
}
async function pick(page: Page, words: string) {
	await evaluated(page, async () => {
		await page.getByRole('combobox', { name: 'Find a node' }).fill(words);
		await page.keyboard.press('Enter');
	});
}

test('from empty: a double click adds, what is added goes into the chain before Result, and lies on nothing', async ({
	page
}) => {
	await openEmpty(page);
	const { x, y } = await ground(page);
	await page.mouse.dblclick(x, y - 200);
	await pick(page, 'grid');
	await addNode(page, 'result');
	await select(page, 'grid');
	await addNode(page, 'twist');
	await addNode(page, 'displace by noise');
	expect(await wires(page)).toEqual([
		'Wire from displaceByNoise, Geometry, to result, Geometry',
		'Wire from grid, Mesh, to twist, Geometry',
		'Wire from twist, Geometry, to displaceByNoise, Geometry'
	]);
	await fitGraph(page);
	const boxes = await Promise.all(
		['grid', 'twist', 'displaceByNoise', 'result'].map(
			async (name) => (await node(page, name).boundingBox())!
		)
	);
	for (const [i, a] of boxes.entries()) {
		if (i) expect(a.x).toBeGreaterThan(boxes[i - 1].x + boxes[i - 1].width);
		expect(Math.abs(a.y - boxes[0].y)).toBeLessThan(2);
	}
	// One undo takes the node and the room that was made for it away.
	await evaluated(page, () => page.keyboard.press('Control+z'));
	expect(await wires(page)).toEqual([
		'Wire from grid, Mesh, to twist, Geometry',
		'Wire from twist, Geometry, to result, Geometry'
	]);
});

test('a wire is put through a node by its menu, bent, straightened, taken to another port and off', async ({
	page
}) => {
	await openEmpty(page);
	await addNode(page, 'grid');
	await addNode(page, 'result');
	await fitGraph(page);
	const knot = page.locator('[data-knot]').first();
	await knot.click({ button: 'right' });
	await page.getByRole('menuitem', { name: 'Bend it here' }).click();
	await knot.click();
	const bend = page.getByRole('button', { name: 'Bend 1 of the wire' });
	const before = (await bend.boundingBox())!;
	await bend.focus();
	for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowDown');
	await expect.poll(async () => (await bend.boundingBox())!.y).toBeGreaterThan(before.y + 10);
	await page.keyboard.press('Delete');
	await expect(bend).toBeHidden();
	// A selected wire and the key of the search: what is picked goes into it.
	await page.keyboard.press('Escape');
	await knot.click();
	await page.keyboard.press('/');
	await expect(page.getByText('Only what fits the wire.')).toBeVisible();
	await pick(page, 'twist');
	expect(await wires(page)).toEqual([
		'Wire from grid, Mesh, to twist, Geometry',
		'Wire from twist, Geometry, to result, Geometry'
	]);
	// An end is taken to another port; on bare ground it is cut.
	await fitGraph(page);
	await page.keyboard.press('Escape');
	const taken = page.locator('[aria-label="Wire from grid, Mesh, to twist, Geometry"]');
	await taken.focus();
	await page.keyboard.press('Enter');
	const end = page.locator('.svelte-flow__edgeupdater-target').first();
	const to = (await input(page, 'result', 'Geometry').boundingBox())!;
	await end.hover();
	await page.mouse.down();
	await page.mouse.move(to.x - 20, to.y, { steps: 4 });
	await page.mouse.move(to.x + to.width / 2, to.y + to.height / 2, { steps: 4 });
	await evaluated(page, () => page.mouse.up());
	expect(await wires(page)).toEqual([
		'Wire from grid, Mesh, to result, Geometry',
		'Wire from twist, Geometry, to result, Geometry'
	]);
	await evaluated(page, () => page.keyboard.press('Control+z'));
	expect((await wires(page)).length).toBe(2);
});

test('a second wire into a full input says what it took the place of; Result takes as many as come', async ({
	page
}) => {
	await openEmpty(page);
	for (const kind of ['box', 'twist']) await addNode(page, kind);
	await page.keyboard.press('Escape');
	const { x, y } = await ground(page);
	await page.mouse.dblclick(x, y);
	await pick(page, 'sphere');
	await page.keyboard.press('1');
	await fitGraph(page);
	await evaluated(page, () => wire(page, output(page, 'sphere', 'Mesh'), input(page, 'twist', 'Geometry')));
	await expect(
		page.getByText('“Geometry” of twist takes one wire: sphere came in the place of box.')
	).toBeVisible();
	expect(await wires(page)).toEqual(['Wire from sphere, Mesh, to twist, Geometry']);
	await graph(page).focus();
	await page.keyboard.press('1');
	await select(page, 'twist');
	await addNode(page, 'result');
	await page.keyboard.press('1');
	await fitGraph(page);
	await evaluated(page, () => wire(page, output(page, 'box', 'Mesh'), input(page, 'result', 'Geometry')));
	expect((await wires(page)).filter((name) => name!.includes('to result')).length).toBe(2);
	await expect(foot(page, 'result')).toHaveText(/^\d+ faces/);
});

test('right clicks open menus; Tab goes from cause to effect; the settings fold and open for a selection', async ({
	page
}) => {
	await openSample(page, 'Reed bed');
	await node(page, 'tide').getByText('tide', { exact: true }).click({ button: 'right' });
	await evaluated(page, () => page.getByRole('menuitem', { name: /^Bypass/ }).click());
	await expect(node(page, 'tide')).toHaveAttribute('data-state', 'bypassed');
	await evaluated(page, () => page.keyboard.press('Control+z'));
	const row = page.locator('[data-setting=strength]');
	await row.getByText('Strength', { exact: true }).click({ button: 'right' });
	await expect(page.getByRole('menuitem', { name: 'From a wire …' })).toBeVisible();
	await page.keyboard.press('Escape');
	const order = await page
		.locator('.svelte-flow__node')
		.evaluateAll((all) =>
			all.map((one) => one.querySelector('.label-name')?.textContent?.trim()).filter(Boolean)
		);
	for (const [before, after] of [
		['mudflat', 'tide'],
		['tide', 'sowing'],
		['sowing', 'reeds'],
		['reeds', 'together'],
		['together', 'result']
	])
		expect(order.indexOf(before)).toBeLessThan(order.indexOf(after));
	const wide = (await graph(page).boundingBox())!.width;
	await page.getByRole('button', { name: 'Fold the settings away' }).click();
	await expect(page.getByRole('button', { name: 'Open the settings' })).toBeVisible();
	expect((await graph(page).boundingBox())!.width).toBeGreaterThan(wide + 180);
	await select(page, 'sowing');
	await expect(page.getByRole('button', { name: 'Open the settings' })).toBeHidden();
	await page.keyboard.press('Escape');
	await graph(page).focus();
	await page.keyboard.press('Escape');
	await page.getByRole('button', { name: 'Open the settings' }).click();
	await expect(page.getByRole('heading', { name: 'Dials' })).toBeVisible();
	await settled(page);
});

test('a number goes through a ramp over a value in one step from its own menu, and one undo takes it back', async ({
	page
}) => {
	await openEmpty(page);
	for (const kind of ['line', 'tube']) await addNode(page, kind);
	await page.getByRole('button', { name: 'Radius: how it is set' }).click();
	await evaluated(page, () => page.getByRole('menuitem', { name: 'Ramp over …' }).click());
	await expect(page.getByRole('textbox', { name: 'Name of the node' })).toHaveValue('remap');
	await expect(page.getByRole('textbox', { name: 'Value, formula' })).toHaveText('u');
	expect(await wires(page)).toContain('Wire from remap, Value, to tube, Radius');
	await expect(foot(page, 'tube')).toHaveText(/faces/);
	await evaluated(page, () => page.keyboard.press('Control+z'));
	expect(await wires(page)).toEqual(['Wire from line, Curve, to tube, Curve']);
});
