/** Copies written out as real points and faces. */
import type { Geometry, NamedRows, Placed } from '../geometry/index.ts';
import {
	PLACE_COLUMNS,
	countsOf,
	expand,
	mergeGeometries,
	ofCopies,
	partsOf,
	pollAt
} from '../geometry/index.ts';

/** Points that `meshOfCopies` would make. */
export function countWrittenOut(geometry: Geometry): number {
	const own = (g: Geometry): number => countsOf(g).points;
	const below = (g: Geometry, depth: number): number => {
		if (!g.copies || depth > 16) return own(g);
		const each = g.copies.sources.map((source) => below(source, depth + 1));
		const source = g.copies.copies.columns.get('source')!.data;
		let sum = own(g);
		for (let i = 0; i < source.length; i++) {
			pollAt(i);
			sum += each[source[i]] ?? 0;
		}
		return sum;
	};
	return below(geometry, 0);
}

/**
 * The geometry without copies: each of them is its own points, faces and curves. Points know their outermost copy in `copy`,
 * and what all that they lie in had: its attributes, the innermost first, but for those that the source has itself.
 */
export function meshOfCopies(geometry: Geometry): Geometry {
	const parts = expand(geometry).map((placed) => (placed.matrices ? writeOut(placed) : placed.geometry));
	if (!parts.length) return { ...geometry, copies: null };
	return mergeGeometries(
		parts,
		parts.map((_, i) => i + 1)
	);
}

/** What the copies that places lie in have beside their places, each name once, of the innermost that have it. */
export function attributesOfCopies(placed: Placed): NamedRows[] {
	const names = new Set(
		placed.levels.flatMap(({ of }) => of.flatMap(({ copies }) => [...copies!.copies.columns.keys()]))
	);
	return [...names]
		.filter((name) => !PLACE_COLUMNS.includes(name) && !OWN.has(name))
		.map((name) => {
			const { column, rows } = ofCopies(placed, ({ copies }) => copies!.copies.columns.get(name))!;
			return [name, column, rows];
		});
}
const OWN: ReadonlySet<string> = new Set(['source', 'shown']);

function writeOut(placed: Placed): Geometry {
	const { geometry, matrices, count, origins } = placed;
	const places = { matrices: matrices!, count, origins: origins!, attributes: attributesOfCopies(placed) };
	const tiled = partsOf(geometry).map(({ name, part, own }) => [name, part.tile(own, places)]);
	return { ...geometry, copies: null, ...Object.fromEntries(tiled) };
}
