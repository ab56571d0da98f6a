/** What moves, tried while it plays: zones, their keys, order, what is latched; markers and cameras in the View. */
import { expect, test } from './test';
import type { Page } from '@playwright/test';
import { addNode, evaluated, openEmpty, openSample, select, setNumber, setting, settled } from './helpers';

test.use({ together: true });

const timeline = (page: Page) => page.getByRole('region', { name: 'Drawer' });
const playhead = (page: Page) => page.getByRole('slider', { name: 'Playhead' });
const hash = (page: Page) => page.locator('[data-hash]').getAttribute('data-hash');
const openTimeline = (page: Page) => page.getByRole('button', { name: 'Timeline', exact: true }).click();
const toFrame = (page: Page, frame: number) => evaluated(page, () => playhead(page).fill(String(frame)));

test('a zone is moved, keyed and inverted while it plays; exchanging noise and follow changes what comes', async ({
	page
}) => {
	await openSample(page, 'Tide organ');
	await openTimeline(page);
	await toFrame(page, 58);
	const before = await hash(page);
	await select(page, 'calm');
	await timeline(page).getByRole('button', { name: 'Play' }).click();
	const head = timeline(page).locator('[data-frame]');
	await expect(head).not.toHaveAttribute('data-frame', '58');
	// Each change comes in while frames go on.
	const field = setting(page, 'Size x');
	await field.fill('9');
	await field.press('Enter');
	await page
		.getByRole('region', { name: 'Settings' })
		.getByRole('switch', { name: 'Invert' })
		.or(page.getByRole('region', { name: 'Settings' }).getByRole('checkbox', { name: 'Invert' }))
		.click();
	await expect(head).toHaveAttribute('data-playing', 'true');
	const at = await head.getAttribute('data-frame');
	await expect(head).not.toHaveAttribute('data-frame', at!);
	await timeline(page).getByRole('button', { name: 'Pause' }).click();
	await settled(page);
	await toFrame(page, 57);
	await toFrame(page, 58);
	const inverted = await hash(page);
	expect(inverted).not.toBe(before);
	// What is set by hand where there are keys becomes a key.
	await expect(timeline(page).getByRole('button', { name: /^Key at frame/ })).toHaveCount(4);
	await setNumber(page, 'Centre z', '3');
	await expect(timeline(page).getByRole('button', { name: 'Key at frame 58' })).toBeVisible();
	await expect(timeline(page).getByRole('button', { name: /^Key at frame/ })).toHaveCount(5);
	await page.keyboard.press('Control+z');
	await settled(page);
	await expect(timeline(page).getByRole('button', { name: /^Key at frame/ })).toHaveCount(4);
	expect(await hash(page)).toBe(inverted);
	// First the follow and then the noise is another movement.
	await evaluated(page, () => page.getByRole('button', { name: 'Show swinging in the View' }).click());
	await page.getByRole('button', { name: 'Order', exact: true }).click();
	const seen = () => page.getByTestId('size').textContent();
	const inOrder = await seen();
	await evaluated(page, () => page.getByRole('button', { name: 'Move swell later' }).click());
	expect(await seen()).not.toBe(inOrder);
	await evaluated(page, () => page.keyboard.press('Control+z'));
	expect(await seen()).toBe(inOrder);
});

test('what a zone has touched stays latched, however the playhead gets there, until it is let fade', async ({
	page
}) => {
	await openSample(page, 'Thatch that lays itself');
	await openTimeline(page);
	await toFrame(page, 90);
	const jumped = await hash(page);
	await toFrame(page, 20);
	await toFrame(page, 89);
	await timeline(page).getByRole('button', { name: 'One frame on' }).click();
	await expect(playhead(page)).toHaveValue('90');
	await settled(page);
	expect(await hash(page)).toBe(jumped);
	await select(page, 'laid');
	await evaluated(page, () =>
		page.getByRole('region', { name: 'Settings' }).getByRole('checkbox', { name: 'Fades' }).click()
	);
	expect(await hash(page)).not.toBe(jumped);
});

test('a marker in the View is clicked and moved; a view is kept as a camera, keyed, and looked through', async ({
	page
}) => {
	await openEmpty(page);
	await addNode(page, 'grid');
	await page.getByRole('region', { name: 'Graph' }).click({ position: { x: 20, y: 300 } });
	await addNode(page, 'marker');
	const marker = page.getByRole('button', { name: 'Marker marker' });
	await expect(marker).toBeVisible();
	const [was, before] = [await marker.boundingBox(), await page.locator('[data-evaluations]').count()];
	expect(before).toBe(1);
	await select(page, 'grid');
	await marker.click();
	await expect(page.getByRole('textbox', { name: 'Name of the node' })).toHaveValue('marker');
	await setNumber(page, 'Position y', '3');
	await expect.poll(async () => (await marker.boundingBox())!.y).toBeLessThan(was!.y - 10);

	await page.getByRole('button', { name: 'Direction of view' }).click();
	await evaluated(page, () => page.getByRole('menuitem', { name: 'Keep this view as a camera' }).click());
	await expect(page.getByRole('button', { name: 'Direction of view' })).toContainText('camera');
	const stand = () =>
		page.evaluate(() => (window as unknown as { embrellView: { seen: unknown } }).embrellView.seen);
	const first = (await stand()) as { position: number[] };
	await expect(setting(page, 'Position x')).not.toHaveValue('6');
	await openTimeline(page);
	await page
		.getByRole('region', { name: 'Settings' })
		.getByRole('button', { name: 'Position x: how it is set' })
		.click();
	await page.getByRole('menuitem', { name: 'Set a key of x, y and z at frame 1', exact: true }).click();
	await toFrame(page, 40);
	await setNumber(page, 'Position y', '20');
	await expect.poll(async () => ((await stand()) as { position: number[] }).position[1]).toBe(20);
	await toFrame(page, 1);
	await expect
		.poll(async () => ((await stand()) as { position: number[] }).position[1])
		.toBeCloseTo(first.position[1], 3);
	// Turned by hand, the View is free again.
	await page.getByRole('region', { name: 'View' }).focus();
	await page.keyboard.press('Alt+t');
	await expect(page.getByRole('button', { name: 'Direction of view' })).not.toContainText('camera');
});
