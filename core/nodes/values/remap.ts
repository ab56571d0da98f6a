import { operate } from '../../varying/index.ts';
import { choice, defineNode, number, output, value } from '../define.ts';

export const remap = defineNode({
	id: 'remap',
	version: 1,
	name: 'Remap',
	family: 'values',
	words: ['map range', 'fit', 'rescale', 'normalise', 'scale values', 'linear'],
	help: 'Takes values of one range to another: what was at “From low” becomes “To low”, and so on in between.',
	inputs: {
		value: value({ label: 'Value', help: 'What is remapped.', default: 0.5, varies: 'point' }),
		fromLow: number({ label: 'From low', help: 'This becomes “To low”.', default: 0, varies: 'point' }),
		fromHigh: number({ label: 'From high', help: 'This becomes “To high”.', default: 1, varies: 'point' }),
		toLow: number({ label: 'To low', help: 'What “From low” becomes.', default: 0, varies: 'point' }),
		toHigh: number({ label: 'To high', help: 'What “From high” becomes.', default: 1, varies: 'point' }),
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
