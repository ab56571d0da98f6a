import assert from 'node:assert/strict';
import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { test } from 'node:test';
import { Evaluator, digestOf, openDocument, resultNode } from '../core/index.ts';
import type { Geometry } from '../core/index.ts';

const folder = mkdtempSync(join(tmpdir(), 'embrell-'));
const embrell = (...args: string[]) =>
	spawnSync(process.execPath, ['bin/embrell.mjs', ...args], { encoding: 'utf8' });

for (const sample of ['reed-bed', 'boardwalk'])
	test(`${sample} has the same hash twice in one process and in a new one`, () => {
		const file = `samples/${sample}.embrell.json`;
		const hash = () => {
			const { document } = openDocument(readFileSync(file, 'utf8'));
			const id = resultNode(document)!.id;
			return digestOf(
				new Evaluator().evaluate(document, [id]).results.get(id)!.outputs.get('geometry') as Geometry
			);
		};
		const first = hash();
		assert.equal(hash(), first);
		const made = embrell('export', file, '--out', join(folder, `${sample}.glb`), '--json');
		assert.equal(made.status, 0, made.stderr);
		assert.equal(JSON.parse(made.stdout).hash, first);
		const other = embrell('export', file, '--out', join(folder, 'other.glb'), '--json', '--seed', '99');
		assert.notEqual(JSON.parse(other.stdout).hash, first);
	});

test('settings are set, and exit codes tell errors of the generator from wrong use', () => {
	const out = join(folder, 'out.glb');
	const set = embrell(
		'export',
		'samples/boardwalk.embrell.json',
		'--out',
		out,
		'--set',
		'walkLength.value=24',
		'--json'
	);
	const planks = JSON.parse(set.stdout).nodes.find((node: { node: string }) => node.node === 'planks');
	assert.ok(planks.counts.copies > 100 && planks.bounds.high[2] > 11);
	const broken = embrell(
		'export',
		'samples/boardwalk.embrell.json',
		'--out',
		out,
		'--set',
		'walkLength.value=1e12'
	);
	assert.equal(broken.status, 1);
	assert.match(broken.stderr, /would make|needs/);
	assert.equal(
		embrell('export', 'samples/boardwalk.embrell.json', '--out', out, '--set', 'walkLenght.value=3').status,
		2
	);
	assert.match(embrell('export', 'nowhere.json', '--out', out).stderr, /could not be read \(ENOENT\)/);
	assert.equal(embrell('draw').status, 2);
	assert.equal(embrell('check', 'samples/reed-bed.embrell.json').status, 0);
});

test('nodes are listed from their definitions, each with help for every setting', () => {
	const nodes = JSON.parse(
		execFileSync(process.execPath, ['bin/embrell.mjs', 'nodes', '--json'], {
			encoding: 'utf8',
			maxBuffer: 1e8
		})
	);
	assert.ok(nodes.length >= 35);
	for (const node of nodes) {
		assert.ok(node.help.length > 20, node.name);
		for (const [name, input] of Object.entries(node.inputs) as [string, { help: string; label: string }][])
			assert.ok(input.help && input.label, `${node.name}: ${name}`);
		for (const [name, output] of Object.entries(node.outputs) as [string, { help: string }][])
			assert.ok(output.help, `${node.name}: ${name}`);
	}
});
