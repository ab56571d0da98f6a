import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { camelCase, freeName, numbered } from './free-names.ts';

const word = fc.stringMatching(/^[a-zA-Z0-9]{1,12}$/);

test('a free name stays; one that is taken gets the smallest number from 2 that is free, and none is given twice', () => {
	fc.assert(
		fc.property(fc.array(fc.constantFrom('sow', 'sow2', 'post'), { maxLength: 30 }), (wanted) => {
			const given: string[] = [];
			for (const one of wanted) {
				const name = freeName(one, (other) => given.includes(other));
				if (!given.includes(one)) assert.equal(name, one);
				else {
					const n = Number(name.slice(one.length));
					assert.ok(n >= 2 && name.startsWith(one));
					for (let k = 2; k < n; k++) assert.ok(given.includes(`${one}${k}`), `${one}${k} was free`);
				}
				given.push(name);
			}
			assert.equal(new Set(given).size, given.length);
		})
	);
	assert.equal(
		numbered('b', (name) => name === 'b1', 1),
		'b2'
	);
});

test('words become one name that begins with a letter, in camel case', () => {
	fc.assert(
		fc.property(fc.array(word, { maxLength: 8 }), (words) => {
			const name = camelCase(words);
			assert.match(name, /^([a-zA-Z][a-zA-Z0-9]*)?$/);
			assert.ok(name.length <= 40);
		})
	);
	assert.equal(camelCase(['Leaf', 'size']), 'leafSize');
});
