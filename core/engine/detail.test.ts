import assert from 'node:assert/strict';
import test from 'node:test';
import fc from 'fast-check';
import { digestOf } from '../geometry/index.ts';
import {
	Evaluator,
	atDetail,
	asksForDetail,
	draftsWith,
	hasDrafts,
	isGeometry,
	mayDraft,
	withDrafts
} from './index.ts';
import type { GeneratorDocument } from './index.ts';
import { inputOf } from './connect.ts';
import { generator } from '../testing/index.ts';

const mast = (drafts: Record<string, number> = {}): GeneratorDocument => {
	const made = generator([
		['level-of-detail', 'detail', {}],
		['cylinder', 'mast', { segments: { formula: '32 / 2 ^ detail.level', streams: [] } }],
		['sphere', 'knob', { segments: 24, rows: 12 }],
		['merge', 'both', {}, { geometry: ['mast.mesh', 'knob.mesh'] }]
	]);
	const { main } = made.graphs;
	const nodes = main.nodes.map((node) => (node.short === 'knob' ? { ...node, drafts } : node));
	return { ...made, graphs: { ...made.graphs, main: { ...main, nodes } } };
};
const idOf = (document: GeneratorDocument, short: string): string =>
	document.graphs.main.nodes.find((node) => node.short === short)!.id;
const made = (document: GeneratorDocument, short: string, by = new Evaluator()) => {
	const { results, ran } = by.evaluate(document, [idOf(document, short)]);
	const result = results.get(idOf(document, short))!;
	return { geometry: [...result.outputs.values()].find(isGeometry)!, ran, error: result.error?.message };
};
const digest = (document: GeneratorDocument, short: string): string =>
	digestOf(made(document, short).geometry);

test('at each level of detail counts hang from it, and the generator itself stays as it is', () => {
	const document = mast();
	assert.equal(asksForDetail(document), true);
	const faces = ([0, 1, 2] as const).map(
		(level) => made(atDetail(document, level), 'mast').geometry.mesh!.faces.count
	);
	// Sides and, at each end, one face.
	assert.deepEqual(
		faces.map((count) => count - faces[2]),
		[24, 8, 0]
	);
	assert.equal(digest(atDetail(document, 0), 'both'), digest(document, 'both'));
	assert.equal(asksForDetail(generator([['box', 'box', {}]])), false);
});

test('draft values stand in for settings only where they are asked for, and not for the one that is dragged', () => {
	const document = mast({ segments: 6, rows: 3 });
	const rest = mast();
	assert.equal(digest(document, 'both'), digest(rest, 'both'), 'a draft is in no hash');
	const points = (of: GeneratorDocument) => made(of, 'knob').geometry.mesh!.points.count;
	const [all, drafted] = [points(document), points(withDrafts(document))];
	assert.ok(drafted < all / 8, `${drafted} of ${all}`);
	const dragged = points(withDrafts(document, [idOf(document, 'knob'), 'segments']));
	assert.ok(dragged > drafted && dragged < all, 'its own draft value does not hide what is dragged');
});

test('equal nodes give equal drafts: only what is drafted is evaluated, and at rest nothing is', () => {
	const document = mast({ segments: 6 });
	const by = new Evaluator();
	made(document, 'both', by);
	const first = made(withDrafts(document), 'both', by);
	assert.deepEqual(first.ran, [idOf(document, 'knob'), idOf(document, 'both')]);
	assert.deepEqual(made(withDrafts(document), 'both', by).ran, []);
	assert.deepEqual(made(document, 'both', by).ran, []);
	assert.equal(withDrafts(document).graphs.main, withDrafts(document).graphs.main);
});

test('whatever stands among the drafts, only counts of the node take it', () => {
	const names = fc.constantFrom('segments', 'rows', 'radius', 'nothing');
	fc.assert(
		fc.property(fc.dictionary(names, fc.integer({ min: 1, max: 60 })), (drafts) => {
			const document = mast(drafts);
			const node = withDrafts(document).graphs.main.nodes.find(({ short }) => short === 'knob')!;
			for (const name of ['segments', 'rows', 'radius']) {
				const counts = mayDraft(inputOf(node, name)!);
				const before = document.graphs.main.nodes.find(({ short }) => short === 'knob')!.settings[name];
				const least = { segments: 3, rows: 2 }[name] ?? 0;
				const stands = counts && name in drafts ? Math.max(least, drafts[name]) : before;
				assert.deepEqual(node.settings[name], stands, name);
			}
			assert.equal(Object.hasOwn(node.settings, 'nothing'), false);
		})
	);
});

test('a draft value is set and taken away again without a trace', () => {
	const node = mast().graphs.main.nodes[2];
	const set = draftsWith(node, 'segments', 5);
	assert.deepEqual(set, { segments: 5 });
	assert.equal(draftsWith({ ...node, drafts: set }, 'segments', null), undefined);
	assert.equal(hasDrafts(mast()), false);
	assert.equal(hasDrafts(mast({ rows: 4 })), true);
});
