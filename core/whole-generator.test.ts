/** A whole generator used as a node in another gives what it gives by itself, and its dials are settings there. */
import assert from 'node:assert/strict';
import { readFileSync, readdirSync } from 'node:fs';
import test from 'node:test';
import { digestOf } from './geometry/index.ts';
import {
	Evaluator,
	fromShelf,
	interfaceOf,
	isGeometry,
	newDocument,
	newNode,
	openDocument,
	readShelfItem,
	resultNode,
	settled,
	wholeGenerator,
	withDialValues,
	withGraph,
	withPorts,
	withValue
} from './index.ts';
import type { GeneratorDocument, Setting } from './index.ts';
import { NO_STEP } from './engine/document.ts';

const open = (file: string): GeneratorDocument =>
	openDocument(readFileSync(`samples/${file}`, 'utf8')).document;
const digest = (document: GeneratorDocument, id: string, by: Evaluator): string => {
	const result = by.evaluate(document, [id]).results.get(id)!;
	assert.equal(result.error, null, result.error?.message);
	return digestOf([...result.outputs.values()].find(isGeometry)!);
};
/** Another generator in which one is used as a node that draws what it drew. */
function usedIn(document: GeneratorDocument): { outer: GeneratorDocument; use: string } {
	const { item } = wholeGenerator(document, { id: 'g1', version: 1 });
	const read = readShelfItem(JSON.parse(JSON.stringify(item)));
	const taken = fromShelf({ ...newDocument('Outer'), seed: document.seed }, read);
	const use = { ...newNode(taken.document.graphs.main, 'subgraph', [0, 0], {}), stream: NO_STEP };
	const outer = withPorts(
		withGraph(taken.document, 'main', (graph) => ({
			...graph,
			nodes: [...graph.nodes, { ...use, settings: { ...use.settings, body: taken.body } }]
		}))
	);
	return { outer, use: use.id };
}

for (const file of readdirSync('samples').filter((name) => name.endsWith('.json')))
	test(`${file}: used as a node it gives what it gives by itself`, () => {
		const document = open(file);
		const { outer, use } = usedIn(document);
		const by = new Evaluator();
		assert.equal(digest(outer, use, by), digest(document, resultNode(document)!.id, by));
	});

test('its dials are settings of the use, with what they had: turned there they do what they do by themselves', () => {
	const document = open('drying-rack.embrell.json');
	const { outer, use } = usedIn(document);
	const node = outer.graphs.main.nodes[0];
	const body = outer.graphs[String(node.settings.body)];
	const { inputs } = interfaceOf(body);
	assert.deepEqual(inputs.map(({ name }) => name).sort(), document.dials.map(({ key }) => key).sort());
	const values: Record<string, Setting> = { height: 3, bars: 6, angle: 20 };
	const turned = settled(withDialValues(document, values), document);
	const set = Object.entries(values).reduce(
		(made, [name, value]) => withGraph(made, 'main', (graph) => withValue(graph, use, name, value)),
		outer
	);
	const by = new Evaluator();
	assert.equal(digest(set, use, by), digest(turned, resultNode(turned)!.id, by));
});

test('what cannot go along is said', () => {
	const { leftOut } = wholeGenerator(open('mangrove.embrell.json'), { id: 'g', version: 1 });
	assert.ok(
		leftOut.some((sentence) => /Length of the limbs.*random range/.test(sentence)),
		leftOut.join(' ')
	);
	const rack = wholeGenerator(open('drying-rack.embrell.json'), { id: 'g', version: 1 });
	assert.ok(rack.leftOut.some((sentence) => /slot “Path”/.test(sentence)));
});
