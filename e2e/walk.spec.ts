import { readFileSync } from 'node:fs';
import { expect, test } from './test';
import '../core/testing/index';
import {
	fitGraph,
	addNode,
	evaluated,
	foot,
	input,
	node,
	openEmpty,
	openSample,
	output,
	select,
	setNumber,
	setting,
	settled,
	wire
} from './helpers';

test.use({ together: true });

test('a sample opens, and a changed setting changes counts and bounds', async ({ page }) => {
	await openSample(page, 'Boardwalk');
	await expect(foot(page, 'planks')).toHaveText(/^60 copies( ·|$)/);
	const size = await page.getByTestId('size').textContent();
	await select(page, 'walkLength');
	await setNumber(page, 'Value', '20');
	await expect(foot(page, 'planks')).toHaveText(/^9\d copies/);
	await expect(page.getByTestId('size')).not.toHaveText(size!);
	await page.keyboard.press('Control+z');
	await expect(foot(page, 'planks')).toHaveText(/^60 copies( ·|$)/);
});

/** How wide the meshes of a GLB are together, as it says itself, in metres. */
function widthInGlb(glb: Buffer): number {
	const json = glb.subarray(20, 20 + glb.readUInt32LE(12)).toString();
	const { meshes, accessors } = JSON.parse(json) as {
		meshes: { primitives: { attributes: { POSITION: number } }[] }[];
		accessors: { min: number[]; max: number[] }[];
	};
	const places = meshes.flatMap(({ primitives }) =>
		primitives.map((one) => accessors[one.attributes.POSITION])
	);
	return Math.max(...places.map(({ max }) => max[0])) - Math.min(...places.map(({ min }) => min[0]));
}

test('from empty to an exported file, undone to empty and redone, and there after a reload', async ({
	page
}) => {
	await openEmpty(page);
	await addNode(page, 'grid');
	await expect(foot(page, 'grid')).toHaveText(/^400 faces( ·|$)/);
	await addNode(page, 'displace');
	await addNode(page, 'scatter');
	await select(page, 'displace');
	await evaluated(page, async () => {
		await page
			.getByRole('region', { name: 'Settings' })
			.getByRole('button', { name: 'Amount: how it is set' })
			.click();
		await page.getByRole('menuitem', { name: 'Formula' }).click();
	});
	await evaluated(page, async () => {
		const formula = page.getByRole('textbox', { name: 'Amount, formula' });
		await formula.fill('0.4 * noise(position / 3)');
		await formula.press('Enter');
	});
	await select(page, 'sowPoints');
	await expect(foot(page, 'sowPoints')).toHaveText(/^1,0\d\d points/);
	await addNode(page, 'instance');
	await addNode(page, 'result');
	await expect(foot(page, 'placeCopies')).toHaveText(/^Connect geometry to “Source”.( ·|$)/);
	await evaluated(page, () =>
		page.keyboard
			.press('Escape')
			.then(() => page.keyboard.press('/'))
			.then(() => page.getByRole('combobox', { name: 'Find a node' }).fill('cone'))
			.then(() => page.keyboard.press('Enter'))
	);
	// Six nodes in a third of the screen are small: the graph gets all of it while it is wired.
	await page.getByRole('region', { name: 'Graph' }).focus();
	await page.keyboard.press('1');
	await fitGraph(page);
	await evaluated(page, () =>
		wire(page, output(page, 'cylinder', 'Mesh'), input(page, 'placeCopies', 'Source'))
	);
	await page.getByRole('region', { name: 'Graph' }).focus();
	await page.keyboard.press('1');
	await expect(foot(page, 'placeCopies')).toHaveText(/^1,0\d\d copies/);
	await expect(page.getByTestId('size')).toHaveText(/1[01]\.\d+ × \d\.\d+ × 1[01]\.\d+ m/);

	await page.getByRole('button', { name: 'Export' }).click();
	// What was chosen last is remembered.
	await page.getByRole('radio', { name: /^GLB/ }).check();
	const downloading = page.waitForEvent('download');
	await page.getByRole('checkbox', { name: 'Copies to mesh' }).check();
	await page.getByRole('button', { name: 'Export GLB' }).click();
	const wide = widthInGlb(readFileSync(await (await downloading).path()));
	expect(wide).toBeGreaterThan(10);
	expect(wide).toBeLessThan(11.2);
	// The View tells the box around the boxes of leaning copies: never less than they fill, and hardly more.
	const told = parseFloat((await page.getByTestId('size').textContent())!);
	expect(told).toBeGreaterThan(wide - 0.006);
	expect(told).toBeLessThan(wide + 0.03);

	const undo = page.getByRole('button', { name: /^Undo/ });
	while (await undo.isEnabled()) await undo.click();
	await expect(page.getByText('Nothing here yet')).toBeVisible();
	const redo = page.getByRole('button', { name: /^Redo/ });
	while (await redo.isEnabled()) await redo.click();
	await settled(page);
	await expect(foot(page, 'result')).toHaveText(/^1,0\d\d copies/);
	await expect(page.getByTestId('saved')).toHaveText('Saved');
	await page.reload();
	await settled(page);
	await expect(foot(page, 'result')).toHaveText(/^1,0\d\d copies/);
	await expect(node(page, 'sowPoints')).toBeVisible();
});

test('an OBJ is imported at its size, and sown on', async ({ page }) => {
	await openEmpty(page);
	const obj = 'v 0 0 0\nv 4 0 0\nv 4 0 3\nv 0 0 3\nf 1 4 3 2\n';
	await addNode(page, 'import mesh');
	await evaluated(page, () =>
		page
			.getByLabel('File', { exact: true })
			.setInputFiles({ name: 'landing.obj', mimeType: 'text/plain', buffer: Buffer.from(obj) })
	);
	await expect(foot(page, 'importMesh')).toHaveText(/^1 face( ·|$)/);
	await expect(page.getByTestId('size')).toHaveText('4.00 × 0.00 × 3.00 m');
	await addNode(page, 'sow');
	await expect(foot(page, 'sowPoints')).toHaveText(/^120 points( ·|$)/);
	await expect(page.getByTestId('saved')).toHaveText('Saved');
	await page.reload();
	await settled(page);
	await expect(foot(page, 'sowPoints')).toHaveText(/^120 points( ·|$)/);
});

test('broken files say what is wrong, and change nothing', async ({ page }) => {
	await openEmpty(page);
	await addNode(page, 'import mesh');
	const choose = (name: string, text: string) =>
		page
			.getByLabel('File', { exact: true })
			.setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) });
	await choose('gap.obj', 'v 0 0 0\nv 1 0 0\nv 1 1 0\nf 1 2 9\n');
	await expect(page.getByText('gap.obj, line 4: face 1 names point 9, but there are only 3.')).toBeVisible();
	await choose('empty.stl', '');
	await expect(page.getByText('empty.stl has 0 bytes')).toBeVisible();
	await choose('sign.svg', '<svg/>');
	await expect(page.getByText('sign.svg is a drawing. It is read by “Import SVG”.')).toBeVisible();
	await choose('notes.txt', 'hello');
	await expect(page.getByText('notes.txt is of a kind that is not read')).toBeVisible();
	await expect(page.getByText('Choose a file')).toBeVisible();
});

test('too many points are refused in a sentence, and the page goes on', async ({ page }) => {
	await openEmpty(page);
	await addNode(page, 'grid');
	await addNode(page, 'sow');
	await setNumber(page, 'Density', '1e10');
	await expect(
		page.getByText('This would make 1,000,000,000,000 points; 16,000,000 fit. Lower “Density”.').first()
	).toBeVisible();
	await setNumber(page, 'Density', '5');
	await expect(foot(page, 'sowPoints')).toHaveText(/^500 points( ·|$)/);
});

test('a long evaluation can be stopped, and the next edit works', async ({ page }) => {
	await openEmpty(page);
	await addNode(page, 'grid');
	await addNode(page, 'sow');
	await setNumber(page, 'Minimum distance', '0.0001');
	const field = setting(page, 'Density');
	await field.click();
	await field.fill('100000');
	await field.press('Enter');
	await page.getByRole('button', { name: 'Stop', exact: true }).click();
	await expect(page.getByText('Stopped. The last picture is kept')).toBeVisible();
	await setNumber(page, 'Density', '2');
	await expect(foot(page, 'sowPoints')).toHaveText(/^200 points( ·|$)/);
});
