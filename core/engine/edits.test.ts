/** What the artist does to a graph: every edit leaves a graph that holds, and those that are each other's opposite undo. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import type { OutputDefinition } from '../nodes/index.ts';
import { nodeKinds } from '../nodes/index.ts';
import { dice, evaluateAll, generator, pick } from '../testing/index.ts';
import { digestOf } from '../geometry/index.ts';
import {
	outputOf,
	copyNodes,
	firstFitting,
	freeInputName,
	inputOf,
	inputsOf,
	newNode,
	pasteNodes,
	readClip,
	sourcesFor,
	throughPorts,
	wireId,
	withInserted,
	withMended,
	withNode,
	withOwnInput,
	withOwnInputRenamed,
	withShort,
	withValue,
	withWire,
	withoutNodes,
	withoutOwnInput,
	withoutWires
} from './index.ts';
import type { Graph, GraphNode, Wire } from './index.ts';
import { edits, holds, start } from '../testing/random-edits.ts';

for (const turn of [1, 2, 3, 4])
	test(`any edits leave a graph that holds, and change none that came before (turn ${turn})`, () => {
		const roll = dice(500 + turn);
		let { main } = start().graphs;
		const made = new Map<string, number>();
		for (let step = 0; step < 1600; step++) {
			const [name, edit] = pick(roll, Object.entries(edits));
			const before = JSON.stringify(main);
			const next = edit(main, roll);
			assert.equal(JSON.stringify(main), before, `${name} leaves what it was given`);
			holds(next, `${name}, step ${step}`);
			if (JSON.stringify(next) !== before) made.set(name, (made.get(name) ?? 0) + 1);
			main = next;
		}
		for (const name of Object.keys(edits)) assert.ok((made.get(name) ?? 0) > 0, `${name} did something`);
	});

test('a node put into a wire and deleted again leaves the wires as they were', () => {
	const { main } = start().graphs;
	let inserted = 0;
	for (const wire of main.wires)
		for (const kind of nodeKinds.values()) {
			const node = newNode(main, kind.id, [0, 0]);
			const added: Graph = { ...main, nodes: [...main.nodes, node] };
			const into = withInserted(added, node.id, wire);
			if (into === added) continue;
			inserted++;
			assert.ok(!into.wires.some((one) => wireId(one) === wireId(wire)));
			const without = withoutNodes(into, new Set([node.id]));
			// What hands geometry through is healed; of values nobody knows.
			const source = main.nodes.find(({ id }) => id === wire.from[0]);
			const isHealed = outputOf(source, wire.from[1])!.kind === 'geometry';
			assert.ok(!isHealed || throughPorts(node), `${kind.id} hands geometry through`);
			const before = main.wires.filter((one) => isHealed || one !== wire);
			assert.deepEqual(new Set(without.wires.map(wireId)), new Set(before.map(wireId)), kind.id);
		}
	assert.ok(inserted > 200, `${inserted} insertions`);
});

test('only a node without wires goes into a wire, and only into one of geometry that is there', () => {
	const { main } = start().graphs;
	const named = (short: string) => main.nodes.find((node) => node.short === short)!.id;
	const wire = main.wires.find(({ to }) => to[0] === named('result'))!;
	assert.equal(withInserted(main, named('moved'), wire), main, 'a node that has wires');
	const values = main.wires.find(({ to }) => to[1] === 'amount')!;
	const node = newNode(main, 'transform', [0, 0]);
	const added: Graph = { ...main, nodes: [...main.nodes, node] };
	assert.equal(withInserted(added, node.id, values), added, 'a wire of values');
	const gone: Wire = { from: ['n99', 'mesh'], to: wire.to };
	assert.equal(withInserted(added, node.id, gone), added, 'a wire that is not there');
});

test('every kind of node that can be wired to an output when added is, by an input that takes it', () => {
	const { main } = start().graphs;
	for (const source of main.nodes)
		for (const [port, output] of Object.entries(
			nodeKinds.get(source.kind)!.outputs as Record<string, OutputDefinition>
		))
			for (const kind of nodeKinds.keys()) {
				const node = newNode(main, kind, [0, 0]);
				const wires = withNode(main, node, [source.id, port], null).wires.slice(main.wires.length);
				const name = firstFitting(node, output.kind);
				assert.equal(wires.length, name ? 1 : 0);
				if (!name) continue;
				assert.deepEqual(wires, [{ from: [source.id, port], to: [node.id, name] }]);
				const input = inputOf(node, name)!;
				assert.ok(!input.when || input.when(node.settings), `${kind}.${name} can be seen`);
			}
});

test('a new node asked for by an input feeds it, and the wire it had goes', () => {
	const { main } = start().graphs;
	const sowing = main.nodes.find((node) => node.short === 'sowing')!;
	const node = newNode(main, 'sphere', [0, 0]);
	const after = withNode(main, node, null, [sowing.id, 'surface']);
	assert.deepEqual(
		after.wires.filter(({ to }) => to[0] === sowing.id && to[1] === 'surface').map(({ from }) => from[0]),
		[node.id]
	);
	assert.equal(after.wires.length, main.wires.length);
});

test('wires that are made and taken away again leave the graph as it was', () => {
	const { main } = start().graphs;
	for (const target of main.nodes)
		for (const [name] of inputsOf(target)) {
			if (main.wires.some(({ to }) => to[0] === target.id && to[1] === name)) continue;
			for (const { node, port } of sourcesFor(main, [target.id, name])) {
				const wire: Wire = { from: [node.id, port], to: [target.id, name] };
				const wired = withWire(main, wire);
				assert.equal(wired.wires.length, main.wires.length + 1);
				assert.deepEqual(withoutWires(wired, [wire]), main);
			}
		}
});

test('names of inputs of the artist’s own: renamed in the formula and on the wire, never doubled', () => {
	const document = generator([
		['number', 'tide', { value: 2 }],
		['formula', 'sum', { formula: 'x * 10 + x' }, { x: 'tide.value' }]
	]);
	let { main } = document.graphs;
	const sum = main.nodes[1].id;
	const at = (): GraphNode => main.nodes[1];
	assert.equal(freeInputName(at()), 'y');
	main = withOwnInput(main, sum, 'y');
	assert.equal(withOwnInput(main, sum, 'y'), main, 'a second of the same name');
	assert.equal(withOwnInput(main, main.nodes[0].id, 'y'), main, 'a node that has none of its own');
	assert.equal(withOwnInputRenamed(main, sum, 'x', 'y'), main, 'a name that is taken');
	assert.equal(withOwnInputRenamed(main, sum, 'x', '2nd'), main, 'a name that is none');
	main = withOwnInputRenamed(main, sum, 'x', 'level');
	assert.equal(at().settings.formula, 'level * 10 + level');
	assert.deepEqual(main.wires[0].to, [sum, 'level']);
	main = withValue(main, sum, 'y', 7);
	assert.equal(at().inputs?.[1].value, 7);
	assert.ok(!('y' in at().settings), 'its number stands with the input');
	main = withoutOwnInput(main, sum, 'level');
	assert.deepEqual([at().inputs?.map(({ name }) => name), main.wires], [['y'], []]);
	const many = Array.from({ length: 14 }, () => {
		main = withOwnInput(main, sum, freeInputName(at()));
		return at().inputs!.length;
	});
	assert.equal(many.at(-1), 15, 'there is always another name');
});

test('what an error proposes mends it', () => {
	const copies = generator([
		['grid', 'flat', { columns: 2, rows: 2 }],
		['box', 'hut'],
		['place-copies', 'huts', {}, { points: 'flat.mesh', source: 'hut.mesh' }],
		['subdivide', 'fine', {}, { geometry: 'huts.copies' }]
	]);
	const fine = copies.graphs.main.nodes[3];
	const run = evaluateAll(copies);
	const fixesOf = (id: string, of = run) => {
		const { error, warnings } = of.evaluation.results.get(id)!;
		return [...(error?.fixes ?? []), ...warnings.flatMap((one) => one.fixes ?? [])];
	};
	const insert = fixesOf(fine.id).find((fix) => fix.insert);
	assert.ok(insert, 'copies where a mesh is needed');
	const mended = { ...copies, graphs: { main: withMended(copies.graphs.main, fine.id, insert) } };
	assert.equal(mended.graphs.main.nodes.length, 5);
	assert.equal(evaluateAll(mended).error('fine'), null);
	assert.ok(evaluateAll(mended).geometry('fine').mesh!.faces.count > 0);

	// A node that does not fit into the wire is not left behind alone.
	for (const kind of ['box', 'number'])
		assert.equal(
			withMended(copies.graphs.main, fine.id, { label: '', insert: { node: kind, input: 'geometry' } }),
			copies.graphs.main
		);

	const wrong = generator([['box', 'hut', { size: [1, { formula: 'heigth + 1', streams: [] }, 1] }]]);
	const proposals = fixesOf('n1', evaluateAll(wrong));
	assert.ok(proposals.length >= 1);
	// An input of its own helps only a node that has such: the page offers it on those.
	for (const fix of proposals.filter(({ declare }) => !declare)) {
		const after = { ...wrong, graphs: { main: withMended(wrong.graphs.main, 'n1', fix) } };
		assert.notDeepEqual(after.graphs.main.nodes[0].settings, wrong.graphs.main.nodes[0].settings, fix.label);
	}
});

test('a name changed and changed back leaves every formula as it was', () => {
	const roll = dice(9);
	let { main } = start().graphs;
	for (let step = 0; step < 1600; step++) {
		main = edits.set(main, roll);
		const node = pick(roll, main.nodes);
		const there = withShort(main, node.id, `other${step}`);
		assert.deepEqual(withShort(there, node.id, node.short), main, `${node.short}, step ${step}`);
	}
});

test('a pasted set without chance in it gives what the set gives', () => {
	const document = generator([
		['number', 'wide', { value: 3 }],
		['grid', 'flat', { width: { formula: 'wide.value', streams: [] }, columns: 4, rows: 4 }],
		['displace', 'high', { amount: { formula: 'wide.value / 4', streams: [] } }, { geometry: 'flat.mesh' }]
	]);
	const { main } = document.graphs;
	const { graph, ids } = pasteNodes(main, copyNodes(main, new Set(main.nodes.map(({ id }) => id))), [0, 0]);
	const run = evaluateAll({ ...document, graphs: { main: graph } });
	const pasted = graph.nodes.find(({ id }) => id === ids[2])!;
	assert.equal(digestOf(run.geometry(pasted.short)), digestOf(run.geometry('high')));
	// The pasted set hangs from its own number, and the first from its own.
	const wider = withValue(graph, ids[0], 'value', 5);
	const apart = evaluateAll({ ...document, graphs: { main: wider } });
	assert.equal(digestOf(apart.geometry('high')), digestOf(run.geometry('high')));
	assert.notEqual(digestOf(apart.geometry(pasted.short)), digestOf(run.geometry('high')));
});

test('text from the clipboard is read like a stranger’s file', () => {
	const { main } = start().graphs;
	const clip = copyNodes(main, new Set(main.nodes.slice(2, 6).map(({ id }) => id)));
	const read = readClip(JSON.stringify(clip))!;
	assert.deepEqual(read.clip, clip);
	assert.deepEqual(read.leftOut, []);
	// Ours, but more than anybody copies: a sentence, before it is read.
	const deep = `{"format":"embrell-nodes","nodes":${'['.repeat(100_000)}`;
	assert.throws(() => readClip(deep), /^NodeError: The clipboard is nested more than 40 deep/);
	const long = `{"format":"embrell-nodes","nodes":["${'x'.repeat(21e6)}"]}`;
	assert.throws(
		() => readClip(long),
		/The clipboard has 21,0\d\d,\d+ characters; at most 20,000,000 are read\./
	);
	for (const text of ['', 'words', '[]', 'null', '{"format":"other"}', '{"format":"embrell-nodes"}', '{'])
		assert.equal(readClip(text), null, text);
	const strange = readClip(
		JSON.stringify({
			...clip,
			nodes: [...clip.nodes, { id: 'q', kind: 'no-such', settings: {} }, 7, null],
			outer: [{ from: ['n1', 'mesh'], to: ['q', 'geometry'] }, { from: 1 }, 'x', ...clip.outer]
		})
	)!;
	assert.equal(strange.clip.nodes.length, clip.nodes.length);
	assert.deepEqual(strange.clip.outer, clip.outer);
	assert.ok(strange.leftOut.length >= 1, 'what was left out is said');
	const roll = dice(3);
	const text = JSON.stringify(clip);
	for (let turn = 0; turn < 300; turn++) {
		const at = Math.floor(roll() * text.length);
		const damaged =
			text.slice(0, at) +
			pick(roll, ['', '"', '}', '1e999', 'null']) +
			text.slice(at + 1 + Math.floor(roll() * 9));
		const found = readClip(damaged);
		if (found) holds(pasteNodes(main, found.clip, [0, 0]).graph, `damage ${turn}`, { settings: false });
	}
});
