/** A label says what came of its node, in as few words as tell it. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { inputsOf, newNode } from '../../../../core/engine/index.ts';
import { nodeKinds } from '../../../../core/nodes/index.ts';
import type { Graph } from '../../../../core/engine/index.ts';
import type { InputDefinition } from '../../../../core/nodes/index.ts';
import { countsInWords } from '../../../../core/session/counts.ts';
import type { NodeReport } from '../../../../core/session/messages.ts';
import {
	MANY_OUTPUTS,
	footOf,
	inputsOnLabel,
	outputsOnLabel,
	pinsOnLabel,
	settingInWords,
	stateOf
} from './label.ts';

const graph: Graph = { nodes: [], wires: [], notes: [] };
const node = newNode(graph, 'grid', [0, 0]);
const report = (more: Partial<NodeReport>): NodeReport => ({
	id: node.id,
	state: 'fresh',
	counts: null,
	bounds: null,
	value: null,
	milliseconds: 1,
	shapes: 0,
	hidden: 0,
	warnings: [],
	error: null,
	...more
});
const counts = (more: Partial<NonNullable<NodeReport['counts']>>) =>
	({ points: 0, faces: 0, curves: 0, copies: 0, ...more }) as NonNullable<NodeReport['counts']>;

test('the foot counts what came out; points of meshes and curves go without saying', () => {
	assert.equal(footOf(report({ counts: counts({ points: 8281, faces: 8100 }) })), '8,100 faces');
	assert.equal(footOf(report({ counts: counts({ points: 1240 }) })), '1,240 points');
	assert.equal(footOf(report({ counts: counts({ points: 6, curves: 1 }) })), '1 curve');
	assert.equal(footOf(report({ counts: counts({ points: 9, faces: 1, copies: 1 }) })), '1 copy, 1 face');
	assert.equal(footOf(report({ counts: counts({}) })), 'empty');
	assert.equal(footOf(report({ value: '12' })), '12');
	assert.equal(footOf(undefined), '');
});

test('only slow nodes tell their time, and one that failed tells why', () => {
	const one = counts({ faces: 2 });
	assert.equal(footOf(report({ counts: one, milliseconds: 50 })), '2 faces');
	const many = { points: 0, faces: 0, curves: 0, copies: 10_000 };
	assert.equal(footOf(report({ counts: many, shapes: 16 })), '10,000 copies of 16 shapes');
	assert.equal(footOf(report({ counts: many, shapes: 1 })), '10,000 copies');
	assert.equal(footOf(report({ counts: one, milliseconds: 228.4 })), '2 faces · 228 ms');
	const why = report({ state: 'error', error: { message: 'There is no surface.' }, milliseconds: 900 });
	assert.equal(footOf(why), 'There is no surface.');
});

test('states: bypassed before all else, then what is missing, then what goes on, then warnings', () => {
	const warned = report({ warnings: [{ message: 'Six copies lie on one another.' }] });
	assert.equal(stateOf({ ...node, bypassed: true }, report({ state: 'error' }), true, node.id), 'bypassed');
	assert.equal(stateOf(node, undefined, true, undefined), 'working');
	assert.equal(stateOf(node, undefined, false, undefined), 'not evaluated');
	assert.equal(stateOf(node, report({ state: 'waiting' }), true, node.id), 'waiting');
	assert.equal(stateOf(node, report({}), true, node.id), 'working');
	assert.equal(stateOf(node, report({}), true, 'another'), 'fresh');
	assert.equal(stateOf(node, warned, false, undefined), 'warning');
});

test('every label shows what is wired, pinned or the artist’s own, and stays short for every kind', () => {
	for (const kind of nodeKinds.keys()) {
		const one = newNode(graph, kind, [0, 0]);
		const bare = inputsOnLabel(one, new Set()).map(([name]) => name);
		assert.ok(bare.length <= 6, `${kind} shows ${bare.join(', ')}`);
		for (const [name, input] of inputsOf(one)) {
			assert.ok(inputsOnLabel(one, new Set([name])).some(([other]) => other === name));
			// A pinned setting stands below the inputs, or among them where it is wired; never twice.
			const pinned = { ...one, pinned: [name] };
			for (const wired of [new Set<string>(), new Set([name])]) {
				const places = [...inputsOnLabel(pinned, wired), ...pinsOnLabel(pinned, wired)];
				assert.equal(places.filter(([other]) => other === name).length, 1, `${kind}.${name}`);
			}
			if (input.kind === 'geometry' && !input.optional) assert.ok(bare.includes(name), `${kind}.${name}`);
		}
		const outputs = Object.entries(nodeKinds.get(kind)!.outputs as Record<string, unknown>);
		assert.ok(outputsOnLabel(outputs, new Set()).length <= MANY_OUTPUTS);
		const last = outputs.at(-1);
		if (last) assert.ok(outputsOnLabel(outputs, new Set([last[0]])).includes(last), 'one in use is seen');
	}
});

test('counts in words: one and many, in the order asked for, nothing of none', () => {
	assert.deepEqual(countsInWords(counts({ copies: 1, points: 12345 })), ['1 copy', '12,345 points']);
	assert.deepEqual(countsInWords(counts({ copies: 2, points: 1 }), ['points', 'copies']), [
		'1 point',
		'2 copies'
	]);
	assert.deepEqual(countsInWords(counts({})), []);
});

test('a pinned setting is read as it is set: a number with its unit, a range, a formula, an option in its own word', () => {
	const inputOfKind = (kind: string, name: string) => nodeKinds.get(kind)!.inputs[name] as InputDefinition;
	const width = inputOfKind('grid', 'width');
	assert.equal(settingInWords(2.5, width), '2.5 m');
	assert.equal(settingInWords({ low: 1, high: 3, stream: 's' }, width), '1 to 3 m');
	assert.equal(settingInWords({ base: 2, variation: 0.5, stream: 's' }, width), '2 ± 0.5 m');
	assert.equal(settingInWords({ formula: 'reach.value / 2', streams: [] }, width), 'reach.value / 2');
	assert.equal(settingInWords([10, 0, 90], inputOfKind('transform', 'rotation')), '10, 0, 90°');
	assert.equal(settingInWords('chamfered', inputOfKind('box', 'edge')), 'Chamfered');
	assert.equal(settingInWords(true, inputOfKind('box', 'standing')), 'yes');
});
