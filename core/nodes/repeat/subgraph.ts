import { defineNode, text, yesNo } from '../define.ts';

/** What every node with a body has. */
export const body = text({ label: 'Body', help: 'The graph that is used, by its id.', default: '' });

export const subgraph = defineNode({
	id: 'subgraph',
	version: 1,
	name: 'Subgraph',
	family: 'repeat',
	words: ['group', 'nested', 'reuse', 'body', 'component'],
	help: 'A graph of its own, used as one node. Its inputs and outputs are those that stand inside. It may be used many times; a change inside changes all of them.',
	inputs: {
		body,
		same: yesNo({
			label: 'The same in all uses',
			help: 'Whether all uses draw the same random numbers. Otherwise each use has its own.',
			default: false
		})
	},
	outputs: {},
	withNothing: 'A new one is empty: open it, and build inside.',
	body: true,
	ownPorts: true
});
