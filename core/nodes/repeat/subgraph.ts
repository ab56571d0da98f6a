import { defineNode, text } from '../define.ts';

export const subgraph = defineNode({
	id: 'subgraph',
	version: 1,
	name: 'Subgraph',
	family: 'repeat',
	words: ['group', 'nested', 'reuse', 'body', 'macro'],
	help: 'A graph of its own, used as one node. Its inputs and outputs are those that stand inside.',
	inputs: {
		body: text({ label: 'Body', help: 'The graph that is used, by its id.', default: '' })
	},
	outputs: {},
	body: true,
	ownPorts: true,
	hidden: true
});
