import type { Page } from '@playwright/test';
import { expect, test } from './test';
import { encode } from 'fast-png';
import {
	fitGraph,
	addNode,
	choose,
	evaluated,
	foot,
	node,
	openEmpty,
	select,
	settled,
	noticesGone,
	toLibrary
} from './helpers';

test.use({ together: true });

interface View {
	project(point: unknown): { x: number; y: number };
	controls: { target: { clone(): { set(x: number, y: number, z: number): unknown } } };
}

/** Where a place in space stands on the page. */
async function onPage(page: Page, x: number, y: number, z: number): Promise<{ x: number; y: number }> {
	const box = (await page.getByLabel('Picture of the result').boundingBox())!;
	const at = await page.evaluate(
		(p) => {
			const view = (window as unknown as { embrellView: View }).embrellView;
			return view.project(view.controls.target.clone().set(...(p as [number, number, number])));
		},
		[x, y, z]
	);
	return { x: box.x + at.x, y: box.y + at.y };
}

let opened = 0;

/** Opens a generator from a file, under a name of its own. */
async function openDocument(page: Page, nodes: object[], wires: object[], view = {}): Promise<void> {
	await toLibrary(page);
	const name = `Mud bank ${++opened}`;
	const text = JSON.stringify({
		format: 'embrell',
		version: 1,
		name,
		seed: 1,
		unit: 'm',
		graphs: { main: { nodes, wires, notes: [] } },
		view
	});
	await page
		.getByLabel('Generator files')
		.setInputFiles({ name: 'bank.embrell.json', mimeType: 'application/json', buffer: Buffer.from(text) });
	await page.getByRole('link', { name: `Open ${name}`, exact: true }).click();
	await page.waitForURL(/build/);
	await settled(page);
	await noticesGone(page);
}
const row = (id: string, kind: string, at: [number, number], settings = {}) => ({
	id,
	kind,
	short: id,
	at,
	settings,
	stream: id
});
const wire = (from: string, to: string) => ({ from: from.split('.'), to: to.split('.') });
/** The lowest, highest and mean number of the heat map. */
const heat = async (page: Page) =>
	(await page.getByTestId('heat').textContent())!.match(/-?[\d.]+/g)!.map(Number);

test('a curve is drawn with the mouse, weighs, is flipped; its ramp is edited and swapped; all seen as numbers', async ({
	page
}) => {
	await openDocument(
		page,
		[
			row('path', 'draw-curve', [0, 0], { type: 'straight' }),
			row('flat', 'grid', [0, 200], { width: 8, depth: 2, columns: 80, rows: 20 }),
			row('along', 'weight-along-curve', [240, 0]),
			row('steps', 'ramp', [0, 400], {
				ramp: {
					stops: [
						{ at: 0, value: 0.5, easing: 'held' },
						{ at: 1, value: 0.5, easing: 'held' }
					]
				}
			}),
			row('lift', 'displace', [480, 120], { amount: 0 }),
			row('result', 'result', [720, 120])
		],
		[
			wire('path.curve', 'along.curve'),
			wire('flat.mesh', 'lift.geometry'),
			wire('along.weight', 'lift.weight'),
			wire('lift.geometry', 'result.geometry')
		],
		{ heat: ['along', 'weight'], shown: [], ghosts: [] }
	);
	await select(page, 'path');
	await page.getByRole('region', { name: 'View' }).focus();
	await page.keyboard.press('Alt+t');
	await page.getByRole('button', { name: 'Fit all' }).click();
	await page.getByRole('button', { name: 'Draw', exact: true }).click();
	for (const [x, z] of [
		[-4, 0],
		[4, 0]
	]) {
		const at = await onPage(page, x, 0, z);
		await evaluated(page, () => page.mouse.click(at.x, at.y));
	}
	await page.getByRole('button', { name: 'Done' }).click();
	await expect(page.getByRole('textbox', { name: 'Point 2 x, metres' })).toHaveValue(/^(3\.9|4)/);
	const [low, high, mean] = await heat(page);
	expect(low).toBeLessThan(0.02);
	expect(high).toBeGreaterThan(0.98);
	expect(Math.abs(mean - 0.5)).toBeLessThan(0.02);
	// Its second point dragged to the middle: half of the sheet lies past its end.
	const from = await onPage(page, 4, 0, 0),
		to = await onPage(page, 0, 0, 0);
	await page.mouse.move(from.x, from.y);
	await page.mouse.down();
	await page.mouse.move((from.x + to.x) / 2, to.y, { steps: 4 });
	await evaluated(page, async () => {
		await page.mouse.move(to.x, to.y, { steps: 4 });
		await page.mouse.up();
	});
	await expect.poll(async () => Math.round((await heat(page))[2] * 20) / 20).toBe(0.75);
	// Flipped, three quarters become one quarter.
	await select(page, 'along');
	await evaluated(page, () => page.getByRole('checkbox', { name: 'Reverse' }).check());
	await expect.poll(async () => Math.round((await heat(page))[2] * 20) / 20).toBe(0.25);
	// The ramp's last stop dragged down halves what is left.
	await page.getByRole('button', { name: 'Ramp along: edit the ramp' }).click();
	const stop = page.getByRole('button', { name: 'Stop 2 at 1, 1' });
	const chart = (await page.getByRole('group', { name: 'Chart of the ramp' }).boundingBox())!;
	await stop.hover();
	await page.mouse.down();
	await page.mouse.move(chart.x + chart.width, chart.y + chart.height * 0.25, { steps: 3 });
	await evaluated(page, async () => {
		await page.mouse.move(chart.x + chart.width, chart.y + chart.height * 0.5, { steps: 3 });
		await page.mouse.up();
	});
	await expect.poll(async () => Math.round((await heat(page))[1] * 20) / 20).toBe(0.5);
	await page.getByRole('region', { name: 'Graph' }).focus();
	await evaluated(page, () => page.keyboard.press('Control+z'));
	await expect.poll(async () => (await heat(page))[1]).toBeGreaterThan(0.95);
	// Another ramp by a wire.
	await fitGraph(page);
	await node(page, 'steps').hover();
	const output = page.getByLabel('Output Ramp of steps');
	await output.hover();
	await page.mouse.down();
	const target = (await node(page, 'along').boundingBox())!;
	await page.mouse.move(target.x + 40, target.y + 20, { steps: 6 });
	await page.mouse.up();
	const choose = page.getByRole('menuitem', { name: 'Along', exact: true });
	if (await choose.isVisible().catch(() => false)) await choose.click();
	await expect.poll(async () => await heat(page)).toEqual([0.5, 0.5, 0.5]);
});

test('a zone is dragged in the View, and the heat map follows', async ({ page }) => {
	await openDocument(
		page,
		[
			row('flat', 'grid', [0, 0], { width: 8, depth: 2, columns: 80, rows: 20 }),
			row('zone', 'weight-in-zone', [0, 200], { shape: 'box', size: [2, 2, 2], inner: 0, outer: 0 }),
			row('result', 'result', [240, 0])
		],
		[wire('flat.mesh', 'result.geometry')],
		{ heat: ['zone', 'weight'], shown: [], ghosts: [] }
	);
	const before = (await heat(page))[2];
	expect(before).toBeGreaterThan(0.2);
	await select(page, 'zone');
	await page.getByRole('region', { name: 'View' }).focus();
	await page.keyboard.press('Alt+n');
	await page.getByRole('button', { name: 'Fit all' }).click();
	await page.getByRole('button', { name: 'Move handles' }).click();
	const from = await onPage(page, 0, 0, 0),
		right = await onPage(page, 1, 0, 0);
	const length = right.x - from.x;
	const grip = from.x + 0.5 * Math.min(length, 120);
	await page.mouse.move(grip, from.y);
	await page.mouse.down();
	await page.mouse.move(grip + 2 * length, from.y, { steps: 6 });
	await evaluated(page, async () => {
		await page.mouse.move(grip + 4 * length, from.y, { steps: 6 });
		await page.mouse.up();
	});
	// Half of the zone hangs over the end of the sheet.
	await expect.poll(async () => Math.abs((await heat(page))[2] - before / 2)).toBeLessThan(0.03);
});

test('the order of noise and zone on copies is changed in the drawer, and sizes differ', async ({ page }) => {
	await openDocument(
		page,
		[
			row('box', 'box', [0, 0], { size: [0.1, 0.1, 0.1] }),
			row('row', 'row-of-points', [0, 200], { count: 11 }),
			row('copies', 'place-copies', [240, 100]),
			row('patches', 'weight-by-noise', [240, 300], { from: 0, to: 1 }),
			row('zone', 'weight-in-zone', [480, 300], { size: [4, 4, 4] }),
			row('noise', 'transform', [480, 100], { about: 'own', onCopies: 'add', scale: [4, 4, 4] }),
			row('near', 'transform', [720, 100], { about: 'own', onCopies: 'multiply', scale: [3, 3, 3] }),
			row('result', 'result', [960, 100])
		],
		[
			wire('box.mesh', 'copies.source'),
			wire('row.points', 'copies.points'),
			wire('copies.copies', 'noise.geometry'),
			wire('patches.weight', 'noise.weight'),
			wire('noise.geometry', 'near.geometry'),
			wire('zone.weight', 'near.weight'),
			wire('near.geometry', 'result.geometry')
		]
	);
	const hash = () => page.locator('[data-hash]').getAttribute('data-hash');
	const size = () => page.getByTestId('size').textContent();
	const [first, firstSize] = [await hash(), await size()];
	await page.getByRole('button', { name: 'Order', exact: true }).click();
	const links = page.getByRole('list', { name: /Chain that leads to/ }).getByRole('listitem');
	await expect(links).toHaveCount(5);
	await noticesGone(page);
	await evaluated(page, () => page.getByRole('button', { name: 'Move noise later' }).click());
	await expect(links.nth(2)).toContainText('near');
	expect(await hash()).not.toBe(first);
	expect(await size()).not.toBe(firstSize);
	// Dragged back.
	await evaluated(page, () => links.nth(3).dragTo(links.nth(2)));
	await expect(links.nth(2)).toContainText('noise');
	expect(await hash()).toBe(first);
	await page.getByRole('button', { name: 'Move noise earlier' }).click();
	await expect(page.getByText(/copies stands between/).first()).toBeVisible();
});

test('a weight node is seen by its eye, and says when it cannot be', async ({ page }) => {
	await openEmpty(page);
	await addNode(page, 'grid');
	await addNode(page, 'result');
	await page.getByRole('region', { name: 'Graph' }).click({ position: { x: 20, y: 300 } });
	await addNode(page, 'Weight by slope');
	await evaluated(page, () =>
		page.getByRole('button', { name: 'Show weightBySlope in the View as a heat map' }).click()
	);
	await expect(page.getByTestId('heat')).toHaveText('0 to 0, mean 0');
	await page.getByRole('button', { name: 'Hide the heat map' }).click();
	await expect(page.getByRole('group', { name: 'Heat map' })).toBeHidden();
});

test('a drawn curve is split in two, its parts are moved apart, undone and joined again', async ({
	page
}) => {
	const at = (x: number) => ({ at: [x, 0, 0] });
	await openDocument(
		page,
		[
			row('path', 'draw-curve', [0, 0], { type: 'straight', path: { path: [at(-2), at(0), at(2)] } }),
			row('result', 'result', [300, 0])
		],
		[wire('path.curve', 'result.geometry')]
	);
	await select(page, 'path');
	await page.getByRole('region', { name: 'View' }).focus();
	await page.keyboard.press('Alt+t');
	await page.getByRole('button', { name: 'Fit all' }).click();
	await page.getByRole('button', { name: 'Point 1 of path' }).click();
	await expect(page.getByRole('button', { name: 'Split' })).toBeDisabled();
	await page.getByRole('button', { name: 'Point 2 of path' }).click();
	await evaluated(page, () => page.getByRole('button', { name: 'Split' }).click());
	await expect(foot(page, 'path')).toContainText('2 curves');
	await expect(page.getByText('the next curve')).toBeVisible();
	// Four points now; the last goes aside with its own curve alone.
	const x4 = page.getByRole('textbox', { name: 'Point 4 z, metres' });
	await x4.fill('1');
	await evaluated(page, () => x4.press('Enter'));
	await expect(page.getByRole('textbox', { name: 'Point 2 z, metres' })).toHaveValue('0');
	// Both ends lie at one place; the later one is on top, and either joins.
	await page.getByRole('button', { name: 'Point 3 of path' }).click();
	await evaluated(page, () => page.getByRole('button', { name: 'Join' }).click());
	await expect(foot(page, 'path')).not.toContainText('2 curves');
	await expect(page.getByRole('button', { name: 'Point 4 of path' })).toHaveCount(0);
	await page.getByRole('region', { name: 'Graph' }).focus();
	for (let undone = 0; undone < 3; undone++) await evaluated(page, () => page.keyboard.press('Control+z'));
	await expect(page.getByRole('textbox', { name: 'Point 3 z, metres' })).toHaveValue('0');
	await expect(page.getByText('the next curve')).toHaveCount(0);
});

test('a picture becomes a weight; one that is none is refused in a sentence and changes nothing', async ({
	page
}) => {
	await openDocument(
		page,
		[
			row('bank', 'grid', [0, 0], { width: 4, depth: 4, columns: 40, rows: 40 }),
			row('mask', 'weight-by-pattern', [0, 220], { pattern: 'picture', width: 4, height: 4 }),
			row('lift', 'displace', [300, 0], { amount: 0.2 }),
			row('result', 'result', [600, 0])
		],
		[
			wire('bank.mesh', 'lift.geometry'),
			wire('mask.weight', 'lift.weight'),
			wire('lift.geometry', 'result.geometry')
		],
		{ heat: ['mask', 'weight'], shown: [], ghosts: [] }
	);
	await select(page, 'mask');
	const chooseFile = (name: string, buffer: Buffer) =>
		page.getByLabel('Picture', { exact: true }).setInputFiles({ name, mimeType: 'image/png', buffer });
	await chooseFile('shells.png', Buffer.from('not a picture at all'));
	await expect(page.getByText('shells.png is not a PNG or JPEG picture')).toBeVisible();
	await chooseFile('shells.obj', Buffer.from('v 0 0 0'));
	await expect(page.getByText('is a mesh. It is read by “Import mesh”.')).toBeVisible();
	// Without a picture it weighs nothing.
	await expect(foot(page, 'mask')).toHaveText(/^0\b/);
	// A quarter of it is white.
	const data = Uint8Array.from({ length: 64 }, (_, i) => (i % 8 < 4 && i < 32 ? 255 : 0));
	await evaluated(page, () =>
		chooseFile('shells.png', Buffer.from(encode({ width: 8, height: 8, channels: 1, data })))
	);
	await expect(page.getByText('shells.png', { exact: true })).toBeVisible();
	await expect.poll(async () => Math.round((await heat(page))[2] * 20) / 20).toBe(0.25);
	// Another channel: opacity is 1 everywhere.
	await evaluated(page, () => choose(page, 'Channel', 'Opacity'));
	await expect.poll(async () => (await heat(page))[0]).toBe(1);
	// The picture is kept with the generator.
	await page.getByRole('region', { name: 'Graph' }).focus();
	await evaluated(page, () => page.keyboard.press('Control+z'));
	await expect(page.getByText('Saved', { exact: true })).toBeVisible();
	await page.reload();
	await settled(page);
	await expect.poll(async () => Math.round((await heat(page))[2] * 20) / 20).toBe(0.25);
});

test('a drawn curve of five thousand points shows its first hundred in the table, and more when asked', async ({
	page
}) => {
	const path = Array.from({ length: 5000 }, (_, i) => ({ at: [i / 100, Math.sin(i / 50), 0] }));
	await openDocument(
		page,
		[
			row('path', 'draw-curve', [0, 0], { type: 'straight', path: { path } }),
			row('result', 'result', [300, 0])
		],
		[wire('path.curve', 'result.geometry')]
	);
	await select(page, 'path');
	await expect(page.getByRole('textbox', { name: 'Point 100 x, metres' })).toHaveValue('0.99');
	await expect(page.getByRole('textbox', { name: 'Point 101 x, metres' })).toHaveCount(0);
	await page.getByRole('button', { name: '4,900 more points: show 100' }).click();
	await expect(page.getByRole('textbox', { name: 'Point 200 x, metres' })).toHaveValue('1.99');
});
