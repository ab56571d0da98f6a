/** Formulas read what other nodes have come to, where that is one value; what differs by element says which wire does it. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { constantNumber, parseFormula } from '../varying/index.ts';
import { FormulaError } from '../varying/index.ts';
import { evaluateAll, generator } from '../testing/index.ts';
import { lookAtFormula } from '../session/formula-look.ts';
import {
	Evaluator,
	isVarying,
	makeBody,
	proposalsAt,
	settled,
	withGraph,
	withSetting,
	withShort
} from './index.ts';
import type { GeneratorDocument } from './index.ts';
import { hangsFrom, hangsFromSame } from './hangs-from.ts';

const formula = (text: string) => ({ formula: text, streams: [] });
const idOf = (document: GeneratorDocument, short: string) =>
	document.graphs.main.nodes.find((one) => one.short === short)!.id;
function read(document: GeneratorDocument, short: string, by = new Evaluator()): number | string {
	const id = idOf(document, short);
	const result = by.evaluate(document, [id]).results.get(id)!;
	const value = [...result.outputs.values()][0];
	return value && isVarying(value) ? constantNumber(value) : (result.error?.message ?? '');
}
const measured = (size: number, text: string) =>
	generator([
		['number', 'half', { value: formula(text) }],
		['box', 'plank', { size: [size, 2, 3] }],
		['measure', 'told', {}, { geometry: 'plank.mesh' }]
	]);

test('a formula reads the length, the size and the count that another node gives, and follows when it changes', () => {
	fc.assert(
		fc.property(fc.integer({ min: 1, max: 400 }), (size) => {
			const document = measured(size, 'told.size.x / 2 + told.faces');
			assert.equal(read(document, 'half'), size / 2 + 6);
		}),
		{ numRuns: 30 }
	);
	const by = new Evaluator();
	let document = measured(4, 'told.volume');
	assert.equal(read(document, 'half', by), 24);
	const before = hangsFrom(document, idOf(document, 'half'), 1);
	document = withGraph(document, 'main', (graph) =>
		withSetting(graph, idOf(document, 'plank'), 'size', [5, 2, 3])
	);
	assert.equal(read(document, 'half', by), 30);
	assert.ok(!hangsFromSame(before, hangsFrom(document, idOf(document, 'half'), 1)));
	const renamed = withGraph(document, 'main', (graph) => withShort(graph, idOf(document, 'told'), 'ruler'));
	assert.equal(read(renamed, 'half', by), 30);
});

test('what differs by element is refused with the wire that does it; a circle is told of; a missing name as ever', () => {
	const noisy = generator([
		['number', 'half', { value: formula('waves.value') }],
		['noise-value', 'waves', {}],
		['grid', 'flat', {}]
	]);
	assert.match(
		String(read(noisy, 'half')),
		/“waves\.value” differs by element.*Wire “Value” of waves into “Value”/
	);
	const round = generator([
		['box', 'plank', { size: [formula('told.size.x'), 1, 1] }],
		['measure', 'told', {}, { geometry: 'plank.mesh' }]
	]);
	const { results } = new Evaluator().evaluate(round, [idOf(round, 'plank')]);
	assert.ok([...results.values()].some(({ error }) => /circle/.test(error?.message ?? '')));
	assert.match(
		String(read(measured(1, 'told.sise'), 'half')),
		/“told\.sise” is not known here\. Did you mean “told\.size”/
	);
});

test('outputs that would be accepted are proposed, and no setting that would lead round', () => {
	const document = generator([
		['number', 'a', { value: 1 }],
		['number', 'b', { value: formula('a.value') }],
		['box', 'plank', {}],
		['measure', 'told', {}, { geometry: 'plank.mesh' }]
	]);
	const graph = document.graphs.main;
	const at = (short: string, setting: string) =>
		proposalsAt(
			graph,
			graph.nodes.find((node) => node.short === short)!,
			setting,
			[]
		).map(({ name }) => name);
	assert.ok(at('b', 'value').includes('a.value') && at('b', 'value').includes('told.volume'));
	assert.ok(!at('a', 'value').includes('b.value'), 'b follows a already');
	assert.ok(
		!at('plank', 'size').some((name) => name.startsWith('told.') && !name.startsWith('told.geometry')),
		'told hangs from plank'
	);
});

test('a body is not cut off from an output that a formula reads', () => {
	const document = measured(2, 'told.volume');
	for (const set of [['half'], ['told', 'plank']]) {
		const made = makeBody(document, 'main', new Set(set.map((short) => idOf(document, short))), 'subgraph');
		assert.ok('reason' in made && /told\.volume/.test(made.reason), JSON.stringify(made).slice(0, 200));
	}
	const whole = makeBody(
		document,
		'main',
		new Set(['half', 'told', 'plank'].map((short) => idOf(document, short))),
		'subgraph'
	);
	assert.ok('document' in whole);
	assert.ok(settled(whole.document, document));
});

test('signs of other languages are mended in one click', () => {
	for (const [text, mended] of [
		['u > 0.2 || u < 0.1', 'u > 0.2 or u < 0.1'],
		['u > 1&&u < 2', 'u > 1 and u < 2'],
		['!(u > 1)', 'not (u > 1)']
	]) {
		try {
			parseFormula(text);
			assert.fail(text);
		} catch (error) {
			assert.ok(error instanceof FormulaError && error.mending);
			assert.equal(text.slice(0, error.from) + error.mending.text + text.slice(error.to), mended);
			parseFormula(mended);
		}
	}
});

test('along a strand u is its own, whatever u its point brought; both are told apart where they could be meant', () => {
	const document = generator([
		['line', 'row', { from: [0, 0, 0], to: [4, 0, 0], points: 5 }],
		['points-along-curve', 'roots', { by: 'count', count: 5 }, { curve: 'row.curve' }],
		['grow-strands', 'strands', { segments: 4 }, { from: 'roots.points' }],
		['tube', 'tapered', { radius: formula('0.1 * (1 - u)'), segments: 3 }, { curve: 'strands.strands' }],
		[
			'tube',
			'brought',
			{ radius: formula('0.1 * (1 - attribute.u)'), segments: 3 },
			{ curve: 'strands.strands' }
		]
	]);
	const run = evaluateAll(document);
	const radii = (short: string) => {
		const { mesh } = run.geometry(short);
		const curves = run.geometry('strands').curves!;
		const [p, q] = [mesh!.points.columns.get('position')!.data, curves.points.columns.get('position')!.data];
		return Array.from({ length: curves.points.count }, (_, i) =>
			Math.hypot(...[0, 1, 2].map((k) => p[9 * i + k] - q[3 * i + k]))
		);
	};
	const starts = run.geometry('strands').curves!.starts;
	const own = radii('tapered');
	for (let c = 0; c + 1 < starts.length; c++) {
		assert.ok(Math.abs(own[starts[c]] - 0.1) < 1e-4, `strand ${c} begins at ${own[starts[c]]}`);
		assert.ok(own[starts[c + 1] - 1] < 1e-4, 'and ends in a tip');
	}
	const brought = radii('brought');
	assert.ok(Math.abs(brought[starts[2]] - 0.05) < 2e-3 && Math.abs(brought[starts[3] - 1] - 0.05) < 2e-3);
	const [node] = document.graphs.main.nodes.filter(({ short }) => short === 'tapered');
	const look = lookAtFormula(
		{ node: node.id, input: 'radius', setting: node.settings.radius, text: '0.1 * (1 - u)' },
		document,
		{ graph: 'main', results: run.evaluation.results, frame: 1 }
	);
	assert.match(look.note, /attribute\.u/);
});
