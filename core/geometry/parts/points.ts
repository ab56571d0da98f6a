/** Loose points. */
import type { Points } from '../geometry.ts';
import { makePoints } from '../geometry.ts';
import { includePoints } from '../reach.ts';
import { stackTables } from '../stack.ts';
import { gatherTable } from '../table.ts';
import { placeTable } from '../place.ts';
import { tile } from '../tile.ts';
import type { PartKind } from './part.ts';

export const pointsPart: PartKind<Points> = {
	called: 'points',
	tables: {
		point: {
			name: 'points',
			read: ({ points }) => points,
			write: (_, points) => ({ points }),
			keep: ({ points }, rows) => ({ points: gatherTable(points, rows) })
		}
	},
	placed: 'point',
	each: 'point',
	shape: () => null,
	arrays: () => [],
	include: includePoints,
	merge: (_, tables) => ({ points: stackTables(tables('point')) }),
	transform: ({ points }, m) => ({ points: placeTable(points, m) }),
	tile: ({ points }, places) => ({ points: tile(points, places, true) }),
	counts: ({ points }) => ({ points: points.count }),
	empty: () => makePoints(new Float32Array(0))
};
