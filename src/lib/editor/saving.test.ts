/** What was on the screen when the page went is there when it comes back. */
import assert from 'node:assert/strict';
import { afterEach, describe, test } from 'node:test';
import fc from 'fast-check';
import { newDocument } from '$core/engine/index';
import type { GeneratorDocument } from '$core/engine/index';
import { runs } from '$core/testing/runs';
import { browser } from '$lib/testing/browser';
import { listGenerators, loadGenerator, newId, saveGenerator } from '$lib/store/database';
import { handOver } from '$lib/store/last-notes';
import type { Keeping } from './saving.svelte';
import { Saving, generatorKeeping } from './saving.svelte';

describe('saving', () => {
	afterEach(() => {
		browser.notes.clear();
		browser.roomForNotes(Infinity);
		browser.pageGoes();
	});

	async function stored(name = 'Reeds'): Promise<{ id: string; document: GeneratorDocument }> {
		const id = newId();
		const document = newDocument(name);
		await saveGenerator({ id, name, document, untouched: false });
		return { id, document };
	}

	/** A page that has a generator open. */
	async function opened(id: string, keeping: Keeping = generatorKeeping(id)) {
		const saving = new Saving(id, keeping);
		await saving.claim();
		return { saving, document: (await saving.load())! };
	}

	/** The notes that pages left; an evaluation notes for itself that it takes long. */
	const left = (): string[] => [...browser.notes.keys()].filter((key) => key.startsWith('embrell-note '));

	function pageGoes(id: string): void {
		handOver(id);
		browser.pageGoes();
	}

	type Fate = 'lands' | 'fails' | 'never lands' | 'lands unheard';

	test('after any edits, whatever became of their writes, the next page has the last of them', async () => {
		const fate = fc.constantFrom<Fate>('lands', 'fails', 'never lands', 'lands unheard');
		await fc.assert(
			fc.asyncProperty(fc.array(fc.tuple(fc.nat(9), fate), { minLength: 1, maxLength: 6 }), async (edits) => {
				const { id } = await stored();
				let now: Fate = 'lands';
				let isGone = false;
				const under: Promise<boolean>[] = [];
				const whole = generatorKeeping(id);
				const page = await opened(id, {
					...whole,
					async write(document, revision) {
						if (now === 'never lands' || isGone) return new Promise(() => {});
						if (now === 'fails') throw new Error('no room');
						under.push(whole.write(document, revision));
						await under.at(-1);
						// Nobody hears in a page that is gone.
						return (now === 'lands' && !isGone) || new Promise(() => {});
					}
				});
				let document = page.document;
				for (const [seed, one] of edits) {
					now = one;
					document = { ...document, seed, name: `Reeds ${seed}` };
					page.saving.note(document);
					// Some are written before the next comes, some are not.
					if (seed % 2) await new Promise((done) => setImmediate(done));
				}
				page.saving.letGo();
				isGone = true;
				// What had begun is done before anyone else reads: the store keeps its order.
				await Promise.all(under);
				pageGoes(id);
				const next = await opened(id);
				assert.equal(next.document.seed, document.seed);
				assert.equal(next.document.name, document.name);
				assert.equal(next.saving.writes, true);
				assert.equal((await loadGenerator(id))!.name, document.name);
				assert.deepEqual(left(), []);
				await next.saving.close();
			}),
			{ numRuns: runs(300, 60) }
		);
	});

	test('a note that is older than what is stored is dropped, and one that cannot be read as well', async () => {
		const { id } = await stored();
		const page = await opened(id);
		page.saving.note({ ...page.document, seed: 7 });
		page.saving.letGo();
		const [key] = left();
		const note = browser.notes.get(key)!;
		await page.saving.close();
		assert.deepEqual(left(), []);
		const other = await opened(id);
		other.saving.note({ ...other.document, seed: 9 });
		await other.saving.close();
		browser.notes.set(key, note);
		browser.notes.set('embrell-note x', '{"from": [{"revision": 3}]}');
		browser.notes.set('embrell-note y', 'reeds');
		assert.equal((await loadGenerator(id))!.document.seed, 9);
		assert.deepEqual(left(), []);
	});

	test('the Library has the last change too, and a sample that was changed is no untouched copy any more', async () => {
		const { id, document } = await stored('Boardwalk');
		await saveGenerator({ id, name: 'Boardwalk', document, untouched: true });
		const page = await opened(id, { ...generatorKeeping(id), write: () => new Promise(() => {}) });
		page.saving.note({ ...page.document, name: 'Walk to the weir' });
		page.saving.letGo();
		pageGoes(id);
		const found = (await listGenerators()).find((one) => one.id === id);
		assert.equal(found?.name, 'Walk to the weir');
	});

	test('where there is no room for a note, the page goes on, and its writes do', async () => {
		const { id } = await stored();
		browser.roomForNotes(10);
		const page = await opened(id);
		page.saving.note({ ...page.document, seed: 4 });
		assert.doesNotThrow(() => page.saving.letGo());
		await page.saving.close();
		assert.equal((await loadGenerator(id))!.document.seed, 4);
	});

	test('a tab that looks on hears of each state that the other one stores', async () => {
		const { id } = await stored();
		const writer = await opened(id);
		const looker = await opened(id);
		assert.deepEqual([writer.saving.writes, looker.saving.writes], [true, false]);
		const news = new Promise<void>((heard) => (looker.saving.onNews = heard));
		writer.saving.note({ ...writer.document, seed: 12 });
		await news;
		assert.equal((await looker.saving.load())!.seed, 12);
		await writer.saving.close();
		await looker.saving.close();
	});

	test('files go again with a generator that the browser was told to forget', async () => {
		const { id } = await stored();
		const page = await opened(id);
		const file = { hash: 'a'.repeat(32), name: 'post.obj', bytes: new Uint8Array([1, 2]) };
		page.saving.files = () => [file];
		const { database, loadAsset } = await import('$lib/store/database');
		await (await database()).clear('generators');
		page.saving.note({ ...page.document, seed: 5 });
		await page.saving.close();
		assert.equal((await loadGenerator(id))!.document.seed, 5);
		assert.deepEqual((await loadAsset(file.hash))!.bytes, file.bytes);
	});
});
