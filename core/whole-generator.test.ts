/** A whole generator used as a node in another gives what it gives by itself, and its dials are settings there. */
import assert from 'node:assert/strict';
import test from 'node:test';
import { digestOf } from './geometry/index.ts';
import {
	Evaluator,
	dissolve,
	fromShelf,
	interfaceOf,
	isGeometry,
	newDocument,
	newNode,
	presetOfUse,
	readShelfItem,
	resultNode,
	settled,
	wholeGenerator,
	withDialValues,
	withGraph,
	withPorts,
	withPresetTaken,
	withSlotFilled,
	withUsePreset,
	withValue,
	withWire
} from './engine/index.ts';
import type { GeneratorDocument, Setting } from './engine/index.ts';
import { NO_STEP } from './engine/document.ts';
import { SAMPLES, sample } from './testing/samples.ts';

const open = (name: string): GeneratorDocument => sample(name).document;
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

for (const file of SAMPLES.filter((name) => name.endsWith('.json')))
	test(`${file}: used as a node it gives what it gives by itself`, () => {
		const { document, by } = sample(file);
		const { outer, use } = usedIn(document);
		assert.equal(digest(outer, use, by), digest(document, resultNode(document)!.id, by));
	});

test('its dials and slots are inputs of the use: turned there they do what they do by themselves', () => {
	const document = open('drying-rack.embrell.json');
	const { outer, use } = usedIn(document);
	const node = outer.graphs.main.nodes[0];
	const body = outer.graphs[String(node.settings.body)];
	const { inputs } = interfaceOf(body);
	const keys = [...document.dials.map(({ key }) => key), 'path'];
	assert.deepEqual(inputs.map(({ name }) => name).sort(), keys.sort());
	const values: Record<string, Setting> = { height: 3, skins: 6, lowest: 1.1 };
	const turned = settled(withDialValues(document, values), document);
	const set = Object.entries(values).reduce(
		(made, [name, value]) => withGraph(made, 'main', (graph) => withValue(graph, use, name, value)),
		outer
	);
	const by = new Evaluator();
	assert.equal(digest(set, use, by), digest(turned, resultNode(turned)!.id, by));
	// Another curve at the slot: as with that curve in the slot itself.
	const ring = { kind: 'circle', settings: { radius: 4, points: 48 } };
	const filled = withSlotFilled(document, document.slots[0].key, ring);
	assert.ok(typeof filled !== 'string');
	const wired = withGraph(outer, 'main', (graph) => {
		const circle = newNode(graph, ring.kind, [0, 0], ring.settings);
		return withWire(
			{ ...graph, nodes: [...graph.nodes, circle] },
			{ from: [circle.id, 'curve'], to: [use, 'path'] }
		);
	});
	assert.equal(digest(wired, use, by), digest(filled, resultNode(filled)!.id, by));
	// Taken apart, what stood in the slot stands there still.
	const loose = dissolve(outer, 'main', use);
	assert.ok('document' in loose);
	assert.equal(digest(loose.document, resultNode(loose.document)!.id, by), digest(outer, use, by));
});

test('what stands in a slot is not worked out where something arrives in its place', () => {
	const document = open('drying-rack.embrell.json');
	const { outer, use } = usedIn(document);
	const wired = withGraph(outer, 'main', (graph) => {
		const circle = newNode(graph, 'circle', [0, 0], { radius: 4, points: 48 });
		return withWire(
			{ ...graph, nodes: [...graph.nodes, circle] },
			{ from: [circle.id, 'curve'], to: [use, 'path'] }
		);
	});
	const { ran } = new Evaluator().begin(wired).pull([use]);
	const own = document.slots[0].node;
	assert.ok(!ran.some((name) => name.endsWith(` ${own}`)), ran.join());
});

test('presets are a choice of the use, with both ends of random ranges: each gives what it gives by itself', () => {
	for (const file of ['mangrove', 'sea-lavender', 'drying-rack', 'sedge-tussock']) {
		const { document, by } = sample(file);
		const { outer, use } = usedIn(document);
		const node = (of: GeneratorDocument) => of.graphs.main.nodes.find(({ id }) => id === use)!;
		assert.equal(presetOfUse(outer, node(outer))?.name, document.presets[0].name, file);
		for (const { id, name } of document.presets) {
			const taken = withUsePreset(outer, 'main', use, name);
			assert.equal(presetOfUse(taken, node(taken))?.name, name);
			const alone = withPresetTaken(document, id);
			assert.equal(digest(taken, use, by), digest(alone, resultNode(alone)!.id, by), `${file}: ${name}`);
		}
	}
});

test('what cannot go along is said', () => {
	const { leftOut } = wholeGenerator(open('rope-rail.embrell.json'), { id: 'g', version: 1 });
	assert.deepEqual(leftOut, []);
	const rack = open('drying-rack.embrell.json');
	const worded = {
		...rack,
		dials: rack.dials.map((dial) => ({ ...dial, kind: 'text' as const, value: 'a', start: 'a' }))
	};
	const { leftOut: said } = wholeGenerator(worded, { id: 'g', version: 1 });
	assert.ok(said.length === rack.dials.length && said.every((one) => /no wire carries a word/.test(one)));
});
