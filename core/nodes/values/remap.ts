import { operate } from '../../varying/index.ts';
import { choice, defineNode, number, output, value } from '../define.ts';

export const remap = defineNode({
	id: 'remap',
	version: 1,
	name: 'Remap',
	family: 'values',
	words: ['map range', 'rescale', 'normalise', 'scale values', 'linear'],
	help: 'Takes values of one range to another: what was at “In low” becomes “Out low”, and so on in between.',
	inputs: {
		value: value({ label: 'Value', help: 'What is remapped.', default: 0.5, varies: 'point' }),
		fromLow: number({ label: 'In low', help: 'This becomes “Out low”.', default: 0, varies: 'point' }),
		fromHigh: number({ label: 'In high', help: 'This becomes “Out high”.', default: 1, varies: 'point' }),
		toLow: number({ label: 'Out low', help: 'What “In low” becomes.', default: 0, varies: 'point' }),
		toHigh: number({ label: 'Out high', help: 'What “In high” becomes.', default: 1, varies: 'point' }),
		beyond: choice({
			label: 'Beyond',
			help: 'What becomes of values outside the range.',
			default: 'ends',
			options: [
				{ id: 'ends', label: 'The nearer end' },
				{ id: 'on', label: 'It goes on' }
			]
		})
	},
	outputs: { value: output('value', 'Value', 'The remapped value.') },
	run({ value, fromLow, fromHigh, toLow, toHigh, beyond }) {
		const mapped = operate('remap', [value, fromLow, fromHigh, toLow, toHigh]);
		if (beyond === 'on') return { value: mapped };
		return {
			value: operate('clamp', [mapped, operate('min', [toLow, toHigh]), operate('max', [toLow, toHigh])])
		};
	}
});
