import { choice, defineNode, number, text } from '../define.ts';

const carries = choice({
	label: 'Carries',
	help: 'What flows there.',
	default: 'geometry',
	options: [
		{ id: 'geometry', label: 'Geometry' },
		{ id: 'number', label: 'Numbers' },
		{ id: 'vector', label: 'Vectors' },
		{ id: 'yesno', label: 'Yes or no' },
		{ id: 'colour', label: 'Colours' },
		{ id: 'list', label: 'A list' },
		{ id: 'ramp', label: 'A ramp' }
	]
});

export const bodyInput = defineNode({
	id: 'input',
	version: 1,
	name: 'Input',
	family: 'repeat',
	words: ['port', 'parameter', 'argument'],
	help: 'An input of the subgraph in which it stands: gives what arrives there.',
	inputs: {
		name: text({ label: 'Name', help: 'The name of the input.', default: 'geometry' }),
		carries,
		default: number({
			label: 'Default',
			help: 'The number that stands there where nothing is connected.',
			default: 0,
			when: (s) => s.carries === 'number'
		})
	},
	outputs: {},
	body: true,
	ownPorts: true,
	hidden: true
});

export const bodyOutput = defineNode({
	id: 'output',
	version: 1,
	name: 'Output',
	family: 'repeat',
	words: ['port', 'return'],
	help: 'An output of the subgraph in which it stands: what is connected here leaves it.',
	inputs: {
		name: text({ label: 'Name', help: 'The name of the output.', default: 'geometry' }),
		carries
	},
	outputs: {},
	body: true,
	ownPorts: true,
	hidden: true
});
