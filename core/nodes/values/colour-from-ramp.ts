import { throughRamp } from '../../varying/index.ts';
import { defineNode, output, ramp, value } from '../define.ts';

export const colourFromRamp = defineNode({
	id: 'colour-from-ramp',
	version: 1,
	name: 'Colour from ramp',
	family: 'values',
	words: ['gradient', 'palette', 'map to colour', 'tint'],
	help: 'A colour for each number from 0 to 1, for Write attribute or Material.',
	renamed: [{ before: 4, id: 'colour-ramp' }],
	inputs: {
		value: value({
			label: 'Value',
			help: 'A number from 0 to 1, such as a weight.',
			default: 0.5,
			varies: 'point'
		}),
		ramp: ramp({
			label: 'Ramp',
			help: 'Colours at stops from 0 to 1.',
			colours: true,
			default: {
				stops: [
					{ at: 0, value: 0, colour: [0.78, 0.65, 0.42], easing: 'linear' },
					{ at: 1, value: 1, colour: [0.02, 0.2, 0.17], easing: 'linear' }
				]
			}
		})
	},
	outputs: { colour: output('colour', 'Colour', 'The colour at the value.') },
	run: ({ value, ramp }) => ({ colour: throughRamp(value, ramp, true) })
});
