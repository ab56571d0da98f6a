import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { expect, test } from './test';
import {
	fitGraph,
	addNode,
	evaluated,
	foot,
	input,
	node,
	openEmpty,
	output,
	select,
	setNumber,
	setting,
	tidyUp,
	wire
} from './helpers';

test.use({ together: true });

interface View {
	look(direction: string): void;
	project(point: unknown): { x: number; y: number };
	controls: { target: { clone(): { set(x: number, y: number, z: number): unknown } } };
	scene: unknown;
}
const VIEW = 'embrellView';

/** Where a place in space stands on the page. */
async function onPage(page: Page, x: number, y: number, z: number): Promise<{ x: number; y: number }> {
	const box = (await page.getByLabel('Picture of the result').boundingBox())!;
	const at = await page.evaluate(
		([name, ...p]) => {
			const view = (window as unknown as Record<string, View>)[name as string];
			return view.project(view.controls.target.clone().set(...(p as [number, number, number])));
		},
		[VIEW, x, y, z] as const
	);
	return { x: box.x + at.x, y: box.y + at.y };
}
const view = (page: Page) => page.getByRole('region', { name: 'View' });

test('handles move what the node places, as one step that undo takes back', async ({ page }) => {
	await openEmpty(page);
	await addNode(page, 'box');
	await addNode(page, 'transform');
	await select(page, 'transform');
	await page.getByRole('button', { name: 'Fit all' }).click();
	await view(page).focus();
	await page.keyboard.press('Alt+n');
	await page.getByRole('button', { name: 'Move handles' }).click();
	const from = await onPage(page, 0, 0, 0);
	const right = await onPage(page, 1, 0, 0);
	const length = right.x - from.x;
	// The arrow along x is grabbed a little way from its foot.
	await page.mouse.move(from.x + 0.5 * Math.min(length, 120), from.y);
	await evaluated(page, async () => {
		await page.mouse.down();
		await page.mouse.move(from.x + 0.5 * Math.min(length, 120) + 2 * length, from.y, { steps: 8 });
		await page.mouse.up();
	});
	const value = page.getByRole('spinbutton', { name: 'Move x' });
	await expect(value).toHaveValue(/^(1\.9|2)/);
	await view(page).focus();
	await evaluated(page, () => page.keyboard.press('Control+z'));
	await expect(value).toHaveValue(/^0( m)?$/);
	await expect(node(page, 'transform')).toBeVisible();
});

test('two clicks measure a distance', async ({ page }) => {
	await openEmpty(page);
	await addNode(page, 'grid');
	await view(page).focus();
	await page.keyboard.press('Alt+t');
	await page.getByRole('button', { name: 'Fit all' }).click();
	await page.getByRole('button', { name: 'Measure between two points' }).click();
	for (const [x, z] of [
		[-3, 0],
		[1, 3]
	]) {
		const at = await onPage(page, x, 0, z);
		await page.mouse.click(at.x, at.y);
	}
	const text = await page.getByTestId('distance').textContent();
	expect(Math.abs(parseFloat(text!) - 5)).toBeLessThan(0.1);
	await page.keyboard.press('Escape');
	await expect(page.getByTestId('distance')).toBeHidden();
});

test('a picture is saved at the size asked for', async ({ page }) => {
	await openEmpty(page);
	await addNode(page, 'torus');
	await page.getByRole('button', { name: 'Save a picture' }).click();
	await page.getByLabel('Width, pixels').fill('640');
	await page.getByLabel('Height, pixels').fill('360');
	await page.getByLabel('Transparent background').check();
	const downloading = page.waitForEvent('download');
	await page.getByRole('dialog').getByRole('button', { name: /Save/ }).click();
	const bytes = readFileSync(await (await downloading).path());
	expect([bytes.readUInt32BE(16), bytes.readUInt32BE(20)]).toEqual([640, 360]);
	// Colour type 6: with transparency.
	expect(bytes[25]).toBe(6);
});

test('near walls are hidden, and another node is seen faintly', async ({ page }) => {
	await openEmpty(page);
	await addNode(page, 'box');
	const drawn = () =>
		page.evaluate((name) => {
			const { scene } = (window as unknown as Record<string, { scene: { traverse(f: unknown): void } }>)[
				name
			];
			const found: { ghost: boolean; side: number }[] = [];
			scene.traverse((o: { userData: { node?: string; ghost?: boolean }; material?: { side: number }[] }) => {
				if (o.userData.node && Array.isArray(o.material))
					found.push({ ghost: !!o.userData.ghost, side: o.material[0].side });
			});
			return found;
		}, VIEW);
	expect(await drawn()).toEqual([{ ghost: false, side: 2 }]);
	await page.getByRole('button', { name: 'How it is drawn' }).click();
	await page.getByRole('menuitemcheckbox', { name: 'Hide near walls' }).click();
	await expect.poll(drawn).toEqual([{ ghost: false, side: 1 }]);
	await page.keyboard.press('Escape');
	await addNode(page, 'transform');
	await evaluated(page, async () => {
		await page.getByRole('button', { name: 'What is shown' }).click();
		await page.getByRole('button', { name: 'Show box faintly' }).click();
	});
	await expect.poll(async () => (await drawn()).some(({ ghost }) => ghost)).toBe(true);
});

test('notes, tidying up, a node put into a wire, another kind, and reasons for what does not fit', async ({
	page
}) => {
	await openEmpty(page);
	await addNode(page, 'grid');
	await addNode(page, 'result');
	await page.getByRole('button', { name: 'Add a note' }).click();
	const note = page.getByRole('textbox', { name: /note/i });
	await note.fill('The flat at low tide');
	await note.blur();
	await expect(page.getByText('The flat at low tide')).toBeVisible();
	// A node dropped on a wire goes into it.
	await page.getByRole('region', { name: 'Graph' }).focus();
	await page.keyboard.press('Escape');
	await page.getByRole('region', { name: 'Graph' }).click({ position: { x: 20, y: 400 } });
	await addNode(page, 'transform');
	await expect(foot(page, 'transform')).toHaveText(/Connect/);
	await fitGraph(page);
	await node(page, 'transform').hover();
	const a = (await output(page, 'grid', 'Mesh').boundingBox())!,
		b = (await input(page, 'result', 'Geometry').boundingBox())!;
	const box = (await node(page, 'transform').boundingBox())!;
	await page.mouse.move(box.x + box.width / 2, box.y + 14);
	await evaluated(page, async () => {
		await page.mouse.down();
		const dx = (a.x + b.x) / 2 - (box.x + box.width / 2),
			dy = (a.y + b.y) / 2 - (box.y + box.height / 2);
		await page.mouse.move(box.x + box.width / 2 + dx, box.y + 14 + dy, { steps: 12 });
		await page.mouse.up();
	});
	await expect(foot(page, 'transform')).toHaveText(/^400 faces( ·|$)/);
	await tidyUp(page);
	const xs = await Promise.all(
		['grid', 'transform', 'result'].map(async (name) => (await node(page, name).boundingBox())!.x)
	);
	expect(xs[0]).toBeLessThan(xs[1]);
	expect(xs[1]).toBeLessThan(xs[2]);
	// A wire under the pointer says what flows in it.
	const wireInto = page
		.locator('.svelte-flow__edge')
		.filter({ has: page.locator('path') })
		.first();
	const [line] = await wireInto.locator('path').evaluateAll((paths) =>
		paths.slice(0, 1).map((path) => {
			const curve = path as SVGPathElement;
			const at = curve.getPointAtLength(curve.getTotalLength() * 0.5).matrixTransform(curve.getScreenCTM()!);
			return { x: at.x, y: at.y };
		})
	);
	await page.mouse.move(line.x, line.y);
	await expect(page.getByTestId('chip')).toContainText('441 points, 400 faces · 10 × 0 × 10 m');
	await page.mouse.move(line.x, line.y + 200);
	await expect(page.getByTestId('chip')).toHaveCount(0);
	// Another kind keeps what matches.
	await select(page, 'grid');
	await setNumber(page, 'Width', '4');
	await page.getByRole('button', { name: 'Change the kind of node' }).click();
	await page.getByRole('combobox', { name: 'Change to' }).fill('box');
	await expect(page.getByRole('option', { name: /^Box/ })).toHaveAttribute('aria-selected', 'true');
	await evaluated(page, () => page.keyboard.press('Enter'));
	await expect(foot(page, 'transform')).toHaveText(/^6 faces( ·|$)/);
	await evaluated(page, () => page.keyboard.press('Control+z'));
	await select(page, 'grid');
	await expect(setting(page, 'Width')).toHaveValue('4 m');
	// A circle of wires is refused with a reason.
	await fitGraph(page);
	await select(page, 'transform');
	await addNode(page, 'transform');
	await tidyUp(page);
	await node(page, 'transform').hover();
	await wire(page, output(page, 'transform2', 'Geometry'), input(page, 'transform', 'Geometry'));
	await expect(page.getByText(/circle/).first()).toBeVisible();
});
