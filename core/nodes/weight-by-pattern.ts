import { PI } from '../math/index.ts';
import type { Varying } from '../varying/index.ts';
import { attribute, constant, element, operate, part } from '../varying/index.ts';
import { choice, defineNode, number } from './define.ts';
import { clamped, weightOutput } from './weight-tools.ts';

export const weightByPattern = defineNode({
	id: 'weight-by-pattern',
	version: 1,
	name: 'Weight by pattern',
	family: 'weights',
	words: ['checks', 'checkerboard', 'stripes', 'dots', 'tiles', 'texture', 'mask'],
	help: 'Checks, stripes or dots that repeat across a plane, or across the UVs.',
	inputs: {
		pattern: choice({
			label: 'Pattern',
			help: 'What repeats.',
			default: 'checks',
			options: [
				{ id: 'checks', label: 'Checks' },
				{ id: 'stripes', label: 'Stripes' },
				{ id: 'dots', label: 'Dots' }
			]
		}),
		across: choice({
			label: 'Across',
			help: 'The plane in which it lies.',
			default: 'xz',
			options: [
				{ id: 'xz', label: 'The ground (x, z)' },
				{ id: 'xy', label: 'The front (x, y)' },
				{ id: 'zy', label: 'The side (z, y)' },
				{ id: 'uv', label: 'UVs' }
			]
		}),
		width: number({
			label: 'Width',
			help: 'One repeat across.',
			default: 1,
			min: 0.0001,
			slider: [0.01, 5],
			unit: 'm'
		}),
		height: number({
			label: 'Height',
			help: 'One repeat the other way.',
			default: 1,
			min: 0.0001,
			slider: [0.01, 5],
			unit: 'm',
			when: (s) => s.pattern !== 'stripes'
		}),
		fill: number({
			label: 'Fill',
			help: 'How much of a repeat weighs 1.',
			default: 0.5,
			min: 0,
			max: 1,
			step: 0.01,
			when: (s) => s.pattern !== 'checks'
		}),
		soft: number({
			label: 'Soft edge',
			help: 'How gradually it goes from 0 to 1, as a share of a repeat.',
			default: 0,
			min: 0,
			max: 1,
			step: 0.01
		})
	},
	outputs: { weight: weightOutput },
	run({ pattern, across, width, height, fill, soft }) {
		const [u, v] =
			across === 'uv'
				? [part(attribute('uv'), 0), part(attribute('uv'), 1)]
				: [...across].map((axis) => part(element('position'), 'xyz'.indexOf(axis)));
		const a = operate('divide', [u, constant(width)]),
			b = operate('divide', [v, constant(height)]);
		// How far inside the figure, in repeats: positive inside.
		let inside: Varying;
		if (pattern === 'stripes') inside = operate('subtract', [constant(fill / 2), fromMiddle(a)]);
		else if (pattern === 'dots')
			inside = operate('subtract', [
				constant(fill / 2),
				operate('sqrt', [operate('add', [square(fromMiddle(a)), square(fromMiddle(b))])])
			]);
		else inside = operate('divide', [operate('multiply', [wave(a), wave(b)]), constant(PI)]);
		return {
			weight:
				soft > 0
					? clamped(operate('add', [operate('divide', [inside, constant(soft)]), constant(0.5)]))
					: operate('less', [constant(0), inside])
		};
	}
});

/** The distance of a place to the middle of its repeat, in repeats. */
const fromMiddle = (x: Varying): Varying =>
	operate('abs', [operate('subtract', [operate('fract', [x]), constant(0.5)])]);
const square = (x: Varying): Varying => operate('multiply', [x, x]);
const wave = (x: Varying): Varying => operate('sin', [operate('multiply', [x, constant(2 * PI)])]);
