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
	withNothing: 'It waits for a body; a new one hands through what it gets.',
	example: {
		settings: { height: 1.4 },
		body: [
			['input', 'height', { name: 'height', carries: 'number', default: 1, unit: 'm' }],
			['box', 'post', { size: [0.15, { formula: 'height.value', streams: [] }, 0.15] }],
			['box', 'cap', { size: [0.3, 0.08, 0.3] }],
			[
				'transform',
				'onTop',
				{ move: [0, { formula: 'height.value / 2', streams: [] }, 0] },
				{ geometry: 'cap.mesh' }
			],
			['merge', 'both', {}, { geometry: ['post.mesh', 'onTop.geometry'] }],
			['output', 'whole', { name: 'whole', carries: 'geometry' }, { value: 'both.geometry' }]
		]
	},
	body: true,
	ownPorts: true
});
