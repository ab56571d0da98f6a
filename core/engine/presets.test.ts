import assert from 'node:assert/strict';
import test from 'node:test';
import fc from 'fast-check';
import { openDocument, writeDocument } from './index.ts';
import type { GeneratorDocument, Setting } from './index.ts';
import type { SlotContent } from './document.ts';
import { evaluateAll, generator } from '../testing/index.ts';
import { withDialFor, withDialValues, withDialChanged, withoutDial } from './dials.ts';
import { withGraph } from './document.ts';
import { withValue } from './edits.ts';
import { placed, placementOf, placementSchema, withSlotEmptied } from './placement.ts';
import {
	changedSince,
	withKept,
	withKeptTaken,
	withPreset,
	withPresetChanged,
	withPresetHolding,
	withPresetTaken,
	withPresetUpdated,
	withoutKept,
	withoutPreset
} from './presets.ts';
import { settled } from './settle.ts';
import { materialsOver, slotTakes, withSlot, withSlotFilled } from './slots.ts';

const KEYS = ['height', 'segments', 'caps'];
const lantern = (): GeneratorDocument => {
	const made = generator([
		['cylinder', 'post', { radius: 0.1, height: 3, segments: 12 }],
		['line', 'wire', { from: [0, 0, 0], to: [2, 0, 0], points: 4 }],
		['tube', 'rope', { radius: 0.02 }, { curve: 'wire.curve' }],
		['merge', 'both', {}, { geometry: ['post.mesh', 'rope.mesh'] }]
	]);
	const post = made.graphs.main.nodes[0].id;
	return KEYS.reduce((of, setting) => withDialFor(of, { graph: 'main', node: post, setting }).document, made);
};
const turned = (document: GeneratorDocument, values: Record<string, Setting>) =>
	settled(withDialValues(document, values), document);
const valueOf = (document: GeneratorDocument, key: string) =>
	document.dials.find((one) => one.key === key)!.value;
const values = fc.record({
	height: fc.double({ min: 0.1, max: 9, noNaN: true }),
	segments: fc.integer({ min: 3, max: 40 }),
	caps: fc.boolean()
});

test('a preset that is taken, changed and taken again is the same document, whatever was turned between', () => {
	fc.assert(
		fc.property(values, values, (first, second) => {
			const made = withPreset(turned(lantern(), first), 'Tall');
			const taken = withPresetTaken(made, made.preset!);
			assert.deepEqual(taken, made);
			assert.deepEqual(changedSince(taken), []);
			const changed = turned(taken, second);
			assert.equal(
				changedSince(changed).length,
				KEYS.filter((key) => valueOf(changed, key) !== valueOf(taken, key)).length
			);
			assert.deepEqual(withPresetTaken(changed, made.preset!), taken);
		}),
		{ numRuns: 60 }
	);
});

test('a dial that is left out of presets stays as it is', () => {
	const made = withPreset(withDialChanged(lantern(), 'height', { leftOut: true }), 'Any height');
	const taller = turned(made, { height: 7, segments: 30 });
	const taken = withPresetTaken(taller, made.preset!);
	assert.equal(valueOf(taken, 'height'), 7);
	assert.equal(valueOf(taken, 'segments'), 12);
});

test('of a preset that names dials which are gone, or holds what cannot be, the rest is taken and told of', () => {
	const made = withPreset(turned(lantern(), { segments: 20 }), 'Round');
	const odd = withPresetChanged(made, made.preset!, {
		values: { height: -4, segments: 'many', gone: 1, caps: false }
	});
	const said: string[] = [];
	const taken = withPresetTaken(withoutDial(odd, 'gone'), odd.preset!, (sentence) => said.push(sentence));
	assert.equal(valueOf(taken, 'height'), 0);
	assert.equal(valueOf(taken, 'caps'), false);
	assert.equal(valueOf(taken, 'segments'), 20);
	assert.deepEqual(said.map((one) => one.split(' ')[0]).sort(), ['There', '“Height”', '“Segments”']);
});

test('a kept variation has its seed and its dials; a file goes out and in again unchanged', () => {
	const made = withKept(withPreset(turned(lantern(), { height: 5 }), 'Five'), 'Good one', { seed: 77 });
	const other = { ...turned(made, { height: 1 }), seed: 3 };
	const taken = withKeptTaken(other, made.kept[0].id);
	assert.equal(taken.seed, 77);
	assert.equal(valueOf(taken, 'height'), 5);
	assert.equal(made.kept[0].preset, made.preset);
	const again = openDocument(writeDocument(made));
	assert.deepEqual(again.document, made);
	assert.deepEqual(again.leftOut, []);
	assert.equal(withoutPreset(made, made.preset!).preset, undefined);
});

test('a broken file loses only what is broken of what is handed out, and says what', () => {
	const made = withPreset(lantern(), 'As it is');
	const broken = JSON.parse(writeDocument(made)) as Record<string, unknown[]>;
	broken.dials.push(
		{ key: '__proto__', name: 'Bad', kind: 'number', value: 1, start: 1 },
		structuredClone(broken.dials[0])
	);
	broken.ties.push({ id: 't', a: { dial: 'nobody' }, b: { dial: 'height' }, toB: 'x', toA: 'x' });
	const { document, leftOut } = openDocument(JSON.stringify(broken));
	assert.deepEqual(document.dials, made.dials);
	assert.deepEqual(document.presets, made.presets);
	assert.deepEqual(document.ties, []);
	assert.ok(leftOut.length >= 3, leftOut.join(' | '));
});

test('what a dial has in hand is what it says, also where a file says otherwise', () => {
	const made = lantern();
	const raw = JSON.parse(writeDocument(made)) as GeneratorDocument;
	raw.graphs.main.nodes[0].settings.height = 99;
	assert.deepEqual(openDocument(JSON.stringify(raw)).document, made);
});

test('a slot takes another curve in its node’s place: what hangs from it follows, and its name stays', () => {
	const base = lantern();
	const wire = base.graphs.main.nodes[1];
	const made = withSlot(base, wire.id);
	assert.equal(made.slots[0].takes, 'curve');
	const path = { path: [{ at: [0, 0, 0] }, { at: [0, 0, 5] }] } as unknown as Setting;
	const filled = withSlotFilled(made, made.slots[0].key, {
		kind: 'draw-curve',
		settings: { path, type: 'straight' }
	});
	assert.ok(typeof filled !== 'string');
	assert.equal(filled.graphs.main.nodes[1].short, 'wire');
	const bounds = evaluateAll(filled).evaluation.results.get(base.graphs.main.nodes[2].id)!.bounds!;
	assert.ok(Math.abs(bounds.high[2] - 5) < 0.05, 'the rope runs along it');
	assert.match(withSlotFilled(made, 'wire', { kind: 'sphere', settings: {} }) as string, /takes a curve/);
	assert.equal(slotTakes(base, base.graphs.main.nodes[2]), null, 'nothing begins there');
	assert.equal(slotTakes(made, wire), null, 'it is one already');
});

test('a placement follows its generator, and says what cannot be any more', () => {
	fc.assert(
		fc.property(values, fc.nat(1000), (turnedTo, seed) => {
			const base = withSlot(lantern(), lantern().graphs.main.nodes[1].id);
			const used = { ...turned(base, turnedTo), seed };
			const placement = placementOf(used, base, { generator: 'g', name: 'By the pier' });
			assert.deepEqual(placementSchema.parse(JSON.parse(JSON.stringify(placement))), placement);
			assert.deepEqual(placed(base, placement), used);
			// The maker makes the rope thicker: the user's dials stay, the rope is thicker.
			const rope = base.graphs.main.nodes[2].id;
			const better = withGraph(base, 'main', (graph) => withValue(graph, rope, 'radius', 0.05));
			const followed = placed(better, placement);
			for (const key of KEYS) assert.deepEqual(valueOf(followed, key), valueOf(used, key));
			assert.equal(followed.graphs.main.nodes[2].settings.radius, 0.05);
		}),
		{ numRuns: 40 }
	);
	const base = lantern();
	const placement = placementOf(turned(base, { height: 6 }), base, { generator: 'g', name: '' });
	const said: string[] = [];
	const less = placed(withoutDial(base, 'height'), placement, (sentence) => said.push(sentence));
	assert.equal(less.graphs.main.nodes[0].settings.height, 3);
	assert.match(said[0], /no dial “height” any more/);
});

test('what a user does with the generator’s own presets stays with the placement; a slot is emptied by itself', () => {
	const base = withKept(withPreset(withSlot(lantern(), lantern().graphs.main.nodes[1].id), 'Plain'), 'First');
	const other = withPreset(base, 'Other');
	const path = { path: [{ at: [0, 0, 0] }, { at: [0, 0, 5] }] } as unknown as Setting;
	const filled = withSlotFilled(other, 'wire', {
		kind: 'draw-curve',
		settings: { path }
	}) as GeneratorDocument;
	const used = withoutKept(
		withPresetChanged(turned(filled, { height: 6 }), base.presets[0].id, { name: 'Renamed' }),
		base.kept[0].id
	);
	const placement = placementSchema.parse(
		JSON.parse(JSON.stringify(placementOf(used, base, { generator: 'g', name: 'Mine' })))
	);
	const again = placed(base, placement);
	assert.deepEqual(
		again.presets.map(({ name }) => name),
		['Renamed', 'Other']
	);
	assert.deepEqual(again.kept, []);
	assert.deepEqual(again, used);
	const emptied = withSlotEmptied(used, base, 'wire');
	assert.deepEqual(emptied.graphs.main.nodes[1], base.graphs.main.nodes[1]);
	assert.equal(valueOf(emptied, 'height'), 6);
	assert.deepEqual(emptied.graphs.main.wires, base.graphs.main.wires);
});

test('what a slot or a kept setting would not take is left as the node has it', () => {
	const made = withSlot(lantern(), lantern().graphs.main.nodes[1].id);
	const odd = { type: 7, segments: 'many', nothing: 1 } as unknown as Record<string, Setting>;
	const filled = withSlotFilled(made, 'wire', { kind: 'draw-curve', settings: odd }) as GeneratorDocument;
	const { settings } = filled.graphs.main.nodes[1];
	assert.equal(typeof settings.segments, 'number');
	assert.equal(Object.hasOwn(settings, 'nothing'), false);
	assert.equal(openDocument(writeDocument(filled)).leftOut.length, 0);
});

test('a preset that holds what is in slots brings it back with its wires, and says what was changed since', () => {
	const base = withSlot(lantern(), lantern().graphs.main.nodes[1].id);
	// What stands in the slot first hears a number by a wire.
	const far = generator([['number', 'far', { value: 5 }]]).graphs.main.nodes[0];
	const [, wire] = base.graphs.main.nodes;
	const wired = withGraph(base, 'main', (graph) => ({
		...graph,
		nodes: [...graph.nodes, { ...far, id: 'far' }],
		wires: [...graph.wires, { from: ['far', 'value'], to: [wire.id, 'points'] }]
	}));
	const { key } = wired.slots[0];
	const held = withPreset(wired, 'Straight');
	const made = withPresetHolding(held, held.preset!, true);
	const path = { path: [{ at: [0, 0, 0] }, { at: [1, 0, 2] }] } as Setting;
	const drawn = withSlotFilled(made, key, { kind: 'draw-curve', settings: { path } });
	assert.ok(typeof drawn !== 'string');
	assert.deepEqual(
		changedSince(drawn).map((one) => one.key),
		[key]
	);
	const second = withPreset(drawn, 'Drawn');
	const both = withPresetHolding(second, second.preset!, true);
	const back = withPresetTaken(both, made.preset!);
	assert.deepEqual(back.graphs, made.graphs);
	assert.deepEqual(changedSince(back), []);
	const forth = withPresetTaken(back, second.preset!);
	assert.deepEqual(forth.graphs, drawn.graphs);
	assert.deepEqual(withPresetUpdated(forth, made.preset!).presets[0].slots, forth.presets[1].slots);
	assert.deepEqual(openDocument(writeDocument(both)).document, both);
	// A placement that took it has the wires again when it is opened.
	const placement = placementOf(back, forth, { generator: 'g', name: 'Mine' });
	const stored = placementSchema.parse(JSON.parse(JSON.stringify(placement)));
	assert.deepEqual(placed(forth, stored).graphs, back.graphs);
	// One that holds no slots leaves them.
	const without = withPresetHolding(both, made.preset!, false);
	assert.deepEqual(withPresetTaken(without, made.preset!).graphs, drawn.graphs);
	// What is wired in a circle by a stranger’s file is not wired.
	const [tube] = both.graphs.main.nodes.filter(({ kind }) => kind === 'tube');
	const odd = { kind: 'line', settings: {}, wires: [{ from: [tube.id, 'mesh'], to: [wire.id, 'points'] }] };
	const taken = withSlotFilled(both, key, odd as SlotContent);
	assert.ok(typeof taken !== 'string' && !taken.graphs.main.wires.some(({ to }) => to[0] === wire.id));
});

test('it is told whose material is seen on what a slot holds: wholly, in part, or its own', () => {
	const over = (settings: Record<string, unknown>, wired = false) => {
		const made = generator([
			['import-mesh', 'post', {}],
			['bend', 'bent', {}, { geometry: 'post.mesh' }],
			['yes-or-no', 'asked', {}],
			[
				'material',
				'paint',
				{ name: 'Tar', ...settings },
				{ geometry: 'bent.geometry', ...(wired && { where: 'asked.value' }) }
			],
			['merge', 'all', {}, { geometry: 'paint.geometry' }]
		]);
		return materialsOver(made, made.graphs.main.nodes[0].id);
	};
	assert.deepEqual(over({}), [{ name: 'Tar', whole: true }]);
	assert.deepEqual(over({ where: { formula: 'normal.y > 0.5', streams: [] } }), [
		{ name: 'Tar', whole: false }
	]);
	assert.deepEqual(over({}, true), [{ name: 'Tar', whole: false }]);
	// What only stands on it brings materials of its own.
	const sown = generator([
		['grid', 'ground', {}],
		['sow-points', 'points', {}, { surface: 'ground.mesh' }],
		['box', 'box', {}],
		['material', 'paint', {}, { geometry: 'box.mesh' }],
		['place-copies', 'boxes', {}, { points: 'points.points', source: 'paint.geometry' }]
	]);
	assert.deepEqual(materialsOver(sown, sown.graphs.main.nodes[0].id), []);
});
