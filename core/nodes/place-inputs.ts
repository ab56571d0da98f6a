/** Where something imported stands: inputs, and what they do. */
import type { Geometry } from '../geometry/index.ts';
import { matrix, transformGeometry } from '../geometry/index.ts';
import { vector } from './define.ts';

export const placeInputs = {
	move: vector({ label: 'Move', help: 'Where its origin comes to lie.', default: [0, 0, 0], unit: 'm' }),
	rotation: vector({
		label: 'Rotation',
		help: 'About its origin, along the world’s axes x, then y, then z.',
		default: [0, 0, 0],
		unit: '°',
		step: 1
	})
};

/** The settings that handles in the View write. */
export const placeHandles = { move: 'move', rotate: 'rotation' } as const;

/** Turned about the origin, then moved; the same geometry where neither is wanted. */
export const standing = (
	geometry: Geometry,
	{ move, rotation }: { move: readonly number[]; rotation: readonly number[] }
): Geometry =>
	[...move, ...rotation].every((x) => x === 0)
		? geometry
		: transformGeometry(geometry, matrix.affineFrom(move, rotation, [1, 1, 1]));
