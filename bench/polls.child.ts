/**
 * How long one kind of node goes without asking whether to stop, on two million elements. In a process of its own, which
 * can be ended from outside. Prints one line of JSON.
 */
import type { AnyNode, InputDefinition } from '../core/nodes/index.ts';
import { Evaluator } from '../core/engine/index.ts';
import { nodeKinds } from '../core/nodes/index.ts';
import { generator } from '../core/testing/index.ts';
import type { Row } from '../core/testing/index.ts';

const SIDE = 1414;
/** Each about two million points, faces or copies. */
const SOURCES: Record<string, Row[]> = {
	mesh: [['grid', 'source', { columns: SIDE, rows: SIDE }]],
	curves: [
		['grid', 'sheet', { columns: 700, rows: 700 }],
		['edges-to-curves', 'source', { which: 'all' }, { mesh: 'sheet.mesh' }]
	],
	points: [['grid-of-points', 'source', { countX: SIDE, countY: 1, countZ: SIDE }]],
	copies: [
		// Written out as a mesh, the copies make two million points.
		[
			'grid-of-points',
			'seeds',
			process.argv[2] === 'copies-to-mesh'
				? { countX: SIDE / 2, countY: 1, countZ: 354 }
				: { countX: SIDE, countY: 1, countZ: SIDE }
		],
		['box', 'box'],
		['place-copies', 'source', {}, { points: 'seeds.points', source: 'box.mesh' }]
	]
};
const SMALL: Row[] = [
	['even-steps', 'steps', { count: 2_000_000 }],
	['helix', 'helix', { turns: 3 }],
	['box', 'small'],
	['sphere', 'ball'],
	['grid-of-points', 'cage', { countX: 3, countY: 3, countZ: 3 }],
	['circle', 'round'],
	['number', 'one']
];
const PORT: Record<string, string> = { mesh: 'mesh', curves: 'curve', points: 'points', copies: 'copies' };
/** What goes into inputs that are not the one that is large. */
const OTHERS: Record<string, string> = { mesh: 'ball.mesh', curves: 'helix.curve', points: 'cage.points' };

const kind = nodeKinds.get(process.argv[2])! as AnyNode;
const part = process.argv[3] ?? '';
const settings = JSON.parse(process.argv[4] ?? '{}') as Record<string, unknown>;

const inputs = Object.entries(kind.inputs) as [string, InputDefinition][];
const wires: Record<string, string> = {};
let isLarge = false;
for (const [name, input] of inputs) {
	if (input.kind === 'list') wires[name] = 'steps.list';
	if (input.kind !== 'geometry') continue;
	const fits = !input.needs || input.needs === 'anything' || input.needs === part;
	if (!isLarge && part && fits && !(kind.id === 'place-copies' && name === 'source')) {
		wires[name] = `source.${PORT[part]}`;
		isLarge = true;
	} else if (!input.optional || kind.id === 'morph')
		wires[name] = kind.id === 'bend-lattice' ? 'cage.points' : (OTHERS[input.needs ?? ''] ?? 'small.mesh');
}
const document = generator([
	...SMALL,
	...(part ? SOURCES[part] : []),
	[kind.id, 'it', { ...settings }, wires]
]);
const idOf = (short: string) => document.graphs.main.nodes.find((node) => node.short === short)!.id;

let last = 0;
let longest = 0;
let isWatched = false;
let where = '';
let reported = 0;
const look = () => {
	const now = performance.now();
	if (isWatched && now - last > longest) {
		longest = now - last;
		if (process.env.POLLS_WHERE) where = new Error().stack!.split('\n').slice(3, 9).join('\n');
	}
	last = performance.now();
};
const evaluator = new Evaluator({ memory: 12e9, seconds: 60, poll: look, progress: () => reported++ });
evaluator.evaluate(
	document,
	document.graphs.main.nodes.map(({ id }) => id).filter((id) => id !== idOf('it'))
);
(globalThis as { gc?: () => void }).gc?.();
isWatched = true;
last = performance.now();
const began = last;
const result = evaluator.evaluate(document, [idOf('it')]).results.get(idOf('it'))!;
look();
console.log(
	JSON.stringify({
		kind: kind.id,
		part,
		longest: Math.round(longest * 10) / 10,
		whole: Math.round(performance.now() - began),
		state: result.state,
		error: result.error?.message ?? null,
		counts: result.counts,
		reported,
		...(where && { where })
	})
);
