/** What an evaluation is trusted with: nothing runs twice, nothing is handed on that is not a number, memory stays level. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { digestOf } from '../geometry/index.ts';
import { dice, evaluateAll, generator, pick } from '../testing/index.ts';
import { edits } from '../testing/random-edits.ts';
import { runs } from '../testing/runs.ts';
import { SAMPLES, sample } from '../testing/samples.ts';
import { Evaluator, isGeometry, withGraph, withSetting, withShort } from './index.ts';
import type { GeneratorDocument } from './index.ts';

const formula = (text: string) => ({ formula: text, streams: [] });
const idOf = (document: GeneratorDocument, short: string): string =>
	document.graphs.main.nodes.find((node) => node.short === short)!.id;
const all = (document: GeneratorDocument) => document.graphs.main.nodes.map(({ id }) => id);
const set = (document: GeneratorDocument, short: string, name: string, value: number) =>
	withGraph(document, 'main', (graph) => withSetting(graph, idOf(document, short), name, value));

test('a node that fails runs once, and again only when it or what comes in changes', () => {
	const document = generator([
		['number', 'far', { value: 1 }],
		['grid', 'grid', { columns: 3, rows: 3 }],
		['transform', 'wild', { scale: [1e30, 1e30, 1e30] }, { geometry: 'grid.mesh' }],
		['transform', 'wilder', { scale: [1e30, 1, 1] }, { geometry: 'wild.geometry' }]
	]);
	const evaluator = new Evaluator();
	const first = evaluator.evaluate(document, all(document));
	assert.ok(first.ran.includes(idOf(document, 'wilder')));
	const { error } = first.results.get(idOf(document, 'wilder'))!;
	assert.match(error!.message, /no number says/);
	// Shown and then all, as after each edit; and after an edit elsewhere.
	const run = evaluator.begin(set(document, 'far', 'value', 2));
	assert.deepEqual(run.pull([idOf(document, 'wilder')]).ran, []);
	const rest = run.pull(all(document));
	assert.deepEqual(rest.ran, [idOf(document, 'far')]);
	assert.deepEqual(rest.results.get(idOf(document, 'wilder'))!.error, error);
	const tamer = evaluator.evaluate(set(document, 'grid', 'columns', 4), all(document));
	assert.ok(tamer.ran.includes(idOf(document, 'wilder')));
});

test('what failed for want of memory is tried again with the next edit', () => {
	const document = generator([
		['number', 'far', { value: 1 }],
		['grid', 'large', { columns: 1000, rows: 1000 }]
	]);
	const evaluator = new Evaluator({ memory: 10e6 });
	const large = idOf(document, 'large');
	assert.match(evaluator.evaluate(document, [large]).results.get(large)!.error!.message, /of memory/);
	assert.deepEqual(evaluator.evaluate(document, [large]).ran, [], 'not twice for one edit');
	assert.deepEqual(evaluator.evaluate(set(document, 'far', 'value', 2), [large]).ran, [large]);
});

const HOSTILE: [string, string, Parameters<typeof generator>[0]][] = [
	[
		'a chain that doubles 200 times',
		'it',
		[
			['box', 'box'],
			['chain-of-copies', 'it', { count: 200, scale: [2, 2, 2] }, { source: 'box.mesh' }]
		]
	],
	[
		'a sweep whose scale leaves all numbers',
		'it',
		[
			['line', 'path', { to: [0, 1, 0] }],
			['circle', 'round'],
			['sweep', 'it', { scale: 1e39 }, { path: 'path.curve', section: 'round.curve' }]
		]
	],
	[
		'a push beyond all numbers',
		'it',
		[
			['grid', 'grid'],
			['displace', 'it', { amount: formula('1e38 * 100') }, { geometry: 'grid.mesh' }]
		]
	],
	[
		'a move beyond all numbers',
		'it',
		[
			['box', 'box', { cellsY: 8 }],
			['transform', 'it', { scale: [1e25, 1e25, 1e25], move: [1e38, 4e38, 0] }, { geometry: 'box.mesh' }]
		]
	]
];
for (const [what, short, rows] of HOSTILE)
	test(`${what} is told of by its node, and nothing that is not a number is handed on`, () => {
		const { evaluation, error, warnings } = evaluateAll(generator(rows));
		const message = error(short) ?? warnings(short).join(' ');
		for (const { outputs } of evaluation.results.values())
			for (const value of outputs.values())
				if (isGeometry(value))
					for (const table of [value.mesh?.points, value.curves?.points, value.copies?.copies])
						for (const { data } of table?.columns.values() ?? [])
							assert.ok(data.every(Number.isFinite), 'only numbers are handed on');
		assert.match(message, /^.{8,400}[.?]$/su);
	});

test('a product with a zero in it is nothing, however large the other numbers', () => {
	for (const counts of [
		{ countX: 1e9, countY: 0, countZ: 5 },
		{ countX: 0, countY: 1e9, countZ: 5 },
		{ countX: 5, countY: 1e9, countZ: 0 }
	]) {
		const { geometry, evaluation } = evaluateAll(generator([['grid-of-points', 'it', counts]]), {
			seconds: 5
		});
		const [result] = evaluation.results.values();
		if (result.state === 'fresh') assert.equal(geometry('it').points!.points.count, 0);
		assert.ok(result.milliseconds < 2000);
	}
});

test('a note about another node follows when that node is renamed', () => {
	const document = generator([
		['row-of-points', 'row', { count: 3 }],
		['box', 'post', { size: [{ low: 1, high: 2, stream: 'a' }, 1, 1] }],
		['place-copies', 'copies', {}, { points: 'row.points', source: 'post.mesh' }]
	]);
	const evaluator = new Evaluator();
	const note = (of: GeneratorDocument) =>
		evaluator
			.evaluate(of, all(of))
			.results.get(idOf(of, 'copies'))!
			.warnings.map(({ message }) => message)
			.join();
	assert.match(note(document), /in post is drawn once/);
	const renamed = withGraph(document, 'main', (graph) => withShort(graph, idOf(document, 'post'), 'pile'));
	assert.match(note(renamed), /in pile is drawn once/);
	assert.doesNotMatch(note(renamed), /\bpost\b/);
});

/** Edits of every sample; many more are tried with EMBRELL_EDITS=10000. */
const EDITS = Number(process.env.EMBRELL_EDITS ?? runs(150));

test('random edits of all samples: the ledger stays within its limit and level, and results are those of a fresh start', () => {
	for (const [number, name] of SAMPLES.entries()) {
		const { document: start, asset, run } = sample(name);
		const options = { asset, seconds: 20, memory: 400e6 };
		const evaluator = new Evaluator(options);
		const roll = dice(number + 1);
		let document = start;
		const each = Math.ceil(EDITS / SAMPLES.length);
		for (let i = 0; i < each; i++) {
			// Now and then back to the start, as an undo goes, so that the sample stays one.
			document =
				i % 10 === 9
					? start
					: withGraph(document, 'main', (graph) => edits[pick(roll, Object.keys(edits))](graph, roll));
			evaluator.evaluate(document, all(document));
			assert.ok(evaluator.ledger.held <= 400e6, `${name}, edit ${i}: ${evaluator.ledger.held}`);
			assert.equal(evaluator.ledger.working, 0);
		}
		const { results } = evaluator.evaluate(start, all(start));
		const fresh = run().evaluation.results;
		for (const [id, { outputs }] of results)
			for (const [port, value] of outputs) {
				const other = fresh.get(id)!.outputs.get(port)!;
				if (isGeometry(value) && isGeometry(other))
					assert.equal(digestOf(value), digestOf(other), `${name} ${id}`);
			}
	}
});
