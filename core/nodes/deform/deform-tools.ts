/** What nodes that move points have in common. */
import { quaternion } from '../../math/index.ts';
import type { Bounds, Geometry, Kind, Part, Table } from '../../geometry/index.ts';
import {
	allocate,
	boundsOf,
	column,
	floats,
	pollAt,
	tableOf,
	withColumns,
	withPositions,
	withTable,
	scratch,
	poll
} from '../../geometry/index.ts';
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

/** What has positions, in order: points of every part, and copies. */
const MOVABLE = [
	['mesh', 'point'],
	['curves', 'point'],
	['points', 'point'],
	['copies', 'copy']
] as const;

/** Points and copies of every part moved by weight. `finish` may change the part once more after its points moved. */
export function movePoints(
	geometry: Geometry,
	given: Given,
	context: Context,
	move: (moving: Moving) => void,
	finish: (out: Geometry, moving: Moving) => Geometry = (out) => out
): Geometry {
	let out = geometry;
	for (const [part, kind] of MOVABLE) {
		const table = tableOf(geometry, part, kind);
		if (!table?.count) continue;
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
export const deform = (geometry: Geometry, given: Given, context: Context, map: SpaceMap): Geometry =>
	movePoints(
		geometry,
		given,
		context,
		({ p, weights, moved }) => {
			inBlocks(map, p, weights, moved);
			keepStill(p, weights, moved);
		},
		(out, { where: { part, kind }, table, p, weights, moved }) =>
			table.columns.has('orientation')
				? withTable(out, part, kind, turned(tableOf(out, part, kind)!, p, weights, moved, map))
				: out
	);

/** A map over all points, some thousands at a time, so that it can be stopped between. */
function inBlocks(map: SpaceMap, p: Float32Array, weights: Float32Array, out: Float32Array): void {
	const block = 16_384;
	for (let i = 0; i < weights.length; i += block) {
		poll();
		const end = Math.min(weights.length, i + block);
		map(p.subarray(3 * i, 3 * end), weights.subarray(i, end), out.subarray(3 * i, 3 * end));
	}
}

/** Points without weight are exactly where they were, to the bit. */
function keepStill(p: Float32Array, weights: Float32Array, moved: Float32Array): void {
	for (let i = 0; i < weights.length; i++) {
		pollAt(i);
		if (weights[i] === 0) for (let k = 3 * i; k < 3 * i + 3; k++) moved[k] = p[k];
	}
}

/** Orientations turned as the map turns a small frame at each place. */
function turned(
	table: Table,
	p: Float32Array,
	weights: Float32Array,
	moved: Float32Array,
	map: SpaceMap
): Table {
	const q = floats(table, 'orientation');
	const step = 1e-3;
	const ends = [1, 2].map((axis) => {
		const way = scratch('float', p.length);
		for (let i = 0; i < table.count; i++) {
			pollAt(i);
			quaternion.rotate(
				way,
				3 * i,
				q[4 * i],
				q[4 * i + 1],
				q[4 * i + 2],
				q[4 * i + 3],
				0,
				axis === 1 ? 1 : 0,
				axis === 2 ? 1 : 0
			);
		}
		for (let k = 0; k < way.length; k++) {
			pollAt(k);
			way[k] = p[k] + step * way[k];
		}
		const out = scratch('float', p.length);
		inBlocks(map, way, weights, out);
		return out;
	});
	const orientation = allocate('float', q.length);
	for (let i = 0; i < table.count; i++) {
		pollAt(i);
		if (weights[i] === 0) {
			for (let k = 4 * i; k < 4 * i + 4; k++) orientation[k] = q[k];
			continue;
		}
		const o = 3 * i;
		const [up, forward] = ends.map((end) => [
			end[o] - moved[o],
			end[o + 1] - moved[o + 1],
			end[o + 2] - moved[o + 2]
		]);
		quaternion.lookAlong(orientation, 4 * i, up[0], up[1], up[2], forward[0], forward[1], forward[2]);
	}
	return withColumns(table, { orientation: column('vec4', 'orientation', orientation) });
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
		help: 'Where it begins, as a share of the object’s extent along the axis.',
		default: 0,
		slider: [0, 1],
		step: 0.01
	}),
	to: number({
		label: 'To',
		help: 'Where it ends, as a share of the object’s extent.',
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
