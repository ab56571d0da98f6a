/** Generators that were damaged or made to do harm: what is sound opens, and evaluates without a fault of ours. */
import assert from 'node:assert/strict';
import { readFileSync } from 'node:fs';
import { test } from 'node:test';
import fc from 'fast-check';
import { NodeError } from '../math/index.ts';
import { dice, pick } from '../testing/index.ts';
import { Evaluator, newDocument, openDocument, openRaw, writeDocument } from './index.ts';
import type { Wire } from './index.ts';
import { holds } from '../testing/random-edits.ts';
import { runs } from '../testing/runs.ts';

const SAMPLES = ['reed-bed', 'boardwalk', 'rope-rail', 'worn-bollard', 'drying-net'];
const texts = SAMPLES.map((name) => readFileSync(`samples/${name}.embrell.json`, 'utf8'));

/** What may stand where something else should. */
const junk = fc.constantFrom<unknown>(
	null,
	true,
	-1,
	0.5,
	1e308,
	'',
	'__proto__',
	'constructor',
	'index / 0',
	'x'.repeat(300),
	[],
	[1, 2],
	{},
	{ low: 5, high: -5, stream: 's' },
	{ formula: 'sowing.density + count(', streams: [] },
	{ formula: 'tide.amount', streams: [] },
	{ stops: [] },
	{ path: [{ at: [0, 0, 0] }] }
);
const share = fc.nat(9999).map((n) => n / 10_000);
/** A place in a document: at each level a share of the way through the keys; where it ends, junk. */
const damage = fc.record({ way: fc.array(share, { minLength: 1, maxLength: 7 }), junk, drop: fc.boolean() });
type Damage = typeof damage extends fc.Arbitrary<infer T> ? T : never;

function damageAt(raw: unknown, { way, junk, drop }: Damage): void {
	let at = raw as Record<string, unknown>;
	for (const [i, part] of way.entries()) {
		// Whose format cannot be told is refused whole; that is tried below.
		const keys = Object.keys(at).filter((key) => key !== 'format' && key !== 'version');
		if (!keys.length) return;
		const key = keys[Math.floor(part * keys.length)];
		const below = at[key];
		if (i === way.length - 1 || typeof below !== 'object' || below === null) {
			if (!drop) at[key] = structuredClone(junk);
			else if (Array.isArray(at)) at.splice(Number(key), 1);
			else delete at[key];
			return;
		}
		at = below as Record<string, unknown>;
	}
}

test('a damaged generator opens as far as it can, stays as it was opened, and evaluates without a fault of ours', () => {
	let opened = 0,
		evaluated = 0;
	fc.assert(
		fc.property(
			fc.nat(SAMPLES.length - 1),
			fc.array(damage, { minLength: 1, maxLength: 12 }),
			(which, all) => {
				const raw: unknown = JSON.parse(texts[which]);
				for (const one of all) damageAt(raw, one);
				let document;
				try {
					({ document } = openRaw(raw));
				} catch (error) {
					assert.ok(error instanceof NodeError, (error as Error).stack);
					return;
				}
				opened++;
				const again = openDocument(writeDocument(document));
				assert.deepEqual(again.leftOut, []);
				assert.deepEqual(again.document, document);
				// A few are evaluated: that takes longer.
				if (opened % runs(8, 2)) return;
				const evaluator = new Evaluator({ memory: 300e6, seconds: 5 });
				const { results } = evaluator.evaluate(
					document,
					document.graphs.main.nodes.map(({ id }) => id)
				);
				for (const { error, warnings } of results.values())
					for (const { message } of [...(error ? [error] : []), ...warnings])
						assert.doesNotMatch(message, /fault of ours|undefined|\[object|is not a function/);
				evaluated++;
			}
		),
		{ numRuns: runs(400) }
	);
	assert.ok(opened > runs(400) / 2 && evaluated > 20, `${opened} opened, ${evaluated} evaluated`);
});

test('wires that do not fit, come twice or lead nowhere are left out, each with a sentence', () => {
	const roll = dice(8);
	let left = 0;
	for (let turn = 0; turn < 300; turn++) {
		const raw = JSON.parse(pick(roll, texts)) as {
			graphs: { main: { nodes: { id: string }[]; wires: Wire[] } };
		};
		const { main } = raw.graphs;
		const before = main.wires.length;
		// Ends of wires are swapped with those of others, so that each exists somewhere.
		for (let i = 0; i < 4; i++) {
			const end = pick(roll, ['from', 'to'] as const);
			const other = pick(roll, main.wires);
			pick(roll, main.wires)[end] = [pick(roll, main.nodes).id, pick(roll, [other.from[1], other.to[1]])];
		}
		main.wires.push(structuredClone(pick(roll, main.wires)));
		const { document, leftOut } = openRaw(raw);
		const { main: opened } = document.graphs;
		holds(opened, `turn ${turn}`, { circles: false });
		assert.equal(leftOut.length, before + 1 - opened.wires.length);
		left += leftOut.length;
		for (const one of leftOut) assert.match(one, /^A wire to .* was left out: .*\.$/);
	}
	assert.ok(left > 600, `${left} wires left out`);
});

test('text that is cut off, nested without end or of another kind is refused in a sentence', () => {
	for (const text of [
		'',
		'   ',
		'hello',
		texts[0].slice(0, 900),
		'['.repeat(100_000),
		'{"a":'.repeat(50_000),
		'{"format":"embrell"}',
		'{"format":"embrell","version":99}',
		'{"format":"other","version":1}',
		'[]',
		'null',
		'7'
	])
		assert.throws(
			() => openDocument(text),
			(error: Error) => error instanceof NodeError && /[.)]$/.test(error.message),
			text.slice(0, 40)
		);
});

test('names that mean something to the language mean nothing in a file', () => {
	const raw = JSON.parse(texts[0]) as { graphs: { main: { nodes: { settings: object; short: string }[] } } };
	const { nodes } = raw.graphs.main;
	nodes[0].settings = JSON.parse('{"__proto__": {"low": 1}, "constructor": 3, "toString": 4, "columns": 3}');
	nodes[1].short = '__proto__';
	const { document } = openRaw(raw);
	assert.equal(({} as { low?: number }).low, undefined);
	const evaluator = new Evaluator();
	const { results } = evaluator.evaluate(
		document,
		document.graphs.main.nodes.map(({ id }) => id)
	);
	for (const { error } of results.values()) assert.doesNotMatch(error?.message ?? '', /fault of ours/);
});

test('a file of nothing but bad settings is told of in a sentence, and not setting by setting', () => {
	const nodeOf = (id: string, count: number) => ({
		id,
		kind: 'box',
		short: id,
		version: 1,
		at: [0, 0],
		stream: id,
		settings: Object.fromEntries(Array.from({ length: count }, (_, i) => [`s${i}`, { a: [i] }]))
	});
	const fileOf = (nodes: unknown[]) =>
		JSON.stringify({
			...JSON.parse(writeDocument(newDocument('Too much'))),
			graphs: { main: { nodes, wires: [], notes: [] } }
		});
	const one = openDocument(fileOf([nodeOf('box', 20_000)]));
	assert.match(one.leftOut[0], /^19,600 settings were left out: no node has so many/);
	assert.equal(one.document.graphs.main.nodes.length, 1);
	assert.ok(one.leftOut.length < 450, `${one.leftOut.length} sentences`);
	const many = Array.from({ length: 100 }, (_, i) => nodeOf(`box${i}`, 390));
	assert.throws(() => openDocument(fileOf(many)), /More than 2,000 things in this file are wrong/);
});
