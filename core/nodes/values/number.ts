import { inWholes } from '../../varying/index.ts';
import { defineNode, number, output, yesNo } from '../define.ts';

export const numberNode = defineNode({
	id: 'number',
	version: 1,
	name: 'Number',
	family: 'values',
	words: ['value', 'constant', 'integer', 'float', 'slider', 'parameter'],
	help: 'One number that several settings may share. Drag it on the node itself; its own low, high and step bound the dragging.',
	inputs: {
		value: number({
			label: 'Value',
			help: 'The number. It may be random or a formula: it then differs from element to element where it is used.',
			default: 1,
			varies: 'point'
		}),
		low: number({ label: 'Low', help: 'The lower end of dragging.', default: 0, group: 'Range' }),
		high: number({ label: 'High', help: 'The upper end of dragging.', default: 10 }),
		step: number({ label: 'Step', help: 'Dragging goes in steps of this size.', default: 0.1, min: 0.0001 }),
		whole: yesNo({
			label: 'Whole numbers only',
			help: 'Rounds to the nearest whole number; of a random range each comes equally often.',
			default: false
		})
	},
	outputs: { value: output('number', 'Value', 'The number.') },
	run: ({ value, whole }) => ({ value: whole ? inWholes(value) : value })
});
