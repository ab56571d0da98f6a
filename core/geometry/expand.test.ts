/** Copies in copies, followed down: every place once, and what the copies have that it lies in. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import type { Geometry, Placed } from './index.ts';
import {
	Ledger,
	column,
	derive,
	expand,
	geometryOf,
	holdGeometry,
	makePoints,
	ofCopies,
	placeColumns,
	withColumns,
	EMPTY_TABLE
} from './index.ts';

const leaves = [0, 1, 2].map((x) => geometryOf({ points: makePoints(Float32Array.of(x, 0, 0)) }));

/** Copies along x with ids of their own, some of them with a column `mark`. */
interface Tree {
	marked: boolean;
	rows: { shift: number; source: Tree | number }[];
}
const { tree } = fc.letrec<{ tree: Tree }>((tie) => ({
	tree: fc.record({
		marked: fc.boolean(),
		rows: fc.array(
			fc.record({
				shift: fc.integer({ min: 0, max: 9 }),
				source: fc.oneof({ depthSize: 'small', maxDepth: 2 }, fc.nat(2), tie('tree')) as fc.Arbitrary<
					Tree | number
				>
			}),
			{ minLength: 1, maxLength: 4 }
		)
	})
}));

let marks = 0;
function geometryFrom({ marked, rows }: Tree): { geometry: Geometry; mark: number } {
	const sources = rows.map(({ source }) =>
		typeof source === 'number' ? leaves[source] : geometryFrom(source).geometry
	);
	const mark = (marks += 100);
	const n = rows.length;
	const table = withColumns(
		{ ...EMPTY_TABLE, count: n },
		{
			...placeColumns({
				position: Float32Array.from(rows.flatMap(({ shift }) => [shift, 0, 0])),
				orientation: Float32Array.from(rows.flatMap(() => [0, 0, 0, 1])),
				scale: new Float32Array(3 * n).fill(1)
			}),
			source: column(
				'int',
				'id',
				Int32Array.from(rows, (_, i) => i)
			),
			...(marked && {
				mark: column(
					'float',
					'plain',
					Float32Array.from(rows, (_, i) => mark + i)
				)
			})
		}
	);
	return { geometry: geometryOf({ copies: { copies: table, sources } }), mark };
}

/** Every place, worked out one by one: which leaf, how deep, where, its outermost row and its innermost mark. */
function* placesIn(
	geometry: Geometry,
	depth = 1,
	x = 0,
	origin = -1,
	mark = 0
): Generator<readonly [leaf: number, depth: number, x: number, origin: number, mark: number]> {
	const { copies, sources } = geometry.copies!;
	const position = copies.columns.get('position')!.data;
	for (let i = 0; i < copies.count; i++) {
		const at = x + position[3 * i];
		const own = copies.columns.get('mark')?.data[i] ?? mark;
		const from = depth === 1 ? i : origin;
		const leaf = leaves.indexOf(sources[i]);
		if (leaf >= 0) yield [leaf, depth, at, from, own];
		else yield* placesIn(sources[i], depth + 1, at, from, own);
	}
}
const sorted = (rows: readonly (readonly number[])[]) => rows.map((row) => row.join(' ')).sort();

test('every place is there once, with the row that it lies in and the innermost mark; places of one leaf at one depth are one draw', () => {
	fc.assert(
		fc.property(tree, (given) => {
			const { geometry } = geometryFrom(given);
			new Ledger().work(() => {
				const groups = expand(geometry);
				const found = groups.flatMap((placed) => {
					const own = ofCopies(placed, ({ copies }) => copies!.copies.columns.get('mark'));
					return Array.from({ length: placed.count }, (_, i) => [
						leaves.indexOf(placed.geometry),
						placed.levels.length,
						placed.matrices![16 * i + 12],
						placed.origins![i],
						own ? own.column.data[own.rows[i]] : 0
					]);
				});
				const wanted = [...placesIn(geometry)];
				assert.deepEqual(sorted(found), sorted(wanted));
				const kinds = new Set(wanted.map(([leaf, depth]) => `${leaf} ${depth}`));
				assert.equal(groups.length, kinds.size);
			});
		})
	);
});

test('what is kept of the places is in the ledger: matrices, the rows of every level, and which copies they are of', () => {
	const inner = (): Tree => ({ marked: true, rows: [0, 1, 2].map((shift) => ({ shift, source: 0 })) });
	const { geometry } = geometryFrom({
		marked: false,
		rows: [1, 2].map((shift) => ({ shift, source: inner() }))
	});
	const ledger = new Ledger();
	holdGeometry(ledger, geometry);
	const before = ledger.held;
	const [placed] = ledger.work(() => derive(geometry, 'places', () => expand(geometry))) as Placed[];
	assert.equal(placed.count, 6);
	assert.ok(placed.levels[1].which);
	assert.equal(ledger.held - before, 6 * (16 * 4 + 2 * 4 + 4));
	ledger.letGo(geometry);
	assert.equal(ledger.held, 0);
});
