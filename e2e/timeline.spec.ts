/** Time in Build: frames, keys and what moves, as an artist sets them. */
import { readFileSync } from 'node:fs';
import { expect, test } from './test';
import type { Locator, Page } from '@playwright/test';
import { decode } from 'fast-png';
import { unzipSync } from 'fflate';
import { addNode, evaluated, openEmpty, openSample, select, setFormula, setting, settled } from './helpers';

test.use({ together: true });

const timeline = (page: Page) => page.getByRole('region', { name: 'Drawer' });
const playhead = (page: Page) => page.getByRole('slider', { name: 'Playhead' });
const size = (page: Page) => page.getByTestId('size');

async function withBox(page: Page): Promise<void> {
	await openEmpty(page);
	await addNode(page, 'box');
	await page.getByRole('button', { name: 'Timeline', exact: true }).click();
}
const menuOf = (page: Page, label: string) =>
	page.getByRole('region', { name: 'Settings' }).getByRole('button', { name: `${label}: how it is set` });

test('keys at two frames move a setting; one set elsewhere evaluates nothing; the playhead, the table and undo follow', async ({
	page
}) => {
	await withBox(page);
	await select(page, 'box');
	await menuOf(page, 'Size x').click();
	await page.getByRole('menuitem', { name: 'Set a key at frame 1', exact: true }).click();
	await expect(timeline(page).getByRole('button', { name: 'Key at frame 1', exact: true })).toBeVisible();
	await menuOf(page, 'Size x').click();
	await page.getByRole('menuitem', { name: 'Set a key at frame …' }).click();
	await page.getByRole('spinbutton', { name: 'Size x: a key at frame' }).fill('41');
	await evaluated(page, () => page.keyboard.press('Enter'));
	await expect(timeline(page).getByRole('button', { name: 'Key at frame 41' })).toBeVisible();
	await expect(page.locator('[data-ran]')).toHaveAttribute('data-ran', '0');
	// At frame 41 it is made wider; in between it is in between.
	await evaluated(page, () => playhead(page).fill('41'));
	await evaluated(page, async () => {
		await setting(page, 'Size x').fill('3');
		await page.keyboard.press('Enter');
	});
	await expect(size(page)).toContainText('3.00');
	await evaluated(page, () => playhead(page).fill('21'));
	await expect(size(page)).toContainText('2.00');
	await expect(page.getByRole('img', { name: 'box moves: “Size x” has keys.' })).toBeVisible();
	// The key is moved by the keyboard, and taken back.
	await timeline(page).getByRole('button', { name: 'Key at frame 41' }).focus();
	await evaluated(page, () => page.keyboard.press('ArrowLeft'));
	await expect(timeline(page).getByRole('button', { name: 'Key at frame 40' })).toBeVisible();
	await page.keyboard.press('Control+z');
	await expect(timeline(page).getByRole('button', { name: 'Key at frame 41' })).toBeVisible();
	// As a table: an easing, and what comes after the last key.
	await timeline(page).getByRole('button', { name: 'box.size.x', exact: true }).click();
	const table = page.getByRole('table', { name: 'Keys of box.size.x' });
	await expect(table.getByRole('row')).toHaveCount(3);
	await timeline(page).getByLabel('From the key at 1 to the next').click();
	await evaluated(page, () => page.getByRole('option', { name: 'Held' }).click());
	await expect(size(page)).toContainText('1.00 × 1.00');
	// It is there again after a reload.
	await expect(page.getByTestId('saved')).toHaveText('Saved');
	await page.reload();
	await settled(page);
	await page.getByRole('button', { name: 'Timeline', exact: true }).click();
	await expect(timeline(page).getByRole('button', { name: 'Key at frame 41' })).toBeVisible();
});

test('it plays, edits show while it does, and frames that cannot be are told of', async ({ page }) => {
	await withBox(page);
	await select(page, 'box');
	await menuOf(page, 'Size x').click();
	await page.getByRole('menuitem', { name: 'Formula', exact: true }).click();
	const formula = page.getByRole('textbox', { name: 'Formula' });
	await formula.click();
	await page.keyboard.press('Control+a');
	await page.keyboard.type('1 + frame / 10');
	await evaluated(page, () => page.keyboard.press('Enter'));
	await expect(size(page)).toContainText('1.10');
	await page.getByRole('region', { name: 'Graph' }).focus();
	await page.keyboard.press('End');
	await expect(size(page)).toContainText('13.00');
	await page.keyboard.press('Home');
	await expect(size(page)).toContainText('1.10');
	await page.keyboard.press('Space');
	await expect(timeline(page).getByRole('button', { name: 'Pause' })).toBeVisible();
	await expect.poll(() => playhead(page).inputValue().then(Number)).toBeGreaterThan(4);
	// An edit while it plays is in the next frame.
	await page
		.getByRole('region', { name: 'Settings' })
		.getByRole('spinbutton', { name: 'Size y', exact: true })
		.fill('5');
	await page.keyboard.press('Enter');
	await expect(size(page)).toContainText('× 5.00 ×');
	await page.getByRole('region', { name: 'Graph' }).focus();
	await page.keyboard.press('Space');
	await expect(timeline(page).getByRole('button', { name: 'Play' })).toBeVisible();
	await timeline(page).getByRole('spinbutton', { name: 'Last frame' }).fill('0');
	await page.keyboard.press('Enter');
	await expect(page.getByText('The last frame, 0, lies before the first, 1.')).toBeVisible();
	await expect(timeline(page).getByRole('spinbutton', { name: 'Last frame' })).toHaveValue('120');
});

/** Exports frames as one of the ways; gives the bytes of the file. */
async function exported(page: Page, way: string, name: RegExp): Promise<Buffer> {
	await page.getByRole('radio', { name: way, exact: true }).check();
	const [file] = await Promise.all([
		page.waitForEvent('download'),
		page.getByRole('button', { name: /^Export \d+ frames$/ }).click()
	]);
	expect(file.suggestedFilename()).toMatch(name);
	return readFileSync(await file.path());
}

test('frames are exported as an animation, as pictures and as a video', async ({ page }) => {
	await withBox(page);
	await select(page, 'box');
	await setFormula(page, 'Size y', '1 + frame / 10');
	const open = () => timeline(page).getByRole('button', { name: 'Export frames' }).click();
	await open();
	const dialog = page.getByRole('dialog');
	await dialog.getByLabel('From frame').fill('0.5');
	await expect(dialog.getByRole('alert')).toContainText('whole numbers');
	await dialog.getByLabel('From frame').fill('1');
	await dialog.getByLabel('To frame').fill('10');
	await expect(dialog).toContainText('10 frames, 0.42 s');
	const glb = await exported(page, 'One GLB with animation', /\.glb$/);
	const gltf = JSON.parse(glb.subarray(20, 20 + glb.readUInt32LE(12)).toString());
	expect(gltf.animations[0].channels[0].target.path).toBe('weights');
	expect(gltf.meshes[0].primitives[0].targets).toHaveLength(9);

	await open();
	await dialog.getByLabel('To frame').fill('10');
	await dialog.getByRole('radio', { name: 'Pictures, PNG in a zip' }).check();
	await dialog.getByLabel('Width, pixels').fill('320');
	await dialog.getByLabel('Height, pixels').fill('180');
	const files = unzipSync(await exported(page, 'Pictures, PNG in a zip', /-pictures\.zip$/));
	const names = Object.keys(files);
	expect(names).toHaveLength(10);
	expect(names[8]).toMatch(/-0009\.png$/);
	const pictures = names.map((name) => decode(files[name]));
	for (const { width, height } of pictures) expect([width, height]).toEqual([320, 180]);
	// The box grows: ever more of the picture is no longer as it was at first.
	const changed = pictures.map(
		({ data }) => data.filter((x, i) => Math.abs(Number(x) - Number(pictures[0].data[i])) > 12).length
	);
	expect(changed[9]).toBeGreaterThan(changed[4]);
	expect(changed[4]).toBeGreaterThan(100);

	await open();
	await dialog.getByLabel('To frame').fill('10');
	await dialog.getByRole('radio', { name: 'Video' }).check();
	await dialog.getByLabel('Width, pixels').fill('320');
	await dialog.getByLabel('Height, pixels').fill('180');
	const video = await exported(page, 'Video', /\.(webm|mp4)$/);
	// The application itself plays no media, so a blank page does.
	const blank = await page.context().newPage();
	const seen = await blank.evaluate(
		async (url) => {
			const element = document.createElement('video');
			element.src = url;
			await new Promise((done, failed) => {
				element.onloadeddata = done;
				element.onerror = () => failed(new Error(element.error?.message));
			});
			return { width: element.videoWidth, height: element.videoHeight, seconds: element.duration };
		},
		`data:video/webm;base64,${video.toString('base64')}`
	);
	expect([seen.width, seen.height]).toEqual([320, 180]);
	expect(Math.abs(seen.seconds - 10 / 24)).toBeLessThan(0.05);
});

test('an export of frames that is stopped keeps what it made', async ({ page }) => {
	await withBox(page);
	await timeline(page).getByRole('button', { name: 'Export frames' }).click();
	const dialog = page.getByRole('dialog');
	await dialog.getByLabel('To frame').fill('5000');
	await dialog.getByRole('radio', { name: 'Pictures, PNG in a zip' }).check();
	const arriving = page.waitForEvent('download');
	await dialog.getByRole('button', { name: 'Export 5000 frames' }).click();
	await expect(dialog.getByRole('status')).toContainText(/[2-9] of 5000 frames/);
	await dialog.getByRole('button', { name: 'Stop and keep what is made' }).click();
	const files = unzipSync(readFileSync(await (await arriving).path()));
	expect(Object.keys(files).length).toBeGreaterThan(1);
	await expect(page.getByText(/It was stopped\. The \d+ before it are in the file\./)).toBeVisible();
});

/** The dialogue for a video of 10 frames, whose worker begins with a script of ours. */
async function videoWith(page: Page, script: string): Promise<Locator> {
	await page.route(/frames\.worker/, async (route) => {
		const answer = await route.fetch();
		await route.fulfill({ response: answer, body: `${script}\n${await answer.text()}` });
	});
	await withBox(page);
	await timeline(page).getByRole('button', { name: 'Export frames' }).click();
	const dialog = page.getByRole('dialog');
	await dialog.getByLabel('To frame').fill('10');
	await dialog.getByRole('radio', { name: 'Video' }).check();
	await dialog.getByLabel('Width, pixels').fill('320');
	await dialog.getByLabel('Height, pixels').fill('180');
	return dialog;
}

test('a video encoder that is missing is told of, and pictures are one step away', async ({ page }) => {
	const dialog = await videoWith(page, 'self.VideoEncoder = undefined;');
	await dialog.getByRole('button', { name: 'Export 10 frames' }).click();
	await expect(page.getByText(/no encoder for videos of 320 by 180 pixels/).first()).toBeVisible();
	await dialog.getByRole('radio', { name: 'Pictures, PNG in a zip' }).check();
	await dialog.getByLabel('To frame').fill('2');
	const arriving = page.waitForEvent('download');
	await dialog.getByRole('button', { name: 'Export 2 frames' }).click();
	expect(Object.keys(unzipSync(readFileSync(await (await arriving).path())))).toHaveLength(2);
});

test('of a video whose encoder breaks off half-way the frames before are kept', async ({ page }) => {
	const dialog = await videoWith(
		page,
		`{ const encode = VideoEncoder.prototype.encode; let left = 4;
		VideoEncoder.prototype.encode = function (...given) {
			if (left-- <= 0) throw new Error('The encoder was lost.');
			return encode.apply(this, given);
		}; }`
	);
	const arriving = page.waitForEvent('download');
	await dialog.getByRole('button', { name: 'Export 10 frames' }).click();
	expect(readFileSync(await (await arriving).path()).length).toBeGreaterThan(500);
	await expect(page.getByText(/^Frame 5 could not be made: The encoder was lost\./)).toBeVisible();
});

test('keys are chosen, scaled, copied and pasted together; a curve’s key and handle are dragged', async ({
	page
}) => {
	await openSample(page, 'Lantern string');
	await page.getByRole('button', { name: 'Timeline', exact: true }).click();
	const row = timeline(page).getByRole('group', { name: 'Keys of gust.value' });
	const at = (frame: number) => row.getByRole('button', { name: `Key at frame ${frame}`, exact: true });
	await at(30).click();
	await at(70).click({ modifiers: ['Shift'] });
	const chosen = timeline(page).getByRole('group', { name: 'Chosen keys' });
	await expect(chosen).toContainText('2 keys');
	// Twice as fast about the first frame: 30 comes to 15.5, which is 16, and 70 to 35.5.
	await evaluated(page, async () => {
		await chosen.getByLabel('Scale in time').fill('0.5');
		await page.keyboard.press('Enter');
	});
	await expect(at(16)).toBeVisible();
	await expect(at(36)).toBeVisible();
	await chosen.getByRole('button', { name: 'Copy' }).click();
	await evaluated(page, () => playhead(page).fill('81'));
	await evaluated(page, () => chosen.getByRole('button', { name: 'Paste at frame 81' }).click());
	await expect(row.getByRole('button')).toHaveCount(6);
	await expect(at(81)).toHaveAttribute('aria-pressed', 'true');
	await expect(at(101)).toBeVisible();
	await page.keyboard.press('Control+z');
	await expect(row.getByRole('button')).toHaveCount(4);
	// As a curve: dragged higher, the value at its frame is higher.
	await timeline(page).getByRole('button', { name: 'gust.value', exact: true }).click();
	const curves = page.getByRole('group', { name: 'Curves of keys' });
	await expect(curves).toBeVisible();
	const key = timeline(page).getByRole('button', { name: /^Key of gust.value at frame 36, 14/ });
	const [box, plot] = [(await key.boundingBox())!, (await curves.boundingBox())!];
	await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
	await page.mouse.down();
	await page.mouse.move(box.x + box.width / 2, plot.y + 4, { steps: 4 });
	await evaluated(page, () => page.mouse.up());
	const raised = timeline(page).getByRole('button', { name: /^Key of gust.value at frame 36, / });
	expect(Number((await raised.getAttribute('aria-label'))!.split(', ')[1])).toBeGreaterThan(24);
	await timeline(page).getByLabel('From the key at 16 to the next').click();
	await evaluated(page, () => page.getByRole('option', { name: 'Bézier' }).click());
	const handle = timeline(page).getByRole('button', { name: /^Handle 1 of gust.value/ });
	const before = await handle.getAttribute('aria-label');
	await handle.focus();
	await evaluated(page, () => page.keyboard.press('ArrowRight'));
	expect(
		await timeline(page)
			.getByRole('button', { name: /^Handle 1 of/ })
			.getAttribute('aria-label')
	).not.toBe(before);
});

test('keys go onto another setting, a frame that is taken is asked about, and frames have names', async ({
	page
}) => {
	await openSample(page, 'Lantern string');
	await page.getByRole('button', { name: 'Timeline', exact: true }).click();
	const row = timeline(page).getByRole('group', { name: 'Keys of gust.value' });
	const frames = async (of: Locator) => (await of.getByRole('button').all()).length;
	const count = await frames(row);
	for (const key of await row.getByRole('button').all()) await key.click({ modifiers: ['Shift'] });
	const chosen = timeline(page).getByRole('group', { name: 'Chosen keys' });
	await chosen.getByRole('button', { name: 'Copy' }).click();
	await chosen.getByRole('button', { name: 'Paste onto another setting …' }).click();
	await page.getByPlaceholder('Onto which setting …').fill('gust.step');
	await evaluated(page, () => page.getByRole('option', { name: /gust.step/ }).click());
	const other = timeline(page).getByRole('group', { name: 'Keys of gust.step' });
	await expect(other.getByRole('button')).toHaveCount(count);
	// A frame typed onto another key asks.
	await timeline(page).getByRole('button', { name: 'gust.value', exact: true }).click();
	const table = page.getByRole('table', { name: 'Keys of gust.value' });
	const field = table.getByRole('spinbutton', { name: 'Frame of the key at 30' });
	await field.fill('70');
	await field.press('Enter');
	const asks = page.getByRole('alertdialog', { name: 'Frame 70 has a key' });
	await asks.getByRole('button', { name: 'Leave both' }).click();
	await expect(row.getByRole('button')).toHaveCount(count);
	await field.fill('70');
	await field.press('Enter');
	await evaluated(page, () =>
		asks.getByRole('button', { name: 'Put the key of frame 30 in its place' }).click()
	);
	await expect(row.getByRole('button')).toHaveCount(count - 1);
	// A name is a place to go to.
	await evaluated(page, () => playhead(page).fill('12'));
	await timeline(page).getByRole('textbox', { name: 'Name of frame 12' }).fill('First gust');
	await page.keyboard.press('Enter');
	await evaluated(page, () => playhead(page).fill('50'));
	await evaluated(page, () =>
		timeline(page).getByRole('button', { name: 'To First gust, frame 12' }).click()
	);
	await expect(playhead(page)).toHaveValue('12');
});
