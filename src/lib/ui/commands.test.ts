/** One list of commands: each key does one thing, and each of them can be found by name. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import type { Screen } from './commands.ts';
import { commandsOf, pressed } from './commands.ts';

/** A screen that notes what is asked of it. */
function noting(inView = false) {
	const done: string[] = [];
	const note =
		(name: string) =>
		(...args: unknown[]) =>
			void done.push([name, ...args.map(String)].join(' '));
	const all = (...names: string[]) => Object.fromEntries(names.map((name) => [name, note(name)]));
	const editor = {
		selected: new Set(['a', 'b']),
		graph: { nodes: [{ id: 'a' }, { id: 'b' }, { id: 'c' }] },
		active: { id: 'a' },
		place: all('enter', 'leave', 'makeOfSelected', 'takeApart', 'lookAt'),
		evaluation: all('stop'),
		playing: all('toggle', 'toStart', 'toEnd'),
		...all('undo', 'redo', 'duplicate', 'bypassSelected', 'toggleSelectedShown', 'select')
	};
	const screen = {
		editor,
		inView: () => inView,
		flow: () => all('openSearch', 'deleteSelected', 'fit', 'tidy'),
		view: () => all('fitAll', 'fitSelection', 'look', 'setHandleMode'),
		...all('fill', 'exportResult', 'exportFrames', 'saveFile', 'listKeys', 'findCommand', 'changeTheme')
	} as unknown as Screen;
	return { done, commands: commandsOf(screen) };
}
const press = (key: string, ...held: ('ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey')[]) =>
	pressed({
		key,
		ctrlKey: held.includes('ctrlKey'),
		metaKey: held.includes('metaKey'),
		altKey: held.includes('altKey'),
		shiftKey: held.includes('shiftKey')
	});

test('no key and no name stands for two commands, and every command does something', () => {
	const { commands } = noting();
	const keys = commands.flatMap((one) => one.keys);
	assert.equal(new Set(keys).size, keys.length);
	assert.equal(new Set(commands.map(({ name }) => name)).size, commands.length);
	for (const { name, run } of commands) {
		const own = noting();
		own.commands.find((one) => one.name === name)!.run();
		const silent = ['Data', 'Ramps', 'Order of the chain', 'Timeline', 'Show or hide references'].includes(
			name
		);
		assert.equal(own.done.length > 0, !silent, name);
		assert.equal(typeof run, 'function');
	}
});

test('presses are spelled as in the list, on every keyboard', () => {
	assert.equal(press('z', 'ctrlKey'), 'Ctrl+Z');
	assert.equal(press('Z', 'metaKey', 'shiftKey'), 'Ctrl+Shift+Z');
	assert.equal(press('?', 'shiftKey'), '?');
	assert.equal(press('/'), '/');
	assert.equal(press('/', 'shiftKey'), '/', 'where the slash is typed with Shift');
	assert.equal(press('F', 'shiftKey'), 'Shift+F');
	assert.equal(press('f'), 'F');
	assert.equal(press('F'), 'F', 'with Caps Lock');
	assert.equal(press('t', 'altKey'), 'Alt+T');
	assert.equal(press('Delete'), 'Delete');
	assert.equal(press('1'), '1');
});

test('what is fitted is what has the keys', () => {
	const fits = (inView: boolean, key: string) => {
		const { done, commands } = noting(inView);
		commands.find(({ keys }) => keys.includes(key))!.run();
		return done;
	};
	assert.deepEqual(fits(true, 'F'), ['fitSelection']);
	assert.deepEqual(fits(true, 'Shift+F'), ['fitAll']);
	assert.match(fits(false, 'F')[0], /^fit \[object Set\]/);
	assert.deepEqual(fits(false, 'Shift+F'), ['fit']);
});

test('with Alt the key’s place says which letter is meant, where the keyboard types a sign', () => {
	const event = { ctrlKey: false, metaKey: false, altKey: true, shiftKey: false };
	assert.equal(pressed({ ...event, key: '†', code: 'KeyT' }), 'Alt+T');
	assert.equal(pressed({ ...event, key: 'π', code: 'KeyP' }), 'Alt+P');
	assert.equal(pressed({ ...event, key: 'e', code: 'KeyE' }), 'Alt+E');
	// Without Alt the letter counts, wherever it lies.
	assert.equal(pressed({ ...event, altKey: false, key: 'z', code: 'KeyY' }), 'Z');
});
