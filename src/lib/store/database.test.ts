/** What the Library keeps, gives back and takes away. */
import assert from 'node:assert/strict';
import { beforeEach, describe, test } from 'node:test';
import { newDocument } from '$core/engine/index';
import { browser } from '$lib/testing/browser';
import {
	database,
	listGenerators,
	loadAsset,
	loadGenerator,
	lockOf,
	newId,
	saveAsset,
	saveGenerator,
	sweep,
	use
} from './database';
import { loadPlacement, placementsOf, restorePlacement, savePlacement, takePlacement } from './placements';
import { deleteStored, undeleteStored } from './stored-generators';
import { storageTrouble } from './trouble';
import { hold } from './unstored';

const DAY = 86_400_000;
const FILE = { hash: 'c'.repeat(32), name: 'post.obj', bytes: new Uint8Array([7]) };

describe('the database', () => {
	beforeEach(async () => {
		browser.pageGoes();
		const db = await database();
		for (const store of db.objectStoreNames) await db.clear(store);
	});

	async function kept({ untouched = false, name = 'Reeds' } = {}) {
		const id = newId();
		const document = { ...newDocument(name), assets: { [FILE.hash]: { name: FILE.name, bytes: 1 } } };
		await saveGenerator({ id, name, document, untouched });
		await saveAsset(FILE);
		const placement = { id: `p-${id}`, generator: id, name: 'By the weir', placement: null };
		return { id, document, placement };
	}

	test('a deleted generator is had back with its files and placements, after the Library was swept', async () => {
		const { id, document, placement } = await kept();
		await savePlacement(placement, document);
		const taken = await deleteStored(id);
		assert.ok(taken && typeof taken === 'object');
		assert.deepEqual(await listGenerators(), []);
		assert.equal(await loadGenerator(id), undefined);
		await sweep();
		await sweep(Date.now() + 3_500_000);
		assert.equal(await undeleteStored(taken), null);
		assert.equal((await loadGenerator(id))!.name, 'Reeds');
		assert.equal((await placementsOf(id)).length, 1);
		assert.deepEqual((await loadAsset(FILE.hash))!.bytes, FILE.bytes);
	});

	test('what was deleted an hour ago goes for good, with what only it had', async () => {
		const { id, document, placement } = await kept();
		const other = await kept({ name: 'Boardwalk' });
		await savePlacement(placement, document);
		const taken = await deleteStored(id);
		await sweep(Date.now() + 3_700_000);
		assert.match((await undeleteStored(taken as never))!, /gone for good/);
		assert.equal(await loadPlacement(placement.id), undefined);
		assert.ok(await loadAsset(FILE.hash), 'another one reads that file');
		await deleteStored(other.id);
		await sweep(Date.now() + 3_700_000);
		assert.equal(await loadAsset(FILE.hash), undefined);
	});

	test('a copy of a sample that is in use is not taken away, however long it is looked at', async () => {
		const { id, document, placement } = await kept({ untouched: true });
		const unused = use(id);
		// Another tab opens the Library, now and after a month.
		await listGenerators();
		await sweep(Date.now() + 30 * DAY);
		assert.equal(await deleteStored(id), 'It is open in another tab. Close it there first.');
		await savePlacement(placement, document);
		assert.deepEqual(
			(await listGenerators()).map(({ name }) => name),
			['Reeds'],
			'with a placement it is kept'
		);
		unused();
	});

	test('an untouched copy goes after a week, when nobody has it open', async () => {
		const { id } = await kept({ untouched: true });
		await sweep(Date.now() + 6 * DAY);
		assert.ok(await loadGenerator(id));
		let release: () => void = () => {};
		void navigator.locks.request(lockOf(id), () => new Promise<void>((done) => (release = done)));
		await sweep(Date.now() + 9 * DAY);
		assert.ok(await loadGenerator(id));
		release();
		await new Promise((done) => setImmediate(done));
		await sweep(Date.now() + 9 * DAY);
		assert.equal(await loadGenerator(id), undefined);
	});

	test('a placement is deleted and had back; saved after its generator went, it brings that with it', async () => {
		const { id, document, placement } = await kept();
		await savePlacement(placement, document);
		await takePlacement(placement.id);
		assert.deepEqual(await placementsOf(id), []);
		await restorePlacement(placement.id);
		assert.equal((await placementsOf(id)).length, 1);
		await (await database()).delete('generators', id);
		assert.equal(await savePlacement(placement, document), false);
		assert.equal((await loadGenerator(id))!.name, 'Reeds');
	});

	test('a generator that could not be stored opens all the same, until it is', async () => {
		const document = newDocument('Only here');
		hold('held', document, [FILE]);
		assert.equal((await loadGenerator('held'))!.document, document);
		assert.equal((await loadAsset(FILE.hash))!.name, 'post.obj');
		await saveGenerator({ id: 'held', name: 'Stored', document, untouched: false });
		assert.equal((await loadGenerator('held'))!.name, 'Stored');
	});

	test('what the store says is told in our words, with a way out', () => {
		for (const name of ['QuotaExceededError', 'VersionError', 'InvalidStateError', 'SecurityError'])
			assert.doesNotMatch(
				storageTrouble(new DOMException('The database connection is closing.', name)),
				/database/
			);
		assert.match(storageTrouble(new DOMException('', 'QuotaExceededError')), /Free some space/);
		assert.match(storageTrouble(new DOMException('', 'VersionError')), /Reload/);
		assert.equal(storageTrouble(new Error('A sentence of ours.')), 'A sentence of ours.');
	});
});
