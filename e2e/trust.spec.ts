/** What an artist trusts the program with: pictures that stay, files that travel along, changes that are kept. */
import type { Page } from '@playwright/test';
import { PICTURES, expect, test } from './test';
import {
	addNode,
	evaluated,
	foot,
	node,
	openEmpty,
	openSample,
	select,
	setFormula,
	setNumber,
	setting,
	settled,
	tidyUp
} from './helpers';

test.use({ together: true });

const LANDING = 'v 0 0 0\nv 4 0 0\nv 4 0 3\nv 0 0 3\nf 1 4 3 2\n';
const chooseFile = (page: Page, name: string, text: string) =>
	page.getByLabel('File', { exact: true }).setInputFiles({
		name,
		mimeType: 'text/plain',
		buffer: Buffer.from(text)
	});
const graph = (page: Page) => page.getByRole('region', { name: 'Graph' });

/** How much of the View is neither ground nor grid. */
const drawn = (page: Page) =>
	page.evaluate(async () => {
		const view = (
			window as unknown as {
				embrellView: {
					picture(wanted: {
						width: number;
						height: number;
						transparent: boolean;
						samples: number;
					}): Promise<Blob>;
				};
			}
		).embrellView;
		const bitmap = await createImageBitmap(
			await view.picture({ width: 120, height: 80, transparent: true, samples: 8 })
		);
		const context = new OffscreenCanvas(120, 80).getContext('2d')!;
		context.drawImage(bitmap, 0, 0);
		const { data } = context.getImageData(0, 0, 120, 80);
		return data.filter((alpha, i) => i % 4 === 3 && alpha > 200).length;
	});

test(
	'the last good picture stays while a node has no result, and the missing node is one button away',
	{ tag: PICTURES },
	async ({ page }) => {
		await openEmpty(page);
		await addNode(page, 'grid');
		await addNode(page, 'sow');
		const before = await drawn(page);
		expect(before).toBeGreaterThan(50);
		await addNode(page, 'place copies');
		const word = page.getByRole('region', { name: 'View' }).getByRole('status');
		await expect(word).toHaveText('The last good picture. placeCopies: Connect geometry to “Source”.');
		expect(await drawn(page)).toBeGreaterThan(before / 2);
		await page.getByRole('button', { name: 'Connect Source' }).click();
		await page.getByRole('option', { name: 'A new node …' }).click();
		await page.getByRole('combobox', { name: 'Find a node' }).fill('cylinder');
		await evaluated(page, () => page.keyboard.press('Enter'));
		await expect(foot(page, 'placeCopies')).toHaveText(/^1,000 copies/);
		await expect(word).toBeHidden();
		// An error later on keeps the copies in sight, too.
		await select(page, 'cylinder');
		const copies = await drawn(page);
		await setFormula(page, 'Height', 'heihgt + 1');
		await expect(node(page, 'cylinder')).toHaveAttribute('data-state', 'error');
		await expect(word).toContainText(
			'The last good picture. cylinder: “Height” is one value for the whole node'
		);
		expect(await drawn(page)).toBeGreaterThan(copies * 0.8);
		// Without a node selected, what needs a look is listed, and each entry leads to its node.
		await graph(page).focus();
		await page.keyboard.press('Escape');
		const list = page.getByRole('region', { name: 'Settings' }).getByRole('listitem');
		await expect(list).toHaveCount(1);
		await list.getByRole('button').click();
		await expect(page.getByRole('textbox', { name: 'Name of the node' })).toHaveValue('cylinder');
		await page.keyboard.press('Control+a');
		await expect(page.getByRole('heading', { name: '4 selected' })).toBeVisible();
	}
);

test('a misspelt name in a formula is mended with one click, at the setting where it stands', async ({
	page
}) => {
	await openEmpty(page);
	await addNode(page, 'grid');
	await addNode(page, 'displace');
	const field = page.getByRole('textbox', { name: 'Amount, formula' });
	const type = (text: string) => setFormula(page, 'Amount', text);
	await type('0.3 * noise(positon) + positon.x');
	const row = page.locator('[data-setting="amount"]');
	await expect(row.getByRole('alert')).toContainText('There is no “positon” here. Did you mean “position”?');
	await evaluated(page, () => page.getByRole('button', { name: 'Write “position”' }).click());
	await expect(field).toHaveText('0.3 * noise(position) + position.x');
	await expect(node(page, 'displace')).toHaveAttribute('data-state', 'fresh');
	// Roots of negatives are counted, and nothing breaks.
	await type('sqrt(position.x)');
	await expect(page.getByText(/For 210 values of 441 the calculation has no answer/)).toBeVisible();
	await expect(page.getByTestId('size')).not.toContainText('NaN');
	await type('sqrt(abs(position.x))');
	await expect(page.getByText(/has no answer/)).toBeHidden();
});

test.describe('where nothing else was made', () => {
	test.use({ together: false });

	test('an imported mesh travels with its node into another generator, and stays when the first one goes', async ({
		page,
		context
	}) => {
		await context.grantPermissions(['clipboard-read', 'clipboard-write']);
		await openEmpty(page);
		await addNode(page, 'import mesh');
		await evaluated(page, () => chooseFile(page, 'landing.obj', LANDING));
		await expect(foot(page, 'importMesh')).toHaveText(/^1 face\b/);
		await graph(page).focus();
		await page.keyboard.press('Control+c');
		await expect(page.getByTestId('saved')).toHaveText('Saved');
		await openEmpty(page);
		await graph(page).focus();
		await evaluated(page, () => page.keyboard.press('Control+v'));
		await expect(foot(page, 'importMesh')).toHaveText(/^1 face\b/);
		await expect(page.getByTestId('saved')).toHaveText('Saved');
		const second = page.url();
		// The first generator is deleted; files that none reads any more are taken away when the Library opens again.
		await page.getByRole('textbox', { name: 'Name of the generator' }).fill('Landing');
		await page.keyboard.press('Enter');
		await expect(page.getByTestId('saved')).toHaveText('Saved');
		await page.goto('/');
		await page.getByRole('button', { name: 'What to do with Untitled generator' }).click();
		await page.getByRole('menuitem', { name: 'Delete' }).click();
		await expect(page.getByText('“Untitled generator” was deleted.')).toBeVisible();
		await page.reload();
		await expect(page.getByRole('link', { name: 'Open Landing' })).toBeVisible();
		await page.goto(second);
		await settled(page);
		await expect(foot(page, 'importMesh')).toHaveText(/^1 face\b/);
	});
});

test('a full disk is told at once, nothing is lost on the screen, and saving goes on when there is room', async ({
	page
}) => {
	await openEmpty(page);
	await addNode(page, 'box');
	await expect(page.getByTestId('saved')).toHaveText('Saved');
	await page.evaluate(() => {
		const put = IDBObjectStore.prototype.put;
		(window as unknown as { room: () => void }).room = () => (IDBObjectStore.prototype.put = put);
		IDBObjectStore.prototype.put = () => {
			throw new DOMException('Full', 'QuotaExceededError');
		};
	});
	await addNode(page, 'transform');
	await expect(page.getByTestId('saved')).toHaveText('Not saved');
	const word = page.getByRole('alert').filter({ hasText: 'The disk is full' });
	await expect(word).toBeVisible();
	const file = page.waitForEvent('download');
	await word.getByRole('button', { name: 'Save as a file' }).click();
	expect((await file).suggestedFilename()).toBe('untitled-generator.embrell.json');
	await page.evaluate(() => (window as unknown as { room: () => void }).room());
	await setNumber(page, 'Move x', '2');
	await expect(page.getByTestId('saved')).toHaveText('Saved');
	await page.reload();
	await settled(page);
	await select(page, 'transform');
	await expect(setting(page, 'Move x')).toHaveValue('2 m');
});

test('every action is undone: settings, wires, names, notes, eyes, kinds and what is deleted', async ({
	page
}) => {
	await openSample(page, 'Boardwalk');
	const hash = await page.locator('[data-hash]').getAttribute('data-hash');
	const undo = page.getByRole('button', { name: /^Undo/ });
	await select(page, 'planks');
	const actions: (() => Promise<unknown>)[] = [
		() => page.getByRole('button', { name: 'Add a note' }).click(),
		() => page.keyboard.press('Shift+h'),
		() => page.keyboard.press('Control+d'),
		() => page.keyboard.press('h'),
		() => tidyUp(page),
		() => page.keyboard.press('Delete')
	];
	for (const [i, act] of actions.entries()) {
		if (i) {
			await graph(page).focus();
			await page.keyboard.press('Escape');
			await select(page, 'planks');
			await graph(page).focus();
		}
		await act();
	}
	await page.getByRole('textbox', { name: 'Name of the generator' }).fill('Long walk');
	await page.keyboard.press('Enter');
	for (let i = 0; i < 40 && (await undo.isEnabled()); i++) await undo.click();
	await expect(undo).toBeDisabled();
	await settled(page);
	await expect(page.locator('[data-hash]')).toHaveAttribute('data-hash', hash!);
	await expect(page.getByRole('textbox', { name: 'Name of the generator' })).toHaveValue('Boardwalk');
	const redo = page.getByRole('button', { name: /^Redo/ });
	for (let i = 0; i < 40 && (await redo.isEnabled()); i++) await redo.click();
	await expect(page.getByRole('textbox', { name: 'Name of the generator' })).toHaveValue('Long walk');
});

test('ten thousand copies are shown, counted and fitted, in a pane of any shape', async ({ page }) => {
	await openEmpty(page);
	await addNode(page, 'grid of points');
	await setNumber(page, 'Count along x', '100');
	await setNumber(page, 'Count along z', '100');
	await addNode(page, 'place copies');
	await page.getByRole('button', { name: 'Connect Source' }).click();
	await page.getByRole('option', { name: 'A new node …' }).click();
	await page.getByRole('combobox', { name: 'Find a node' }).fill('box');
	await evaluated(page, () => page.keyboard.press('Enter'));
	await expect(page.getByTestId('counts')).toHaveText('10,000 copies');
	const insideOf = () =>
		page.evaluate(() => {
			const view = (
				window as unknown as {
					embrellView: { isInSight(box: { low: number[]; high: number[] }): boolean };
				}
			).embrellView;
			return view.isInSight({ low: [-50, -0.5, -50], high: [50, 0.5, 50] });
		});
	await page.getByRole('region', { name: 'View' }).focus();
	for (const [width, keys] of [
		[1280, []],
		[900, ['Alt+t']],
		[1280, ['3', 'Alt+n']],
		[700, ['Alt+p']]
	] as const) {
		await page.setViewportSize({ width, height: 800 });
		for (const key of keys) await page.keyboard.press(key);
		await page.getByRole('region', { name: 'View' }).focus();
		await page.keyboard.press('Shift+F');
		await expect.poll(insideOf).toBe(true);
	}
});

test('a graph is wired from the keyboard alone: inputs choose among what fits', async ({ page }) => {
	await openEmpty(page);
	await addNode(page, 'grid');
	await addNode(page, 'sow');
	await addNode(page, 'place copies');
	await graph(page).focus();
	await page.keyboard.press('Escape');
	await addNode(page, 'cylinder');
	await graph(page).focus();
	await page.keyboard.press('Escape');
	await addNode(page, 'number');
	await select(page, 'placeCopies');
	const wireOf = page.getByRole('button', { name: 'Connect Source' });
	await wireOf.focus();
	await page.keyboard.press('Enter');
	// What comes from the node itself, or would make a circle, is not offered.
	const from = page.getByRole('combobox', { name: 'From which node' });
	await expect(from).toBeFocused();
	await expect(page.getByRole('option', { name: 'placeCopies, Copies' })).toHaveCount(0);
	await expect(page.getByRole('option', { name: 'grid, Mesh' })).toBeVisible();
	await page.keyboard.type('cyl');
	await expect(page.getByRole('option', { name: 'grid, Mesh' })).toHaveCount(0);
	await evaluated(page, () => page.keyboard.press('Enter'));
	await expect(foot(page, 'placeCopies')).toHaveText(/^1,000 copies/);
	await expect(page.getByRole('button', { name: 'Disconnect cylinder, Mesh' })).toBeVisible();
	// A number comes from a wire by the menu beside it.
	await select(page, 'cylinder');
	await page.getByRole('button', { name: 'Height: how it is set' }).focus();
	await page.keyboard.press('Enter');
	await page.getByRole('menuitem', { name: 'From a wire …' }).focus();
	await page.keyboard.press('Enter');
	await expect(from).toBeFocused();
	await page.keyboard.type('numb');
	await expect(page.getByRole('option', { name: 'number, Value' })).toHaveAttribute('aria-selected', 'true');
	await evaluated(page, () => page.keyboard.press('Enter'));
	await expect(page.getByRole('button', { name: 'Disconnect number, Value' })).toBeVisible();
});

test('nodes are reached, chosen and moved by keys; what was moved is one step of undo', async ({ page }) => {
	await openSample(page, 'Boardwalk');
	const box = page.locator('.svelte-flow__node').filter({ has: node(page, 'course') });
	await expect(box).toBeVisible();
	await graph(page).focus();
	for (let i = 0; i < 40; i++) {
		await page.keyboard.press('Tab');
		if (await box.evaluate((element) => element === document.activeElement)) break;
	}
	await expect(box).toBeFocused();
	await page.keyboard.press('Enter');
	await expect(page.getByRole('textbox', { name: 'Name of the node' })).toHaveValue('course');
	const before = await box.boundingBox();
	for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowDown');
	await expect(page.getByRole('button', { name: 'Undo: Move' })).toBeEnabled();
	await expect.poll(async () => (await box.boundingBox())!.y).toBeGreaterThan(before!.y + 4);
	await expect(page.getByTestId('saved')).toHaveText('Saved');
	await page.getByRole('button', { name: 'Undo: Move' }).click();
	await expect.poll(async () => Math.round((await box.boundingBox())!.y)).toBe(Math.round(before!.y));
	await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeDisabled();
});
