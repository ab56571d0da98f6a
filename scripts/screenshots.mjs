// Takes the pictures of docs/screenshots and of the samples' cards from the built application:
// npx vite build && node scripts/screenshots.mjs
import { mkdirSync, writeFileSync } from 'node:fs';
import { chromium } from '@playwright/test';
import { serve } from './server.mjs';
import { chromium as executablePath } from './setup.mjs';

const { server, port } = await serve(4398, '127.0.0.1');
const browser = await chromium.launch({
	executablePath,
	args: [
		'--no-sandbox',
		'--use-angle=swiftshader',
		'--enable-unsafe-swiftshader',
		'--disable-background-networking',
		'--disable-quic'
	]
});
const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
const home = `http://127.0.0.1:${port}/`;
mkdirSync('docs/screenshots', { recursive: true });
mkdirSync('static/samples', { recursive: true });

/** Only these samples, by the names of their files; all where none is named. */
const only = process.argv.slice(3);

const settled = () =>
	page.waitForFunction(() => {
		const screen = document.querySelector('[data-evaluations]');
		return screen && Number(screen.dataset.evaluations) > 0 && screen.dataset.working === 'false';
	});
const shoot = (name) => page.screenshot({ path: `docs/screenshots/${name}.png` });

async function openSample(name) {
	await page.goto(home);
	await page.getByRole('button', { name: `Open ${name}` }).click();
	await page.waitForURL(/build/);
	await settled();
	await page.waitForTimeout(500);
}
/** A node that lies outside what the graph shows is brought into sight first. */
async function select(name) {
	const label = page.getByText(name, { exact: true }).first();
	await label.click({ timeout: 3000 }).catch(async () => {
		await page.getByRole('button', { name: 'Fit the graph' }).click();
		await page.waitForTimeout(500);
		await label.click();
	});
}

/** Dress, and the specimen sheet there, of the generator that is open. */
async function shootDress() {
	await page.getByRole('link', { name: 'Dress' }).click();
	await page.waitForURL(/dress/);
	await settled();
	await refined();
	// Presets with pictures, as their maker would have taken them.
	for (const name of ['Full of fish', 'Low and sparse', 'Above the flood']) {
		await page.getByRole('button', { name: `Use ${name}` }).click();
		await settled();
		await page.getByRole('button', { name: `What to do with ${name}` }).click();
		await page.getByRole('menuitem', { name: 'The View’s picture' }).click();
		await page
			.getByRole('button', { name: `Use ${name}` })
			.locator('img')
			.waitFor({ timeout: 60_000 });
	}
	await page.getByRole('button', { name: 'Use Full of fish' }).click();
	await settled();
	await refined();
	await shoot('dress');
	await page.getByRole('button', { name: 'Specimen sheet', exact: true }).click();
	// One dial varies: racks from low to high.
	const sheet = page.getByRole('region', { name: 'Specimen sheet' });
	await sheet.getByRole('button', { name: 'Stop' }).click();
	await sheet.getByLabel('What varies').click();
	await page.getByRole('option', { name: 'One dial, at values' }).click();
	await sheet.getByLabel('The dial').click();
	await page.getByRole('option', { name: 'Height of the trestles' }).click();
	const heights = Array.from({ length: 24 }, (_, k) => (1.4 + 0.1 * k).toFixed(1)).join(', ');
	await sheet.getByRole('textbox', { name: 'Its values' }).fill(heights);
	await sheet.getByRole('button', { name: 'Make the sheet' }).click();
	await page.getByText('24 drawn', { exact: true }).waitFor({ timeout: 240_000 });
	await page.waitForTimeout(300);
	await shoot('specimens');
}

const refined = () => page.waitForFunction(() => window.embrellView?.refined, null, { timeout: 180_000 });

for (const [name, file, node, shot] of [
	['Reed bed', 'reed-bed', 'sowing', 'build-reed-bed'],
	['Boardwalk', 'boardwalk', 'planks', 'build-boardwalk'],
	['Rope rail', 'rope-rail', 'course', 'draw-curve'],
	['Worn bollard', 'worn-bollard', 'grooves', 'build-bollard'],
	['Drying net', 'drying-net', 'floats', null],
	['Drying rack', 'drying-rack', 'skins', 'build-rack'],
	['Oyster plots', 'oyster-plots', 'whereLow', 'data'],
	['Shell drift', 'shell-drift', 'onEachShell', 'why'],
	['Painted sign', 'painted-sign', 'along', 'weights'],
	['Glasswort', 'glasswort', 'plants', null],
	['Float line', 'float-line', 'floats', null],
	['Shingled roof', 'shingled-roof', 'courses', 'repeat'],
	['Sedge tussock', 'sedge-tussock', 'blades', null],
	['Sea lavender', 'sea-lavender', 'sprays', null],
	['Mangrove', 'mangrove', 'crown', 'subgraph'],
	['Lantern post', 'lantern-post', 'lamps', null],
	['Lantern string', 'lantern-string', 'gust', 'timeline'],
	['Stilt platform', 'stilt-platform', 'deck', null],
	['Tide organ', 'tide-organ', 'swell', null],
	['Thatch that lays itself', 'thatch', 'laid', null]
]) {
	if (only.length && !only.includes(file)) continue;
	await openSample(name);
	// The card shows all of it: the View fills the window, which is shaped as the card is. The Library's own ground lies
	// behind it, in whichever theme it is looked at.
	const fill = async () => {
		await page.keyboard.press('3');
		await page.waitForTimeout(300);
	};
	if (file === 'tide-organ' || file === 'thatch') {
		await page.getByRole('button', { name: 'Timeline', exact: true }).click();
		await page.getByRole('slider', { name: 'Playhead' }).fill('58');
		await settled();
		await page.getByRole('button', { name: 'Timeline', exact: true }).click();
	}
	await fill();
	const data = await page.evaluate(async () => {
		const blob = await window.embrellView.picture({
			width: 800,
			height: 520,
			fitted: true,
			transparent: true,
			type: 'image/webp'
		});
		return Array.from(new Uint8Array(await blob.arrayBuffer()));
	});
	writeFileSync(`static/samples/${file}.webp`, Uint8Array.from(data));
	await fill();
	if (process.argv[2] === 'cards' || !shot) continue;
	await select(node);
	if (file === 'painted-sign') {
		await page.getByRole('button', { name: 'Show along in the View as a heat map' }).click();
		await page.getByRole('button', { name: 'Ramp along: edit the ramp' }).click();
	}
	if (file === 'oyster-plots') {
		await page.getByRole('button', { name: 'Data', exact: true }).click();
		await page.getByRole('button', { name: 'Charts' }).click();
		await page.getByRole('table').getByRole('row').nth(4).click();
	}
	if (file === 'shell-drift') {
		await page.getByRole('button', { name: 'Why is it so?' }).click();
		const place = await page.evaluate(() => {
			const box = window.embrellView.canvas.getBoundingClientRect();
			const at = window.embrellView.place(0.3, 0, 1.3);
			return { x: box.left + at.x, y: box.top + at.y };
		});
		await page.mouse.click(place.x, place.y);
		await page.waitForTimeout(700);
	}
	if (file === 'shingled-roof') {
		await page.getByRole('button', { name: 'Go into it' }).click();
		await page.waitForTimeout(500);
		for (let pass = 0; pass < 3; pass++) await page.getByRole('button', { name: 'Pass after' }).click();
		await settled();
		await page.getByRole('button', { name: 'Fit the graph' }).click();
		await page.getByRole('button', { name: 'Fit all' }).click();
		await page.waitForTimeout(500);
	}
	if (file === 'lantern-string') {
		await page.getByRole('button', { name: 'Timeline', exact: true }).click();
		await page.getByRole('button', { name: 'gust.value', exact: true }).click();
		await page.getByRole('slider', { name: 'Playhead' }).fill('42');
		await settled();
	}
	if (file === 'worn-bollard') await page.getByRole('button', { name: 'Order', exact: true }).click();
	await refined();
	await page.waitForTimeout(300);
	await shoot(shot);
	if (file === 'drying-rack') await shootDress();
	if (file === 'boardwalk') {
		await page.getByRole('button', { name: 'Use the Dusk theme' }).click();
		await refined();
		await shoot('build-dusk');
		await page.getByRole('button', { name: 'Use the Paper theme' }).click();
		await page.getByRole('button', { name: 'Export' }).click();
		await page.waitForTimeout(300);
		await shoot('export');
		await page.keyboard.press('Escape');
		await page.getByRole('button', { name: 'Undo' }).isVisible();
		await page.getByRole('region', { name: 'Graph' }).focus();
		await page.keyboard.press('Escape');
		await page.keyboard.press('/');
		await page.keyboard.type('hexagonal grid');
		await page.waitForTimeout(300);
		await shoot('node-search');
		await page.keyboard.press('Escape');
		// A change, so that the Library keeps the generator.
		await page.getByRole('spinbutton', { name: 'Seed' }).first().fill('12');
		await Promise.all([
			page.evaluate(() => new Promise((done) => addEventListener('embrell-picture', done, { once: true }))),
			page.keyboard.press('Enter')
		]);
	}
}
if (process.argv[2] !== 'cards' && (!only.length || only.includes('library'))) {
	await page.goto(home);
	await page.waitForTimeout(800);
	await shoot('library');
	await page.goto(`${home}handbook/bend-lattice`);
	await settled();
	await page.waitForTimeout(1500);
	await shoot('handbook');
	await openSample('Shell drift');
	await select('driftLine');
	const formula = page.getByRole('textbox', { name: 'Formula' });
	await formula.click();
	await page.keyboard.press('End');
	await page.keyboard.type(' * smoo');
	await page.getByRole('listbox', { name: 'Completions' }).waitFor();
	await refined();
	await page.waitForTimeout(600);
	await shoot('formula');
}
await browser.close();
server.close();
process.exit(0);
