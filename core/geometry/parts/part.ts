/** What a part of a geometry says about itself; everything that goes over the parts asks here. */
import type { Relation } from '../blend.ts';
import type { Counts, Geometry, Kind } from '../geometry.ts';
import type { Affine } from '../matrix.ts';
import type { Box, SourceBoxes } from '../reach.ts';
import type { Salted } from '../stack.ts';
import type { Table } from '../table.ts';
import type { Tiling } from '../tile.ts';

/** Where the elements of one kind are described. */
export interface ElementTable<Own> {
	/** What a digest calls it. */
	readonly name: string;
	/** Null where nobody has written to it. */
	read(own: Own): Table | null;
	write(own: Own, table: Table): Own;
	/** Stands for a table that nobody has written to. */
	implied?(own: Own): Table;
	/** The part with some of these elements only, in the order given. */
	keep?(own: Own, rows: Uint32Array): Own;
}

export interface PartKind<Own> {
	/** What messages call it. */
	readonly called: string;
	/** In the order in which a digest counts them. */
	readonly tables: Partial<Readonly<Record<Kind, ElementTable<Own>>>>;
	/** The kind of element whose positions say where the part is; null where it has none, and is one whole. */
	readonly placed: Kind | null;
	/** The kind of element that a repeat takes one by one, and that knows which pass made it; null where there is none. */
	readonly each: Kind | null;
	/** The object that says how its elements hang together: derived relations are kept with it. Null where nothing does. */
	shape(own: Own): object | null;
	/** The arrays of the shape, in the order in which a digest counts them. */
	arrays(own: Own): readonly (ArrayLike<number> & ArrayBufferView)[];
	/** Geometries that it shows elsewhere. */
	sources?(own: Own): readonly Geometry[];
	/** Which elements of one kind make up those of another. */
	relate?(own: Own, from: Kind, to: Kind): Relation;
	/** Widens a box by its points, moved; `place` is null for where they are. */
	include(own: Own, place: Affine | null, box: Box, inside: SourceBoxes): void;
	/** Several as one. `materials` says for each where its materials stand in the list of all. */
	merge(
		all: readonly Own[],
		tables: (kind: Kind) => Salted[],
		materials: readonly (readonly number[])[]
	): Own;
	/** All of it through a map, by role. */
	transform(own: Own, m: Affine): Own;
	/** All of it written out at each of many places; null where what it shows is written out instead. */
	tile(own: Own, places: Tiling): Own | null;
	counts(own: Own): Partial<Counts>;
	/** One without elements. */
	empty(): Own;
}
