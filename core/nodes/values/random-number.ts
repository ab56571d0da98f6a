import { NodeError } from '../../math/index.ts';
import { random } from '../../varying/index.ts';
import { defineNode, number, output, yesNo } from '../define.ts';

export const randomNumber = defineNode({
	id: 'random-number',
	version: 1,
	name: 'Random number',
	family: 'values',
	words: ['random', 'randomize', 'variation', 'vary', 'seed', 'white noise'],
	help: 'A number drawn for each element where it is used. Settings that are wired to the same Random number get the same numbers: that is how to share one draw.',
	renamed: [{ before: 2, id: 'random-value' }],
	inputs: {
		low: number({ label: 'Low', help: 'The lowest number.', default: 0, varies: 'point' }),
		high: number({ label: 'High', help: 'The highest number.', default: 1, varies: 'point' }),
		whole: yesNo({
			label: 'Whole numbers only',
			help: 'Each whole number from low to high comes equally often.',
			default: false
		}),
		seed: number({ label: 'Seed', help: 'Another seed, other numbers.', default: 0, whole: true, min: 0 })
	},
	outputs: { value: output('number', 'Value', 'A number for each element.') },
	seeded: true,
	run({ low, high, whole, seed }, context) {
		if (low.type === 'vector' || high.type === 'vector')
			throw new NodeError('“Low” and “High” are numbers; a vector came.');
		return { value: random(low, high, context.stream(`draw ${seed}`), whole) };
	}
});
