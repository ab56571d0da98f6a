import { constant, operate, rampOf, throughRamp } from '../../varying/index.ts';
import { defineNode, number, ramp, value, yesNo } from '../define.ts';
import { clamped, oneMinus, weightOutput } from './weight-tools.ts';

export const shapeWeight = defineNode({
	id: 'shape-weight',
	version: 1,
	name: 'Shape weight',
	family: 'weights',
	words: ['ramp', 'invert', 'contrast', 'levels', 'falloff', 'mask'],
	help: 'Reshapes a weight: through a ramp, then with more or less contrast, then turned round.',
	inputs: {
		weight: value({ label: 'Weight', help: 'The weight to reshape.', default: 1, varies: 'point' }),
		ramp: ramp({
			label: 'Ramp',
			help: 'What becomes of each weight. Edit it in the drawer, or wire one in.',
			default: rampOf('linear', [0, 0], [1, 1])
		}),
		contrast: number({
			label: 'Contrast',
			help: '1 leaves it; more pushes weights apart from the middle, less draws them to it.',
			default: 1,
			min: 0,
			slider: [0, 5],
			step: 0.01,
			unit: '×'
		}),
		middle: number({
			label: 'Middle',
			help: 'The weight that contrast leaves where it is.',
			default: 0.5,
			min: 0,
			max: 1,
			step: 0.01
		}),
		invert: yesNo({ label: 'Invert', help: 'High becomes low.', default: false })
	},
	outputs: { weight: weightOutput },
	run({ weight, ramp, contrast, middle, invert }) {
		let out = throughRamp(weight, ramp);
		if (contrast !== 1)
			out = operate('add', [
				operate('multiply', [operate('subtract', [out, constant(middle)]), constant(contrast)]),
				constant(middle)
			]);
		out = clamped(out);
		return { weight: invert ? oneMinus(out) : out };
	}
});
