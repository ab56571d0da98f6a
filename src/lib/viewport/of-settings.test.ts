/** What the View draws of settings is what the settings say, and what is dragged is what is set. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { newNode, withRestOfMarker, withSetting, withWire } from '../../../core/engine/index.ts';
import { nodeKinds } from '../../../core/nodes/index.ts';
import type { Graph, Setting } from '../../../core/engine/index.ts';
import { BACKGROUNDS } from '../../../core/engine/index.ts';
import { backgroundIn } from './backgrounds.ts';
import { afterHandle, axesOf, handledOf, zonesOf } from './of-settings.ts';
import type { HandleMode } from './scene.ts';

const empty: Graph = { nodes: [], wires: [], notes: [] };
const withKinds = (...kinds: string[]): Graph =>
	kinds.reduce((graph, kind) => ({ ...graph, nodes: [...graph.nodes, newNode(graph, kind, [0, 0])] }), empty);
const handledAfter = (graph: Graph, name: string, setting: Setting) =>
	handledOf(
		withSetting(graph, graph.nodes[0].id, name, setting),
		withSetting(graph, graph.nodes[0].id, name, setting).nodes[0]
	);

test('a handle that is dragged to where it is changes no setting, for every kind that has handles', () => {
	let kinds = 0;
	for (const kind of nodeKinds.values()) {
		const graph = withKinds(kind.id);
		const [node] = graph.nodes;
		const handled = handledOf(graph, node);
		if (!handled) continue;
		kinds++;
		for (const mode of ['translate', 'rotate', 'scale'] as HandleMode[]) {
			const name: string | undefined = handled.settings[mode];
			if (!name) continue;
			const before: unknown = node.settings[name];
			// The handle stands at the place, counted from the pivot where there is one.
			const move = handled.values.move.map((x, k) => x + handled.pivot[k]) as [number, number, number];
			const after = afterHandle(handled, mode, { ...handled.values, move });
			const triple: unknown = Array.isArray(before) ? before : [before, before, before];
			assert.deepEqual(after, triple, `${kind.id}.${name}`);
		}
	}
	assert.ok(kinds >= 3, `${kinds} kinds`);
});

test('only plain numbers are handled: not random ranges, not formulas, not wires', () => {
	const graph = withKinds('transform', 'number');
	assert.deepEqual(handledAfter(graph, 'move', [1, 2, 3])?.values.move, [1, 2, 3]);
	assert.equal(handledAfter(graph, 'move', [1, { low: 0, high: 1, stream: 's' }, 0]), null);
	assert.equal(handledAfter(graph, 'rotation', { formula: 'index', streams: [] }), null);
	assert.deepEqual(handledAfter(graph, 'scale', 2)?.values.scale, [2, 2, 2]);
	const wired = withWire(graph, { from: [graph.nodes[1].id, 'value'], to: [graph.nodes[0].id, 'move'] });
	assert.equal(handledOf(wired, wired.nodes[0]), null);
	assert.equal(handledOf(graph, graph.nodes[1]), null);
	assert.equal(handledOf(graph, null), null);
});

test('the source’s axes point as they are set, and are a little longer than the source', () => {
	let graph = withKinds('box', 'place-copies');
	const [box, copies] = graph.nodes;
	graph = withWire(graph, { from: [box.id, 'mesh'], to: [copies.id, 'source'] });
	graph = withSetting(withSetting(graph, copies.id, 'up', '-z'), copies.id, 'forward', '+x');
	const bounds = { low: [0, 0, 0], high: [1, 4, 2] } as never;
	const axes = axesOf(graph, graph.nodes[1], (id) => (id === box.id ? bounds : null))!;
	assert.deepEqual(
		[axes.up, axes.forward],
		[
			[0, 0, -1],
			[1, 0, 0]
		]
	);
	assert.ok(Math.abs(axes.size - 4.6) < 1e-12);
	assert.equal(axesOf(graph, graph.nodes[1], () => null)!.size, 1);
	assert.equal(
		axesOf(graph, box, () => bounds),
		null
	);
});

test('a zone is drawn where it is set; what varies is drawn at 0', () => {
	const graph = withKinds('weight-in-zone');
	const set = (name: string, setting: Setting) =>
		zonesOf(graph, withSetting(graph, graph.nodes[0].id, name, setting).nodes[0], () => null)[0];
	assert.deepEqual(set('centre', [1, 2, 3]).centre, [1, 2, 3]);
	assert.deepEqual(set('centre', [1, { formula: 'index', streams: [] }, 3]).centre, [1, 0, 3]);
	assert.equal(set('inner', 0.25).inner, 0.25);
	assert.deepEqual(
		zonesOf(graph, newNode(empty, 'box', [0, 0]), () => null),
		[]
	);
	assert.deepEqual(
		zonesOf(graph, null, () => null),
		[]
	);
});

test('a marker’s reach is drawn where it stands, and faintly where it rests; so it is for what follows it', () => {
	let graph = withKinds('marker', 'follow-marker');
	const [marker, follower] = graph.nodes;
	graph = withWire(graph, { from: [marker.id, 'marker'], to: [follower.id, 'marker'] });
	const drawn = (of: Graph, k: number) => zonesOf(of, of.nodes[k], () => null);
	assert.equal(drawn(graph, 0).length, 1);
	const moved = withSetting(withSetting(graph, marker.id, 'place', [3, 1, 0]), marker.id, 'reach', 2.5);
	const zones = drawn(moved, 0);
	assert.deepEqual(
		zones.map(({ centre, outer, isFaint = false }) => [centre, outer, isFaint]),
		[
			[[3, 1, 0], 2.5, false],
			[[0, 1, 0], 2.5, true]
		]
	);
	assert.deepEqual(drawn(moved, 1), zones);
});

test('about an object the bounds are drawn up to which it weighs fully and from which on not at all', () => {
	let graph = withKinds('box', 'weight-near-object');
	const [box, near] = graph.nodes;
	graph = withWire(graph, { from: [box.id, 'mesh'], to: [near.id, 'object'] });
	graph = withSetting(withSetting(graph, near.id, 'fullUpTo', 0.5), near.id, 'noneFrom', 2);
	const bounds = { low: [0, 0, 0], high: [1, 4, 2] } as never;
	const [zone] = zonesOf(graph, graph.nodes[1], (id) => (id === box.id ? bounds : null));
	assert.deepEqual(
		[zone.shape, zone.centre, zone.size, zone.inner, zone.outer],
		['box', [0.5, 2, 1], [1, 4, 2], 0.5, 2]
	);
	const [about] = zonesOf(graph, graph.nodes[1], () => ({ low: [1, 1, 1], high: [1, 1, 1] }) as never);
	assert.deepEqual([about.shape, about.centre], ['sphere', [1, 1, 1]]);
});

test('what begins to follow a marker stays where it is; a rest that was set by hand stays', () => {
	let graph = withKinds('marker', 'follow-marker');
	const [marker, follower] = graph.nodes;
	const ends = [
		[marker.id, 'marker'],
		[follower.id, 'marker']
	] as const;
	graph = withSetting(graph, marker.id, 'place', [3, 1, 0]);
	const wired = (of: Graph) =>
		withRestOfMarker(withWire(of, { from: [...ends[0]], to: [...ends[1]] }), ...ends).nodes[0].settings.rest;
	assert.deepEqual(wired(graph), [3, 1, 0]);
	assert.deepEqual(wired(withSetting(graph, marker.id, 'rest', [0, 0, 5])), [0, 0, 5]);
	assert.deepEqual(
		wired(withSetting(graph, marker.id, 'place', { formula: 'time', streams: [] })),
		[0, 1, 0]
	);
});

test('every background has colours in both themes; only that of the theme changes with it', () => {
	for (const id of BACKGROUNDS) {
		const [day, evening] = [backgroundIn(id, 'paper'), backgroundIn(id, 'dusk')];
		assert.ok(day.colours.length > 0 && day.css.includes(day.colours[0]), id);
		assert.equal(day.css === evening.css, id !== 'theme', id);
	}
	assert.ok(!backgroundIn('theme', 'paper').dark && backgroundIn('theme', 'dusk').dark);
	assert.ok(backgroundIn('dusk', 'paper').dark && !backgroundIn('white', 'dusk').dark);
});
