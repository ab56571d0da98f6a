import { TAU, cos, sin } from '../../math/index.ts';
import { defineNode, number, output } from '../define.ts';
import { facingInput, flatCurve, range } from './curve-tools.ts';

export const polygon = defineNode({
	id: 'polygon',
	version: 1,
	name: 'Polygon',
	family: 'curves',
	words: ['hexagon', 'triangle', 'pentagon', 'octagon', 'n-gon', 'regular', 'spline', 'path'],
	help: 'A closed regular polygon about the origin.',
	inputs: {
		sides: number({ label: 'Sides', help: 'How many.', default: 6, min: 3, slider: [3, 24], whole: true }),
		radius: number({
			label: 'Radius',
			help: 'From the middle to the corners.',
			default: 1,
			min: 0,
			slider: [0, 10],
			unit: 'm'
		}),
		facing: facingInput
	},
	outputs: { curve: output('geometry', 'Curve', 'The polygon.') },
	estimate: ({ sides }) => ({ elements: sides, of: 'points', lower: 'Lower “Sides”.' }),
	run: ({ sides, radius, facing }) => ({
		curve: flatCurve(
			range(sides).map((i) => [radius * sin((TAU * i) / sides) * -1, radius * cos((TAU * i) / sides)]),
			facing,
			true
		)
	})
});
