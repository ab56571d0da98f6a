/** How copies stand on points: the settings that all nodes share which place copies, and what comes of them. */
import { NodeError, plural, quaternion } from '../../math/index.ts';
import type { Column, Geometry, Table } from '../../geometry/index.ts';
import { column, idsOf, makeTable, placedIn } from '../../geometry/index.ts';
import { countDoubles, placesOf } from '../../kernels/place-copies.ts';
import type { Context, Estimate, ResolvedInputs } from '../define.ts';
import { choice, vector, yesNo } from '../define.ts';

const AXES = [
	{ id: 'x', label: '+x' },
	{ id: 'y', label: '+y' },
	{ id: 'z', label: '+z' },
	{ id: '-x', label: '−x' },
	{ id: '-y', label: '−y' },
	{ id: '-z', label: '−z' }
];

/** The unit vector of an axis by its id. */
function axisVector(id: string): [number, number, number] {
	const sign = id.startsWith('-') ? -1 : 1;
	return [id.endsWith('x') ? sign : 0, id.endsWith('y') ? sign : 0, id.endsWith('z') ? sign : 0];
}

export const placingInputs = {
	rotation: vector({
		label: 'Rotation',
		help: 'Turns each copy about its own axes x, y, z.',
		default: [0, 0, 0],
		unit: '°',
		step: 1,
		varies: 'copy',
		group: 'Each copy'
	}),
	scale: vector({
		label: 'Scale',
		help: 'Makes each copy larger or smaller.',
		default: [1, 1, 1],
		unit: '×',
		step: 0.01,
		varies: 'copy',
		uniform: true
	}),
	offset: vector({
		label: 'Offset',
		help: 'Moves each copy along its own axes.',
		default: [0, 0, 0],
		unit: 'm',
		varies: 'copy'
	}),
	follow: yesNo({
		label: 'Follow points',
		help: 'Copies take the points’ orientation; otherwise all stand straight.',
		default: true
	}),
	up: choice({
		label: 'Source’s up',
		help: 'Which axis of the source becomes up.',
		default: 'y',
		options: AXES,
		group: 'Source'
	}),
	forward: choice({
		label: 'Source’s forward',
		help: 'Which axis of the source becomes forward.',
		default: 'z',
		options: AXES
	})
} as const;

/** What it makes to place them. */
export const placingEstimate = (geometry: Geometry): Estimate => ({
	elements: placedIn(geometry).reduce((sum, { table }) => sum + table.count, 0),
	of: 'copies',
	lower: 'Use fewer points.'
});

/**
 * The table of copies on loose points, with the attributes of the points.
 * @param which the source that each copy shows.
 */
export function placedCopies(
	on: Geometry,
	which: Int32Array,
	{ rotation, scale, offset, follow, up, forward }: ResolvedInputs<typeof placingInputs>,
	context: Context
): Table {
	const table = on.points!.points;
	const where = { geometry: on, part: 'points' as const, kind: 'point' as const };
	const { position, orientation } = placesOf(table.columns.get('position')!.data, {
		turns: follow ? (table.columns.get('orientation')?.data ?? null) : null,
		angles: context.vectors(rotation, where),
		offsets: context.vectors(offset, where),
		basis: basisOf(up, forward)
	});
	const columns: Record<string, Column> = Object.fromEntries(
		[...table.columns].filter(
			([name]) => !['position', 'orientation', 'scale', 'source', 'shown'].includes(name)
		)
	);
	columns.position = column('vec3', 'position', position);
	columns.orientation = column('vec4', 'orientation', orientation);
	columns.scale = column('vec3', 'plain', context.vectors(scale, where));
	columns.source = column('int', 'id', which);
	const doubles = countDoubles(position);
	if (doubles) context.warn(`${plural(doubles, 'copy lies', 'copies lie')} exactly on another.`);
	return makeTable(table.count, columns, idsOf(table));
}

/** The rotation that brings the source's own up and forward to y and z. */
function basisOf(up: string, forward: string): number[] {
	if (up.replace('-', '') === forward.replace('-', ''))
		throw new NodeError('The source’s up and forward lie on one axis. Choose another axis for one of them.', {
			input: 'forward'
		});
	const q = [0, 0, 0, 1];
	quaternion.lookAlong(q, 0, ...axisVector(up), ...axisVector(forward));
	return [-q[0], -q[1], -q[2], q[3]];
}
