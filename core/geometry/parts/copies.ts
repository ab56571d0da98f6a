/** Copies of other geometries, each with its place. */
import { allocate, pollAt } from '../allocate.ts';
import type { Geometry, Instances } from '../geometry.ts';
import type { Affine } from '../matrix.ts';
import { identity, product } from '../matrix.ts';
import { placeTable } from '../place.ts';
import { PLACE_COLUMNS, Places, PlacesMade, shears, withAxes } from '../places.ts';
import { includeCopies } from '../reach.ts';
import type { Salted } from '../stack.ts';
import { stackTables } from '../stack.ts';
import { EMPTY_TABLE, column, gatherTable, withColumns } from '../table.ts';
import type { PartKind } from './part.ts';

export const copiesPart: PartKind<Instances> = {
	called: 'copies',
	tables: {
		copy: {
			name: 'copies',
			read: ({ copies }) => copies,
			write: (own, copies) => ({ ...own, copies }),
			keep: ({ copies, sources }, rows) => ({ copies: gatherTable(copies, rows), sources })
		}
	},
	placed: 'copy',
	each: 'copy',
	shape: () => null,
	arrays: () => [],
	sources: ({ sources }) => sources,
	include: includeCopies,
	merge: (all, tables) => mergeCopies(all, tables('copy')),
	transform: transformCopies,
	// What they show is written out instead.
	tile: () => null,
	counts: ({ copies }) => ({ copies: copies.count }),
	empty: () => {
		const { position, orientation, scale } = new PlacesMade(0).columns();
		return {
			copies: withColumns(EMPTY_TABLE, {
				position,
				orientation,
				scale,
				source: column('int', 'id', new Int32Array(0))
			}),
			sources: []
		};
	}
};

function mergeCopies(all: readonly Instances[], tables: Salted[]): Instances {
	const sources: Geometry[] = [];
	const isSheared = all.some(({ copies }) => shears(copies));
	const stacked = stackTables(
		tables.map(({ table, salt }) => ({ table: isSheared ? withAxes(table) : table, salt }))
	);
	const source = allocate('int', stacked.count);
	const known = new Map<Geometry, number>();
	let row = 0;
	for (const part of all) {
		const places = part.sources.map((g) => {
			if (!known.has(g)) known.set(g, sources.push(g) - 1);
			return known.get(g)!;
		});
		const own = part.copies.columns.get('source')!.data;
		for (let i = 0; i < own.length; i++) {
			pollAt(i);
			source[row + i] = places[own[i]];
		}
		row += own.length;
	}
	return { copies: withColumns(stacked, { source: column('int', 'id', source) }), sources };
}

/** Copies moved, their other columns by role. */
function transformCopies({ copies, sources }: Instances, m: Affine): Instances {
	const places = new Places(copies),
		made = new PlacesMade(copies.count);
	const own = identity(),
		whole = identity();
	for (let i = 0; i < copies.count; i++) {
		pollAt(i);
		made.set(i, product(m, places.affine(i, own), whole));
	}
	const others = new Map(copies.columns);
	for (const name of PLACE_COLUMNS) others.delete(name);
	return {
		copies: withColumns(placeTable({ ...copies, columns: others }, m), made.columns()),
		sources
	};
}
