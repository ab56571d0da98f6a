import assert from 'node:assert/strict';
import { test } from 'node:test';
import { stepped } from './choice.ts';

const OPTIONS = ['a', 'b', 'c'].map((id) => ({ id, label: id.toUpperCase() }));

test('arrows step to the neighbour and stay at the ends, Home and End go there', () => {
	assert.equal(stepped(OPTIONS, 'a', 'ArrowDown'), 'b');
	assert.equal(stepped(OPTIONS, 'c', 'ArrowDown'), 'c');
	assert.equal(stepped(OPTIONS, 'a', 'ArrowUp'), 'a');
	assert.equal(stepped(OPTIONS, 'b', 'Home'), 'a');
	assert.equal(stepped(OPTIONS, 'b', 'End'), 'c');
});

test('from an option that is not there the first is next; other keys mean nothing', () => {
	assert.equal(stepped(OPTIONS, 'gone', 'ArrowDown'), 'a');
	assert.equal(stepped(OPTIONS, 'a', 'x'), null);
	assert.equal(stepped([], 'a', 'End'), null);
});
