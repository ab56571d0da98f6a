/** What is typed finds what is meant, the likeliest first. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { offeredKinds } from '../../../core/nodes/index.ts';
import { fitOf, ranked } from './rank.ts';

const kinds = [...offeredKinds].map(({ name, family, words }) => ({
	text: name,
	hints: [family, ...words]
}));
const first = (typed: string) => ranked(kinds, typed)[0]?.text;

test('a name finds its node before all others, in part too; a trade word finds it where no name does', () => {
	for (const { text } of kinds) assert.equal(first(text), text);
	assert.equal(first('box'), 'Box');
	assert.equal(first('sow'), 'Sow points');
	assert.equal(first('scatter'), 'Sow points');
	assert.equal(first('along curve place'), undefined);
	assert.deepEqual(ranked(kinds, 'xyzzy'), []);
});

test('all words must be found; nothing typed finds all, in their order; more words never find more', () => {
	assert.deepEqual(ranked(kinds, '  '), kinds);
	const word = fc.constantFrom('curve', 'points', 'on', 'weight', 'by', 'noise', 'r', 'mesh', 'e');
	fc.assert(
		fc.property(fc.array(word, { minLength: 1, maxLength: 4 }), (words) => {
			const fewer = new Set(ranked(kinds, words.slice(1).join(' ')));
			for (const found of ranked(kinds, words.join(' '))) {
				assert.ok(fewer.has(found));
				assert.ok(fitOf(found, words.join(' ')) <= fitOf(found, words[0]));
			}
		})
	);
});
