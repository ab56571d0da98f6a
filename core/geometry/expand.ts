/** Copies followed down to what is placed: serves the view, the exports and estimates. */
import { NodeError, formatCount } from '../math/index.ts';
import { allocate, scratch, pollAt } from './allocate.ts';
import type { Geometry } from './geometry.ts';
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

/** Copies in which places lie, each in one row. */
export interface Level {
	/** What has these copies. */
	readonly geometry: Geometry;
	readonly rows: Uint32Array;
}

/** What copies have of a name, with the row for each place: of copies in copies the innermost that have it; null where none does. */
export function ofCopies({ levels }: Placed, name: string): { column: Column; level: Level } | null {
	const level = levels.findLast(({ geometry }) => geometry.copies!.copies.columns.has(name));
	return level ? { column: level.geometry.copies!.copies.columns.get(name)!, level } : null;
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
			count: slot.levels[0].rows.length,
			origins: slot.levels[0].rows,
			levels: slot.levels
		});
	return placed;
}

/** The places of one geometry within the same copies. */
interface Slot {
	leaf: Geometry;
	matrices: Float32Array;
	levels: Level[];
	filled: number;
}

const slotFor = (leaf: Geometry, within: readonly Geometry[], count: number): Slot => ({
	leaf,
	matrices: allocate('float', 16 * count),
	levels: within.map((geometry) => ({ geometry, rows: allocate('index', count) })),
	filled: 0
});

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
	const slots = [...counts].map(([leaf, count]) => slotFor(leaf, [geometry], count));
	for (const slot of slots)
		for (let i = 0; i < copies.count; i++) {
			pollAt(i);
			if (sources[source[i]] === slot.leaf && (!shown || shown[i])) slot.levels[0].rows[slot.filled++] = i;
		}
	const places = new Places(copies);
	for (const { matrices, levels } of slots) places.matrices(levels[0].rows, matrices);
	return slots;
}

/** Copies on the way down to others, and what lies in them. */
interface Within {
	readonly geometry: Geometry;
	readonly outer: Within | null;
	/** The row at which the walk is. */
	row: number;
	readonly inner: Map<Geometry, Within>;
	readonly counts: Map<Geometry, number>;
	readonly slots: Map<Geometry, Slot>;
}
const withinOf = (geometry: Geometry, outer: Within | null): Within => ({
	geometry,
	outer,
	row: 0,
	inner: new Map(),
	counts: new Map(),
	slots: new Map()
});

function deepPlaces(geometry: Geometry): Slot[] {
	const root = withinOf(geometry, null);
	walk(root, identity(), 0, (leaf, { counts }) => counts.set(leaf, (counts.get(leaf) ?? 0) + 1));
	const slots: Slot[] = [];
	const slotIn = (leaf: Geometry, within: Within): Slot => {
		let slot = within.slots.get(leaf);
		if (slot) return slot;
		const chain: Geometry[] = [];
		for (let at: Within | null = within; at; at = at.outer) chain.unshift(at.geometry);
		slots.push((slot = slotFor(leaf, chain, within.counts.get(leaf)!)));
		within.slots.set(leaf, slot);
		return slot;
	};
	walk(root, identity(), 0, (leaf, within, m) => {
		const slot = slotIn(leaf, within);
		for (let c = 0; c < 4; c++)
			for (let k = 0; k < 3; k++) slot.matrices[16 * slot.filled + 4 * c + k] = m[3 * c + k];
		slot.matrices[16 * slot.filled + 15] = 1;
		let at: Within | null = within;
		for (let depth = slot.levels.length - 1; at; at = at.outer)
			slot.levels[depth--].rows[slot.filled] = at.row;
		slot.filled++;
	});
	return slots;
}

const bare = new WeakMap<Geometry, Geometry>();
function bareOf(geometry: Geometry): Geometry {
	let found = bare.get(geometry);
	if (!found) bare.set(geometry, (found = { ...geometry, copies: null }));
	return found;
}

function walk(
	within: Within,
	outer: Affine,
	depth: number,
	visit: (leaf: Geometry, within: Within, m: Affine) => void
): void {
	const { copies, sources } = within.geometry.copies!;
	if (depth > DEEPEST)
		throw new NodeError(
			`Copies lie within copies more than ${DEEPEST} deep. Make the inner ones one mesh with “Copies to mesh”.`
		);
	const source = copies.columns.get('source')!.data;
	const shown = copies.columns.get('shown')?.data;
	const places = new Places(copies);
	const own = identity();
	const hasOwn = new Map(sources.map((leaf) => [leaf, hasOwnElements(leaf)]));
	for (let i = 0; i < copies.count; i++) {
		pollAt(i);
		const leaf = sources[source[i]];
		if (!leaf || (shown && !shown[i])) continue;
		const m = product(outer, places.affine(i, own));
		within.row = i;
		if (hasOwn.get(leaf)) visit(leaf, within, m);
		if (!leaf.copies) continue;
		let inner = within.inner.get(leaf);
		if (!inner) within.inner.set(leaf, (inner = withinOf(leaf, within)));
		walk(inner, m, depth + 1, visit);
	}
}
