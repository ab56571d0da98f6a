/** Copies followed down to what is placed: serves the view, the exports and estimates. */
import { NodeError, formatCount } from '../math/index.ts';
import { allocate, scratch, pollAt } from './allocate.ts';
import type { Geometry } from './geometry.ts';
import type { Salted } from './stack.ts';
import { stackTables } from './stack.ts';
import type { Column } from './table.ts';
import { identity, product } from './matrix.ts';
import { hasOwnElements } from './parts/index.ts';
import { Places } from './places.ts';
import type { Affine } from './matrix.ts';

/** A geometry without its copies, and every place where it stands. */
export interface Placed {
	geometry: Geometry;
	/** 4 × 4 by columns, as glTF and the graphics card take them, so that the view needs no copy. Null: once, where it is. */
	matrices: Float32Array | null;
	count: number;
	/** Row of the outermost copy for each place; null for what is not copied. */
	origins: Uint32Array | null;
	/** The copies that each place lies in, the outermost first, its row there the origin. None for what is not copied. */
	levels: readonly Level[];
}

/** Copies in which places lie, each in one row of one of them. */
export interface Level {
	/** What has these copies: several where they differ from one outer copy to the next. */
	readonly of: readonly Geometry[];
	/** For each place which of them; null where there is but one. */
	readonly which: Uint32Array | null;
	readonly rows: Uint32Array;
}

/**
 * A column of the copies that places lie in, with the row of it for each place: of copies in copies the innermost that have it,
 * and what stands where nothing is written for places of which none has it. Null where none has it at all.
 */
export function ofCopies(
	{ levels, count }: Placed,
	columnOf: (geometry: Geometry) => Column | null | undefined
): { column: Column; rows: Uint32Array } | null {
	const bearing = new Map<Geometry, number>();
	const tables: Salted[] = [];
	let below = 0;
	for (const geometry of new Set(levels.flatMap(({ of }) => of))) {
		const column = columnOf(geometry);
		if (!column) continue;
		const own = geometry.copies!.copies.count;
		tables.push({ table: { count: own, columns: new Map([['it', column]]), ids: null }, salt: null });
		bearing.set(geometry, below);
		below += own;
	}
	if (!tables.length) return null;
	if (levels.every(({ which }) => !which)) {
		const level = levels.findLast(({ of }) => bearing.has(of[0]))!;
		return { column: columnOf(level.of[0])!, rows: level.rows };
	}
	// Another table below them, for what has nothing of it.
	tables.push({ table: { count: 1, columns: new Map(), ids: null }, salt: null });
	const column = stackTables(tables).columns.get('it')!;
	const rows = allocate('index', count);
	for (let i = 0; i < count; i++) {
		pollAt(i);
		rows[i] = below;
		for (let d = levels.length - 1; d >= 0; d--) {
			const { of, which, rows: own } = levels[d];
			const start = bearing.get(of[which ? which[i] : 0]);
			if (start === undefined) continue;
			rows[i] = start + own[i];
			break;
		}
	}
	return { column, rows };
}

/** How deep copies may lie within copies. */
const DEEPEST = 16;

/** How many placings `expand` would make. */
export function countPlacings(geometry: Geometry, depth = 0): number {
	let count = hasOwnElements(geometry) ? 1 : 0;
	if (!geometry.copies || depth > DEEPEST) return count;
	const { copies, sources } = geometry.copies;
	const each = sources.map((source) => countPlacings(source, depth + 1));
	const source = copies.columns.get('source')!.data;
	for (let i = 0; i < copies.count; i++) {
		pollAt(i);
		count += each[source[i]] ?? 0;
	}
	return count;
}

/**
 * Lists every distinct geometry with all its places. Copies that are not shown are left out.
 * @param budget most places; beyond it a NodeError.
 */
export function expand(geometry: Geometry, budget = 4e6): Placed[] {
	const places = countPlacings(geometry);
	if (places > budget)
		throw new NodeError(
			`This places ${formatCount(places)} objects; ${formatCount(budget)} fit. Lower the number of copies.`
		);
	const placed: Placed[] = [];
	if (hasOwnElements(geometry))
		placed.push({
			geometry: { ...geometry, copies: null },
			matrices: null,
			count: 1,
			origins: null,
			levels: []
		});
	if (!geometry.copies?.copies.count) return placed;
	// One level is a million copies' case: counted and written straight, without a walk's calls.
	const flat = geometry.copies.sources.every((source) => !source.copies);
	const slots = flat ? flatPlaces(geometry) : deepPlaces(geometry);
	for (const { leaf, ...slot } of slots)
		placed.push({
			geometry: leaf.copies ? bareOf(leaf) : leaf,
			matrices: slot.matrices,
			count: slot.count,
			origins: slot.levels[0].rows,
			levels: slot.levels.map(({ of, which, rows }) => ({ of, which, rows }))
		});
	return placed;
}

/** The places of one geometry at one depth. */
interface Slot {
	leaf: Geometry;
	matrices: Float32Array;
	levels: { of: Geometry[]; places: Map<Geometry, number>; which: Uint32Array | null; rows: Uint32Array }[];
	count: number;
	filled: number;
}

const slotFor = (leaf: Geometry, depth: number, count: number): Slot => ({
	leaf,
	matrices: allocate('float', 16 * count),
	levels: Array.from({ length: depth }, () => ({
		of: [],
		places: new Map(),
		which: null,
		rows: allocate('index', count)
	})),
	count,
	filled: 0
});

/** Says of the next place in which row of a geometry's copies it lies, at a depth. */
function lieIn({ levels, count, filled }: Slot, depth: number, geometry: Geometry, row: number): void {
	const level = levels[depth];
	let place = level.places.get(geometry);
	if (place === undefined) {
		level.places.set(geometry, (place = level.of.push(geometry) - 1));
		if (place === 1) level.which = allocate('index', count);
	}
	if (level.which) level.which[filled] = place;
	level.rows[filled] = row;
}

function flatPlaces(geometry: Geometry): Slot[] {
	const { copies, sources } = geometry.copies!;
	const source = copies.columns.get('source')!.data;
	const shown = copies.columns.get('shown')?.data;
	const perSource = scratch('index', sources.length);
	for (let i = 0; i < copies.count; i++) {
		pollAt(i);
		if (!shown || shown[i]) perSource[source[i]]++;
	}
	const counts = new Map<Geometry, number>();
	sources.forEach((leaf, k) => {
		if (perSource[k] && hasOwnElements(leaf)) counts.set(leaf, (counts.get(leaf) ?? 0) + perSource[k]);
	});
	const slots = [...counts].map(([leaf, count]) => slotFor(leaf, 1, count));
	for (const slot of slots)
		for (let i = 0; i < copies.count; i++) {
			pollAt(i);
			if (sources[source[i]] !== slot.leaf || (shown && !shown[i])) continue;
			lieIn(slot, 0, geometry, i);
			slot.filled++;
		}
	const places = new Places(copies);
	for (const { matrices, levels } of slots) places.matrices(levels[0].rows, matrices);
	return slots;
}

/** Copies on the way down to a place, and the row of each. */
type Way = { geometry: Geometry; row: number }[];

function deepPlaces(geometry: Geometry): Slot[] {
	const counts = new Map<Geometry, number[]>();
	walk(geometry, identity(), [], (leaf, { length }) => {
		let own = counts.get(leaf);
		if (!own) counts.set(leaf, (own = []));
		own[length] = (own[length] ?? 0) + 1;
	});
	const slots = new Map(
		[...counts].map(([leaf, own]) => [
			leaf,
			own.map((count, depth) => (count ? slotFor(leaf, depth, count) : null))
		])
	);
	walk(geometry, identity(), [], (leaf, way, m) => {
		const slot = slots.get(leaf)![way.length]!;
		for (let c = 0; c < 4; c++)
			for (let k = 0; k < 3; k++) slot.matrices[16 * slot.filled + 4 * c + k] = m[3 * c + k];
		slot.matrices[16 * slot.filled + 15] = 1;
		for (let depth = 0; depth < way.length; depth++) lieIn(slot, depth, way[depth].geometry, way[depth].row);
		slot.filled++;
	});
	return [...slots.values()].flatMap((own) => own.flatMap((slot) => slot ?? []));
}

const bare = new WeakMap<Geometry, Geometry>();
function bareOf(geometry: Geometry): Geometry {
	let found = bare.get(geometry);
	if (!found) bare.set(geometry, (found = { ...geometry, copies: null }));
	return found;
}

function walk(
	geometry: Geometry,
	outer: Affine,
	way: Way,
	visit: (leaf: Geometry, way: Way, m: Affine) => void
): void {
	const { copies, sources } = geometry.copies!;
	if (way.length > DEEPEST)
		throw new NodeError(
			`Copies lie within copies more than ${DEEPEST} deep. Make the inner ones one mesh with “Copies to mesh”.`
		);
	const source = copies.columns.get('source')!.data;
	const shown = copies.columns.get('shown')?.data;
	const places = new Places(copies);
	const own = identity();
	const hasOwn = new Map(sources.map((leaf) => [leaf, hasOwnElements(leaf)]));
	const here = { geometry, row: 0 };
	way.push(here);
	for (let i = 0; i < copies.count; i++) {
		pollAt(i);
		const leaf = sources[source[i]];
		if (!leaf || (shown && !shown[i])) continue;
		const m = product(outer, places.affine(i, own));
		here.row = i;
		if (hasOwn.get(leaf)) visit(leaf, way, m);
		if (leaf.copies) walk(leaf, m, way, visit);
	}
	way.pop();
}
