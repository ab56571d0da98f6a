/** A generator in use: which placement is open, in which tab, and what is let go of. */
import assert from 'node:assert/strict';
import { beforeEach, describe, test } from 'node:test';
import { newDocument } from '$core/engine/index';
import { browser, until } from '$lib/testing/browser';
import { database, loadGenerator, newId, saveGenerator } from '$lib/store/database';
import { placementsOf } from '$lib/store/placements';
import { Dress } from './dress.svelte';

describe('dressing', () => {
	beforeEach(async () => {
		browser.pageGoes();
		browser.notes.clear();
		const db = await database();
		for (const store of db.objectStoreNames) await db.clear(store);
	});

	async function kept(untouched = false): Promise<string> {
		const id = newId();
		await saveGenerator({ id, name: 'Reeds', document: newDocument('Reeds'), untouched });
		return id;
	}
	const seed = (dress: Dress): number => dress.editor!.document.seed;

	test('a tab that chooses a placement has what the other one made of it meanwhile', async () => {
		const id = await kept();
		const one = (await Dress.open(id))!;
		one.editor!.setSeed(11);
		await one.add();
		one.editor!.setSeed(12);
		await one.editor!.saving.flush();
		const [first, second] = one.list;
		const other = (await Dress.open(id))!;
		assert.deepEqual([other.id, seed(other), other.list.length], [first.id, 11, 2]);
		// The first tab changes the second placement, and gives it up.
		one.editor!.setSeed(77);
		await one.rename('By the weir');
		await one.add();
		await until(() => other.list.length === 2 && other.list[1].name === 'By the weir');
		await other.choose(second.id);
		assert.equal(seed(other), 77);
		assert.equal(other.editor!.saving.writes, true);
		await one.close();
		await other.close();
	});

	test('a placement that is looked at in two tabs follows the one that writes, and may be taken over', async () => {
		const id = await kept();
		const one = (await Dress.open(id))!;
		one.editor!.setSeed(5);
		await one.editor!.saving.flush();
		const other = (await Dress.open(id))!;
		assert.deepEqual([seed(other), other.editor!.saving.writes], [5, false]);
		one.editor!.setSeed(6);
		await until(() => seed(other) === 6);
		one.editor!.setSeed(7);
		assert.equal(await other.editor!.takeOver(), null);
		assert.deepEqual([seed(other), other.editor!.saving.writes, one.editor!.saving.writes], [7, true, false]);
		other.editor!.setSeed(8);
		await until(() => seed(one) === 8);
		await one.close();
		await other.close();
	});

	test('the last change of a placement is there when its page went before it was written', async () => {
		const id = await kept(true);
		const one = (await Dress.open(id))!;
		const { editor } = one;
		const before = await placementsOf(id);
		editor!.setSeed(41);
		editor!.setSeed(42);
		editor!.saving.letGo();
		browser.pageGoes();
		assert.equal(before.length, 0);
		await editor!.saving.close();
		const next = (await Dress.open(id))!;
		assert.equal(seed(next), 42);
		assert.equal((await loadGenerator(id))!.untouched, false);
		await next.close();
	});

	test('placements added and chosen quickly, and one left while it opens: nothing stays open', async () => {
		const id = await kept();
		const dress = (await Dress.open(id))!;
		const [first] = dress.list;
		void dress.add();
		void dress.add();
		void dress.choose(first.id);
		const last = dress.add();
		assert.ok(browser.workers <= 2);
		await last;
		assert.equal(browser.locks().filter((name) => name.includes('placement-')).length, 1);
		assert.equal(browser.workers, 1);
		void dress.choose(first.id);
		await dress.close();
		await until(() => browser.locks().length === 0);
		assert.equal(browser.workers, 0);
	});

	test('a placement that is open elsewhere is not deleted; one that is deleted elsewhere is left', async () => {
		const id = await kept();
		const one = (await Dress.open(id))!;
		one.editor!.setSeed(21);
		await one.add();
		one.editor!.setSeed(22);
		await one.editor!.saving.flush();
		const [first, second] = one.list;
		const other = (await Dress.open(id))!;
		await other.remove(second.id);
		assert.equal((await placementsOf(id)).length, 2);
		await one.remove(second.id);
		await until(() => other.list.length === 1);
		assert.equal(other.id, first.id);
		// One that was added here is gone from the list as well when another tab deletes it.
		await one.add();
		one.editor!.setSeed(23);
		await one.editor!.saving.flush();
		const third = one.id;
		await until(() => other.list.length === 2);
		await one.add();
		await other.remove(third);
		await until(() => !one.list.some(({ id }) => id === third));
		await one.close();
		await other.close();
	});

	test('of a generator that is not there nothing is opened, and nothing held', async () => {
		assert.equal(await Dress.open('nothing'), null);
		await new Promise((done) => setImmediate(done));
		assert.deepEqual(browser.locks(), []);
	});
});
