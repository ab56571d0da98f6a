import { constant, operate, rampOf, throughRamp } from '../../varying/index.ts';
import { choice, defineNode, number, output, ramp, value } from '../define.ts';

export const remap = defineNode({
	id: 'remap',
	version: 1,
	name: 'Remap',
	family: 'values',
	words: ['map range', 'rescale', 'normalise', 'scale values', 'linear', 'value through a ramp'],
	help: 'Takes values of one range to another: what was at “In low” becomes “Out low”, and so on in between, evenly or as a ramp says.',
	inputs: {
		value: value({ label: 'Value', help: 'What is remapped.', default: 0.5, varies: 'point' }),
		fromLow: number({ label: 'In low', help: 'This becomes “Out low”.', default: 0, varies: 'point' }),
		fromHigh: number({ label: 'In high', help: 'This becomes “Out high”.', default: 1, varies: 'point' }),
		toLow: number({ label: 'Out low', help: 'What “In low” becomes.', default: 0, varies: 'point' }),
		toHigh: number({ label: 'Out high', help: 'What “In high” becomes.', default: 1, varies: 'point' }),
		between: choice({
			label: 'In between',
			help: 'How it goes from one end to the other.',
			default: 'evenly',
			options: [
				{ id: 'evenly', label: 'Evenly' },
				{ id: 'ramp', label: 'Through a ramp' }
			]
		}),
		ramp: ramp({
			label: 'Ramp',
			help: 'From “In low” at its left to “In high” at its right: 0 gives “Out low”, 1 gives “Out high”.',
			default: rampOf('linear', [0, 0], [1, 1]),
			when: (s) => s.between === 'ramp'
		}),
		beyond: choice({
			label: 'Beyond',
			help: 'What becomes of values outside the range.',
			default: 'ends',
			options: [
				{ id: 'ends', label: 'The nearer end' },
				{ id: 'on', label: 'It goes on' }
			],
			when: (s) => s.between !== 'ramp'
		})
	},
	outputs: { value: output('value', 'Value', 'The remapped value.') },
	run({ value, fromLow, fromHigh, toLow, toHigh, between, ramp, beyond }) {
		if (between === 'ramp') {
			const part = operate('remap', [value, fromLow, fromHigh, constant(0), constant(1)]);
			const height = throughRamp(operate('clamp', [part, constant(0), constant(1)]), ramp);
			return {
				value: operate('add', [toLow, operate('multiply', [height, operate('subtract', [toHigh, toLow])])])
			};
		}
		const mapped = operate('remap', [value, fromLow, fromHigh, toLow, toHigh]);
		if (beyond === 'on') return { value: mapped };
		return {
			value: operate('clamp', [mapped, operate('min', [toLow, toHigh]), operate('max', [toLow, toHigh])])
		};
	}
});
