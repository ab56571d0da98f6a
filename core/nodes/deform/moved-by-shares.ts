/** A geometry of which each point and copy gets its shares of a move. */
import type { Geometry } from '../../geometry/index.ts';
import { floats, tableOf, withTable } from '../../geometry/index.ts';
import type { Move, Shares } from '../../kernels/move-by-weight.ts';
import { copiesMovedByWeight, pointsMovedByWeight } from '../../kernels/move-by-weight.ts';
import type { Where } from '../define.ts';
import { withMoved } from './deform-tools.ts';

const POINTED = ['mesh', 'curves', 'points'] as const;

/** @param sharesOn gives the shares of the elements of a part, as the geometry arrives. */
export function movedByShares(geometry: Geometry, how: Move, sharesOn: (where: Where) => Shares): Geometry {
	let out = geometry;
	const copies = tableOf(geometry, 'copies', 'copy');
	if (copies?.count) {
		const shares = sharesOn({ geometry, part: 'copies', kind: 'copy' });
		out = withTable(out, 'copies', 'copy', copiesMovedByWeight(copies, shares, how));
	}
	for (const part of POINTED) {
		const table = tableOf(geometry, part, 'point');
		if (!table?.count) continue;
		const placed = pointsMovedByWeight(table, sharesOn({ geometry, part, kind: 'point' }), how);
		out = withTable(out, part, 'point', placed);
		out = withMoved(out, part, 'point', floats(placed, 'position'));
	}
	return out;
}
