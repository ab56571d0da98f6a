/** What is set by hand becomes a key where it should, and nowhere else; the playhead is kept. */
import assert from 'node:assert/strict';
import { beforeEach, describe, test } from 'node:test';
import type { GeneratorDocument, KeysSetting } from '$core/engine/index';
import { dialOf, isKeys, newDocument, newNode, withDialFor } from '$core/engine/index';
import { keepPlayhead, playheadOf } from '$lib/store/playheads';
import { browser } from '$lib/testing/browser';
import { Editor } from './editor.svelte';
import { KeySelection } from './key-selection.svelte';
import { NotKept } from './not-kept.svelte';
import { Saving } from './saving.svelte';

describe('playing', () => {
	beforeEach(() => {
		browser.pageGoes();
		browser.notes.clear();
	});

	function boxed(): { editor: Editor; hull: string } {
		const empty = newDocument('Hull');
		const hull = newNode(empty.graphs.main, 'box', [0, 0], { size: [1, 2, 3] });
		const document: GeneratorDocument = {
			...empty,
			graphs: { main: { ...empty.graphs.main, nodes: [hull] } }
		};
		return { editor: new Editor('hull', document, new NotKept()), hull: hull.id };
	}
	const size = ({ document }: Editor) => document.graphs.main.nodes[0].settings.size;
	const framesOf = (setting: unknown) => (setting as KeysSetting).keys.map(({ at }) => at);
	const keysOf = ({ playing }: Editor, node: string, setting: string) => playing.keysAt({ node, setting });

	test('a part that is set gets a key only where it has keys itself; its neighbours stay as they are', () => {
		const { editor, hull } = boxed();
		editor.playing.setKey({ node: hull, setting: 'size.y' });
		assert.deepEqual([(size(editor) as unknown[])[0], (size(editor) as unknown[])[2]], [1, 3]);
		editor.playing.seek(11);
		editor.set(hull, 'size.x', 5);
		assert.deepEqual((size(editor) as unknown[])[0], 5);
		assert.deepEqual(framesOf(keysOf(editor, hull, 'size.y')), [1]);
		editor.set(hull, 'size.y', 8);
		assert.deepEqual(framesOf(keysOf(editor, hull, 'size.y')), [1, 11]);
		// Set as a whole, as a handle in the View does: only the part that is another gets a key.
		editor.playing.seek(21);
		editor.set(hull, 'size', [6, 8, 4]);
		assert.deepEqual(framesOf(keysOf(editor, hull, 'size.y')), [1, 11]);
		assert.deepEqual([(size(editor) as unknown[])[0], (size(editor) as unknown[])[2]], [6, 4]);
		editor.set(hull, 'size', [6, 9, 4]);
		assert.deepEqual(framesOf(keysOf(editor, hull, 'size.y')), [1, 11, 21]);
	});

	test('a part of what has keys as a whole sets one of the whole; a key set on the part splits them', () => {
		const { editor, hull } = boxed();
		editor.playing.setKey({ node: hull, setting: 'size' });
		editor.playing.seek(11);
		editor.set(hull, 'size.y', 7);
		const whole = size(editor);
		assert.ok(isKeys(whole));
		assert.deepEqual(
			whole.keys.map(({ at, value }) => [at, value]),
			[
				[1, [1, 2, 3]],
				[11, [1, 7, 3]]
			]
		);
		editor.playing.seek(6);
		editor.playing.setKey({ node: hull, setting: 'size.z' });
		assert.ok(Array.isArray(size(editor)));
		assert.deepEqual(
			['size.x', 'size.y', 'size.z'].map((name) => framesOf(keysOf(editor, hull, name))),
			[
				[1, 11],
				[1, 11],
				[1, 6, 11]
			]
		);
		editor.undo();
		assert.deepEqual(size(editor), whole);
		editor.redo();
		// Of all three at once, where each has its own: each gets one more.
		editor.playing.setKey({ node: hull, setting: 'size' }, 30);
		assert.deepEqual(
			['size.x', 'size.y', 'size.z'].map((name) => framesOf(keysOf(editor, hull, name)).at(-1)),
			[30, 30, 30]
		);
	});

	test('while it records what is set or turned becomes a key; else only where there are keys', () => {
		const { editor, hull } = boxed();
		editor.set(hull, 'size.x', 2);
		assert.equal(keysOf(editor, hull, 'size.x'), null);
		let key = '';
		editor.change('Make a dial', (document) => {
			const made = withDialFor(document, { graph: 'main', node: hull, setting: 'size.x' });
			({ key } = made);
			return made.document;
		});
		editor.dials.turn(key, 4, true);
		assert.equal(dialOf(editor.document, key)!.value, 4);
		editor.playing.records = true;
		editor.playing.seek(5);
		editor.dials.turn(key, 6, true);
		editor.playing.records = false;
		editor.playing.seek(9);
		editor.dials.turn(key, 7, true);
		assert.deepEqual(framesOf(dialOf(editor.document, key)!.value), [5, 9]);
		// What the dial has in hand moves with it, and is no row of its own.
		assert.deepEqual(
			editor.playing.rows.map(({ node, setting }) => [node, setting]),
			[['', key]]
		);
		editor.playing.seek(7);
		assert.equal(
			(editor.activeNow ?? editor.playing.now.graphs.main.nodes[0]).settings.size?.toString(),
			'6.5,2,3'
		);
		editor.dials.reset(key);
		assert.equal(dialOf(editor.document, key)!.value, 2);
	});

	test('keys that were copied go onto what can hold them, and nowhere else', () => {
		const { editor, hull } = boxed();
		const place = { node: hull, setting: 'size.y' };
		editor.playing.setKey(place, 1);
		editor.playing.setKey(place, 9);
		const chosen = new KeySelection(editor);
		for (const at of [1, 9]) chosen.choose({ ...place, at }, true);
		chosen.copy();
		assert.ok(chosen.isOfOne);
		const may = (setting: string) => chosen.mayPasteOnto({ node: hull, setting });
		assert.deepEqual(
			[may('size.z'), may('cellsX'), may('standing'), may('edge')],
			[true, true, false, false]
		);
		chosen.paste(20, { node: hull, setting: 'size.z' });
		assert.deepEqual(framesOf(keysOf(editor, hull, 'size.z')), [20, 28]);
		assert.deepEqual(framesOf(keysOf(editor, hull, 'size.y')), [1, 9]);
		editor.undo();
		assert.equal(keysOf(editor, hull, 'size.z'), null);
	});

	test('the playhead stands where it was left, for each document; what is only shown keeps none', () => {
		const { editor } = boxed();
		const kept = new Editor('reeds', editor.document, new Saving('reeds'));
		assert.equal(kept.playing.frame, 1);
		kept.playing.seek(33);
		kept.playing.keepNow();
		assert.equal(new Editor('reeds', editor.document, new Saving('reeds')).playing.frame, 33);
		assert.equal(playheadOf('hull'), null);
		editor.playing.seek(12);
		editor.playing.keepNow();
		assert.equal(playheadOf('hull'), null);
		for (let i = 0; i < 300; i++) keepPlayhead(`g${i}`, i);
		assert.equal(playheadOf('g299'), 299);
		assert.equal(playheadOf('reeds'), null);
		browser.notes.set('embrell-playheads', '{"broken"');
		assert.equal(playheadOf('g299'), null);
		kept.playing.stop();
	});

	test('play pressed again within a picture runs one loop, and none once it has stopped or the editor is closed', async () => {
		const { editor } = boxed();
		const { playing } = editor;
		for (const _ of [1, 2, 3]) playing.toggle();
		assert.equal(playing.on, true);
		assert.deepEqual([browser.picture(), browser.picture()], [1, 1]);
		playing.toggle();
		assert.equal(browser.picture(), 0);
		playing.toggle();
		playing.toggle();
		playing.toggle();
		assert.equal(browser.picture(), 1);
		await editor.close();
		assert.equal(browser.picture(), 0);
	});

	test('play stops where a worker had to be ended', () => {
		const { editor } = boxed();
		editor.playing.toggle();
		assert.equal(browser.picture(), 1);
		editor.evaluation.restarts++;
		browser.picture();
		assert.equal(editor.playing.on, false);
		assert.equal(browser.picture(), 0);
		editor.playing.toggle();
		assert.deepEqual([browser.picture(), browser.picture()], [1, 1]);
	});
});
