import { TAU, cos, sin } from '../../math/index.ts';
import { defineNode, number, output } from '../define.ts';
import { facingInput, flatCurve, range } from './curve-tools.ts';

export const star = defineNode({
	id: 'star',
	version: 1,
	name: 'Star',
	family: 'curves',
	words: ['spikes', 'gear', 'asterisk', 'spline', 'path'],
	help: 'A closed star about the origin: points on two circles in turn.',
	inputs: {
		tips: number({ label: 'Tips', help: 'How many.', default: 5, min: 2, slider: [3, 24], whole: true }),
		outer: number({
			label: 'Outer radius',
			help: 'From the middle to the tips.',
			default: 1,
			min: 0,
			slider: [0, 10],
			unit: 'm'
		}),
		inner: number({
			label: 'Inner radius',
			help: 'From the middle to the dents.',
			default: 0.4,
			min: 0,
			slider: [0, 10],
			unit: 'm'
		}),
		facing: facingInput
	},
	outputs: { curve: output('geometry', 'Curve', 'The star.') },
	estimate: ({ tips }) => ({ elements: 2 * tips, of: 'points', lower: 'Lower “Tips”.' }),
	run: ({ tips, outer, inner, facing }) => ({
		curve: flatCurve(
			range(2 * tips).map((i) => {
				const r = i % 2 ? inner : outer;
				return [-r * sin((TAU * i) / (2 * tips)), r * cos((TAU * i) / (2 * tips))];
			}),
			facing,
			true
		)
	})
});
