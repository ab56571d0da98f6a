/** What an artist does, as steps that tests are made of. */
import type { Locator, Page } from '@playwright/test';
import { expect } from './test';

/** Waits until the evaluation of the last change has come. */
export async function settled(page: Page): Promise<void> {
	await page.waitForFunction(() => {
		const screen = document.querySelector<HTMLElement>('[data-evaluations]');
		return screen !== null && Number(screen.dataset.evaluations) > 0 && screen.dataset.working === 'false';
	});
}

/** Does something that changes the generator, and waits for the evaluation that follows. */
export async function evaluated(page: Page, act: () => Promise<unknown>): Promise<void> {
	const before = await page.locator('[data-evaluations]').getAttribute('data-evaluations');
	await act();
	await expect(page.locator('[data-evaluations]')).not.toHaveAttribute('data-evaluations', before!);
	await settled(page);
}

/** Closes the notices of what went before: they stand over buttons for some seconds. */
export async function noticesGone(page: Page): Promise<void> {
	const notices = page.locator('[data-sonner-toast]:not([data-removed="true"])');
	const close = page.getByRole('button', { name: 'Close this notice' });
	while (await notices.count()) await close.first().dispatchEvent('click');
	await expect(page.locator('[data-sonner-toast]')).toHaveCount(0);
}

/** Goes to the Library: from within the application by its link, as an artist does, else by its address. */
export async function toLibrary(page: Page): Promise<void> {
	const link = page.locator('a[href="/"]').first();
	const isElsewhere = page.url() === 'about:blank' || !(await link.count());
	if (isElsewhere) await page.goto('/');
	else await link.dispatchEvent('click');
	await expect(page.getByRole('region', { name: 'Samples' })).toBeVisible();
}

export async function openSample(page: Page, name: string): Promise<void> {
	await toLibrary(page);
	const samples = page.getByRole('region', { name: 'Samples' });
	await samples.getByRole('button', { name: `Open ${name}`, exact: true }).click();
	await page.waitForURL(/\/build\//);
	await settled(page);
}

export async function openEmpty(page: Page): Promise<void> {
	await toLibrary(page);
	await page.getByRole('button', { name: 'New generator' }).click();
	await page.waitForURL(/\/build\//);
	await expect(page.getByText('Nothing here yet')).toBeVisible();
}

/** Adds a node by the search; a selected node is wired to it. */
export async function addNode(page: Page, words: string): Promise<void> {
	await evaluated(page, async () => {
		await page.getByRole('region', { name: 'Graph' }).focus();
		await page.keyboard.press('/');
		await page.getByRole('combobox', { name: 'Find a node' }).fill(words);
		await page.keyboard.press('Enter');
	});
}

export const node = (page: Page, name: string): Locator =>
	page
		.locator('[data-node-id]')
		.filter({ has: page.getByText(name, { exact: true }) })
		.first();
export const foot = (page: Page, name: string): Locator => node(page, name).getByTestId('foot');
export const setting = (page: Page, name: string): Locator =>
	page.getByRole('region', { name: 'Settings' }).getByRole('spinbutton', { name, exact: true });

/** Selects a node by its name. One that is out of sight is brought into it first, as an artist would. */
export async function select(page: Page, name: string): Promise<void> {
	const label = node(page, name).getByText(name, { exact: true }).first();
	await expect(label).toBeAttached();
	const [box, pane] = [
		await label.boundingBox(),
		await page.getByRole('region', { name: 'Graph' }).boundingBox()
	];
	const seen =
		box &&
		pane &&
		box.x > pane.x &&
		box.x + box.width < pane.x + pane.width &&
		box.y > pane.y + 50 &&
		box.y + box.height < pane.y + pane.height;
	if (!seen) await fitGraph(page);
	await label.click();
	await expect(page.getByRole('textbox', { name: 'Name of the node' })).toHaveValue(name);
}

/** Types a number into a setting of the selected node. */
export async function setNumber(page: Page, name: string, value: string): Promise<void> {
	await evaluated(page, async () => {
		const field = setting(page, name);
		await field.click();
		await field.fill(value);
		await field.press('Enter');
	});
}

/** Makes a setting of the selected node a formula, and types one. */
export async function setFormula(page: Page, name: string, text: string): Promise<void> {
	const field = page.getByRole('textbox', { name: `${name}, formula` });
	if (!(await field.isVisible())) {
		await page.getByRole('button', { name: `${name}: how it is set` }).click();
		await evaluated(page, () => page.getByRole('menuitem', { name: 'Formula' }).click());
	}
	await evaluated(page, async () => {
		await field.fill(text);
		await field.press('Enter');
	});
}

/** Fits the graph, and waits until it has come to rest: the same place for twenty pictures. */
export async function fitGraph(page: Page): Promise<void> {
	await page.getByRole('button', { name: 'Fit the graph' }).click();
	await page.evaluate(
		() =>
			new Promise<void>((done) => {
				const viewport = document.querySelector<HTMLElement>('.svelte-flow__viewport')!;
				const places = () =>
					[viewport, ...viewport.querySelectorAll<HTMLElement>('.svelte-flow__node')].map(
						({ style }) => style.transform
					);
				let last = '',
					same = 0;
				const look = () => {
					const now = places().join();
					same = now === last ? same + 1 : 0;
					last = now;
					if (same >= 20) done();
					else requestAnimationFrame(look);
				};
				look();
			})
	);
}

/** Lays the graph out in columns, which a worker works out, and waits until they are there. */
export async function tidyUp(page: Page): Promise<void> {
	await page.getByRole('button', { name: 'Arrange' }).click();
	await expect(page.getByRole('button', { name: 'Undo: Arrange' })).toBeVisible();
	await fitGraph(page);
}

/** Drags a wire from an output to an input. Near its edge the graph moves under a wire: the input is followed until it stays. */
export async function wire(page: Page, from: Locator, to: Locator): Promise<void> {
	await from.hover();
	await page.mouse.down();
	let b = (await to.boundingBox())!;
	await page.mouse.move(b.x - 30, b.y, { steps: 5 });
	for (let last = ''; last !== `${b.x},${b.y}`; b = (await to.boundingBox())!) {
		last = `${b.x},${b.y}`;
		await page.mouse.move(b.x + b.width / 2, b.y + b.height / 2, { steps: 5 });
	}
	await page.mouse.up();
}
export const output = (page: Page, name: string, label: string): Locator =>
	page.getByLabel(`Output ${label} of ${name}`, { exact: true });
export const input = (page: Page, name: string, label: string): Locator =>
	page.getByLabel(`Input ${label} of ${name}`, { exact: true });

/** Opens a choice field and picks an option by its words. */
export async function choose(page: Page, label: string, option: string): Promise<void> {
	await page.getByRole('combobox', { name: label, exact: true }).click();
	await page.getByRole('option', { name: option, exact: true }).click();
}
