import assert from 'node:assert/strict';
import test from 'node:test';
import fc from 'fast-check';
import { Evaluator, isGeometry, openDocument, writeDocument } from './index.ts';
import type { GeneratorDocument, Setting, Tie } from './index.ts';
import { nodeKinds } from '../nodes/index.ts';
import { positionsOf } from '../geometry/index.ts';
import { generator, withBodies } from '../testing/index.ts';
import {
	readersOfDial,
	troubleOfDial,
	whyNoDial,
	whyNoMaterialDial,
	whyNotLinked,
	withDialChanged,
	withDialFor,
	withDialMoved,
	withDialValues,
	withLink,
	withMaterialDial,
	withoutDial,
	withoutLink
} from './dials.ts';
import type { SettingIn } from './dials.ts';
import { withGraph } from './document.ts';
import { withValue } from './edits.ts';
import { makeBody } from './make-body.ts';
import { areInverse, inverseOf, solved, whyNoEquation } from './equations.ts';
import { settled } from './settle.ts';
import { disagreement, numberAt, proposedEquations, withTie, whyNoTie } from './ties.ts';

const formula = (text: string): Setting => ({ formula: text, streams: [] });
const hut = (): GeneratorDocument =>
	generator([
		['box', 'post', { size: [0.2, 3, 0.2] }],
		['cylinder', 'drum', { radius: 0.5, height: 2, segments: 12 }],
		['cylinder', 'cap', { radius: 0.5, height: 0.2, segments: 12 }],
		['grid-of-points', 'field', { countX: 4, countY: 1, countZ: 1 }],
		['place-copies', 'huts', { scale: 1 }, { points: 'field.points', source: 'drum.mesh' }]
	]);
const idOf = (document: GeneratorDocument, short: string): string =>
	document.graphs.main.nodes.find((node) => node.short === short)!.id;
const at = (document: GeneratorDocument, name: string): SettingIn => {
	const [short, setting] = name.split('.');
	return { graph: 'main', node: idOf(document, short), setting };
};
const settingOf = (document: GeneratorDocument, name: string): Setting => {
	const [short, setting] = name.split('.');
	return document.graphs.main.nodes.find((node) => node.short === short)!.settings[setting];
};
/** As the editor changes: made, then settled. */
const changed = (document: GeneratorDocument, make: (document: GeneratorDocument) => GeneratorDocument) =>
	settled(make(document), document);
const put = (document: GeneratorDocument, name: string, value: Setting) =>
	changed(document, (of) =>
		withGraph(of, 'main', (graph) => withValue(graph, at(document, name).node, name.split('.')[1], value))
	);
const turned = (document: GeneratorDocument, values: Record<string, Setting>) =>
	changed(document, (of) => withDialValues(of, values));
const dialled = (...names: string[]) =>
	names.reduce((made, name) => withDialFor(made, at(made, name)).document, hut());

test('a setting becomes a dial with its name, bounds and value, and both hear of one another', () => {
	const document = dialled('drum.radius');
	const [dial] = document.dials;
	assert.deepEqual(
		{ key: dial.key, name: dial.name, kind: dial.kind, value: dial.value, unit: dial.unit, min: dial.min },
		{ key: 'radius', name: 'Lower radius', kind: 'number', value: 0.5, unit: 'm', min: 0 }
	);
	const up = turned(document, { radius: 0.8 });
	assert.equal(settingOf(up, 'drum.radius'), 0.8);
	const down = put(up, 'drum.radius', 0.3);
	assert.equal(down.dials[0].value, 0.3);
	assert.equal(settingOf(down, 'cap.radius'), 0.5, 'what it has not in hand stays');
});

test('a dial feeds any number of settings, and formulas, in bodies too; what does not hang from it is not evaluated', () => {
	let document = dialled('drum.radius');
	document = withLink(document, at(document, 'cap.radius'), document.dials[0]);
	document = put(document, 'post.size', formula('dial.radius * 2'));
	const ids = document.graphs.main.nodes.map(({ id }) => id);
	const by = new Evaluator();
	by.evaluate(document, ids);
	const { results, ran } = by.evaluate(turned(document, { radius: 1.5 }), ids);
	const sizeOf = (short: string) => {
		const made = [...results.get(idOf(document, short))!.outputs.values()].find(isGeometry)!;
		return Math.max(...positionsOf(made.mesh!).filter((_, i) => i % 3 === 0));
	};
	assert.ok(Math.abs(sizeOf('drum') - 1.5) < 1e-6 && Math.abs(sizeOf('cap') - 1.5) < 1e-6);
	assert.ok(Math.abs(sizeOf('post') - 1.5) < 1e-6, 'twice as wide as the radius');
	assert.deepEqual([...ran].sort(), ['drum', 'cap', 'post', 'huts'].map((one) => idOf(document, one)).sort());
	assert.deepEqual(
		readersOfDial(document, 'radius').map(({ setting, byFormula }) => [setting, byFormula]),
		[
			['size', true],
			['radius', false],
			['radius', false]
		]
	);
});

test('in a body a formula hears the dial, and each use is evaluated anew', () => {
	const base = withBodies([['subgraph', 'use', { body: 'inner' }]], {
		inner: [
			['sphere', 'ball', { radius: formula('dial.size') }],
			['output', 'out', { name: 'mesh', carries: 'geometry' }, { value: 'ball.mesh' }]
		]
	});
	const with1 = {
		...base,
		dials: [{ key: 'size', name: 'Size', kind: 'number' as const, value: 1, start: 1 }]
	};
	const by = new Evaluator();
	const radius = (document: GeneratorDocument) => {
		const { results } = by.evaluate(document, [document.graphs.main.nodes[0].id]);
		const result = results.get(document.graphs.main.nodes[0].id)!;
		return result.bounds ? result.bounds.high[1] : result.error!.message;
	};
	assert.equal(radius(with1), 1);
	assert.equal(radius(turned(with1, { size: 2 })), 2);
	assert.match(String(radius(base)), /“dial\.size” is not known here/);
});

test('two settings in the hand of one random range draw numbers of their own', () => {
	let document = withGraph(hut(), 'main', (graph) =>
		withValue(graph, idOf(hut(), 'huts'), 'scale', { low: 0.5, high: 1.5, stream: 'first' })
	);
	document = withDialFor(document, at(document, 'huts.scale')).document;
	const second = withLink(document, at(document, 'drum.radius'), document.dials[0]);
	const streams = ['huts.scale', 'drum.radius'].map(
		(name) => (settingOf(second, name) as { stream: string }).stream
	);
	assert.notEqual(streams[0], streams[1]);
	const wide = turned(second, { scale: { low: 2, high: 3, stream: 'other' } });
	assert.deepEqual(
		['huts.scale', 'drum.radius'].map((name) => (settingOf(wide, name) as { stream: string }).stream),
		streams,
		'turning the dial draws the same numbers'
	);
});

test('a dial begins with the help of its setting; that of a plain value is left to whoever hands it out', () => {
	const document = generator([
		['number', 'tall'],
		['cylinder', 'drum']
	]);
	const helpOf = (name: string) => withDialFor(document, at(document, name)).document.dials[0].help;
	assert.equal(helpOf('drum.height'), nodeKinds.get('cylinder')!.inputs.height.help);
	assert.equal(helpOf('tall.value'), undefined);
});

test('what cannot be a dial says why', () => {
	const document = put(hut(), 'drum.radius', formula('1 + 1'));
	assert.match(whyNoDial(document, at(document, 'drum.radius'))!, /is a formula/);
	assert.match(whyNoDial(document, at(document, 'huts.source'))!, /wired/);
	assert.equal(whyNoDial(document, at(document, 'drum.height')), null);
});

test('a dial renamed is renamed wherever it is spoken of; taken away, its value stays', () => {
	let document = dialled('drum.radius', 'drum.height');
	document = put(document, 'post.size', [formula('dial.radius'), 3, 0.2] as Setting);
	document = { ...document, presets: [{ id: 'p1', name: 'Broad', values: { radius: 2 } }] };
	const renamed = withDialChanged(document, 'radius', { key: 'girth', shownIf: 'height > 1' });
	assert.equal(renamed.dials[0].key, 'girth');
	assert.deepEqual(settingOf(renamed, 'post.size'), [formula('dial.girth'), 3, 0.2]);
	assert.deepEqual(renamed.presets[0].values, { girth: 2 });
	assert.equal(settingOf(turned(renamed, { girth: 0.7 }), 'drum.radius'), 0.7);
	const gone = withoutDial(renamed, 'girth');
	assert.deepEqual(settingOf(gone, 'post.size'), [formula('0.5'), 3, 0.2]);
	assert.equal(settingOf(gone, 'drum.radius'), 0.5);
	assert.equal(readersOfDial(gone, 'girth').length, 0);
});

test('dials that nobody reads, that a wire overrules or another fights with are pointed out', () => {
	let document = dialled('drum.radius', 'cap.radius');
	assert.equal(troubleOfDial(document, 'radius'), null);
	assert.match(
		troubleOfDial(withoutLink(document, at(document, 'drum.radius')), 'radius')!,
		/Nothing reads it/
	);
	document = withTie(document, {
		id: 't1',
		a: at(document, 'drum.radius'),
		b: at(document, 'cap.radius'),
		toB: 'x',
		toA: 'x'
	});
	assert.match(troubleOfDial(document, 'radius')!, /both have/);
});

test('a dial stays within its limits; a value of the wrong kind is left out and told of', () => {
	const document = withDialChanged(dialled('drum.radius'), 'radius', { min: 0.2, max: 2 });
	const said: string[] = [];
	const made = withDialValues(document, { radius: 9, gone: 1 }, (sentence) => said.push(sentence));
	assert.equal(made.dials[0].value, 2);
	assert.equal(said.length, 2);
	assert.equal(
		withDialValues(document, { radius: 'wide' }, (sentence) => said.push(sentence)),
		document
	);
	assert.match(said[2], /takes a number/);
});

test('dials are ordered and grouped', () => {
	const document = dialled('drum.radius', 'drum.height', 'drum.segments');
	const moved = withDialMoved(document, 'segments', 'radius', 'Form');
	assert.deepEqual(
		moved.dials.map(({ key, group }) => `${key} ${group ?? ''}`),
		['segments Form', 'radius ', 'height ']
	);
	assert.deepEqual(withDialMoved(moved, 'segments', null).dials, document.dials);
});

const tie = (
	document: GeneratorDocument,
	id: string,
	a: string,
	b: string,
	toB: string,
	toA: string
): Tie => ({
	id,
	a: at(document, a),
	b: at(document, b),
	toB,
	toA
});

test('b = 3a + 1 with its inverse holds to 1e-9 from both ends, over a chain of five, once each', () => {
	const names = ['drum.radius', 'drum.height', 'cap.radius', 'cap.height', 'field.countX'];
	const base = generator([
		['cylinder', 'drum', { radius: 1, height: 1 }],
		['cylinder', 'cap', { radius: 1, height: 1 }],
		['number', 'field', { value: 1 }]
	]);
	const chain = [...names.slice(0, 4), 'field.value'];
	const document = chain
		.slice(1)
		.reduce(
			(made, name, i) => withTie(made, tie(made, `t${i}`, chain[i], name, '3 * x + 1', '(x - 1) / 3')),
			base
		);
	fc.assert(
		fc.property(
			fc.integer({ min: 0, max: 4 }),
			fc.double({ min: 0.001, max: 1e4, noNaN: true }),
			(end, x) => {
				const moved = put(document, chain[end], x);
				const values = chain.map((name) => settingOf(moved, name) as number);
				assert.equal(values[end], x);
				for (let i = 1; i < 5; i++)
					assert.ok(
						Math.abs(values[i] - (3 * values[i - 1] + 1)) <= 1e-9 * Math.max(1, Math.abs(values[i])),
						String(values)
					);
			}
		)
	);
});

test('an uneven pair does as told from both ends, says so, and is the same after it is opened again', () => {
	const document = withTie(hut(), tie(hut(), 't', 'drum.radius', 'drum.height', '3 * x', 'x'));
	const there = put(document, 'drum.radius', 2);
	assert.equal(settingOf(there, 'drum.height'), 6);
	const back = put(there, 'drum.height', 5);
	assert.equal(settingOf(back, 'drum.radius'), 5);
	assert.match(disagreement(back, back.ties[0])!, /disagree/);
	const again = openDocument(writeDocument(back)).document;
	assert.deepEqual(again, back);
	assert.equal(settled(again, again), again);
});

test('part of a vector is tied by itself, and a dial too', () => {
	const base = dialled('drum.height');
	const document = withTie(base, {
		id: 't',
		a: { dial: 'height' },
		b: { ...at(base, 'post.size'), part: 1 },
		toB: 'x + 1',
		toA: 'x - 1'
	});
	const up = turned(document, { height: 4 });
	assert.deepEqual(settingOf(up, 'post.size'), [0.2, 5, 0.2]);
	const wide = put(up, 'post.size', [1, 5, 1]);
	assert.equal(settingOf(wide, 'drum.height'), 4, 'another part carries nothing on');
	assert.equal(settingOf(put(wide, 'post.size', [1, 3, 1]), 'drum.height'), 2);
});

test('a circle that settles may be closed; one that does not is refused with its path', () => {
	const made = [
		['drum.radius', 'drum.height'],
		['drum.height', 'cap.radius']
	].reduce((of, [a, b], i) => withTie(of, tie(of, `t${i}`, a, b, '2 * x', 'x / 2')), hut());
	assert.equal(whyNoTie(made, tie(made, 'z', 'cap.radius', 'drum.radius', 'x / 4', '4 * x')), null);
	assert.match(
		whyNoTie(made, tie(made, 'z', 'cap.radius', 'drum.radius', 'x / 3', '3 * x'))!,
		/does not settle: Lower radius of cap → Lower radius of drum → Height of drum → Lower radius of cap/
	);
});

test('what is tied goes when one end goes, and a formula or a wire cannot be tied', () => {
	const document = withTie(hut(), tie(hut(), 't', 'drum.radius', 'cap.radius', 'x', 'x'));
	const without = changed(document, (of) =>
		withGraph(of, 'main', (graph) => ({
			...graph,
			nodes: graph.nodes.filter(({ short }) => short !== 'cap')
		}))
	);
	assert.deepEqual(without.ties, []);
	const odd = put(hut(), 'drum.radius', formula('2'));
	assert.match(whyNoTie(odd, tie(odd, 't', 'drum.radius', 'cap.radius', 'x', 'x'))!, /not a plain number/);
	assert.match(whyNoTie(hut(), tie(hut(), 't', 'post.size', 'cap.radius', 'x', 'x'))!, /three numbers/);
});

const number = fc.double({ min: 0.1, max: 9, noNaN: true }).map((x) => Number(x.toFixed(3)));
const equation: fc.Arbitrary<string> = fc.letrec<{ of: string }>((again) => ({
	of: fc.oneof(
		{ maxDepth: 4 },
		fc.constant('x'),
		fc
			.tuple(again('of'), fc.constantFrom('+', '-', '*', '/'), number)
			.map(([a, op, n]) => `(${a}) ${op} ${n}`),
		fc
			.tuple(number, fc.constantFrom('+', '-', '*', '/'), again('of'))
			.map(([n, op, a]) => `${n} ${op} (${a})`),
		again('of').map((a) => `-(${a})`),
		again('of').map((a) => `exp((${a}) / 100)`),
		fc
			.tuple(number, number, fc.constantFrom('+', '-', '*', '/'), again('of'))
			.map(([n, m, op, a]) => `(${n} + ${m}) ${op} exp((${a}) / 100)`)
	)
})).of;

test('an equation in which x stands once is turned round, and undoes what it did', () => {
	fc.assert(
		fc.property(equation, fc.double({ min: 0.5, max: 4, noNaN: true }), (there, x) => {
			const back = inverseOf(there);
			assert.ok(back, there);
			let y: number;
			try {
				y = solved(there, x);
			} catch {
				return;
			}
			// Where it is nearly level or steep, the way back cannot be told from so few digits.
			const slope = Math.abs((solved(there, x + 1e-4) - y) / 1e-4);
			if (!(slope > 1e-3 && slope < 1e3) || Math.abs(y) > 1e6) return;
			assert.ok(Math.abs(solved(back, y) - x) < 1e-6, `${there} ↔ ${back} at ${x}`);
		}),
		{ numRuns: 500 }
	);
	assert.equal(inverseOf('x * x'), null);
	assert.equal(inverseOf('3 * x + 1'), '(x - 1) / 3');
	assert.equal(areInverse('3 * x + 1', '(x - 1) / 3', 2), true);
	assert.equal(areInverse('3 * x', 'x', 2), false);
	assert.match(whyNoEquation('3 * y')!, /“y” is not known/);
	assert.match(whyNoEquation('random(0, 1) * x')!, /no random/);
});

test('a new tie proposes the proportion in which both stand', () => {
	const document = hut();
	const { toB, toA } = proposedEquations(document, at(document, 'drum.radius'), at(document, 'drum.height'));
	assert.equal(toB, '4 * x');
	assert.equal(toA, 'x / 4');
	assert.equal(numberAt(document, at(document, 'drum.radius')), 0.5);
});

test('a part of an equation that is no single value stays one value when it is turned round', () => {
	// log(x) − (1 + 2) is a difference, whatever parentheses it begins and ends with.
	for (const there of ['4 * exp(x + (1 + 2))', 'exp(x + (1 + 2)) / 5', '2 ^ 1 * sqrt(x - (0.5 - 0.2))']) {
		const back = inverseOf(there)!;
		assert.ok(Math.abs(solved(back, solved(there, 1.3)) - 1.3) < 1e-9, `${there} ↔ ${back}`);
	}
});

test('a setting in a dial’s hand that becomes a formula is no more in its hand', () => {
	const document = put(dialled('drum.radius'), 'drum.radius', formula('1 + 1'));
	assert.deepEqual(readersOfDial(document, 'radius'), []);
	assert.equal(document.dials[0].value, 0.5);
	assert.deepEqual(settingOf(document, 'drum.radius'), formula('1 + 1'));
	assert.deepEqual(openDocument(writeDocument(document)).document, document);
});

test('a range about a base stays within the limits of its dial', () => {
	const document = withDialChanged(dialled('drum.radius'), 'radius', { min: 0.2, max: 2 });
	const made = turned(document, { radius: { base: 1.8, variation: 0.9, stream: 's' } });
	const { base, variation } = made.dials[0].value as { base: number; variation: number };
	assert.ok(
		base + variation <= 2 + 1e-12 && base - variation >= 0.2 && variation > 0,
		`${base} ± ${variation}`
	);
});

test('a circle by way of a dial that does not settle is refused too', () => {
	let document = dialled('drum.radius');
	document = withLink(document, at(document, 'cap.radius'), document.dials[0]);
	assert.match(
		whyNoTie(document, tie(document, 't', 'drum.radius', 'cap.radius', '2 * x', 'x / 2'))!,
		/does not settle: .*Lower radius of drum → .*Lower radius of cap → Lower radius → Lower radius of drum/
	);
	assert.equal(whyNoTie(document, tie(document, 't', 'drum.radius', 'cap.radius', 'x', 'x')), null);
});

test('a dial of which nothing in a body speaks leaves the body alone', () => {
	const dial = (key: string, value: number) => ({
		key,
		name: key,
		kind: 'number' as const,
		value,
		start: value
	});
	const base = {
		...withBodies([['subgraph', 'use', { body: 'inner' }]], {
			inner: [
				['sphere', 'ball', { radius: formula('dial.size') }],
				['output', 'out', { name: 'mesh', carries: 'geometry' }, { value: 'ball.mesh' }]
			]
		}),
		dials: [dial('size', 1), dial('other', 1)]
	};
	const by = new Evaluator();
	const { id } = base.graphs.main.nodes[0];
	by.evaluate(base, [id]);
	assert.deepEqual(by.evaluate(turned(base, { other: 5 }), [id]).ran, []);
	assert.ok(by.evaluate(turned(base, { size: 2 }), [id]).ran.length > 0, 'the other one is heard');
});

test('ties follow their nodes into a subgraph, and out again', () => {
	const document = withTie(hut(), tie(hut(), 't', 'drum.radius', 'cap.radius', '2 * x', 'x / 2'));
	const ids = new Set(['drum', 'cap'].map((short) => idOf(document, short)));
	const made = makeBody(document, 'main', ids, 'subgraph');
	assert.ok('document' in made, 'reason' in made ? made.reason : '');
	const inside = settled(made.document, document);
	const [{ a, b }] = inside.ties;
	assert.ok('graph' in a && a.graph !== 'main' && 'graph' in b && b.graph === a.graph);
	const moved = settled(
		withGraph(inside, a.graph, (graph) => withValue(graph, a.node, 'radius', 3)),
		inside
	);
	assert.equal(moved.graphs[a.graph].nodes.find(({ short }) => short === 'cap')!.settings.radius, 6);
});

test('a material is one dial: its parts follow it, and it hears of each; what cannot be one says why', () => {
	const hull = generator([
		['box', 'box', {}],
		[
			'material',
			'paint',
			{ name: 'Tar', colour: [0.1, 0.1, 0.1], roughness: 0.4, rows: 2 },
			{ geometry: 'box.mesh' }
		],
		['material', 'other', { name: 'Oak' }, { geometry: 'paint.geometry' }]
	]);
	const { document, key } = withMaterialDial(hull, at(hull, 'paint.colour'));
	assert.deepEqual(document.dials[0].value, {
		material: { name: 'Tar', colour: [0.1, 0.1, 0.1], roughness: 0.4, metallic: 0, twoSided: false }
	});
	// Another takes the same material, and the second row of the first node too.
	const linked = ['other.name', 'paint.roughness2'].reduce((made, name) => {
		assert.equal(whyNotLinked(made, at(made, name), key), null);
		return withLink(made, at(made, name), made.dials[0]);
	}, document);
	assert.equal(readersOfDial(linked, key).length, 15);
	const rusty = { name: 'Rust', colour: [0.5, 0.2, 0.1], roughness: 0.9, metallic: 1, twoSided: true };
	const up = turned(linked, { [key]: { material: rusty } as Setting });
	for (const [short, row] of [
		['paint', ''],
		['paint', '2'],
		['other', '']
	])
		for (const [part, value] of Object.entries(rusty))
			assert.deepEqual(settingOf(up, `${short}.${part}${row}`), value, `${short}.${part}${row}`);
	const down = put(up, 'other.roughness', 0.25);
	assert.equal(settingOf(down, 'paint.roughness2'), 0.25);
	assert.deepEqual(down.dials[0].value, { material: { ...rusty, roughness: 0.25 } });
	// A formula takes only that one setting out of its hand.
	const loose = put(down, 'other.roughness', formula('0.5'));
	assert.equal(readersOfDial(loose, key).length, 14);
	assert.deepEqual(openDocument(writeDocument(down)).document, down);
	assert.match(whyNoMaterialDial(loose, at(loose, 'other.colour'))!, /wired, random or a formula/);
	assert.match(whyNoMaterialDial(loose, at(loose, 'box.size'))!, /Only a Material node/);
	assert.match(whyNotLinked(down, at(down, 'box.size'), key)!, /Only a Material node/);
});
