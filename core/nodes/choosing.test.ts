/** Choosing one of several, and mixing two: what is not chosen is not worked out. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { Evaluator } from '../engine/index.ts';
import { evaluateAll, generator } from '../testing/index.ts';
import type { Row } from '../testing/index.ts';

const SHAPES: Row[] = [
	['box', 'crate', {}],
	['sphere', 'buoy', {}],
	['cylinder', 'post', {}]
];
const WIRES = { geometries: ['crate.mesh', 'buoy.mesh', 'post.mesh'] };
const FACES = [6, 0, 0];

/** What was evaluated for one node, and what came of it. */
function chosen(
	settings: Record<string, unknown>,
	more: Row[] = [],
	wires: Record<string, string | string[]> = {}
) {
	const document = generator([...SHAPES, ...more, ['choose-input', 'it', settings, { ...WIRES, ...wires }]]);
	const idOf = (short: string) => document.graphs.main.nodes.find((node) => node.short === short)!.id;
	const { results, ran } = new Evaluator().evaluate(document, [idOf('it')]);
	const shorts = new Map(document.graphs.main.nodes.map(({ id, short }) => [id, short]));
	return { result: results.get(idOf('it'))!, ran: ran.map((id) => shorts.get(id)), results };
}

test('only what is chosen is evaluated, by number around and around', () => {
	const names = ['crate', 'buoy', 'post'];
	fc.assert(
		fc.property(fc.integer({ min: -20, max: 20 }), (number) => {
			const { result, ran } = chosen({ number });
			const wanted = ((number % 3) + 3) % 3;
			assert.deepEqual(ran, [names[wanted], 'it']);
			assert.equal(result.state, 'fresh');
			assert.equal(result.counts!.faces > 0, true);
			if (FACES[wanted]) assert.equal(result.counts!.faces, FACES[wanted]);
		})
	);
});

test('by a wire, by a yes or no and by a name; one that is not there is said', () => {
	const wired = chosen({}, [['number', 'which', { value: 2 }]], { number: 'which.value' });
	assert.deepEqual(wired.ran, ['which', 'post', 'it']);
	const yes = chosen({}, [['yes-or-no', 'isBuoy', { value: true }]], { number: 'isBuoy.value' });
	assert.deepEqual(yes.ran, ['isBuoy', 'buoy', 'it']);
	assert.deepEqual(chosen({ by: 'name', names: 'low, mid, high', name: 'high' }).ran, ['post', 'it']);
	assert.match(
		chosen({ by: 'name', names: 'low, mid', name: 'spring' }).result.error!.message,
		/There is no “spring” among “Names”: low, mid/
	);
	assert.match(
		chosen({ number: { formula: 'index', streams: [] } }).result.error!.message,
		/differs from element to element/
	);
});

test('a failure that is not chosen does no harm, and a change of the choice runs what is needed now', () => {
	const rows: Row[] = [
		['box', 'crate', {}],
		['transform', 'broken', {}],
		['choose-input', 'it', { number: 0 }, { geometries: ['crate.mesh', 'broken.geometry'] }]
	];
	assert.equal(evaluateAll(generator(rows)).error('it'), null);
	const other = [
		...rows.slice(0, 2),
		['choose-input', 'it', { number: 1 }, { geometries: ['crate.mesh', 'broken.geometry'] }] as Row
	];
	assert.match(evaluateAll(generator(other)).error('it')!, /Waits for broken/);
});

test('each element chooses its value by its own number', () => {
	const run = evaluateAll(
		generator([
			['row-of-points', 'row', { count: 9 }],
			['number', 'ten', { value: 10 }],
			['formula', 'own', { formula: 'index' }],
			['number', 'twenty', { value: 20 }],
			[
				'choose-input',
				'it',
				{ of: 'value', number: { formula: 'index % 3', streams: [] } },
				{ values: ['ten.value', 'own.value', 'twenty.value'] }
			],
			['write-attribute', 'marked', { name: 'mark' }, { geometry: 'row.points', value: 'it.value' }]
		])
	);
	assert.deepEqual(
		[...run.geometry('marked').points!.points.columns.get('mark')!.data],
		[10, 1, 20, 10, 4, 20, 10, 7, 20]
	);
});

test('a mixture lies between, at its ends it is what it is made of', () => {
	fc.assert(
		fc.property(
			fc.integer({ min: -9, max: 9 }),
			fc.integer({ min: -9, max: 9 }),
			fc.integer({ min: -4, max: 12 }),
			(first, second, eighths) => {
				const share = eighths / 8;
				const run = evaluateAll(
					generator([
						['row-of-points', 'row', { count: 1 }],
						['mix', 'it', { first, second, share }],
						['write-attribute', 'marked', { name: 'mark' }, { geometry: 'row.points', value: 'it.value' }]
					])
				);
				const within = Math.max(0, Math.min(1, share));
				const [mark] = run.geometry('marked').points!.points.columns.get('mark')!.data;
				assert.ok(Math.abs(mark - (first + (second - first) * within)) < 1e-5);
			}
		),
		{ numRuns: 40 }
	);
});
