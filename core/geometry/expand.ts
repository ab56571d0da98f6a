/** Copies followed down to what is placed: serves the view, the exports and estimates. */
import { NodeError, formatCount } from '../math/index.ts';
import { allocate } from './allocate.ts';
import type { Geometry } from './geometry.ts';
import { affineOfCopy, identity, product } from './matrix.ts';
import type { Affine } from './matrix.ts';

/** A geometry without its copies, and every place where it stands: 12 numbers each (see matrix.ts). */
export interface Placed {
	geometry: Geometry;
	/** Null: once, where it is. */
	transforms: Float32Array | null;
	count: number;
	/** Row of the outermost copy for each place; null for what is not copied. */
	origins: Uint32Array | null;
}

/** How deep copies may lie within copies. */
const DEEPEST = 16;

/** How many placings `expand` would make. */
export function countPlacings(geometry: Geometry, depth = 0): number {
	let count = geometry.mesh || geometry.curves || geometry.points ? 1 : 0;
	if (!geometry.copies || depth > DEEPEST) return count;
	const { copies, sources } = geometry.copies;
	const each = sources.map((source) => countPlacings(source, depth + 1));
	const source = copies.columns.get('source')!.data;
	for (let i = 0; i < copies.count; i++) count += each[source[i]] ?? 0;
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
	if (geometry.mesh || geometry.curves || geometry.points)
		placed.push({ geometry: { ...geometry, copies: null }, transforms: null, count: 1, origins: null });
	if (!geometry.copies?.copies.count) return placed;
	const counts = new Map<Geometry, number>();
	const instances = geometry.copies;
	walk(geometry, identity(), 0, 0, (leaf) => counts.set(leaf, (counts.get(leaf) ?? 0) + 1));
	const slots = new Map<
		Geometry,
		Placed & { transforms: Float32Array; origins: Uint32Array; filled: number }
	>();
	for (const [leaf, count] of counts) {
		const bare = leaf.copies ? bareOf(leaf) : leaf;
		slots.set(leaf, {
			geometry: bare,
			transforms: allocate('float', 12 * count),
			origins: allocate('index', count),
			count,
			filled: 0
		});
	}
	// One level with the usual columns is a million copies' case: written straight, without a walk's calls.
	const flat = instances.sources.every((source) => !source.copies);
	const shown = instances.copies.columns.get('shown')?.data;
	const source = instances.copies.columns.get('source')!.data;
	if (flat) {
		const m = identity();
		const bySource = instances.sources.map((leaf) => slots.get(leaf));
		for (let i = 0; i < instances.copies.count; i++) {
			const slot = bySource[source[i]];
			if (!slot || (shown && !shown[i])) continue;
			affineOfCopy(instances, i, m);
			slot.transforms.set(m, 12 * slot.filled);
			slot.origins[slot.filled++] = i;
		}
	} else
		walk(geometry, identity(), 0, 0, (leaf, m, origin) => {
			const slot = slots.get(leaf)!;
			slot.transforms.set(m, 12 * slot.filled);
			slot.origins[slot.filled++] = origin;
		});
	for (const { geometry: leaf, transforms, count, origins } of slots.values())
		placed.push({ geometry: leaf, transforms, count, origins });
	return placed;
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
	const own = identity();
	for (let i = 0; i < copies.count; i++) {
		const leaf = sources[source[i]];
		if (!leaf || (shown && !shown[i])) continue;
		const m = product(outer, affineOfCopy(geometry.copies!, i, own));
		const from = depth === 0 ? i : origin;
		if (leaf.mesh || leaf.curves || leaf.points) visit(leaf, m, from);
		if (leaf.copies) walk(leaf, m, depth + 1, from, visit);
	}
}
