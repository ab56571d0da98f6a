/** What nodes that move points have in common. */
import type { Bounds, Geometry, Kind, Part, Table } from '../../geometry/index.ts';
import {
	PlacesChanged,
	allocate,
	boundsOf,
	column,
	copyOf,
	floats,
	tableOf,
	withColumns,
	withPositions,
	withTable,
	placedIn
} from '../../geometry/index.ts';
import { mapOrientations, mapPoints, stepIn } from '../../kernels/deform.ts';
import type { SpaceMap, Stretch } from '../../kernels/deform-maps.ts';
import type { Context, Where } from '../define.ts';
import { choice, number } from '../define.ts';
import { weightsOn } from '../weights/weight-tools.ts';

/** A geometry with the positions of one part replaced, and normals that were stored dropped: they no longer fit. */
export function withMoved(geometry: Geometry, part: Part, kind: Kind, moved: Float32Array): Geometry {
	const table = tableOf(geometry, part, kind)!;
	let out = withTable(geometry, part, kind, withPositions(table, moved));
	if (part === 'mesh') {
		const mesh = out.mesh!;
		const drop = (t: Table): Table => (t.columns.has('normal') ? withColumns(t, { normal: null }) : t);
		out = { ...out, mesh: { ...mesh, points: drop(mesh.points), corners: drop(mesh.corners) } };
	}
	return out;
}

export type Given = Parameters<typeof weightsOn>[1];

/** The points or copies of one part that are to be moved. */
export interface Moving {
	where: Where;
	table: Table;
	/** How much of the effect each gets. */
	weights: Float32Array;
	/** Where they are, three numbers each, and where they shall be: to be written. */
	p: Float32Array;
	moved: Float32Array;
}

/** Points and copies of every part moved by weight. `finish` may change the part once more after its points moved. */
export function movePoints(
	geometry: Geometry,
	given: Given,
	context: Context,
	move: (moving: Moving) => void,
	finish: (out: Geometry, moving: Moving) => Geometry = (out) => out
): Geometry {
	let out = geometry;
	for (const { part, kind, table } of placedIn(geometry)) {
		if (!table.count) continue;
		const where = { geometry, part, kind };
		const p = floats(table, 'position');
		const weights = weightsOn(context, given, where);
		const moving: Moving = { where, table, weights, p, moved: allocate('float', p.length) };
		move(moving);
		out = finish(withMoved(out, part, kind, moving.moved), moving);
	}
	return out;
}

/** Every part through a map of space. Copies, and points that have an orientation, are turned along with it. */
export function deform(geometry: Geometry, given: Given, context: Context, map: SpaceMap): Geometry {
	const step = stepIn(boundsOf(geometry));
	return movePoints(
		geometry,
		given,
		context,
		({ p, weights, moved }) => mapPoints(map, p, weights, moved),
		(out, { where: { part, kind }, table, p, weights }) => {
			const now = tableOf(out, part, kind)!;
			if (!table.columns.has('orientation')) return out;
			const changed = part === 'copies' ? turnedCopies : turnedPoints;
			return withTable(
				out,
				part,
				kind,
				changed(now, (q, turned) => mapOrientations(map, p, weights, q, step, turned))
			);
		}
	);
}

type Turn = (orientations: Float32Array, turned: (i: number, q: readonly number[]) => void) => void;

function turnedPoints(points: Table, turn: Turn): Table {
	const before = floats(points, 'orientation');
	const orientation = copyOf(before);
	turn(before, (i, q) => {
		for (let k = 0; k < 4; k++) orientation[4 * i + k] = q[k];
	});
	return withColumns(points, { orientation: column('vec4', 'orientation', orientation) });
}

function turnedCopies(copies: Table, turn: Turn): Table {
	const places = new PlacesChanged(copies);
	turn(floats(copies, 'orientation'), (i, q) => places.turnTo(i, q));
	return withColumns(copies, places.columns());
}

/** The settings that say along which axis a map acts, and over which stretch of the object. */
export const stretchInputs = {
	axis: choice({
		label: 'Along',
		help: 'The axis along which it acts.',
		default: 'y',
		options: [
			{ id: 'x', label: 'x' },
			{ id: 'y', label: 'y' },
			{ id: 'z', label: 'z' }
		]
	}),
	from: number({
		label: 'From',
		help: 'Where it begins, as a fraction of the object’s extent along the axis.',
		default: 0,
		slider: [0, 1],
		step: 0.01
	}),
	to: number({
		label: 'To',
		help: 'Where it ends, as a fraction of the object’s extent.',
		default: 1,
		slider: [0, 1],
		step: 0.01
	})
} as const;

/** The stretch in metres, about the middle of the object; null where there is nothing. */
export function stretchOf(
	geometry: Geometry,
	given: { axis: string; from: number; to: number }
): Stretch | null {
	const box: Bounds | null = boundsOf(geometry);
	if (!box) return null;
	const axis = 'xyz'.indexOf(given.axis);
	const low = box.low[axis],
		size = box.high[axis] - low;
	return {
		axis,
		from: low + size * Math.min(given.from, given.to),
		to: low + size * Math.max(given.from, given.to),
		centre: [0, 1, 2].map((k) => (box.low[k] + box.high[k]) / 2) as [number, number, number]
	};
}
