/** What is kept between evaluations never shows: after any edits the result is that of a fresh evaluation. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { digestOf } from '../geometry/index.ts';
import type { Geometry } from '../geometry/index.ts';
import { nodeKinds } from '../nodes/index.ts';
import { dice, pick } from '../testing/index.ts';
import { Evaluator, fitsInGraph, inputsOf, openDocument, sourcesFor, writeDocument } from './index.ts';
import type { Evaluation, GeneratorDocument } from './index.ts';
import { edits, start } from '../testing/random-edits.ts';
import { runs } from '../testing/runs.ts';

/** All that an artist sees of an evaluation. */
const seen = ({ results }: Evaluation) =>
	[...results.values()]
		.map(({ id, state, error, warnings, outputs }) => [
			id,
			state,
			error?.message,
			warnings.map(({ message }) => message),
			[...outputs].map(([port, value]) => [
				port,
				'materials' in value
					? digestOf(value as Geometry)
					: 'hash' in value
						? value.hash
						: JSON.stringify(value)
			])
		])
		.sort((a, b) => (String(a[0]) < String(b[0]) ? -1 : 1));

for (const turn of [1, 2, 3])
	test(`after any edits, undone or not, what is kept gives what a fresh evaluation gives (turn ${turn})`, () => {
		const roll = dice(1000 * turn);
		const kept = new Evaluator({ memory: 200e6 });
		const past: GeneratorDocument[] = [start()];
		let fresh = 0,
			spared = 0;
		for (let step = 0; step < runs(200); step++) {
			const before = past.at(-1)!;
			let document: GeneratorDocument;
			if (roll() < 0.15) document = pick(roll, past);
			else if (roll() < 0.06) document = { ...before, seed: Math.floor(roll() * 4) };
			else if (roll() < 0.04) document = openDocument(writeDocument(before)).document;
			else {
				const [name, edit] = pick(roll, Object.entries(edits));
				// Setting a number is what is done most.
				const main = (roll() < 0.4 ? edits.set : edit)(before.graphs.main, roll);
				document = { ...before, graphs: { main } };
				assert.ok(main.nodes.length, name);
			}
			past.push(document);
			const ids = document.graphs.main.nodes.map(({ id }) => id);
			// Most often only the last node is looked at, as while working.
			const targets = roll() < 0.7 ? ids.slice(-1) : ids;
			const own = kept.evaluate(document, targets);
			const wanted = new Evaluator({ memory: 200e6 }).evaluate(document, targets);
			assert.deepEqual(seen(own), seen(wanted), `step ${step}`);
			fresh += wanted.ran.length;
			spared += wanted.ran.length - own.ran.length;
		}
		assert.ok(spared > fresh / 4, `${spared} of ${fresh} runs were spared`);
	});

test('a generator that is written and read again gives the same, whatever was done to it', () => {
	const roll = dice(77);
	let { main } = start().graphs;
	for (let step = 0; step < runs(150); step++) {
		main = pick(roll, Object.values(edits))(main, roll);
		const document = { ...start(), graphs: { main } };
		const { document: read, leftOut } = openDocument(writeDocument(document));
		assert.deepEqual(leftOut, [], `step ${step}`);
		if (step % 10) continue;
		const targets = main.nodes.map(({ id }) => id);
		assert.deepEqual(
			seen(new Evaluator().evaluate(read, targets)),
			seen(new Evaluator().evaluate(document, targets))
		);
	}
});

test('the outputs that an input is offered are those that fit one by one, in graphs of every shape', () => {
	const roll = dice(41);
	let { main } = start().graphs;
	let offered = 0;
	for (let step = 0; step < 60; step++) {
		main = pick(roll, Object.values(edits))(main, roll);
		const target = pick(roll, main.nodes);
		for (const [name] of inputsOf(target)) {
			const wanted = main.nodes.flatMap(({ id, kind }) =>
				Object.keys(nodeKinds.get(kind)!.outputs)
					.filter(
						(port) =>
							fitsInGraph(main, [id, port], [target.id, name]).fits &&
							!main.wires.some(({ from, to }) => `${from} ${to}` === `${id},${port} ${target.id},${name}`)
					)
					.map((port) => `${id} ${port}`)
			);
			const found = sourcesFor(main, [target.id, name]).map(({ node, port }) => `${node.id} ${port}`);
			assert.deepEqual(found, wanted, `step ${step}, ${target.short}.${name}`);
			offered += found.length;
		}
	}
	assert.ok(offered > 300, `${offered} offered`);
});
