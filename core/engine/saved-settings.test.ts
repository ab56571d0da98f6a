import assert from 'node:assert/strict';
import test from 'node:test';
import { generator } from '../testing/index.ts';
import type { SavedSettings } from './saved-settings.ts';
import { savedSettingsSchema, settingsToSave, withSavedSettings } from './saved-settings.ts';

const blades = () =>
	generator([
		['grow-strands', 'sedge', { length: { low: 0.2, high: 0.9, stream: 'long' }, segments: 9 }],
		['grow-strands', 'other', { segments: 4 }],
		['import-mesh', 'rock', { file: 'a'.repeat(64), unit: 'mm' }],
		['import-mesh', 'shell', {}]
	]).graphs.main;
const nodeOf = (graph: ReturnType<typeof blades>, short: string) =>
	graph.nodes.find((node) => node.short === short)!;
const saved = (graph: ReturnType<typeof blades>, short: string): SavedSettings =>
	savedSettingsSchema.parse(
		JSON.parse(
			JSON.stringify({
				id: 's',
				kind: nodeOf(graph, short).kind,
				name: 'Mine',
				settings: settingsToSave(nodeOf(graph, short))
			})
		)
	);

test('saved settings make another node of the kind alike, with random numbers of its own', () => {
	const graph = blades();
	const made = withSavedSettings(graph, nodeOf(graph, 'other').id, saved(graph, 'sedge'));
	const [from, to] = ['sedge', 'other'].map((short) => nodeOf(made, short).settings);
	assert.equal(to.segments, 9);
	const [a, b] = [from.length, to.length] as { low: number; high: number; stream: string }[];
	assert.deepEqual([b.low, b.high], [a.low, a.high]);
	assert.notEqual(b.stream, a.stream);
});

test('files stay where they are, another kind is left alone, and so is what a node would not take', () => {
	const graph = blades();
	const way = saved(graph, 'rock');
	const made = withSavedSettings(graph, nodeOf(graph, 'shell').id, way);
	assert.equal(nodeOf(made, 'shell').settings.unit, 'mm');
	assert.equal(nodeOf(made, 'shell').settings.file, nodeOf(graph, 'shell').settings.file);
	assert.equal(withSavedSettings(graph, nodeOf(graph, 'other').id, way), graph);
	const odd = { ...way, settings: { unit: 12, up: 'z', nothing: 1 } } as SavedSettings;
	const taken = nodeOf(withSavedSettings(graph, nodeOf(graph, 'shell').id, odd), 'shell').settings;
	assert.equal(taken.up, 'z');
	assert.equal(taken.unit, 'm');
	assert.equal(Object.hasOwn(taken, 'nothing'), false);
});
