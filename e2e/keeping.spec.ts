/** What is kept, whatever happens to tabs: two of them, one that is killed, one that never finished. */
import type { BrowserContext, Page } from '@playwright/test';
import { expect, test } from './test';
import { addNode, foot, node, openEmpty, select, setNumber, setting, settled } from './helpers';

const name = (page: Page) => page.getByRole('textbox', { name: 'Name of the generator' });
const saved = (page: Page) => page.getByTestId('saved');

async function withName(page: Page, wanted: string): Promise<void> {
	await name(page).fill(wanted);
	await page.keyboard.press('Enter');
	await expect(saved(page)).toHaveText('Saved');
}
async function menu(library: Page, of: string, item: string): Promise<void> {
	await library.getByRole('button', { name: `What to do with ${of}`, exact: true }).click();
	await library.getByRole('menuitem', { name: item }).click();
}
/** The width of the stored box, read from the database itself. */
const storedWidth = (page: Page) =>
	page.evaluate(
		() =>
			new Promise<number>((done, failed) => {
				const id = location.pathname.split('/').at(-1)!;
				const open = indexedDB.open('embrell');
				open.onerror = () => failed(open.error);
				open.onsuccess = () => {
					const get = open.result.transaction('generators').objectStore('generators').get(id);
					get.onsuccess = () => {
						open.result.close();
						done(get.result?.document.graphs.main.nodes[0].settings.size[0] ?? -1);
					};
				};
			})
	);

test('the Library renames, copies and keeps what another tab has open, with all that was done there', async ({
	page,
	context
}) => {
	await openEmpty(page);
	await addNode(page, 'box');
	await withName(page, 'Float');
	const library = await context.newPage();
	await library.goto('/');
	// What the Library listed is old by now.
	await page.bringToFront();
	await select(page, 'box');
	await setNumber(page, 'Size x', '3');
	await library.bringToFront();
	await menu(library, 'Float', 'Rename');
	await library.getByRole('textbox', { name: 'New name' }).fill('Cork float');
	await library.keyboard.press('Enter');
	await expect(library.getByRole('link', { name: 'Open Cork float', exact: true })).toBeVisible();
	await expect(name(page)).toHaveValue('Cork float');
	await expect(setting(page, 'Size x')).toHaveValue('3 m');
	await menu(library, 'Cork float', 'Duplicate');
	await expect(library.getByRole('link', { name: 'Open Cork float copy', exact: true })).toBeVisible();
	await menu(library, 'Cork float', 'Delete');
	await expect(library.getByText('It is open in another tab. Close it there first.')).toBeVisible();
	// Closed there, it can be deleted, and comes back as it was last.
	await page.bringToFront();
	await setNumber(page, 'Size x', '4');
	await expect(saved(page)).toHaveText('Saved');
	const address = page.url();
	await page.goto('about:blank');
	await library.bringToFront();
	await menu(library, 'Cork float', 'Delete');
	await library.getByRole('button', { name: 'Undo' }).click();
	await expect(library.getByRole('link', { name: 'Open Cork float', exact: true })).toBeVisible();
	await page.goto(address);
	await settled(page);
	expect(await storedWidth(page)).toBe(4);
	await library.getByRole('link', { name: 'Open Cork float copy', exact: true }).first().click();
	await settled(library);
	expect(await storedWidth(library)).toBe(3);
});

test('a tab that takes over has the last edits of the other, however quickly they were made', async ({
	page,
	context
}) => {
	await openEmpty(page);
	await addNode(page, 'box');
	await select(page, 'box');
	const second = await context.newPage();
	await second.goto(page.url());
	await expect(second.getByText('open in another tab')).toBeVisible();
	for (let round = 1; round <= 3; round++) {
		const [from, to] = round % 2 ? [page, second] : [second, page];
		await from.bringToFront();
		await select(from, 'box');
		for (const value of [round + 1, round + 2, round + 0.5]) {
			await setting(from, 'Size x').fill(String(value));
			await setting(from, 'Size x').press('Enter');
		}
		await to.getByRole('button', { name: 'Edit here instead' }).click();
		await expect(to.getByText('open in another tab')).toBeHidden();
		await expect(from.getByText('open in another tab')).toBeVisible();
		await to.bringToFront();
		await select(to, 'box');
		await expect(setting(to, 'Size x')).toHaveValue(`${round + 0.5} m`);
		expect(await storedWidth(to)).toBe(round + 0.5);
	}
});

/** Ends a tab as a crash does: nothing runs in it any more. */
async function kill(context: BrowserContext, page: Page): Promise<void> {
	const session = await context.newCDPSession(page);
	const crashed = page.waitForEvent('crash');
	void session.send('Page.crash').catch(() => {});
	await crashed;
	await page.close();
}

/** A few here; more are tried with EMBRELL_ROUNDS=100. */
const ROUNDS = Number(process.env.EMBRELL_ROUNDS ?? 6);

test('a tab that is killed while edits are made has lost nothing that was done a second before', async ({
	page,
	context
}) => {
	test.setTimeout(60_000 + ROUNDS * 10_000);
	await openEmpty(page);
	await addNode(page, 'box');
	await expect(saved(page)).toHaveText('Saved');
	const address = page.url();
	let tab = page;
	let value = 1;
	for (let round = 0; round < ROUNDS; round++) {
		await select(tab, 'box');
		const done: { value: number; at: number }[] = [{ value, at: 0 }];
		const until = performance.now() + 300 + ((round * 7919) % 1500);
		while (performance.now() < until) {
			value = Math.round((value + 0.01) * 100) / 100;
			await setting(tab, 'Size x').fill(String(value));
			await setting(tab, 'Size x').press('Enter');
			done.push({ value, at: performance.now() });
		}
		const killed = performance.now();
		await kill(context, tab);
		tab = await context.newPage();
		await tab.goto(address);
		await settled(tab);
		const kept = await storedWidth(tab);
		const due = done.findLast(({ at }) => at < killed - 1000)!.value;
		expect(kept, `round ${round}`).toBeGreaterThanOrEqual(due);
		value = kept;
	}
});

test('a generator that took its tab with it opens without evaluating, until the artist wants it', async ({
	page,
	context
}) => {
	await openEmpty(page);
	await addNode(page, 'grid');
	await expect(saved(page)).toHaveText('Saved');
	const address = page.url();
	const id = address.split('/').at(-1)!;
	// As it stands when a tab ends in the midst of an evaluation.
	await page.evaluate((key) => localStorage.setItem(key, '1'), `embrell-evaluating-${id}`);
	await kill(context, page);
	const again = await context.newPage();
	await again.goto(address);
	const word = again.getByRole('region', { name: 'View' }).getByRole('status');
	await expect(word).toContainText('It did not finish the last time, so it was opened without evaluating.');
	await expect(node(again, 'grid')).toBeVisible();
	await again.getByRole('button', { name: 'Evaluate', exact: true }).click();
	await settled(again);
	await expect(foot(again, 'grid')).toHaveText(/^400 faces/);
	await again.reload();
	await settled(again);
	await expect(word).toBeHidden();
});
