import { choice, number } from '../define.ts';

/** The settings of a primitive whose edges may be cut or rounded. */
export const edgeInputs = {
	edge: choice({
		label: 'Edge',
		help: 'Sharp, cut off, or rounded.',
		default: 'sharp',
		group: 'Edge',
		options: [
			{ id: 'sharp', label: 'Sharp' },
			{ id: 'chamfered', label: 'Chamfered' },
			{ id: 'rounded', label: 'Rounded' }
		]
	}),
	bevel: number({
		label: 'Bevel',
		help: 'How much of the edge is taken; never more than there is room for.',
		default: 0.05,
		min: 0,
		slider: [0, 1],
		unit: 'm',
		when: (s) => s.edge !== 'sharp'
	}),
	bevelSegments: number({
		label: 'Bevel segments',
		help: 'Faces round the edge.',
		default: 4,
		min: 2,
		max: 64,
		slider: [2, 16],
		whole: true,
		when: (s) => s.edge === 'rounded'
	})
};

/** The pieces of an edge, by the choice. */
export const piecesOf = (edge: string, segments: number): number => (edge === 'rounded' ? segments : 1);
