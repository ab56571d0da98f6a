/** One word for one matter: what nodes, settings and options are called, and what their messages quote. */
import assert from 'node:assert/strict';
import { readFileSync, readdirSync } from 'node:fs';
import { test } from 'node:test';
import { nodeKinds } from './index.ts';
import type { InputDefinition } from './define.ts';

const inputsOf = (id: string) => Object.entries(nodeKinds.get(id)!.inputs as Record<string, InputDefinition>);
const all = [...nodeKinds.keys()].flatMap((id) => inputsOf(id).map(([name, input]) => ({ id, name, input })));

test('every name, in letters of its own, and every id is its name in kebab-case', () => {
	for (const kind of nodeKinds.values())
		assert.equal(kind.id, kind.name.toLowerCase().replaceAll(' ', '-'), kind.name);
	const names = [...nodeKinds.values()].map(({ name }) => name);
	assert.equal(new Set(names).size, names.length);
});

test('words that meant several things, or the opposite, are gone', () => {
	const gone =
		/^(Smoothness|Read it at|How|What|On|Times|Steps|Edge pieces|Pieces across|Turn|Rotate|Spread|Looks|Place|Either|The higher|The lower|Hidden before|Decide anew|Keeps|Least distance|Metal|Flip|Far instead|Outside instead|Keep instead|Show instead|Along|Around|Between|Chamfer|Chamfer steps|Sides|Stagger|Hold|Rest|Target|Level|Progress|Wave length|Straight)$/;
	for (const { id, input } of all) {
		// A polygon has sides, and a choice of ways may be called after what is chosen.
		if (id === 'polygon' || input.kind === 'choice') continue;
		assert.doesNotMatch(input.label, gone, `${id}: ${input.label}`);
	}
});

test('no two inputs of a node have one name, and only what is chosen among several has a share', () => {
	for (const kind of nodeKinds.values()) {
		// Rows repeat their names by their numbers, and an input of a body shows its default in one way of three.
		if (kind.id === 'input') continue;
		const labels = inputsOf(kind.id).flatMap(([name, { label }]) => (/\d$/.test(name) ? [] : [label]));
		assert.deepEqual(labels, [...new Set(labels)], kind.id);
	}
	for (const { id, name, input } of all)
		if (/\bshare/i.test(input.label)) assert.match(name, /^shares?\d?$/, `${id}: ${input.label}`);
	const shares = all.filter(({ input }) => /\bshare/i.test(input.label)).map(({ id }) => id);
	assert.deepEqual([...new Set(shares)].sort(), ['material', 'place-copies', 'random-number']);
});

test('one word for one matter', () => {
	for (const { id, name, input } of all) {
		const where = `${id}.${name}: ${input.label}`;
		// Where a node has several, each is called after what it shapes.
		const several = all.filter((one) => one.id === id && one.input.kind === 'ramp').length > 1;
		const ramp = several ? /^(Ramp( along| around)?|[A-Z][a-z]+ ramp)$/ : /^Ramp( along| around)?$/;
		if (input.kind === 'ramp') assert.match(input.label, ramp, where);
		if (name === 'invert') assert.equal(input.label, 'Invert', where);
		if (name === 'reverse') assert.equal(input.label, 'Reverse', where);
		if (name === 'weightAt') assert.equal(input.label, 'Read weight from', where);
		if (input.kind === 'vector' && input.unit === '°') assert.equal(input.label, 'Rotation', where);
		if (/segments$/i.test(name)) assert.match(input.label, /egments$/, where);
	}
});

test('kinds of element are listed from coarse to fine', () => {
	const ORDER = ['whole', 'copy', 'curve', 'face', 'edge', 'point', 'corner'];
	const lists = all.flatMap(({ id, input }) =>
		input.kind === 'choice' && input.options.every((option) => ORDER.includes(option.id))
			? [{ id, ids: input.options.map((option) => ORDER.indexOf(option.id)) }]
			: []
	);
	assert.ok(lists.length >= 3);
	for (const { id, ids } of lists)
		assert.deepEqual(
			ids,
			[...ids].sort((a, b) => a - b),
			id
		);
});

test('messages quote the words that stand in the menu', () => {
	const names = new Set([...nodeKinds.values()].map(({ name }) => name));
	const files = readdirSync('core/nodes').filter((file) => file.endsWith('.ts') && !file.includes('.test.'));
	for (const file of files) {
		const source = readFileSync(`core/nodes/${file}`, 'utf8');
		const own = new Set(
			[...source.matchAll(/label: '([^']+)'/g), ...source.matchAll(/output\([^,]+, '([^']+)'/g)].map(
				([, label]) => label
			)
		);
		// Words that a file takes over from the tools it shares with others.
		const kind = nodeKinds.get(file.replace('.ts', ''));
		if (kind) for (const [, input] of inputsOf(kind.id)) own.add(input.label);
		for (const [, quoted] of source.matchAll(/“([A-Z][a-z]+(?: [a-z]+)*)”/g))
			assert.ok(
				own.has(quoted) || names.has(quoted),
				`${file} quotes “${quoted}”, which is called otherwise`
			);
	}
});
