/** A long drag on a large mesh: does memory stay level, and does the ledger say what the process holds? */
import { withGraph, withSetting } from '../core/engine/index.ts';
import { Shows } from '../core/session/shows.ts';
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

const shows = new Shows();
shows.session.take({ kind: 'start', stop: null, name: 'bench' });
const { ledger } = shows.session.evaluator;

collect();
const empty = process.memoryUsage().arrayBuffers;
const first = shows.show(document, { shown }).picture;
const mega = (bytes: number) => `${(bytes / 1e6).toFixed(1)} MB`;
for (let step = 1; step <= STEPS; step++) {
	document = withGraph(document, 'main', (graph) =>
		withSetting(graph, idOf('tide'), 'amount', 0.1 + step / STEPS)
	);
	const { picture } = shows.show(document, { shown });
	// As in a worker, where each step is a message of its own: only then may the engine let go of all that it can.
	await new Promise((done) => setImmediate(done));
	if (picture.packet.draws.length !== first.packet.draws.length)
		throw new Error(`another picture at step ${step}`);
	if (step % Math.ceil(STEPS / 10) === 0) {
		collect();
		const held = process.memoryUsage().arrayBuffers - empty;
		console.log(
			`step ${String(step).padStart(5)}: the ledger says ${mega(ledger.held)}, the process holds ${mega(held)} (${(held / ledger.held).toFixed(3)}), all in all ${mega(process.memoryUsage().rss)}`
		);
	}
}
