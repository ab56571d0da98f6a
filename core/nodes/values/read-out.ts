import { defineNode, value } from '../define.ts';

export const readOut = defineNode({
	id: 'read-out',
	version: 1,
	name: 'Read-out',
	family: 'values',
	words: ['show values', 'inspect', 'print', 'list values', 'debug'],
	help: 'Shows the values on a wire in the graph itself: how many, from where to where, how they are spread, and the first and the last of them. It changes nothing.',
	example: { wires: { value: 'steps' } },
	inputs: {
		value: value({
			label: 'Value',
			help: 'A number, a vector, a list or words: whatever flows on the wire.',
			default: 0,
			varies: 'point',
			words: true
		})
	},
	outputs: {},
	run: () => ({})
});
