/**
 * The tests' own browser. Most of them look at words, fields and wires, not at the picture: for those the View goes through all
 * that it does, but what it hands to the graphics card, here a processor that draws, is dropped. A test that looks at a
 * picture, or at how it comes, bears the tag `@pictures`: it runs alone, and all of it is drawn.
 */
import type { BrowserContext, Page } from '@playwright/test';
import { test as base, expect } from '@playwright/test';

export { expect };
export const PICTURES = '@pictures';

interface Choices {
	/** Whether what the View draws is drawn. */
	drawn: boolean;
	/**
	 * Whether the tests of a file follow one another in one tab, each from the Library, as an artist works all day: to load the
	 * application anew took more of a processor than most of them need. One that fails leaves the next a new tab.
	 */
	together: boolean;
}

/** The tab that tests go on in, from one to the next. */
interface Visit {
	context: BrowserContext | null;
	page: Page | null;
}

export const test = base.extend<Choices, { visit: Visit }>({
	drawn: [true, { option: true }],
	together: [false, { option: true }],
	visit: [
		// eslint-disable-next-line no-empty-pattern -- what a fixture hangs from is read from this pattern
		async ({}, use) => {
			const visit: Visit = { context: null, page: null };
			await use(visit);
			await visit.context?.close();
		},
		{ scope: 'worker' }
	],
	context: async (
		{ browser, contextOptions, baseURL, viewport, storageState, drawn, together, visit },
		use
	) => {
		if (together && visit.context) return use(visit.context);
		const context = await browser.newContext({ ...contextOptions, baseURL, viewport, storageState });
		if (!drawn) await context.addInitScript(drawNothing);
		if (together) visit.context = context;
		await use(context);
		if (!together) await context.close();
	},
	page: async ({ context, viewport, together, visit }, use) => {
		if (!together) return use(await context.newPage());
		visit.page ??= await context.newPage();
		const { page } = visit;
		await use(page);
		// What one test listens to or sets is nothing to the next.
		for (const event of ['dialog', 'console', 'pageerror', 'request', 'response', 'download'] as const)
			page.removeAllListeners(event);
		await page.unrouteAll({ behavior: 'ignoreErrors' });
		if (viewport) await page.setViewportSize(viewport);
		for (const other of context.pages()) if (other !== page) await other.close();
	}
});

function drawNothing(): void {
	const gl = WebGL2RenderingContext.prototype;
	const nothing = () => {};
	// Shaders are not made either: that takes a processor a second in each page.
	for (const name of [
		'compileShader',
		'linkProgram',
		'drawArrays',
		'drawElements',
		'drawArraysInstanced',
		'drawElementsInstanced',
		'clear',
		'blitFramebuffer'
	] as const)
		gl[name] = nothing;
	const { getExtension } = gl;
	gl.getExtension = function (this: WebGL2RenderingContext, name: string) {
		// Nobody waits for shaders that never come.
		return name === 'KHR_parallel_shader_compile' ? null : (getExtension.call(this, name) as unknown);
	} as typeof getExtension;
}
