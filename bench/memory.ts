/** A long drag on a large mesh: does memory stay level, and does the ledger say what the process holds? */
import type { GeneratorDocument } from '../core/index.ts';
import { withGraph, withSetting } from '../core/index.ts';
import type { Answer } from '../core/session/messages.ts';
import { patchBetween } from '../core/session/patches.ts';
import { Session } from '../core/session/session.ts';
import { generator } from '../core/testing/index.ts';

const SIDE = 400;
const STEPS = Number(process.argv[2] ?? 2000);
const collect = (globalThis as { gc?: () => void }).gc!;

let document = generator([
	['grid', 'flat', { columns: SIDE, rows: SIDE }],
	['displace-by-noise', 'tide', { amount: 0.1 }, { geometry: 'flat.mesh' }],
	['grid', 'other', { columns: SIDE, rows: SIDE }]
]);
const idOf = (short: string) => document.graphs.main.nodes.find((node) => node.short === short)!.id;
const shown = [idOf('tide'), idOf('other')];

let last: Answer[] = [];
const session = new Session({ say: (answer) => last.push(answer) });
session.take({ kind: 'start', stop: null, name: 'bench' });
const { ledger } = session.evaluator;
let sent: GeneratorDocument | null = null;

function show(revision: number): Extract<Answer, { kind: 'picture' }> {
	last = [];
	session.take({
		kind: 'evaluate',
		revision,
		patch: patchBetween(sent, document),
		shown,
		ghosts: [],
		wireframe: false,
		heat: null
	});
	sent = document;
	const picture = last.find((answer) => answer.kind === 'picture');
	if (!picture) throw new Error(JSON.stringify(last.find((answer) => answer.kind === 'failed')));
	return picture;
}

collect();
const empty = process.memoryUsage().arrayBuffers;
const first = show(1);
const mega = (bytes: number) => `${(bytes / 1e6).toFixed(1)} MB`;
for (let step = 1; step <= STEPS; step++) {
	document = withGraph(document, 'main', (graph) =>
		withSetting(graph, idOf('tide'), 'amount', 0.1 + step / STEPS)
	);
	const picture = show(step + 1);
	// As in a worker, where each step is a message of its own: only then may the engine let go of all that it can.
	await new Promise((done) => setImmediate(done));
	if (picture.packet.draws.length !== first.packet.draws.length)
		throw new Error(`another picture at step ${step}`);
	if (step % Math.ceil(STEPS / 10) === 0) {
		last = [];
		collect();
		const held = process.memoryUsage().arrayBuffers - empty;
		console.log(
			`step ${String(step).padStart(5)}: the ledger says ${mega(ledger.held)}, the process holds ${mega(held)} (${(held / ledger.held).toFixed(3)}), all in all ${mega(process.memoryUsage().rss)}`
		);
	}
}
