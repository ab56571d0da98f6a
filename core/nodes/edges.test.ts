/** Edges of meshes as curves: each edge once, runs between branching points whole, loops closed. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { curveCount, edgesOf, lengthsAlong } from '../geometry/index.ts';
import { evaluateAll, generator } from '../testing/index.ts';

const made = (columns: number, rows: number, which: string, open: number) => {
	const { geometry } = evaluateAll(
		generator([
			['grid', 'grid', { columns, rows, width: columns, depth: rows }],
			[
				'delete-where',
				'left',
				{ weight: { formula: `index % 7 < ${open}`, streams: [] } },
				{ geometry: 'grid.mesh' }
			],
			['edges-to-curves', 'lines', { which }, { mesh: 'left.geometry' }]
		])
	);
	return { mesh: geometry('left').mesh!, curves: geometry('lines').curves! };
};
const size = fc.integer({ min: 1, max: 12 });
const sum = (numbers: ArrayLike<number>): number => Array.from(numbers).reduce((all, x) => all + x, 0);

test('all edges, or those of the border, are walked once: as many metres as there are edges of a metre', () => {
	fc.assert(
		fc.property(size, size, fc.integer({ min: 0, max: 6 }), (columns, rows, open) => {
			for (const which of ['all', 'border']) {
				const { mesh, curves } = made(columns, rows, which, open);
				const { uses } = edgesOf(mesh.topology);
				const wanted = which === 'all' ? uses.length : Array.from(uses).filter((n) => n === 1).length;
				assert.ok(Math.abs(sum(lengthsAlong(curves).lengths) - wanted) < 1e-4 * (wanted + 1));
			}
		}),
		{ numRuns: 60 }
	);
});

test('the border of a whole grid is one closed curve, counter to nothing and without its first point twice', () => {
	fc.assert(
		fc.property(size, size, (columns, rows) => {
			const { curves } = made(columns, rows, 'border', 0);
			assert.equal(curveCount(curves), 1);
			assert.equal(curves.curves.columns.get('closed')!.data[0], 1);
			assert.equal(curves.points.count, 2 * (columns + rows));
		})
	);
});
