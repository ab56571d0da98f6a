import { expect, test } from './test';
import {
	fitGraph,
	addNode,
	evaluated,
	foot,
	node,
	openEmpty,
	openSample,
	output,
	select,
	setNumber,
	settled
} from './helpers';

test.use({ together: true });

test('the Library renames, duplicates, deletes with undo, and takes a broken file as far as it goes', async ({
	page
}) => {
	await openEmpty(page);
	await addNode(page, 'box');
	await page.getByRole('textbox', { name: 'Name of the generator' }).fill('Lantern');
	await page.keyboard.press('Enter');
	await expect(page.getByTestId('saved')).toHaveText('Saved');
	await page.goto('/');
	const card = (name: string) => page.getByRole('link', { name: `Open ${name}`, exact: true });
	await page.getByRole('button', { name: 'What to do with Lantern' }).click();
	await page.getByRole('menuitem', { name: 'Duplicate' }).click();
	await expect(card('Lantern copy')).toBeVisible();
	await page.getByRole('button', { name: 'What to do with Lantern copy' }).click();
	await page.getByRole('menuitem', { name: 'Rename' }).click();
	await page.getByRole('textbox', { name: 'New name' }).fill('Storm lantern');
	await page.keyboard.press('Enter');
	await expect(card('Storm lantern')).toBeVisible();
	await page.getByRole('button', { name: 'What to do with Storm lantern' }).click();
	await page.getByRole('menuitem', { name: 'Delete' }).click();
	await expect(card('Storm lantern')).toBeHidden();
	await page.getByRole('button', { name: 'Undo' }).click();
	await expect(card('Storm lantern')).toBeVisible();
	const broken = JSON.stringify({
		format: 'embrell',
		version: 1,
		name: 'Half',
		seed: 1,
		unit: 'm',
		view: {},
		graphs: {
			main: {
				nodes: [
					{ id: 'a', kind: 'grid', short: 'g', at: [0, 0], stream: 's' },
					{ id: 'b', kind: 'gone', short: 'h', at: [0, 0], stream: 's' }
				],
				wires: []
			}
		}
	});
	await page
		.getByLabel('Generator files')
		.setInputFiles({ name: 'half.embrell.json', mimeType: 'application/json', buffer: Buffer.from(broken) });
	await expect(page.getByText('there is no kind of node “gone”')).toBeVisible();
	await expect(page.getByRole('button', { name: 'Save the original' })).toBeVisible();
	await expect(card('Half')).toBeVisible();
	await page
		.getByLabel('Generator files')
		.setInputFiles({ name: 'notes.json', mimeType: 'application/json', buffer: Buffer.from('{"a": 1}') });
	await expect(page.getByText('notes.json: The file is not a generator')).toBeVisible();
});

test('nodes are duplicated, bypassed, deleted with the wire healed, and put into a wire from the ground', async ({
	page
}) => {
	await openEmpty(page);
	await addNode(page, 'grid');
	await addNode(page, 'displace');
	await addNode(page, 'result');
	await select(page, 'displace');
	await setNumber(page, 'Amount', '2');
	await expect(page.getByTestId('size')).toHaveText('10.00 × 0.00 × 10.00 m');
	await select(page, 'displace');
	await evaluated(page, () => page.keyboard.press('Shift+H'));
	await expect(node(page, 'displace')).toHaveAttribute('data-state', 'bypassed');
	await evaluated(page, () => page.keyboard.press('Delete'));
	await expect(node(page, 'displace')).toHaveCount(0);
	await expect(foot(page, 'result')).toHaveText(/^400 faces( ·|$)/);
	// A wire dropped on the ground asks for what fits.
	await fitGraph(page);
	await output(page, 'grid', 'Mesh').hover();
	await page.mouse.down();
	const place = (await node(page, 'grid').boundingBox())!;
	await page.mouse.move(place.x + 120, place.y + 260, { steps: 6 });
	await page.mouse.up();
	await expect(page.getByText('Only what fits the wire.')).toBeVisible();
	await page.getByRole('combobox', { name: 'Find a node' }).fill('count up');
	await expect(page.getByRole('option', { name: /Count up/ })).toHaveCount(0);
	await page.getByRole('combobox', { name: 'Find a node' }).fill('scatter');
	await evaluated(page, () => page.keyboard.press('Enter'));
	await expect(foot(page, 'sowPoints')).toHaveText(/^1,000 points( ·|$)/);
	await evaluated(page, () => page.keyboard.press('Control+d'));
	await expect(foot(page, 'sowPoints2')).toHaveText(/^1,000 points( ·|$)/);
});

test('nodes are copied as text and pasted into another generator', async ({ page, context }) => {
	await context.grantPermissions(['clipboard-read', 'clipboard-write']);
	await openSample(page, 'Reed bed');
	await page.getByRole('region', { name: 'Graph' }).focus();
	await page.keyboard.press('Control+a');
	await page.keyboard.press('Control+c');
	await openEmpty(page);
	await page.getByRole('region', { name: 'Graph' }).focus();
	await evaluated(page, () => page.keyboard.press('Control+v'));
	await expect(foot(page, 'result')).toHaveText(/^\d,\d+ copies/);
});

test('a number becomes a random range, a formula and a plain value again; other settings stay', async ({
	page
}) => {
	await openEmpty(page);
	await addNode(page, 'cylinder');
	await setNumber(page, 'Height', '2');
	await setNumber(page, 'Lower radius', '10 cm');
	await expect(page.getByTestId('size')).toHaveText('1.00 × 2.00 × 1.00 m');
	const mode = async (name: string) => {
		await page.getByRole('button', { name: 'Height: how it is set' }).click();
		await evaluated(page, () => page.getByRole('menuitem', { name }).click());
	};
	await mode('Random: base ± variation');
	await expect(page.getByText('1.8 to 2.2 m')).toBeVisible();
	await mode('Formula');
	await evaluated(page, async () => {
		const field = page.getByRole('textbox', { name: 'Height, formula' });
		await field.fill('radius * 30');
		await field.press('Enter');
	});
	await expect(page.getByTestId('size')).toHaveText('1.00 × 3.00 × 1.00 m');
	const field = page.getByRole('textbox', { name: 'Height, formula' });
	await field.fill('radius * (3');
	await expect(page.getByText(/A closing parenthesis is missing/)).toBeVisible();
	await evaluated(page, () => page.getByRole('button', { name: 'Close it' }).click());
	await expect(field).toHaveText('radius * (3)');
	await mode('Plain value');
	await expect(page.getByRole('spinbutton', { name: 'Lower radius' })).toHaveValue('0.1 m');
});

test('a second tab looks on, and may take over', async ({ context }) => {
	const first = await context.newPage();
	await openEmpty(first);
	await addNode(first, 'box');
	await expect(first.getByTestId('saved')).toHaveText('Saved');
	const second = await context.newPage();
	await second.goto(first.url());
	await settled(second);
	await expect(second.getByText('open in another tab')).toBeVisible();
	await second.getByRole('button', { name: 'Edit here instead' }).click();
	await expect(second.getByText('open in another tab')).toBeHidden();
	await expect(first.getByText('open in another tab')).toBeVisible();
	await settled(second);
	await expect(foot(second, 'box')).toHaveText(/^6 faces\b/);
});

test('both themes, panes by key, and every control has a name', async ({ page }) => {
	await openSample(page, 'Boardwalk');
	await page.getByRole('button', { name: 'Use the Dusk theme' }).click();
	await expect(page.locator('html')).toHaveAttribute('data-theme', 'dusk');
	await page.getByRole('region', { name: 'Graph' }).focus();
	const camera = () =>
		page.evaluate(
			() => (window as unknown as { embrellView: { cameraState: object } }).embrellView.cameraState
		);
	const atFirst = await camera();
	await page.keyboard.press('3');
	await expect(page.getByRole('region', { name: 'Graph' })).toBeHidden();
	// The pane that fills the screen takes the keys, and is left as it was made there.
	await page.keyboard.press('ArrowLeft');
	const turned = await camera();
	expect(turned).not.toEqual(atFirst);
	await page.keyboard.press('3');
	await expect(page.getByRole('region', { name: 'Graph' })).toBeVisible();
	expect(await camera()).toEqual(turned);
	const nameless = await page.evaluate(() =>
		[...document.querySelectorAll<HTMLElement>('button, input, select, textarea, a')]
			.filter((one) => {
				const labelled =
					one.getAttribute('aria-label') ||
					one.textContent?.trim() ||
					one.title ||
					(one as HTMLInputElement).labels?.length;
				return !labelled && one.offsetParent !== null;
			})
			.map((one) => one.outerHTML.slice(0, 120))
	);
	expect(nameless).toEqual([]);
});
