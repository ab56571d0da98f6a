/** What artists are told: short quotes, and no word of a schema. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { z } from 'zod';
import { evaluateAll, generator } from '../testing/index.ts';
import { NodeError, inBrief, whatIsWrong } from './index.ts';

test('what a message quotes is cut at 60 letters, the rest of it and short quotes stay', () => {
	fc.assert(
		fc.property(
			fc.array(fc.string({ unit: 'grapheme', maxLength: 90 }).filter((text) => !/[“”]/.test(text))),
			(texts) => {
				const message = texts.map((text) => `of “${text}” only`).join(', ');
				const said = inBrief(message);
				const quotes = [...said.matchAll(/“([^“”]*)”/g)].map(([, quote]) => quote);
				assert.equal(quotes.length, texts.length);
				quotes.forEach((quote, i) => {
					assert.ok(quote.length <= 60);
					if (texts[i].length <= 60) assert.equal(quote, texts[i]);
					else assert.ok(quote.endsWith('…') && texts[i].startsWith(quote.slice(0, -1)));
				});
				assert.equal(said.replace(/“[^“”]*”/g, ''), message.replace(/“[^“”]*”/g, ''));
				assert.equal(inBrief(said), said);
			}
		)
	);
	assert.equal(
		new NodeError(`“${'x'.repeat(4000)}” is no name.`).message,
		`“${'x'.repeat(59)}…” is no name.`
	);
});

test('an error in a formula of thousands of letters is told in a line', () => {
	for (const formula of [
		`${'x'.repeat(4000)} + 1`,
		`sine(${'1 + '.repeat(900)}1)`,
		`"${'y'.repeat(3000)}"`
	]) {
		const { results } = evaluateAll(
			generator([['box', 'box', { size: [{ formula, streams: [] }, 1, 1] }]])
		).evaluation;
		const [{ error, warnings }] = results.values();
		const said = [error, ...warnings].filter((one) => one !== null).map(({ message }) => message);
		assert.ok(said.length, formula.slice(0, 20));
		for (const message of said) assert.ok(message.length < 300, message.slice(0, 400));
	}
});

test('what a schema finds is said in words of ours', () => {
	const schema = z.object({
		name: z.string().min(1).max(5),
		sizes: z.array(z.number().min(2)).min(1),
		kind: z.enum(['reed', 'rope']),
		all: z.union([z.number(), z.object({ low: z.number() })]),
		place: z.tuple([z.number(), z.number()]),
		sure: z.boolean()
	});
	const sound = { name: 'tide', sizes: [2], kind: 'reed', all: 1, place: [1, 2], sure: true };
	for (const [change, said] of [
		[{ name: undefined }, '“name”: a text should stand there'],
		[{ name: 'longer' }, '“name”: a text of at most 5 letters should stand there'],
		[{ sizes: [] }, '“sizes”: a list of at least 1 should stand there'],
		[{ sizes: [2, 1] }, '“sizes.1”: a number of at least 2 should stand there'],
		[{ sizes: [null] }, '“sizes.0”: a number should stand there'],
		[{ kind: 'oak' }, '“kind”: “reed” or “rope” should stand there'],
		[{ all: 'x' }, '“all”: something else should stand there'],
		[{ place: 7 }, '“place”: a list should stand there'],
		[{ sure: 1 }, '“sure”: a yes or no should stand there']
	] as const)
		assert.equal(whatIsWrong(schema.safeParse({ ...sound, ...change }).error!), said);
});
