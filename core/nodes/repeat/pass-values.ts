import { defineNode, number, output } from '../define.ts';

export const passValues = defineNode({
	id: 'pass-values',
	version: 1,
	name: 'Pass values',
	family: 'repeat',
	words: ['pass', 'progress', 'iteration', 'counter', 'loop index'],
	withNothing: 'It waits for a repeat around it.',
	help: 'Which pass of a repeat it is, as values to be wired: formulas know them by name.',
	inputs: {
		outer: number({
			label: 'Further out',
			help: 'Of which repeat: 0 is the one in which this node stands, 1 the next further out.',
			default: 0,
			min: 0,
			whole: true
		})
	},
	outputs: {
		pass: output('whole', 'Pass', 'Which time round it is, from 0.'),
		passes: output('whole', 'Passes', 'How many there will be.'),
		progress: output('number', 'Progress', '(pass + 1) ÷ passes: above 0, and 1 in the last.')
	},
	body: true,
	inBodies: true
});
