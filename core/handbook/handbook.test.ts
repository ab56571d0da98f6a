/** The Handbook, made from the definitions: every node has a page whose sentences hold, and an example that works. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { Evaluator, inputsShown, newDocument, newNode } from '../engine/index.ts';
import { boundsOf, countsOf, isEmpty } from '../geometry/index.ts';
import { isGeometry } from '../engine/index.ts';
import type { Geometry } from '../geometry/index.ts';
import { offeredKinds } from '../nodes/index.ts';
import { chapters, exampleOf, pageOf } from './index.ts';

test('every node that is offered stands in one chapter', () => {
	const all = chapters().flatMap(({ kinds }) => kinds.map(({ id }) => id));
	assert.deepEqual([...all].sort(), offeredKinds.map(({ id }) => id).sort());
});

for (const kind of offeredKinds) {
	test(`${kind.name}: its example works and shows something`, () => {
		const example = exampleOf(kind);
		if (!example) {
			const reads = Object.values(kind.inputs).some((input) => (input as { kind: string }).kind === 'asset');
			assert.ok(reads || kind.inBodies, 'it needs something that no example has');
			return;
		}
		const { document, subject } = example;
		const shorts = document.graphs.main.nodes.map(({ short }) => short);
		assert.equal(new Set(shorts).size, shorts.length);
		const { results } = new Evaluator({ seconds: 5 }).evaluate(
			document,
			document.graphs.main.nodes.map(({ id }) => id)
		);
		for (const { id, error } of results.values())
			assert.equal(
				error,
				null,
				`${document.graphs.main.nodes.find((node) => node.id === id)!.short}: ${error?.message}`
			);
		assert.equal(results.get(subject)!.state, 'fresh');
		const [shown] = document.view.shown;
		const geometry = [...results.get(shown)!.outputs.values()].find(isGeometry) as Geometry;
		assert.ok(!isEmpty(geometry), JSON.stringify(countsOf(geometry)));
		const { low, high } = boundsOf(geometry)!;
		const size = Math.max(...[0, 1, 2].map((k) => high[k] - low[k]));
		assert.ok(size > 0.2 && size < 40, `${size} m`);
	});

	test(`${kind.name}: what its page says of nothing connected is so`, () => {
		const { withNothing, does, comesIn, goesOut, settings } = pageOf(kind);
		const told = new Set([...comesIn, ...settings].map(({ name }) => name));
		const fresh = newNode(newDocument('').graphs.main, kind.id, [0, 0]);
		for (const [name, { label }] of inputsShown(fresh))
			// An artist's own inputs are no part of the kind.
			if (Object.hasOwn(kind.inputs, name)) assert.ok(told.has(name), `“${label}” has no line`);
		for (const text of [withNothing, does]) assert.match(text, /\.$/);
		for (const { help, label } of [...comesIn, ...goesOut]) assert.match(help, /\.$/, label);
		const document = newDocument('Alone');
		const node = newNode(document.graphs.main, kind.id, [0, 0]);
		const graphs = { main: { nodes: [node], wires: [], notes: [] } };
		const result = new Evaluator().evaluate({ ...document, graphs }, [node.id]).results.get(node.id)!;
		const waits = /waits for/.test(withNothing);
		assert.equal(
			result.state === 'fresh',
			!waits,
			`${withNothing} – ${result.state}: ${result.error?.message}`
		);
	});
}
