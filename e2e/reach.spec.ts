import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { expect, test } from './test';
import { openSample, select, settled } from './helpers';

/** What a checker of the guidelines finds, as lines that say where. */
async function faults(page: Page, theme: string): Promise<string[]> {
	const checker = new AxeBuilder({ page });
	// Of a theme only the colours are its own.
	const { violations } = await (
		theme === 'Paper' ? checker.withTags(['wcag2a', 'wcag2aa']) : checker.withRules('color-contrast')
	).analyze();
	return violations.flatMap(({ id, nodes }) =>
		nodes.map((one) => `${id}: ${one.target.join(' ')} ${one.failureSummary?.split('\n')[1]?.trim() ?? ''}`)
	);
}

for (const theme of ['Paper', 'Dusk'])
	test(`screens in ${theme} have names, contrast and order for everyone`, async ({ page }) => {
		await page.goto('/');
		const button = page.getByRole('button', { name: `Use the ${theme} theme` });
		if (await button.isVisible()) await button.click();
		await expect(page.getByRole('button', { name: 'Open Painted sign' })).toBeVisible();
		expect(await faults(page, theme)).toEqual([]);
		await openSample(page, 'Painted sign');
		await select(page, 'along');
		await page.getByRole('button', { name: 'Show along in the View as a heat map' }).click();
		await settled(page);
		await page.getByRole('button', { name: 'Ramp along: edit the ramp' }).click();
		expect(await faults(page, theme)).toEqual([]);
		await page.getByRole('button', { name: 'Order', exact: true }).click();
		expect(await faults(page, theme)).toEqual([]);
		await select(page, 'gust');
		await page.getByRole('button', { name: 'Point 2 of gust' }).click();
		expect(await faults(page, theme)).toEqual([]);
		await page.getByRole('button', { name: 'Export' }).click();
		await expect(page.getByRole('dialog')).toBeVisible();
		expect(await faults(page, theme)).toEqual([]);
	});
