/** Copies followed down to what is placed: serves the view, the exports and estimates. */
import { NodeError, formatCount } from '../math/index.ts';
import { allocate, scratch, pollAt } from './allocate.ts';
import type { Geometry, Instances } from './geometry.ts';
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
		placed.push({ geometry: { ...geometry, copies: null }, matrices: null, count: 1, origins: null });
	if (!geometry.copies?.copies.count) return placed;
	// One level is a million copies' case: counted and written straight, without a walk's calls.
	const flat = geometry.copies.sources.every((source) => !source.copies);
	const slots = flat ? flatPlaces(geometry.copies) : deepPlaces(geometry);
	for (const [leaf, slot] of slots)
		placed.push({
			geometry: leaf.copies ? bareOf(leaf) : leaf,
			matrices: slot.matrices,
			count: slot.origins.length,
			origins: slot.origins
		});
	return placed;
}

interface Slot {
	matrices: Float32Array;
	origins: Uint32Array;
	filled: number;
}

function slotsFor(counts: ReadonlyMap<Geometry, number>): Map<Geometry, Slot> {
	const slots = new Map<Geometry, Slot>();
	for (const [leaf, count] of counts)
		slots.set(leaf, {
			matrices: allocate('float', 16 * count),
			origins: allocate('index', count),
			filled: 0
		});
	return slots;
}

function flatPlaces(instances: Instances): Map<Geometry, Slot> {
	const { copies, sources } = instances;
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
	const slots = slotsFor(counts);
	for (const [leaf, slot] of slots)
		for (let i = 0; i < copies.count; i++) {
			pollAt(i);
			if (sources[source[i]] === leaf && (!shown || shown[i])) slot.origins[slot.filled++] = i;
		}
	const places = new Places(copies);
	for (const { matrices, origins } of slots.values()) places.matrices(origins, matrices);
	return slots;
}

function deepPlaces(geometry: Geometry): Map<Geometry, Slot> {
	const counts = new Map<Geometry, number>();
	walk(geometry, identity(), 0, 0, (leaf) => counts.set(leaf, (counts.get(leaf) ?? 0) + 1));
	const slots = slotsFor(counts);
	walk(geometry, identity(), 0, 0, (leaf, m, origin) => {
		const slot = slots.get(leaf)!;
		for (let c = 0; c < 4; c++)
			for (let k = 0; k < 3; k++) slot.matrices[16 * slot.filled + 4 * c + k] = m[3 * c + k];
		slot.matrices[16 * slot.filled + 15] = 1;
		slot.origins[slot.filled++] = origin;
	});
	return slots;
}

/** The map of one place, as 12 numbers (see matrix.ts). */
export function affineAt(matrices: Float32Array, place: number, out = identity()): Affine {
	for (let c = 0; c < 4; c++) for (let k = 0; k < 3; k++) out[3 * c + k] = matrices[16 * place + 4 * c + k];
	return out;
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
	depth: number,
	origin: number,
	visit: (leaf: Geometry, m: Affine, origin: number) => void
): void {
	const { copies, sources } = geometry.copies!;
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
		const from = depth === 0 ? i : origin;
		if (hasOwn.get(leaf)) visit(leaf, m, from);
		if (leaf.copies) walk(leaf, m, depth + 1, from, visit);
	}
}
