import assert from 'node:assert/strict';
import { test } from 'node:test';
import { newDocument, openRaw } from '../../../../core/engine/index.ts';
import { leftOutRow } from './left-out.ts';

test('whatever is left out of a broken file is a row that says what, where and why', () => {
	const node = (id: string, kind: string, more: object = {}) => ({
		id,
		kind,
		short: id,
		at: [0, 0],
		settings: {},
		stream: id,
		...more
	});
	const { leftOut } = openRaw({
		...newDocument(),
		seed: -4,
		view: { light: 7, background: 'plaid' },
		graphs: {
			main: {
				nodes: [
					node('grid', 'grid', { settings: { width: { nonsense: true } } }),
					node('odd', 'no-such-kind'),
					node('grid2', 'grid'),
					{ id: 5 }
				],
				wires: [{ from: ['grid', 'mesh'], to: ['grid2', 'width'] }, 7],
				notes: [{ id: 5 }]
			}
		}
	});
	const rows = leftOut.map(leftOutRow);
	assert.equal(rows.length, 9);
	const found = (what: string) => rows.filter((row) => row.what === what);
	assert.deepEqual(
		found('Setting “width”').map(({ where }) => where),
		['grid']
	);
	assert.deepEqual(
		found('Node').map(({ where }) => where),
		['number 4', 'odd']
	);
	assert.deepEqual(
		found('Wire').map(({ where }) => where),
		['number 2', 'grid2, width']
	);
	assert.equal(found('Note')[0].where, 'number 1');
	assert.equal(found('The seed').length, 1);
	// Light and background are told in whole sentences.
	assert.equal(found('Something').length, 2);
	for (const { why } of rows) assert.match(why, /^[\p{Lu}“].*[.!?]$/su);
});
