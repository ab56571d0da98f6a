/** What nodes that read noise have in common. */
import type { Varying } from '../../varying/index.ts';
import { element, operate, vector as vectorOf } from '../../varying/index.ts';
import { number, vector } from '../define.ts';

export const noiseInputs = {
	size: vector({
		label: 'Size',
		help: 'How wide a hill is along each axis.',
		default: [1, 1, 1],
		unit: 'm',
		min: 0.0001,
		uniform: true
	}),
	octaves: number({
		label: 'Octaves',
		help: 'Layers of ever finer detail.',
		default: 3,
		min: 1,
		max: 12,
		whole: true
	}),
	gain: number({
		label: 'Gain',
		help: 'How strong each layer is beside the one before.',
		default: 0.5,
		min: 0,
		max: 1,
		step: 0.01
	}),
	offset: vector({
		label: 'Offset',
		help: 'Moves the noise through space.',
		default: [0, 0, 0],
		unit: 'm'
	}),
	seed: number({ label: 'Seed', help: 'Another seed, other hills.', default: 0, whole: true, min: 0 })
} as const;

/** Where the noise is read for a place in space: hills of a size, moved by an offset. */
export const placeInNoise = (
	size: readonly number[],
	offset: readonly number[] | Varying,
	place: Varying = element('position')
): Varying =>
	operate('divide', [
		operate('subtract', [place, 'op' in offset ? offset : vectorOf(offset[0], offset[1], offset[2])]),
		vectorOf(size[0], size[1], size[2])
	]);
