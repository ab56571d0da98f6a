/** Every kind of node, with settings of every sort, on geometry of every sort: what an artist may do by accident. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { Evaluator, withPorts } from '../engine/index.ts';
import type { Graph } from '../engine/index.ts';
import { offeredKinds } from './index.ts';
import { Hasher } from '../math/index.ts';
import type { Geometry, Table } from '../geometry/index.ts';
import { bodyOf, dice, evaluateAll, generator, pick, tablesOf } from '../testing/index.ts';
import type { Row } from '../testing/index.ts';
import type { AnyNode, InputDefinition } from './define.ts';

const at = (x: number, y: number, z: number) => ({ at: [x, y, z], in: [-0.3, 0, 0.1], out: [0.3, 0, 0] });
const STRAIGHT = { type: 'straight' };
/** Short names of geometry of every sort, ordinary and odd. */
const SOURCES: Row[] = [
	['grid', 'sheet', { columns: 5, rows: 4 }],
	['sphere', 'ball', { segments: 8, rows: 5 }],
	['box', 'box'],
	['circle', 'ring', { points: 9 }],
	['helix', 'spring', { turns: 2 }],
	[
		'draw-curve',
		'bend',
		{ ...STRAIGHT, path: { path: [at(0, 0, 0), at(1, 0, 0), at(1, 1, 0), at(1, 1, 2)] } }
	],
	[
		'draw-curve',
		'two',
		{ path: { path: [at(0, 0, 0), { ...at(1, 0, 0), ends: true }, at(0, 1, 0), at(2, 1, 0)] } }
	],
	['draw-curve', 'nothing'],
	['draw-curve', 'dot', { path: { path: [at(1, 2, 3)] } }],
	['draw-curve', 'heap', { ...STRAIGHT, path: { path: [at(1, 1, 1), at(1, 1, 1), at(1, 1, 1)] } }],
	[
		'draw-curve',
		'folded',
		{ ...STRAIGHT, closed: true, path: { path: [at(0, 0, 0), at(1, 0, 0), at(0, 0, 0), at(1, 0, 0)] } }
	],
	['row-of-points', 'row'],
	['sow-points', 'sown', { by: 'count', count: 20 }, { surface: 'ball.mesh' }],
	['place-copies', 'copies', {}, { points: 'row.points', source: 'box.mesh' }],
	['grid-of-points', 'cage', { countX: 2, countY: 2, countZ: 2 }],
	['grid', 'flat', { width: 0, depth: 0, columns: 2, rows: 2 }],
	['merge', 'all', {}, { geometry: ['sheet.mesh', 'bend.curve', 'row.points', 'copies.copies'] }]
];
const PORT: Record<string, string> = {
	grid: 'mesh',
	sphere: 'mesh',
	box: 'mesh',
	'row-of-points': 'points',
	'grid-of-points': 'points',
	'sow-points': 'points',
	'place-copies': 'copies',
	merge: 'geometry'
};
const GEOMETRIES = SOURCES.map(([kind, short]) => `${short}.${PORT[kind] ?? 'curve'}`);

/** A setting of the kind that an input takes: ordinary, at an end, or strange. */
function settingFor(input: InputDefinition, roll: () => number): unknown {
	switch (input.kind) {
		case 'number': {
			const ends = [...(input.slider ?? []), input.min, input.max].filter((x) => x !== undefined);
			// Counts stay small here: that large ones are refused has a test of its own.
			const most = input.whole
				? Math.min(40, input.slider?.[1] ?? 40)
				: (input.slider?.[1] ?? input.max ?? 10);
			const least = input.min ?? input.slider?.[0] ?? -10;
			const between = least + (most - least) * roll();
			const plain = pick(roll, [
				input.default,
				input.whole ? Math.round(between) : between,
				Math.min(pick(roll, [...ends, 0]), most),
				0,
				1,
				-1
			]);
			if (roll() < 0.75) return plain;
			return pick(roll, [
				{ low: Math.min(0, plain), high: plain + 1, stream: 'fuzz' },
				{ base: plain, variation: 0.5, stream: 'fuzz' },
				{ formula: 'index / count', streams: [] },
				{ formula: '1 / (index - 1)', streams: [] }
			]);
		}
		case 'vector':
			return [0, 1, 2].map((k) => pick(roll, [input.default[k], 0, 1, -2.5, roll() * 4 - 2]));
		case 'yesno':
			return roll() < 0.5;
		case 'colour':
			return [roll(), roll(), roll()];
		case 'choice':
			return pick(roll, input.options).id;
		case 'text':
			return pick(roll, [input.default, '', 'Saltreed 8&', 'height', 'M0 0 L10 5 L3 9 Z', 'M0 0 A']);
		case 'ramp':
			return pick(roll, [
				input.default,
				{ stops: [0.5, 0.5].map((x, i) => ({ at: x, value: i, easing: 'linear' })) }
			]);
		case 'path':
			return { path: Array.from({ length: Math.floor(roll() * 5) }, () => at(roll(), roll(), roll())) };
		case 'formula':
			return pick(roll, [input.default, 'index', '1 / 0', 'sqrt(-1)']);
		case 'value':
			return { formula: pick(roll, ['index', 'position.x', '0 / 0']), streams: [] };
		default:
			return undefined;
	}
}

/** A node of a kind with settings and wires by dice. */
function rowFor(kind: AnyNode, short: string, roll: () => number): Row {
	const settings: Record<string, unknown> = {};
	const wires: Record<string, string | string[]> = {};
	for (const [name, input] of Object.entries(kind.inputs) as [string, InputDefinition][]) {
		if (input.kind === 'geometry') {
			if (input.optional && roll() < 0.5) continue;
			// Most often of the kind that is needed, so that the node gets to work.
			const fitting = GEOMETRIES.filter(
				(g) =>
					!input.needs ||
					input.needs === 'anything' ||
					(input.needs === 'mesh' ? /mesh/ : input.needs === 'curves' ? /curve/ : /points/).test(g)
			);
			const one = () => pick(roll, roll() < 0.85 && fitting.length ? fitting : GEOMETRIES);
			// A second state of the same elements, as often as something else.
			const same = Object.values(wires).flat()[0];
			wires[name] = input.many
				? [one(), one()]
				: input.needs === 'points' && roll() < 0.8
					? 'cage.points'
					: same && roll() < 0.7
						? same
						: one();
		} else if (input.kind === 'list') wires[name] = 'steps.list';
		else if (roll() < 0.7) {
			const value = settingFor(input, roll);
			if (value !== undefined) settings[name] = value;
		}
	}
	return [kind.id, short, settings, wires];
}

/** A digest made afresh, so that nothing kept can hide a change. */
function freshDigest(geometry: Geometry): string {
	const hasher = new Hasher();
	for (const [path, table] of tablesOf(geometry)) {
		hasher.text(path).number(table.count);
		for (const name of [...table.columns.keys()].sort())
			hasher.text(name).array(table.columns.get(name)!.data);
		if (table.ids) hasher.array(table.ids);
	}
	return hasher.digest();
}

function assertSound(path: string, table: Table, what: string): void {
	for (const [name, { data, type }] of table.columns) {
		const width = { float: 1, int: 1, bool: 1, text: 1, vec2: 2, vec3: 3, vec4: 4 }[type];
		assert.equal(
			data.length,
			table.count * width,
			`${what}: ${path} ${name} has another length than its table`
		);
		if (!(data instanceof Float32Array)) continue;
		const wrong = data.findIndex((x) => !Number.isFinite(x));
		assert.equal(wrong, -1, `${what}: ${path} ${name} holds ${data[wrong]} at ${wrong}`);
	}
	if (table.ids) assert.equal(table.ids.length, 2 * table.count, `${what}: ids of ${path}`);
}

/** Faces and curves name points that are there, and tables have as many rows as they should. */
function assertWhole({ mesh, curves, copies }: Geometry, what: string): void {
	if (mesh) {
		const { faceStarts, cornerPoints, pointCount } = mesh.topology;
		assert.equal(mesh.points.count, pointCount, `${what}: points of the mesh`);
		assert.equal(mesh.faces.count, faceStarts.length - 1, `${what}: faces`);
		assert.equal(mesh.corners.count, cornerPoints.length, `${what}: corners`);
		assert.equal(faceStarts.at(-1), cornerPoints.length, `${what}: the last face ends elsewhere`);
		assert.ok(
			cornerPoints.every((point) => point < pointCount),
			`${what}: a face names a missing point`
		);
	}
	if (curves) {
		assert.equal(curves.starts.at(-1), curves.points.count, `${what}: the last curve ends elsewhere`);
		assert.equal(curves.curves.count, curves.starts.length - 1, `${what}: curves`);
	}
	for (const source of copies?.copies.columns.get('source')?.data ?? [])
		assert.ok(source >= 0 && source < copies!.sources.length, `${what}: a copy of a missing source`);
}

const BASE: Row[] = [['even-steps', 'steps', { count: 6 }], ...SOURCES];
const TURNS = 20;
/** Nodes whose wires hardly ever fit by chance. */
const SELDOM = ['bend-lattice', 'trim-by-object'];
const BODY = bodyOf([
	['input', 'amount', { name: 'amount', carries: 'number', default: 1 }],
	['box', 'piece', { size: [{ formula: 'amount.value', streams: [] }, 1, 1] }],
	['output', 'shape', { name: 'shape', carries: 'geometry' }, { value: 'piece.mesh' }]
]);
const withBody = (graph: Graph, kind: string): Graph => ({
	...graph,
	nodes: graph.nodes.map((node) =>
		node.kind === kind ? { ...node, settings: { ...node.settings, body: 'part' } } : node
	)
});

/** Points, corners or copies of what was made, of the largest table that did not come in. */
function countMade(outputs: Record<string, unknown>, inputs: Record<string, unknown>, of: string): number {
	const tables = (values: readonly unknown[]): Table[] =>
		values.flatMap((value) =>
			typeof value === 'object' && value !== null && 'materials' in value
				? tablesOf(value as Geometry)
						.filter(([path]) => path === of || path.startsWith(`${of} of`))
						.map(([, table]) => table)
				: []
		);
	const given = new Set(tables(Object.values(inputs).flat()));
	return Math.max(0, ...tables(Object.values(outputs)).map((table) => (given.has(table) ? 0 : table.count)));
}

/** The kind with what it makes compared to what it foresaw. Gives what puts it back as it was. */
function compared(kind: AnyNode): () => void {
	const { run, estimate } = kind;
	if (!run || !estimate) return () => {};
	const own = kind as { run: AnyNode['run'] };
	own.run = (inputs, ...more) => {
		const made = run(inputs, ...more);
		const foreseen = estimate(inputs);
		if (!foreseen) return made;
		const { elements, of } = foreseen;
		const count = countMade(made as Record<string, unknown>, inputs as Record<string, unknown>, of);
		assert.ok(elements >= count, `${kind.id} foresaw ${elements} ${of} and made ${count}`);
		return made;
	};
	return () => void (own.run = run);
}

for (const kind of offeredKinds)
	test(`${kind.name} takes what comes: sound geometry or a sentence, the same twice, inputs untouched`, () => {
		const roll = dice(kind.id.split('').reduce((sum, c) => sum * 31 + c.charCodeAt(0), 7));
		const rows = Array.from({ length: TURNS }, (_, i) => rowFor(kind, `n${i}`, roll));
		const plain = generator([...BASE, ...rows]);
		// Those with a body get one that works.
		const document = !kind.body
			? plain
			: withPorts({ ...plain, graphs: { main: withBody(plain.graphs.main, kind.id), part: BODY } });
		const evaluator = new Evaluator({ memory: 500e6, seconds: 10 });
		const { nodes } = document.graphs.main;
		const sources = nodes.slice(0, BASE.length).map(({ id }) => id);
		const before = evaluator.evaluate(document, sources);
		const digests = (evaluation: typeof before) =>
			sources.flatMap((id) =>
				[...evaluation.results.get(id)!.outputs.values()].map((value) =>
					'materials' in value ? freshDigest(value as Geometry) : ''
				)
			);
		const wanted = digests(before);
		const done = compared(kind);
		const run = evaluateAll(document, {}, evaluator);
		done();
		assert.deepEqual(digests(before), wanted, 'inputs were changed');
		const again = evaluateAll(document, { memory: 500e6, seconds: 10 });
		let worked = 0;
		for (const [, short, settings, wires] of rows) {
			const what = `${kind.id} ${JSON.stringify(settings)} ${JSON.stringify(wires)}`;
			const { id } = nodes.find((node) => node.short === short)!;
			const [result, second] = [run, again].map(({ evaluation }) => evaluation.results.get(id)!);
			for (const { message } of [result.error, ...result.warnings].filter((one) => one !== null)) {
				assert.match(message, /^.{8,400}[.?]$/su, `${what}: “${message}” is no sentence`);
				assert.doesNotMatch(
					message,
					/undefined|NaN|\[object|Infinity|is not a function|fault of ours|than the machine gives/,
					what
				);
			}
			assert.equal(result.error?.message, second.error?.message, what);
			if (result.state === 'fresh') worked++;
			for (const [name, value] of result.outputs) {
				if (!('materials' in value)) continue;
				const geometry = value as Geometry;
				for (const [path, table] of tablesOf(geometry)) assertSound(path, table, what);
				assertWhole(geometry, what);
				assert.equal(
					freshDigest(second.outputs.get(name) as Geometry),
					freshDigest(geometry),
					`${what}: another result`
				);
			}
		}
		// The node did get to work, often; a lattice’s counts hardly ever fit by chance.
		const isRare = kind.inBodies || SELDOM.includes(kind.id);
		assert.ok(isRare || worked >= TURNS / 4, `only ${worked} of ${TURNS} gave a result`);
	});
