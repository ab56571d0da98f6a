/** Curves: points, and which of them follow one another. */
import { allocate, pollAt, scratch } from '../allocate.ts';
import type { Curves } from '../geometry.ts';
import { curveCount, makeCurves } from '../geometry.ts';
import { counting } from '../grouped.ts';
import { placeTable } from '../place.ts';
import { includePoints } from '../reach.ts';
import { stackTables } from '../stack.ts';
import { gatherTable } from '../table.ts';
import { tile, tileStarts } from '../tile.ts';
import type { PartKind } from './part.ts';

export const curvesPart: PartKind<Curves> = {
	called: 'curves',
	tables: {
		point: {
			name: 'curve points',
			read: ({ points }) => points,
			write: (curves, points) => ({ ...curves, points })
		},
		curve: {
			name: 'curves',
			read: ({ curves }) => curves,
			write: (own, curves) => ({ ...own, curves }),
			keep: keepCurves
		}
	},
	placed: 'point',
	each: 'curve',
	shape: ({ starts }) => starts,
	arrays: ({ starts }) => [starts],
	relate({ starts }, from) {
		const count = starts[starts.length - 1];
		if (from === 'point') return { starts, items: counting(count) };
		const items = scratch('index', count);
		for (let i = 0; i + 1 < starts.length; i++) {
			pollAt(i);
			items.fill(i, starts[i], starts[i + 1]);
		}
		return { starts: counting(count + 1), items };
	},
	include: includePoints,
	merge: (all, tables) => ({
		points: stackTables(tables('point')),
		curves: stackTables(tables('curve')),
		starts: mergeStarts(all)
	}),
	transform: (own, m) => ({ ...own, points: placeTable(own.points, m) }),
	tile: ({ points, curves, starts }, places) => ({
		points: tile(points, places, true),
		curves: tile(curves, places, false),
		starts: tileStarts(starts, places.count)
	}),
	counts: (own) => ({ points: own.points.count, curves: curveCount(own) }),
	empty: () => makeCurves(new Float32Array(0), Uint32Array.of(0), new Uint8Array(0))
};

function mergeStarts(all: readonly Curves[]): Uint32Array {
	const starts = allocate('index', 1 + all.reduce((sum, curves) => sum + curveCount(curves), 0));
	let c = 0;
	for (const curves of all) {
		const base = starts[c];
		for (let i = 1; i < curves.starts.length; i++) {
			pollAt(i);
			starts[++c] = base + curves.starts[i];
		}
	}
	return starts;
}

function keepCurves({ points, curves, starts }: Curves, rows: Uint32Array): Curves {
	const newStarts = allocate('index', rows.length + 1);
	for (let c = 0; c < rows.length; c++) {
		pollAt(c);
		newStarts[c + 1] = newStarts[c] + starts[rows[c] + 1] - starts[rows[c]];
	}
	const kept = scratch('index', newStarts[rows.length]);
	for (let c = 0; c < rows.length; c++) {
		pollAt(c);
		for (let i = starts[rows[c]], o = newStarts[c]; i < starts[rows[c] + 1]; i++, o++) kept[o] = i;
	}
	return { points: gatherTable(points, kept), curves: gatherTable(curves, rows), starts: newStarts };
}
