/** Light, shadow and refinement in the View, looked at pixel by pixel. */
import type { Page } from '@playwright/test';
import { PICTURES, expect, test } from './test';
import { addNode, choose, evaluated, openEmpty, openSample, setNumber, settled } from './helpers';

// Here pictures are refined.
test.use({ storageState: { cookies: [], origins: [] } });

interface View {
	pictures: number;
	gathered: number;
	refined: boolean;
	renderer: { getContext(): WebGL2RenderingContext };
	cameraState: { position: number[]; target: number[] };
	picture(wanted: { width: number; height: number; transparent: boolean; samples?: number }): Promise<Blob>;
	place(x: number, y: number, z: number): { x: number; y: number } | null;
}
type Seen = Pick<View, 'pictures' | 'gathered' | 'refined'>;

const seen = (page: Page): Promise<Seen> =>
	page.evaluate(() => {
		const { pictures, gathered, refined } = (window as unknown as { embrellView: View }).embrellView;
		return { pictures, gathered, refined };
	});
const refined = (page: Page) =>
	expect.poll(async () => (await seen(page)).refined, { timeout: 90_000 }).toBe(true);

/** A picture as numbers: red, green, blue and opacity of each pixel, row by row. */
const pixels = (page: Page, width: number, height: number, transparent: boolean, samples?: number) =>
	page.evaluate(
		async ([width, height, transparent, samples]) => {
			const view = (window as unknown as { embrellView: View }).embrellView;
			const blob = await view.picture({ width, height, transparent, samples });
			const context = new OffscreenCanvas(width, height).getContext('2d')!;
			context.drawImage(await createImageBitmap(blob), 0, 0);
			return [...context.getImageData(0, 0, width, height).data];
		},
		[width, height, transparent, samples] as [number, number, boolean, number | undefined]
	);

/** Pixels from the ball’s outline. */
const NEAR = 12;

/** A ball of a metre that stands on the ground, seen from above, and so large that the edge of its shadow can be looked at. */
async function ballOnGround(page: Page): Promise<void> {
	await openEmpty(page);
	await addNode(page, 'sphere');
	await addNode(page, 'transform');
	await setNumber(page, 'Move y', '0.5');
	await page.evaluate(() => {
		const view = (window as unknown as { embrellView: View }).embrellView;
		view.cameraState = { position: [0.3, 2.2, 2], target: [0.35, 0.3, -0.2] };
	});
}

test(
	'the refined shadow of a ball on the ground has no hard edge, and lies where the sun says',
	{ tag: PICTURES },
	async ({ page }) => {
		await ballOnGround(page);
		const [w, h] = [480, 360];
		const light = await pixels(page, w, h, true);
		// Ground alone: nothing is drawn there but the shadow, which is black and see-through.
		const isGround = (i: number) =>
			light[4 * i] + light[4 * i + 1] + light[4 * i + 2] < 6 && light[4 * i + 3] < 250;
		/** Where the ball touches the ground, and right at its outline, the shadow begins at once: its edge lies farther off. */
		const isFree = (x: number, y: number) => {
			for (let dy = -NEAR; dy <= NEAR; dy += 2)
				for (let dx = -NEAR; dx <= NEAR; dx += 2) {
					const [px, py] = [x + dx, y + dy];
					if (px >= 0 && py >= 0 && px < w && py < h && !isGround(py * w + px)) return false;
				}
			return true;
		};
		const shadow = (i: number) => light[4 * i + 3];
		let deepest = 0,
			step = 0,
			sumX = 0,
			weight = 0,
			looked = 0;
		for (let y = 0; y < h - 1; y++)
			for (let x = 0; x < w - 1; x++) {
				const i = y * w + x;
				if (!isGround(i)) continue;
				deepest = Math.max(deepest, shadow(i));
				sumX += x * shadow(i);
				weight += shadow(i);
				if (shadow(i) < 12 || !isFree(x, y)) continue;
				looked++;
				for (const j of [i + 1, i + w])
					if (isGround(j)) step = Math.max(step, Math.abs(shadow(i) - shadow(j)));
			}
		expect(looked).toBeGreaterThan(800);
		expect(deepest).toBeGreaterThan(60);
		expect(step).toBeLessThanOrEqual(8);
		// The sun stands in the south-south-west, so that the shadow falls to the north-east: to the right of the ball.
		const ball = await page.evaluate(
			() => (window as unknown as { embrellView: View }).embrellView.place(0, 0.5, 0)!.x
		);
		const canvas = (await page.getByLabel('Picture of the result').boundingBox())!;
		// The picture is as tall as the View in what it shows, whatever their widths.
		const ballX = w / 2 + ((ball - canvas.width / 2) * h) / canvas.height;
		expect(sumX / weight).toBeGreaterThan(ballX + 10);
	}
);

test(
	'a moved camera is answered by one plain picture, and the refined one comes when it rests',
	{ tag: PICTURES },
	async ({ page }) => {
		await ballOnGround(page);
		await refined(page);
		const before = await seen(page);
		await page.getByRole('region', { name: 'View' }).focus();
		// What was gathered is gone as soon as anything moves, and one picture answers.
		await page.keyboard.press('ArrowLeft');
		await expect.poll(async () => (await seen(page)).pictures).toBe(before.pictures + 1);
		await refined(page);
		expect((await seen(page)).pictures).toBe(before.pictures + 1);
	}
);

test(
	'no grid line lies over a surface, not even one in the ground’s own plane',
	{ tag: PICTURES },
	async ({ page }) => {
		await openEmpty(page);
		await addNode(page, 'grid');
		await refined(page);
		// The canvas itself, with its grid: along the middle of the sheet colours hardly differ.
		const row = await page.evaluate(() => {
			const canvas = document.querySelector<HTMLCanvasElement>('canvas[aria-label="Picture of the result"]')!;
			const view = (window as unknown as { embrellView: View }).embrellView;
			const a = view.place(-4, 0, 0.5)!,
				b = view.place(4, 0, 0.5)!;
			const ratio = canvas.width / canvas.clientWidth;
			const out: number[] = [];
			const copy = new OffscreenCanvas(canvas.width, canvas.height).getContext('2d')!;
			return new Promise<number[]>((done) => {
				// The picture stands on the canvas only until the page is composed.
				(view as unknown as { painter: { present(): void } }).painter.present();
				copy.drawImage(canvas, 0, 0);
				for (let k = 0; k <= 200; k++) {
					const x = Math.round((a.x + ((b.x - a.x) * k) / 200) * ratio),
						y = Math.round((a.y + ((b.y - a.y) * k) / 200) * ratio);
					out.push(...copy.getImageData(x, y, 1, 1).data.slice(0, 3));
				}
				done(out);
			});
		});
		for (let k = 3; k < row.length; k++) expect(Math.abs(row[k] - row[k - 3])).toBeLessThanOrEqual(4);
	}
);

test(
	'light and background are set in a small menu, kept with the generator, and change nothing that is exported',
	{ tag: PICTURES },
	async ({ page }) => {
		await openEmpty(page);
		await addNode(page, 'sphere');
		await addNode(page, 'result');
		const hash = await page.locator('[data-hash]').getAttribute('data-hash');
		const bright = async () => {
			const data = await pixels(page, 60, 60, true, 8);
			const middle = 4 * (30 * 60 + 30);
			return data[middle] + data[middle + 1] + data[middle + 2];
		};
		const usual = await bright();
		await page.getByRole('button', { name: 'Light and background' }).click();
		const exposure = page.getByRole('spinbutton', { name: 'Exposure' });
		await exposure.click();
		await exposure.fill('-1.5');
		await exposure.press('Enter');
		await expect.poll(bright).toBeLessThan(usual * 0.75);
		await choose(page, 'Background', 'Soft sky');
		await page.getByRole('checkbox', { name: 'Shadow' }).click();
		await page.keyboard.press('Escape');
		await settled(page);
		expect(await page.locator('[data-hash]').getAttribute('data-hash')).toBe(hash);
		await expect(page.getByTestId('saved')).toHaveText('Saved');
		await page.reload();
		await settled(page);
		await page.getByRole('button', { name: 'Light and background' }).click();
		await expect(page.getByRole('spinbutton', { name: 'Exposure' })).toHaveValue(/^−1\.5/);
		await expect(page.getByRole('checkbox', { name: 'Shadow' })).not.toBeChecked();
		await expect(page.getByRole('combobox', { name: 'Background' })).toHaveText(/Soft sky/);
	}
);

test(
	'graphics that the browser takes away are told of, and come back by themselves',
	{ tag: PICTURES },
	async ({ page }) => {
		await openEmpty(page);
		await addNode(page, 'box');
		const lose = page.evaluateHandle(() => {
			const view = (window as unknown as { embrellView: View }).embrellView;
			return view.renderer.getContext().getExtension('WEBGL_lose_context')!;
		});
		const handle = await lose;
		await handle.evaluate((one) => one.loseContext());
		const notice = page.getByText('The browser has taken the graphics away.');
		await expect(notice).toBeVisible();
		// The work goes on meanwhile.
		await setNumber(page, 'Size x', '3');
		await handle.evaluate((one) => one.restoreContext());
		await expect(notice).toBeHidden();
		const before = await seen(page);
		await evaluated(page, () => page.keyboard.press('Control+z'));
		await expect.poll(async () => (await seen(page)).pictures).toBeGreaterThan(before.pictures);
		const data = await pixels(page, 40, 40, true, 8);
		expect(data.filter((alpha, i) => i % 4 === 3 && alpha > 250).length).toBeGreaterThan(60);
	}
);

test(
	'of very many copies a share is drawn while something moves, and all of them when it rests',
	{ tag: PICTURES },
	async ({ page }) => {
		await openSample(page, 'Reed bed');
		// Far more reeds than a processor draws at once.
		await page.getByRole('button', { name: 'Fit the graph' }).click();
		await page.locator('[data-node-id]').filter({ hasText: 'sowing' }).first().click();
		await setNumber(page, 'Density', '900');
		await expect(page.getByTestId('share')).toHaveText(/^one in (two|four|eight|sixteen|\d+) while moving$/);
		// A field takes what is typed all the while.
		await setNumber(page, 'Minimum distance', '0');
		await page.getByRole('region', { name: 'View' }).focus();
		await page.keyboard.press('ArrowRight');
		await expect(page.getByTestId('share')).toBeHidden({ timeout: 120_000 });
	}
);
