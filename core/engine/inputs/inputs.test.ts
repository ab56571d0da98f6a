/** Laws of the kinds of input, for every input of every kind of node. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { NodeError } from '../../math/index.ts';
import type { InputDefinition, WireKind } from '../../nodes/index.ts';
import { offeredKinds } from '../../nodes/index.ts';
import { evaluateAll, generator } from '../../testing/index.ts';
import { openDocument, writeDocument } from '../document-text.ts';
import type { GeneratorDocument, Setting } from '../document.ts';
import { inputKind } from './index.ts';

const all = offeredKinds.flatMap((kind) =>
	(Object.entries(kind.inputs) as [string, InputDefinition][]).map(([name, input]) => ({ kind, name, input }))
);
const CARRIED: readonly WireKind[] = [
	'geometry',
	'number',
	'whole',
	'yesno',
	'vector',
	'colour',
	'value',
	'list',
	'ramp'
];
/** Settings of every kind. */
const SETTINGS: readonly Setting[] = [
	3,
	true,
	'words',
	[1, 2, 3],
	{ low: 0, high: 1, stream: 's' },
	{ base: 0, variation: 1, stream: 's' },
	{ formula: '1 + 1', streams: [] },
	{ stops: [{ at: 0, value: 1, easing: 'linear' }] },
	{ path: [{ at: [0, 0, 0] }] }
];

test('what an input begins with is what it takes, and a new one each time', () => {
	for (const { kind, name, input } of all) {
		const of = inputKind(input);
		const start = of.start(input);
		assert.equal(start === null, of.schema === null, `${kind.id}.${name}`);
		if (start === null) continue;
		assert.ok(of.schema!.safeParse(start).success, `${kind.id}.${name}`);
		if (typeof start === 'object') assert.notEqual(of.start(input), start);
	}
});

test('every input takes some wire, or is set by hand and says so', () => {
	for (const { kind, name, input } of all) {
		const fits = CARRIED.map((carried) => inputKind(input).fits(carried, input));
		if (fits.some((fit) => fit.fits)) continue;
		for (const fit of fits)
			assert.match((fit as { reason: string }).reason, /set by hand/, `${kind.id}.${name}`);
		assert.ok(inputKind(input).schema, `${kind.id}.${name} can neither be wired nor set`);
	}
});

test('a wire that does not fit is refused in a sentence that names the input', () => {
	for (const { input } of all)
		for (const carried of CARRIED) {
			const fit = inputKind(input).fits(carried, input);
			if (fit.fits) continue;
			assert.ok(fit.reason.startsWith(`“${input.label}”`) && /[.]$/.test(fit.reason), fit.reason);
			if (fit.through)
				assert.ok(
					offeredKinds.some(({ id }) => id === fit.through),
					fit.through
				);
		}
});

test('what is typed for an input is something that it takes, or refused in words', () => {
	const words = fc.oneof(
		fc.constantFrom('3', '2.5 m', '30°', 'yes', 'no', '1,2,3', '1,2', 'u * 2', '', 'points', '1e999', '-'),
		fc.string({ maxLength: 12 })
	);
	fc.assert(
		fc.property(fc.constantFrom(...all), words, ({ input }, text) => {
			const { read, schema } = inputKind(input);
			if (!read) return;
			let setting: Setting;
			try {
				setting = read(input, text);
			} catch (error) {
				assert.ok(error instanceof NodeError, String(error));
				assert.match(error.message, /^takes /);
				return;
			}
			assert.ok(schema!.safeParse(setting).success, `${input.kind}: ${JSON.stringify(setting)}`);
		}),
		{ numRuns: 1000 }
	);
});

/** A document with one node, of which one setting is another. */
function withSettingOf(kind: string, name: string, setting: Setting): GeneratorDocument {
	const document = generator([[kind, 'it']]);
	const [node] = document.graphs.main.nodes;
	return {
		...document,
		graphs: {
			main: { ...document.graphs.main, nodes: [{ ...node, settings: { ...node.settings, [name]: setting } }] }
		}
	};
}

test('a setting that an input does not take is left out when a file is opened, and said; others stay', () => {
	fc.assert(
		fc.property(fc.constantFrom(...all), fc.constantFrom(...SETTINGS), ({ kind, name, input }, setting) => {
			const of = inputKind(input);
			if (!of.schema) return;
			const { document, leftOut } = openDocument(writeDocument(withSettingOf(kind.id, name, setting)));
			const { settings } = document.graphs.main.nodes[0];
			if (of.schema.safeParse(setting).success) {
				assert.deepEqual(leftOut, []);
				assert.deepEqual(settings[name], setting);
				return;
			}
			assert.ok(!Object.hasOwn(settings, name));
			assert.equal(leftOut.length, 1);
			assert.ok(leftOut[0].includes(`“${input.label}”`) && leftOut[0].includes(of.takes), leftOut[0]);
			// Without it, the node is what it would be with what it begins with.
			const fresh = { ...document.graphs.main.nodes[0].settings, [name]: of.start(input)! };
			const begun = openDocument(writeDocument(withSettingOf(kind.id, name, fresh[name]))).document;
			const told = (one: GeneratorDocument) => [
				evaluateAll(one).error('it'),
				evaluateAll(one).warnings('it')
			];
			assert.deepEqual(told(document), told(begun));
		}),
		{ numRuns: 400 }
	);
});

test('an Output whose name was lost is spoken of by the name that it begins with', () => {
	const { document } = openDocument(writeDocument(withSettingOf('output', 'name', 3)));
	assert.match(evaluateAll(document).error('it')!, /leaves the subgraph to “geometry”/);
});
