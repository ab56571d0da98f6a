/**
 * Points sown in proportion to a weight that is read where each point falls: candidates are sown fairly by area, and each
 * is kept as often as its weight says, by a number of its own. So the earlier points stay when there are more candidates, and a
 * weight of position holds on one large face as on a million small ones.
 */
import { Growing, gatherTable, stackTables } from '../geometry/index.ts';
import type { Mesh, Table } from '../geometry/index.ts';
import { mix } from '../math/index.ts';
import type { SownTableOptions } from './sown-table.ts';
import { sownTable } from './sown-table.ts';

export interface ThinOptions extends Omit<SownTableOptions, 'from' | 'weights'> {
	/** Most points that are kept; `count` is how many candidates are sown. */
	most: number;
	/** Two words that decide for each candidate, beside its id. */
	chance: readonly [number, number];
	/** The weight of each candidate, 0 to 1; outside, the nearer end. */
	weigh(candidates: Table): ArrayLike<number>;
}

/** Candidates sown at once. On a mesh of more triangles as many as twice those, as its tables may be written anew each time. */
const AT_ONCE = 1 << 18;

/** @returns the points kept, in the order of their numbers, and the largest weight that was met. */
export function sowThinned(
	mesh: Mesh,
	{ most, chance, weigh, count, ...options }: ThinOptions
): { table: Table; largest: number } {
	const atOnce = Math.max(AT_ONCE, 2 * mesh.faces.count);
	const kept: Table[] = [];
	let sum = 0,
		largest = 0;
	for (let from = 0; (from < count || !kept.length) && (sum < most || !kept.length); from += atOnce) {
		const candidates = sownTable(mesh, {
			...options,
			weights: null,
			from,
			count: Math.min(atOnce, count - from)
		});
		const weights = weigh(candidates);
		const rows = new Growing('index');
		for (let i = 0; i < candidates.count && sum + rows.length < most; i++) {
			if (weights[i] > largest) largest = weights[i];
			if (drawn(candidates.ids!, i, chance) < weights[i]) rows.push(i);
		}
		kept.push(gatherTable(candidates, rows.view()));
		sum += rows.length;
	}
	return { table: joined(kept), largest };
}

/** A number of its own for each candidate, from 0 up to 1. */
const drawn = (ids: Uint32Array, i: number, [first, second]: readonly [number, number]): number =>
	(mix(mix(mix(first, ids[2 * i]), ids[2 * i + 1]), second) >>> 0) / 4294967296;

function joined(tables: readonly Table[]): Table {
	if (tables.length === 1) return tables[0];
	return stackTables(tables.map((table) => ({ table, salt: null })));
}
