/** A session looks into a body: its reports, its pictures, and what is asked of its nodes, are those of one pass. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { withBodies } from '../testing/index.ts';
import type { Look } from './look.ts';
import type { Answer } from './messages.ts';
import { Session } from './session.ts';

const plain = (formula: string) => ({ formula, streams: [] });
const document = withBodies(
	[
		['repeat', 'again', { body: 'part', passes: 5 }],
		['transform', 'moved', { move: [0, 1, 0] }, { geometry: 'again.all' }]
	],
	{
		part: [
			['box', 'piece', { size: [plain('pass + 1'), 1, 1] }],
			['output', 'end', { name: 'all', carries: 'geometry', role: 'gathered' }, { value: 'piece.mesh' }]
		]
	}
);

function evaluated(look: Partial<Look>) {
	const answers: Answer[] = [];
	const session = new Session({ say: (answer) => answers.push(answer) });
	session.take({ kind: 'start', stop: null, name: 'test' });
	session.take({
		kind: 'evaluate',
		revision: 1,
		patch: { whole: document },
		look: { shown: ['moved'], ...look }
	});
	const find = <K extends Answer['kind']>(kind: K) =>
		answers.find((one) => one.kind === kind) as Extract<Answer, { kind: K }>;
	return { session, answers, picture: find('picture'), reports: find('reports') };
}
const width = ({ bounds }: { bounds: { low: readonly number[]; high: readonly number[] } | null }) =>
	bounds!.high[0] - bounds!.low[0];

test('while a body is edited its nodes are reported as in one pass; the View shows the whole, or the body', () => {
	const whole = evaluated({ into: [{ node: 'again', place: 3 }] });
	assert.deepEqual(whole.reports.inside, { place: 3, places: 5 });
	assert.deepEqual(whole.reports.reports.map(({ id }) => id).sort(), ['end', 'piece']);
	assert.deepEqual(whole.reports.viewed!.map(({ id }) => id).sort(), ['again', 'moved']);
	assert.equal(width(whole.picture), 5);
	const inside = evaluated({ into: [{ node: 'again', place: 3 }], inside: true, shown: ['end'] });
	assert.equal(inside.reports.viewed, null);
	assert.equal(width(inside.picture), 4);
});

test('a formula is tried in the pass that is looked into, and tables are those of its nodes', () => {
	const { session, answers } = evaluated({
		into: [{ node: 'again', place: 2 }],
		inside: true,
		shown: ['end']
	});
	const text = 'pass * 10';
	session.take({
		kind: 'look',
		ask: 1,
		about: { node: 'piece', input: 'size', text, setting: [plain(text), 1, 1] }
	});
	const looked = answers.find((one) => one.kind === 'looked');
	assert.ok(looked?.kind === 'looked', JSON.stringify(answers.at(-1)));
	assert.equal(looked.look.first[0], 20);
	session.take({
		kind: 'table',
		ask: 2,
		about: { node: 'piece', table: null, sort: null, filter: '', from: 0, count: 4 }
	});
	const table = answers.find((one) => one.kind === 'table');
	assert.ok(table?.kind === 'table', 'there is a table');
	assert.equal(table.window.matching, 6);
});

test('a way that leads nowhere is quiet: nothing is reported of it', () => {
	const lost = evaluated({ into: [{ node: 'gone', place: 0 }] });
	assert.equal(lost.reports.inside, null);
	assert.deepEqual(lost.reports.reports, []);
});
