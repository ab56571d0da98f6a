import assert from 'node:assert/strict';
import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { test } from 'node:test';
import {
	Evaluator,
	openDocument,
	resultNode,
	settled,
	withDialFor,
	withDialValues,
	withKept,
	withPreset,
	withSlot,
	writeDocument
} from '../core/engine/index.ts';
import { digestOf } from '../core/geometry/index.ts';
import { generator } from '../core/testing/index.ts';
import type { Geometry } from '../core/geometry/index.ts';

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

test('check finds formulas that cannot be read, in settings and in Formula nodes, and what a file lacks', () => {
	const sound = embrell('check', 'samples/reed-bed.embrell.json');
	assert.equal(sound.status, 0);
	assert.match(sound.stdout, /^Reed bed: \d+ nodes, sound\.$/m);
	const document = generator([
		['grid', 'flat', { width: { formula: '2 *', streams: [] } }],
		['formula', 'rise', { formula: 'height)' }],
		['displace', 'tide', {}, { geometry: 'flat.mesh', amount: 'rise.value' }]
	]);
	const raw = JSON.parse(writeDocument(document));
	raw.graphs.main.wires.push({ from: ['n1', 'nowhere'], to: ['n3', 'geometry'] });
	const file = join(folder, 'broken.embrell.json');
	writeFileSync(file, JSON.stringify(raw));
	const broken = embrell('check', file, '--json');
	assert.equal(broken.status, 1);
	const { problems, nodes } = JSON.parse(broken.stdout) as { problems: string[]; nodes: number };
	assert.equal(nodes, 3);
	assert.equal(problems.length, 3, problems.join('\n'));
	for (const [i, wanted] of [/^A wire to tide/, /^flat: /, /^rise: /].entries())
		assert.match(problems[i], wanted);
	const spoken = embrell('check', file);
	assert.match(spoken.stdout, /3 problems/);
	assert.equal(spoken.stderr.trim().split('\n').length, 3);
});

test('an OBJ comes with its materials beside it, and GLB takes named attributes', () => {
	const obj = join(folder, 'walk.obj');
	const made = embrell('export', 'samples/boardwalk.embrell.json', '--out', obj);
	assert.equal(made.status, 0, made.stderr);
	const text = readFileSync(obj, 'utf8');
	assert.match(text, /^mtllib walk\.mtl$/m);
	const named = new Set([...text.matchAll(/^usemtl (.+)$/gm)].map(([, name]) => name));
	const defined = new Set(
		[...readFileSync(join(folder, 'walk.mtl'), 'utf8').matchAll(/^newmtl (.+)$/gm)].map(([, name]) => name)
	);
	assert.ok(named.size >= 2);
	for (const name of named) assert.ok(defined.has(name), name);
});

test('wrong use is told with what would be right, and leaves no file', () => {
	const out = join(folder, 'never.glb');
	for (const args of [
		[],
		['grow'],
		['export'],
		['export', 'samples/reed-bed.embrell.json'],
		['export', 'samples/no-such.json', '--out', out],
		['export', 'samples/reed-bed.embrell.json', '--out', out, '--seed', 'tide'],
		['export', 'samples/reed-bed.embrell.json', '--out', out, '--set', 'width'],
		['export', 'samples/reed-bed.embrell.json', '--out', out, '--flood']
	]) {
		const { status, stderr } = embrell(...args);
		assert.ok(status === 2 || status === 1, `${args.join(' ')} gives ${status}`);
		assert.ok(stderr.trim().length > 10, args.join(' '));
		assert.doesNotMatch(stderr, /at .*\.ts:\d+|fault of ours/);
		assert.ok(!existsSync(out));
	}
});

/** A post with a wire, two dials, a preset, a kept variation and a slot. */
function lantern(): string {
	let made = generator([
		['cylinder', 'post', { height: 3, segments: 12 }],
		['import-mesh', 'lamp', {}],
		['sow-points', 'moss', { by: 'count', count: 40 }, { surface: 'post.mesh' }],
		['merge', 'all', {}, { geometry: ['post.mesh', 'lamp.mesh', 'moss.points'] }],
		['result', 'result', {}, { geometry: 'all.geometry' }]
	]);
	const [post, lamp] = made.graphs.main.nodes;
	for (const setting of ['height', 'caps'])
		made = withDialFor(made, { graph: 'main', node: post.id, setting }).document;
	made = withKept(withPreset(settled(withDialValues(made, { height: 5 }), made), 'Tall'), 'Seven', {
		seed: 7
	});
	made = withSlot(settled(withDialValues(made, { height: 3 }), made), lamp.id);
	const path = join(folder, 'lantern.embrell.json');
	writeFileSync(path, writeDocument(made));
	return path;
}

test('presets, kept variations, dials, slots and a run of seeds are chosen by their names', () => {
	const file = lantern();
	const run = (...args: string[]) => {
		const made = embrell('export', file, '--out', join(folder, 'lantern.glb'), '--json', ...args);
		assert.equal(made.status, 0, made.stderr);
		return made.stdout;
	};
	const heightOf = (stdout: string): number =>
		(JSON.parse(stdout) as { nodes: { node: string; bounds: { high: number[] } }[] }).nodes.find(
			({ node }) => node === 'post'
		)!.bounds.high[1];
	assert.equal(heightOf(run()), 3);
	assert.equal(heightOf(run('--preset', 'tall')), 5);
	assert.equal(heightOf(run('--preset', 'Tall', '--set', 'height=4')), 4);
	const kept = JSON.parse(run('--kept', 'Seven')) as { hash: string };
	const same = JSON.parse(run('--set', 'Height=5', '--seed', '7')) as { hash: string };
	assert.equal(kept.hash, same.hash);
	const three = run('--seed', '1..3')
		.trim()
		.split('\n')
		.map((line) => JSON.parse(line) as { hash: string; out: string });
	assert.equal(new Set(three.map(({ hash }) => hash)).size, 3);
	assert.ok(three.every(({ out }) => existsSync(out)));
});

test('frames are written as a sequence; each is what it is alone, also where something is remembered', () => {
	const path = join(folder, 'swinging.embrell.json');
	const jump = { formula: 'choose(frame > 2, 1, 0)', streams: [] };
	const swinging = generator([
		['row-of-points', 'row', { count: 3 }],
		['transform', 'moved', { move: [jump, 0, 0] }, { geometry: 'row.points' }],
		['damped-follow', 'late', {}, { geometry: 'moved.geometry' }]
	]);
	writeFileSync(path, writeDocument(swinging));
	const run = (frames: string): { frame: number; hash: string; out: string }[] => {
		const made = embrell('export', path, '--out', join(folder, 'swing.glb'), '--json', '--frames', frames);
		assert.equal(made.status, 0, made.stderr);
		return frames.includes('..')
			? made.stdout
					.trim()
					.split('\n')
					.map((line) => JSON.parse(line) as { frame: number; hash: string; out: string })
			: [JSON.parse(made.stdout) as { frame: number; hash: string; out: string }];
	};
	const all = run('1..12');
	assert.deepEqual(
		all.map(({ frame }) => frame),
		Array.from({ length: 12 }, (_, i) => i + 1)
	);
	assert.ok(all.every(({ out }) => existsSync(out)) && all[8].out.endsWith('swing-0009.glb'));
	assert.equal(new Set(all.map(({ hash }) => hash)).size, 11, 'the first two are still');
	assert.equal(run('9')[0].hash, all[8].hash);
	const wrong = embrell('export', path, '--out', join(folder, 'swing.glb'), '--frames', '9..2');
	assert.equal(wrong.status, 2);
	assert.match(wrong.stderr, /--frames takes a whole number/);
});

test('an OBJ in millimetres with z up lands in its slot at the right size, standing up', () => {
	const obj = join(folder, 'lamp.obj');
	// A box of 2000 × 1000 × 4500 millimetres that stands on z = 0, its middle over the origin.
	const corners = [0, 1, 2, 3, 4, 5, 6, 7].map((i) => [
		(i & 1 ? 1 : -1) * 1000,
		(i & 2 ? 1 : -1) * 500,
		i & 4 ? 4500 : 0
	]);
	const faces = ['1 3 4 2', '5 6 8 7', '1 2 6 5', '3 7 8 4', '1 5 7 3', '2 4 8 6'];
	writeFileSync(obj, [...corners.map((c) => `v ${c.join(' ')}`), ...faces.map((f) => `f ${f}`)].join('\n'));
	const made = embrell(
		'export',
		lantern(),
		'--out',
		join(folder, 'slot.glb'),
		'--json',
		'--slot',
		`lamp=${obj}`
	);
	assert.equal(made.status, 0, made.stderr);
	const { nodes } = JSON.parse(made.stdout) as {
		nodes: { node: string; bounds: { low: number[]; high: number[] } }[];
	};
	const { low, high } = nodes.find(({ node }) => node === 'lamp')!.bounds;
	const near = (a: number[], b: number[]) =>
		a.forEach((x, k) => assert.ok(Math.abs(x - b[k]) < 1e-6, `${a} is not ${b}`));
	near(low, [-1, 0, -0.5]);
	near(high, [1, 4.5, 0.5]);
});

test('a name that is not there is told with the nearest, and nothing is written', () => {
	const file = lantern();
	const out = join(folder, 'never.glb');
	for (const [args, says] of [
		[['--preset', 'Tal'], /no preset “Tal”. Did you mean “Tall”/],
		[['--kept', 'Eight'], /no kept variation “Eight”/],
		[['--set', 'heigth=2'], /no dial “heigth”. Did you mean “height”/],
		[['--set', 'height=wide'], /takes a number/],
		[['--slot', 'lamp=samples/reed-bed.embrell.json'], /./],
		[['--seed', '9..3'], /A\.\.B/]
	] as const) {
		const made = embrell('export', file, '--out', out, ...args);
		assert.equal(made.status, 2, made.stderr);
		assert.match(made.stderr, says);
	}
	assert.equal(existsSync(out), false);
});

test('an animation is one file, with the same frames as a sequence', () => {
	const path = join(folder, 'rising.embrell.json');
	const rising = generator([
		['box', 'block', {}],
		['row-of-points', 'row', { count: 3 }],
		['place-copies', 'blocks', {}, { points: 'row.points', source: 'block.mesh' }],
		['transform', 'moved', { about: 'own', move: [0, 1, 0], sway: 'sine' }, { geometry: 'blocks.copies' }]
	]);
	writeFileSync(path, writeDocument(rising));
	const out = join(folder, 'rising.glb');
	const made = embrell('export', path, '--out', out, '--animation', '--frames', '3..8', '--json');
	assert.equal(made.status, 0, made.stderr);
	const told = JSON.parse(made.stdout) as { first: number; last: number; hashes: string[] };
	assert.deepEqual([told.first, told.last, new Set(told.hashes).size], [3, 8, 6]);
	const alone = embrell('export', path, '--out', join(folder, 'one.glb'), '--frames', '5', '--json');
	assert.equal(told.hashes[2], (JSON.parse(alone.stdout) as { hash: string }).hash);
	const bytes = readFileSync(out);
	const length = bytes.readUInt32LE(12);
	const { animations, nodes } = JSON.parse(bytes.subarray(20, 20 + length).toString()) as {
		animations: { channels: { target: { path: string } }[] }[];
		nodes: unknown[];
	};
	assert.equal(nodes.length, 3);
	assert.deepEqual(
		animations[0].channels.map(({ target }) => target.path),
		['translation', 'translation', 'translation']
	);
	const usd = join(folder, 'rising.usda');
	assert.equal(embrell('export', path, '--out', usd, '--animation', '--frames', '3..8').status, 0);
	const text = readFileSync(usd, 'utf8');
	assert.match(text, /startTimeCode = 3\n\tendTimeCode = 8/);
	const samples = /point3f\[\] positions\.timeSamples = \{([^}]*)\}/.exec(text)![1];
	assert.deepEqual(
		[...samples.matchAll(/^\s+(\d+): /gm)].map(([, frame]) => Number(frame)),
		[3, 4, 5, 6, 7, 8]
	);
	const wrong = embrell('export', path, '--out', join(folder, 'rising.obj'), '--animation');
	assert.equal(wrong.status, 2);
	assert.match(wrong.stderr, /writes a GLB or a USD/);
});

test('--help and -h explain every option; what is written wrongly is proposed rightly', () => {
	const [long, short] = [embrell('--help'), embrell('export', '-h')];
	assert.deepEqual([long.status, short.status], [0, 0]);
	assert.equal(short.stdout, long.stdout);
	const options = [
		'out',
		'preset',
		'kept',
		'set',
		'slot',
		'seed',
		'frames',
		'animation',
		'flatten',
		'attribute',
		'details',
		'json',
		'help'
	];
	for (const name of options) assert.match(long.stdout, new RegExp(`--${name}\\b.*\\s+\\S+`), name);
	for (const line of long.stdout.split('\n')) assert.ok(line.length <= 104, line);
	const file = 'samples/lantern-string.embrell.json';
	const out = join(folder, 'none.glb');
	for (const [args, says] of [
		[['--sett', 'a=1'], /no option --sett\. Did you mean --set\?/],
		[['--set', 'gust.valu=1'], /Did you mean “gust\.value”\?/],
		[['--set', 'post.Radius=1'], /Did you mean “post\.radius”\?/],
		[['--set', 'gust.nothing=1'], /There are: value, low, high, step, whole/],
		[['--set', 'gost.value=1'], /Did you mean “gust”\?/],
		[['--set', 'caps=no'], /no dial “caps”\. Did you mean “line\.caps”\?/],
		[['--seed'], /--seed needs a value/]
	] as const) {
		const made = embrell('export', file, '--out', out, ...args);
		assert.equal(made.status, 2, `${args.join(' ')}: ${made.stderr}`);
		assert.match(made.stderr, says);
	}
	assert.equal(existsSync(out), false);
	assert.match(embrell('export', file, '--out').stderr, /--out needs a value/);
});

test('one part of a vector is set by its name', () => {
	const path = join(folder, 'parts.json');
	const document = generator([
		['box', 'hull', { size: [1, 1, 1] }],
		['result', 'result', {}, { geometry: 'hull.mesh' }]
	]);
	writeFileSync(path, writeDocument(document));
	const made = embrell(
		'export',
		path,
		'--out',
		join(folder, 'parts.glb'),
		'--json',
		'--set',
		'hull.size.y=3'
	);
	assert.equal(made.status, 0, made.stderr);
	assert.equal(JSON.parse(made.stdout).nodes.find(({ node }: { node: string }) => node === 'hull').volume, 3);
});
