/** A session as a page meets it: what it answers, when it stops, what it leaves out. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { withGraph, withSetting } from '../engine/index.ts';
import type { GeneratorDocument } from '../engine/index.ts';
import { boundsOf } from '../geometry/index.ts';
import { readGlb, readMesh } from '../formats/index.ts';
import { generator } from '../testing/index.ts';
import type { Look } from './look.ts';
import type { Answer, Request } from './messages.ts';
import { patchBetween } from './patches.ts';
import { Session } from './session.ts';
import { AT_WORK, BEAT, STOP } from './shared-words.ts';
import { Shows } from './shows.ts';

const idOf = (document: GeneratorDocument, short: string): string =>
	document.graphs.main.nodes.find((node) => node.short === short)!.id;

function open() {
	const answers: Answer[] = [];
	const stop = new Int32Array(new SharedArrayBuffer(12));
	const session = new Session({ say: (answer) => answers.push(answer) });
	session.take({ kind: 'start', stop, name: 'a' });
	let sent: GeneratorDocument | null = null;
	let revision = 0;
	return {
		answers,
		stop,
		/** Takes a request, and gives the answers to it. */
		ask(request: Request): Answer[] {
			answers.length = 0;
			session.take(request);
			// How far it is comes in between, where the machine is slow.
			return answers.filter(({ kind }) => kind !== 'progress');
		},
		evaluate(
			document: GeneratorDocument,
			short: string,
			look: Partial<Look> = {},
			ended?: readonly string[]
		) {
			const patch = patchBetween(sent, document);
			sent = document;
			return this.ask({
				kind: 'evaluate',
				revision: ++revision,
				patch,
				ended,
				look: { shown: [idOf(document, short)], ...look }
			});
		}
	};
}
const kinds = (answers: readonly Answer[]) => answers.map(({ kind }) => kind);

const reeds = () =>
	generator([
		['grid', 'flat', { columns: 20, rows: 20 }],
		['sow-points', 'sowing', { by: 'count', count: 40_000 }, { surface: 'flat.mesh' }],
		['box', 'reed', { size: [0.01, 1, 0.01] }],
		['place-copies', 'reeds', {}, { points: 'sowing.points', source: 'reed.mesh' }]
	]);

test('an evaluation answers with the picture first, then with all reports; nothing runs twice', () => {
	const page = open();
	const document = reeds();
	const first = page.evaluate(document, 'flat');
	assert.deepEqual(kinds(first), ['picture', 'reports']);
	const [picture, reports] = first as [
		Extract<Answer, { kind: 'picture' }>,
		Extract<Answer, { kind: 'reports' }>
	];
	assert.deepEqual(
		picture.reports.map(({ id }) => id),
		[idOf(document, 'flat')]
	);
	assert.equal(reports.ran, 4);
	assert.equal(reports.reports.length, 4);
	assert.ok(page.stop[BEAT] > 4, 'the page sees that it works');
	assert.equal(page.stop[AT_WORK], 0);
	const again = page.evaluate({ ...document, name: 'Other' }, 'reeds') as typeof first;
	assert.equal((again[1] as typeof reports).ran, 0);
});

test('a stop ends the evaluation, and the next one works', () => {
	const page = open();
	const document = reeds();
	Atomics.store(page.stop, STOP, 1);
	assert.deepEqual(kinds(page.evaluate(document, 'reeds')), ['stopped']);
	const next = page.evaluate(document, 'reeds');
	assert.deepEqual(kinds(next), ['picture', 'reports']);
});

test('a node at which an evaluation had to be ended is left out, and those that hang from it wait', () => {
	const page = open();
	const document = reeds();
	const ended = [idOf(document, 'sowing')];
	const [, reports] = page.evaluate(document, 'flat', {}, ended) as [
		Answer,
		Extract<Answer, { kind: 'reports' }>
	];
	const of = (short: string) => reports.reports.find(({ id }) => id === idOf(document, short))!;
	assert.match(of('sowing').error!.message, /^Sow points did not answer for some seconds and was ended\./);
	assert.equal(of('reeds').state, 'waiting');
	assert.equal(of('flat').state, 'fresh');
	const after = page.evaluate({ ...document, name: 'b' }, 'flat') as (typeof reports)[];
	assert.ok(after[1].reports.every(({ state }) => state === 'fresh'));
});

test('questions are answered, and what cannot be done is refused with a sentence', () => {
	const page = open();
	const document = reeds();
	page.evaluate(document, 'reeds');
	const wire = document.graphs.main.wires.find(({ to }) => to[1] === 'points')!;
	const [peeked] = page.ask({ kind: 'peek', ask: 1, wire });
	assert.match((peeked as { text: string }).text, /^40,000 points · (10|9\.99\d*) × 0 × (10|9\.99\d*) m/);
	const [exported] = page.ask({
		kind: 'export',
		ask: 2,
		node: idOf(document, 'reed'),
		options: { format: 'glb', flatten: false, attributes: [], name: 'Reed' },
		details: false,
		weigh: false
	});
	const { files, weight } = exported as Extract<Answer, { kind: 'exported' }>;
	const [{ name, bytes }] = files;
	assert.equal(weight, bytes.length);
	assert.equal(name, '.glb');
	assert.equal(readGlb(bytes, 'reed.glb').geometry.mesh!.faces.count >= 6, true);
	const [refused] = page.ask({
		kind: 'export',
		ask: 3,
		node: 'nowhere',
		options: { format: 'obj', flatten: false, attributes: [], name: 'Nothing' },
		details: false,
		weigh: false
	});
	assert.equal(refused.kind, 'refused');
	assert.match((refused as { message: string }).message, /There is nothing to export/);
	const [attributes] = page.ask({ kind: 'attributes', ask: 4, node: idOf(document, 'sowing') });
	assert.ok(
		(attributes as Extract<Answer, { kind: 'attributes' }>).attributes.some(
			({ name }) => name === 'orientation'
		)
	);
});

test('a change of one setting sends only what it changed', () => {
	const page = open();
	const document = reeds();
	page.evaluate(document, 'reeds');
	const moved = withGraph(document, 'main', (graph) =>
		withSetting(graph, idOf(document, 'reeds'), 'offset', [0, 1, 0])
	);
	const [picture] = page.evaluate(moved, 'reeds') as [Extract<Answer, { kind: 'picture' }>];
	assert.equal(picture.packet.objects.length, 0, 'the reed itself is there already');
	assert.equal(picture.packet.draws.filter(({ matrices }) => matrices).length, 1);
	assert.equal(picture.ran, 1);
});

test('an OBJ is written in the unit and with the axis up that are asked for, and read back stands as it did', () => {
	const page = open();
	const document = generator([['box', 'post', { size: [0.4, 3, 0.2] }]]);
	page.evaluate(document, 'post');
	for (const [unit, up, size] of [
		['m', 'y', 1],
		['cm', 'y', 100],
		['mm', 'z', 1000]
	] as const) {
		const options = {
			format: 'obj',
			flatten: false,
			attributes: [] as { name: string; as: string }[],
			name: 'post',
			unit,
			up
		} as const;
		const [answer] = page.ask({
			kind: 'export',
			ask: 9,
			node: idOf(document, 'post'),
			options,
			details: false,
			weigh: false
		});
		const { files } = answer as Extract<Answer, { kind: 'exported' }>;
		const bounds = boundsOf(readMesh({ name: 'post.obj', bytes: files[0].bytes }).geometry)!;
		const extent = (k: number) => (bounds.high[k] - bounds.low[k]) / size;
		const heights = up === 'y' ? [extent(1), extent(2)] : [extent(2), extent(1)];
		assert.ok(Math.abs(heights[0] - 3) < 1e-4 && Math.abs(heights[1] - 0.2) < 1e-4, `${unit} ${up}`);
	}
	const [weighed] = page.ask({
		kind: 'export',
		ask: 10,
		node: idOf(document, 'post'),
		options: { format: 'glb', flatten: false, attributes: [], name: 'post' },
		details: true,
		weigh: true
	});
	const { files, weight } = weighed as Extract<Answer, { kind: 'exported' }>;
	assert.ok(files.length === 0 && weight > 3000, `three levels weigh ${weight} bytes, and none is sent`);
});

test('triangles are told with those of every copy, at whatever depth; hidden copies are told apart', () => {
	const shows = new Shows();
	const document = generator([
		['box', 'post', {}],
		['row-of-points', 'row', { count: 5 }],
		['place-copies', 'posts', {}, { points: 'row.points', source: 'post.mesh' }],
		['row-of-points', 'rows', { count: 3, direction: [0, 0, 1] }],
		['place-copies', 'nested', {}, { points: 'rows.points', source: 'posts.copies' }],
		['hide-where', 'some', { weight: { formula: 'index < 2', streams: [] } }, { copies: 'posts.copies' }],
		['merge', 'all', {}, { geometry: ['nested.copies', 'post.mesh'] }]
	]);
	const show = (short: string) => shows.show(document, { shown: [idOf(document, short)] });
	assert.equal(show('all').picture.packet.triangles, 12 * (15 + 1));
	const { picture } = show('some');
	assert.equal(picture.packet.triangles, 12 * 3);
	const report = picture.reports.find(({ id }) => id === idOf(document, 'some'))!;
	assert.deepEqual([report.counts!.copies, report.hidden], [5, 2]);
	// Ghosts are seen, but not made.
	const behind = shows.show(document, { shown: [idOf(document, 'post')], ghosts: [idOf(document, 'posts')] });
	assert.equal(behind.picture.packet.triangles, 12);
});

test('a node that gives several single values tells each of them', () => {
	const document = generator([
		['box', 'post', { size: [1, 2, 3] }],
		['measure', 'told', {}, { geometry: 'post.mesh' }]
	]);
	const { reports } = new Shows().show(document, { shown: [idOf(document, 'post')] });
	const { values } = reports!.reports.find(({ id }) => id === idOf(document, 'told'))!;
	const by = new Map(values);
	assert.equal(by.get('volume'), '6');
	assert.equal(by.get('size'), '(1, 2, 3)');
	assert.equal(by.get('faces'), '6');
	const { reports: others } = new Shows().show(document, {});
	assert.equal(others!.reports.find(({ id }) => id === idOf(document, 'post'))!.values, undefined);
});
